import type { Type } from '../../core/model/types.js';
import { camelCase, pascalCasing, screamingCase, type Casing } from '../kit/names.js';
import { spell, type TypeSpelling } from '../kit/spell.js';
import type { SupportSyntax } from '../kit/support.js';
import { hex, literal } from '../kit/text.js';
import { changed } from '../kit/ways.js';
import type { Way } from '../language.js';

const words = (text: string) => new Set(text.split(' '));

/** What is a name in backticks alone. */
const keywords = words(
  'as break class continue do else false for fun if in interface is null object package return super this throw true try typealias typeof val var when while',
);

export const reservedPackages = new Set([...keywords, 'yield', 'java', 'javax', 'kotlin', 'kotlinx']);

/** Where the declarations are that generated code takes from others. */
const imports: Readonly<Record<string, string>> = {
  BigDecimal: 'java.math',
  BigInteger: 'java.math',
  DateTimeFormatter: 'java.time.format',
  Decoder: 'kotlinx.serialization.encoding',
  DeserializationStrategy: 'kotlinx.serialization',
  EncodeDefault: 'kotlinx.serialization',
  Encoder: 'kotlinx.serialization.encoding',
  ExperimentalSerializationApi: 'kotlinx.serialization',
  Json: 'kotlinx.serialization.json',
  JsonArray: 'kotlinx.serialization.json',
  JsonClassDiscriminator: 'kotlinx.serialization.json',
  JsonContentPolymorphicSerializer: 'kotlinx.serialization.json',
  JsonDecoder: 'kotlinx.serialization.json',
  JsonElement: 'kotlinx.serialization.json',
  JsonEncoder: 'kotlinx.serialization.json',
  JsonIgnoreUnknownKeys: 'kotlinx.serialization.json',
  JsonNull: 'kotlinx.serialization.json',
  JsonObject: 'kotlinx.serialization.json',
  JsonPrimitive: 'kotlinx.serialization.json',
  JsonTransformingSerializer: 'kotlinx.serialization.json',
  JsonUnquotedLiteral: 'kotlinx.serialization.json',
  KSerializer: 'kotlinx.serialization',
  KeepGeneratedSerializer: 'kotlinx.serialization',
  ListSerializer: 'kotlinx.serialization.builtins',
  LocalDate: 'java.time',
  MapSerializer: 'kotlinx.serialization.builtins',
  NEVER: 'kotlinx.serialization.EncodeDefault.Mode',
  OffsetDateTime: 'java.time',
  PrimitiveKind: 'kotlinx.serialization.descriptors',
  PrimitiveSerialDescriptor: 'kotlinx.serialization.descriptors',
  Required: 'kotlinx.serialization',
  SerialDescriptor: 'kotlinx.serialization.descriptors',
  SerialName: 'kotlinx.serialization',
  Serializable: 'kotlinx.serialization',
  SerializationException: 'kotlinx.serialization',
  UUID: 'java.util',
  UseSerializers: 'kotlinx.serialization',
};

