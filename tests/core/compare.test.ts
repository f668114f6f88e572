import { describe, expect, test } from 'vitest';
import { compareSchemas } from '../../src/core/contract/compare.js';
import { SkevoError } from '../../src/core/error.js';
import { readSchema } from '../../src/core/schema/read.js';
import { bytes, infer } from '../payloads.js';

const side = (schema: object) => {
  const source = { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 };
  return { schema: readSchema(source), source };
};
const record = (properties: object, required: string[] = [], more: object = {}) => ({
  title: 'Sailing',
  type: 'object',
  properties,
  required,
  ...more,
});
const compare = (old: object, now: object) =>
  compareSchemas(side(old), side(now)).map(
    ({ kind, place, readers, writers }) => `${place} ${kind}: ${readers}, ${writers}`,
  );
const text = { type: 'string' };
const field = (a: object, b: object) => compare(record({ x: a }, ['x']), record({ x: b }, ['x']));

describe('the effect on readers and writers of', () => {
  test.for<[string, string[], string[]]>([
    ['a new optional field', compare(record({}), record({ x: text })), ['/x field added: safe, safe']],
    [
      'a new required field',
      compare(record({}), record({ x: text }, ['x'])),
      ['/x field added: safe, breaking'],
    ],
    [
      'a removed optional field',
      compare(record({ x: text }), record({})),
      ['/x field removed: safe, unknown'],
    ],
    [
      'a removed required field',
      compare(record({ x: text }, ['x']), record({})),
      ['/x field removed: breaking, unknown'],
    ],
    [
      'a field that may now be absent',
      compare(record({ x: text }, ['x']), record({ x: text })),
      ['/x may be absent: breaking, safe'],
    ],
    [
      'a field that is now always there',
      compare(record({ x: text }), record({ x: text }, ['x'])),
      ['/x always there: safe, breaking'],
    ],
    ['a new null', field(text, { type: ['string', 'null'] }), ['/x may be null: breaking, safe']],
    ['a null no more', field({ type: ['string', 'null'] }, text), ['/x never null: safe, breaking']],
    [
      'a wider integer',
      field({ type: 'integer', format: 'int32' }, { type: 'integer', format: 'int64' }),
      ['/x type widened: breaking, safe'],
    ],
    [
      'a number from an integer',
      field({ type: 'integer' }, { type: 'number' }),
      ['/x type widened: breaking, safe'],
    ],
    [
      'an integer from a number',
      field({ type: 'number' }, { type: 'integer' }),
      ['/x type narrowed: safe, breaking'],
    ],
    ['another type', field(text, { type: 'boolean' }), ['/x type changed: breaking, breaking']],
    ['a list from one', field(text, { type: 'array', items: text }), ['/x type changed: breaking, breaking']],
    [
      'another format',
      field(text, { type: 'string', format: 'date' }),
      ['/x type changed: unknown, unknown'],
    ],
    [
      'a word more',
      field({ type: 'string', enum: ['a', 'b'] }, { type: 'string', enum: ['a', 'b', 'c'] }),
      ['/x word added: breaking, safe'],
    ],
    [
      'a word less',
      field({ type: 'string', enum: ['a', 'b', 'c'] }, { type: 'string', enum: ['a', 'b'] }),
      ['/x word removed: safe, breaking'],
    ],
    [
      'a word more where any is taken',
      field(
        { anyOf: [{ type: 'string', enum: ['a', 'b'] }, text] },
        { anyOf: [{ type: 'string', enum: ['a', 'b', 'c'] }, text] },
      ),
      ['/x word added: safe, safe'],
    ],
    [
      'words that are opened',
      field({ type: 'string', enum: ['a', 'b'] }, { anyOf: [{ type: 'string', enum: ['a', 'b'] }, text] }),
      ['/x choice opened: breaking, safe'],
    ],
    [
      'an alternative more',
      field(text, { anyOf: [text, { type: 'integer' }] }),
      ['/x alternative added: breaking, safe'],
    ],
    [
      'an alternative less',
      field({ anyOf: [text, { type: 'boolean' }] }, text),
      ['/x alternative removed: safe, breaking'],
    ],
    [
      'a change in a list',
      field({ type: 'array', items: text }, { type: 'array', items: { type: 'boolean' } }),
      ['/x/* type changed: breaking, breaking'],
    ],
    [
      'a change in a map',
      field(
        { type: 'object', additionalProperties: text },
        { type: 'object', additionalProperties: { type: ['string', 'null'] } },
      ),
      ['/x/* may be null: breaking, safe'],
    ],
    [
      'another bound',
      field({ type: 'string', maxLength: 5 }, { type: 'string', maxLength: 9 }),
      ['/x constraint changed: unknown, unknown'],
    ],
    ['other words of description', field(text, { type: 'string', description: 'A pier.' }), []],
    ['another order', compare(record({ x: text, y: text }), record({ y: text, x: text })), []],
  ])('%s', ([, found, expected]) => {
    expect(found).toEqual(expected);
  });
});

test('a field of another name with the same shape is said to be perhaps the same', () => {
  const old = record({ seats_free: { type: 'integer', format: 'int32' } }, ['seats_free']);
  const now = record({ seats_left: { type: 'integer', format: 'int32' } }, ['seats_left']);
  const changes = compareSchemas(side(old), side(now));
  expect(changes.map(({ place, perhaps, types }) => ({ place, perhaps, types }))).toEqual([
    { place: '/seats_left', perhaps: 'seats_free', types: ['Sailing'] },
    { place: '/seats_free', perhaps: 'seats_left', types: ['Sailing'] },
  ]);
});

