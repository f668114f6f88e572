import sliceAnsi from 'slice-ansi';
import stringWidth from 'string-width';

/** Text cut to a width in columns, colours kept whole. */
export function shorten(text: string, width: number): string {
  if (stringWidth(text) <= width) return text;
  return `${sliceAnsi(text, 0, Math.max(0, width - 1))}…`;
}
