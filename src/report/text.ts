import wrapAnsi from 'wrap-ansi';
import { widthOf, firstColumns } from './width.js';

/** Text cut to a width in columns, colours kept whole. */
export function shorten(text: string, width: number): string {
  if (widthOf(text) <= width) return text;
  return `${firstColumns(text, Math.max(0, width - 1))}…`;
}

/** The most lines that a text is folded into. */
const mostLines = 6;

/** Text in lines of a width in columns, colours kept whole; words that are longer are broken. */
export function folded(text: string, width: number): string {
  if (widthOf(text) <= width) return text;
  const lines = wrapAnsi(text, width, { hard: true }).split('\n');
  if (lines.length <= mostLines) return lines.join('\n');
  return [...lines.slice(0, mostLines - 1), shorten(lines.slice(mostLines - 1).join(' '), width)].join('\n');
}

/** Text behind a head, in lines of a width, those behind the first set in as far as the head goes. */
export function hanging(head: string, text: string, width: number): string {
  const indent = widthOf(head);
  const [first = '', ...others] = folded(text, Math.max(20, width - indent)).split('\n');
  return [head + first, ...others.map((line) => ' '.repeat(indent) + line)].join('\n');
}

/** How much of what types allow no payload shows. */
export function unshown(count: number): string {
  return count === 1
    ? '1 thing that the types allow is shown by no payload'
    : `${count} things that the types allow are shown by no payload`;
}

/** A text as one argument of a command to be pasted into a shell, whatever is in it (POSIX, Shell Command Language 2.2.2). */
export function shellArgument(text: string): string {
  return `'${text.replaceAll("'", `'\\''`)}'`;
}
