import { Ajv2020 } from 'ajv/dist/2020.js';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { inferSchema } from '../../src/core/infer/infer.js';
import { Observer } from '../../src/core/observe/observe.js';
import { documentsIn } from '../../src/core/json/batch.js';
import { SkevoError } from '../../src/core/error.js';
import { sameValue } from '../../src/core/json/same.js';
import { json, membersByKey, type JsonValue } from '../../src/core/json/value.js';
import { parseJson } from '../../src/core/json/parse.js';
import { writeJson } from '../../src/core/json/write.js';
import { knowFormats } from '../../src/core/schema/exact.js';
import { conform } from '../../src/core/schema/conform.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import type { Note } from '../../src/core/note.js';
import { formatOf, type FormatName } from '../../src/formats/format.js';
import { writeAs } from '../../src/formats/write-as.js';
import { key } from '../arbitraries.js';
import { bytes, observe } from '../support.js';

async function* chunksOf(text: string | Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  const all = typeof text === 'string' ? bytes(text) : text;
  for (let i = 0; i < all.length; i += size) yield all.slice(i, i + size);
}

/** The JSON texts that a text of a format is read as. */
export async function readAll(
  format: Exclude<FormatName, 'json'>,
  text: string | Uint8Array,
  notes: Note[] = [],
  size = 1 << 16,
): Promise<string[]> {
  const reader = await formatOf(format);
  const input = { name: `a.${format}`, layout: 'document' as const, format, limit: 1 << 28 };
  const found: string[] = [];
  for await (const batch of reader.read(
    input,
    () => chunksOf(text, size),
    (note) => notes.push(note),
  ))
    for (const { bytes: document } of documentsIn(batch)) found.push(new TextDecoder().decode(document));
  return found;
}

/** A value in which what only the other has is null. */
function withNulls(value: JsonValue, other: JsonValue): JsonValue {
  if (value.kind === 'list' && other.kind === 'list')
    return json.list(value.items.map((each, i) => withNulls(each, other.items[i]!)));
  if (value.kind !== 'object' || other.kind !== 'object') return value;
  const own = membersByKey(value);
  return json.object(
    [...membersByKey(other)].map(([name, { value: theirs }]) => {
      const mine = own.get(name)?.value;
      return [
        name,
        mine === undefined && theirs.kind === 'null' ? json.null() : mine && withNulls(mine, theirs),
      ];
    }),
  );
}

const parsed = (text: string) => parseJson({ name: 'a', bytes: bytes(text), firstLine: 1 }).root;

const text = fc
  .oneof(
    fc.constantFrom(
      '',
      ' ',
      'true',
      'null',
      '~',
      '12',
      '0012',
      '-',
      '- a',
      'a: b',
      '#',
      '"',
      "'",
      '\n',
      'a\nb\n',
      '<b>&amp;',
      ']]>',
      '1e5',
      '0x1F',
      '<<',
      '*a',
      '&a',
      '=1+1',
      'ø🌫',
      '\t',
      ' a ',
    ),
    fc.string({ unit: 'grapheme', maxLength: 8 }),
  )
  .filter((each) => !/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\ufffe\uffff\u2028\u2029\ufeff]/.test(each));
const number = fc.oneof(
  fc.constantFrom(
    '0',
    '-1',
    '12',
    '1.50',
    '9007199254740993',
    '12345678901234567890.5',
    '1e400',
    '-0.0',
    '1E5',
  ),
  fc.integer().map(String),
);
const scalar = fc.oneof(
  text.map(json.string),
  number.map(json.number),
  fc.boolean().map(json.boolean),
  fc.constant(json.null()),
);

