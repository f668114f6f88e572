import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import {
  acceptsNull,
  armsOf,
  isOpenChoice,
  jsonTypeOf,
  typesWithin,
  unionsWith,
  type Type,
  type TypeModel,
} from '../../src/core/model/types.js';
import { readSchema } from '../../src/core/schema/read.js';
import { bytes } from '../payloads.js';

function modelOf(schema: object): TypeModel {
  const source = { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 };
  return buildModel(readSchema(source), source);
}

/** A type in a few signs: `Leg`, `string`, `[integer]`, `{string}`, `(string, number)`, `string?` where null is one too. */
function told(type: Type): string {
  switch (type.kind) {
    case 'list':
      return `[${told(type.items)}]`;
    case 'tuple':
      return `(${type.items.map(told).join(', ')})`;
    case 'map':
      return `{${told(type.values)}}`;
    case 'nullable':
      return `${told(type.of)}?`;
    default:
      return 'name' in type ? type.name : type.kind;
  }
}

/** Unions and records, a line each: what tells alternatives apart behind them, `?` behind what may be absent, `~` behind what may be null. */
function linesOf({ unions, records }: TypeModel): string[] {
  return [
    ...unions.map(({ name, arms }) => {
      const parts = arms.map(({ type, test: by }) => {
        const sign =
          by.kind === 'tag'
            ? ` by ${by.key}=${by.values.join('/')}`
            : by.kind === 'key'
              ? ` by ${by.key}`
              : '';
        return `${told(type)}${sign}`;
      });
      return `${name} = ${parts.join(' | ')}`;
    }),
    ...records.map(({ name, fields }) => {
      const parts = fields.map(
        ({ key, type, required, nullable }) =>
          `${key}${required ? '' : '?'}: ${told(type)}${nullable ? '~' : ''}`,
      );
      return `${name} { ${parts.join(', ')} }`;
    }),
  ];
}

const text = { type: 'string' };
const whole = { type: 'integer' };
const nothing = { type: 'null' };
const record = (properties: object, required: readonly string[] = Object.keys(properties)) => ({
  type: 'object',
  properties,
  required,
});
const ref = (name: string) => ({ $ref: `#/$defs/${name}` });
const tagged = (word: string, more: object = {}) => record({ kind: { const: word }, ...more });

describe('a field of alternatives is', () => {
  /** The type of the field x, and all unions and records but the payload. */
  const field = (x: object, $defs: object = {}) => {
    const model = modelOf({ title: 'Sailing', ...record({ x }), $defs });
    const own = model.records.find(({ name }) => name === 'Sailing')!.fields[0]!;
    return [
      `${told(own.type)}${own.nullable ? '~' : ''}`,
      ...linesOf(model).filter((line) => !line.startsWith('Sailing {')),
    ];
  };

  test.each<[string, object, object, string[]]>([
    ['the one that there is', { anyOf: [text] }, {}, ['string']],
    ['null where there is nothing else', { anyOf: [nothing, nothing] }, {}, ['null~']],
    ['that which is not null', { oneOf: [nothing, text] }, {}, ['string~']],
    ['that which is null in itself', { anyOf: [{ anyOf: [text, nothing] }, text] }, {}, ['string~']],
    ['anything where one is', { anyOf: [text, {}] }, {}, ['anything']],
    ['one type where JSON has one', { anyOf: [text, { type: 'string', format: 'date' }] }, {}, ['string']],
    ['a number of any kind', { anyOf: [whole, { type: 'number' }] }, {}, ['number']],
    [
      'told by the types of JSON',
      { anyOf: [text, whole, { type: 'boolean' }] },
      {},
      ['TextOrLongOrFlag', 'TextOrLongOrFlag = string | integer | boolean'],
    ],
    [
      'and null beside them',
      { anyOf: [text, whole, nothing] },
      {},
      ['TextOrLong~', 'TextOrLong = string | integer'],
    ],
    [
      'a record once, however often it is named',
      { anyOf: [ref('Leg'), ref('Leg')] },
      { Leg: record({ pier: text }) },
      ['Leg', 'Leg { pier: string }'],
    ],
    [
      'told by a word that each has for itself',
      { oneOf: [tagged('a', { n: whole }), tagged('b')] },
      {},
      ['X', 'X = XA by kind=a | XB by kind=b', 'XA { kind: literal, n: integer }', 'XB { kind: literal }'],
    ],
    [
      'told by several words of one',
      { oneOf: [record({ kind: { enum: ['a', 'b'] } }), tagged('c')] },
      {},
      ['X', 'X = X1 by kind=a/b | XC by kind=c'],
    ],
    [
      'not told by a word that two have',
      {
        oneOf: [record({ kind: { enum: ['a', 'b'] }, m: text }), record({ kind: { const: 'b' }, n: whole })],
      },
      {},
      ['X', 'X = X1 by m | XB by n'],
    ],
    [
      'told by the second key where the first is the same',
      {
        oneOf: [
          record({ v: { const: '1' }, kind: { const: 'a' } }),
          record({ v: { const: '1' }, kind: { const: 'b' } }),
        ],
      },
      {},
      ['X', 'X = XA by kind=a | XB by kind=b'],
    ],
    [
      'told by keys that only one must have',
      { oneOf: [record({ pier: text }), record({ gate: text })] },
      {},
      ['X', 'X = X1 by pier | X2 by gate'],
    ],
    [
      'one record where nothing tells',
      { oneOf: [record({ id: whole, pier: text }, ['id']), record({ id: whole, gate: text })] },
      {},
      ['X'],
    ],
    [
      'one record where a key of one is of the other too',
      { oneOf: [record({ id: whole, gate: text }), record({ id: whole, gate: text, pier: text }, ['id'])] },
      {},
      ['X'],
    ],
    [
      'a map of anything where a map is beside a record',
      { oneOf: [record({ id: whole }), { type: 'object', additionalProperties: text }] },
      {},
      ['{anything}'],
    ],
    [
      'of the alternatives of its alternatives',
      { anyOf: [{ anyOf: [text, whole] }, { type: 'boolean' }] },
      {},
      ['TextOrLongOrFlag', 'TextOrLongOrFlag = string | integer | boolean'],
    ],
  ])('%s', (_, x, $defs, expected) => {
    const [type, ...lines] = field(x, $defs);
    const [first, ...rest] = expected;
    expect({ type, lines }).toEqual({ type: first, lines: expect.arrayContaining(rest) as string[] });
  });
});

