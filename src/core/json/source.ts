import type { FilePlace } from '../error.js';
import type { Origin } from './origin.js';

/** The bytes of one document and where they come from. */
export interface Source {
  /** What a person calls it: a path relative to where they stand, a URL, or `stdin`. */
  readonly name: string;
  readonly bytes: Uint8Array;
  /** The line of the file, counted from 1, on which `bytes` begins: above 1 for a line of NDJSON. */
  readonly firstLine: number;
  /** The column, counted from 1, at which `bytes` begins on that line; 1 when not given. */
  readonly firstColumn?: number;
  /** For a text that was made of a file of another format: where its parts stand there. */
  readonly origin?: Origin;
  /** For a payload that was selected while its document was read: what leads to it. */
  readonly tokens?: readonly string[];
}

const lenient = new TextDecoder('utf-8', { ignoreBOM: true });
const excerptWidth = 72;

/** The place of a byte offset of a source, without an excerpt. Linear in the offset. */
export function placeOf(source: Source, offset: number): FilePlace {
  if (source.origin !== undefined) return { file: source.name, ...source.origin.at(offset) };
  let line = source.firstLine;
  let lineStart = 0;
  for (let i = 0; i < offset; i++) {
    if (source.bytes[i] === 0x0a) {
      line++;
      lineStart = i + 1;
    }
  }
  const before = lineStart === 0 ? (source.firstColumn ?? 1) - 1 : 0;
  return { file: source.name, line, column: before + columnBetween(source.bytes, lineStart, offset) };
}

/** The places of many byte offsets, in their order. Linear in the largest of them, but for putting them in order. */
export function placesOf(source: Source, offsets: readonly number[]): FilePlace[] {
  const { bytes, name, origin } = source;
  if (origin !== undefined) return offsets.map((offset) => ({ file: name, ...origin.at(offset) }));
  const places = new Array<FilePlace>(offsets.length);
  let line = source.firstLine;
  let column = source.firstColumn ?? 1;
  let at = hasByteOrderMark(bytes) ? 3 : 0;
  for (const i of offsets.map((_, index) => index).sort((a, b) => offsets[a]! - offsets[b]!)) {
    for (; at < offsets[i]!; at++) {
      if (bytes[at] === 0x0a) {
        line++;
        column = 1;
      } else if ((bytes[at]! & 0xc0) !== 0x80) column++;
    }
    places[i] = { file: name, line, column };
  }
  return places;
}

/** The place of a byte offset with the line it is on and a caret below it. */
export function excerptOf(source: Source, offset: number): FilePlace {
  const { bytes, origin } = source;
  const place = placeOf(source, offset);
  if (origin !== undefined) {
    const excerpt = origin.excerpt(place);
    return excerpt === undefined ? place : { ...place, excerpt };
  }
  let start = offset;
  while (start > 0 && bytes[start - 1] !== 0x0a && offset - start < 4 * excerptWidth) start--;
  let end = offset;
  while (end < bytes.length && bytes[end] !== 0x0a && end - offset < 4 * excerptWidth) end++;
  const [before, after] = [bytes.subarray(start, offset), bytes.subarray(offset, end)];
  return { ...place, excerpt: excerptBetween(lenient.decode(before), lenient.decode(after)) };
}

/** The text of one line before and after a place, with a caret under the place. */
function excerptBetween(front: string, back: string): string {
  const before = printable(front).slice(-(excerptWidth - 24));
  const after = printable(back).slice(0, excerptWidth - before.length);
  return `${before}${after}\n${' '.repeat(before.length)}^`;
}

/** The same for a whole line and a column of it. */
export function excerptAt(line: string, column: number): string {
  const characters = [...line];
  return excerptBetween(characters.slice(0, column - 1).join(''), characters.slice(column - 1).join(''));
}

/** Characters between the start of a line and an offset on it, plus 1. A byte order mark is not counted. */
export function columnBetween(bytes: Uint8Array, lineStart: number, offset: number): number {
  let column = 1;
  for (let i = lineStart; i < offset; i++) if ((bytes[i]! & 0xc0) !== 0x80) column++;
  return lineStart === 0 && hasByteOrderMark(bytes) && offset >= 3 ? column - 1 : column;
}

/** Whether bytes begin with the UTF-8 byte order mark, which RFC 8259 section 8.1 lets a reader ignore. */
export function hasByteOrderMark(bytes: Uint8Array, start = 0): boolean {
  return bytes[start] === 0xef && bytes[start + 1] === 0xbb && bytes[start + 2] === 0xbf;
}

/** Text with every control and invisible character replaced by a space or a dot, so that carets stay aligned. */
function printable(text: string): string {
  return text.replace(/[\t\r]/g, ' ').replace(/[\p{C}\p{Zl}\p{Zp}\p{M}]/gu, '·');
}
