import sliceAnsi from 'slice-ansi';
import stringWidth from 'string-width';

/** Text without anything that could move the cursor or turn the line around. */
export function visible(text: string): string {
  return text.replace(/[\p{Cc}\p{Cf}\p{Cs}\p{Zl}\p{Zp}]/gu, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`);
}

/** Text cut to a width in columns, colours kept whole. */
export function shorten(text: string, width: number): string {
  if (stringWidth(text) <= width) return text;
  return `${sliceAnsi(text, 0, Math.max(0, width - 1))}…`;
}
