import type { OutlineRow } from '../core/infer/outline.js';
import { widthOf } from './width.js';
import { table, type Column } from './table.js';
import { shorten } from './text.js';
import { visible } from './visible.js';
import type { Terminal } from './terminal.js';

const narrow = 72;

/** The outline as a table; on a narrow terminal two lines a place. */
export function renderOutline(rows: readonly OutlineRow[], { width, colours }: Terminal): string {
  const shown = rows.map((row) => ({
    place:
      row.place === ''
        ? colours.faint('(payload)')
        : colours.faint(visible(row.place.slice(0, row.repeated))) +
          colours.name(visible(row.place.slice(row.repeated))),
    type: row.types.join(' or '),
    present: row.count === row.of ? String(row.count) : colours.warn(`${row.count} of ${row.of}`),
    nulls: row.nulls === 0 ? '' : colours.warn(String(row.nulls)),
    example: visible(row.example),
    mark: row.records ? `  ${colours.good('◂ the records')}` : '',
  }));
  const widest = shown.reduce((most, { place }) => Math.max(most, widthOf(place)), 0);
  if (width < narrow || widest > width - 34) {
    return shown
      .map(({ place, type, present, nulls, example }) => {
        const facts = [type, present, nulls === '' ? '' : `null ${nulls}`]
          .filter((fact) => fact !== '')
          .join('  ');
        const left = width - 4 - widthOf(facts) - 2;
        const cut = left < 8 || example === '' ? '' : `  ${colours.faint(shorten(example, left))}`;
        return `${place}\n    ${facts}${cut}`;
      })
      .join('\n');
  }
  const columns: Column[] = [
    { title: 'place' },
    { title: 'type', least: 18 },
    { title: 'present', align: 'right' },
    { title: 'null', align: 'right' },
    { title: 'example', least: 12, isCut: true, spare: 1 },
  ];
  return table(
    columns,
    shown.map((row) => [
      row.place,
      row.type,
      row.present,
      row.nulls,
      `${colours.faint(row.example)}${row.mark}`,
    ]),
    width,
    colours.strong,
  );
}
