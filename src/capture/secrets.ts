import type { JsonValue } from '../core/json/value.js';
import { wordsOf } from '../core/words.js';

/** What stands where a secret was. */
export const hidden = '***';

/** What a name ends in, its words run together, when its value is a secret. */
const always =
  /(token|secret|passw(or)?d|passphrase|pwd|signature|sig|credential|jwt|bearer|auth|authorization|session|sid|otp|cookie|apikey|(access|private|secret|signing|encryption|subscription|client|app|account|shared|master|license|service|user|auth|api)key)s?$/;
/** Names that end so and say where a page begins, or how much of something there is. */
const harmless = /(page|next|previous|continuation|sync|resume|max|min|num|total|prompt|completion)tokens?$/;
/** Names that are secrets as a whole, or after a word of this kind; `portCode` and `sortKey` are none. */
const alone = /^(auth|authorization|access|device|verification|login|invite|pin|otp)?(code|key|keys)$/;
/** Names of headers that hold secrets without saying so. */
const secretHeaders = new Set(['authorization', 'proxy-authorization', 'cookie', 'set-cookie']);

/**
 * Whether what goes by a name is a secret: by its words, in any casing.
 * @param names that are secrets beside those that are called so
 */
export function isSecret(name: string, names: readonly string[] = []): boolean {
  if (names.some((each) => each.toLowerCase() === name.toLowerCase())) return true;
  const words = wordsOf(name);
  if (words.length > 1 && words.at(-1) === 'id') words.pop();
  const joined = words.join('');
  // A short word must be a word of its own: `inverted` ends in no credential, `reauth` does.
  const isOwn = (found: string) => found.length > 4 || words.at(-1)!.startsWith(found);
  const found = always.exec(joined);
  if (found !== null && !harmless.test(joined)) return isOwn(found[0]);
  return alone.test(joined);
}

export function isSecretHeader(name: string): boolean {
  return secretHeaders.has(name.toLowerCase()) || isSecret(name);
}

/**
 * A URL as it may be written down: without a user name and password, and with `***` for secret query values.
 * @param names of query values that are secrets beside those that are called so
 */
export function withoutSecrets(
  address: string,
  names: readonly string[],
  values: Secrets = noSecrets,
): string {
  if (!URL.canParse(address)) return values.masked(address.replace(/\/\/[^/?#]*@/, '//'));
  const url = new URL(address);
  url.username = '';
  url.password = '';
  for (const name of new Set(url.searchParams.keys())) {
    if (isSecret(name, names)) url.searchParams.set(name, hidden);
  }
  url.hash = '';
  return values.masked(url.href.replaceAll(encodeURIComponent(hidden), hidden));
}

/** Shorter values say nothing: they are found everywhere. */
const shortest = 4;

/** Values that must not be written down, by what they are called. */
export class Secrets {
  private readonly values: readonly (readonly [name: string, value: string])[];

  constructor(values: Iterable<readonly [name: string, value: string]>, least = shortest) {
    this.values = [...values]
      .flatMap(([name, value]) => partsOf(value).map((part) => [name, part] as const))
      .filter(([, value]) => value.length >= least);
  }

  /** What a secret is called that stands in a document, in whatever encoding; undefined when there is none. */
  foundIn(root: JsonValue): string | undefined {
    if (this.values.length === 0) return undefined;
    const waiting: JsonValue[] = [root];
    for (let value = waiting.pop(); value !== undefined; value = waiting.pop()) {
      if (value.kind === 'list') for (const item of value.items) waiting.push(item);
      else if (value.kind === 'object') {
        for (const member of value.members) {
          const name = this.foundInText(member.key);
          if (name !== undefined) return name;
          waiting.push(member.value);
        }
      } else {
        const text = value.kind === 'string' ? value.value : value.kind === 'number' ? value.text : '';
        const name = this.foundInText(text);
        if (name !== undefined) return name;
      }
    }
    return undefined;
  }

  private foundInText(text: string): string | undefined {
    if (text.length < shortest) return undefined;
    const readings = [text, ...decoded(text)];
    return this.values.find(([, value]) => readings.some((reading) => reading.includes(value)))?.[0];
  }

  /** A text with `***` for each secret in it, as it is or encoded for a URL. */
  masked(text: string): string {
    let result = text;
    for (const [, value] of this.values)
      for (const form of [
        value,
        encodeURIComponent(value),
        new URLSearchParams({ v: value }).toString().slice(2),
      ])
        result = result.replaceAll(form, hidden);
    return result;
  }
}

export const noSecrets = new Secrets([]);

/** A secret, what follows its scheme, and the password of a `Basic` one. */
function partsOf(value: string): string[] {
  const [, scheme, rest] = /^([A-Za-z][\w-]*)\s+(\S.*)$/.exec(value) ?? [];
  if (scheme === undefined || rest === undefined) return [value];
  const password =
    scheme.toLowerCase() === 'basic'
      ? Buffer.from(rest, 'base64').toString('utf8').split(':').slice(1).join(':')
      : '';
  return [value, rest, ...(password === '' ? [] : [password])];
}

/** A text as it was before it was encoded for a URL, and what its runs of base64 hold. */
function decoded(text: string): string[] {
  const readings: string[] = [];
  if (text.includes('%') || text.includes('+')) {
    try {
      readings.push(decodeURIComponent(text.replaceAll('+', ' ')), decodeURIComponent(text));
    } catch {
      // It is not encoded for a URL.
    }
  }
  for (const [run] of text.matchAll(/[\w+/-]{6,}/g))
    readings.push(Buffer.from(run, 'base64').toString('utf8'));
  return readings;
}
