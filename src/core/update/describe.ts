import { datesOf, formOf } from '../model/dates.js';
import { definitionOf } from '../schema/resolve.js';
import type { Schema } from '../schema/schema.js';
import { writeJson } from '../json/write.js';
import { typesOf } from './admit.js';

const mostShown = 3;

/** What a schema admits, in a few words: `string (date) or null`, `list of Leg`. */
export function describeSchema(schema: Schema, top = 'the payload'): string {
  if (schema.$ref !== undefined)
    return definitionOf(schema.$ref) ?? (schema.$ref === '#' ? top : schema.$ref);
  const arms = schema.anyOf ?? schema.oneOf;
  if (arms !== undefined) return [...new Set(arms.map((arm) => describeSchema(arm, top)))].join(' or ');
  const values = schema.const === undefined ? schema.enum : [schema.const];
  if (values !== undefined) {
    if (values.length > mostShown) return `one of ${values.length} words`;
    const shown = values.map((value) => writeJson(value));
    return values.length === 1 ? shown[0]! : `one of ${shown.join(', ')}`;
  }
  const types = typesOf(schema);
  if (types.length === 0) return 'anything';
  return types.map((type) => describeType(schema, type, top)).join(' or ');
}

function describeType(schema: Schema, type: string, top: string): string {
  const inside = (inner: Schema | boolean | undefined) => {
    if (typeof inner !== 'object') return 'anything';
    const words = describeSchema(inner, top);
    return words.includes(' or ') ? `(${words})` : words;
  };
  switch (type) {
    case 'array':
      if (schema.prefixItems !== undefined)
        return `tuple of ${schema.prefixItems.map((each) => describeSchema(each, top)).join(', ')}`;
      return `list of ${inside(schema.items)}`;
    case 'object':
      if (schema.properties !== undefined) return schema.title ?? 'object';
      if (schema.additionalProperties === undefined) return 'object of anything';
      return `map of ${inside(schema.additionalProperties)}`;
    case 'null':
    case 'boolean':
      return type;
    default: {
      const form = schema.format ?? (type === 'string' ? formOf(schema) : undefined);
      const dates = type === 'string' && form !== undefined ? datesOf(schema) : undefined;
      return form === undefined ? type : `${type} (${form}${dates === undefined ? '' : `, as ${dates}`})`;
    }
  }
}
