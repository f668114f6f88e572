import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeJson } from '../../src/core/json/write.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { alikeSet, payloadSet, runsOf } from '../arbitraries.js';
import { bytes, infer, payloadsOf } from '../payloads.js';

/** The schema of payloads as plain data, without what every schema begins with. */
function schemaOf(...texts: string[]): Record<string, unknown> {
  const {
    $schema: _dialect,
    title: _title,
    ...rest
  } = JSON.parse(writeJson(schemaToJson(infer(texts).schema)));
  return rest;
}

describe('the schema of', () => {
  test.each<[string, string[], unknown]>([
    ['a string', ['"a"'], { type: 'string' }],
    ['null, which may be anything', ['null'], {}],
    ['a list of strings', ['["a"]'], { type: 'array', items: { type: 'string' } }],
    ['lists that were always empty', ['[]', '[]'], { type: 'array' }],
    ['objects that never had a key', ['{}'], { type: 'object' }],
    ['a string or null', ['"a"', 'null'], { type: ['string', 'null'] }],
    [
      'mixed scalars',
      ['1', '"a"', 'true'],
      { anyOf: [{ type: 'string' }, { type: 'integer', format: 'int32' }, { type: 'boolean' }] },
    ],
    [
      'mixed scalars or null',
      ['1', '"a"', 'null'],
      { anyOf: [{ type: 'string' }, { type: 'integer', format: 'int32' }, { type: 'null' }] },
    ],
    ['32 bits', ['134217728'], { type: 'integer', format: 'int32' }],
    ['53 bits', ['1', '134217729'], { type: 'integer', format: 'double-int' }],
    ['64 bits', ['9007199254740993'], { type: 'integer', format: 'int64' }],
    ['more than 64 bits', ['18446744073709551616'], { type: 'integer', format: 'decimal' }],
    ['a decimal', ['1.5', '2'], { type: 'number' }],
    ['whole numbers with a fraction', ['1.0'], { type: 'number' }],
    [
      'a decimal with more digits than a double has',
      ['3.14159265358979323846'],
      { type: 'number', format: 'decimal' },
    ],
    [
      'a decimal beside an integer beyond 2^53',
      ['1.5', '9007199254740993'],
      { type: 'number', format: 'decimal' },
    ],
    [
      'the four states of a field',
      ['{"a":1,"b":1,"c":1,"d":1}', '{"a":2,"b":null,"d":null}', '{"a":2,"b":3}'],
      {
        type: 'object',
        properties: {
          a: { type: 'integer', format: 'int32' },
          b: { type: ['integer', 'null'], format: 'int32' },
          c: { type: 'integer', format: 'int32' },
          d: { type: ['integer', 'null'], format: 'int32' },
        },
        required: ['a', 'b'],
      },
    ],
    [
      'a record in a list',
      ['{"legs":[{"pier":"N"}]}'],
      {
        type: 'object',
        properties: { legs: { type: 'array', items: { $ref: '#/$defs/Leg' } } },
        required: ['legs'],
        $defs: { Leg: { type: 'object', properties: { pier: { type: 'string' } }, required: ['pier'] } },
      },
    ],
    [
      'a record or null',
      ['{"berth":{"no":1}}', '{"berth":null}'],
      {
        type: 'object',
        properties: { berth: { anyOf: [{ $ref: '#/$defs/Berth' }, { type: 'null' }] } },
        required: ['berth'],
        $defs: {
          Berth: {
            type: 'object',
            properties: { no: { type: 'integer', format: 'int32' } },
            required: ['no'],
          },
        },
      },
    ],
    [
      'a record, a list or a string at one place',
      ['{"a":{"b":1}}', '{"a":[1]}', '{"a":"x"}'],
      {
        type: 'object',
        properties: {
          a: {
            anyOf: [
              { $ref: '#/$defs/A' },
              { type: 'array', items: { type: 'integer', format: 'int32' } },
              { type: 'string' },
            ],
          },
        },
        required: ['a'],
        $defs: {
          A: { type: 'object', properties: { b: { type: 'integer', format: 'int32' } }, required: ['b'] },
        },
      },
    ],
  ])('%s', (_what, texts, expected) => expect(schemaOf(...texts)).toEqual(expected));
});

