import type { JsonObject, JsonValue } from '../json/value.js';
import { readingOf } from '../observe/untyped.js';
import { definitionOf } from './resolve.js';
import type { Origin } from '../json/origin.js';
import { impliedTypes, type Schema, type TypeName } from './schema.js';

/** A value of a file that cannot say all that JSON says, read as its schema says. */
export function readUnder(
  value: JsonValue,
  schema: Schema,
  { hasNoTypes, hasNoAbsence }: Pick<Origin, 'hasNoTypes' | 'hasNoAbsence'>,
): JsonValue {
  const typed = hasNoTypes ? conform(value, schema, schema) : value;
  return hasNoAbsence ? withoutNulls(typed, schema, schema) : typed;
}

/** A value without the nulls under keys that may be absent, and not null. */
function withoutNulls(value: JsonValue, schema: Schema, root: Schema): JsonValue {
  const arms = armsOf(schema, root);
  if (value.kind === 'list') {
    const [list] = arms.filter((arm) => speaksOf(arm, 'array'));
    const items = list?.items;
    return typeof items === 'object'
      ? { ...value, items: value.items.map((each) => withoutNulls(each, items, root)) }
      : value;
  }
  const objects = arms.filter((arm) => speaksOf(arm, 'object'));
  if (value.kind !== 'object' || objects.length === 0) return value;
  const { properties, required = [], additionalProperties: others } = armFor(value, objects);
  return {
    ...value,
    members: value.members.flatMap((each) => {
      const own = properties?.get(each.key);
      const type = own ?? (typeof others === 'object' ? others : undefined);
      if (type === undefined) return [each];
      if (each.value.kind === 'null' && own !== undefined && !required.includes(each.key)) {
        const mayBeNull = armsOf(own, root).some((arm) => speaksOf(arm, 'null') || isOpen(arm));
        return mayBeNull ? [each] : [];
      }
      return [{ ...each, value: withoutNulls(each.value, type, root) }];
    }),
  };
}

/** Whether a schema says nothing of the type. */
function isOpen(schema: Schema): boolean {
  return (
    schema.type === undefined &&
    impliedTypes(schema).length === 0 &&
    schema.enum === undefined &&
    schema.const === undefined
  );
}

/**
 * A value from a file without types, read as its schema says: texts as numbers, booleans or null, what stands alone as a list
 * of one, text as an element with attributes where others have some. What does not fit stays as it is, to be told by whoever
 * validates it.
 */
export function conform(value: JsonValue, schema: Schema, root: Schema): JsonValue {
  const arms = armsOf(schema, root);
  const typed = (type: TypeName) => arms.filter((arm) => speaksOf(arm, type));
  const [list] = typed('array');
  if (value.kind === 'list') {
    if (list === undefined) return value;
    const { items, prefixItems } = list;
    return {
      ...value,
      items: value.items.map((each, i) => {
        const own = prefixItems?.[i] ?? items;
        return typeof own === 'object' ? conform(each, own, root) : each;
      }),
    };
  }
  const objects = typed('object');
  if (value.kind === 'object') {
    // What lacks what a single one must have is one of a list.
    const isFit = list === undefined || objects.some((arm) => hasRequired(value, arm));
    if (objects.length > 0 && isFit) return conformMembers(value, armFor(value, objects), root);
    return list === undefined ? value : alone(value, list, root);
  }
  if (value.kind !== 'string')
    return list !== undefined && typed('null').length === 0 ? alone(value, list, root) : value;
  const { value: text, start, end } = value;
  if (text === '' && typed('null').length > 0) return { kind: 'null', start, end };
  const texts = typed('string').filter(({ enum: words, const: word }) => {
    const all = words ?? (word === undefined ? [] : [word]);
    return all.length === 0 || all.some((each) => each.kind === 'string' && each.value === text);
  });
  if (texts.length > 0) return value;
  const reading = readingOf(text);
  if (reading === 'boolean' && typed('boolean').length > 0)
    return { kind: 'boolean', value: text === 'true', start, end };
  if (reading === 'integer' && typed('integer').length + typed('number').length > 0)
    return { kind: 'number', text, start, end };
  if (reading === 'number' && typed('number').length > 0) return { kind: 'number', text, start, end };
  if (list !== undefined) return alone(value, list, root);
  if (text === '' && objects.length > 0)
    return conformMembers({ kind: 'object', members: [], start, end }, objects[0]!, root);
  for (const key of ['#text', '#markup']) {
    const around = objects.find(({ properties }) => properties?.has(key));
    if (around === undefined) continue;
    const own = key === '#text' ? value : { ...value, value: markupOf(text) };
    return conformMembers(
      { kind: 'object', members: [{ key, keyStart: start, value: own }], start, end },
      around,
      root,
    );
  }
  return value;
}

