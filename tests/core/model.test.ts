import { describe, expect, test } from 'vitest';
import { writeJson } from '../../src/core/json/write.js';
import { integerOf } from '../../src/core/json/number.js';
import { buildModel } from '../../src/core/model/build.js';
import type { TypeModel } from '../../src/core/model/types.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { allocate, camelCase, pascalCasing, snakeCase } from '../../src/languages/kit/names.js';
import { proseLines } from '../../src/languages/kit/text.js';
import { wordsOf } from '../../src/core/words.js';
import { bytes, infer } from '../payloads.js';

const read = (schema: object) =>
  readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 });
const model = (schema: object): TypeModel => buildModel(read(schema));
const rootFields = (schema: object) =>
  model(schema)
    .records.find(({ name }) => name === 'Sailing')!
    .fields.map(({ key, type, required, nullable }) => [key, type.kind, required, nullable]);

describe('the model of a schema edited by hand', () => {
  const inferred = JSON.parse(
    writeJson(schemaToJson(infer(['{"id":1,"legs":[{"pier":"N"}]}', '{"id":2,"legs":[]}']).schema)),
  );

  test('follows a changed required, an added null, titles and descriptions', () => {
    const edited = structuredClone(inferred);
    edited.required = ['legs'];
    edited.properties.id = {
      type: ['integer', 'null'],
      title: 'Number',
      description: 'As painted on the quay.',
      deprecated: true,
    };
    expect(rootFields(edited)).toEqual([
      ['id', 'integer', false, true],
      ['legs', 'list', true, false],
    ]);
    expect(model(edited).records[0]!.fields[0]).toMatchObject({
      title: 'Number',
      description: 'As painted on the quay.',
      deprecated: true,
    });
  });

  test('follows a renamed definition', () => {
    const edited = JSON.parse(JSON.stringify(inferred).replaceAll('Leg"', 'Stretch of way"'));
    expect(model(edited).records.map(({ name }) => name)).toEqual(['Sailing', 'Stretch of way']);
  });

  test('follows null as an alternative, aliases, maps, choices, records in place and draft 7 definitions', () => {
    expect(
      rootFields({
        title: 'Sailing',
        properties: {
          a: { anyOf: [{ $ref: '#/definitions/Name' }, { type: 'null' }] },
          b: { type: 'object', additionalProperties: { type: 'integer' } },
          c: { enum: ['foot', 'vehicle', null] },
          d: { type: 'object', properties: { e: true } },
          f: { type: ['string', 'integer'] },
          g: { oneOf: [{ type: 'integer' }, { type: 'number' }] },
          h: { const: 'SF' },
          i: {},
          j: { enum: [1, 2] },
        },
        required: ['k'],
        definitions: { Name: { type: 'string' } },
      }),
    ).toEqual([
      ['a', 'string', false, true],
      ['b', 'map', false, false],
      ['c', 'choice', false, true],
      ['d', 'record', false, false],
      ['f', 'union', false, false],
      ['g', 'number', false, false],
      ['h', 'literal', false, false],
      ['i', 'anything', false, false],
      ['j', 'integer', false, false],
      ['k', 'anything', true, false],
    ]);
  });

  test.each([
    [[1, 2, 3], { kind: 'integer', width: 'int32', listed: ['1', '2', '3'] }],
    [[2147483647], { kind: 'integer', width: 'int32', listed: ['2147483647'] }],
    [[2147483648], { kind: 'integer', width: 'double-int', listed: ['2147483648'] }],
    [['1.0', '1e2'].map(Number), { kind: 'integer', width: 'int32', listed: ['1', '100'] }],
    [[1, 2.5], { kind: 'number', exact: false }],
    [[1, null], { kind: 'integer', width: 'int32', listed: ['1'] }],
  ])('a list of the values %j is of the type %j', (values, type) => {
    const field = (schema: object) => {
      const source = { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 };
      return buildModel(readSchema(source)).records[0]!.fields[0]!;
    };
    expect(field({ title: 'A', properties: { j: { enum: values } } }).type).toEqual(type);
    if (values.length === 1)
      expect(field({ title: 'A', properties: { j: { const: values[0] } } }).type).toEqual(type);
  });

  test.each([
    ['1', '1'],
    ['1.0', '1'],
    ['1e2', '100'],
    ['-1.50e1', '-15'],
    ['-0', '0'],
    ['0.0', '0'],
    ['1.5', undefined],
    ['1e-1', undefined],
    ['1e401', undefined],
    ['1e400', `1${'0'.repeat(400)}`],
  ])('the number %s is the integer %s', (text, integer) => expect(integerOf(text)).toBe(integer));

  test.each<[string, object, RegExp]>([
    [
      'a type of itself alone',
      { $ref: '#/$defs/A', $defs: { A: { $ref: '#/$defs/A' } } },
      /nothing but itself/,
    ],
    ['a reference to another file', { $ref: 'other.json' }, /leads nowhere/],
    ['false as a schema', { properties: { a: false } }, /must be an object here/],
  ])('refuses %s', (_what, schema, message) => expect(() => model(schema)).toThrow(message));

  test('reading and writing a schema keeps what Skevo does not use', () => {
    const schema = {
      $schema: 'https://json-schema.org/draft/2020-12/schema',
      title: 'A',
      type: 'object',
      properties: { a: { type: 'integer', minimum: 12345678901234567890n.toString() } },
      examples: [{ a: 1 }],
      'x-pier': null,
    };
    expect(JSON.parse(writeJson(schemaToJson(read(schema))))).toEqual(schema);
  });
});

