import { parsePointer, resolvePointer } from '../../core/json/pointer.js';
import { json, type JsonObject, type JsonValue } from '../../core/json/value.js';

/** Keywords that hold schemas by names, which mean nothing. */
const maps: ReadonlySet<string> = new Set([
  'properties',
  'patternProperties',
  '$defs',
  'definitions',
  'dependentSchemas',
]);

/** What is said of payloads, and holds some: a validator would look for identifiers in them. */
const payloads = /^(?:examples?|default|x-.*)$/;

/**
 * What of a description a schema in it needs: it and all that it refers to, where they stand.
 * @param pointer to the schema; missing for the whole
 */
export function partOf(root: JsonValue, pointer: string): JsonValue {
  const needed = new Map<string, JsonValue>();
  const waiting = [pointer];
  for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
    if (needed.has(each)) continue;
    const found = resolvePointer(root, parsePointer(each) ?? []);
    if (found === undefined) continue;
    const schema = withoutPayloads(found, false);
    needed.set(each, schema);
    for (const reference of referencesIn(schema))
      if (reference.startsWith('#')) waiting.push(decodeURIComponent(reference.slice(1)));
  }
  let made: JsonValue = json.object([]);
  // What stands inside of another is there with it.
  for (const [each, schema] of [...needed].sort(([a], [b]) => a.length - b.length))
    if (resolvePointer(made, parsePointer(each) ?? []) === undefined)
      made = withValue(made, parsePointer(each) ?? [], schema);
  return made;
}

function withValue(around: JsonValue, tokens: readonly string[], value: JsonValue): JsonValue {
  const [token, ...rest] = tokens;
  if (token === undefined) return value;
  const own: JsonObject = around.kind === 'object' ? around : json.object([]);
  const known = own.members.find(({ key }) => key === token)?.value ?? json.object([]);
  const inner = withValue(known, rest, value);
  return {
    ...own,
    members: [
      ...own.members.filter(({ key }) => key !== token),
      { key: token, keyStart: value.start, value: inner },
    ],
  };
}

function withoutPayloads(value: JsonValue, isMap: boolean): JsonValue {
  if (value.kind === 'list')
    return { ...value, items: value.items.map((each) => withoutPayloads(each, false)) };
  if (value.kind !== 'object') return value;
  return {
    ...value,
    members: value.members
      .filter(({ key }) => isMap || !payloads.test(key))
      .map((each) =>
        !isMap && (each.key === 'enum' || each.key === 'const')
          ? each
          : { ...each, value: withoutPayloads(each.value, !isMap && maps.has(each.key)) },
      ),
  };
}

function referencesIn(schema: JsonValue): string[] {
  const found: string[] = [];
  const waiting = [schema];
  for (let value = waiting.pop(); value !== undefined; value = waiting.pop()) {
    if (value.kind === 'list') for (const item of value.items) waiting.push(item);
    if (value.kind !== 'object') continue;
    for (const { key, value: inner } of value.members)
      if (key === '$ref' && inner.kind === 'string') found.push(inner.value);
      else waiting.push(inner);
  }
  return found;
}
