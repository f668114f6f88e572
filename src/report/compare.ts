import type { ContractChange, Effect } from '../core/contract/compare.js';
import { table } from './table.js';
import type { Terminal } from './terminal.js';
import { visible } from './visible.js';

/** What differs between two schemas, and for whom it matters. */
export function renderComparison(changes: readonly ContractChange[], terminal: Terminal): string {
  const { colours, width } = terminal;
  if (changes.length === 0) return colours.good('no difference that payloads or programs can tell');
  const effect = (value: Effect) =>
    ({ safe: colours.good, breaking: colours.bad, unknown: colours.warn })[value](value);
  const rows = changes.map(({ kind, place, was, now, readers, writers, types, perhaps }) => [
    place === '' ? colours.faint('(payload)') : colours.name(visible(place)),
    perhaps === undefined
      ? kind
      : `${kind}, perhaps ${visible(perhaps)} ${kind === 'field added' ? 'before' : 'now'}`,
    visible(was),
    visible(now),
    effect(readers),
    effect(writers),
    colours.faint(types.join(', ')),
  ]);
  const columns = [
    { title: 'place', least: 20 },
    { title: 'change', least: 16 },
    { title: 'was', least: 12, isCut: true },
    { title: 'now', least: 12, isCut: true, spare: 1 },
    { title: 'readers' },
    { title: 'writers' },
    { title: 'types' },
  ];
  const count = (who: 'readers' | 'writers') => changes.filter((each) => each[who] === 'breaking').length;
  const summary = (['readers', 'writers'] as const).map((who) => {
    const breaking = count(who);
    if (breaking > 0) return colours.bad(`${breaking} ${breaking === 1 ? 'breaks' : 'break'} ${who}`);
    return colours.good(`none breaks ${who}`);
  });
  const total = changes.length === 1 ? '1 change' : `${changes.length} changes`;
  return `${table(columns, rows, width, colours.strong)}\n\n${total}: ${summary.join(', ')}`;
}