/** Those that are called on a value: what the call looks like, and what is imported for it. */
const importsOfCalls: readonly (readonly [RegExp, string])[] = [
  [/\b(?:String|Int|Long|Double|Boolean)\.serializer\(/, 'kotlinx.serialization.builtins.serializer'],
  [/\.nullable\b/, 'kotlinx.serialization.builtins.nullable'],
  [/\.elementNames\b/, 'kotlinx.serialization.descriptors.elementNames'],
  [/\.jsonObject\b/, 'kotlinx.serialization.json.jsonObject'],
  [/\bbooleanOrNull\b/, 'kotlinx.serialization.json.booleanOrNull'],
];

/** The lines that import what code uses, those of the platform last. */
export function importsOf(code: string): string[] {
  const plain = code.replace(notCode, '""');
  const used = new Set(plain.match(/[A-Za-z]\w*/g));
  const all = [
    ...Object.entries(imports).flatMap(([name, where]) => (used.has(name) ? [`${where}.${name}`] : [])),
    ...importsOfCalls.flatMap(([call, what]) => (call.test(plain) ? [what] : [])),
  ];
  const isOfPlatform = (each: string) => each.startsWith('java.');
  return all
    .sort((a, b) => Number(isOfPlatform(a)) - Number(isOfPlatform(b)) || (a < b ? -1 : 1))
    .map((each) => `import ${each}`);
}

/** Types of the language, of the library and of generated code. */
export const reservedTypes = new Set([
  ...Object.keys(imports),
  ...words(
    'Any Nothing Unit String Int Long Double Boolean Number Byte Short Float Char List Map Set Pair Array Companion Enum Throwable Exception Error Comparable Deprecated Suppress OptIn JvmInline Field FieldSerializer Absent Present OmittableSerializer TextSerializer OffsetDateTimeSerializer LocalDateSerializer UuidSerializer NumberSerializer BigDecimalSerializer BigIntegerSerializer ExactJsonSerializer ExtraKeysSerializer Tuple1 Tuple2 Tuple3 Tuple4 Tuple5 Tuple6 Tuple7 Tuple8 Host',
  ),
]);

export const typeCasing: Casing = { ...pascalCasing, reservedSuffix: 'Value' };
export const fieldCasing: Casing = { ...camelCase, reservedSuffix: 'Value' };
export const constantCasing: Casing = { ...screamingCase, reservedSuffix: '_WORD' };

/** A name as code has it. */
export function kotlinName(name: string): string {
  return keywords.has(name) ? `\`${name}\`` : name;
}

/** What the positions of a tuple are called. */
export const positions = 'first second third fourth fifth sixth seventh eighth'.split(' ');

/** How Kotlin spells types. @param named what records, choices, unions and single words are called */
export const spelling = (
  named: (name: string) => string,
  wordType: (value: string) => string,
): TypeSpelling => ({
  anything: () => 'JsonElement',
  null: () => 'JsonNull',
  boolean: () => 'Boolean',
  string: (form) => (form === undefined ? undefined : natives[form]) ?? 'String',
  literal: wordType,
  integer: (width) => (width === 'unbounded' ? 'BigInteger' : width === 'int32' ? 'Int' : 'Long'),
  number: (exact) => (exact ? 'BigDecimal' : 'Double'),
  list: (items) => `List<${items}>`,
  map: (values) => `Map<String, ${values}>`,
  tuple: (items) => `Tuple${items.length}<${items.join(', ')}>`,
  named,
  nullable: (of) => `${of}?`,
});

const natives: Readonly<Record<string, string>> = {
  'date-time': 'OffsetDateTime',
  date: 'LocalDate',
  uuid: 'UUID',
};

/** Types whose serializers are generated code, which a file names once. */
const ownSerializers: Readonly<Record<string, string>> = {
  BigDecimal: 'BigDecimalSerializer',
  BigInteger: 'BigIntegerSerializer',
  JsonElement: 'ExactJsonSerializer',
  LocalDate: 'LocalDateSerializer',
  OffsetDateTime: 'OffsetDateTimeSerializer',
  UUID: 'UuidSerializer',
};

const plain = spelling(
  () => '',
  () => '',
);

/** The serializer that a file names for all places of a type; undefined where the type has its own. */
export function serializerOfFile(type: Type): string | undefined {
  return ownSerializers[spell(type, plain)];
}

/** How the serializer of a type is spelled. */
export const serializers = (
  named: (name: string) => string,
  wordType: (value: string) => string,
): TypeSpelling => {
  const types = spelling(named, wordType);
  const of = (type: string) => ownSerializers[type] ?? `${type}.serializer()`;
  return {
    anything: () => of(types.anything()),
    null: () => of(types.null()),
    boolean: () => of(types.boolean()),
    string: (form) => of(types.string(form)),
    literal: (value) => of(wordType(value)),
    integer: (width) => of(types.integer(width, false)),
    number: (exact) => of(types.number(exact)),
    list: (items) => `ListSerializer(${items})`,
    map: (values) => `MapSerializer(String.serializer(), ${values})`,
    tuple: (items) => `Tuple${items.length}.serializer(${items.join(', ')})`,
    named: (name) => of(named(name)),
    nullable: (inner) => `${inner}.nullable`,
  };
};

const notCode = /\/\/.*|\/\*[\s\S]*?\*\/|"(?:[^"\\\n]|\\.)*"/g;

export const supportSyntax: SupportSyntax = {
  between: /\n{2,}(?=\S)/,
  declares:
    /^(?:public |internal )(?:abstract |sealed |data )*(?:class|interface|object|fun) (?:(?:JsonElement|Decoder)\.)?(\w+)/gm,
  notCode,
};

/** A string literal. */
export function kotlin(text: string): string {
  return literal(text, {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', $: '\\$' },
    unit: (code) => `\\u${hex(code, 4)}`,
  });
}

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  { name: 'Json', summary: 'decodeFromString and encodeToString of Json' },
  { name: 'field', summary: "a field of the caller's own class" },
  { name: 'elements', summary: 'elements of a list and a map' },
  {
    name: 'settings',
    summary:
      'a Json that writes defaults, but no nulls, and puts defaults in the place of what it cannot read',
    limits: [
      {
        says: 'explicitNulls = false leaves out what is required and null, and no annotation withstands it',
        kinds: ['lost'],
      },
    ],
  },
  { name: 'built', summary: 'the constructor, with what was decoded' },
  { ...changed, summary: 'copy with one field as in another payload' },
];
