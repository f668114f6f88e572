import sliceAnsi from 'slice-ansi';
import stringWidth from 'string-width';

/** Text cut to a width in columns, colours kept whole. */
export function shorten(text: string, width: number): string {
  if (stringWidth(text) <= width) return text;
  return `${sliceAnsi(text, 0, Math.max(0, width - 1))}…`;
}

/** A text as one argument of a command to be pasted into a shell, whatever is in it (POSIX, Shell Command Language 2.2.2). */
export function shellArgument(text: string): string {
  return `'${text.replaceAll("'", `'\\''`)}'`;
}
