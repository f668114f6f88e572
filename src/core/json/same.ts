import { sameNumber } from './number.js';
import { membersByKey, type JsonValue } from './value.js';

/** Whether two values are the same: numbers by what they are, objects in any order. */
export function sameValue(a: JsonValue, b: JsonValue): boolean {
  if (a.kind === 'number') return b.kind === 'number' && sameNumber(a.text, b.text);
  if (a.kind === 'string' || a.kind === 'boolean') return a.kind === b.kind && a.value === b.value;
  if (a.kind === 'list')
    return (
      b.kind === 'list' &&
      a.items.length === b.items.length &&
      a.items.every((each, i) => sameValue(each, b.items[i]!))
    );
  if (a.kind === 'object') {
    if (b.kind !== 'object') return false;
    const [own, others] = [membersByKey(a), membersByKey(b)];
    return (
      own.size === others.size &&
      [...own].every(([key, { value }]) => {
        const other = others.get(key);
        return other !== undefined && sameValue(value, other.value);
      })
    );
  }
  return a.kind === b.kind;
}