describe('records', () => {
  const defs = (...texts: string[]) => Object.keys((schemaOf(...texts)['$defs'] ?? {}) as object);

  test('of the same three keys are one type wherever they stand', () => {
    const pier = '{"name":"N","depth":2,"lit":true}';
    expect(defs(`{"from":${pier},"to":${pier}}`)).toEqual(['From']);
  });

  test('of two common keys are two types when they are called differently', () => {
    expect(defs('{"vessel":{"id":1,"name":"P"},"berth":{"id":2,"name":"N1"}}')).toEqual(['Berth', 'Vessel']);
  });

  test('of the same name and keys are one type', () => {
    expect(defs('{"out":{"price":{"a":1}},"back":{"price":{"a":2}}}')).toEqual(['Back', 'Out', 'Price']);
  });

  test('that want the same name take the name of the record around them', () => {
    expect(defs('{"out":{"gate":{"a":1}},"back":{"gate":{"b":2}}}')).toEqual([
      'Back',
      'BackGate',
      'Out',
      'OutGate',
    ]);
  });

  test('never take the name of the payload', () => {
    expect(defs('{"sailing":{"a":1}}')).toEqual(['SailingSailing']);
  });

  test('that contain themselves are one type', () => {
    const schema = schemaOf('{"berth":{"id":1,"parts":[{"id":2,"parts":[{"id":3,"parts":[]}]}]}}') as {
      $defs: Record<string, { properties: Record<string, unknown> }>;
    };
    expect(Object.keys(schema.$defs)).toEqual(['Berth']);
    expect(schema.$defs['Berth']!.properties['parts']).toEqual({
      type: 'array',
      items: { $ref: '#/$defs/Berth' },
    });
  });

  test('at the top of a list are called in the singular', () => {
    expect(
      Object.keys(JSON.parse(writeJson(schemaToJson(infer(['[{"a":1}]'], 'Sailings').schema))).$defs),
    ).toEqual(['Sailing']);
  });
});

describe('decisions', () => {
  test('come with counts and the first place', () => {
    const { decisions } = infer(['{"pier":"N"}', '{"pier":null}', '{}']);
    expect(
      decisions
        .filter(({ place }) => place === '/pier')
        .map(({ decision, because, first }) => [
          decision,
          because,
          first && `${first.file}:${first.line}:${first.column}`,
        ]),
    ).toEqual([
      ['optional', 'absent in 1 of 3', '0003.json:1:1'],
      ['nullable', 'null in 1 of 2', '0002.json:1:9'],
      ['string', 'text in 1 of 2', '0001.json:1:9'],
    ]);
  });

  test('there is one on every place', () => {
    fc.assert(
      fc.property(payloadSet, (texts) => {
        const { decisions, schema } = infer(texts);
        const places = new Set(decisions.map(({ place }) => place));
        expect(places.has('')).toBe(true);
        for (const key of schema.properties?.keys() ?? []) {
          expect(
            [...places].some((place) => place.startsWith('/')),
            `${key} in ${[...places].join()}`,
          ).toBe(true);
        }
      }),
    );
  });
});

describe('laws', () => {
  const expectMet = (texts: readonly string[]) => {
    const schema = writeJson(schemaToJson(infer(texts).schema));
    const validator = new SchemaValidator({ source: { name: 's.json', bytes: bytes(schema), firstLine: 1 } });
    for (const { root } of payloadsOf(texts)) expect(validator.failures(root), schema).toEqual([]);
  };

  test('every payload meets the schema inferred from it', () => {
    fc.assert(fc.property(payloadSet, expectMet), { numRuns: runsOf(200) });
  });

  test('so does every one whose parts look like each other', () => {
    fc.assert(fc.property(alikeSet, expectMet), { numRuns: runsOf(150) });
  });

  test('a list is not made one with its own elements', () => {
    const line = { sku: 'x', qty: 1, price: 2 };
    const order = (number: string, of: unknown) => ({ number, buyer: 'K1', total: 5, line: of });
    const text = JSON.stringify({ order: order('A1', [line]), quote: order('A2', line) });
    expectMet([text]);
  });

  test('words of which one place forgot some are no tag of the type that it shares', () => {
    const same = { name: 'Office', email: 'office@sf.example' };
    const from = { name: 'Quay Desk', email: 'quay@sf.example', user: 'q' };
    const to = { name: 'Bridge', email: 'bridge@sf.example', user: 'b' };
    const texts = [...Array.from({ length: 5 }, () => ({ from: same, to: same })), { from, to }].map((each) =>
      JSON.stringify(each),
    );
    expectMet(texts);
    expect(JSON.stringify(schemaOf(...texts))).not.toContain('"const"');
  });

  test('no decision depends on the order of payloads', () => {
    fc.assert(
      fc.property(payloadSet, (texts) => {
        // Keys are sorted away: only their order may follow the payloads.
        const sorted = (value: unknown): unknown =>
          typeof value !== 'object' || value === null
            ? value
            : Array.isArray(value)
              ? value.map(sorted)
              : Object.fromEntries(
                  Object.entries(value)
                    .sort(([a], [b]) => (a < b ? -1 : 1))
                    .map(([key, each]) => [
                      key,
                      key === 'required' && Array.isArray(each) ? [...each].sort() : sorted(each),
                    ]),
                );
        const schema = (each: string[]) => sorted(JSON.parse(writeJson(schemaToJson(infer(each).schema))));
        expect(schema([...texts].reverse())).toEqual(schema(texts));
      }),
    );
  });
});
