import type { TypeSpelling } from '../kit/spell.js';
import { lineComments, literal } from '../kit/text.js';
import { changed } from '../kit/ways.js';
import type { Limit, Way } from '../language.js';
import { namesOfC } from './c-names.js';

const words = (text: string) => text.split(' ');

export const keywords = words(
  'alignas alignof and and_eq asm auto bitand bitor bool break case catch char char8_t char16_t char32_t class compl concept const consteval constexpr constinit const_cast continue co_await co_return co_yield decltype default delete do double dynamic_cast else enum explicit export extern false float for friend goto if inline int long mutable namespace new noexcept not not_eq nullptr operator or or_eq private protected public register reinterpret_cast requires return short signed sizeof static static_assert static_cast struct switch template this thread_local throw true try typedef typeid typename union unsigned using virtual void volatile wchar_t while xor xor_eq',
);

/** Macros of the standard headers are as reserved as keywords. */
const macros = words('assert errno stdin stdout stderr offsetof setjmp signbit isnan isinf linux unix i386');

export const reservedFields = new Set([...keywords, ...macros, 'std', 'json', 'nlohmann', 'codec']);

export const reservedTypes = new Set([
  ...keywords,
  ...words('DecodeError Field Box EOF NULL FILE BUFSIZ RAND_MAX'),
]);

/** Namespaces beside the functions and types of C that the headers bring, which no namespace may be called as. */
export const reservedPackages = new Set([...reservedFields, ...namesOfC]);

/** How C++ spells types. @param named what records, choices, unions are called */
export const spelling = (
  named: (name: string, kind: 'record' | 'choice' | 'union') => string,
): TypeSpelling => ({
  anything: () => 'nlohmann::json',
  null: () => 'std::nullptr_t',
  boolean: () => 'bool',
  string: () => 'std::string',
  integer: (width) => (width === 'int32' ? 'std::int32_t' : 'std::int64_t'),
  number: () => 'double',
  list: (items) => `std::vector<${items}>`,
  map: (values) => `std::map<std::string, ${values}, std::less<>>`,
  tuple: (items) => `std::tuple<${items.join(', ')}>`,
  named,
  nullable: (of) => `std::optional<${of}>`,
});

/** What headers of the standard library bring, by the header. */
const headers: readonly (readonly [header: string, brings: RegExp])[] = [
  ['algorithm', /std::(?:find|binary_search|ranges::any_of)\b/],
  ['array', /std::array\b|\bWords</],
  ['cmath', /std::(?:trunc|abs)\b/],
  ['compare', /<=>/],
  ['concepts', /std::(?:convertible_to|same_as|integral)\b/],
  ['cstddef', /std::(?:size_t|nullptr_t)\b/],
  ['cstdint', /std::u?int\d+_t\b/],
  ['functional', /std::less\b/],
  ['initializer_list', /std::initializer_list\b/],
  ['map', /std::map\b/],
  ['memory', /std::unique_ptr\b/],
  ['optional', /std::(?:optional|nullopt)\b/],
  ['string', /std::(?:string|to_string)\b/],
  ['string_view', /std::string_view\b/],
  ['tuple', /std::(?:tuple|apply)\b/],
  ['type_traits', /std::remove_cvref_t\b/],
  ['utility', /std::(?:move|forward|in_range)\b/],
  ['variant', /std::(?:variant|visit)\b/],
  ['vector', /std::vector\b/],
];

/** The headers that a text needs. */
export function includesOf(text: string): string {
  return headers
    .filter(([, brings]) => brings.test(text))
    .map(([header]) => `#include <${header}>`)
    .join('\n');
}

/** A backslash at the end of a line, or its trigraph, would draw the next one into the comment. */
export function comment(sign: string, text: string, width = 100): string[] {
  return lineComments(sign, text, width, (line) => line.replace(/\\/g, '/').replace(/\?(?=\?)/g, '? '));
}

function quoted(text: string): string {
  const octal = (code: number) =>
    [...new TextEncoder().encode(String.fromCodePoint(code))]
      .map((byte) => `\\${byte.toString(8).padStart(3, '0')}`)
      .join('');
  return literal(text, {
    quote: '"',
    // Two question marks may begin a trigraph.
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', '?': '\\?' },
    unit: octal,
    astral: octal,
  });
}

/** A string literal; one with a NUL in it says its length. Half a surrogate pair becomes the replacement character. */
export function cpp(text: string): string {
  const whole = text.replace(/\p{Surrogate}/gu, '\ufffd');
  // What would be escaped and is plain otherwise is easier read as it is.
  if (/["\\]/.test(whole) && /^[\x20-\x7e]*$/.test(whole) && !whole.includes(')"')) return `R"(${whole})"`;
  if (!whole.includes('\0')) return quoted(whole);
  return `std::string_view(${quoted(whole)}, ${new TextEncoder().encode(whole).length})`;
}

/** What numbers of the library do not carry: they have 64 bits. */
const rounded: Limit = {
  says: 'numbers of nlohmann/json are 64 bits wide',
  kinds: ['altered'],
  causes: /goes through a double/,
};

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  { name: 'get', summary: 'get of parsed JSON, and json of a value', limits: [rounded] },
  { name: 'field', summary: "a member of the caller's own struct" },
  { name: 'elements', summary: 'elements of a vector' },
  { name: 'built', summary: 'members set to those that were decoded' },
  changed,
];
