import type { JsonValue } from '../../core/json/value.js';

/** Keywords that types are not made of as they stand. */
const foreign: ReadonlySet<string> = new Set(
  'allOf not if dependentSchemas dependencies patternProperties $dynamicRef $recursiveRef unevaluatedProperties unevaluatedItems nullable additionalItems $anchor $dynamicAnchor discriminator'.split(
    ' ',
  ),
);

/** Keywords that hold schemas by names, which mean nothing. */
const maps: ReadonlySet<string> = new Set(['properties', '$defs', 'definitions']);

/** Keywords that hold payloads. */
const payloads: ReadonlySet<string> = new Set(['enum', 'const', 'default', 'examples']);

/** Whether types are made of a schema as it stands: with no keyword and no reference that must be worked out before. */
export function isPlain(root: JsonValue): boolean {
  const waiting: JsonValue[] = [root];
  let isTop = true;
  for (let value = waiting.pop(); value !== undefined; value = waiting.pop()) {
    if (value.kind === 'list') {
      if (value.items.some((item) => item.kind === 'boolean')) return false;
      waiting.push(...value.items);
    }
    if (value.kind !== 'object') continue;
    let isReference = false;
    let hasArms = false;
    let others = 0;
    for (const { key, value: inner } of value.members) {
      if (foreign.has(key)) return false;
      if (!isTop && (key === '$id' || (key === 'id' && inner.kind === 'string'))) return false;
      if (key === 'items' && inner.kind === 'list') return false;
      if (key === '$ref') {
        if (inner.kind === 'string' && !/^#(?:$|\/(?:\$defs|definitions)\/[^/]+$)/.test(inner.value))
          return false;
        isReference = true;
      } else if (key === 'anyOf' || key === 'oneOf') hasArms = true;
      else if (/^(?:type|properties|required|items|enum|const|additionalProperties)$/.test(key)) others++;
      if (payloads.has(key)) continue;
      if (maps.has(key)) {
        if (inner.kind !== 'object') continue;
        for (const member of inner.members) {
          if (member.value.kind === 'boolean' && !member.value.value) return false;
          waiting.push(member.value);
        }
      } else if (inner.kind === 'object' || inner.kind === 'list') waiting.push(inner);
    }
    if (isReference && (hasArms || others > 0)) return false;
    if (hasArms && others > 0) return false;
    isTop = false;
  }
  return true;
}
