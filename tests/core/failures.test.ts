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
const cases: readonly (readonly [schema: object | boolean | string, ...values: string[]])[] = [
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
  // What no double carries, in the words of the schema.
  ['{"const":9007199254740993}', '9007199254740993', '9007199254740993.0', '9007199254740992', '"x"'],
  ['{"const":{"a":[9007199254740993]}}', '{"a":[9007199254740993]}', '{"a":[9007199254740992]}'],
  [
    '{"enum":[0.1234567890123456789,1e400]}',
    '0.1234567890123456789',
    '10e399',
    '0.12345678901234568',
    '1e401',
  ],
  ['{"minimum":9007199254740993}', '9007199254740993', '9007199254740994', '9007199254740992', '1e400'],
  ['{"maximum":9007199254740993}', '9007199254740993', '9007199254740994', '-1e400'],
  ['{"exclusiveMinimum":0}', '1e-400', '0', '-1e-400'],
  ['{"exclusiveMaximum":9007199254740993}', '9007199254740992', '9007199254740993'],
  ['{"multipleOf":9007199254740993}', '18014398509481986', '18014398509481984'],
  ['{"type":"integer"}', '1e400', '9007199254740993.5', '-9007199254740993.5', '1e-400'],
  [
    '{"uniqueItems":true}',
    '[9007199254740993,9007199254740992]',
    '[1e400,2,10e399]',
    '[[9007199254740993],[9007199254740992]]',
  ],
  ['{"propertyNames":{"enum":["a","b"]}}', '{"a":1}', '{"c":1}'],
  ['{"format":"int32"}', '2147483647', '2147483648', '-2147483648', '-2147483649'],
  [
    '{"format":"int64"}',
    '9223372036854775807',
    '9223372036854775808',
    '-9223372036854775808',
    '-9223372036854775809',
  ],
  ['{"format":"uint64"}', '18446744073709551615', '18446744073709551616', '-1'],
  ['{"format":"uint8"}', '255', '256', '0.5'],
  [
    '{"format":"double-int"}',
    '9007199254740991',
    '9007199254740992',
    '-9007199254740991',
    '-9007199254740992',
  ],
  ['{"format":"decimal"}', '12345678901234567890123', '1e400'],
  ['{"anyOf":[{"const":9007199254740993},{"type":"null"}]}', '9007199254740993', 'null', '9007199254740992'],
  [
    '{"$schema":"http://json-schema.org/draft-04/schema#","minimum":9007199254740993,"exclusiveMinimum":true}',
    '9007199254740994',
    '9007199254740993',
  ],
  ['{"$schema":"http://json-schema.org/draft-04/schema#","maximum":2,"exclusiveMaximum":false}', '2', '2.1'],
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
    const text = typeof schema === 'string' ? schema : JSON.stringify(schema);
    const validator = new SchemaValidator({
      source: { name: 's.json', bytes: bytes(text), firstLine: 1 },
    });
    const lines = values.map((value) => {
      const failures = validator.failures(parse(value)).map((each) => told(each, '    '));
      const shown = value.length > 60 ? `${value.slice(0, 57)}...` : value;
      return [`  ${shown}${failures.length === 0 ? '  holds' : ''}`, ...failures].join('\n');
    });
    return [text, ...lines, ''].join('\n');
  });
  await expect(texts.join('\n')).toMatchFileSnapshot('failures.txt');
});
