import pluralize from 'pluralize';

/**
 * Letters that every compiler of recent years takes in a name: of the scripts most used, and those of their
 * letters that have been in Unicode for long. Compilers differ in the version of Unicode they know.
 */
const letters =
  'A-Za-z\\u00C0-\\u00D6\\u00D8-\\u00F6\\u00F8-\\u024F\\u0386\\u0388-\\u038A\\u038E-\\u03A1\\u03A3-\\u03CE\\u0400-\\u045F\\u05D0-\\u05EA\\u0620-\\u063F\\u0641-\\u064A\\u0E01-\\u0E2E\\u3041-\\u3096\\u30A1-\\u30FA\\u4E00-\\u9FA5\\uAC00-\\uD7A3';
const notInNames = new RegExp(`[^${letters}0-9]+`, 'u');

/**
 * The words of a key or a name, in lower case: split at everything that is neither letter nor digit, between
 * a small and a capital letter, and before the last capital of a run (`URLPath` is `url`, `path`).
 * Accents are folded away; letters of the scripts most used stay.
 */
export function wordsOf(text: string): string[] {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .normalize('NFC')
    .replace(/ß/g, 'ss')
    .replace(/([\p{Ll}\p{Nd}])(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .split(notInNames)
    .filter((word) => word !== '')
    .map((word) => word.toLowerCase());
}

export function capitalised(word: string): string {
  const [first = '', ...rest] = word;
  return first.toUpperCase() + rest.join('');
}

/** The words with the last one in the singular. */
export function singular(words: readonly string[]): string[] {
  return words.map((word, i) =>
    i === words.length - 1 && /^[a-z]{3,}$/.test(word) ? pluralize.singular(word) : word,
  );
}

/** The words with the last one in the plural. */
export function plural(words: readonly string[]): string[] {
  return words.map((word, i) =>
    i === words.length - 1 && /^[a-z]+$/.test(word) ? pluralize.plural(word) : word,
  );
}

/** A name in PascalCase of ASCII and other letters that does not begin with a digit; `Record` when nothing is left. */
export function pascalCase(words: readonly string[]): string {
  const name = words.map(capitalised).join('');
  if (name === '') return 'Record';
  return /^\p{Nd}/u.test(name) ? `N${name}` : name;
}

/** Several things in prose: `a, b and c`. */
export function inWords(things: readonly string[]): string {
  const last = things.at(-1) ?? '';
  return things.length < 2 ? last : `${things.slice(0, -1).join(', ')} and ${last}`;
}

/** So many of something: `1 payload`, `3 payloads`. */
export function counted(count: number, noun: string): string {
  return `${count} ${count === 1 ? noun : `${noun}s`}`;
}
