import type { TypeSpelling } from '../kit/spell.js';
import { hex, literal } from '../kit/text.js';
import { camelCase, pascalCasing, screamingCase, type Casing } from '../kit/names.js';
import { changed } from '../kit/ways.js';
import type { Limit, Way } from '../language.js';

const words = (text: string) => new Set(text.split(' '));

const keywords = words(
  'abstract assert boolean break byte case catch char class const continue default do double else enum extends final finally float for goto if implements import instanceof int interface long native new package private protected public return short static strictfp super switch synchronized this throw throws transient try void volatile while true false null _ var yield record sealed permits',
);

/** What no component is called: keywords, methods that every object has, and those of generated records. */
export const reservedFields = new Set([
  ...keywords,
  ...words('clone finalize getClass hashCode notify notifyAll toString wait equals builder toBuilder build'),
]);

/** Types of the library, of the language and of generated code. */
export const reservedTypes = words(
  'Absent Present Builder Deserializer Object String Integer Long Double Boolean Number Record Override Deprecated Enum Error Exception List Map ArrayList Collections Objects BigInteger BigDecimal JsonNode JsonParser JsonProperty JsonCreator JsonAnyGetter JsonAnySetter JsonFormat JsonIgnoreProperties JsonInclude JsonNaming JsonPropertyOrder JsonSetter JsonSubTypes JsonTypeInfo JsonValue JsonDeserialize DeserializationContext PropertyNamingStrategies ValueDeserializer TypeDeserializer LinkedHashMap OffsetDateTime LocalDate UUID Nulls Nullable NullMarked StrictMapper Bench Required Omittable Field DateTime ExactNode Tuple1 Tuple2 Tuple3 Tuple4 Tuple5 Tuple6 Tuple7 Tuple8 SuppressWarnings Class ClassLoader Void Thread ThreadGroup ThreadLocal Throwable Runnable Readable Appendable AutoCloseable Cloneable CharSequence StringBuilder StringBuffer StackTraceElement StackWalker StrictMath ProcessBuilder ProcessHandle ModuleLayer FunctionalInterface Module Process Runtime System Character Math Iterable Comparable Package SafeVarargs Byte Short Float IllegalArgumentException',
);

export const reservedPackages = new Set([...reservedFields, 'java', 'javax', 'com', 'tools', 'org']);

// A name that is taken gets a word more.
export const fieldCasing: Casing = { ...camelCase, reservedSuffix: 'Value' };
export const typeCasing: Casing = { ...pascalCasing, reservedSuffix: 'Value' };
export const constantCasing: Casing = { ...screamingCase, reservedSuffix: '_WORD' };

/** What the positions of a tuple are called. */
export const positions = 'first second third fourth fifth sixth seventh eighth'.split(' ');

/** What a position of a tuple is called. */
export const positionName = (index: number): string => positions[index]!;

const annotations = 'com.fasterxml.jackson.annotation';

/** Where types of other packages are, those of the library without what its version puts before them. */
const imports: Readonly<Record<string, string>> = {
  ArrayList: 'java.util',
  BeanProperty: 'databind',
  BigDecimal: 'java.math',
  BigInteger: 'java.math',
  CoercionAction: 'databind.cfg',
  CoercionInputShape: 'databind.cfg',
  Collections: 'java.util',
  ContextualDeserializer: 'databind.deser',
  DeserializationContext: 'databind',
  DeserializationFeature: 'databind',
  EnumFeature: 'databind.cfg',
  IOException: 'java.io',
  JacksonAnnotationsInside: annotations,
  JsonAnyGetter: annotations,
  JsonAnySetter: annotations,
  JsonCreator: annotations,
  JsonDeserialize: 'databind.annotation',
  JsonDeserializer: 'databind',
  JsonFormat: annotations,
  JsonIgnoreProperties: annotations,
  JsonInclude: annotations,
  JsonMapper: 'databind.json',
  JsonMappingException: 'databind',
  JsonNaming: 'databind.annotation',
  JsonNode: 'databind',
  JsonParser: 'core',
  JsonProperty: annotations,
  JsonPropertyOrder: annotations,
  JsonSetter: annotations,
  JsonSubTypes: annotations,
  JsonTypeInfo: annotations,
  JsonValue: annotations,
  LinkedHashMap: 'java.util',
  List: 'java.util',
  LocalDate: 'java.time',
  LogicalType: 'databind.type',
  Map: 'java.util',
  MapperFeature: 'databind',
  NullNode: 'databind.node',
  Nullable: 'org.jspecify.annotations',
  Nulls: annotations,
  ObjectReader: 'databind',
  OffsetDateTime: 'java.time',
  PropertyNamingStrategies: 'databind',
  Retention: 'java.lang.annotation',
  RetentionPolicy: 'java.lang.annotation',
  StreamReadFeature: 'core',
  TypeDeserializer: 'databind.jsontype',
  UUID: 'java.util',
  ValueDeserializer: 'databind',
};

