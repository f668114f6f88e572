import { writeJson } from '../json/write.js';
import { json } from '../json/value.js';
import { bounds, intricate } from '../schema/keywords.js';
import { schemaToJson, type Schema } from '../schema/schema.js';
import { typesOf } from './admit.js';

/** What says what a value may be goes with the alternative; what describes the place stays at the place. */
const isConstraint = (keyword: string): boolean => bounds.has(keyword) || intricate.has(keyword);

/** A schema that also admits null. */
export function withNull(schema: Schema): Schema {
  if (schema.type !== undefined && schema.const === undefined) {
    return {
      ...schema,
      type: [...schema.type, 'null'],
      ...(schema.enum === undefined ? {} : { enum: [...schema.enum, json.null()] }),
    };
  }
  return withAlternative(schema, { type: ['null'] });
}

/**
 * A schema that also admits what others do; what it leaves unsaid of lists and objects is taken from them.
 * @param definition what a reference of the others stands for
 */
export function withAlternatives(
  schema: Schema,
  others: readonly Schema[],
  definition: (reference: string) => Schema | undefined,
): Schema {
  let result = schema;
  for (const other of others.flatMap((each) => each.anyOf ?? each.oneOf ?? [each])) {
    const target = other.$ref === undefined ? other : (definition(other.$ref) ?? other);
    const filled = filledIn(result, target);
    result = filled ?? withAlternative(result, other);
  }
  return result;
}

function withAlternative(schema: Schema, other: Schema): Schema {
  for (const keyword of ['anyOf', 'oneOf'] as const) {
    const arms = schema[keyword];
    if (arms === undefined) continue;
    const isKnown = arms.some((arm) => sameSchema(arm, other));
    return isKnown ? schema : { ...schema, [keyword]: [...arms, other] };
  }
  if (sameSchema(schema, other)) return schema;
  const { $schema, title, description, deprecated, $defs, span, other: keywords, ...arm } = schema;
  const within = new Map([...(keywords ?? [])].filter(([key]) => isConstraint(key)));
  const outside = new Map([...(keywords ?? [])].filter(([key]) => !isConstraint(key)));
  return {
    $schema,
    title,
    description,
    deprecated,
    anyOf: [within.size > 0 ? { ...arm, other: within } : arm, other],
    ...(outside.size > 0 ? { other: outside } : {}),
    $defs,
    span,
  };
}

/** Says of the lists or objects of a schema what it left unsaid; undefined when it said it, or has none. */
function filledIn(schema: Schema, other: Schema): Schema | undefined {
  const arms = schema.anyOf ?? schema.oneOf;
  if (arms !== undefined) {
    const at = arms.findIndex((arm) => filledIn(arm, other) !== undefined);
    if (at < 0) return undefined;
    const filled = arms.with(at, filledIn(arms[at]!, other)!);
    return { ...schema, [schema.anyOf === undefined ? 'oneOf' : 'anyOf']: filled };
  }
  const types = typesOf(schema);
  const [type] = typesOf(other);
  if (type === 'array' && types.includes('array') && !saysItems(schema)) {
    const { items, prefixItems, minItems } = other;
    return { ...schema, items, prefixItems, minItems };
  }
  const isUnsaid = schema.properties === undefined && schema.additionalProperties === undefined;
  if (type === 'object' && types.includes('object') && isUnsaid) {
    // Objects seen earlier had no key, so none is required.
    return { ...schema, properties: other.properties, additionalProperties: other.additionalProperties };
  }
  return undefined;
}

function saysItems({ items, prefixItems }: Schema): boolean {
  return items !== undefined || prefixItems !== undefined;
}

export function sameSchema(a: Schema, b: Schema): boolean {
  return (
    writeJson(schemaToJson({ ...a, span: undefined })) === writeJson(schemaToJson({ ...b, span: undefined }))
  );
}
