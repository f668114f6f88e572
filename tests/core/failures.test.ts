import { expect, test } from 'vitest';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import type { Failure } from '../../src/core/schema/apply.js';
import { bytes, parse } from '../payloads.js';

/** What validation says of values on both sides of each keyword, as text in `failures.txt`. */
const pier = {
  type: 'object',
  properties: { kind: { const: 'pier' }, depth: { type: 'number' } },
  required: ['kind', 'depth'],
};
const buoy = {
  type: 'object',
  properties: { kind: { const: 'buoy' }, light: { type: 'string' } },
  required: ['kind', 'light'],
};
const cases: readonly (readonly [schema: object | boolean, ...values: string[]])[] = [
  [{ type: 'string' }, '"x"', '1', 'null', '{"a":1}', '[1,2]', '[]', '{}'],
  [{ type: ['string', 'null'] }, 'null', 'true'],
  [{ type: 'integer' }, '1', '1.0', '1.5', '1e2', '12345678901234567890'],
  [{ type: 'number' }, '1.5', '"1.5"'],
  [{ enum: ['open', 'shut'] }, '"open"', '"late"', '1'],
  [{ enum: ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i', 'j', 'k'] }, '"z"'],
  [{ const: 'pier' }, '"pier"', '"quay"'],
  [{ const: { a: [1, null] } }, '{"a":[1,null]}', '{"a":[1]}'],
  [{ minimum: 2 }, '2', '1.9'],
  [{ maximum: 2 }, '2', '2.1'],
  [{ exclusiveMinimum: 2 }, '2.1', '2'],
  [{ exclusiveMaximum: 2 }, '1.9', '2'],
  [{ multipleOf: 0.1 }, '0.3', '0.35'],
  [{ minLength: 2 }, '"ab"', '"a"', '"⛴"'],
  [{ maxLength: 2 }, '"ab"', '"abc"'],
  [{ pattern: '^S\\d+$' }, '"S1"', '"x"'],
  [{ format: 'date' }, '"2031-05-01"', '"2031-02-29"', '"soon"'],
  [{ format: 'date-time' }, '"2031-05-01T08:00:00Z"', '"2031-05-01"'],
  [{ format: 'uuid' }, '"6f9619ff-8b86-d011-b42d-00c04fc964ff"', '"6f96"'],
  [{ format: 'berth-code' }, '"whatever"'],
  [{ minItems: 1 }, '[1]', '[]'],
  [{ maxItems: 1 }, '[1]', '[1,2]'],
  [{ uniqueItems: true }, '[1,2]', '[1,2,1]', '[1,1.0]'],
  [{ items: { type: 'string' } }, '["x"]', '["x",1,null]'],
  [{ prefixItems: [{ type: 'string' }], items: false }, '["x"]', '["x",1]'],
  [{ contains: { type: 'string' } }, '["x"]', '[1]'],
  [
    { contains: { type: 'string' }, minContains: 2, maxContains: 3 },
    '["a","b"]',
    '["a"]',
    '["a","b","c","d"]',
  ],
  [{ required: ['a', 'b'] }, '{"a":1,"b":2}', '{"a":1}', '{}'],
  [{ properties: { a: { type: 'string' } } }, '{"a":1}', '{"a~/b":1}'],
  [{ properties: { 'a/b~': { type: 'string' } } }, '{"a/b~":1}'],
  [{ properties: { 'a b#%?': { type: 'string' } } }, '{"a b#%?":1}'],
  [{ properties: { a: {} }, additionalProperties: false }, '{"a":1}', '{"a":1,"b":2}'],
  [{ additionalProperties: { type: 'integer' } }, '{"k":1}', '{"k":"v"}'],
  [{ patternProperties: { '^x-': { type: 'string' } } }, '{"x-a":"b"}', '{"x-a":1}'],
  [{ propertyNames: { pattern: '^[a-z]+$' } }, '{"a":1}', '{"A1":1}'],
  [{ minProperties: 1 }, '{"a":1}', '{}'],
  [{ maxProperties: 1 }, '{"a":1}', '{"a":1,"b":2}'],
  [{ dependentRequired: { a: ['b'] } }, '{"a":1,"b":2}', '{"a":1}'],
  [{ not: { type: 'string' } }, '1', '"x"'],
  [{ if: { required: ['a'] }, then: { required: ['b'] } }, '{}', '{"a":1}'],
  [{ allOf: [{ minimum: 2 }, { maximum: 5 }] }, '3', '1', '9'],
  [{ anyOf: [{ type: 'string' }, { type: 'boolean' }] }, 'true', '1'],
  [{ oneOf: [pier, buoy] }, '{"kind":"pier","depth":1}', '{"kind":"pier"}', '{"kind":"lock"}', '{}', '7'],
  [
    { oneOf: [{ $ref: '#/$defs/Pier' }, { $ref: '#/$defs/Buoy' }], $defs: { Pier: pier, Buoy: buoy } },
    '{"kind":"buoy","light":3}',
  ],
  [{ oneOf: [{ type: 'integer' }, { minimum: 2 }] }, '1', '2', '1.5'],
  [{ anyOf: [{ items: { oneOf: [pier, buoy] } }, { type: 'string' }] }, '[{"kind":"buoy"}]'],
  [
    { properties: { stops: { anyOf: [{ items: { oneOf: [pier, buoy] } }, { type: 'string' }] } } },
    '{"stops":[{"kind":"buoy"}]}',
  ],
  [{ multipleOf: 0.01 }, '19.99', '19.999', '1e300', '0', '-0.01', '1e-3'],
  [{ multipleOf: 3 }, '1e300', '9e300', '-9', '0.3'],
  [{ multipleOf: 1e-9 }, '123.000000001', '0.0000000001'],
  [{ unevaluatedProperties: false, properties: { a: {} } }, '{"a":1}', '{"b":1}'],
  [{ $ref: '#/$defs/Deck', $defs: { Deck: { type: 'integer' } } }, '1', '"x"'],
  [false, '1'],
  [true, '1'],
  [{ type: 'string' }, `"${'x'.repeat(200)}"`, `{"a":"${'x'.repeat(200)}"}`],
  [{ type: 'boolean' }, `"${'x'.repeat(200)}"`, `[${'1,'.repeat(99)}1]`],
];

function told(
  { pointer, expected, found, keyword, schemaPointer, nearest }: Failure,
  indent: string,
): string {
  const own = `${indent}${pointer || 'the value'}  expected ${expected}, found ${found} (${keyword} at ${schemaPointer || 'the top'})`;
  if (nearest === undefined) return own;
  const inner = nearest.failures.map((each) => told(each, `${indent}    `));
  return [own, `${indent}  closest is ${nearest.alternative}:`, ...inner].join('\n');
}

test('what validation says is as in its file', async () => {
  const texts = cases.map(([schema, ...values]) => {
    const validator = new SchemaValidator({
      source: { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 },
    });
    const lines = values.map((value) => {
      const failures = validator.failures(parse(value)).map((each) => told(each, '    '));
      const shown = value.length > 60 ? `${value.slice(0, 57)}...` : value;
      return [`  ${shown}${failures.length === 0 ? '  holds' : ''}`, ...failures].join('\n');
    });
    return [JSON.stringify(schema), ...lines, ''].join('\n');
  });
  await expect(texts.join('\n')).toMatchFileSnapshot('failures.txt');
});
