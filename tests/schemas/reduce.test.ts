import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { parseJson } from '../../src/core/json/parse.js';
import { writeJson } from '../../src/core/json/write.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { loadSchema } from '../../src/schemas/load.js';
import { bytes, foundSchema, workspace } from '../support.js';

async function loaded(document: unknown, path = join(workspace(), 'sailing.schema.json'), fragment = '') {
  const text = JSON.stringify(document);
  return loadSchema(
    foundSchema(`${path}${fragment}`, { name: 'sailing.schema.json', bytes: bytes(text), firstLine: 1 }),
  );
}

/** The schema that types are made of, without its dialect and name. */
async function reduced(document: unknown, path?: string): Promise<Record<string, unknown>> {
  const { schema, source } = await loaded(document, path);
  buildModel(schema, source);
  const made = JSON.parse(writeJson(schemaToJson(schema))) as Record<string, unknown>;
  delete made['$schema'];
  delete made['title'];
  return made;
}

const text = { type: 'string' };
const whole = { type: 'integer' };

test.each([
  ['http://json-schema.org/draft-07/schema#', 'number'],
  ['https://json-schema.org/draft/2019-09/schema', 'string'],
])('an identifier beside a reference, by %s', async ($schema, type) => {
  const made = await reduced({
    $schema,
    $id: 'https://ferries.example/base/',
    type: 'object',
    properties: { gate: { $id: 'https://ferries.example/', $ref: 'gate.json' } },
    definitions: {
      outer: { $id: 'https://ferries.example/gate.json', type: 'string' },
      inner: { $id: 'gate.json', type: 'number' },
    },
  });
  expect(JSON.stringify(made)).toContain(`"type":"${type}"`);
});

