import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { SkevoError } from '../../src/core/error.js';
import { documentsIn } from '../../src/core/json/batch.js';
import { parseJson } from '../../src/core/json/parse.js';
import { parseSelector } from '../../src/core/json/pointer.js';
import { selectPlace } from '../../src/core/json/select.js';
import { placeOf, type Source } from '../../src/core/json/source.js';
import type { JsonValue } from '../../src/core/json/value.js';
import { writeJson } from '../../src/core/json/write.js';
import { xml } from '../../src/formats/xml/read.js';
import { bytes } from '../support.js';

const input = {
  name: 'a.xml',
  layout: 'document' as const,
  format: 'xml' as const,
  limit: 1 << 28,
};

async function sourcesOf(text: string, place?: string, size = 1 << 16, misses: string[] = []) {
  async function* chunks() {
    const all = bytes(text);
    for (let i = 0; i < all.length; i += size) yield all.slice(i, i + size);
  }
  const found: Source[] = [];
  const missed = (error: () => SkevoError) => misses.push(error().message);
  const selection = place === undefined ? undefined : { at: parseSelector(place)!, missed };
  for await (const batch of xml.read(input, chunks, () => {}, selection)) found.push(...documentsIn(batch));
  return found;
}

/** A payload, what leads to it, and where each of its parts stands in the file. */
function described(root: JsonValue, source: Source, tokens: readonly string[]) {
  const places: string[] = [];
  const waiting = [root];
  for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
    const { line, column } = placeOf(source, each.start);
    places.push(`${each.kind} ${line}:${column}`);
    if (each.kind === 'list') waiting.push(...each.items);
    if (each.kind === 'object')
      for (const { keyStart, value } of each.members) {
        const at = placeOf(source, keyStart);
        places.push(`key ${at.line}:${at.column}`);
        waiting.push(value);
      }
  }
  return { text: writeJson(root), tokens, places };
}

async function whole(text: string, place: string, misses: string[] = []) {
  const [source] = await sourcesOf(text);
  const { root } = parseJson(source!);
  return selectPlace(root, parseSelector(place)!, source!, (error) => misses.push(error().message)).map(
    ({ value, tokens }) => described(value, source!, tokens),
  );
}

async function streamed(text: string, place: string, size?: number, misses?: string[]) {
  const sources = await sourcesOf(text, place, size, misses);
  return sources.map((source) => described(parseJson(source).root, source, source.tokens!));
}

const name = fc.constantFrom('leg', 'berth', 'f:pier', 'no', 'Ø');
const space = fc.constantFrom('', '', ' ', '\n', '\r\n  ', '\t');
const { element } = fc.letrec<{ element: string }>((tie) => ({
  element: fc
    .tuple(
      name,
      fc.uniqueArray(fc.constantFrom('id', 'state', 'xsi:nil'), { maxLength: 2 }),
      fc.oneof(
        { depthSize: 'small' },
        fc.constantFrom('', ' ', 'N1', '12', 'a &amp; b', '<![CDATA[<b>]]>', 'øre 🌫'),
        fc
          .array(fc.tuple(space, fc.oneof(tie('element'), fc.constantFrom('Mind the gap', '<!-- no -->'))), {
            maxLength: 5,
          })
          .map((parts) => parts.flat().join('')),
      ),
      space,
    )
    .map(
      ([own, attributes, inside, after]) =>
        `<${own}${attributes.map((each) => `${after === '' ? ' ' : after}${each}="true"`).join('')}>${inside}</${own}>`,
    ),
}));
const document = fc
  .array(
    fc.tuple(
      space,
      fc.oneof(
        element,
        element.map((each) => `<fare>${each}</fare>`),
      ),
    ),
    { maxLength: 6 },
  )
  .map((parts) => `<?xml version="1.0"?>\n<fares xmlns:f="urn:f">${parts.flat().join('')}</fares>\n`);

describe('payloads of a document of XML, one at a time', () => {
  test('are what they are in the whole document, at the same places, in chunks of any size', async () => {
    let found = 0;
    await fc.assert(
      fc.asyncProperty(document, fc.integer({ min: 1, max: 50 }), async (text, size) => {
        for (const place of ['/fares/leg/*', '/fares/fare/*', '/fares/fare/*/f:pier/*']) {
          const expected = await whole(text, place);
          found += expected.length;
          expect(await streamed(text, place, size)).toEqual(expected);
        }
      }),
      { numRuns: 300 },
    );
    expect(found).toBeGreaterThan(100);
  });

  test('are found below elements that come again, with text around them', async () => {
    const text =
      '<fares>\n see <fare><leg>1</leg><no/><leg>2</leg></fare> or <fare><leg>3</leg></fare></fares>';
    const found = await streamed(text, '/fares/fare/*/leg/*', 3);
    expect(found.map((each) => [each.text, each.tokens.join('/'), each.places[0]])).toEqual([
      ['"1"', 'fares/fare/0/leg/0', 'string 2:12'],
      ['"2"', 'fares/fare/0/leg/1', 'string 2:29'],
      ['"3"', 'fares/fare/1/leg/0', 'string 2:58'],
    ]);
  });

  test('that are not there are missed as in the whole document', async () => {
    for (const [text, place] of [
      ['<fares><fare/></fares>', '/fares/fair/*'],
      ['<fares><fare><leg/></fare></fares>', '/fares/fare/*/legs/*'],
      ['<fares/>', '/fare/*'],
    ] as const) {
      const [own, others] = [[], []] as [string[], string[]];
      expect(await streamed(text, place, undefined, own)).toEqual([]);
      await whole(text, place, others);
      expect(own).toEqual(others);
      expect(own).toHaveLength(1);
    }
  });

  test('where one element was asked for, a second one is refused with its place', async () => {
    await expect(streamed('<a>\n<b><c/></b>\n  <b/></a>', '/a/b/c/*')).rejects.toMatchObject({
      message: '--at expects one element /a/b, and this is another',
      remedy: 'Every one of them is /a/b/*.',
      place: { file: 'a.xml', line: 3, column: 3 },
    });
  });

  test('elements of one name are one list, wherever they stand', async () => {
    const [source] = await sourcesOf('<a i="1"><b>1</b><c/><b>2</b><b>3</b><c x="y"/><d/></a>');
    const { root } = parseJson(source!);
    expect(writeJson(root)).toBe('{"a":{"@i":"1","b":["1","2","3"],"c":["",{"@x":"y"}],"d":""}}');
    expect(described(root, source!, []).places).toContain('string 1:30');
  });
});