describe('values written and read again are the same', () => {
  const { tree } = fc.letrec<{ tree: JsonValue }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small' },
      scalar,
      fc.array(tie('tree'), { maxLength: 3 }).map(json.list),
      fc
        .uniqueArray(fc.tuple(fc.oneof(key, text), tie('tree')), { maxLength: 4, selector: ([each]) => each })
        .map(json.object),
    ),
  }));

  test('in YAML, numbers to the last digit', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(tree, { minLength: 1, maxLength: 3 }), async (values) => {
        const texts = values.map((value) => writeJson(value));
        // No YAML holds half of a character.
        fc.pre(
          texts.every(
            (each) =>
              !/\\ud[89a-f]/.test(each) &&
              !/[\u0000-\u0008\u000b-\u001f\u007f-\u009f\ufffe\uffff\u2028\u2029\ufeff]|\\u00|\\[bf]/.test(
                each,
              ),
          ),
        );
        fc.pre(values.every(({ kind }) => kind !== 'null'));
        expect(await readAll('yaml', await writeAs('yaml', values))).toEqual(texts);
      }),
      { numRuns: 300 },
    );
  });

  // Halves of characters are no UTF-8.
  const isWhole = (each: string) => !/\\ud[89a-f]/.test(each);

  test('in CBOR, numbers to the last digit', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(tree, { minLength: 1, maxLength: 3 }), async (values) => {
        fc.pre(values.every((each) => isWhole(writeJson(each))));
        const again = await readAll('cbor', await writeAs('cbor', values));
        expect(again).toHaveLength(values.length);
        for (const [i, value] of values.entries())
          expect(sameValue(value, parsed(again[i]!)), again[i]).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  test('in MessagePack, but for numbers that it has not, which are refused', async () => {
    await fc.assert(
      fc.asyncProperty(tree, async (value) => {
        fc.pre(isWhole(writeJson(value)));
        const unheld = /"(?:[^"\\]|\\.)*"|(12345678901234567890\.5|1e400)/g;
        const hasUnheld = [...writeJson(value).matchAll(unheld)].some(([, found]) => found !== undefined);
        const written = writeAs('msgpack', [value]);
        if (hasUnheld) {
          await expect(written).rejects.toThrow(/MessagePack has no number with the digits of/);
          return;
        }
        const [again] = await readAll('msgpack', await written);
        expect(sameValue(value, parsed(again!)), again).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  test('in Avro, under what was inferred from them, what was absent as null', async () => {
    const field = fc.oneof(
      scalar,
      fc.array(fc.integer().map(json.number), { maxLength: 3 }).map(json.list),
      fc.array(fc.tuple(key, fc.boolean().map(json.boolean)), { maxLength: 3 }).map(json.object),
    );
    const records = fc
      .uniqueArray(key, { minLength: 1, maxLength: 4 })
      .chain((keys) =>
        fc.array(
          fc.tuple(
            ...keys.map((each) =>
              fc.option(field, { nil: undefined }).map((value) => [each, value] as const),
            ),
          ),
          {
            minLength: 1,
            maxLength: 5,
          },
        ),
      )
      .map((all) => all.map((entries) => json.object(entries)));
    let held = 0;
    await fc.assert(
      fc.asyncProperty(records, async (values) => {
        const texts = values.map((value) => writeJson(value));
        fc.pre(texts.every(isWhole));
        const { schema } = inferSchema(observe(texts), { name: 'Reading' });
        let written: string | Uint8Array;
        try {
          written = await writeAs('avro', values, { schema });
        } catch (error) {
          if (!(error instanceof SkevoError)) throw error;
          // Numbers of more digits, and what has no type.
          expect(error.message).toMatch(/^(?:\/|the payload)[^]*: .*(?:Avro|double|bits)/);
          return;
        }
        held++;
        const again = await readAll('avro', written);
        for (const [i, value] of values.entries()) {
          const back = parsed(again[i]!);
          const filled = withNulls(value, back);
          expect(sameValue(filled, back), `${texts[i]} ${again[i]}`).toBe(true);
        }
        expect(
          Buffer.from(await writeAs('avro', values, { schema })).equals(Buffer.from(written as Uint8Array)),
        ).toBe(true);
      }),
      { numRuns: 400 },
    );
    expect(held).toBeGreaterThan(100);
  });

  test.each(['csv', 'tsv'] as const)('in %s, in chunks of any size', async (format) => {
    const name = text.filter((each) => each.trim() !== '');
    const table = fc
      .tuple(fc.uniqueArray(name, { minLength: 2, maxLength: 4 }), fc.integer({ min: 1, max: 5 }))
      .chain(([names, rows]) =>
        fc.array(
          fc.tuple(
            ...names.map((each) => text.map((cell): [string, JsonValue] => [each, json.string(cell)])),
          ),
          { minLength: rows, maxLength: rows },
        ),
      );
    await fc.assert(
      fc.asyncProperty(table, fc.integer({ min: 1, max: 40 }), async (rows, size) => {
        const values = rows.map((cells) => json.object(cells));
        const texts = values.map((value) => writeJson(value));
        // What has one delimiter too few for it to be found is no table.
        expect(await readAll(format, await writeAs(format, values), [], size)).toEqual(texts);
      }),
      { numRuns: 200 },
    );
  });

  test('in XML, with what was inferred from them', async () => {
    const name = fc.constantFrom('pier', 'berth', 'f:leg', '@id', '@state', 'no', 'Ø', '#text');
    const { element } = fc.letrec<{ element: JsonValue }>((tie) => ({
      element: fc.oneof(
        { depthSize: 'small' },
        scalar.filter(({ kind }) => kind !== 'null'),
        fc
          .uniqueArray(
            fc.tuple(
              name,
              fc.oneof(
                tie('element'),
                fc.array(tie('element'), { minLength: 2, maxLength: 3 }).map(json.list),
              ),
            ),
            { minLength: 1, maxLength: 4, selector: ([each]) => each },
          )
          .map((members) =>
            // Text stands beside attributes alone, and an attribute holds one value.
            json.object(
              // Attributes come first.
              [...members]
                .sort(([a], [b]) => Number(b.startsWith('@')) - Number(a.startsWith('@')))
                .flatMap(([each, value]): [string, JsonValue][] => {
                  const isOne = value.kind !== 'object' && value.kind !== 'list';
                  if (each === '#text')
                    return members.some(([other]) => !/^[@#]/.test(other)) ||
                      !members.some(
                        ([other, own]) =>
                          other.startsWith('@') && own.kind !== 'object' && own.kind !== 'list',
                      ) ||
                      !isOne ||
                      writeJson(value) === '""'
                      ? []
                      : [[each, value]];
                  return each.startsWith('@') && !isOne ? [] : [[each, value]];
                }),
            ),
          ),
      ),
    }));
    await fc.assert(
      fc.asyncProperty(element, async (root) => {
        const value = json.object([['fares', root]]);
        const whole = writeJson(value);
        fc.pre(!/\{\}|\\ud[89a-f]|\\r/.test(whole));
        const { schema } = inferSchema(observe([whole]), { name: 'Fares' });
        const written = await writeAs('xml', [value]);
        const [again] = await readAll('xml', written);
        const typed = conform(parsed(again!), schema, schema);
        // Where texts and numbers are of one type, nothing tells them apart; the document is the same.
        expect(await writeAs('xml', [typed])).toBe(written);
        if (
          !/\{"type":"string".*\},\{"type":"(?:integer|number|boolean)|"type":"(?:integer|number|boolean).*\},\{"type":"string"/.test(
            writeJson(schemaToJson(schema)),
          )
        )
          expect(writeJson(typed)).toBe(whole);
      }),
      { numRuns: 400 },
    );
  });
});

describe('what is inferred from files without types', () => {
  const validator = (schema: object) => {
    const ajv = new Ajv2020({ strict: false, logger: false });
    knowFormats(ajv);
    return ajv.compile(schema);
  };
  async function inferred(format: 'csv' | 'xml', ...texts: string[]) {
    const observer = new Observer([], () => {});
    const reader = await formatOf(format);
    const read: string[] = [];
    for (const [i, each] of texts.entries()) {
      const input = {
        name: `${i}.${format}`,
        layout: 'document' as const,
        format,
        limit: 1 << 28,
      };
      for await (const batch of reader.read(
        input,
        () => chunksOf(each, 1 << 16),
        () => {},
      )) {
        observer.batch(batch);
        for (const { bytes: document } of documentsIn(batch)) read.push(new TextDecoder().decode(document));
      }
    }
    const { schema } = inferSchema(observer.observation, { name: 'Row' });
    const document = JSON.parse(writeJson(schemaToJson(schema))) as {
      properties: Record<string, object>;
      required?: string[];
    };
    const meets = validator(document);
    for (const each of read)
      expect(
        meets(JSON.parse(writeJson(conform(parsed(each), schema, schema)))),
        JSON.stringify(meets.errors),
      ).toBe(true);
    return document;
  }
  const column = async (...cells: string[]) =>
    (await inferred('csv', `a,b\n${cells.map((cell, i) => `${cell},x${i} y`).join('\n')}\n`)).properties['a'];

  test.each<[string, string[], object]>([
    ['whole numbers', ['1', '-20', '0'], { type: 'integer', format: 'int32' }],
    ['numbers', ['1', '2.50', '1e3'], { type: 'number' }],
    [
      'numbers with more digits than a double has',
      ['0.1234567890123456789', '1'],
      { type: 'number', format: 'decimal' },
    ],
    ['booleans', ['true', 'false'], { type: 'boolean' }],
    ['whole numbers or nothing', ['1', '', '3'], { type: ['integer', 'null'], format: 'int32' }],
    ['a zero before other digits', ['07', '12'], { type: 'string' }],
    ['a plus', ['+1', '2'], { type: 'string' }],
    ['one word among numbers', ['1', '2', 'n/a'], { type: 'string' }],
    ['numbers and booleans', ['1', 'true'], { type: 'string' }],
    ['negative zero', ['-0', '1'], { type: 'string' }],
    ['booleans in capitals', ['TRUE', 'FALSE'], { type: 'string' }],
    ['dates or nothing', ['2031-05-01', ''], { type: ['string', 'null'], format: 'date' }],
    ['texts or nothing', ['off the pier, twice', '', 'x'], { type: 'string' }],
    ['nothing', ['', ''], { type: 'string' }],
  ])('a column of %s', async (_, cells, expected) => {
    expect(await column(...cells.map((cell) => (cell.includes(',') ? `"${cell}"` : cell)))).toEqual(expected);
  });

  test('digits under the name of what is not counted stay texts', async () => {
    const { properties } = await inferred('csv', 'phone,postCode,seats\n5550101,1234,3\n5550102,4321,4\n');
    expect(properties).toMatchObject({
      phone: { type: 'string' },
      postCode: { type: 'string' },
      seats: { type: 'integer' },
    });
  });

  test('an element that some document repeats is a list in all', async () => {
    const { properties } = await inferred(
      'xml',
      '<r><leg>a b</leg></r>',
      '<r><leg>c d</leg><leg>e, f</leg></r>',
      '<r><leg/></r>',
    );
    expect(properties).toEqual({ r: { $ref: '#/$defs/R' } });
    const { $defs } = (await inferred(
      'xml',
      '<r><leg>1</leg></r>',
      '<r><leg>2</leg><leg>3</leg></r>',
      '<r/>',
    )) as unknown as { $defs: Record<string, object> };
    expect($defs['R']).toMatchObject({ properties: { leg: { type: 'array', items: { type: 'integer' } } } });
  });

  test('text beside elements that have attributes is a record like them', async () => {
    const { $defs } = (await inferred('xml', '<r><p>1.5</p></r>', '<r><p unit="m">2</p></r>')) as unknown as {
      $defs: Record<string, object>;
    };
    expect($defs['P']).toMatchObject({
      properties: { '#text': { type: 'number' }, '@unit': { type: 'string' } },
      required: ['#text'],
    });
  });

  test('whatever is in the cells and elements, what is read by the schema meets it', async () => {
    const cell = fc.oneof(
      text.filter((each) => !/["\n,]/.test(each)),
      number,
      fc.constantFrom('', '', 'true', 'false', '1', '2'),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 8 }), async (rows) => {
        await inferred('csv', `a,b\n${rows.map(([a, b]) => `"${a}","${b}"`).join('\n')}\n`);
      }),
      { numRuns: 150 },
    );
    const { element } = fc.letrec<{ element: string }>((tie) => ({
      element: fc.oneof(
        { depthSize: 'small' },
        fc.constantFrom('1', '2.5', 'true', '', 'a b', 'x <b>1</b> y'),
        fc
          .array(
            fc.tuple(
              fc.constantFrom('a', 'b', 'c'),
              fc.constantFrom('', ' id="1"', ' id="x y"', ' xsi:nil="true"'),
              tie('element'),
            ),
            { maxLength: 3 },
          )
          .map((children) =>
            children
              .map(
                ([name, attribute, inside]) =>
                  `<${name}${attribute}>${attribute.includes('nil') ? '' : inside}</${name}>`,
              )
              .join(''),
          ),
      ),
    }));
    await fc.assert(
      fc.asyncProperty(fc.array(element, { minLength: 1, maxLength: 4 }), async (documents) => {
        await inferred('xml', ...documents.map((each) => `<r>${each}</r>`));
      }),
      { numRuns: 300 },
    );
  });
});
