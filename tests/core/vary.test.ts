import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeJson } from '../../src/core/json/write.js';
import { buildModel } from '../../src/core/model/build.js';
import { Coverage } from '../../src/core/roundtrip/unproven.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { vary } from '../../src/core/vary/vary.js';
import { payloadSet, tries } from '../arbitraries.js';
import { bytes, infer, parse } from '../payloads.js';
import { cases } from '../languages/cases.js';

const sourceOf = (text: string) => ({ name: 's.json', bytes: bytes(text), firstLine: 1 });
const variantsOf = (schema: object, seed = 0) => {
  const source = sourceOf(JSON.stringify(schema));
  return vary(readSchema(source), source, seed).map(({ value }) => JSON.parse(writeJson(value)));
};

/** What the payloads made from a schema leave unproven, and those that do not meet it. */
function judged(payloads: readonly string[]) {
  const { schema } = infer(payloads);
  const source = sourceOf(writeJson(schemaToJson(schema)));
  const variants = vary(readSchema(source), source, 0).map(({ value }) => parse(writeJson(value)));
  const validator = new SchemaValidator({ source });
  const coverage = new Coverage(buildModel(readSchema(source), source));
  variants.forEach((each) => coverage.add(each));
  return {
    failing: variants.filter((each) => validator.failures(each).length > 0).map((each) => writeJson(each)),
    unproven: coverage.unproven(() => true),
  };
}

describe('payloads made from the schema of', () => {
  test.for(cases.filter(({ payloads }) => payloads.join('').length < 20_000))(
    '$name meet it and leave nothing unproven',
    ({ payloads }) => {
      const { failing, unproven } = judged(payloads);
      expect(failing).toEqual([]);
      expect(unproven).toEqual([]);
    },
  );

  test('random payloads meet it', () => {
    fc.assert(
      fc.property(payloadSet, (payloads) => {
        expect(judged(payloads).failing).toEqual([]);
      }),
      { numRuns: tries(60), seed: 20311 },
    );
  });
});