test.for<[string, [object, boolean], [object, boolean], string | undefined]>([
  ['the same', [text, true], [text, true], 'b'],
  ['another type', [text, true], [{ type: 'integer' }, true], undefined],
  ['null in one of them', [text, true], [{ type: ['string', 'null'] }, true], undefined],
  ['null in both', [{ type: ['string', 'null'] }, true], [{ type: ['string', 'null'] }, true], 'b'],
  ['anything in both', [{}, true], [{}, true], undefined],
  ['one that may be absent', [text, false], [text, true], 'b'],
])('a field may be another under a new name: %s', ([, [a, isThere], [b, isHere], perhaps]) => {
  const old = record({ a, x: text }, isThere ? ['a'] : []);
  const now = record({ b, x: text }, isHere ? ['b'] : []);
  const removed = compareSchemas(side(old), side(now)).find(({ kind }) => kind === 'field removed');
  expect(removed?.perhaps).toBe(perhaps);
});

describe('bounds and other constraints are compared', () => {
  const short = { type: 'string', maxLength: 5 };
  const long = { type: 'string', maxLength: 9 };
  const told = (old: object, now: object) =>
    compareSchemas(side(old), side(now)).map(({ place, was, now: is }) => `${place} ${was} -> ${is}`);
  const between = (a: object, b: object) => told(record({ x: a }), record({ x: b }));
  const changed = (place: string) => [`${place} maxLength 5 -> maxLength 9`];

  test.for<[string, object, object, string[]]>([
    ['where one has none', text, long, ['/x no maxLength -> maxLength 9']],
    ['where one has none any more', short, text, ['/x maxLength 5 -> no maxLength']],
    ['of elements', { type: 'array', items: short }, { type: 'array', items: long }, changed('/x/*')],
    [
      'of values',
      { type: 'object', additionalProperties: short },
      { type: 'object', additionalProperties: long },
      changed('/x/*'),
    ],
    [
      'of a pair',
      { type: 'array', prefixItems: [text, short], minItems: 2, items: false },
      { type: 'array', prefixItems: [text, long], minItems: 2, items: false },
      changed('/x/1'),
    ],
    ['beside null', { anyOf: [short, { type: 'null' }] }, { oneOf: [{ type: 'null' }, long] }, changed('/x')],
    [
      'of alternatives',
      { anyOf: [short, { type: 'integer' }] },
      { anyOf: [long, { type: 'integer' }] },
      changed('/x'),
    ],
    [
      'not of what is for people alone',
      { type: 'string', default: 'a', examples: ['a'], 'x-own': 1, readOnly: true },
      { type: 'string', example: 'b', 'x-own': 2, writeOnly: true },
      [],
    ],
    [
      'not of other spellings of the same',
      { type: 'string', maxLength: 5, minLength: 1 },
      { minLength: 1, type: 'string', maxLength: 5 },
      [],
    ],
  ])('%s', ([, a, b, expected]) => {
    expect(between(a, b)).toEqual(expected);
  });

  test.each([
    { $ref: '#/$defs/A', $defs: { A: { $ref: '#/$defs/A' } } },
    record({ x: { $ref: '#/$defs/A' } }, [], {
      $defs: { A: { $ref: '#/$defs/B' }, B: { $ref: '#/$defs/A' } },
    }),
  ])('and references that only lead to each other are refused: %j', (schema) => {
    expect(() => told(schema, schema)).toThrow(SkevoError);
  });

  test('and what may only be itself, or null, is refused', () => {
    const self = { anyOf: [{ $ref: '#/$defs/A' }, { type: 'null' }] };
    const schema = record({ x: { $ref: '#/$defs/A' } }, [], { $defs: { A: self } });
    expect(() => told(schema, schema)).toThrow('the union A is an alternative of itself');
  });

  test('behind references, however many', () => {
    const behind = (last: object) => ({
      ...record({
        x: { $ref: '#/$defs/A' },
        y: { anyOf: [{ $ref: '#/$defs/A' }, { $ref: '#/$defs/Null' }] },
      }),
      $defs: { A: { $ref: '#/$defs/B' }, B: { $ref: '#/$defs/C' }, C: last, Null: { type: 'null' } },
    });
    expect(told(behind(short), behind(long))).toEqual(changed('/x'));
    expect(told(behind(short), record({ x: long, y: { type: ['string', 'null'], maxLength: 5 } }))).toEqual(
      changed('/x'),
    );
  });
});

test('a type inside itself is compared once', () => {
  const tree = (more: object) => ({
    $ref: '#/$defs/Berth',
    $defs: { Berth: record({ parts: { type: 'array', items: { $ref: '#/$defs/Berth' } }, ...more }) },
  });
  expect(compare(tree({}), tree({ depth: { type: 'number' } }))).toEqual(['/depth field added: safe, safe']);
});

test('an inferred schema does not differ from itself', () => {
  const { schema } = infer(['{"a":[{"b":null}],"c":{"d":1.5}}', '{"a":[],"c":{"d":2,"e":"x"}}']);
  const source = { name: 's.json', bytes: bytes('{}'), firstLine: 1 };
  expect(compareSchemas({ schema, source }, { schema, source })).toEqual([]);
});
