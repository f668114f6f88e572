import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import type { JsonValue } from '../core/json/value.js';

/** A response as JSON. @throws SkevoError that says what it is instead */
export function parseAnswer(name: string, type: string, bytes: Uint8Array): JsonValue {
  const text = new TextDecoder().decode(bytes.subarray(0, 2000)).trim();
  if (text === '')
    throw new SkevoError(`${name} answered with an empty body`, 'There is nothing to learn from it.');
  if (/^<(!doctype html|html|head|body|title)/i.test(text)) {
    const title = /<title[^>]*>([^<]*)/i.exec(text)?.[1]?.trim();
    throw new SkevoError(
      `${name} answered with an HTML page${title ? `: ${title}` : ''}`,
      'Is it an API? It may want a header, or another URL.',
    );
  }
  try {
    return parseJson({ name, bytes, firstLine: 1 }).root;
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    const said = type === '' ? '' : ` (${type.split(';')[0]!})`;
    throw new SkevoError(
      `${name} answered with what is not JSON${said}: ${error.message}`,
      error.remedy,
      error.place,
    );
  }
}
