import {
  typesIn,
  typesWithin,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
} from '../../core/model/types.js';
import { recordOf } from '../kit/bench.js';
import { byJsonType } from '../kit/by-json-type.js';
import { armNames, expectedOf, wordsOfType } from '../kit/model-names.js';
import { allocate, identifier, packageWord } from '../kit/names.js';
import type { TaggedUnion } from '../kit/plan.js';
import { payloadsFirst } from '../kit/order.js';
import { presenceOf } from '../kit/presence.js';
import { aboutExtra, SealedEmitter, type RootOfBench } from '../kit/sealed.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { fill } from '../kit/template.js';
import { blockComment, deprecatedMark, lineComments, oneLine, proseWithMark } from '../kit/text.js';
import { refuseWide, slotsOf } from '../kit/width.js';
import type { Emitted, EmitOptions, GeneratedFile, UnknownRule } from '../language.js';
import * as by from './spelling.js';
import { kotlin, kotlinName } from './spelling.js';
import exactSupport from './support/exact.kt';
import extraSupport from './support/extra.kt';
import fieldSupport from './support/field.kt';
import kindsSupport from './support/kinds.kt';
import listOfSupport from './support/list-of.kt';
import numberSupport from './support/number.kt';
import omittableSupport from './support/omittable.kt';
import textSupport from './support/text.kt';
import tupleSupport from './support/tuple.kt';

export function packageName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  return options.package ?? packageWord(model.name, by.reservedPackages);
}

