import pluralize from 'pluralize';

/**
 * The words of a key or a name, in lower case: split at everything that is neither letter nor digit, between
 * a small and a capital letter, and before the last capital of a run (`URLPath` is `url`, `path`).
 * Accents are folded away; letters of other scripts stay.
 */
export function wordsOf(text: string): string[] {
  return text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .normalize('NFC')
    .replace(/ß/g, 'ss')
    .replace(/([\p{Ll}\p{Nd}])(\p{Lu})/gu, '$1 $2')
    .replace(/(\p{Lu})(\p{Lu}\p{Ll})/gu, '$1 $2')
    .split(/(?:[^\p{L}\p{Nd}]|\P{XID_Continue})+/u)
    .filter((word) => word !== '')
    .map((word) => word.toLowerCase());
}

export function capitalised(word: string): string {
  const [first = '', ...rest] = word;
  return first.toUpperCase() + rest.join('');
}

/** The words with the last one in the singular. */
export function singular(words: readonly string[]): string[] {
  return words.map((word, i) => (i === words.length - 1 && /^[a-z]{3,}$/.test(word) ? pluralize.singular(word) : word));
}

/** The words with the last one in the plural. */
export function plural(words: readonly string[]): string[] {
  return words.map((word, i) => (i === words.length - 1 && /^[a-z]+$/.test(word) ? pluralize.plural(word) : word));
}

/** A name in PascalCase of ASCII and other letters that does not begin with a digit; `Record` when nothing is left. */
export function pascalCase(words: readonly string[]): string {
  const name = words.map(capitalised).join('');
  if (name === '') return 'Record';
  return /^\p{Nd}/u.test(name) ? `N${name}` : name;
}
