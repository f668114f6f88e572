/** What texts of files without types may stand for, and how they do. */

/** Numbers that mean the same however they are read: no sign but a minus, no zero before other digits. */
const whole = /^-?(?:0|[1-9]\d*)$/;
const number = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][-+]?\d+)?$/;
/** No number that anybody writes is longer. */
const longest = 60;

export type Reading = 'integer' | 'number' | 'boolean';

/** What a text can be read as; undefined for one that is nothing but text. */
export function readingOf(text: string): Reading | undefined {
  if (text === 'true' || text === 'false') return 'boolean';
  // There is no negative zero among integers.
  if (text.length > longest || text === '-0') return undefined;
  if (whole.test(text)) return 'integer';
  return number.test(text) ? 'number' : undefined;
}