test('a definition that takes null does so wherever it is referred to, also in itself', () => {
  const licence = { type: ['object', 'null'], properties: { of: { $ref: '#/$defs/Licence' } } };
  const either = { anyOf: [{ $ref: '#/$defs/A' }, { $ref: '#/$defs/B' }, { type: 'null' }] };
  const record = (key: string) => ({
    type: 'object',
    properties: { [key]: { type: 'string' } },
    required: [key],
  });
  const { records } = model({
    title: 'Vessel',
    type: 'object',
    properties: {
      a: { $ref: '#/$defs/Licence' },
      b: { $ref: '#/$defs/Licence' },
      c: { $ref: '#/$defs/Either' },
      d: { $ref: '#/$defs/Either' },
    },
    $defs: { Licence: licence, Either: either, A: record('x'), B: record('y') },
  });
  const nullable = records.flatMap(({ name, fields }) =>
    fields.map((field) => `${name}.${field.key} ${field.nullable}`),
  );
  expect(nullable).toEqual([
    'Vessel.a true',
    'Vessel.b true',
    'Vessel.c true',
    'Vessel.d true',
    'Licence.of true',
    'A.x false',
    'B.y false',
  ]);
});

describe('names', () => {
  test.each([
    ['departs_at', ['departs', 'at']],
    ['departsAt', ['departs', 'at']],
    ['URLPath', ['url', 'path']],
    ['route-code', ['route', 'code']],
    ['2nd_call', ['2nd', 'call']],
    ['Größe', ['grosse']],
    ['Østhavn pier', ['østhavn', 'pier']],
    ['$ref', ['ref']],
    ['', []],
    ['🌫', []],
  ])('%j are the words %j', (text, words) => expect(wordsOf(text)).toEqual(words));

  test('collisions, reserved words and nothing at all get names of their own, the exact spelling first', () => {
    const keys = ['user_id', 'userId', 'class', '', '*', '2nd', 'user id'];
    expect([...allocate(keys, snakeCase, new Set(['class'])).values()]).toEqual([
      'user_id',
      'user_id2',
      'class_',
      'field',
      'field2',
      'n2nd',
      'user_id3',
    ]);
    expect([...allocate(keys, camelCase, new Set()).values()]).toEqual([
      'userId2',
      'userId',
      'class',
      'field',
      'field2',
      'n2nd',
      'userId3',
    ]);
    expect([...allocate(['berth', 'Berth'], pascalCasing, new Set()).values()]).toEqual(['Berth2', 'Berth']);
  });

  test('prose for comments has no control characters and no direction marks', () => {
    expect(proseLines('Mind\u202e the\u0007 gap.\n\n  It is\nwide.', 40)).toEqual([
      'Mind the gap.',
      '',
      'It is wide.',
    ]);
  });
});
