import { stringify } from 'csv-stringify/sync';
import { membersByKey, type JsonValue } from '../../core/json/value.js';
import { unheld } from '../unheld.js';

/** Rows that are made text at once. */
const batch = 512;

/** A column for every key that one of the records has. */
export function columnsOf(values: readonly JsonValue[]): string[] {
  return [
    ...new Set(values.flatMap((value) => (value.kind === 'object' ? [...membersByKey(value).keys()] : []))),
  ];
}

/**
 * Records as CSV (RFC 4180). What is absent, null or an empty text is an empty cell.
 * @param isExact whether only one of them may be in a column
 * @throws SkevoError with the place of the first value that a cell cannot hold
 */
export async function* writeCsv(
  values: Iterable<JsonValue> | AsyncIterable<JsonValue>,
  columns: readonly string[],
  delimiter: string,
  isExact = false,
): AsyncGenerator<string> {
  const known = new Set(columns);
  const blanks = new Blanks();
  let rows: string[][] = [[...columns]];
  for await (const value of values) {
    if (isExact) blanks.see(value, columns);
    rows.push(rowOf(value, columns, known));
    if (rows.length < batch) continue;
    yield stringify(rows, { delimiter });
    rows = [];
  }
  if (rows.length > 0) yield stringify(rows, { delimiter });
}

/** What the empty cells of each column stand for. */
class Blanks {
  private readonly byColumn = new Map<string, string>();

  /** @throws SkevoError for a second meaning in one column */
  see(value: JsonValue, columns: readonly string[]): void {
    if (value.kind !== 'object') return;
    const members = membersByKey(value);
    for (const column of columns) {
      const cell = members.get(column)?.value;
      const meaning =
        cell === undefined
          ? 'nothing'
          : cell.kind === 'null'
            ? 'null'
            : cell.kind === 'string' && cell.value === ''
              ? 'an empty text'
              : undefined;
      if (meaning === undefined) continue;
      const known = this.byColumn.get(column);
      if (known === undefined) this.byColumn.set(column, meaning);
      else if (known !== meaning)
        throw unheld(
          [column],
          `an empty cell cannot be ${meaning} here and ${known} in another row`,
          'Make them the same, or write JSON, YAML or Avro.',
        );
    }
  }
}

function rowOf(value: JsonValue, columns: readonly string[], known: ReadonlySet<string>): string[] {
  if (value.kind !== 'object') throw unheld([], `${kindOf(value)} is no row`, 'Give records.');
  const members = membersByKey(value);
  for (const key of members.keys())
    if (!known.has(key)) throw unheld([key], 'there is no column for it', 'Add it to the schema.');
  return columns.map((name) => {
    const cell = members.get(name)?.value;
    if (cell === undefined || cell.kind === 'null') return '';
    if (cell.kind === 'list' || cell.kind === 'object')
      throw unheld(
        [name],
        `a cell cannot hold ${kindOf(cell)}`,
        'Write nested-csv, JSON, YAML or XML, or leave it out.',
      );
    return cell.kind === 'number' ? cell.text : String(cell.value);
  });
}

function kindOf({ kind }: JsonValue): string {
  return kind === 'object' ? 'an object' : kind === 'null' ? 'null' : `a ${kind}`;
}
