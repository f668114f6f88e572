import { parse, CsvError } from 'csv-parse';
import { parse as parseAll } from 'csv-parse/sync';
import { SkevoError } from '../../core/error.js';
import type { Origin, Position } from '../../core/json/origin.js';
import { excerptBetween, type Source } from '../../core/json/source.js';
import { quote } from '../../core/json/write.js';
import { inChunks } from '../decode.js';
import type { Format } from '../format.js';

/** What stands between the cells of a row; the likelier first. */
const delimiters = [',', ';', '\t', '|'];
/** So much of a file tells what stands between its cells. */
const sampleSize = 1 << 16;

/** One row as csv-parse gives it with `info` and `raw`. */
interface Row {
  readonly record: readonly string[];
  readonly raw: string;
  readonly info: { readonly lines: number };
}

/**
 * CSV as RFC 4180 has it, and what is written in its place: each row after the first is a payload, an object by the names of
 * the first. Cells are texts, whatever they may stand for.
 * @param given what stands between cells; found out when it is not said
 */
export const csv = (given: string | undefined): Format => ({
  async *read(input, bytes) {
    let parser: ReturnType<typeof parse> | undefined;
    let delimiter = given ?? ',';
    let header: readonly string[] | undefined;
    let prefixes: readonly string[] = [];
    function* rows(): Generator<Source> {
      for (let row = parser!.read() as Row | null; row !== null; row = parser!.read() as Row | null) {
        const cells = new Cells(row, delimiter);
        const { record } = row;
        const failAt = (cell: number, message: string, remedy: string): never => {
          const { line, column } = cells.at(cell);
          const place = { file: input.name, line, column, excerpt: cells.excerpt({ line, column }) };
          throw new SkevoError(message, remedy, place);
        };
        if (header === undefined) {
          header = record;
          checkHeader(header, failAt);
          prefixes = header.map((name, i) => `${i === 0 ? '{' : ','}${quote(name)}:`);
        } else if (record.length === header.length) yield rowSource(input.name, record, prefixes, cells);
        else {
          const shown = (count: number) => `${count} ${count === 1 ? 'cell' : 'cells'}`;
          failAt(
            Math.min(record.length - 1, header.length),
            `this row has ${shown(record.length)}, and the header ${shown(header.length)}`,
            `Cells are told apart by ${spoken(delimiter)}; put text that holds such a sign in double quotes.`,
          );
        }
      }
    }
    try {
      let begun = '';
      const start = (): void => {
        delimiter = given ?? delimiterOf(begun);
        parser = parse({
          delimiter,
          bom: true,
          relax_column_count: true,
          skip_empty_lines: true,
          info: true,
          raw: true,
        });
        parser.on('error', () => {});
      };
      for await (const chunk of inChunks(bytes(), input.name)) {
        if (parser === undefined) {
          begun += chunk;
          if (begun.length < sampleSize) continue;
          start();
          parser!.write(begun);
        } else parser.write(chunk);
        if (parser!.errored) throw parser!.errored;
        yield* rows();
      }
      if (parser === undefined) {
        start();
        parser!.write(begun);
      }
      parser!.end();
      // It ends once all of it was taken.
      while (!parser!.readableEnded) {
        await new Promise(setImmediate);
        if (parser!.errored) throw parser!.errored;
        yield* rows();
      }
    } catch (error) {
      throw error instanceof CsvError ? asTold(error, input.name) : error;
    }
    if (header === undefined)
      throw new SkevoError(`${input.name} has no header`, 'The first row must name the columns.', {
        file: input.name,
        line: 1,
        column: 1,
      });
  },
});

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

/** A row as a JSON object of texts. */
function rowSource(
  name: string,
  record: readonly string[],
  prefixes: readonly string[],
  cells: Cells,
): Source {
  let text = '';
  for (let i = 0; i < record.length; i++) text += prefixes[i]! + quote(record[i]!);
  const origin: Origin = {
    hasNoTypes: true,
    hasNoLists: false,
    at: (offset) => cells.at(cellAt(record, prefixes, offset)),
    excerpt: (position) => cells.excerpt(position),
  };
  return { name, bytes: Buffer.from(`${text}}`), firstLine: 1, origin };
}

/** The cell that a byte offset of the JSON text of a row is in. */
function cellAt(record: readonly string[], prefixes: readonly string[], offset: number): number {
  let end = 0;
  for (let i = 0; i < record.length; i++) {
    end += Buffer.byteLength(prefixes[i]!) + Buffer.byteLength(quote(record[i]!));
    if (offset < end) return i;
  }
  return record.length - 1;
}

/** Where the cells of a row stand, looked for when it is asked. */
class Cells {
  constructor(
    private readonly row: Row,
    private readonly delimiter: string,
  ) {}

  /** The row without the line ends around it. */
  private get text(): string {
    return this.row.raw.replace(/^[\r\n\ufeff]+|[\r\n]+$/g, '');
  }

  private get firstLine(): number {
    return this.row.info.lines - (this.text.match(/\n/g)?.length ?? 0);
  }

  at(cell: number): Position {
    let line = this.firstLine;
    let column = 1;
    let passed = 0;
    let isQuoted = false;
    for (const character of this.text) {
      if (passed === cell) break;
      if (character === '"') isQuoted = !isQuoted;
      else if (character === this.delimiter && !isQuoted) passed++;
      if (character === '\n') {
        line++;
        column = 1;
      } else column++;
    }
    return { line, column };
  }

  excerpt({ line, column }: Position): string {
    const shown = [...(this.text.split(/\r?\n/)[line - this.firstLine] ?? '')];
    return excerptBetween(shown.slice(0, column - 1).join(''), shown.slice(column - 1).join(''));
  }
}

/** What stands between the cells of a file that begins so: what makes the most columns that all its rows have. */
function delimiterOf(text: string): string {
  let best = ',';
  let most = 1;
  for (const delimiter of delimiters) {
    let rows: string[][];
    try {
      rows = parseAll(text, {
        delimiter,
        bom: true,
        relax_column_count: true,
        skip_empty_lines: true,
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

function asTold(error: CsvError, name: string): SkevoError {
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
    line: lines ?? 1,
    column: Math.max(1, [...raw.slice(raw.lastIndexOf('\n') + 1)].length),
  });
}
