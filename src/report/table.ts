import Table from 'cli-table3';
import { widthOf } from './width.js';
import { folded, shorten } from './text.js';

export interface Column {
  readonly title: string;
  readonly align?: 'left' | 'right';
  /** From 1: columns are left out when the table would not fit, those of the highest number first and together. */
  readonly spare?: number;
  /** Cells may be folded to this width when the table would not fit. */
  readonly least?: number;
  /** Cells are cut instead of folded: the beginning of a value says enough. */
  readonly isCut?: boolean;
}

const gap = 2;

/** Rows in columns without rules, at most `width` wide where columns can be folded, cut or left out. */
export function table(
  columns: readonly Column[],
  rows: readonly (readonly string[])[],
  width: number,
  head: (text: string) => string,
): string {
  let shown = columns.map((column, i) => ({ column, i }));
  const naturals = columns.map(({ title }, i) =>
    rows.reduce((most, row) => Math.max(most, widthOf(row[i] ?? '')), widthOf(title)),
  );
  const natural = (i: number) => naturals[i]!;
  const least = (i: number) => Math.min(natural(i), columns[i]!.least ?? Infinity);
  const total = (measure: (i: number) => number) =>
    shown.reduce((sum, { i }) => sum + measure(i) + gap, -gap);
  while (total(least) > width) {
    const spare = Math.max(...shown.map((each) => each.column.spare ?? 0));
    if (spare === 0) break;
    shown = shown.filter(({ column }) => column.spare !== spare);
  }
  // What does not fit is taken from the widest column that may still be narrower.
  const widths = shown.map(({ i }) => natural(i));
  for (let excess = total(natural) - width; excess > 0; excess--) {
    const cuttable = shown.map(({ i }, k) => (widths[k]! > least(i) ? widths[k]! : 0));
    const widest = Math.max(...cuttable);
    if (widest === 0) break;
    widths[cuttable.indexOf(widest)]!--;
  }
  // Cells are padded here, so that a right-aligned one keeps its distance from the next column too.
  const cell = (text: string, k: number): string =>
    text
      .split('\n')
      .map((line) => padded(line, k))
      .join('\n');
  const padded = (text: string, k: number): string => {
    const space = ' '.repeat(Math.max(0, widths[k]! - widthOf(text)));
    const filled = shown[k]!.column.align === 'right' ? space + text : text + space;
    return k === shown.length - 1 ? filled : filled + ' '.repeat(gap);
  };
  const fitted = (text: string, k: number): string =>
    shown[k]!.column.isCut ? shorten(text, widths[k]!) : folded(text, widths[k]!);
  const titles = shown.map(({ column }, k) => cell(head(column.title), k));
  const cells = rows.map((row) => shown.map(({ i }, k) => cell(fitted(row[i] ?? '', k), k)));
  const printed: string[] = [];
  // Laying out takes the square of the rows, and every cell has its width already: some at a time.
  for (let from = 0; from === 0 || from < cells.length; from += rowsAtATime) {
    const isHead = from === 0 && columns.some(({ title }) => title !== '');
    const some = new Table({
      head: isHead ? titles : [],
      style: { 'padding-left': 0, 'padding-right': 0, head: [], border: [] },
      chars: Object.fromEntries(rules.map((part) => [part, ''])),
    });
    for (const row of cells.slice(from, from + rowsAtATime)) some.push(row);
    printed.push(some.toString());
  }
  return printed
    .join('\n')
    .split('\n')
    .map((line) => line.replace(/\s+$/, ''))
    .join('\n');
}

const rowsAtATime = 200;

const rules = [
  'top',
  'top-mid',
  'top-left',
  'top-right',
  'bottom',
  'bottom-mid',
  'bottom-left',
  'bottom-right',
].concat(['left', 'left-mid', 'mid', 'mid-mid', 'right', 'right-mid', 'middle']);