/** A text as it stands between elements. */
export function markupOf(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
}

function alone(value: JsonValue, { items }: Schema, root: Schema): JsonValue {
  const { start, end } = value;
  return {
    kind: 'list',
    items: [typeof items === 'object' ? conform(value, items, root) : value],
    start,
    end,
  };
}

function conformMembers(value: JsonObject, schema: Schema, root: Schema): JsonValue {
  const { properties, additionalProperties: others } = schema;
  return {
    ...value,
    members: value.members.map((each) => {
      const own = properties?.get(each.key) ?? (typeof others === 'object' ? others : undefined);
      return own === undefined ? each : { ...each, value: conform(each.value, own, root) };
    }),
  };
}

/** The alternatives of a schema, references followed. */
export function armsOf(schema: Schema, root: Schema): readonly Schema[] {
  const known = arms.get(schema);
  if (known !== undefined) return known;
  const found = armsIn(schema, root);
  arms.set(schema, found);
  return found;
}

/** Schemas are asked for each value: a schema belongs to one root. */
const arms = new WeakMap<Schema, readonly Schema[]>();

function armsIn(schema: Schema, root: Schema): Schema[] {
  const found: Schema[] = [];
  const seen = new Set<Schema>();
  const waiting = [schema];
  for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
    if (seen.has(each)) continue;
    seen.add(each);
    const { $ref, oneOf, anyOf } = each;
    if ($ref !== undefined) {
      const name = definitionOf($ref);
      const target = $ref === '#' ? root : name === undefined ? undefined : root.$defs?.get(name);
      if (target !== undefined) waiting.push(target);
    }
    const alternatives = oneOf ?? anyOf;
    if (alternatives !== undefined) waiting.push(...[...alternatives].reverse());
    else if ($ref === undefined) found.push(each);
  }
  return found;
}

function speaksOf(
  { type, properties, additionalProperties, items, prefixItems, enum: words, const: word }: Schema,
  asked: TypeName,
): boolean {
  if (type !== undefined) return type.includes(asked);
  switch (asked) {
    case 'object':
      return properties !== undefined || additionalProperties !== undefined;
    case 'array':
      return items !== undefined || prefixItems !== undefined;
    case 'string':
      return [...(words ?? []), ...(word === undefined ? [] : [word])].some(({ kind }) => kind === 'string');
    default:
      return false;
  }
}

function hasRequired({ members }: JsonObject, { required = [] }: Schema): boolean {
  return required.every((key) => members.some((each) => each.key === key));
}

/** The alternative that an object is of: that whose constants it has, else that whose keys it has. */
function armFor(value: JsonObject, arms: readonly Schema[]): Schema {
  const keys = new Map(value.members.map(({ key, value: each }) => [key, each]));
  const isTold = ({ properties }: Schema): boolean => {
    const tags = [...(properties ?? [])].filter(
      ([, { const: word, enum: words }]) => word !== undefined || words !== undefined,
    );
    return (
      tags.length > 0 &&
      tags.every(([key, { const: word, enum: words }]) => {
        const own = keys.get(key);
        const all = words ?? [word!];
        return (
          own === undefined ||
          all.some((each) => each.kind === 'string' && own.kind === 'string' && each.value === own.value)
        );
      })
    );
  };
  const hasKeys = (arm: Schema) => hasRequired(value, arm);
  return arms.find((arm) => arms.length > 1 && isTold(arm) && hasKeys(arm)) ?? arms.find(hasKeys) ?? arms[0]!;
}