describe('a schema with parts that types are not made of as they stand', () => {
  test.each<[string, unknown, unknown]>([
    [
      'parts that hold together are one record',
      {
        allOf: [{ properties: { id: whole }, required: ['id'] }, { properties: { gate: text } }],
        required: ['gate'],
      },
      { properties: { id: whole, gate: text }, required: ['gate', 'id'] },
    ],
    [
      'a part that is referred to is included',
      {
        $defs: { Vessel: { type: 'object', properties: { id: whole }, required: ['id'] } },
        allOf: [{ $ref: '#/$defs/Vessel' }, { properties: { cars: whole } }],
      },
      { type: 'object', properties: { id: whole, cars: whole }, required: ['id'] },
    ],
    [
      'one reference in allOf is that reference',
      {
        properties: { at: { description: 'Where.', allOf: [{ $ref: '#/$defs/Pier' }] } },
        $defs: { Pier: { properties: { id: whole } } },
      },
      {
        properties: { at: { description: 'Where.', $ref: '#/$defs/Pier' } },
        $defs: { Pier: { properties: { id: whole } } },
      },
    ],
    [
      'a property that two parts speak of has what both say',
      {
        allOf: [
          { properties: { n: { type: ['integer', 'null'] } } },
          { properties: { n: { type: 'integer', minimum: 1 } } },
        ],
      },
      { properties: { n: { type: 'integer', minimum: 1 } } },
    ],
    [
      'words that both parts list stay',
      { allOf: [{ enum: ['a', 'b', 'c'] }, { enum: ['b', 'c', 'd'] }] },
      { enum: ['b', 'c'] },
    ],
    [
      'fields beside alternatives are in each of them',
      {
        properties: { id: whole },
        required: ['id'],
        oneOf: [
          { properties: { kind: { const: 'car' }, cars: whole }, required: ['kind'] },
          { properties: { kind: { const: 'cat' }, hulls: whole }, required: ['kind'] },
        ],
      },
      {
        anyOf: [
          { properties: { id: whole, kind: { const: 'car' }, cars: whole }, required: ['id', 'kind'] },
          { properties: { id: whole, kind: { const: 'cat' }, hulls: whole }, required: ['id', 'kind'] },
        ],
      },
    ],
    [
      'alternatives that only narrow are none',
      { properties: { a: text, b: text }, anyOf: [{ required: ['a'] }, { required: ['b'] }] },
      { properties: { a: text, b: text } },
    ],
    [
      'what holds for some values may be absent',
      {
        properties: { kind: text },
        if: { properties: { kind: { const: 'car' } } },
        then: { properties: { cars: whole }, required: ['cars'] },
        else: { properties: { bikes: whole } },
        dependentSchemas: { gate: { properties: { pier: text } } },
      },
      { properties: { kind: text, cars: whole, bikes: whole, pier: text } },
    ],
    [
      'keys by a pattern are a map',
      { type: 'object', patternProperties: { '^x-': text, '^y-': whole }, additionalProperties: false },
      { type: 'object', additionalProperties: { anyOf: [text, whole] } },
    ],
    [
      'lists with positions of older drafts',
      {
        $schema: 'http://json-schema.org/draft-07/schema#',
        type: 'array',
        items: [text, whole],
        additionalItems: false,
        minItems: 2,
      },
      { type: 'array', prefixItems: [text, whole], items: false, minItems: 2 },
    ],
    [
      'what OpenAPI calls nullable',
      {
        properties: {
          a: { type: 'string', nullable: true },
          b: { nullable: true, allOf: [{ $ref: '#/$defs/P' }] },
        },
        $defs: { P: { type: 'object', properties: { id: whole } } },
      },
      {
        properties: {
          a: { type: ['string', 'null'] },
          b: { type: ['object', 'null'], properties: { id: whole } },
        },
      },
    ],
    [
      'references by anchors, and into properties',
      {
        properties: {
          a: { $ref: '#pier' },
          b: { $ref: '#/properties/c' },
          c: { type: 'object', properties: { d: whole } },
        },
        $defs: { Pier: { $anchor: 'pier', properties: { id: whole } } },
      },
      {
        properties: {
          a: { $ref: '#/$defs/pier' },
          b: { $ref: '#/$defs/c' },
          c: { type: 'object', properties: { d: whole } },
        },
        $defs: { pier: { properties: { id: whole } }, c: { type: 'object', properties: { d: whole } } },
      },
    ],
    [
      'in older drafts nothing stands beside a reference',
      {
        $schema: 'http://json-schema.org/draft-07/schema#',
        properties: { a: { $ref: '#/definitions/P', type: 'string' } },
        definitions: { P: { type: 'object', properties: { id: whole } } },
      },
      {
        properties: { a: { $ref: '#/$defs/P' } },
        $defs: { P: { type: 'object', properties: { id: whole } } },
      },
    ],
    [
      'in newer ones it holds too',
      {
        properties: { a: { $ref: '#/$defs/P', required: ['id'] } },
        $defs: { P: { type: 'object', properties: { id: whole } } },
      },
      { properties: { a: { type: 'object', properties: { id: whole }, required: ['id'] } } },
    ],
    [
      'keys that must not be there',
      { properties: { a: text, b: false }, patternProperties: {} },
      { properties: { a: text } },
    ],
    ['alternatives that nothing meets', { anyOf: [{ type: 'string' }, false] }, { type: 'string' }],
  ])('%s', async (_, document, expected) => {
    const made = await reduced(document);
    // One alternative alone is that one.
    const only = made['anyOf'] as unknown[] | undefined;
    expect(only?.length === 1 ? only[0] : made).toEqual(expected);
  });

  test('what classes do not express is told once, with the first place', async () => {
    const { notes } = await loaded({
      properties: {
        a: { not: { type: 'string' } },
        b: { not: { const: 1 } },
        c: { patternProperties: { x: {} } },
      },
    });
    expect(notes.map(({ message, place }) => `${place!.line}:${place!.column} ${message}`)).toEqual([
      '1:20 classes do not express the keyword "not", here and 1 more time',
      '1:74 classes do not express the keyword "patternProperties"',
    ]);
  });

  test('a type that recurs comes to an end, however it does', async () => {
    const tree = {
      properties: { children: { type: 'array', items: { $ref: '#' } } },
      allOf: [{ properties: { id: whole } }],
    };
    expect(await reduced(tree)).toEqual({
      properties: { children: { type: 'array', items: { $ref: '#' } }, id: whole },
    });
    const json = {
      $ref: '#/$defs/Value',
      $defs: {
        Value: {
          anyOf: [
            text,
            { type: 'array', items: { $ref: '#/$defs/Value' } },
            { type: 'object', additionalProperties: { $ref: '#/$defs/Value' } },
          ],
        },
      },
    };
    const { schema, source } = await loaded(json);
    expect(buildModel(schema, source).unions.map(({ name }) => name)).toEqual(['Value']);
    // What merges itself into itself is anything from some depth on.
    await reduced({
      properties: { a: { $ref: '#', unevaluatedProperties: false } },
      allOf: [{ properties: { b: { $ref: '#', required: ['a'] } } }],
    });
  });

  test('alternatives that nothing tells apart are one record', async () => {
    const { schema, source } = await loaded({
      anyOf: [
        { type: 'object', properties: { id: whole, gate: text }, required: ['id'] },
        { type: 'object', properties: { id: text, pier: text }, required: ['id'] },
      ],
    });
    const { records, root } = buildModel(schema, source);
    expect(root).toMatchObject({ kind: 'record' });
    expect(records.map(({ fields }) => fields.map(({ key, required }) => `${key} ${required}`))).toEqual([
      ['id true', 'gate false', 'pier false'],
    ]);
  });
});

