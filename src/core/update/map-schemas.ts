import type { Schema } from '../schema/schema.js';

/**
 * A schema in which each part, the innermost first, is replaced by what `change` makes of it. What does not
 * change stays the same object.
 * @param change is given a part with its own parts already replaced, and the part as it was
 */
export function mapSchemas(schema: Schema, change: (part: Schema, original: Schema) => Schema): Schema {
  const one = (each: Schema) => mapSchemas(each, change);
  const flag = (each: Schema | boolean) => (typeof each === 'object' ? one(each) : each);
  const parts: { -readonly [K in keyof Schema]?: Schema[K] } = {};
  if (schema.properties !== undefined) parts.properties = keepMap(schema.properties, one);
  if (schema.$defs !== undefined) parts.$defs = keepMap(schema.$defs, one);
  if (schema.additionalProperties !== undefined)
    parts.additionalProperties = flag(schema.additionalProperties);
  if (schema.items !== undefined) parts.items = flag(schema.items);
  if (schema.prefixItems !== undefined) parts.prefixItems = keepList(schema.prefixItems, one);
  if (schema.anyOf !== undefined) parts.anyOf = keepList(schema.anyOf, one);
  if (schema.oneOf !== undefined) parts.oneOf = keepList(schema.oneOf, one);
  const isSame = (Object.keys(parts) as (keyof Schema)[]).every((key) => parts[key] === schema[key]);
  return change(isSame ? schema : { ...schema, ...parts }, schema);
}

function keepMap(
  map: ReadonlyMap<string, Schema>,
  change: (schema: Schema) => Schema,
): ReadonlyMap<string, Schema> {
  const changed = new Map([...map].map(([key, each]) => [key, change(each)]));
  return [...map].every(([key, each]) => changed.get(key) === each) ? map : changed;
}

function keepList(list: readonly Schema[], change: (schema: Schema) => Schema): readonly Schema[] {
  const changed = list.map(change);
  return changed.every((each, i) => each === list[i]) ? list : changed;
}