test('what is of all records of one is required, all else may be absent', () => {
  const x = {
    oneOf: [
      record({ id: whole, pier: text }, ['id']),
      record({ id: { type: ['integer', 'null'] }, gate: text }),
    ],
  };
  const model = modelOf({ title: 'Sailing', ...record({ x, again: x }) });
  expect(linesOf(model)).toMatchInlineSnapshot(`
    [
      "Sailing { x: X, again: Again }",
      "X { id: integer~, pier?: string, gate?: string }",
      "Again { id: integer~, pier?: string, gate?: string }",
    ]
  `);
});

describe('a union that is called something', () => {
  test('is one type wherever it is named', () => {
    const Stop = { oneOf: [ref('A'), ref('B')] };
    const model = modelOf({
      title: 'Sailing',
      ...record({
        first: ref('Stop'),
        others: { type: 'array', items: ref('Stop') },
        last: { anyOf: [ref('Stop'), nothing] },
      }),
      $defs: { Stop, A: tagged('a'), B: tagged('b') },
    });
    expect(linesOf(model)).toEqual([
      'Stop = A by kind=a | B by kind=b',
      'Sailing { first: Stop, others: [Stop], last: Stop~ }',
      'A { kind: literal }',
      'B { kind: literal }',
    ]);
    expect(unionsWith(model, model.records[1]!).map(({ name }) => name)).toEqual(['Stop']);
    expect(unionsWith(model, model.records[0]!)).toEqual([]);
    expect(armsOf(model, 'Stop')).toHaveLength(2);
  });

  test('may hold itself in a record, in a list or in a map', () => {
    const model = modelOf({
      title: 'Sailing',
      ...record({ value: ref('Value') }),
      $defs: {
        Value: { anyOf: [text, ref('Pair'), { type: 'array', items: ref('Value') }] },
        Pair: record({ left: ref('Value'), right: ref('Value') }),
      },
    });
    expect(linesOf(model)).toEqual([
      'Value = Pair | string | [Value]',
      'Sailing { value: Value }',
      'Pair { left: Value, right: Value }',
    ]);
  });

  const nothing = { type: 'null' };
  test.each<[string, object, string]>([
    [
      '',
      { ...record({ x: ref('Value') }), $defs: { Value: { anyOf: [text, whole, ref('Value')] } } },
      'Value',
    ],
    [
      ' beside null',
      { ...record({ x: ref('Value') }), $defs: { Value: { anyOf: [ref('Value'), nothing] } } },
      'Value',
    ],
    [' as the payload', { title: 'Sailing', anyOf: [{ $ref: '#' }, nothing] }, 'Sailing'],
    [
      ' by another',
      {
        ...record({ x: ref('Value') }),
        $defs: {
          Value: { anyOf: [ref('Other'), text] },
          Other: { oneOf: [{ anyOf: [ref('Value')] }, whole] },
        },
      },
      'Value',
    ],
  ])('is refused where it is an alternative of itself%s', (_, schema, name) => {
    expect(() => modelOf(schema)).toThrow(`the union ${name} is an alternative of itself`);
  });
});