/** Data classes for kotlinx.serialization, Kotlin 2. */
export function emitKotlin(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

export function rootOf(model: TypeModel, unknown: UnknownRule | undefined, root: number): RootOfBench {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

/** The width of a line. */
const width = 120;

/** A property of a data class. */
interface Property {
  readonly name: string;
  readonly doc: readonly string[];
  readonly annotations: readonly string[];
  readonly Type: string;
  /** What it is where the constructor is not given it. */
  readonly initial: string;
  readonly isOverride: boolean;
}

class Emitter extends SealedEmitter {
  /** The serializers of fields that may be absent and not null, by that of their content. */
  private readonly omittable = new Map<string, { readonly name: string; readonly Type: string }>();
  private readonly spellings = [by.spelling, by.serializers].map((make) =>
    make(
      (name) => this.names.type(name),
      (value) => this.constant(value),
    ),
  );

  constructor(model: TypeModel, options: EmitOptions) {
    const { reservedTypes, typeCasing, fieldCasing } = by;
    // Keywords stand in backticks, and no method is called as a property.
    const reservedFields = new Set<string>();
    super(model, options, { type: typeCasing, field: fieldCasing, reservedTypes, reservedFields });
  }

  emit(): Emitted {
    const { model } = this;
    const types = payloadsFirst(model, {
      root: (each, i) => this.root(each, i),
      record: (each) => this.record(each),
      choice: (each) => this.choice(each),
      union: (each) => this.union(each),
    });
    for (const [value, Constant] of this.constants) types.push(this.words(Constant, [value], false, []));
    const shared = [...this.omittable].map(([serializer, { name, Type }]) =>
      declared(`internal object ${name}`, `OmittableSerializer<${Type}>(${serializer})`),
    );
    const file = identifier(model.name, by.typeCasing);
    const head = this.fileSerializers;
    const support = this.support([...types, ...shared, ...head]);
    return {
      files: [
        this.file(`${file === 'JsonSupport' ? 'JsonPayload' : file}.kt`, types, head),
        ...(support.length + shared.length === 0
          ? []
          : [this.file('JsonSupport.kt', [...support, ...shared], [])]),
      ],
      names: this.emittedNames(),
    };
  }

  rootOf(root: number): RootOfBench {
    const record = recordOf(this.model, root);
    const properties = record === undefined ? [] : this.properties(record);
    return {
      Root: this.rootNames[root]!,
      isRecord: properties.length > 0,
      members: properties.map(({ name }) => kotlinName(name)),
      keys: record === undefined ? [] : this.own(record).map(({ key }) => key),
    };
  }

  /** @param serializers those that hold for the whole file */
  private file(path: string, parts: readonly string[], serializers: readonly string[]): GeneratedFile {
    const body = parts.join('\n\n');
    const isExperimental = /@(?:JsonIgnoreUnknownKeys|JsonClassDiscriminator|EncodeDefault)\b/.test(body);
    const flat = `@file:UseSerializers(${serializers.join(', ')})`;
    const settings = [
      ...(isExperimental ? ['@file:OptIn(ExperimentalSerializationApi::class)'] : []),
      ...(serializers.length === 0
        ? []
        : flat.length <= width
          ? [flat]
          : ['@file:UseSerializers(', ...serializers.map((each) => `    ${each},`), ')']),
    ];
    const origin = `Generated by Skevo from ${oneLine(this.options.origin)}; edit that and generate again.`;
    const imports = by.importsOf([...settings, body].join('\n'));
    const text = [
      lineComments('//', origin, width - 3).join('\n'),
      ...(settings.length === 0 ? [] : [settings.join('\n')]),
      `package ${packageName(this.model, this.options)}`,
      ...(imports.length === 0 ? [] : [imports.join('\n')]),
      body,
    ];
    return { path, text: `${text.join('\n\n')}\n` };
  }

  /** The serializers of types that have none of their own, which the file of the types names once. */
  private get fileSerializers(): string[] {
    const { model } = this;
    const keepsAny = model.records.some(
      (record) => record.others === undefined && this.extraOf(record) !== '',
    );
    const types: Type[] = [...typesIn(model)].flatMap((type) => [...typesWithin(type)]);
    if (keepsAny) types.push({ kind: 'anything' });
    const used = types.flatMap((type) => by.serializerOfFile(type) ?? []);
    return [...new Set(used)].sort().map((each) => `${each}::class`);
  }

  /** The support code that the types use. */
  private support(code: readonly string[]): string[] {
    const tuples = by.positions.map((_, i) => {
      const letters = [...'ABCDEFGH'.slice(0, i + 1)];
      return fill(tupleSupport, {
        size: String(i + 1),
        letters: letters.join(', '),
        variance: letters.map((letter) => `out ${letter}`).join(', '),
        elements: letters.map((Letter, k) => ({ Letter, position: by.positions[k]!, i: String(k) })),
      });
    });
    const all = [
      fieldSupport,
      omittableSupport,
      textSupport,
      numberSupport,
      exactSupport,
      extraSupport,
      kindsSupport,
      ...tuples,
      listOfSupport,
    ];
    return new Support(all.map((text) => text.trim()).join('\n\n'), by.supportSyntax).usedBy(code);
  }

  private root({ type, ...documented }: TypeModel['roots'][number], i: number): string {
    return valueClass(this.rootNames[i]!, this.typeText(type), '', [
      ...kdoc(documented, '', 'The payload.'),
      '@Serializable',
    ]);
  }

  private record(record: RecordType): string {
    const Record = this.names.type(record.name);
    const extra = this.extraOf(record);
    const inside = this.inUnion.get(record.name);
    const properties = this.properties(record);
    refuseWide('Kotlin', record, slots(properties));
    const parents = inside === undefined ? this.unionsOf(record) : [inside.union];
    const isKept = extra !== '';
    const Serializer = isKept ? this.fresh(`${record.name} serializer`) : '';
    const word = inside?.tagged.arms.find((arm) => arm.record === record)!.words[0];
    const head = [
      ...kdoc(record),
      ...(isKept ? ['@KeepGeneratedSerializer', `@Serializable(${Serializer}::class)`] : ['@Serializable']),
      ...(this.unknown === 'drop' && !isKept ? ['@JsonIgnoreUnknownKeys'] : []),
      ...(word === undefined ? [] : [`@SerialName(${kotlin(word)})`]),
    ];
    const above = parents.map(({ name }) => this.names.type(name)).join(',\n    ');
    const tail = above === '' ? '' : ` : ${above}`;
    const lines =
      properties.length === 0
        ? [...head, `public data object ${Record}${tail}`]
        : [...head, `public data class ${Record}(`, ...properties.flatMap(parameter), `)${tail}`];
    const tag = inside === undefined ? '' : `, ${kotlin(inside.tagged.key)}`;
    return [
      lines.join('\n'),
      ...(isKept
        ? [
            declared(
              `internal object ${Serializer}`,
              `ExtraKeysSerializer<${Record}>(${Record}.generatedSerializer(), ${kotlin(extra)}${tag})`,
            ),
          ]
        : []),
    ].join('\n\n');
  }

  /** The unions of which a record is an alternative that nothing but its content tells. */
  private unionsOf({ name }: RecordType): readonly UnionType[] {
    return this.model.unions.filter(({ arms }) =>
      arms.some(({ type }) => type.kind === 'record' && type.name === name),
    );
  }

  private properties(record: RecordType): Property[] {
    const shared = this.shared(record);
    const extra = this.extraOf(record);
    const own = this.own(record).map((field) => {
      const property = this.property(record, field);
      return shared.has(field.key) ? { ...property, doc: [], isOverride: true } : property;
    });
    if (extra === '') return own;
    const Other = record.others === undefined ? 'JsonElement' : this.typeText(record.others);
    return [
      ...own,
      {
        name: extra,
        doc: kdoc({}, '    ', capital(aboutExtra(record))),
        annotations: [],
        Type: `Map<String, ${Other}>`,
        initial: 'emptyMap()',
        isOverride: false,
      },
    ];
  }

  private property(record: RecordType, field: RecordField): Property {
    const name = this.names.field(record.name, field.key);
    const Type = this.typeText(field.type);
    const plain = { name, doc: kdoc(field, '    '), isOverride: false };
    const renamed = name === field.key ? [] : [`@SerialName(${kotlin(field.key)})`];
    switch (presenceOf(field)) {
      case 'required': {
        const initial = this.constantValue(field.type);
        const required = initial === '' ? [] : ['@Required'];
        return { ...plain, annotations: [...renamed, ...required], Type, initial };
      }
      case 'nullable':
        return { ...plain, annotations: renamed, Type: `${Type}?`, initial: '' };
      case 'optional': {
        const omittable = `@Serializable(${this.omittableOf(field.type, Type)}::class)`;
        return {
          ...plain,
          annotations: [...renamed, omittable, '@EncodeDefault(NEVER)'],
          Type: `${Type}?`,
          initial: 'null',
        };
      }
      case 'both':
        return {
          ...plain,
          annotations: [...renamed, '@EncodeDefault(NEVER)'],
          Type: `Field<${Type}?>`,
          initial: 'Field.Absent',
        };
    }
  }

  /** What a field is that has one value only; empty where it has more. */
  private constantValue(type: Type): string {
    if (type.kind === 'null') return 'JsonNull';
    if (type.kind !== 'literal') return '';
    const NAME = allocate([type.value], by.constantCasing, new Set()).get(type.value)!;
    return `${this.constant(type.value)}.${kotlinName(NAME)}`;
  }

  private omittableOf(type: Type, Type: string): string {
    const serializer = spell(type, this.spellings[1]!);
    const known = this.omittable.get(serializer);
    if (known !== undefined) return known.name;
    const name = this.fresh(`omittable ${wordsOfType(type)}`);
    this.omittable.set(serializer, { name, Type });
    return name;
  }

  private choice(choice: ChoiceType): string {
    const Choice = this.names.type(choice.name);
    if (!choice.open) return this.words(Choice, choice.values, false, kdoc(choice));
    return this.words(
      Choice,
      choice.values,
      true,
      kdoc(choice, '', 'Other words than these are values too.'),
    );
  }

  private words(Choice: string, values: readonly string[], open: boolean, doc: readonly string[]): string {
    const names = allocate(values, by.constantCasing, new Set());
    if (!open)
      return [
        ...doc,
        '@Serializable',
        `public enum class ${Choice} {`,
        values
          .map((value) => {
            const NAME = kotlinName(names.get(value)!);
            return NAME === value ? `    ${NAME},` : `    @SerialName(${kotlin(value)})\n    ${NAME},`;
          })
          .join(names.size === values.filter((value) => names.get(value) === value).length ? '\n' : '\n\n'),
        '}',
      ].join('\n');
    const constants = values.map(
      (value) =>
        `        public val ${kotlinName(names.get(value)!)}: ${Choice} = ${Choice}(${kotlin(value)})`,
    );
    return valueClass(Choice, 'String', '', [...doc, '@Serializable'], 'word', [
      '    public companion object {',
      ...constants,
      '    }',
    ]);
  }

  private union(union: UnionType): string {
    const tagged = this.tagged.get(union.name);
    return tagged === undefined ? this.valueUnion(union) : this.taggedUnion(union, tagged);
  }

  private taggedUnion(union: UnionType, { key, shared, arms }: TaggedUnion): string {
    const Union = this.names.type(union.name);
    const first = arms[0]!.record;
    const note = `Told apart by its \`${key}\`, which is written where a value is encoded as a ${Union}, not where it is encoded as one of its alternatives.`;
    const properties = shared.flatMap((field) => {
      const { doc, name, Type } = this.property(first, field);
      return [...doc, `    public val ${kotlinName(name)}: ${Type}`];
    });
    return [
      ...kdoc(union, '', '', note),
      '@Serializable',
      `@JsonClassDiscriminator(${kotlin(key)})`,
      ...(properties.length === 0
        ? [`public sealed interface ${Union}`]
        : [`public sealed interface ${Union} {`, ...properties, '}']),
    ].join('\n');
  }

  /** A union whose alternatives are told by what they are or have. */
  private valueUnion(union: UnionType): string {
    const Union = this.names.type(union.name);
    const Serializer = this.fresh(`${union.name} serializer`);
    const Arms = this.armsOf(union);
    const wrappers = union.arms.flatMap(({ type }, i) =>
      type.kind === 'record'
        ? []
        : [indented(valueClass(Arms[i]!, this.typeText(type), ` : ${Union}`, ['@Serializable']))],
    );
    const tests = union.arms.map(({ type, test }, i) => {
      const Arm = type.kind === 'record' ? Arms[i]! : `${Union}.${Arms[i]!}`;
      return branch(nodeTest(type, test), `${Arm}.serializer()`);
    });
    const branches = [...tests, branch('else', `throw SerializationException(${this.expected(union)})`)];
    const gap = branches.some((each) => each.includes('\n')) ? '\n\n' : '\n';
    return [
      [
        ...kdoc(union),
        `@Serializable(${Serializer}::class)`,
        `public sealed interface ${Union}${wrappers.length === 0 ? '' : ` {\n${wrappers.join('\n\n')}\n}`}`,
      ].join('\n'),
      [
        `${declared(
          `internal object ${Serializer}`,
          `JsonContentPolymorphicSerializer<${Union}>(${Union}::class)`,
        )} {`,
        `    override fun selectDeserializer(element: JsonElement): DeserializationStrategy<${Union}> =`,
        '        when {',
        branches.map((each) => each.replace(/^/gm, ' '.repeat(12))).join(gap),
        '        }',
        '}',
      ].join('\n'),
    ].join('\n\n');
  }

  /** What is thrown where no alternative fits, with what was expected where it fits a line. */
  private expected(union: UnionType): string {
    const said = kotlin(`expected ${expectedOf(union)}`);
    return said.length <= width - 60 ? said : '"expected another value"';
  }

  protected override nameArms(union: UnionType): string[] {
    const names = armNames(union, by.typeCasing, this.taken);
    return union.arms.map(({ type }, i) => (type.kind === 'record' ? this.names.type(type.name) : names[i]!));
  }

  private typeText(type: Type): string {
    return spell(type, this.spellings[0]!);
  }
}

/**
 * What the constructor that the library calls takes: the object itself, a bit for each property, to say which are given, and
 * one thing more.
 */
function slots(properties: readonly Property[]): number {
  return 1 + slotsOf(properties.map(({ Type }) => Type)) + Math.ceil(properties.length / 32) + 1;
}

function parameter({ doc, annotations, name, Type, initial, isOverride }: Property): string[] {
  const modifier = isOverride ? 'override ' : '';
  const line = `${modifier}val ${kotlinName(name)}: ${Type}${initial === '' ? '' : ` = ${initial}`},`;
  const flat = [...annotations, line].join(' ');
  return [
    ...doc,
    ...(annotations.length <= 1 && flat.length + 4 <= width ? [flat] : [...annotations, line]).map(
      (each) => `    ${each}`,
    ),
  ];
}

/** A class of one value, which is written as that value. */
function valueClass(
  name: string,
  Type: string,
  tail: string,
  head: readonly string[],
  property = 'value',
  body: readonly string[] = [],
): string {
  return [
    ...head,
    '@JvmInline',
    `public value class ${name}(`,
    `    public val ${property}: ${Type},`,
    `)${tail}${body.length === 0 ? '' : ' {'}`,
    ...body,
    ...(body.length === 0 ? [] : ['}']),
  ].join('\n');
}

/** A declaration with what it is made of, on a line of its own where it is too long for one. */
function declared(head: string, parent: string): string {
  const flat = `${head} : ${parent}`;
  return flat.length + 2 <= width ? flat : `${head} :\n    ${parent}`;
}

function branch(condition: string, value: string): string {
  const flat = `${condition} -> ${value}`;
  return flat.length + 12 <= width ? flat : `${condition} ->\n    ${value}`;
}

function indented(text: string): string {
  return text.replace(/^(?=.)/gm, '    ');
}

function nodeTest(type: Type, test: UnionArm['test']): string {
  if (test.kind === 'tag') return `element.says(${[test.key, ...test.values].map(kotlin).join(', ')})`;
  if (test.kind === 'key') return `element.has(${kotlin(test.key)})`;
  return byJsonType(type, {
    boolean: 'element.isFlag()',
    string: 'element.isText()',
    number: 'element.isNumber()',
    list: 'element is JsonArray',
    object: 'element is JsonObject',
  });
}

function capital(text: string): string {
  return `${text[0]!.toUpperCase()}${text.slice(1)}.`;
}

/** @param otherwise what is said where there is nothing to say @param note what is said besides */
function kdoc(documented: Documented, indent = '', otherwise = '', note = ''): string[] {
  const text = [proseWithMark(documented, deprecatedMark) || otherwise, note].filter(Boolean).join('\n\n');
  return blockComment(text, { indent, width: 100, safe: (line) => line });
}
