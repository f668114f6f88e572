import { capitalised } from '../../core/words.js';
import type { Casing } from '../kit/names.js';
import type { TypeSpelling } from '../kit/spell.js';
import type { SupportSyntax } from '../kit/support.js';
import { hex, literal } from '../kit/text.js';
import type { Way } from '../language.js';
import { changed } from '../kit/ways.js';

const words = (text: string) => new Set(text.split(' '));

/** Words that Go writes in capitals (the initialisms of its usual linters). */
const initialisms = words(
  'acl api ascii cpu css dns eof guid html http https id ip json qps ram rpc sla smtp sql ssh tcp tls ttl udp ui uid uuid uri url utf8 vm xml xmpp xsrf xss',
);

export const keywords = words(
  'break case chan const continue default defer else fallthrough for func go goto if import interface map package range return select struct switch type var main init any error string bool int',
);

export const reservedPackages = new Set([
  ...keywords,
  ...words('internal vendor documentation all std cmd support'),
]);

/** Names that the support code declares and callers see. */
export const supportNames = new Set([
  ...words('Field FieldOf NullField Null'),
  ...Array.from({ length: 8 }, (_, i) => `Tuple${i + 1}`),
]);

/** Methods of generated types, which no field of theirs may be called. */
export const methods = words('MarshalJSON UnmarshalJSON');

/** What functions of generated code call, which a local type of theirs may not hide. */
export const usedLocally = new Set([
  ...keywords,
  ...words(
    'text read err own whole word json errors reflect strconv swap swapped unmarshal decode others tag within',
  ),
  ...words('untold mismatch marshal encode kind assign new len nil true false'),
]);

export const exported: Casing = {
  join: (parts) => {
    const name = parts
      .map((word) => (initialisms.has(word) ? word.toUpperCase() : capitalised(word)))
      .join('');
    // Only what begins with a capital letter is seen outside its package.
    return name === '' || /^[\p{Lu}\p{Nd}]/u.test(name) ? name : `X${name}`;
  },
  fallback: 'Field',
  digitPrefix: 'N',
};

/** How Go spells types. @param named what records, choices, unions and single words are called */
export const spelling = (
  named: (name: string) => string,
  wordType: (value: string) => string,
): TypeSpelling => ({
  anything: () => 'json.RawMessage',
  null: () => 'Null',
  boolean: () => 'bool',
  string: (form) => (form === 'date-time' ? 'time.Time' : form === 'base64' ? '[]byte' : 'string'),
  integer: (width) => (width === 'unbounded' ? 'json.Number' : width === 'int32' ? 'int32' : 'int64'),
  number: (exact) => (exact ? 'json.Number' : 'float64'),
  literal: wordType,
  list: (items) => `[]${items}`,
  map: (values) => `map[string]${values}`,
  tuple: (items) => `Tuple${items.length}[${items.join(', ')}]`,
  named,
  nullable: (of) => `*${of}`,
});

/** The packages of the standard library that generated code may use. */
export const packages =
  'bytes encoding/json errors iter reflect strconv strings sync time unicode unicode/utf16 unicode/utf8'.split(
    ' ',
  );

export const supportSyntax: SupportSyntax = {
  between: /\n{2,}(?=\/\/)/,
  declares:
    /^(?:func (?:\((?:\w+ )?\*?\w+(?:\[[^\]]*\])?\) (?!nullable)([a-z]\w*)|\((?:\w+ )?\*?(\w+)(?:\[[^\]]*\])?\) [A-Z]|(\w+)[[(])|(?:type|var) (\w+))/gm,
  methodOf: /^(?:\/\/.*\n)*func \((?:\w+ )?\*?(\w+)\) [a-z]/,
  // Fields and methods of the library's types are none of ours.
  notNames: /\.[A-Z]\w*|\bField:/g,
  notCode: /\/\/.*|`[^`]*`|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'/g,
};

/** A string literal. Half a surrogate pair becomes the replacement character, as in every string of Go. */
export function go(text: string): string {
  return literal(text.replace(/\p{Surrogate}/gu, '\ufffd'), {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => `\\u${hex(code, 4)}`,
    astral: (code) => `\\U${hex(code, 8)}`,
  });
}

/** Whether a struct tag of encoding/json can hold a key: its documentation lists the characters. */
export function mayBeTag(key: string): boolean {
  return (
    /^[A-Za-z0-9!#$%&()*+\-./:;<=>?@[\]^_{|}~ \u00a1-\ud7ff]+$/.test(key) &&
    !/[^\p{L}\p{Nd}\x20-\x7e]/u.test(key)
  );
}

/** The ways in of structs that check nothing, which leave nil to the library. */
export const plainWays = (): readonly Way[] =>
  ways.map((way) =>
    way.name === 'built'
      ? { ...way, limits: [{ says: 'a list or map that is nil is written as null', kinds: ['emptied'] }] }
      : way,
  );

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  { name: 'json.Unmarshal', summary: 'json.Unmarshal and json.Marshal of the payload' },
  { name: 'field', summary: "a field of the caller's own struct" },
  { name: 'elements', summary: 'elements of a slice and a map' },
  { name: 'json.Decoder', summary: 'json.Decoder with UseNumber, json.Encoder without HTML escapes' },
  { name: 'built', summary: 'a literal of the fields that were decoded' },
  changed,
];
