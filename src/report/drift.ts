import { formatMark } from '../core/observe/mark.js';
import type { SchemaChange } from '../core/update/update.js';
import type { Terminal } from './terminal.js';
import { hanging } from './text.js';
import { visible } from './visible.js';

/** How payloads went beyond a schema. */
export type DriftKind = 'new' | 'missing' | 'widened';

export function driftKind({ was, now }: SchemaChange): DriftKind {
  if (was === 'not known') return 'new';
  return was === 'required' && now === 'optional' ? 'missing' : 'widened';
}

const sentences: Readonly<Record<DriftKind, (change: SchemaChange) => string>> = {
  new: ({ now }) => `The schema does not know it; it would be ${now}.`,
  missing: () => 'The schema says that it is always there, and it is not.',
  widened: ({ was, now }) => `The schema says ${was}; it would be ${now}.`,
};

const indent = ' '.repeat(11);

/** What payloads say that the schema does not: a paragraph a place, and the command that accepts it. */
export function renderDrift(
  changes: readonly SchemaChange[],
  command: string | undefined,
  { width, colours }: Terminal,
): string {
  const paragraphs = changes.map((change) => {
    const kind = driftKind(change);
    const place = change.place === '' ? '(payload)' : change.place;
    return [
      `  ${colours.warn(kind.padEnd(7))}  ${colours.name(visible(place))}`,
      hanging(indent, visible(sentences[kind](change)), width),
      hanging(
        indent,
        colours.faint(`${visible(change.because)}, first at ${formatMark(change.first)}`),
        width,
      ),
    ].join('\n');
  });
  return [
    colours.strong('drift: the payloads say what the schema does not'),
    ...paragraphs,
    ...(command === undefined ? [] : [`  accept it with: ${colours.strong(visible(command))}`]),
  ].join('\n');
}
