import type { RecordField, RecordType, Type, TypeModel, UnionType } from '../../core/model/types.js';
import type { ModelNames } from '../kit/model-names.js';
import type { TaggedUnion, ToldArm } from '../kit/plan.js';
import { group, indent, join, layOut, line, lines, softline, blocks, type Doc } from '../kit/layout.js';
import { hasNullState } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import type { EmitOptions } from '../language.js';
import { moduleName } from './spelling.js';

/** What the signatures are of. */
export interface Signed {
  readonly model: TypeModel;
  readonly options: EmitOptions;
  readonly names: ModelNames;
  readonly tagged: ReadonlyMap<string, TaggedUnion>;
  readonly inUnion: ReadonlyMap<string, ToldArm>;
  /** What each payload is called. */
  readonly rootNames: readonly string[];
  /** Records and unions in the order in which they are written. */
  readonly order: readonly (RecordType | UnionType)[];
  fieldsOf(record: RecordType): readonly RecordField[];
  keepsOthers(record: RecordType): boolean;
  hasName(type: Type): boolean;
  wordsOf(choice: TypeModel['choices'][number]): ReadonlyMap<string, string>;
}

const record = `class Record
  def self.from_json: (String text, **untyped options) -> instance
  def self.read: (untyped json) -> instance

  def key?: (Symbol name) -> bool
  def with: (**untyped changes) -> self
  def without: (*Symbol names) -> self
  def to_h: () -> Hash[Symbol, untyped]
  def deconstruct_keys: (Array[Symbol]? names) -> Hash[Symbol, untyped]
  def as_json: (*untyped) -> Hash[String, untyped]
  def to_json: (*untyped args) -> String
end`;

const decimal = `class Decimal < Numeric
  def self.try_convert: (String text) -> (Float | Decimal)

  def initialize: (String text) -> void
  def to_s: () -> String
  def to_f: () -> Float
  def to_r: () -> Rational
  def to_i: () -> Integer
end`;

/** The signatures of what is emitted, in RBS. @param hasDecimals whether some numbers keep their digits */
export function signatures(of: Signed, hasDecimals: boolean): string {
  const { model, names } = of;
  const all: Doc[] = [
    'class InvalidPayload < JSON::ParserError\nend',
    ...(model.records.length > 0 ? [record] : []),
    ...(hasDecimals ? [decimal] : []),
    ...model.choices.map((choice) => {
      const words = [...of.wordsOf(choice).values()].map((word) => `  ${word}: String`);
      const closed = choice.open ? [] : ['  ALL: Array[String]'];
      return [`module ${names.type(choice.name)}`, ...words, ...closed, 'end'].join('\n');
    }),
    ...of.order.map((each) => {
      if ('fields' in each) return recordOf(of, each);
      return of.tagged.has(each.name)
        ? sealedOf(of, each)
        : aliasOf(names.type(each.name), alternatives(of, each));
    }),
    ...model.roots.flatMap(({ type }, i) =>
      of.hasName(type) ? [] : [aliasOf(of.rootNames[i]!, typeText(of, type))],
    ),
  ];
  const docs = all.map((each) => (typeof each === 'string' ? lines(...each.split('\n')) : each));
  return layOut(
    lines([`module ${moduleName(model, of.options)}`, indent([lines('', blocks(docs))])], 'end'),
    120,
    2,
  );
}

function recordOf(of: Signed, each: RecordType): Doc {
  const inside = of.inUnion.get(each.name);
  const shared = new Set(inside?.tagged.shared.map(({ key }) => key));
  const fields = of.fieldsOf(each);
  const extra = of.keepsOthers(each)
    ? [`extra: Hash[String, ${typeText(of, each.others ?? { kind: 'anything' })}]`]
    : [];
  const given = [
    ...fields.map((field) => `${field.required ? '' : '?'}${attribute(of, each.name, field)}`),
    ...extra.map((other) => `?${other}`),
  ];
  return classOf(
    of.names.type(each.name),
    inside === undefined ? 'Record' : of.names.type(inside.union.name),
    [
      ...fields.filter(({ key }) => !shared.has(key)).map((field) => reader(of, each.name, field)),
      ...extra.map((other) => `attr_reader ${other}`),
    ],
    group(['def initialize: (', indent([softline, join([',', line], given)]), softline, ') -> void']),
  );
}

function sealedOf(of: Signed, { name }: UnionType): Doc {
  const { key, shared, arms } = of.tagged.get(name)!;
  const first = arms[0]!.record.name;
  return classOf(of.names.type(name), 'Record', [
    `attr_reader ${of.names.field(first, key)}: String`,
    ...shared.map((field) => reader(of, first, field)),
  ]);
}

function aliasOf(name: string, type: string): string {
  return [
    `module ${name}`,
    `  type value = ${type}`,
    '',
    '  def self.from_json: (String text, **untyped options) -> value',
    '  def self.read: (untyped json) -> value',
    '  def self.generate: (value value, **untyped options) -> String',
    'end',
  ].join('\n');
}

function classOf(name: string, base: string, readers: readonly string[], initializer?: Doc): Doc {
  const parts = [
    ...(readers.length === 0 ? [] : [lines(...readers)]),
    ...(initializer === undefined ? [] : [initializer]),
  ];
  return lines(
    [`class ${name} < ${base}`, indent([parts.length === 0 ? '' : lines('', blocks(parts))])],
    'end',
  );
}

function reader(of: Signed, record: string, field: RecordField): string {
  return `attr_reader ${attribute(of, record, field)}`;
}

function attribute(of: Signed, record: string, field: RecordField): string {
  const text = typeText(of, field.type);
  const mayBeNil = hasNullState(field) || !field.required;
  return `${of.names.field(record, field.key)}: ${mayBeNil ? orNil(text) : text}`;
}

function orNil(text: string): string {
  if (text === 'untyped' || text === 'nil' || /(^|\| )nil$|\?$/.test(text)) return text;
  return / \| /.test(text.replace(/\[.*\]/g, '')) ? `(${text})?` : `${text}?`;
}

function typeText(of: Signed, type: Type): string {
  return spell(type, {
    anything: () => 'untyped',
    null: () => 'nil',
    boolean: () => 'bool',
    string: (form) => (form === 'date-time' ? 'Time' : form === 'date' ? 'Date' : 'String'),
    integer: () => 'Integer',
    number: (exact) => (exact ? 'Integer | Float | Decimal' : 'Float'),
    list: (items) => `Array[${items}]`,
    map: (values) => `Hash[String, ${values}]`,
    tuple: (items) => `[${items.join(', ')}]`,
    named: (name, kind) => {
      if (kind === 'choice') return 'String';
      if (kind === 'record' || of.tagged.has(name)) return of.names.type(name);
      if (of.hasName({ kind: 'union', name })) return `${of.names.type(name)}::value`;
      return alternatives(
        of,
        of.model.unions.find((union) => union.name === name)!,
      );
    },
    nullable: orNil,
  });
}

function alternatives(of: Signed, { arms }: UnionType): string {
  return [...new Set(arms.map(({ type }) => typeText(of, type)))].join(' | ');
}