test('alternatives in a list are called as one of it', () => {
  const items = { oneOf: [tagged('pier'), tagged('buoy')] };
  const model = modelOf({ title: 'Sailing', ...record({ stops: { type: 'array', items } }) });
  expect(linesOf(model)).toEqual([
    'Stop = StopPier by kind=pier | StopBuoy by kind=buoy',
    'Sailing { stops: [Stop] }',
    'StopPier { kind: literal }',
    'StopBuoy { kind: literal }',
  ]);
});

test('of the whole payload, records are called by the words that tell them apart', () => {
  const model = modelOf({ title: 'Notice', oneOf: [tagged('delay', { minutes: whole }), tagged('fog')] });
  expect([told(model.root), ...linesOf(model)]).toEqual([
    'Notice',
    'Notice = NoticeDelay by kind=delay | NoticeFog by kind=fog',
    'NoticeDelay { kind: literal, minutes: integer }',
    'NoticeFog { kind: literal }',
  ]);
});

test('a choice is open where any text is taken beside it, and has all words where others are', () => {
  const model = modelOf({
    title: 'Sailing',
    ...record({
      a: { title: 'Open', anyOf: [{ type: 'string', enum: ['x', 'y'] }, text] },
      b: { title: 'Closed', type: 'string', enum: ['x', 'y'] },
      c: {
        title: 'Two',
        anyOf: [
          { type: 'string', enum: ['x', 'y'] },
          { type: 'string', enum: ['y', 'z'] },
        ],
      },
      e: { anyOf: [{ type: 'string', enum: ['x', 'y'] }, { type: 'string', enum: ['z', 'y'] }, text] },
      d: { title: 'Beside', anyOf: [{ type: 'string', enum: ['x', 'z'] }, text, whole] },
    }),
  });
  const words = model.choices.map(
    ({ name, open, values }) => `${name}${open ? '+' : ''}: ${values.join(' ')}`,
  );
  expect(words).toEqual(['A+: x y', 'Closed: x y', 'C: x y z', 'E+: x y z', 'D+: x z']);
  expect(['A', 'C'].map((name) => isOpenChoice(model, name))).toEqual([true, false]);
  expect(linesOf(model)).toEqual([
    'DOrLong = D | integer',
    'Sailing { a: A, b: Closed, c: C, e: E, d: DOrLong }',
  ]);
});

test('types say what they are in JSON, what they are made of, and whether null is one', () => {
  const inner: Type = {
    kind: 'nullable',
    of: {
      kind: 'map',
      values: { kind: 'tuple', items: [{ kind: 'boolean' }, { kind: 'list', items: { kind: 'string' } }] },
    },
  };
  expect([...typesWithin(inner)].map(({ kind }) => kind)).toEqual([
    'nullable',
    'map',
    'tuple',
    'boolean',
    'list',
    'string',
  ]);
  const kinds = [
    'boolean',
    'string',
    'choice',
    'literal',
    'integer',
    'number',
    'list',
    'tuple',
    'map',
    'record',
    'anything',
    'null',
    'union',
    'nullable',
  ];
  expect(kinds.map((kind) => jsonTypeOf({ kind } as Type))).toEqual([
    'boolean',
    'string',
    'string',
    'string',
    'number',
    'number',
    'list',
    'list',
    'object',
    'object',
    undefined,
    undefined,
    undefined,
    undefined,
  ]);
  const field = (kind: string, nullable: boolean) =>
    acceptsNull({ key: 'a', required: true, nullable, type: { kind } as Type });
  expect([
    field('string', false),
    field('string', true),
    field('anything', false),
    field('null', false),
  ]).toEqual([false, true, true, true]);
});
