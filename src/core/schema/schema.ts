import { json, type JsonObject, type JsonValue } from '../json/value.js';

/** The type names of JSON Schema. */
export type TypeName = 'null' | 'boolean' | 'integer' | 'number' | 'string' | 'array' | 'object';

/**
 * A JSON Schema (2020-12) as far as Skevo reads it. Keywords it does not use are kept in `other`, so that
 * reading and writing again loses nothing.
 */
export interface Schema {
  readonly $schema?: string;
  readonly $ref?: string;
  readonly title?: string;
  readonly description?: string;
  readonly deprecated?: boolean;
  readonly type?: readonly TypeName[];
  readonly format?: string;
  readonly const?: JsonValue;
  readonly enum?: readonly JsonValue[];
  readonly properties?: ReadonlyMap<string, Schema>;
  readonly required?: readonly string[];
  readonly additionalProperties?: Schema | boolean;
  readonly prefixItems?: readonly Schema[];
  readonly items?: Schema | boolean;
  readonly minItems?: number;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly $defs?: ReadonlyMap<string, Schema>;
  readonly other?: ReadonlyMap<string, JsonValue>;
  /** What stands in the file; missing for a schema that was inferred. */
  readonly span?: JsonValue;
}

export const dialect = 'https://json-schema.org/draft/2020-12/schema';

/**
 * The schema as JSON: keywords in the order of the file that it was read from, all others in a fixed order.
 */
export function schemaToJson(schema: Schema): JsonObject {
  const written = schema.span?.kind === 'object' ? schema.span.members.map(({ key }) => key) : [];
  const nested = (map: ReadonlyMap<string, Schema> | undefined) =>
    map && json.object([...map].map(([key, value]) => [key, schemaToJson(value)]));
  const list = (schemas: readonly Schema[] | undefined) => schemas && json.list(schemas.map(schemaToJson));
  const flag = (value: Schema | boolean | undefined) =>
    typeof value === 'object' ? schemaToJson(value) : value === undefined ? undefined : json.boolean(value);
  const text = (value: string | undefined) => (value === undefined ? undefined : json.string(value));
  const entries: [string, JsonValue | undefined][] = [
    ['$schema', text(schema.$schema)],
    ['title', text(schema.title)],
    ['description', text(schema.description)],
    ['deprecated', schema.deprecated === undefined ? undefined : json.boolean(schema.deprecated)],
    ['$ref', text(schema.$ref)],
    [
      'type',
      schema.type &&
        (schema.type.length === 1 ? json.string(schema.type[0]!) : json.list(schema.type.map(json.string))),
    ],
    ['format', text(schema.format)],
    ['const', schema.const],
    ['enum', schema.enum && json.list(schema.enum)],
    ['properties', nested(schema.properties)],
    [
      'required',
      schema.required && schema.required.length > 0 ? json.list(schema.required.map(json.string)) : undefined,
    ],
    ['additionalProperties', flag(schema.additionalProperties)],
    ['prefixItems', list(schema.prefixItems)],
    ['items', flag(schema.items)],
    ['minItems', schema.minItems === undefined ? undefined : json.number(schema.minItems)],
    ['anyOf', list(schema.anyOf)],
    ['oneOf', list(schema.oneOf)],
    ...(schema.other ?? []),
    [definitionsSection(schema), schema.$defs && schema.$defs.size > 0 ? nested(schema.$defs) : undefined],
  ];
  const rank = new Map(written.map((key, i) => [key, i]));
  const known = entries.filter(([key]) => rank.has(key)).sort(([a], [b]) => rank.get(a)! - rank.get(b)!);
  // A new keyword comes after the known ones, but before the definitions, which are long; the dialect comes first.
  const fresh = entries.filter(([key]) => !rank.has(key) && key !== '$schema');
  const dialect = entries.filter(([key]) => !rank.has(key) && key === '$schema');
  const last = known.at(-1)?.[0] === definitionsSection(schema) ? known.splice(-1) : [];
  return json.object([...dialect, ...known, ...fresh, ...last]);
}

/** The keyword that holds the definitions of a schema: older drafts have another than 2020-12. */
export function definitionsSection(schema: Schema): '$defs' | 'definitions' {
  const { span } = schema;
  const has = (name: string) => span?.kind === 'object' && span.members.some(({ key }) => key === name);
  return has('definitions') && !has('$defs') ? 'definitions' : '$defs';
}

/** The types that a schema without `type` speaks of. */
export function impliedTypes(schema: Schema): TypeName[] {
  if (schema.properties !== undefined || schema.additionalProperties !== undefined) return ['object'];
  return schema.items === undefined && schema.prefixItems === undefined ? [] : ['array'];
}
