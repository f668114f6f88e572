import type { Origin, Position } from '../core/json/origin.js';
import { excerptAt, type Source } from '../core/json/source.js';
import { lastUpTo } from './json-pieces.js';
import type { JsonList, JsonObject, JsonValue } from '../core/json/value.js';
import { quote } from '../core/json/write.js';

/** What there is to know of a file for the places of what was read from it. */
export interface Original {
  readonly name: string;
  /** Its lines, for excerpts, where it is held. */
  readonly line: (line: number) => string | undefined;
  readonly hasNoTypes: boolean;
  readonly hasNoLists: boolean;
  readonly hasNoAbsence: boolean;
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
  let text = '';
  const pieces: string[] = [];
  let length = 0;
  // Counted in characters first: they are bytes as long as all are ASCII.
  const offsets: number[] = [];
  const starts: number[] = [];
  const put = (piece: string): void => {
    text += piece;
    length += piece.length;
    if (text.length < longestPiece) return;
    pieces.push(text);
    text = '';
  };
  const note = (start: number): void => {
    offsets.push(length);
    starts.push(start);
  };
  const open: { readonly value: JsonList | JsonObject; next: number }[] = [];
  const begin = (each: JsonValue): void => {
    note(each.start);
    if (each.kind === 'list' || each.kind === 'object') {
      put(each.kind === 'list' ? '[' : '{');
      open.push({ value: each, next: 0 });
    } else put(scalar(each));
  };
  begin(value);
  for (let top = open.at(-1); top !== undefined; top = open.at(-1)) {
    const { value: around } = top;
    const i = top.next++;
    if (i === (around.kind === 'list' ? around.items : around.members).length) {
      put(around.kind === 'list' ? ']' : '}');
      open.pop();
      continue;
    }
    if (i > 0) put(',');
    if (around.kind === 'list') begin(around.items[i]!);
    else {
      const { key, keyStart, value: inside } = around.members[i]!;
      note(keyStart);
      put(quote(key));
      put(':');
      begin(inside);
    }
  }
  pieces.push(text);
  const whole = pieces.join('');
  const bytes = Buffer.from(whole);
  if (bytes.length !== whole.length) toBytes(offsets, whole);
  const at = (offset: number): Position => positionOf(starts[lastUpTo(offsets, offset)]!);
  const { hasNoTypes, hasNoLists, hasNoAbsence } = original;
  const origin: Origin = {
    hasNoTypes,
    hasNoLists,
    hasNoAbsence,
    at,
    excerpt: ({ line, column }) => {
      const found = original.line(line);
      if (found === undefined) return undefined;
      return excerptAt(found, column);
    },
  };
  return { name: original.name, bytes, firstLine: 1, origin };
}

const longestPiece = 1 << 16;

/** Makes offsets in characters, which ascend, offsets in bytes. */
function toBytes(offsets: number[], text: string): void {
  let from = 0;
  let bytes = 0;
  offsets.forEach((offset, i) => {
    bytes += Buffer.byteLength(text.slice(from, offset));
    from = offset;
    offsets[i] = bytes;
  });
}

/** A part of a text that was made of another format, changed, as a text of its own. */
export function sourceAgain(value: JsonValue, { name, origin }: Source): Source {
  const { hasNoTypes, hasNoLists, hasNoAbsence } = origin!;
  const original = { name, line: () => undefined, hasNoTypes, hasNoLists, hasNoAbsence };
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
