import { doubleCarries, isIntegerText, sameNumber } from '../json/number.js';
import type { JsonValue } from '../json/value.js';
import type { Difference } from './compare.js';
import { instantOf } from './instant.js';

/** The most likely cause of a difference, in one line. */
export function causeOf(difference: Difference): string {
  const { kind, before, after, tokens } = difference;
  const inList = typeof tokens[tokens.length - 1] === 'number';
  switch (kind) {
    case 'lost':
      if (inList) return 'an element of the list is dropped';
      return before?.kind === 'null'
        ? 'null is turned into absent: the field is not written when it holds no value'
        : 'the decoder does not know the key, or the encoder leaves it out';
    case 'added':
      if (inList) return 'the list gains an element';
      return after?.kind === 'null'
        ? 'absent is turned into null: the field is written although the payload had none'
        : 'a default is filled in for a field that the payload had not';
    case 'renamed':
      return `the field is written under its name in the code, ${JSON.stringify(difference.otherKey)}: the mapping to the key is missing`;
    case 'emptied':
      return 'the value is written as null: it was not decoded, or cleared';
    case 'filled':
      return 'null is replaced by a default';
    case 'retyped':
      return `${oneOf(before)} is held as ${oneOf(after)}`;
    case 'altered':
      return alteration(before, after);
    case 'shuffled':
      return 'the list goes through something without order, or is sorted';
    case 'respelled':
      return before?.kind === 'string'
        ? 'the same instant is written in another way'
        : 'the same number is written in another way';
  }
}

function alteration(before: JsonValue | undefined, after: JsonValue | undefined): string {
  if (before?.kind === 'number' && after?.kind === 'number') {
    if (!doubleCarries(before.text) && sameNumber(String(Number(before.text)), after.text)) {
      return isIntegerText(before.text)
        ? 'the integer goes through a double, which is exact only up to 2^53'
        : 'the decimal goes through a double, which keeps about 16 digits';
    }
    if (!isIntegerText(before.text) && isIntegerText(after.text))
      return 'the decimal is cut to a whole number';
    if (BigInt(Math.trunc(Number(before.text)) || 0) !== 0n && wraps(before.text, after.text))
      return 'the integer overflows the width it is held in';
    return 'the number comes back as another number';
  }
  if (before?.kind === 'string' && after?.kind === 'string') {
    const instant = instantOf(before.value);
    if (instant !== undefined && instant === instantOf(after.value))
      return 'the instant is kept, and how far it is from UTC is lost';
    if (after.value !== '' && before.value.startsWith(after.value)) return 'the text is cut short';
    if (before.value.trim() === after.value) return 'space around the text is trimmed';
    if (before.value.toLowerCase() === after.value.toLowerCase()) return 'the case of the letters changes';
    if (/\uFFFD/.test(after.value) || /[ÃÂ]/.test(after.value))
      return 'the text is read or written in another encoding than UTF-8';
    return 'the text comes back as another text';
  }
  return 'the value comes back as another value';
}

/** Whether one integer is the other in two's complement of 32 or 64 bits. */
function wraps(before: string, after: string): boolean {
  if (!isIntegerText(before) || !isIntegerText(after)) return false;
  const value = BigInt(before);
  return [32, 64].some((bits) => BigInt.asIntN(bits, value) === BigInt(after));
}

function oneOf(value: JsonValue | undefined): string {
  if (value?.kind === 'boolean') return 'true or false';
  return value?.kind === 'object' ? 'an object' : `a ${value?.kind ?? 'value'}`;
}