describe('payloads made from a schema that people bounded meet it:', () => {
  test.each<[string, object | string]>([
    ['multiples', { type: 'number', multipleOf: 0.1 }],
    ['multiples from a bound on', { type: 'number', multipleOf: 0.1, minimum: 100 }],
    ['multiples between bounds', { type: 'integer', multipleOf: 7, exclusiveMinimum: 14, maximum: 30 }],
    ['the only multiple', { type: 'integer', multipleOf: 7, exclusiveMinimum: 14, exclusiveMaximum: 28 }],
    ['negative multiples', { type: 'number', multipleOf: 0.25, maximum: -3 }],
    ['numbers between fractions', { type: 'number', exclusiveMinimum: 0.1, exclusiveMaximum: 0.2 }],
    ['integers between fractions', { type: 'integer', minimum: 2.5, maximum: 3.5 }],
    ['integers beyond fractions', { type: 'integer', exclusiveMinimum: 2.5 }],
    ['integers below a bound', { type: 'integer', exclusiveMaximum: -7 }],
    ['wide integers', { type: 'integer', minimum: 9007199254740000, maximum: 9007199254740991 }],
    ['texts of a length', { type: 'string', minLength: 40, maxLength: 41 }],
    ['texts of one letter', { type: 'string', minLength: 1, maxLength: 1 }],
    ['no text', { type: 'string', maxLength: 0 }],
    ['lists of a length', { type: 'array', items: { type: 'integer' }, minItems: 5, maxItems: 6 }],
    ['lists of what differs', { type: 'array', items: { type: 'integer' }, minItems: 3, uniqueItems: true }],
    [
      'lists of words that differ',
      { type: 'array', items: { enum: ['a', 'b', 'c'] }, minItems: 2, uniqueItems: true },
    ],
    ['no list', { type: 'array', items: { type: 'integer' }, maxItems: 0 }],
    [
      'maps of a size',
      { type: 'object', additionalProperties: { type: 'integer' }, minProperties: 4, maxProperties: 5 },
    ],
    [
      'maps of no more than one',
      { type: 'object', additionalProperties: { type: 'integer' }, maxProperties: 1 },
    ],
    ['texts of a format and a length', { type: 'string', format: 'date', maxLength: 10 }],
    ['base64', { type: 'string', contentEncoding: 'base64', minLength: 12 }],
    ['words with null', { type: ['string', 'null'], enum: ['a', null] }],
    ['nullable multiples', { type: ['number', 'null'], multipleOf: 2.5, minimum: 1 }],
    // What no double carries, in the words of the schema.
    ['integers beyond a wide bound', '{"type":"integer","minimum":9007199254740993}'],
    ['integers after a wide bound', '{"type":"integer","exclusiveMinimum":9007199254740993}'],
    ['one wide integer', '{"type":"integer","minimum":9007199254740993,"maximum":9007199254740993}'],
    [
      'one between',
      '{"type":"integer","exclusiveMinimum":9007199254740992,"exclusiveMaximum":9007199254740994}',
    ],
    [
      'a fraction between',
      '{"type":"number","exclusiveMinimum":9007199254740992,"exclusiveMaximum":9007199254740993}',
    ],
    ['wide multiples', '{"type":"integer","multipleOf":9007199254740993,"minimum":9007199254740994}'],
    ['integers of a format without a sign', '{"type":"integer","format":"uint8"}'],
    ['multiples of a format without a sign', '{"type":"integer","format":"uint8","multipleOf":200}'],
    ['an integer without a middle', '{"type":"integer","minimum":1e500}'],
  ])('%s', (_, a) => {
    const own = typeof a === 'string' ? a : JSON.stringify(a);
    const source = sourceOf(`{"type":"object","properties":{"a":${own}},"required":["a"]}`);
    const validator = new SchemaValidator({ source });
    for (const seed of [0, 1, 2]) {
      const made = vary(readSchema(source), source, seed).map(({ value }) => writeJson(value));
      expect(made.length).toBeGreaterThan(0);
      expect(made.filter((each) => validator.failures(parse(each)).length > 0)).toEqual([]);
    }
  });
});

test('the first has everything, the second as little as possible', () => {
  const schema = {
    type: 'object',
    properties: {
      id: { type: 'integer', minimum: 3, maximum: 5 },
      gate: { type: ['string', 'null'], examples: ['A', 'B'] },
      legs: { type: 'array', items: { type: 'string' }, minItems: 1 },
    },
    required: ['id', 'gate', 'legs'],
  };
  const [full, minimal, ...rest] = variantsOf({
    ...schema,
    properties: { ...schema.properties, note: { type: 'string', maxLength: 4 } },
  });
  expect(full).toMatchObject({ id: 3, gate: 'A', note: 'Nort' });
  expect(minimal).toMatchObject({ gate: null, legs: [expect.any(String)] });
  expect(minimal).not.toHaveProperty('note');
  expect(new Set(rest.map(({ id }) => id))).toEqual(new Set([3, 5]));
  expect(rest.map(({ gate }) => gate)).toEqual(expect.arrayContaining(['A', 'B', null]));
});

test('are the same for the same seed, and others for another', () => {
  const schema = { type: 'object', properties: { a: { type: 'string' }, b: { type: 'number' } } };
  expect(variantsOf(schema, 3)).toEqual(variantsOf(schema, 3));
  expect(variantsOf(schema, 1)).not.toEqual(variantsOf(schema, 0));
});

test('a type that requires itself is refused, one that may end is not', () => {
  const tree = (required: string[]) => ({
    $ref: '#/$defs/T',
    $defs: { T: { type: 'object', properties: { next: { $ref: '#/$defs/T' } }, required } },
  });
  expect(() => variantsOf(tree(['next']))).toThrow('requires itself without end');
  expect(variantsOf(tree([])).length).toBeGreaterThan(1);
});
