import { snakeCase, type Casing } from '../kit/names.js';
import type { TypeSpelling } from '../kit/spell.js';
import type { SupportSyntax } from '../kit/support.js';
import { hex, literal } from '../kit/text.js';
import { changed } from '../kit/ways.js';
import type { Limit, Way } from '../language.js';

const words = (text: string) => new Set(text.split(' '));

export const keywords = words(
  'as async await break const continue dyn else enum extern false fn for gen if impl in let loop match mod move mut pub ref return static struct trait true type union unsafe use where while abstract become box do final macro override priv try typeof unsized virtual yield crate self super',
);

/** What no field may be called, since these words are none with `r#` before them either. */
export const reservedFields = words('crate self super');

/** What types of the file may be called that are none of the model. */
export const reservedTypes = words(
  'DateTime FixedOffset NaiveDate Uuid Self Field Integer Number Deserialize Deserializer Serialize Serializer RawValue Value BTreeMap Box Option Some None Ok Err Result String Vec From Into Default Debug Clone Copy PartialEq Eq Hash Hasher Error D H S',
);

/** Names of crates that stand for something else. */
export const reservedCrates = new Set([
  ...keywords,
  ...words('test std core alloc proc_macro chrono serde serde_json uuid support'),
]);

export const crateCasing: Casing = { ...snakeCase, fallback: 'payload', digitPrefix: 'payload_' };

/** A field's name, with what makes a keyword one. */
export function fieldName(name: string): string {
  return keywords.has(name) ? `r#${name}` : name;
}

/** How Rust spells types. @param imported notes what the file uses; gives its name */
export const spelling = (
  named: (name: string, kind: 'record' | 'choice' | 'union') => string,
  wordType: (value: string) => string,
  imported: (path: string) => string,
): TypeSpelling => ({
  anything: () => imported('serde_json::Value'),
  null: () => '()',
  boolean: () => 'bool',
  string: (form) => {
    switch (form) {
      case 'date-time':
        return `${imported('chrono::DateTime')}<${imported('chrono::FixedOffset')}>`;
      case 'date':
        return imported('chrono::NaiveDate');
      case 'uuid':
        return imported('uuid::Uuid');
      default:
        return 'String';
    }
  },
  literal: wordType,
  integer: (width) =>
    width === 'unbounded' ? imported('support::Integer') : width === 'int32' ? 'i32' : 'i64',
  number: (exact) => (exact ? imported('support::Number') : 'f64'),
  list: (items) => `Vec<${items}>`,
  map: (values) => `${imported('std::collections::BTreeMap')}<String, ${values}>`,
  tuple: (items) => `(${items.join(', ')})`,
  named,
  nullable: (of) => `Option<${of}>`,
});

/** Where what the support code uses comes from. */
export const supportImports: readonly string[] = [
  'serde::de::DeserializeOwned',
  'serde::Deserialize',
  'serde::Deserializer',
  'serde::Serialize',
  'serde::Serializer',
  'std::fmt',
  'std::str::FromStr',
];

export const supportSyntax: SupportSyntax = {
  between: /\n{2,}(?=\/\/\/)/,
  declares: /^pub(?:\(crate\))? (?:struct|enum|fn) (\w+)/gm,
  notCode: /\/\/.*|"(?:[^"\\\n]|\\.)*"/g,
};

/** A string literal. Half a surrogate pair becomes the replacement character, since no string of Rust holds one. */
export function rust(text: string): string {
  return literal(text.replace(/\p{Surrogate}/gu, '\ufffd'), {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => `\\u{${hex(code, 1)}}`,
    astral: (code) => `\\u{${hex(code, 1)}}`,
  });
}

/** What the library's own value does not carry, in fields that may be anything and under keys that are kept. */
const rounded: Limit = {
  says: 'what may be anything is a serde_json::Value, whose numbers are 64 bits wide',
  kinds: ['altered', 'refused'],
  causes: /goes through a double|out of range/,
};

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  {
    name: 'from_slice',
    summary: 'from_slice of the crate, which says the path to what is wrong',
    limits: [rounded],
  },
  { name: 'serde_json', summary: 'serde_json::from_slice and to_string' },
  { name: 'field', summary: "a field of the caller's own struct" },
  { name: 'elements', summary: 'elements of a Vec' },
  {
    name: 'Value',
    summary: 'serde_json::Value and back',
    limits: [{ says: 'the numbers of a serde_json::Value are 64 bits wide', kinds: ['altered', 'refused'] }],
  },
  { name: 'built', summary: 'a literal of the fields that were decoded' },
  changed,
];
