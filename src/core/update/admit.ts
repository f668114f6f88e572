import { isIntegerText } from '../json/number.js';
import { membersByKey, type JsonObject, type JsonValue } from '../json/value.js';
import { impliedTypes, type Schema, type TypeName } from '../schema/schema.js';

/** Looks up what a schema refers to; itself when it refers to nothing. */
export type Resolve = (schema: Schema) => Schema;

/** A tag that does not fit tells more than any number of keys that do not. */
const costOfTag = 1000;
const costOfKind = 20;
const costOfWord = 5;
const deepestLook = 3;

/** The types that a schema without alternatives admits; none when it admits all. */
export function typesOf(schema: Schema): readonly TypeName[] {
  if (schema.type !== undefined) return schema.type;
  const values = schema.const === undefined ? schema.enum : [schema.const];
  if (values !== undefined) return [...new Set(values.map(typeOf))];
  return impliedTypes(schema);
}

/** The type of a value; numbers are integers as they are written. */
export function typeOf(value: JsonValue): TypeName {
  if (value.kind === 'list') return 'array';
  if (value.kind === 'number') return isIntegerText(value.text) ? 'integer' : 'number';
  return value.kind;
}

/** Whether a schema without alternatives admits values of the type of a value. */
export function admitsType(schema: Schema, value: JsonValue): boolean {
  const types = typesOf(schema);
  const type = typeOf(value);
  return types.length === 0 || types.includes(type) || (type === 'integer' && types.includes('number'));
}

/** The words that a choice of text or a constant text has; undefined for any other schema. */
export function wordsIn(schema: Schema): string[] | undefined {
  const values = schema.const === undefined ? schema.enum : [schema.const];
  const texts = values?.flatMap((value) => (value.kind === 'string' ? [value.value] : []));
  return values !== undefined &&
    texts!.length > 0 &&
    values.every(({ kind }) => kind === 'string' || kind === 'null')
    ? texts
    : undefined;
}

/** The alternatives of a schema, those inside others too, and what each refers to. */
export function alternativesOf(
  schema: Schema,
  resolve: Resolve,
): { readonly arm: Schema; readonly target: Schema }[] {
  const arms = schema.anyOf ?? schema.oneOf ?? [];
  return arms.flatMap((arm) => {
    const target = resolve(arm);
    return target.anyOf === undefined && target.oneOf === undefined
      ? [{ arm, target }]
      : alternativesOf(target, resolve);
  });
}

/** The property that tells the records of a union apart: words under the same key, that no two of them share. */
export function tagOf(targets: readonly Schema[]): string | undefined {
  const records = targets.filter(({ properties }) => properties !== undefined);
  if (records.length < 2) return undefined;
  const keys = [...records[0]!.properties!.keys()];
  return keys.find((key) => {
    const words = records.map(({ properties }) => wordsIn(properties!.get(key) ?? {}));
    if (words.some((own) => own === undefined)) return false;
    const all = words.flatMap((own) => own!);
    return new Set(all).size === all.length;
  });
}

/**
 * The alternative that a value was meant to be; undefined when it is none of them. A tag that fits decides, however much
 * else is new.
 */
export function alternativeFor(schema: Schema, value: JsonValue, resolve: Resolve): Schema | undefined {
  const alternatives = alternativesOf(schema, resolve);
  const tag = value.kind === 'object' ? tagOf(alternatives.map(({ target }) => target)) : undefined;
  const tagged = tag === undefined ? undefined : membersByKey(value as JsonObject).get(tag)?.value;
  const meant =
    tagged?.kind === 'string'
      ? alternatives.filter(({ target }) =>
          wordsIn(target.properties?.get(tag!) ?? {})?.includes(tagged.value),
        )
      : alternatives;
  let best: Schema | undefined;
  let least = Infinity;
  for (const { arm, target } of meant) {
    const cost = distance(target, value, resolve, 0);
    if (cost < least) [best, least] = [arm, cost];
  }
  return best;
}

/** How far a value is from a schema; infinite when it is of another type. */
function distance(given: Schema, value: JsonValue, resolve: Resolve, depth: number): number {
  const schema = resolve(given);
  const arms = schema.anyOf ?? schema.oneOf;
  if (arms !== undefined) return Math.min(...arms.map((arm) => distance(arm, value, resolve, depth)));
  if (!admitsType(schema, value)) return Infinity;
  const words = wordsIn(schema);
  if (words !== undefined && value.kind === 'string' && !words.includes(value.value))
    return schema.const === undefined ? costOfWord : costOfTag;
  if (depth > deepestLook) return 0;
  const within = (inner: Schema, each: JsonValue) =>
    Math.min(distance(inner, each, resolve, depth + 1), costOfKind);
  if (value.kind === 'list' && typeof schema.items === 'object') {
    const { items } = schema;
    return Math.max(0, ...value.items.slice(0, 4).map((item) => within(items, item)));
  }
  return value.kind === 'object' ? distanceOfObject(schema, value, within, resolve) : 0;
}

function distanceOfObject(
  schema: Schema,
  value: JsonObject,
  within: (schema: Schema, value: JsonValue) => number,
  resolve: Resolve,
): number {
  let sum = 0;
  const members = membersByKey(value);
  for (const key of schema.required ?? []) if (!members.has(key)) sum += 2;
  for (const [key, each] of members) {
    const property = schema.properties?.get(key);
    if (property === undefined) {
      if (typeof schema.additionalProperties === 'object')
        sum += within(schema.additionalProperties, each.value);
      else if (schema.properties !== undefined) sum += 1;
      continue;
    }
    const words = wordsIn(resolve(property));
    const isOtherTag =
      words !== undefined && each.value.kind === 'string' && !words.includes(each.value.value);
    sum += isOtherTag && resolve(property).const !== undefined ? costOfTag : within(property, each.value);
  }
  return sum;
}
