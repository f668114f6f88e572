import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { writeJson } from '../../src/core/json/write.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { Learner } from '../../src/core/update/learn.js';
import { updateSchema } from '../../src/core/update/update.js';
import { payloadSet, runsOf } from '../arbitraries.js';
import { bytes, infer, payloadsOf } from '../payloads.js';

/** What payloads make of a schema, as text and as a list of changes. */
function update(schema: string, texts: readonly string[]) {
  const source = { name: 's.json', bytes: bytes(schema), firstLine: 1 };
  const learner = new Learner(readSchema(source), source);
  for (const payload of payloadsOf(texts)) learner.learn(payload);
  const { schema: updated, changes } = updateSchema(learner, 'auto');
  return { text: writeJson(schemaToJson(updated)), changes };
}

const inferred = (texts: readonly string[]) => writeJson(schemaToJson(infer(texts).schema));

function failing(schema: string, texts: readonly string[]): string[] {
  const validator = new SchemaValidator({ source: { name: 's.json', bytes: bytes(schema), firstLine: 1 } });
  return payloadsOf(texts).flatMap(({ root }) => validator.failures(root).map(({ pointer }) => pointer));
}

const field = (schema: unknown, more: object = {}) =>
  JSON.stringify({ type: 'object', properties: { a: schema }, required: ['a'], ...more });

test.each([
  ['const', { const: { valueOf: 1, toString: [null] } }],
  ['enum', { enum: [{ valueOf: 1, toString: [null] }, []] }],
])('an object is compared with that of %s key by key, whatever its keys are called', (_, schema) => {
  const { changes } = update(field(schema), ['{"a":{"toString":[null],"valueOf":1}}']);
  expect(changes).toEqual([]);
  const other = update(field(schema), ['{"a":{"toString":[null],"valueOf":2}}']);
  expect(new Set(other.changes.map(({ place }) => place))).toEqual(new Set(['/a']));
});

