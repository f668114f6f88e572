import type { JsonValue } from '../json/value.js';
import type { Source } from '../json/source.js';

/** One payload with the document it stands in. */
export interface Payload {
  readonly root: JsonValue;
  readonly source: Source;
  /** Reference tokens from the document to the payload. */
  readonly tokens: readonly string[];
}

/**
 * The payload's own bytes on one line: line breaks, which in JSON are nothing but space, become spaces, and
 * the two characters that some line readers take for line breaks become escapes.
 */
export function lineOf(payload: Payload): Uint8Array {
  const bytes = payload.source.bytes.subarray(payload.root.start, payload.root.end);
  const separators: number[] = [];
  for (let i = 2; i < bytes.length; i++) {
    if ((bytes[i] === 0xa8 || bytes[i] === 0xa9) && bytes[i - 1] === 0x80 && bytes[i - 2] === 0xe2)
      separators.push(i - 2);
  }
  const line = new Uint8Array(bytes.length + separators.length * 3);
  let from = 0;
  let to = 0;
  for (const at of [...separators, bytes.length]) {
    for (; from < at; from++) line[to++] = bytes[from] === 0x0a || bytes[from] === 0x0d ? 0x20 : bytes[from]!;
    if (at < bytes.length) {
      line.set(new TextEncoder().encode(bytes[at + 2] === 0xa8 ? '\\u2028' : '\\u2029'), to);
      to += 6;
      from += 3;
    }
  }
  return line;
}
