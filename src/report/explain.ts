import type { Decision } from '../core/infer/infer.js';
import { formatMark } from '../core/observe/mark.js';
import { visible } from './visible.js';
import { table } from './table.js';
import type { Terminal } from './terminal.js';

/** Every decision of a schema: place, decision, reason, and where it was seen first. */
export function renderDecisions(decisions: readonly Decision[], { width, colours }: Terminal): string {
  let last: string | undefined;
  const rows = decisions.map(({ place, decision, because, first }) => {
    const shown =
      place === last ? '' : place === '' ? colours.faint('(payload)') : colours.name(visible(place));
    last = place;
    return [shown, decision, visible(because), first === undefined ? '' : colours.faint(formatMark(first))];
  });
  const columns = [
    { title: 'place', least: 24 },
    { title: 'decision', least: 16 },
    { title: 'because', least: 30 },
    { title: 'first seen', least: 20, spare: 1 },
  ];
  return table(columns, rows, width, colours.strong);
}