describe('new payloads', () => {
  test.each<[what: string, before: unknown, payloads: string[], after: unknown, now: string]>([
    ['null', { type: 'string' }, ['{"a":null}'], { type: ['string', 'null'] }, 'string or null'],
    [
      'null in a choice',
      { type: 'string', enum: ['x', 'y'] },
      ['{"a":null}'],
      { type: ['string', 'null'], enum: ['x', 'y', null] },
      'one of "x", "y", null',
    ],
    [
      'null in a choice without type',
      { enum: ['x'] },
      ['{"a":null}'],
      { anyOf: [{ enum: ['x'] }, { type: 'null' }] },
      '"x" or null',
    ],
    ['an integer that is not listed', { enum: [1, 2] }, ['{"a":3}'], { type: 'integer' }, 'integer'],
    ['a fraction beside listed integers', { enum: [1, 2] }, ['{"a":1.5}'], { type: 'number' }, 'number'],
    ['an integer beside listed numbers', { enum: [1, 2.5] }, ['{"a":3}'], { type: 'number' }, 'number'],
    [
      'a wider integer',
      { type: 'integer', format: 'int32', description: 'kept' },
      ['{"a":2147483648}', '{"a":9007199254740993}'],
      { type: 'integer', format: 'int64', description: 'kept' },
      'integer (int64)',
    ],
    ['a fraction', { type: 'integer', format: 'int32' }, ['{"a":1.0}'], { type: 'number' }, 'number'],
    [
      'a fraction beside long integers',
      { type: 'integer', format: 'int64' },
      ['{"a":1.5}'],
      { type: 'number', format: 'decimal' },
      'number (decimal)',
    ],
    [
      'more digits than a double has',
      { type: 'number' },
      ['{"a":3.14159265358979323846}'],
      { type: 'number', format: 'decimal' },
      'number (decimal)',
    ],
    [
      'another word of a closed choice',
      { type: 'string', enum: ['a', 'c'] },
      ['{"a":"b"}'],
      { type: 'string', enum: ['a', 'b', 'c'] },
      'one of "a", "b", "c"',
    ],
    [
      'a text of another format',
      { type: 'string', format: 'date' },
      ['{"a":"soon"}'],
      { type: 'string' },
      'string',
    ],
    [
      'a shorter text than was asked for',
      { type: 'string', minLength: 3, maxLength: 5 },
      ['{"a":"x"}'],
      { type: 'string', maxLength: 5 },
      'no minLength',
    ],
    [
      'text that is not base64',
      { type: 'string', contentEncoding: 'base64' },
      ['{"a":"*"}'],
      { type: 'string' },
      'no contentEncoding',
    ],
    [
      'another type',
      { type: 'string', minLength: 1, description: 'kept', default: 'x' },
      ['{"a":[1]}'],
      {
        description: 'kept',
        anyOf: [
          { type: 'string', minLength: 1 },
          { type: 'array', items: { type: 'integer', format: 'int32' } },
        ],
        default: 'x',
      },
      'string or list of integer (int32)',
    ],
    [
      'what is in lists that were always empty',
      { type: 'array' },
      ['{"a":[true]}'],
      { type: 'array', items: { type: 'boolean' } },
      'list of boolean',
    ],
    [
      'a list that is no tuple',
      {
        type: 'array',
        prefixItems: [{ type: 'string' }, { type: 'boolean' }],
        items: false,
        minItems: 2,
      },
      ['{"a":["x",true,"y"]}'],
      { type: 'array', items: { anyOf: [{ type: 'string' }, { type: 'boolean' }] } },
      'list of (string or boolean)',
    ],
  ])('with %s widen what they contradict', (_what, before, payloads, after, now) => {
    const { text, changes } = update(field(before), payloads);
    expect(JSON.parse(text).properties.a).toEqual(after);
    expect(changes.map((change) => [change.place, change.now])).toEqual([['/a', now]]);
    expect(failing(text, payloads)).toEqual([]);
  });

  test.each<[string, unknown, string[]]>([
    [
      'a word that an open choice does not list',
      { anyOf: [{ enum: ['x'] }, { type: 'string' }] },
      ['{"a":"y"}'],
    ],
    ['whatever stands where anything may', {}, ['{"a":[1]}', '{"a":{"b":null}}']],
    [
      'further keys of a map',
      { type: 'object', additionalProperties: { type: 'string' } },
      ['{"a":{"k":"v"}}'],
    ],
    [
      'keys that were declared open',
      { type: 'object', properties: {}, additionalProperties: true },
      ['{"a":{"k":1}}'],
    ],
    ['elements that were declared open', { type: 'array', items: true }, ['{"a":[1,"x"]}']],
    ['bounds that hold', { type: 'integer', minimum: 1, maximum: 9, multipleOf: 2 }, ['{"a":4}']],
    ['a format of no known meaning', { type: 'string', format: 'berth-code' }, ['{"a":"N1"}']],
  ])('do not touch %s', (_what, schema, payloads) => {
    expect(update(field(schema), payloads).changes).toEqual([]);
  });

  test('make absent keys optional and add new ones, with the first place of each', () => {
    const schema = field({ type: 'string', title: 'Code' });
    const { text, changes } = update(schema, ['{"a":"x"}', '{"legs":[{"pier":"N","no":1}]}']);
    expect(JSON.parse(text)).toEqual({
      type: 'object',
      properties: {
        a: { type: 'string', title: 'Code' },
        legs: { type: 'array', items: { $ref: '#/$defs/Leg' } },
      },
      $defs: {
        Leg: {
          type: 'object',
          properties: { pier: { type: 'string' }, no: { type: 'integer', format: 'int32' } },
          required: ['pier', 'no'],
        },
      },
    });
    expect(changes).toEqual([
      {
        place: '/a',
        was: 'required',
        now: 'optional',
        because: 'absent',
        first: { file: '0002.json', line: 1, column: 1 },
      },
      {
        place: '/legs',
        was: 'not known',
        now: 'list of Leg, optional',
        because: 'a new key',
        first: { file: '0002.json', line: 1, column: 9 },
      },
    ]);
  });

  const union = JSON.stringify({
    title: 'Notice',
    oneOf: [{ $ref: '#/definitions/Delay' }, { $ref: '#/definitions/Closure' }],
    definitions: {
      Delay: {
        type: 'object',
        properties: { kind: { const: 'delay' }, minutes: { type: 'integer' } },
        required: ['kind', 'minutes'],
      },
      Closure: {
        type: 'object',
        properties: { kind: { const: 'closure' }, berth: { type: 'string' } },
        required: ['kind', 'berth'],
      },
    },
  });

  test('of a tagged union reach the record that their tag names, and bring new records', () => {
    const { text, changes } = update(union, [
      '{"kind":"delay","minutes":null}',
      '{"kind":"strike","since":"2031-05-01"}',
    ]);
    const { oneOf, definitions } = JSON.parse(text);
    expect(oneOf).toEqual(
      ['Delay', 'Closure', 'StrikeNotice'].map((name) => ({ $ref: `#/definitions/${name}` })),
    );
    expect(definitions.Delay.properties.minutes).toEqual({ type: ['integer', 'null'] });
    expect(definitions.Closure.properties.berth).toEqual({ type: 'string' });
    expect(definitions.StrikeNotice).toEqual({
      type: 'object',
      properties: { kind: { const: 'strike' }, since: { type: 'string', format: 'date' } },
      required: ['kind', 'since'],
    });
    expect(changes.map(({ place, because }) => [place, because])).toEqual([
      ['/minutes', 'null'],
      ['', 'kind is "strike"'],
    ]);
  });

  test('reach the record that their tag names among several words, however much else is new', () => {
    const arm = (kinds: string[], more: object) => ({
      type: 'object',
      properties: { kind: { enum: kinds }, state: { enum: ['x'] }, ...more },
      required: ['kind', ...Object.keys(more)],
    });
    const text = { type: 'string' };
    const schema = JSON.stringify({
      title: 'Notice',
      oneOf: [{ $ref: '#/$defs/Near' }, { $ref: '#/$defs/Far' }],
      $defs: { Near: arm(['a', 'b'], { pier: text }), Far: arm(['c', 'd'], { berth: text, gate: text }) },
    });
    // All but its tag is as in the other record.
    const payloads = ['{"kind":"d","state":"y","pier":"N"}'];
    const updated = update(schema, payloads).text;
    const { oneOf, $defs } = JSON.parse(updated);
    expect($defs.Near).toEqual(arm(['a', 'b'], { pier: text }));
    expect($defs.Far).toMatchObject({
      properties: { kind: { enum: ['c', 'd'] }, state: { enum: ['x', 'y'] }, pier: text },
      required: ['kind'],
    });
    expect(oneOf).toHaveLength(2);
    expect(failing(updated, payloads)).toEqual([]);
  });

  test('use a known record again, and do not take the name of another', () => {
    const schema = JSON.stringify({
      title: 'Sailing',
      type: 'object',
      properties: { from: { $ref: '#/$defs/Pier' }, leg: { $ref: '#/$defs/Leg' } },
      $defs: {
        Pier: {
          type: 'object',
          properties: { no: { type: 'integer', format: 'int32' }, side: { type: 'string' } },
        },
        Leg: { type: 'object', properties: { code: { type: 'string' } } },
      },
    });
    const { text } = update(schema, ['{"to":{"no":1,"side":"left"},"legs":[{"minutes":5,"gate":"A"}]}']);
    const { properties, $defs } = JSON.parse(text);
    expect(properties.to).toEqual({ $ref: '#/$defs/Pier' });
    expect(properties.legs.items).toEqual({ $ref: '#/$defs/SailingLeg' });
    expect(Object.keys($defs)).toEqual(['Pier', 'Leg', 'SailingLeg']);
  });

  test('that contradict what cannot be widened are refused with both places', () => {
    const refused = () => update(field({ type: 'string', not: { const: 'x' } }), ['{"a":"x"}']);
    expect(refused).toThrow(SkevoError);
    expect(refused).toThrow(/0001\.json:1:6 does not meet "not"/);
  });

  test('leave keywords in the order in which people wrote them', () => {
    const schema = '{"required":["a"],"properties":{"a":{"x-unit":"min","type":"integer"}},"type":"object"}';
    expect(update(schema, ['{"a":null}']).text).toBe(
      '{"required":["a"],"properties":{"a":{"x-unit":"min","type":["integer","null"]}},"type":"object"}',
    );
  });
});

describe('laws', () => {
  test('the samples that a schema was inferred from change nothing', () => {
    fc.assert(
      fc.property(payloadSet, (texts) => {
        const schema = inferred(texts);
        expect(update(schema, texts)).toEqual({ text: schema, changes: [] });
      }),
      { numRuns: runsOf(300) },
    );
  });

  test('what was learned is met by all payloads, and learning it again changes nothing', () => {
    fc.assert(
      fc.property(payloadSet, payloadSet, (before, after) => {
        const { text } = update(inferred(before), after);
        expect(failing(text, [...before, ...after])).toEqual([]);
        expect(update(text, after)).toEqual({ text, changes: [] });
      }),
      { numRuns: runsOf(400) },
    );
  });
});
