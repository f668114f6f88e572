import type { TypeModel } from '../../core/model/types.js';
import { capitalised, inWords, wordsOf } from '../../core/words.js';

/** How a language spells a kind of name. */
export interface Casing {
  join(words: readonly string[]): string;
  /** The name when a key has no letter or digit at all. */
  readonly fallback: string;
  /** Put before a name that would begin with a digit. */
  readonly digitPrefix: string;
  /** Put after a name that is reserved; an underscore when not given. */
  readonly reservedSuffix?: string;
  /** Set where names that differ in capitals alone are the same. */
  readonly caseless?: true;
}

export const snakeCase: Casing = { join: (words) => words.join('_'), fallback: 'field', digitPrefix: 'n' };

export const camelCase: Casing = {
  join: ([first = '', ...rest]) => first + rest.map(capitalised).join(''),
  fallback: 'field',
  digitPrefix: 'n',
};

export const pascalCasing: Casing = {
  join: (words) => words.map(capitalised).join(''),
  fallback: 'Type',
  digitPrefix: 'N',
};

export const screamingCase: Casing = {
  join: (words) => words.map((word) => word.toUpperCase()).join('_'),
  fallback: 'VALUE',
  digitPrefix: 'N',
};

export const kebabCase: Casing = { join: (words) => words.join('-'), fallback: 'payload', digitPrefix: 'n' };

/** Longer names are cut: nobody reads them, and some compilers refuse them. */
const longest = 60;

/** A key as one identifier, not yet checked against anything. */
export function identifier(text: string, casing: Casing): string {
  const name = casing.join(wordsOf(text));
  if (name === '') return casing.fallback;
  const cut = [...name].slice(0, longest).join('').replace(/_+$/, '');
  return /^\p{Nd}/u.test(cut) ? casing.digitPrefix + cut : cut;
}

/**
 * Identifiers for keys, all different and none reserved. A key that is already spelled as the language would
 * keeps its name; of several keys that become one name the others get a number, in their order.
 */
export function allocate(
  keys: readonly string[],
  casing: Casing,
  reserved: ReadonlySet<string>,
): Map<string, string> {
  const names = new Map<string, string>();
  const fold = (name: string) => (casing.caseless ? name.toLowerCase() : name);
  const refused = new Set([...reserved].map(fold));
  const taken = new Set(refused);
  for (const key of keys) {
    const name = identifier(key, casing);
    if (name === key && !taken.has(fold(name))) {
      names.set(key, name);
      taken.add(fold(name));
    }
  }
  for (const key of keys) {
    if (names.has(key)) continue;
    const wanted = identifier(key, casing);
    let name = wanted;
    if (refused.has(fold(name))) name = `${wanted}${casing.reservedSuffix ?? '_'}`;
    for (let i = 2; taken.has(fold(name)); i++)
      name = /\p{Nd}$/u.test(wanted) ? `${wanted}_${i}` : `${wanted}${i}`;
    names.set(key, name);
    taken.add(fold(name));
  }
  return new Map(keys.map((key) => [key, names.get(key)!]));
}

/** A name of small Latin letters and digits alone, as packages have it: `sailingpage`. */
export function packageWord(name: string, reserved: ReadonlySet<string>): string {
  const word = wordsOf(name)
    .join('')
    .replace(/[^a-z0-9]/g, '');
  if (word === '' || /^\d/.test(word)) return `payload${word}`;
  return [word, `${word}s`].find((each) => !reserved.has(each)) ?? `${word}payload`;
}

/** How the payloads of a model are spoken of in prose. */
export function namesOfPayloads({ roots }: Pick<TypeModel, 'roots'>): string {
  const names = roots.map(({ name }) => identifier(name, pascalCasing));
  return `the payload${names.length === 1 ? '' : 's'} ${inWords(names)}`;
}
