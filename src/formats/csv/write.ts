import { stringify } from 'csv-stringify/sync';
import { SkevoError } from '../../core/error.js';
import { formatPointer } from '../../core/json/pointer.js';
import { membersByKey, type JsonValue } from '../../core/json/value.js';

/**
 * Records as CSV (RFC 4180), a column for every key that one of them has. What is absent, null or an empty text is an empty
 * cell.
 * @throws SkevoError with the place of the first value that a cell cannot hold
 */
export function writeCsv(values: readonly JsonValue[], delimiter = ','): string {
  const columns = new Set<string>();
  const rows = values.map((value, row) => {
    if (value.kind !== 'object') throw unheld([String(row)], `${kindOf(value)} is no row`, 'Give records.');
    const members = membersByKey(value);
    for (const key of members.keys()) columns.add(key);
    return members;
  });
  const names = [...columns];
  const cells = rows.map((members, row) =>
    names.map((name) => {
      const value = members.get(name)?.value;
      if (value === undefined || value.kind === 'null') return '';
      if (value.kind === 'list' || value.kind === 'object')
        throw unheld(
          [String(row), name],
          `a cell cannot hold ${kindOf(value)}`,
          'Leave it out, or write JSON, YAML or XML.',
        );
      return value.kind === 'number' ? value.text : String(value.value);
    }),
  );
  return stringify([names, ...cells], { delimiter });
}

function unheld(tokens: readonly string[], message: string, remedy: string): SkevoError {
  return new SkevoError(`${formatPointer(tokens)}: ${message}`, remedy);
}

function kindOf({ kind }: JsonValue): string {
  return kind === 'object' ? 'an object' : kind === 'null' ? 'null' : `a ${kind}`;
}