/** The lines that import what code uses. @param isOlder whether it is for Jackson 2 */
export function importsOf(code: string, isOlder: boolean): string[] {
  const plain = code.replace(/\/\/.*|\/\*[\s\S]*?\*\/|"(?:[^"\\\n]|\\.)*"/g, ' ');
  const used = new Set(plain.match(/[A-Za-z_]\w*/g));
  const jackson = isOlder ? 'com.fasterxml.jackson' : 'tools.jackson';
  const lines = Object.entries(imports)
    .filter(([type]) => used.has(type))
    .map(
      ([type, where]) => `import ${/^(?:core|databind)\b/.test(where) ? `${jackson}.` : ''}${where}.${type};`,
    )
    .sort((a, b) => (a < b ? -1 : 1));
  return [
    ...(used.has('requireNonNull') ? ['import static java.util.Objects.requireNonNull;'] : []),
    ...(used.has('requireNonNull') && lines.length > 0 ? [''] : []),
    ...lines,
  ];
}

/** How Java spells types, those that a generic type takes in the second. */
export function spelling(
  named: (name: string) => string,
  wordType: (value: string) => string,
): { readonly plain: TypeSpelling; readonly boxed: TypeSpelling } {
  const boxed: TypeSpelling = {
    anything: () => 'JsonNode',
    null: () => 'JsonNode',
    boolean: () => 'Boolean',
    string: (form) =>
      form === 'date-time'
        ? 'OffsetDateTime'
        : form === 'date'
          ? 'LocalDate'
          : form === 'uuid'
            ? 'UUID'
            : 'String',
    literal: wordType,
    integer: (width) => (width === 'unbounded' ? 'BigInteger' : width === 'int32' ? 'Integer' : 'Long'),
    number: (exact) => (exact ? 'BigDecimal' : 'Double'),
    list: (items) => `List<${items}>`,
    map: (values) => `Map<String, ${values}>`,
    tuple: (items) => `Tuple${items.length}<${items.join(', ')}>`,
    named,
    nullable: (of) => `@Nullable ${of}`,
  };
  const plain: TypeSpelling = {
    ...boxed,
    boolean: () => 'boolean',
    integer: (width) => (width === 'unbounded' ? 'BigInteger' : width === 'int32' ? 'int' : 'long'),
    number: (exact) => (exact ? 'BigDecimal' : 'double'),
    behind: boxed,
    inside: boxed,
  };
  return { plain, boxed };
}

/** A string literal. Low codes are octal: Java turns \\u escapes into characters before it reads literals. */
export function java(text: string): string {
  return literal(text, {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => (code < 0x100 ? `\\${code.toString(8).padStart(3, '0')}` : `\\u${hex(code, 4)}`),
  });
}

/** What a tree of the library rounds, in lists and maps of what may be anything. */
const rounded: Limit = {
  says: 'what may be anything, deeper than one list or map, is a tree of Jackson, whose decimals are doubles',
  kinds: ['altered'],
  causes: /goes through a double/,
};

/** How programs decode and encode, in the order in which the bench tries them. */
export const ways: readonly Way[] = [
  {
    name: 'StrictMapper',
    summary: 'readValue and writeValueAsString of the mapper that bends nothing',
    limits: [rounded],
  },
  { name: 'JsonMapper', summary: 'readValue and writeValueAsString of a new JsonMapper' },
  { name: 'field', summary: "a field of the caller's own record" },
  { name: 'elements', summary: 'elements of a list and a map' },
  { name: 'settings', summary: 'a mapper without nulls and with names in snake case' },
  { name: 'built', summary: 'the constructor, with what was decoded' },
  changed,
];
