import { camelCase, pascalCasing, type Casing } from '../kit/names.js';
import type { TypeSpelling } from '../kit/spell.js';
import type { SupportSyntax } from '../kit/support.js';
import { hex, literal } from '../kit/text.js';
import { built, changed } from '../kit/ways.js';
import type { Way } from '../language.js';

const words = (text: string) => new Set(text.split(' '));

/** What is a name in backticks alone. */
const keywords = words(
  'abstract case catch class def do else enum export extends false final finally for given if implicit import lazy match new null object override package private protected return sealed super then this throw trait true try type val var while with yield',
);

/** What no field may be called: methods that every value has, and those of case classes. */
export const reservedFields = words(
  'productArity productElement productElementName productElementNames productIterator productPrefix canEqual copy hashCode toString equals getClass wait notify notifyAll clone finalize isInstanceOf asInstanceOf synchronized eq ne ordinal',
);

/** Where the declarations are that generated code takes from others. */
const imports: Readonly<Record<string, string>> = {
  CodecMakerConfig: 'com.github.plokhotnyuk.jsoniter_scala.macros',
  ConfiguredJsonValueCodec: 'com.github.plokhotnyuk.jsoniter_scala.macros',
  ISO_OFFSET_DATE_TIME: 'java.time.format.DateTimeFormatter',
  JsonCodecMaker: 'com.github.plokhotnyuk.jsoniter_scala.macros',
  JsonReader: 'com.github.plokhotnyuk.jsoniter_scala.core',
  JsonValueCodec: 'com.github.plokhotnyuk.jsoniter_scala.core',
  JsonWriter: 'com.github.plokhotnyuk.jsoniter_scala.core',
  LocalDate: 'java.time',
  OffsetDateTime: 'java.time',
  UTF_8: 'java.nio.charset.StandardCharsets',
  UUID: 'java.util',
  VectorMap: 'scala.collection.immutable',
  named: 'com.github.plokhotnyuk.jsoniter_scala.macros',
  readFromArrayReentrant: 'com.github.plokhotnyuk.jsoniter_scala.core',
  transient: 'com.github.plokhotnyuk.jsoniter_scala.macros',
  writeToStringReentrant: 'com.github.plokhotnyuk.jsoniter_scala.core',
};

/** Types of the language, of the library and of generated code. */
export const reservedTypes = new Set([
  ...Object.keys(imports),
  ...words(
    'Any AnyRef AnyVal Nothing Null Unit String Int Long Double Float Byte Short Char Boolean Option Some None List Nil Map Seq Set Vector Array Iterator Either Left Right Function Product Serializable BigInt BigDecimal Object Class Throwable RuntimeException Exception Error Predef Tuple1 Tuple2 Tuple3 Tuple4 Tuple5 Tuple6 Tuple7 Tuple8 Symbol Stream Range Ordering Numeric Integral Matchable Singleton Enum Mirror CanEqual Field Nullable RawJson FieldCodec OptionCodec NotNullCodec ExtraKeysCodec RestCodec Absent Value Host',
  ),
]);

export const reservedPackages = new Set([...keywords, ...reservedFields, 'scala', 'java', 'com']);

/** The width of a line. */
export const width = 80;

/** The lines that import what code uses. */
export function importsOf(code: string): string[] {
  const used = new Set(code.replace(notCode, '""').match(/[A-Za-z_]\w*/g));
  const groups = new Map<string, string[]>();
  for (const [name, where] of Object.entries(imports))
    if (used.has(name)) groups.set(where, [...(groups.get(where) ?? []), name]);
  return [...groups]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .flatMap(([where, names]) => {
      const flat = `import ${where}.${names.length === 1 ? names[0]! : `{${names.join(', ')}}`}`;
      return flat.length <= width
        ? [flat]
        : [
            `import ${where}.{`,
            ...names.map((name, i) => `  ${name}${i < names.length - 1 ? ',' : ''}`),
            '}',
          ];
    });
}

// An underscore at the end of a name would draw the colon behind it into the name.
export const typeCasing: Casing = { ...pascalCasing, reservedSuffix: 'Value' };
export const fieldCasing: Casing = { ...camelCase, reservedSuffix: 'Value' };

/** A name as code has it. */
export function scalaName(name: string): string {
  return keywords.has(name) ? `\`${name}\`` : name;
}

/** How Scala spells types. @param named what records, choices and unions are called */
export const spelling = (named: (name: string) => string): TypeSpelling => ({
  anything: () => 'RawJson',
  null: () => 'RawJson',
  boolean: () => 'Boolean',
  string: (form) => (form === undefined ? undefined : natives[form]) ?? 'String',
  literal: scala,
  integer: (width) => (width === 'unbounded' ? 'BigInt' : width === 'int32' ? 'Int' : 'Long'),
  number: (exact) => (exact ? 'BigDecimal' : 'Double'),
  list: (items) => `List[${items}]`,
  map: (values) => `VectorMap[String, ${values}]`,
  tuple: (items) => (items.length === 1 ? `Tuple1[${items[0]!}]` : `(${items.join(', ')})`),
  named,
  nullable: (of) => `Nullable[${of}]`,
});

const natives: Readonly<Record<string, string>> = {
  'date-time': 'OffsetDateTime',
  date: 'LocalDate',
  uuid: 'UUID',
};

const notCode = /\/\/.*|\/\*[\s\S]*?\*\/|"(?:[^"\\\n]|\\.)*"/g;

export const supportSyntax: SupportSyntax = {
  between: /\n{2,}(?=\S)/,
  declares:
    /^(?:private )?(?:inline )?(?:final )?(?:case )?(?:(?:class|object|def|sealed trait) (\w+)|given (config)|given JsonValueCodec\[(\w+)\] with)/gm,
  notCode,
};

/** A string literal. */
export function scala(text: string): string {
  return literal(text, {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => `\\u${hex(code, 4)}`,
  });
}

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  { name: 'readFromString', summary: 'readFromString and writeToString' },
  { name: 'field', summary: "a field of the caller's own case class" },
  { name: 'elements', summary: 'elements of a list and a map' },
  built,
  { ...changed, summary: 'copy with one field as in another payload' },
];
