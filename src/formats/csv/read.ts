import { CsvError, parse } from 'csv-parse/sync';
import { SkevoError } from '../../core/error.js';
import type { Origin, Position } from '../../core/json/origin.js';
import { excerptAt } from '../../core/json/source.js';
import { inChunks } from '../decode.js';
import type { Batch } from '../../core/json/batch.js';
import { pack, quoted, JsonPieces, unpack } from '../json-pieces.js';
import { Nesting } from './nested.js';
import type { Format } from '../format.js';
import { tooLarge, type Input } from '../inputs.js';

/** What stands between the cells of a row; the likelier first. */
const delimiters = [',', ';', '\t', '|'];
/** So much of a file tells what stands between its cells. */
const sampleSize = 1 << 16;

/**
 * CSV as RFC 4180 has it, and what is written in its place: each row after the first is a payload, an object by the names of
 * the first. Cells are texts, whatever they may stand for.
 * @param given what stands between cells; found out when it is not said
 * @param isNested whether columns may be parts of records and lists
 */
export const csv = (given: string | undefined, isNested = false): Format => ({
  async *read(input, bytes) {
    let delimiter: string | undefined;
    let header: readonly string[] | undefined;
    let prefixes: readonly string[] = [];
    let nesting: Nesting | undefined;
    for await (const { text, line } of blocksOf(input, inChunks(bytes(), input.name))) {
      delimiter ??= given ?? delimiterOf(text.slice(0, sampleSize));
      let rows: string[][];
      try {
        rows = parse(text, { ...options, delimiter });
      } catch (error) {
        throw error instanceof CsvError ? asTold(error, input.name, line) : error;
      }
      const block = new Block(text, line, delimiter);
      const first = header === undefined ? 1 : 0;
      const lines: string[] = [];
      const out = new JsonPieces(
        {
          name: input.name,
          line: (number) => block.line(number),
          hasNoTypes: true,
          hasNoLists: false,
          hasNoAbsence: false,
        },
        (position) => {
          const { line: row, column: cell } = unpack(position);
          return block.at(row - 1, cell - 1);
        },
      );
      for (const [i, record] of rows.entries()) {
        const failAt = (cell: number, message: string, remedy: string): never => {
          const place = block.at(i, cell);
          throw new SkevoError(message, remedy, {
            file: input.name,
            ...place,
            excerpt: block.excerpt(place),
          });
        };
        if (header === undefined) {
          header = record;
          checkHeader(header, failAt);
          if (isNested) nesting = new Nesting(header, failAt);
          prefixes = header.map((name, k) => `${k === 0 ? '{' : ','}${quoted(name)}:`);
        } else if (record.length === header.length && nesting !== undefined) {
          nesting.put(record, out, (column) => pack(i + 1, column + 1));
          out.end();
        } else if (record.length === header.length) {
          let text = '';
          for (let k = 0; k < record.length; k++) text += prefixes[k]! + quoted(record[k]!);
          lines.push(text);
        } else {
          const shown = (count: number) => `${count} ${count === 1 ? 'cell' : 'cells'}`;
          failAt(
            Math.min(record.length - 1, header.length),
            `this row has ${shown(record.length)}, and the header ${shown(header.length)}`,
            `Cells are told apart by ${spoken(delimiter)}; put text that holds such a sign in double quotes.`,
          );
        }
      }
      if (out.isDue) yield out.take();
      if (lines.length > 0) yield batch(input.name, `${lines.join('}\n')}}`, rows, first, prefixes, block);
    }
    if (header === undefined)
      throw new SkevoError(`${input.name} has no header`, 'The first row must name the columns.', {
        file: input.name,
        line: 1,
        column: 1,
      });
  },
});

const options = { bom: true, relax_column_count: true, skip_empty_lines: true } as const;

/** Blocks of whole rows, and the lines on which they begin. @throws SkevoError for a row that is too large to be held */
async function* blocksOf(
  input: Input,
  chunks: AsyncIterable<string>,
): AsyncGenerator<{ text: string; line: number }> {
  // What is held has no row that ends in it: only what comes is looked through.
  let held: string[] = [];
  let size = 0;
  let isQuoted = false;
  let line = 1;
  for await (const chunk of chunks) {
    // What is parsed at once is short-lived only as long as there is little of it.
    for (let from = 0; from < chunk.length; from += sampleSize) {
      const piece = chunk.slice(from, from + sampleSize);
      const { end, isOpen } = endOfRows(piece, isQuoted);
      isQuoted = isOpen;
      if (end === 0) {
        held.push(piece);
        size += piece.length;
        if (size > input.limit) throw tooLarge(input);
        continue;
      }
      const text = held.join('') + piece.slice(0, end);
      held = [piece.slice(end)];
      size = held[0]!.length;
      yield { text, line };
      line += linesIn(text);
    }
  }
  if (size > 0) yield { text: held.join(''), line };
}

/**
 * Where the last row ends that ends in a piece of a file: after a line's end outside of quotes; 0 when none does.
 * @param isQuoted whether the piece begins in quotes
 * @returns also whether it ends in quotes
 */
function endOfRows(piece: string, isQuoted: boolean): { end: number; isOpen: boolean } {
  let isOpen = isQuoted;
  let end = 0;
  let from = 0;
  for (;;) {
    const next = piece.indexOf('"', from);
    if (!isOpen) {
      const last = piece.lastIndexOf('\n', next < 0 ? piece.length : next);
      if (last >= from) end = last + 1;
    }
    if (next < 0) return { end, isOpen };
    isOpen = !isOpen;
    from = next + 1;
  }
}

function linesIn(text: string): number {
  let count = 0;
  for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) count++;
  return count;
}

