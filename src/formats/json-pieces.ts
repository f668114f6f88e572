import type { Batch } from '../core/json/batch.js';
import type { Position } from '../core/json/origin.js';
import { excerptAt } from '../core/json/source.js';
import type { Original } from './transcode.js';

/** No line is longer than the largest string. */
const longestLine = 2 ** 30;

/** A line and a column in one number, since a document has as many as parts. */
export function pack(line: number, column: number): number {
  return line * longestLine + column;
}

export function unpack(packed: number): Position {
  return { line: Math.floor(packed / longestLine), column: packed % longestLine };
}

/** A piece that stands nowhere itself: what stands before it does. */
const nowhere = 0;

/**
 * JSON texts that are put together piece by piece, each piece with the position in a file that it stands for. Pieces may be
 * changed and moved until they are taken.
 */
export class JsonPieces {
  private pieces: string[] = [];
  private positions: number[] = [];
  private documents: (readonly string[])[] = [];
  private size = 0;

  /** @param resolve what a position stands for, where it is no line and column itself */
  constructor(
    private readonly original: Original,
    private readonly resolve: (position: number) => Position = unpack,
  ) {}

  /** How many pieces there are. */
  get length(): number {
    return this.pieces.length;
  }

  /** Characters of what has not been taken. */
  get characters(): number {
    return this.size;
  }

  /** Whether documents have ended that were not taken. */
  get isDue(): boolean {
    return this.documents.length > 0;
  }

  /** @param position as `pack` gives it; of what stands before it when it is left out */
  put(piece: string, position = nowhere): void {
    this.pieces.push(piece);
    this.positions.push(position);
    this.size += piece.length;
  }

  at(index: number): string {
    return this.pieces[index]!;
  }

  /** Puts a piece in the place of one that was left empty. */
  fill(index: number, piece: string): void {
    this.pieces[index] = piece;
  }

  /** Drops all pieces from one on. */
  cut(index: number): void {
    this.pieces.length = index;
    this.positions.length = index;
  }

  /** Puts the pieces from one on in another order. @param order the runs, each from one index up to another */
  arrange(from: number, order: readonly (readonly [from: number, to: number] | string)[]): void {
    const pieces: string[] = [];
    const positions: number[] = [];
    for (const each of order) {
      if (typeof each === 'string') {
        pieces.push(each);
        positions.push(nowhere);
        continue;
      }
      for (let i = each[0]; i < each[1]; i++) {
        pieces.push(this.pieces[i]!);
        positions.push(this.positions[i]!);
      }
    }
    this.cut(from);
    for (let i = 0; i < pieces.length; i++) {
      this.pieces.push(pieces[i]!);
      this.positions.push(positions[i]!);
    }
  }

  /** Ends a document. @param tokens what leads to it in the document that it was selected from */
  end(tokens?: readonly string[]): void {
    this.documents.push(tokens ?? []);
    this.put('\n');
  }

  /** The documents that have ended. */
  take(): Batch {
    const { pieces, positions, documents, original, resolve } = this;
    this.pieces = [];
    this.positions = [];
    this.documents = [];
    this.size = 0;
    // The last line feed ends nothing.
    pieces.pop();
    const text = pieces.join('');
    const bytes = Buffer.from(text);
    const ends: number[] = [];
    if (documents.length > 1)
      for (let end = bytes.indexOf(0x0a); end >= 0; end = bytes.indexOf(0x0a, end + 1)) ends.push(end);
    ends.push(bytes.length);
    const { name, line, hasNoTypes, hasNoLists, hasNoAbsence } = original;
    let starts: Float64Array | undefined;
    const source = {
      name,
      bytes,
      firstLine: 1,
      origin: {
        hasNoTypes,
        hasNoLists,
        hasNoAbsence,
        at: (offset: number) => {
          starts ??= startsOf(pieces, bytes.length === text.length);
          let piece = lastUpTo(starts, offset);
          while (piece > 0 && positions[piece] === nowhere) piece--;
          return resolve(positions[piece]!);
        },
        excerpt: (position: Position) => {
          const found = line(position.line);
          return found === undefined ? undefined : excerptAt(found, position.column);
        },
      },
    };
    return { source, ends, ...(documents[0]!.length > 0 && { tokens: documents }) };
  }
}

/** Where pieces start in their text, in bytes. */
function startsOf(pieces: readonly string[], isAscii: boolean): Float64Array {
  const starts = new Float64Array(pieces.length);
  let start = 0;
  pieces.forEach((piece, i) => {
    starts[i] = start;
    start += isAscii ? piece.length : Buffer.byteLength(piece);
  });
  return starts;
}

/** The index of the last of ascending numbers that is no larger than one; the first when all are. */
export function lastUpTo(numbers: ArrayLike<number>, most: number): number {
  let low = 0;
  let high = numbers.length;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (numbers[middle]! <= most) low = middle;
    else high = middle;
  }
  return low;
}

/** What must be escaped in a JSON string, and halves of characters. */
const special = /["\\\u0000-\u001f\ud800-\udfff]/;

/** A text as a JSON literal. */
export function quoted(text: string): string {
  return special.test(text) ? JSON.stringify(text) : `"${text}"`;
}
