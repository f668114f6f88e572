import { stripVTControlCharacters } from 'node:util';
import sliceAnsi from 'slice-ansi';
import stringWidth from 'string-width';

/** Nothing but characters of one column: most texts are that, and then no tables of Unicode need to be loaded. */
const plain = /^[ -~\u00a1-\u00ac\u00ae-\u02ff\u2010-\u2027\u25c2]*$/;

/** How many columns of a terminal a text takes. */
export function widthOf(text: string): number {
  const shown = stripVTControlCharacters(text);
  return plain.test(shown) ? shown.length : stringWidth(shown);
}

/** The beginning of a text that takes so many columns at most, colours kept whole. */
export function firstColumns(text: string, count: number): string {
  return plain.test(text) ? text.slice(0, count) : sliceAnsi(text, 0, count);
}
