import { SkevoError } from '../error.js';
import { integerOf } from '../json/number.js';
import { parseJson } from '../json/parse.js';
import { excerptOf, type Source } from '../json/source.js';
import type { JsonObject, JsonValue } from '../json/value.js';
import { nearest } from '../nearest.js';
import type { Schema, TypeName } from './schema.js';

const typeNames: readonly string[] = ['null', 'boolean', 'integer', 'number', 'string', 'array', 'object'];

/** Levels of schemas inside schemas that are read. */
const deepestSchema = 400;

/** Any of these makes an object a schema rather than, say, a payload given by mistake. */
const telling = [
  '$schema',
  '$ref',
  '$defs',
  'type',
  'properties',
  'additionalProperties',
  'patternProperties',
  'items',
  'prefixItems',
  'anyOf',
  'oneOf',
  'allOf',
  'enum',
  'const',
];

/**
 * Reads a JSON Schema.
 * @throws SkevoError with file, line and column where the text is not JSON or a keyword has the wrong type
 */
export function readSchema(source: Source): Schema {
  const { root } = parseJson(source);
  const fail = (value: JsonValue, message: string, remedy?: string): never => {
    throw new SkevoError(message, remedy, excerptOf(source, value.start));
  };
  if (root.kind === 'boolean') return { span: root };
  if (root.kind !== 'object') {
    return fail(
      root,
      'this is not a JSON Schema: a schema is an object',
      'Give a schema here; skevo infer makes one from payloads.',
    );
  }
  if (root.members.length > 0 && !root.members.some(({ key }) => telling.includes(key))) {
    return fail(
      root,
      'this is not a JSON Schema: it has none of the keywords of one',
      'If it is a payload, make a schema from it first with skevo infer.',
    );
  }
  return readObject(root, fail, 1);
}

type Fail = (value: JsonValue, message: string, remedy?: string) => never;
type Draft = { -readonly [K in keyof Schema]: Schema[K] };

function readSubschema(value: JsonValue, fail: Fail, depth: number): Schema {
  if (depth > deepestSchema)
    return fail(
      value,
      `schemas are nested more than ${deepestSchema} levels deep here`,
      'Move parts of it to "$defs", and refer to them by "$ref".',
    );
  if (value.kind === 'object') return readObject(value, fail, depth + 1);
  if (value.kind === 'boolean' && value.value) return { span: value };
  return fail(
    value,
    `a schema must be an object here, found ${value.kind === 'boolean' ? 'false' : `a ${value.kind}`}`,
  );
}

function readObject(object: JsonObject, fail: Fail, depth: number): Schema {
  const draft: Draft = { span: object };
  const other = new Map<string, JsonValue>();
  for (const { key, value } of object.members) {
    switch (key) {
      case '$schema':
      case '$ref':
      case 'title':
      case 'description':
      case 'format':
        if (value.kind !== 'string') fail(value, `"${key}" must be a string`);
        else draft[key] = value.value;
        break;
      case 'deprecated':
        if (value.kind !== 'boolean') fail(value, '"deprecated" must be true or false');
        else draft.deprecated = value.value;
        break;
      case 'type':
        draft.type = readTypes(value, fail);
        break;
      case 'const':
        draft.const = value;
        break;
      case 'enum':
        if (value.kind !== 'list' || value.items.length === 0)
          fail(value, '"enum" must be a list of at least one value');
        else draft.enum = value.items;
        break;
      case 'properties':
      case '$defs':
      case 'definitions':
        draft[key === 'properties' ? 'properties' : '$defs'] = readMap(key, value, fail, depth);
        break;
      case 'required':
        if (value.kind !== 'list')
          fail(
            value,
            '"required" must be a list of keys',
            'It stands beside "properties": "required": ["code"].',
          );
        else {
          draft.required = value.items.map((item) =>
            item.kind === 'string' ? item.value : fail(item, '"required" must be a list of keys'),
          );
        }
        break;
      case 'additionalProperties':
      case 'items':
        draft[key] = value.kind === 'boolean' ? value.value : readSubschema(value, fail, depth);
        break;
      case 'minItems':
        if (value.kind !== 'number' || integerOf(value.text) === undefined)
          fail(value, '"minItems" must be a whole number');
        else draft.minItems = Number(value.text);
        break;
      case 'prefixItems':
      case 'anyOf':
      case 'oneOf':
        if (value.kind !== 'list' || value.items.length === 0)
          fail(value, `"${key}" must be a list of at least one schema`);
        else draft[key] = value.items.map((item) => readSubschema(item, fail, depth));
        break;
      default:
        other.set(key, value);
    }
  }
  if (other.size > 0) draft.other = other;
  return draft;
}

function readTypes(value: JsonValue, fail: Fail): TypeName[] {
  const items = value.kind === 'list' ? value.items : [value];
  if (items.length === 0) fail(value, '"type" must name at least one type');
  return items.map((item) => {
    if (item.kind === 'string' && typeNames.includes(item.value)) return item.value as TypeName;
    const near = item.kind === 'string' ? nearest(item.value, typeNames) : undefined;
    return fail(
      item,
      `"type" must be one of ${typeNames.join(', ')}`,
      near === undefined ? undefined : `Did you mean ${JSON.stringify(near)}?`,
    );
  });
}

function readMap(key: string, value: JsonValue, fail: Fail, depth: number): Map<string, Schema> {
  if (value.kind !== 'object') return fail(value, `"${key}" must be an object of schemas`);
  return new Map(value.members.map((each) => [each.key, readSubschema(each.value, fail, depth)]));
}
