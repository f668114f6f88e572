import { SkevoError } from '../core/error.js';
import { formatPointer } from '../core/json/pointer.js';

/** An error for what a format cannot hold, with its place in the payload. */
export function unheld(tokens: readonly string[], message: string, remedy: string): SkevoError {
  return new SkevoError(`${formatPointer(tokens) || 'the payload'}: ${message}`, remedy);
}

const halfCharacter = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

/** A text that UTF-8 can hold. @throws SkevoError for half a character */
export function wholeText(text: string, tokens: readonly string[]): string {
  if (halfCharacter.test(text))
    throw unheld(tokens, 'this text has half of a character, which UTF-8 cannot hold', 'Leave it out.');
  return text;
}
