import { describe, expect, test } from 'vitest';
import { readSchema } from '../../src/core/schema/read.js';
import { definitionOf, referenceTo, resolveReference } from '../../src/core/schema/resolve.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { writeJson } from '../../src/core/json/write.js';
import { describeSchema } from '../../src/core/update/describe.js';
import { bytes } from '../payloads.js';

const read = (text: string) => readSchema({ name: 's.json', bytes: bytes(text), firstLine: 1 });

describe('references', () => {
  test.each([
    ['#/$defs/Leg', 'Leg'],
    ['#/definitions/Leg', 'Leg'],
    ['#/$defs/a~1b~0c', 'a/b~c'],
    ['#/$defs/%C3%98st', 'Øst'],
    ['#/$defs/%zz', '%zz'],
    ['#', undefined],
    ['#/properties/a', undefined],
    ['other.json#/$defs/Leg', undefined],
  ])('%s point to the definition %s', (reference, name) => expect(definitionOf(reference)).toBe(name));

  test('to a name are found by that name, whatever it holds', () => {
    for (const name of ['Leg', 'a/b', 'a~b', '~1', '/'])
      expect(definitionOf(referenceTo(name, 'definitions'))).toBe(name);
  });

  test('lead to definitions, to the root, or to an error with the nearest name', () => {
    const root = read('{"$ref":"#/$defs/Leg","$defs":{"Leg":{"type":"string"}}}');
    expect(resolveReference(root, '#/$defs/Leg', root, undefined)).toBe(root.$defs!.get('Leg'));
    expect(resolveReference(root, '#', root, undefined)).toBe(root);
    expect(() => resolveReference(root, '#/$defs/Lge', root, undefined)).toThrow('leads nowhere');
  });
});

describe('a schema that is read and written again', () => {
  test.each([
    '{"required":["b","a"],"type":"object","x-note":[1.0,null],"properties":{"a":{"format":"date","type":"string"}}}',
    '{"definitions":{"Leg":{"type":"string"}},"$ref":"#/definitions/Leg"}',
    '{"items":true,"type":["array","null"],"minItems":1}',
    '{"prefixItems":[{"const":1.50}],"items":false}',
    '{"additionalProperties":false,"patternProperties":{"^x":{}}}',
  ])('is what it was: %s', (text) => expect(writeJson(schemaToJson(read(text)))).toBe(text));
});

describe('a schema in a few words', () => {
  test.each([
    ['{}', 'anything'],
    ['{"type":"string","format":"date"}', 'string (date)'],
    ['{"type":["integer","null"]}', 'integer or null'],
    ['{"const":"x"}', '"x"'],
    ['{"enum":["x","y"]}', 'one of "x", "y"'],
    ['{"enum":["a","b","c","d"]}', 'one of 4 words'],
    ['{"type":"array","items":{"$ref":"#/$defs/Leg"}}', 'list of Leg'],
    ['{"prefixItems":[{"type":"string"},{"type":"integer"}]}', 'tuple of string, integer'],
    ['{"additionalProperties":{"type":"number"}}', 'map of number'],
    ['{"properties":{},"title":"Leg"}', 'Leg'],
    ['{"anyOf":[{"type":"string"},{"type":"string"},{"$ref":"#"}]}', 'string or the payload'],
  ])('%s is %s', (text, words) => expect(describeSchema(read(text))).toBe(words));
});