describe('references to other files', () => {
  const folder = workspace({
    'sailing.schema.json': '{}',
    'pier.json': JSON.stringify({
      $id: 'https://saltmere.example/pier.json',
      type: 'object',
      properties: { id: whole, near: { $ref: 'common.yaml#/$defs/Near' } },
    }),
    'common.yaml': '$defs:\n  Near:\n    type: object\n    properties: { pier: { $ref: pier.json } }\n',
  });
  const path = join(folder, 'sailing.schema.json');

  test('are followed, also in a circle, in YAML, and by URI beside a file', async () => {
    const document = { properties: { at: { $ref: 'pier.json' } } };
    expect(await reduced(document, path)).toEqual({
      properties: { at: { $ref: '#/$defs/pier' } },
      $defs: {
        pier: { type: 'object', properties: { id: whole, near: { $ref: '#/$defs/Near' } } },
        Near: { type: 'object', properties: { pier: { $ref: '#/$defs/pier' } } },
      },
    });
    const { validation } = await loaded(document, path);
    const validator = new SchemaValidator(validation);
    const payload = (value: unknown) =>
      parseJson({ name: 'a', bytes: bytes(JSON.stringify(value)), firstLine: 1 }).root;
    expect(validator.failures(payload({ at: { id: 1, near: { pier: { id: 2 } } } }))).toEqual([]);
    expect(validator.failures(payload({ at: { id: 'x' } })).map(({ pointer }) => pointer)).toEqual([
      '/at/id',
    ]);
  });

  test.each([
    [{ $ref: 'piers.json' }, /"piers\.json" leads to no file/],
    [{ $ref: 'https://elsewhere.example/a.json' }, /leads to the network, where nothing is fetched/],
    [{ $ref: '#/$defs/Shp', $defs: { Ship: {}, Pier: { not: {} } } }, /leads nowhere in this schema/],
    [{ allOf: [{ $ref: '../other.json' }] }, /leads out of the folder of the schema|leads to no file/],
  ])('that lead nowhere are refused: %j', async (document, message) => {
    await expect(loaded(document, path)).rejects.toThrow(message);
  });

  test('that lead out of the folder are refused', async () => {
    const inner = workspace({ 'in/a.schema.json': '{}', 'secret.json': '{}' });
    await expect(
      loaded({ $ref: '../secret.json' }, join(inner, 'in', 'a.schema.json')),
    ).rejects.toMatchObject({
      message: 'the reference "../secret.json" leads out of the folder of the schema',
    });
  });
});

test('values are compared by what they are, whatever their keys are called', async () => {
  const { validation } = await loaded({
    properties: {
      a: { const: { valueOf: 1, constructor: [{}] } },
      b: { enum: [{ toString: 'x' }] },
      c: { uniqueItems: true },
    },
  });
  const validator = new SchemaValidator(validation);
  const failures = (value: string) =>
    validator
      .failures(parseJson({ name: 'a', bytes: bytes(value), firstLine: 1 }).root)
      .map(({ pointer, keyword }) => `${pointer} ${keyword}`);
  expect(
    failures(
      '{"a":{"constructor":[{}],"valueOf":1},"b":{"toString":"x"},"c":[{"valueOf":1},{"valueOf":2},1,"1",true]}',
    ),
  ).toEqual([]);
  expect(
    failures('{"a":{"constructor":[{}]},"b":{"toString":1},"c":[{"valueOf":1},{"valueOf":1.0}]}'),
  ).toEqual(['/a const', '/b enum', '/c uniqueItems']);
  expect(failures('{"c":[1,1.0]}')).toEqual(['/c uniqueItems']);
});

test('what OpenAPI 3.0 calls nullable may be null, whether or not it has a type', async () => {
  const folder = workspace();
  const document = {
    openapi: '3.0.3',
    info: { title: 'Ferries', version: '1' },
    paths: {},
    components: {
      schemas: {
        Pier: {
          type: 'object',
          properties: { nullable: { type: 'string' } },
          example: { id: '12,', $ref: 'no' },
        },
        Berth: {
          type: 'object',
          properties: {
            a: { type: 'string', enum: ['x'], nullable: true },
            b: { allOf: [{ $ref: '#/components/schemas/Pier' }], nullable: true },
            c: { type: 'string', nullable: false },
          },
        },
      },
    },
  };
  const { validation, schema, source } = await loaded(document, join(folder, 'a.json'), '#Berth');
  const [berth] = buildModel(schema, source).records;
  expect(berth!.fields.map(({ key, nullable }) => `${key} ${nullable}`)).toEqual([
    'a true',
    'b true',
    'c false',
  ]);
  const validator = new SchemaValidator(validation);
  const failures = (text: string) =>
    validator
      .failures(parseJson({ name: 'a', bytes: bytes(text), firstLine: 1 }).root)
      .map(({ pointer }) => pointer);
  expect(failures('{"a":null,"b":null,"c":"y"}')).toEqual([]);
  expect(failures('{"a":"x","b":{"nullable":"yes"}}')).toEqual([]);
  expect(failures('{"a":"z"}')).toEqual(['/a']);
  expect(failures('{"b":{"nullable":1}}')).toEqual(['/b']);
  expect(failures('{"c":null}')).toEqual(['/c']);
});
