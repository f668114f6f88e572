import type { Type } from '../../core/model/types.js';
import type { TypeSpelling } from '../kit/spell.js';
import type { SupportSyntax } from '../kit/support.js';
import { hex, literal } from '../kit/text.js';
import { changed } from '../kit/ways.js';
import type { Way } from '../language.js';

const words = (text: string) => new Set(text.split(' '));

/** What is a name in backticks alone. */
const keywords = words(
  'associatedtype class deinit enum extension fileprivate func import init inout internal let open operator private precedencegroup protocol public rethrows static struct subscript typealias var break case catch continue default defer do else fallthrough for guard if in repeat return throw switch where while Any as await false is nil self Self super throws true try Type Protocol',
);

/** What no field or case may be called: members that Codable, Hashable and CodingKey give, names of generated code,
 * and `self`, which behind a dot is the value itself. */
export const reservedFields = words(
  'self encode hash hashValue description debugDescription rawValue stringValue intValue allCases fields decoder encoder',
);

/** Types of the library and of generated code. */
export const reservedTypes = words(
  'BenchPayload BenchHost BenchRefused Any Type Protocol Self String Int Int32 Int64 Double Decimal Bool Array Dictionary Set Optional Result Error Codable Decodable Encodable Decoder Encoder CodingKey CodingKeys DecodingError EncodingError Equatable Hashable Sendable RawRepresentable CaseIterable Data Date URL UUID JSONDecoder JSONEncoder JSONValue AnyKey Key KeyPath Value Nullable Null Field Box Tuple2 Tuple3 Tuple4 Tuple5 Tuple6 Tuple7 Tuple8 Tuple1 Never Void Character Substring Range Sequence',
);

/** A name as code has it. */
export function swiftName(name: string): string {
  return keywords.has(name) ? `\`${name}\`` : name;
}

/** A name as it labels an argument, where few words need backticks. */
export function swiftLabel(name: string): string {
  return ['inout', 'let', 'var'].includes(name) ? `\`${name}\`` : name;
}

/** What the positions of a tuple are called. */
export const positions = 'first second third fourth fifth sixth seventh eighth'.split(' ');

/** How Swift spells types. @param named what records, choices, unions and single words are called */
export const spelling = (
  named: (name: string, kind: 'record' | 'choice' | 'union') => string,
  wordType: (value: string) => string,
  behind?: TypeSpelling,
): TypeSpelling => ({
  anything: () => 'JSONValue',
  null: () => 'Null',
  boolean: () => 'Bool',
  string: (form) => (form === 'base64' ? 'Data' : 'String'),
  literal: wordType,
  integer: (width) => (width === 'unbounded' ? 'Decimal' : 'Int'),
  number: (exact) => (exact ? 'Decimal' : 'Double'),
  list: (items) => `[${items}]`,
  map: (values) => `[String: ${values}]`,
  tuple: (items) => `Tuple${items.length}<${items.join(', ')}>`,
  named,
  nullable: (of) => `${of}?`,
  ...(behind === undefined ? {} : { behind }),
});

/** Whether a type of Foundation is somewhere in a type. */
export function isOfFoundation(type: Type): boolean {
  return (
    (type.kind === 'string' && type.form === 'base64') ||
    (type.kind === 'integer' && type.width === 'unbounded') ||
    (type.kind === 'number' && type.exact)
  );
}

export const supportSyntax: SupportSyntax = {
  between: /\n{2,}(?=\/\/\/ (?!What each)|extension (?:Decoder|SingleValue))/,
  declares:
    /^(?:(?:public )?(?:indirect )?(?:struct|enum) (\w+)| {4}func (attempt|says|has|extra|refuse)\b)/gm,
  notCode: /\/\/.*|"(?:[^"\\\n]|\\.)*"/g,
};

/** A string literal. Half a surrogate pair becomes the replacement character, since no string of Swift holds one. */
export function swift(text: string): string {
  return literal(text.replace(/\p{Surrogate}/gu, '\ufffd'), {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', '\0': '\\0' },
    unit: (code) => `\\u{${hex(code, 1)}}`,
    astral: (code) => `\\u{${hex(code, 1)}}`,
  });
}

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  { name: 'JSONDecoder', summary: 'JSONDecoder and JSONEncoder of the payload' },
  { name: 'field', summary: "a field of the caller's own struct" },
  { name: 'elements', summary: 'elements of an array and a dictionary' },
  { name: 'built', summary: 'the initialiser, with the fields that were decoded' },
  changed,
];
