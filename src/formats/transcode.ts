import type { Origin, Position } from '../core/json/origin.js';
import { excerptBetween, type Source } from '../core/json/source.js';
import type { JsonValue } from '../core/json/value.js';
import { quote } from '../core/json/write.js';

/** What there is to know of a file for the places of what was read from it. */
export interface Original {
  readonly name: string;
  /** Its lines, for excerpts, where it is held. */
  readonly line: (line: number) => string | undefined;
  readonly hasNoTypes: boolean;
  readonly hasNoLists: boolean;
}

/**
 * A value that was read from a file of another format as JSON text that knows where its parts stand in the file.
 * @param positionOf the position of what `start` or `keyStart` of the parts stands for
 */
export function sourceOf(
  value: JsonValue,
  original: Original,
  positionOf: (start: number) => Position,
): Source {
  const text: string[] = [];
  const offsets: number[] = [];
  const starts: number[] = [];
  let length = 0;
  const put = (piece: string): void => {
    text.push(piece);
    length += Buffer.byteLength(piece);
  };
  const note = (start: number): void => {
    offsets.push(length);
    starts.push(start);
  };
  const waiting: (JsonValue | string | { readonly key: string; readonly keyStart: number })[] = [value];
  for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
    if (typeof each === 'string') put(each);
    else if ('key' in each) {
      note(each.keyStart);
      put(`${quote(each.key)}:`);
    } else {
      note(each.start);
      if (each.kind === 'list') {
        put('[');
        waiting.push(']');
        for (let i = each.items.length - 1; i >= 0; i--)
          waiting.push(each.items[i]!, ...(i > 0 ? [','] : []));
      } else if (each.kind === 'object') {
        put('{');
        waiting.push('}');
        for (let i = each.members.length - 1; i >= 0; i--) {
          const { key, keyStart, value: inside } = each.members[i]!;
          waiting.push(inside, { key, keyStart }, ...(i > 0 ? [','] : []));
        }
      } else put(scalar(each));
    }
  }
  const at = (offset: number): Position => positionOf(starts[lastUpTo(offsets, offset)]!);
  const { hasNoTypes, hasNoLists } = original;
  const origin: Origin = {
    hasNoTypes,
    hasNoLists,
    at,
    excerpt: ({ line, column }) => {
      const found = original.line(line);
      if (found === undefined) return undefined;
      const characters = [...found];
      return excerptBetween(characters.slice(0, column - 1).join(''), characters.slice(column - 1).join(''));
    },
  };
  return { name: original.name, bytes: new TextEncoder().encode(text.join('')), firstLine: 1, origin };
}

/** A part of a text that was made of another format, changed, as a text of its own. */
export function sourceAgain(value: JsonValue, { name, origin }: Source): Source {
  const { hasNoTypes, hasNoLists } = origin!;
  const original = { name, line: () => undefined, hasNoTypes, hasNoLists };
  const made = sourceOf(value, original, (start) => origin!.at(start));
  return { ...made, origin: { ...made.origin!, excerpt: (position) => origin!.excerpt(position) } };
}

function scalar(value: JsonValue): string {
  switch (value.kind) {
    case 'null':
      return 'null';
    case 'boolean':
      return String(value.value);
    case 'number':
      return value.text;
    case 'string':
      return quote(value.value);
    default:
      throw new Error(`${value.kind} is no scalar`);
  }
}

/** The index of the last of ascending numbers that is no larger than one; the first when all are. */
function lastUpTo(numbers: readonly number[], most: number): number {
  let low = 0;
  let high = numbers.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (numbers[middle]! <= most) low = middle;
    else high = middle;
  }
  return low;
}
