import { acceptsNull, type RecordField, type Type } from '../../core/model/types.js';
import { presenceOf, type Presence } from '../kit/presence.js';
import type { TypeSpelling } from '../kit/spell.js';
import type { SupportSyntax } from '../kit/support.js';
import { hex, literal } from '../kit/text.js';

export const reservedFields = new Set(
  'Equals GetHashCode GetType ToString MemberwiseClone Finalize ReferenceEquals Held Required NullValueHandling'.split(
    ' ',
  ),
);

export const tupleSizes = [1, 2, 3, 4, 5, 6, 7, 8] as const;

/** Types of the framework and the library that generated code names, and its own. */
export const reservedTypes: ReadonlySet<string> = new Set(
  [
    'Object String Int32 Int64 Double Boolean Type List Dictionary Nullable Func Action Attribute Exception Convert',
    'Activator Array JToken JObject JArray JValue JRaw JTokenType JsonConvert JsonConverter JsonReader JsonWriter',
    'JsonSerializer JsonSerializerSettings JsonProperty JsonObjectContract JsonToken JsonObject',
    'JsonTextReader JsonTextWriter JsonException JsonReaderException JsonSerializationException JsonIgnore Required',
    'NullValueHandling DateParseHandling FloatParseHandling MetadataPropertyHandling MemberSerialization',
    'DefaultContractResolver Number NumberText NumberConverter RecordConverter RecordShape Member ScalarConverter TextConverter OtherKeys Field IField',
    'OtherKeysAttribute WordConverter UnionConverter IHolder Tag ITuple TupleConverter ExactJson Json JsonSupport System',
    'Newtonsoft Formatting Version Math Random Environment Console Char Byte Decimal Single Void Enum Delegate Uri Guid',
    'DateTime DateTimeOffset DateTimeStyles CultureInfo NumberStyles IDictionary DictionaryEntry HashSet IReadOnlyList IReadOnlyDictionary',
    'ConcurrentDictionary JsonExtensionData TimeSpan Lazy Tuple GC Buffer Collections StringReader StringWriter Regex',
    'PropertyInfo ArgumentException ArgumentNullException FormatException AttributeUsage',
    'AttributeTargets Index Range',
    ...tupleSizes.map((size) => `Tuple${size}`),
  ]
    .join(' ')
    .split(' '),
);

/** The type of a form of text, and what makes one. */
export const views = {
  'date-time': {
    native: 'DateTimeOffset',
    from: (text: string) => `DateTimeOffset.Parse(${text}, CultureInfo.InvariantCulture)`,
    isValue: true,
  },
  date: {
    native: 'DateTime',
    from: (text: string) => `DateTime.ParseExact(${text}, "yyyy-MM-dd", CultureInfo.InvariantCulture)`,
    isValue: true,
  },
  uuid: { native: 'Guid', from: (text: string) => `Guid.Parse(${text})`, isValue: true },
  base64: {
    native: 'byte[]',
    from: (text: string) => `Convert.FromBase64String(${text})`,
    isValue: false,
  },
} as const;

/** What a property is declared as: one that must be there may be null where its type has null itself. */
export function presenceIn(field: RecordField): Presence {
  return field.required && acceptsNull(field) ? 'nullable' : presenceOf(field);
}

/** What an attribute says of whether a key may be absent, and its value null, as the library has it. */
export function attributesOf(presence: Presence): string {
  switch (presence) {
    case 'required':
      return 'Required = Required.Always';
    case 'nullable':
      return 'Required = Required.AllowNull';
    case 'optional':
    case 'both':
      return '';
  }
}

/** Whether a type is one of values, which need a sign to be null. */
export function isValue(type: Type, isOpen: (choice: string) => boolean): boolean {
  switch (type.kind) {
    case 'boolean':
      return true;
    case 'integer':
      return type.width !== 'unbounded';
    case 'number':
      return !type.exact;
    case 'choice':
      return !isOpen(type.name);
    default:
      return false;
  }
}

/** Whether a payload of a type is never null, or may be. */
export function mayBeNothing({ kind }: Type): boolean {
  return ['anything', 'null', 'nullable', 'boolean', 'integer', 'number', 'choice'].includes(kind);
}

export function spelling(named: (name: string) => string): Omit<TypeSpelling, 'nullable'> {
  return {
    anything: () => 'JToken',
    null: () => 'JToken',
    boolean: () => 'bool',
    string: () => 'string',
    integer: (width) => (width === 'unbounded' ? 'Number' : width === 'int32' ? 'int' : 'long'),
    number: (exact) => (exact ? 'Number' : 'double'),
    list: (items) => `List<${items}>`,
    map: (values) => `Dictionary<string, ${values}>`,
    tuple: (items) => `Tuple${items.length}<${items.join(', ')}>`,
    named,
  };
}

const notCode = /\/\/[^\n]*|@?"(?:[^"\\\n]|\\.)*"|'(?:[^'\\\n]|\\.)*'/g;

const usings: readonly (readonly [string, RegExp])[] = [
  [
    'System',
    /(?<!\.)\b(?:Argument\w*Exception|NotSupportedException|FormatException|Attribute|AttributeUsage|Activator|Convert|DateTime(?:Offset)?|Guid|Type|Action|Func|Math)\b/,
  ],
  ['System.Collections', /\bIDictionary\b/],
  ['System.Collections.Concurrent', /\bConcurrentDictionary\b/],
  ['System.Collections.Generic', /\b(?:I?(?:ReadOnly)?(?:List|Dictionary)|HashSet)</],
  ['System.Globalization', /\b(?:CultureInfo|NumberStyles)\b/],
  ['System.IO', /\bString(?:Reader|Writer)\b/],
  ['System.Linq', /\.(?:FirstOrDefault|Any|Select|Where|ToList|ToDictionary)\(/],
  ['System.Reflection', /\bPropertyInfo\b/],
  ['System.Text.RegularExpressions', /\bRegex\b/],
  ['Newtonsoft.Json', /\bJson\w+/],
  ['Newtonsoft.Json.Linq', /\bJ(?:Token|Object|Array|Value|Raw)\b/],
  [
    'Newtonsoft.Json.Serialization',
    /\bJsonProperty\b(?!\()|\bJsonObjectContract\b|\bDefaultContractResolver\b/,
  ],
];

/** The lines of a file that name where its code takes things from. */
export function usingsOf(code: string): string[] {
  const plain = code.replace(notCode, ' ');
  return usings.filter(([, used]) => used.test(plain)).map(([name]) => `using ${name};`);
}

/** How the support code falls into pieces. */
export const supportSyntax: SupportSyntax = {
  between: /\n{2,}(?=\S)/,
  declares: /^(?:public|internal) (?:abstract |sealed |static )*(?:class|interface|struct) (\w+)/gm,
  notCode,
};

export function cs(text: string): string {
  return literal(text, {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => `\\u${hex(code, 4)}`,
  });
}
