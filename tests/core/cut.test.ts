import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { Cutter } from '../../src/core/json/cut.js';
import { parseJson } from '../../src/core/json/parse.js';
import { formatPointer, parsePlace } from '../../src/core/json/pointer.js';
import { selectPlace } from '../../src/core/json/select.js';
import { placeOf } from '../../src/core/json/source.js';
import { writeJson } from '../../src/core/json/write.js';
import { key, jsonText } from '../arbitraries.js';
import { bytes } from '../support.js';

/** What a cutter finds when a document comes in chunks of some size: pointer, value, place. */
function cut(text: string, place: string, size: number): string[] {
  const cutter = new Cutter('a.json', parsePlace(place)!);
  const all = bytes(text);
  const found: string[] = [];
  const take = (pieces: ReturnType<Cutter['push']>) => {
    for (const { source, selected, tokens } of pieces) {
      const { root } = parseJson(source);
      const { line, column } = placeOf(source, 0);
      if (selected) found.push(`${formatPointer(tokens)} ${writeJson(root)} ${line}:${column}`);
    }
  };
  for (let i = 0; i < all.length; i += size) take(cutter.push(all.slice(i, i + size)));
  take(cutter.end());
  return found;
}

/** The same by reading the document whole. */
function select(text: string, place: string): string[] {
  const source = { name: 'a.json', bytes: bytes(text), firstLine: 1 };
  return selectPlace(parseJson(source).root, parsePlace(place)!, source).map(({ value, tokens }) => {
    const { line, column } = placeOf(source, value.start);
    return `${formatPointer(tokens)} ${writeJson(value)} ${line}:${column}`;
  });
}

describe('values cut out of a document that comes in chunks', () => {
  const page =
    '\ufeff {"pages" : 3,\n "results":[ {"id":1,"pier":"Ø\\"]"} , 2.50,"x",\n[],null ],"next":{"a":[true]}}\n';

  test.each(['/results/*', '/results/0', '/results/1', '/pages', '/next/a/*', '/*'])(
    'at %s are those of the whole document, whatever the chunks',
    (place) => {
      for (const size of [1, 2, 3, 7, 1000]) expect(cut(page, place, size)).toEqual(select(page, place));
    },
  );

  test('of random documents too', () => {
    const document = fc
      .uniqueArray(fc.tuple(key, jsonText), { maxLength: 4, selector: ([each]) => each })
      .map(
        (members) => `{${members.map(([name, value]) => `${JSON.stringify(name)}: ${value}`).join(' ,')}}`,
      );
    fc.assert(
      fc.property(
        document,
        fc.constantFrom('/*', '/pier', '/pier/*', '/legs/0'),
        fc.integer({ min: 1, max: 9 }),
        (text, place, size) => {
          let whole: string[] | undefined;
          try {
            whole = select(text, place);
          } catch (error) {
            expect(error).toBeInstanceOf(SkevoError);
          }
          if (whole === undefined) expect(() => cut(text, place, size)).toThrow(SkevoError);
          else expect(cut(text, place, size)).toEqual(whole);
        },
      ),
    );
  });

  test.each<[text: string, place: string, message: RegExp, line: number, column: number]>([
    ['{"results":[1,2', '/results/*', /ends too early/, 1, 16],
    ['{"results":[1,2]} x', '/results/*', /has ended, but more follows/, 1, 19],
    ['{"results":[1 2]}', '/results/*', /expected "," or "]"/, 1, 15],
    ['{"results":\n[1,tru]}', '/results/*', /expected "true"/, 2, 4],
    ['{"results":[1],"a":[1,]}', '/results/*', /./, 1, 23],
    ['{"results" [1]}', '/results/*', /expected ":"/, 1, 12],
    ['{results:[1]}', '/results/*', /expected a key/, 1, 2],
    [
      '{"result":[1],"page":1}',
      '/results/*',
      /no key "results" at the top; there is "result", "page"/,
      1,
      23,
    ],
    ['{"results":7}', '/results/*', /expects a list or an object at \/results, found a single value/, 1, 12],
    ['[{"id":1}]', '/results/*', /expects an object with the key "results" at the top, found a list/, 1, 1],
    ['{"results":[],"results":[1]}', '/results/*', /"results" comes twice/, 1, 25],
  ])('%s is refused at %s', (text, place, message, line, column) => {
    for (const size of [1, 5, 100]) {
      const refused = () => cut(text, place, size);
      expect(refused).toThrow(message);
      try {
        refused();
      } catch (error) {
        expect((error as SkevoError).place).toMatchObject({ file: 'a.json', line, column });
      }
    }
  });
});
