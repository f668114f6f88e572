import type { JsonValue } from '../json/value.js';
import { wordsOf } from '../words.js';

/** What to look for: a key, or a scalar. */
export type Sought =
  { readonly kind: 'key'; readonly text: string } | { readonly kind: 'value'; readonly text: string };

export interface Occurrence {
  readonly tokens: readonly (string | number)[];
  readonly value: JsonValue;
  /** Byte offset of the key, or of the value. */
  readonly offset: number;
}

/**
 * Where a payload has a key, in any spelling of the same words, or a scalar: a string that holds the text, or a
 * number, true, false or null written so. In document order.
 */
export function* occurrencesIn(payload: JsonValue, sought: Sought): Generator<Occurrence> {
  const words = wordsOf(sought.text).join(' ');
  const isKey = (key: string) => key === sought.text || (words !== '' && wordsOf(key).join(' ') === words);
  const pending: Occurrence[] = [{ tokens: [], value: payload, offset: payload.start }];
  for (let each = pending.pop(); each !== undefined; each = pending.pop()) {
    const { tokens, value } = each;
    const last = tokens.at(-1);
    if (sought.kind === 'key' ? typeof last === 'string' && isKey(last) : holds(value, sought.text))
      yield each;
    if (value.kind === 'list') {
      pending.push(
        ...value.items
          .map((item, i) => ({ tokens: [...tokens, i], value: item, offset: item.start }))
          .reverse(),
      );
    } else if (value.kind === 'object') {
      pending.push(
        ...value.members
          .map((member) => ({
            tokens: [...tokens, member.key],
            value: member.value,
            offset: member.keyStart,
          }))
          .reverse(),
      );
    }
  }
}

function holds(value: JsonValue, text: string): boolean {
  switch (value.kind) {
    case 'string':
      return value.value.toLowerCase().includes(text.toLowerCase());
    case 'number':
      return value.text === text;
    case 'boolean':
      return String(value.value) === text;
    case 'null':
      return text === 'null';
    case 'list':
    case 'object':
      return false;
  }
}
