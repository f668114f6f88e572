import { mostDoubtful, type Decision } from '../core/infer/infer.js';
import { formatMark } from '../core/observe/mark.js';
import { folded, shellArgument } from './text.js';
import { visible } from './visible.js';
import { table } from './table.js';
import type { Terminal } from './terminal.js';

/**
 * The decisions that may be wrong, the most doubtful first, each with its place, reason, where it was seen first and
 * what decides it otherwise; then how many go without saying. Cut only to fit a terminal.
 * @param all whether what goes without saying is listed too
 */
export function renderDecisions(
  decisions: readonly Decision[],
  { width, isNarrow, colours }: Terminal,
  all = false,
): string {
  const shown = all ? decisions : [...decisions].filter(isWorthSaying).sort(byDoubt);
  const rows = shown.map(({ place, decision, because, first, otherwise }) => [
    place === '' ? colours.faint('(payload)') : colours.name(visible(place)),
    decision,
    visible(because),
    first === undefined ? '' : colours.faint(formatMark(first)),
    otherwise === undefined ? '' : colours.faint(otherwise),
  ]);
  const columns = [
    { title: 'place', least: 24 },
    { title: 'decision', least: 16 },
    { title: 'because', least: 30 },
    { title: 'first seen', least: 20, spare: 2 },
    { title: 'otherwise', least: 12, spare: 1 },
  ];
  const silent = decisions.length - shown.length;
  const room = isNarrow ? width : Infinity;
  const without = `${silent} that ${silent === 1 ? 'goes' : 'go'} without saying: skevo outline --why PLACE tells those of a place, --json all`;
  if (shown.length === 0) return colours.faint(folded(without, room));
  const written = table(columns, rows, room, colours.strong);
  return silent === 0 ? written : `${written}\n${colours.faint(folded(`and ${without}`, room))}`;
}

/** The least certain decisions, a line each, and what to give to decide them otherwise. */
export function renderDoubts(decisions: readonly Decision[], { colours }: Terminal): string[] {
  return mostDoubtful(decisions, mostShown).map(({ place, decision, because, otherwise }) => {
    const steer =
      otherwise === undefined
        ? ''
        : `; otherwise --decide ${shellArgument(visible(`${place}=${otherwise}`))}`;
    return `${colours.warn('unsure:')} ${colours.name(visible(place))}: ${decision}, ${visible(because)}${steer}`;
  });
}

const mostShown = 5;

function isWorthSaying({ doubt, rule, decision }: Decision): boolean {
  return (
    doubt !== undefined ||
    rule === 'naming' ||
    rule === 'nullable' ||
    (rule === 'presence' && decision.startsWith('optional'))
  );
}

function byDoubt(a: Decision, b: Decision): number {
  return (b.doubt ?? -1) - (a.doubt ?? -1);
}
