import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { Cutter } from '../../src/core/json/cut.js';
import { parseJson } from '../../src/core/json/parse.js';
import type { Note } from '../../src/core/note.js';
import { Misses } from '../../src/core/json/misses.js';
import { formatPointer, parsePlace, parseSelector } from '../../src/core/json/pointer.js';
import { selectPlace } from '../../src/core/json/select.js';
import { placeOf } from '../../src/core/json/source.js';
import { writeJson } from '../../src/core/json/write.js';
import { key, jsonText } from '../arbitraries.js';
import { bytes } from '../payloads.js';

/** What a cutter finds when a document comes in chunks of some size: pointer, value, place. */
function cut(text: string, place: string, size: number): string[] {
  const misses = new Misses();
  const cutter = new Cutter('a.json', parsePlace(place)!, misses.add);
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
  misses.close(found.length > 0, () => {});
  return found;
}

/** The same by reading the document whole. */
function select(text: string, place: string, notes: Note[] = []): string[] {
  const source = { name: 'a.json', bytes: bytes(text), firstLine: 1 };
  const misses = new Misses();
  const found = selectPlace(parseJson(source).root, parseSelector(place)!, source, misses.add);
  misses.close(found.length > 0, (note) => notes.push(note));
  return found.map(({ value, tokens }) => {
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

describe('values selected in a document', () => {
  const text = '{"a":{"leg":1,"b":[{"leg":{"leg":2}},{"x":3}]},"leg":[4],"~2~2":{"leg":5}}';

  test.each<[string, string[]]>([
    [
      '/**/leg',
      [
        '/a/leg 1 1:13',
        '/a/b/0/leg {"leg":2} 1:27',
        '/a/b/0/leg/leg 2 1:34',
        '/leg [4] 1:54',
        '/~02~02/leg 5 1:72',
      ],
    ],
    ['/a/**/leg', ['/a/leg 1 1:13', '/a/b/0/leg {"leg":2} 1:27', '/a/b/0/leg/leg 2 1:34']],
    ['/**/b/*/leg', ['/a/b/0/leg {"leg":2} 1:27']],
    ['/**/**/x', ['/a/b/1/x 3 1:43']],
    ['/**/leg/*', ['/a/b/0/leg/leg 2 1:34', '/leg/0 4 1:55']],
  ])('at any depth: %s', (place, expected) => {
    expect(select(text, place)).toEqual(expected);
  });

  test('what has no such place is passed over, and told once', () => {
    const notes: Note[] = [];
    expect(select('{"r":[{"leg":1},{"lag":2},3,{"leg":4}]}', '/r/*/leg', notes)).toEqual([
      '/r/0/leg 1 1:14',
      '/r/3/leg 4 1:36',
    ]);
    expect(notes).toEqual([
      {
        message: '--at finds no key "leg" at /r/*; there is "lag": passed over, as 1 more was',
        place: expect.objectContaining({ line: 1, column: 17 }) as unknown,
      },
    ]);
  });

  test('nothing at any depth is an error with the place', () => {
    expect(() => select(text, '/**/berth')).toThrow('--at finds nothing at /**/berth');
  });
});
