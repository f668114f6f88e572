import type { TypeModel } from '../../core/model/types.js';
import { plural, wordsOf } from '../../core/words.js';
import { hex } from '../kit/text.js';
import { identifier, packageWord, snakeCase, type Casing } from '../kit/names.js';
import type { EmitOptions } from '../language.js';

/** Words that are no names in code. */
const syntax = new Set(
  'if else repeat while function for next break TRUE FALSE NULL Inf NaN NA NA_integer_ NA_real_ NA_character_ NA_complex_ in'.split(
    ' ',
  ),
);

/** Classes with methods of R or of these packages, which would be taken before those of a record. */
export const reservedTypes = new Set(
  'list record records data_frame json integer64 factor table function matrix array numeric integer character logical double complex raw environment formula call name expression date posixct posixlt difftime error warning condition connection file default ts lm glm type types payload kinds text number flag exact whole null anything'.split(
    ' ',
  ),
);

export const reservedPackages = new Set(
  'base bit64 compiler datasets graphics grdevices grid jsonlite methods parallel splines stats stats4 tcltk tools utils'.split(
    ' ',
  ),
);

/** Functions are called so; R wants ASCII in code that others install. */
export const functionCase: Casing = {
  ...snakeCase,
  join: (words) =>
    words
      .map((word) => word.replace(/[^a-z0-9]/g, ''))
      .filter((word) => word !== '')
      .join('_'),
  fallback: 'record',
};

/** What several of a record are called; the same with a word more where that is no other name. */
export function pluralOf(name: string): string {
  const many = plural(wordsOf(name)).join('_');
  return many === name ? `${name}_list` : many;
}

/** A package has letters, digits and dots. */
export function packageName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  if (options.package !== undefined) return options.package;
  const word = packageWord(model.name, reservedPackages);
  return word.length < 2 ? `payload${word}` : word;
}

/** A string literal of ASCII. Half a surrogate pair becomes the replacement character: UTF-8 has none. */
export function r(text: string): string {
  const short: Record<string, string> = { '\n': '\\n', '\r': '\\r', '\t': '\\t', '\\': '\\\\', '"': '\\"' };
  const characters = [...text.replace(/\p{Surrogate}/gu, '\ufffd')].map((character) => {
    const code = character.codePointAt(0)!;
    if (short[character] !== undefined) return short[character];
    if (code >= 0x20 && code < 0x7f) return character;
    return code > 0xffff ? `\\U${hex(code, 8)}` : `\\u${hex(code, 4)}`;
  });
  return `"${characters.join('')}"`;
}

/** A name in code: between backticks where it is none by itself, and as a string where backticks cannot hold it. */
export function symbol(text: string): string {
  if (!canBeParameter(text)) return r(text);
  const isName = /^(?:[A-Za-z]|\.(?![0-9]))[A-Za-z0-9._]*$/.test(text) && !syntax.has(text);
  return isName ? text : `\`${text}\``;
}

/** Whether a function may have a parameter of a name: of ASCII alone, and none that R has itself. */
export function canBeParameter(text: string): boolean {
  return /^[ !-[\]-_a-~]+$/.test(text) && !/^\.\.(?:\.|\d+)$/.test(text);
}

/** A function called after a record. */
export function functionName(name: string): string {
  return identifier(name, functionCase);
}
