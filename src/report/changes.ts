import type { SchemaChange } from '../core/update/update.js';
import { formatMark } from '../core/observe/mark.js';
import { table } from './table.js';
import type { Terminal } from './terminal.js';
import { visible } from './visible.js';

/** What payloads taught a schema: place, what was and is said there, and the first value that shows it. */
export function renderChanges(changes: readonly SchemaChange[], { width, colours }: Terminal): string {
  const rows = changes.map(({ place, was, now, because, first }) => [
    place === '' ? colours.faint('(payload)') : colours.name(visible(place)),
    visible(was),
    colours.warn(visible(now)),
    visible(because),
    colours.faint(formatMark(first)),
  ]);
  const columns = [
    { title: 'place', least: 24 },
    { title: 'was', least: 12 },
    { title: 'now', least: 16 },
    { title: 'because', least: 14, spare: 1 },
    { title: 'first seen', least: 16 },
  ];
  return table(columns, rows, width, colours.strong);
}