function checkHeader(
  header: readonly string[],
  refuse: (cell: number, message: string, remedy: string) => never,
): void {
  header.forEach((name, i) => {
    if (name.trim() === '') refuse(i, `column ${i + 1} has no name`, 'Name it in the first row.');
    if (header.indexOf(name) !== i)
      refuse(
        i,
        `two columns are called ${JSON.stringify(name)}, ${header.indexOf(name) + 1} and ${i + 1}`,
        'Give each a name of its own.',
      );
  });
}

/** Rows as JSON objects of texts, each on a line. */
function batch(
  name: string,
  lines: string,
  rows: readonly (readonly string[])[],
  first: number,
  prefixes: readonly string[],
  block: Block,
): Batch {
  const bytes = Buffer.from(lines);
  const ends: number[] = [];
  for (let end = bytes.indexOf(0x0a); end >= 0; end = bytes.indexOf(0x0a, end + 1)) ends.push(end);
  ends.push(bytes.length);
  let last: { readonly row: number; readonly cells: readonly number[] } | undefined;
  const origin: Origin = {
    hasNoTypes: true,
    hasNoLists: false,
    hasNoAbsence: false,
    at: (offset) => {
      const row = firstAbove(ends, offset - 1);
      const start = row === 0 ? 0 : ends[row - 1]! + 1;
      if (last?.row !== row) last = { row, cells: endsOfCells(rows[first + row]!, prefixes) };
      return block.at(first + row, firstAbove(last.cells, offset - start));
    },
    excerpt: (position) => block.excerpt(position),
  };
  return { source: { name, bytes, firstLine: 1, origin }, ends };
}

/** The index of the first of ascending numbers that is above one; the last when none is. */
function firstAbove(numbers: readonly number[], one: number): number {
  let low = 0;
  let high = numbers.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (numbers[middle]! > one) high = middle;
    else low = middle + 1;
  }
  return low;
}

/** Where the cells of a row end in its JSON text, in bytes. */
function endsOfCells(record: readonly string[], prefixes: readonly string[]): number[] {
  let end = 0;
  return record.map((cell, i) => (end += Buffer.byteLength(prefixes[i]!) + Buffer.byteLength(quoted(cell))));
}

/** Rows that were read at once. Where they stand is looked for when it is asked, for all cells of a row together. */
class Block {
  private rows: { readonly raw: string; readonly info: { readonly lines: number } }[] = [];
  private last: { readonly row: number; readonly cells: readonly Position[] } | undefined = undefined;

  constructor(
    private readonly text: string,
    private readonly first: number,
    private readonly delimiter: string,
  ) {}

  at(row: number, cell: number): Position {
    if (this.last?.row !== row) this.last = { row, cells: this.cellsOf(row) };
    return this.last.cells[cell] ?? this.last.cells.at(-1)!;
  }

  private cellsOf(row: number): Position[] {
    const { delimiter } = this;
    if (row >= this.rows.length) {
      const asked = { ...options, delimiter, to: 2 * row + 1, raw: true, info: true };
      this.rows = parse(this.text, asked) as unknown as typeof this.rows;
    }
    const { raw, info } = this.rows[row]!;
    const own = raw.replace(/^[\r\n\ufeff]+|[\r\n]+$/g, '');
    let line = this.first + info.lines - 1 - linesIn(own);
    let column = 1;
    let isQuoted = false;
    const cells: Position[] = [{ line, column }];
    for (const character of own) {
      if (character === '\n') {
        line++;
        column = 1;
      } else column++;
      if (character === '"') isQuoted = !isQuoted;
      else if (character === delimiter && !isQuoted) cells.push({ line, column });
    }
    return cells;
  }

  line(line: number): string {
    return (this.text.split('\n')[line - this.first] ?? '').replace(/\r$/, '');
  }

  excerpt({ line, column }: Position): string {
    return excerptAt(this.line(line), column);
  }
}

/** What stands between the cells of a file that begins so: what makes the most columns that all its rows have. */
function delimiterOf(text: string): string {
  let best = ',';
  let most = 1;
  for (const delimiter of delimiters) {
    let rows: string[][];
    try {
      rows = parse(text, {
        delimiter,
        ...options,
        to: 200,
        relax_quotes: true,
      });
    } catch {
      // What is wrong is told when the file is read.
      continue;
    }
    const whole = rows.slice(0, Math.max(1, rows.length - 1));
    const [first] = whole;
    const same = whole.filter((row) => row.length === first?.length).length;
    if (first !== undefined && first.length > most && same >= whole.length * 0.9) {
      best = delimiter;
      most = first.length;
    }
  }
  return best;
}

function spoken(delimiter: string): string {
  return { ',': 'commas', ';': 'semicolons', '\t': 'tabs', '|': 'bars' }[delimiter] ?? delimiter;
}

function asTold(error: CsvError, name: string, firstLine: number): SkevoError {
  const { code, lines, raw = '' } = error as CsvError & { readonly lines?: number; readonly raw?: string };
  const messages: Record<string, [string, string]> = {
    CSV_QUOTE_NOT_CLOSED: [
      'a double quote is opened and never closed',
      'Close it, or double it where it is part of the text.',
    ],
    CSV_INVALID_CLOSING_QUOTE: [
      'text goes on after a closing double quote',
      'Double the quotes that are part of the text.',
    ],
    INVALID_OPENING_QUOTE: [
      'a double quote stands inside a cell that has none around it',
      'Put the cell in double quotes, and double those in it.',
    ],
  };
  const [message, remedy] = messages[code] ?? ['this is not CSV', 'See RFC 4180 for how cells are written.'];
  return new SkevoError(message, remedy, {
    file: name,
    line: firstLine + (lines ?? 1) - 1,
    column: Math.max(1, [...raw.slice(raw.lastIndexOf('\n') + 1)].length),
  });
}
