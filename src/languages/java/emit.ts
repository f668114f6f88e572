import {
  acceptsNull,
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
import { isComposite } from '../kit/containment.js';
import { armNames, expectedOf, ModelNames } from '../kit/model-names.js';
import { allocate, packageWord } from '../kit/names.js';
import { toldByWord, type TaggedUnion } from '../kit/plan.js';
import { presenceOf } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { fill } from '../kit/template.js';
import {
  blockComment,
  deprecatedMark,
  lineComments,
  oneLine,
  proseLines,
  proseWithMark,
  withoutEnds,
} from '../kit/text.js';
import { refuseWide, slotsOf } from '../kit/width.js';
import type { Emitted, EmitOptions, GeneratedFile, NamesOfType, UnknownRule } from '../language.js';
import * as by from './spelling.js';
import { java } from './spelling.js';
import dateTimeSupport from './support/DateTime.java';
import exactNodeSupport from './support/ExactNode.java';
import fieldSupport from './support/Field.java';
import omittableSupport from './support/Omittable.java';
import requiredSupport from './support/Required.java';
import strictSupport from './support/StrictMapper.java';
import tupleSupport from './support/Tuple.java';
import choiceTemplate from './templates/choice.java';
import packageTemplate from './templates/package-info.java';

export function packageName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  return options.package ?? packageWord(model.name, by.reservedFields);
}

/** Records for Jackson 3, Java 17 and later. */
export function emitJava(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  readonly isRecord: boolean;
  /** All that its constructor takes, in order. */
  readonly members: readonly string[];
  readonly keys: readonly string[];
}

export function rootOf(model: TypeModel, unknown: UnknownRule | undefined, root: number): RootOfBench {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

/** The width of a line. */
const width = 100;

/** The library calls constructors through handles, which have a place less. */
const mostSlots = 253;

/** Records of more components have a builder. */
const mostPositional = 4;

/** One component of a record. */
interface Component {
  readonly name: string;
  readonly doc: string;
  /** What is said to the library, where nothing around the record says it. */
  readonly annotations: readonly string[];
  readonly Type: string;
  /** What a builder holds until it is set. */
  readonly Boxed: string;
  /** What the constructor does with it. */
  readonly check: string;
  /** What a builder begins with. */
  readonly initial: string;
  /** What nobody need say. */
  readonly constant: string;
}

type Plan = { readonly kind: 'tagged'; readonly tagged: TaggedUnion } | { readonly kind: 'kinds' | 'told' };

class Emitter {
  private readonly package: string;
  private readonly unknown: UnknownRule;
  private readonly plans: ReadonlyMap<string, Plan>;
  /** The tagged unions of which a record is an alternative. */
  private readonly inUnion = new Map<string, { readonly union: UnionType; readonly tagged: TaggedUnion }>();
  private readonly names: ModelNames;
  private readonly taken: Set<string>;
  private readonly rootNames: readonly string[];
  /** Types of single words, by the word. */
  private readonly constants = new Map<string, string>();
  private readonly spellings = by.spelling(
    (name) => this.names.type(name),
    (value) => this.constant(value),
  );

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
  ) {
    this.package = packageName(model, options);
    this.unknown = options.unknown ?? 'drop';
    this.plans = new Map(model.unions.map((union) => [union.name, planOf(model, union)]));
    const together: string[][] = [];
    for (const union of model.unions) {
      const plan = this.plans.get(union.name)!;
      if (plan.kind !== 'tagged') continue;
      plan.tagged.arms.forEach(({ record }) => this.inUnion.set(record.name, { union, tagged: plan.tagged }));
      together.push(plan.tagged.arms.map(({ record }) => record.name));
    }
    const { reservedTypes, reservedFields, typeCasing, fieldCasing } = by;
    this.names = new ModelNames(
      model,
      { type: typeCasing, field: fieldCasing, reservedTypes, reservedFields },
      together,
    );
    this.taken = new Set([...reservedTypes, ...this.names.all()]);
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) || type.kind === 'choice' ? this.names.type(type.name) : this.fresh(name),
    );
  }

  emit(): Emitted {
    const { model } = this;
    const types = [
      ...model.roots.flatMap((root, i) => ('name' in root.type ? [] : [this.root(root, i)])),
      ...model.records.map((each) => [this.names.type(each.name), this.record(each)] as const),
      ...model.choices.map((each) => [this.names.type(each.name), this.choice(each)] as const),
      ...model.unions.map((each) => [this.names.type(each.name), this.union(each)] as const),
    ];
    for (const [value, Constant] of this.constants)
      types.push([Constant, this.words(Constant, [value], false, '')]);
    const files = types.map(([name, text]) => this.file(name, text));
    return {
      files: [...files, ...this.support(types.map(([, text]) => text)), this.packageInfo()],
      names: this.emittedNames(),
    };
  }

  rootOf(root: number): RootOfBench {
    const record = recordOf(this.model, root);
    const components = record === undefined ? [] : this.components(record);
    const extra = record === undefined ? '' : this.extraOf(record);
    return {
      Root: this.rootNames[root]!,
      isRecord: record !== undefined,
      members: [...components.map(({ name }) => name), ...(extra === '' ? [] : [extra])],
      keys: record === undefined ? [] : this.own(record).map(({ key }) => key),
    };
  }

  private get generated(): string {
    const origin = oneLine(this.options.origin).replace(/\\/g, '/');
    return lineComments(
      '//',
      `Generated by Skevo from ${origin}; edit that and generate again.`,
      width - 3,
    ).join('\n');
  }

  private file(name: string, text: string): GeneratedFile {
    const code = text.replace(/\/\/.*|\/\*[\s\S]*?\*\/|"(?:[^"\\\n]|\\.)*"/g, ' ');
    const used = new Set(code.match(/[A-Za-z_]\w*/g));
    const imports = Object.entries(by.imports)
      .filter(([type]) => used.has(type))
      .map(([type, where]) => `import ${where}.${type};`)
      .sort((a, b) => (a < b ? -1 : 1));
    const parts = [
      this.generated + `\npackage ${this.package};`,
      ...(used.has('requireNonNull') ? ['import static java.util.Objects.requireNonNull;'] : []),
      ...(imports.length === 0 ? [] : [imports.join('\n')]),
      text,
    ];
    return { path: this.pathOf(name), text: `${parts.join('\n\n')}\n` };
  }

  private pathOf(name: string): string {
    return `${this.package.replace(/\./g, '/')}/${name}.java`;
  }

  /** The support code that the types use, a file each. */
  private support(types: readonly string[]): GeneratedFile[] {
    const own: Readonly<Record<string, string>> = {
      Required: requiredSupport,
      Omittable: omittableSupport,
      Field: fieldSupport,
      ExactNode: exactNodeSupport,
      DateTime: dateTimeSupport,
      StrictMapper: strictSupport,
      ...Object.fromEntries(by.positions.map((_, i) => [`Tuple${i + 1}`, this.tuple(i + 1)])),
    };
    const wanted = new Set<string>();
    const look = (text: string) => {
      for (const name of Object.keys(own))
        if (!wanted.has(name) && new RegExp(`\\b${name}\\b`).test(text)) {
          wanted.add(name);
          look(own[name]!);
        }
    };
    [...types, 'StrictMapper'].forEach(look);
    return [...wanted].sort().map((name) => ({
      path: this.pathOf(name),
      text: `${this.generated}\npackage ${this.package};\n\n${own[name]!.trim()}\n`,
    }));
  }

  private tuple(size: number): string {
    const letters = [...'ABCDEFGH'.slice(0, size)];
    const own = by.positions.slice(0, size);
    const flat = own.map((name, i) => `${letters[i]!} ${name}`);
    const head = `public record Tuple${size}<${letters.join(', ')}>(${flat.join(', ')}) {}`;
    return fill(tupleSupport, {
      size: String(size),
      order: own.map(java).join(', '),
      letters: letters.join(', '),
      components: head.length <= width ? flat.join(', ') : `\n    ${flat.join(',\n    ')}`,
    });
  }

  private packageInfo(): GeneratedFile {
    return {
      path: this.pathOf('package-info'),
      text: `${this.generated}\n${fill(packageTemplate, { package: this.package })}\n`,
    };
  }

  private root({ type, ...documented }: TypeModel['roots'][number], i: number): readonly [string, string] {
    const name = this.rootNames[i]!;
    const Type = this.typeText(type);
    const isNullable = acceptsNull({ key: '', required: true, nullable: type.kind === 'nullable', type });
    const inner = type.kind === 'nullable' ? type.of : type;
    const statement = this.check('value', inner, isNullable);
    return [
      name,
      [
        ...javadoc(documented, 'The payload.'),
        fitted(`public record ${name}(`, [[...valueMarks(type), Type, 'value'].join(' ')], ') {', 0),
        '  @JsonCreator(mode = JsonCreator.Mode.DELEGATING)',
        `  public ${name} {${statement === '' ? '}' : ''}`,
        ...(statement === '' ? [] : [`    ${statement}`, '  }']),
        '}',
      ].join('\n'),
    ];
  }

  private own(record: RecordType): readonly RecordField[] {
    const key = this.inUnion.get(record.name)?.tagged.key;
    return record.fields.filter((field) => field.key !== key);
  }

  private components(record: RecordType): Component[] {
    const shared = new Set(this.inUnion.get(record.name)?.tagged.shared.map(({ key }) => key));
    return this.own(record).map((field) => this.component(record, field, shared.has(field.key)));
  }

  private record(record: RecordType): string {
    const Record = this.names.type(record.name);
    const components = this.components(record);
    const inside = this.inUnion.get(record.name);
    const extra = this.extraOf(record);
    const Other = this.otherOf(record);
    const rows = components.map(({ annotations, Type, name }) => row(annotations, Type, name));
    if (extra !== '')
      rows.push(
        row(
          [
            '@JsonAnySetter',
            '@JsonAnyGetter',
            ...(Other === 'JsonNode' ? ['@JsonDeserialize(contentUsing = ExactNode.class)'] : []),
          ],
          `Map<String, ${Other}>`,
          extra,
        ),
      );
    refuseWide(
      'Java',
      record,
      slotsOf(components.map(({ Type }) => Type)) + (extra === '' ? 1 : 2),
      mostSlots,
    );
    const header = this.header(Record, rows, inside?.union);
    const checks = [
      ...components.map(({ check }) => check),
      ...(extra === '' ? [] : [`${extra} = Collections.unmodifiableMap(new LinkedHashMap<>(${extra}));`]),
    ].filter((each) => each !== '');
    const blocks = [
      ...(checks.length === 0
        ? []
        : [[`  public ${Record} {`, ...checks.map((each) => `    ${each}`), '  }']]),
      ...this.shorter(Record, components, extra),
      ...this.building(Record, components, extra, Other),
      ...this.told(record),
      ...(this.unknown === 'reject' && record.others === undefined ? [refusal] : []),
    ];
    const annotations = this.recordAnnotations(record, components, inside !== undefined);
    return [
      ...javadoc(record, '', [
        ...components.map(({ name, doc }) => [name, doc] as const),
        ...(extra === '' ? [] : [[extra, aboutExtra(record)] as const]),
      ]),
      ...annotations,
      `${header} {${blocks.length === 0 ? '}' : ''}`,
      ...(blocks.length === 0 ? [] : [blocks.map((lines) => lines.join('\n')).join('\n\n'), '}']),
    ].join('\n');
  }

  private header(Record: string, rows: readonly (readonly string[])[], union: UnionType | undefined): string {
    const tail = union === undefined ? '' : ` implements ${this.names.type(union.name)}`;
    const isShort = rows.every((each) => each.length === 1);
    const parts = rows.map((each) => each.join(isShort ? ' ' : '\n        '));
    const head = isShort
      ? fitted(`public record ${Record}(`, parts, ')', 0, tail === '' ? 2 : 0)
      : `public record ${Record}(\n    ${parts.join(',\n    ')})`;
    const isFlat = !head.includes('\n') && head.length + tail.length + 2 <= width;
    return isFlat ? `${head}${tail}` : `${head}${tail === '' ? '' : `\n   ${tail}`}`;
  }

  private recordAnnotations(
    record: RecordType,
    components: readonly Component[],
    isInside: boolean,
  ): string[] {
    const fields = this.own(record);
    const isOpen = components.some(({ Type }) => Type.startsWith('Field<'));
    const hasNulls = fields.some((field) => field.required && acceptsNull(field));
    return [
      ...(this.unknown === 'drop' && record.others === undefined && !isInside
        ? ['@JsonIgnoreProperties(ignoreUnknown = true)']
        : []),
      ...(isOpen
        ? ['@JsonInclude(value = JsonInclude.Include.CUSTOM, valueFilter = Field.Absent.class)']
        : hasNulls
          ? ['@JsonInclude(JsonInclude.Include.ALWAYS)']
          : []),
      ...this.naming(record.name, fields),
    ];
  }

  /** What keeps a mapper that re-cases names from re-casing these. */
  private naming(record: string, fields: readonly RecordField[]): string[] {
    const isRecased = fields.some(({ key }) => /[A-Z]/.test(key) && this.names.field(record, key) === key);
    return isRecased ? ['@JsonNaming(PropertyNamingStrategies.LowerCamelCaseStrategy.class)'] : [];
  }

  /** A constructor without what nobody need say. */
  private shorter(Record: string, components: readonly Component[], extra: string): string[][] {
    const given = components.filter(({ constant }) => constant === '');
    if (given.length === components.length && extra === '') return [];
    // It must not be the same constructor again, nor the only one of a wide record.
    if (components.length > mostPositional) return [];
    const parameters = given.map(({ Type, name }) => `${Type} ${name}`);
    const all = components.map(({ name, constant }) => (constant === '' ? name : constant));
    const call = [...all, ...(extra === '' ? [] : ['Map.of()'])].join(', ');
    return [[fitted(`  public ${Record}(`, parameters, ') {', 2), `    this(${call});`, '  }']];
  }

  private building(
    Record: string,
    components: readonly Component[],
    extra: string,
    Other: string,
  ): string[][] {
    if (components.length <= mostPositional) return [];
    const all = [
      ...components,
      ...(extra === ''
        ? []
        : [
            {
              name: extra,
              Type: `Map<String, ${Other}>`,
              Boxed: `Map<String, ${Other}>`,
              initial: ' = Map.of()',
            },
          ]),
    ];
    const arguments_ = all.map(({ name }) => name);
    const begun = all.map(({ name }) => `.${name}(${name})`);
    return [
      ['  public static Builder builder() {', '    return new Builder();', '  }'],
      [
        '  /** A builder that starts with the values of this one. */',
        '  public Builder toBuilder() {',
        ...(`    return new Builder()${begun.join('')};`.length <= width
          ? [`    return new Builder()${begun.join('')};`]
          : ['    return new Builder()', `        ${begun.join('\n        ')};`]),
        '  }',
      ],
      [
        '  public static final class Builder {',
        ...all.map(({ Boxed, name, initial }) => `    private ${Boxed} ${name}${initial};`),
        '',
        '    private Builder() {}',
        '',
        ...all.flatMap(({ Type, name }) => [
          `    public Builder ${name}(${Type} ${name}) {`,
          `      this.${name} = ${name};`,
          '      return this;',
          '    }',
          '',
        ]),
        '    /**',
        '     * The record.',
        '     *',
        '     * @throws NullPointerException if a required field was not set, by its name',
        '     */',
        '    @SuppressWarnings("NullAway") // the record refuses what was not set',
        `    public ${Record} build() {`,
        fitted(`      return new ${Record}(`, arguments_, ');', 6),
        '    }',
        '  }',
      ],
    ];
  }

  /** The word that tells an alternative. */
  private told(record: RecordType): string[][] {
    const inside = this.inUnion.get(record.name);
    if (inside === undefined) return [];
    const { words } = inside.tagged.arms.find((arm) => arm.record === record)!;
    return [
      [
        '  @Override',
        `  public String ${this.tagName(inside.tagged)}() {`,
        `    return ${java(words[0]!)};`,
        '  }',
      ],
    ];
  }

  private tagName({ key, arms }: TaggedUnion): string {
    const taken = arms.flatMap(({ record }) =>
      this.own(record).map((field) => this.names.field(record.name, field.key)),
    );
    return allocate([key], by.fieldCasing, new Set([...by.reservedFields, ...taken])).get(key)!;
  }

  private component(record: RecordType, field: RecordField, isShared: boolean): Component {
    const name = this.names.field(record.name, field.key);
    const { annotations, Type, presence } = this.said(record, field);
    const Boxed = this.boxedText(field.type);
    const isConstant = field.type.kind === 'literal' && presence === 'required';
    const isNullable = presence === 'nullable' || presence === 'optional';
    const isPrimitive = /^[a-z]/.test(Type);
    return {
      name,
      doc: isShared ? '' : proseWithMark(field, deprecatedMark),
      annotations: isShared ? [] : annotations,
      Type,
      Boxed: presence === 'both' ? Type : `@Nullable ${isNullable ? Type.replace('@Nullable ', '') : Boxed}`,
      check: isPrimitive
        ? ''
        : presence === 'both'
          ? `requireNonNull(${name}, "${name}");`
          : this.check(name, field.type, isNullable),
      initial:
        presence === 'both' ? ' = Field.absent()' : isConstant ? ` = ${this.constantValue(field.type)}` : '',
      constant: isConstant ? this.constantValue(field.type) : '',
    };
  }

  private constantValue(type: Type): string {
    if (type.kind !== 'literal') return '';
    const NAME = allocate([type.value], by.constantCasing, new Set()).get(type.value)!;
    return `${this.constant(type.value)}.${NAME}`;
  }

  /** What a field says to the library, and its type. */
  private said(
    record: RecordType,
    field: RecordField,
  ): {
    readonly annotations: readonly string[];
    readonly Type: string;
    readonly presence: ReturnType<typeof presenceOf>;
  } {
    const { key, type } = field;
    const name = this.names.field(record.name, key);
    const presence = presenceOf(field);
    const isNode = type.kind === 'anything' || type.kind === 'null';
    const renamed = name === key ? [] : [`@JsonProperty(${java(key)})`];
    const required =
      name === key
        ? '@JsonProperty(required = true)'
        : `@JsonProperty(value = ${java(key)}, required = true)`;
    const inner = [...nodesIn(type), ...(hasTime(type) ? ['@DateTime'] : [])];
    const isFilled = isContainer(type) && !holdsNulls(type);
    const contents = isFilled ? ['@JsonSetter(contentNulls = Nulls.FAIL)'] : [];
    const text = this.typeText(type);
    if (isNode)
      return {
        annotations: [
          ...(field.required ? [required] : [...renamed, '@JsonInclude(JsonInclude.Include.NON_NULL)']),
          '@JsonDeserialize(using = ExactNode.class)',
        ],
        Type: field.required ? 'JsonNode' : '@Nullable JsonNode',
        presence: field.required ? 'required' : 'optional',
      };
    switch (presence) {
      case 'required':
        return {
          annotations: [
            isContainer(type) && !isFilled ? '@JsonSetter(nulls = Nulls.FAIL)' : '@Required',
            ...renamed,
            ...inner,
          ],
          Type: text,
          presence,
        };
      case 'nullable':
        return {
          annotations: [required, ...contents, ...inner],
          Type: `@Nullable ${this.boxedText(type)}`,
          presence,
        };
      case 'optional':
        return {
          annotations: ['@Omittable', ...renamed, ...contents, ...inner],
          Type: `@Nullable ${this.boxedText(type)}`,
          presence,
        };
      case 'both':
        return {
          annotations: [...renamed, ...contents, ...inner],
          Type: `Field<${this.boxedText(type)}>`,
          presence,
        };
    }
  }

  /** What a constructor does with a value: lists and maps become copies that nobody changes. */
  private check(name: string, type: Type, isNullable: boolean): string {
    const copy =
      type.kind === 'list'
        ? acceptsNullItself(type.items)
          ? `Collections.unmodifiableList(new ArrayList<>(${name}))`
          : `List.copyOf(${name})`
        : type.kind === 'map'
          ? `Collections.unmodifiableMap(new LinkedHashMap<>(${name}))`
          : undefined;
    if (copy !== undefined) return `${name} = ${isNullable ? `${name} == null ? null : ` : ''}${copy};`;
    if (isNullable || /^[a-z]/.test(this.typeText(type))) return '';
    return `requireNonNull(${name}, "${name}");`;
  }

  /** The field for keys that a record has beside its fields; empty where it keeps none. */
  private extraOf(record: RecordType): string {
    if (this.unknown !== 'keep' && record.others === undefined) return '';
    const taken = record.fields.map(({ key }) => this.names.field(record.name, key));
    return allocate(['extra'], by.fieldCasing, new Set([...by.reservedFields, ...taken])).get('extra')!;
  }

  private otherOf({ others }: RecordType): string {
    return others === undefined ? 'JsonNode' : this.boxedText(others);
  }

  private choice(choice: ChoiceType): string {
    return this.words(
      this.names.type(choice.name),
      choice.values,
      choice.open,
      javadoc(choice, choice.open ? 'Other words than these are values too.' : '').join('\n'),
    );
  }

  private words(Choice: string, values: readonly string[], open: boolean, doc: string): string {
    const names = allocate(values, by.constantCasing, new Set());
    const text = fill(choiceTemplate, {
      Choice,
      doc: '',
      open,
      words: values.map((value, i) => ({
        Choice,
        NAME: names.get(value)!,
        word: java(value),
        comma: i < values.length - 1 ? ',' : '',
      })),
    });
    return doc === '' ? text : `${doc}\n${text}`;
  }

  private constant(value: string): string {
    const known = this.constants.get(value) ?? this.fresh(`${value} word`);
    this.constants.set(value, known);
    return known;
  }

  private union(union: UnionType): string {
    const plan = this.plans.get(union.name)!;
    return plan.kind === 'tagged' ? this.taggedUnion(union, plan.tagged) : this.valueUnion(union, plan.kind);
  }

  private taggedUnion(union: UnionType, tagged: TaggedUnion): string {
    const Union = this.names.type(union.name);
    const { key, shared, arms } = tagged;
    const tag = this.tagName(tagged);
    const first = arms[0]!.record;
    const Arms = arms.map(({ record }) => this.names.type(record.name));
    const methods = shared.map((field) => {
      const { annotations, Type } = this.said(first, field);
      return [
        ...javadoc(field).map((line) => `  ${line}`),
        ...annotations.map((each) => `  ${each}`),
        `  ${Type} ${this.names.field(first.name, field.key)}();`,
      ].join('\n');
    });
    const permits = `public sealed interface ${Union} permits ${Arms.join(', ')} {`;
    return [
      ...javadoc(union, `Told apart by its ${tag}.`),
      '@JsonTypeInfo(',
      '    use = JsonTypeInfo.Id.NAME,',
      '    include = JsonTypeInfo.As.EXISTING_PROPERTY,',
      `    property = ${java(key)})`,
      '@JsonSubTypes({',
      arms
        .map(({ words }, i) => `  @JsonSubTypes.Type(value = ${Arms[i]!}.class, name = ${java(words[0]!)})`)
        .join(',\n'),
      '})',
      `@JsonPropertyOrder(${java(key)})`,
      ...(this.unknown === 'drop' ? ['@JsonIgnoreProperties(ignoreUnknown = true)'] : []),
      ...this.naming(first.name, shared),
      permits.length <= width
        ? permits
        : `public sealed interface ${Union}\n${fitted('    permits ', Arms, ' {', 4, 0, '')}`,
      `  @JsonProperty${tag === key ? '' : `(${java(key)})`}\n  String ${tag}();`,
      ...methods.map((each) => `\n${each}`),
      '}',
    ].join('\n');
  }

  /** A union whose alternatives hold a value each. */
  private valueUnion(union: UnionType, kind: 'kinds' | 'told'): string {
    const Union = this.names.type(union.name);
    const Arms = this.armsOf(union);
    const rows = union.arms.map(({ type, test }, i) => ({
      type,
      test,
      Arm: Arms[i]!,
      Type: this.typeText(type),
    }));
    const records = rows.map(({ type, Arm, Type }) => {
      const check = this.check('value', type, false);
      const annotations = valueMarks(type).join(' ');
      const head = `  record ${Arm}(${annotations} ${Type} value) implements ${Union} {`;
      const opened =
        head.length < width
          ? head
          : `  record ${Arm}(${annotations} ${Type} value)\n      implements ${Union} {`;
      return check === ''
        ? `${opened}}`
        : [opened, `    public ${Arm} {`, `      ${check}`, '    }', '  }'].join('\n');
    });
    const ways = kind === 'kinds' ? this.creators(union, rows) : [this.reader(union, rows)];
    return [
      ...javadoc(union),
      ...(kind === 'told' ? [`@JsonDeserialize(using = ${Union}.Deserializer.class)`] : []),
      `public sealed interface ${Union} {`,
      [...(kind === 'kinds' ? ways : []), ...records, ...(kind === 'told' ? ways : [])].join('\n\n'),
      '}',
    ].join('\n');
  }

  /** What the library chooses among by the kind of JSON. */
  private creators(union: UnionType, rows: readonly { type: Type; Arm: string; Type: string }[]): string[] {
    const Union = this.names.type(union.name);
    return rows.flatMap(({ type, Arm, Type }) => {
      const filled = isContainer(type) && !holdsNulls(type) ? ['@Required'] : [];
      const own = (given: string) =>
        [
          '  @JsonCreator',
          `  static ${Union} of(${given} value) {`,
          `    return new ${Arm}(value);`,
          '  }',
        ].join('\n');
      // Beside a list or an object the library takes a number for one of these unless there is a creator for its size.
      const sizes = Type === 'double' ? ['double', 'long', 'int'] : Type === 'long' ? ['long', 'int'] : [];
      return sizes.length > 0 ? sizes.map(own) : [own([...filled, ...nodesIn(type), Type].join(' '))];
    });
  }

  /** What tells alternatives by what they have. */
  private reader(
    union: UnionType,
    rows: readonly { type: Type; test: UnionArm['test']; Arm: string; Type: string }[],
  ): string {
    const Union = this.names.type(union.name);
    return [
      `  final class Deserializer extends ValueDeserializer<${Union}> {`,
      '    @Override',
      `    public ${Union} deserialize(JsonParser parser, DeserializationContext context) {`,
      '      JsonNode node = ExactNode.read(parser);',
      ...rows.flatMap(({ type, test, Arm }) => [
        `      if (${nodeTest(type, test)}) {`,
        `        return new ${Arm}(${this.readAs(type)});`,
        '      }',
      ]),
      this.mismatch(union),
      '    }',
      '  }',
    ].join('\n');
  }

  /** What is thrown where no alternative fits, with what was expected where it fits a line. */
  private mismatch(union: UnionType): string {
    const call = '      return context.reportInputMismatch(';
    const said = ['this', java(`expected ${expectedOf(union)}`)];
    const isLong = said.join(', ').length + 12 > width;
    return fitted(call, isLong ? ['this', '"expected another value"'] : said, ');', 6);
  }

  private readAs(type: Type): string {
    const isPlain = this.boxedText(type).indexOf('<') < 0;
    return `context.readTreeAsValue(node, ${isPlain ? this.classOf(type) : this.javaType(type)})`;
  }

  private classOf(type: Type): string {
    return `${this.boxedText(type)}.class`;
  }

  /** A type as the library is told of it where it has arguments. */
  private javaType(type: Type): string {
    const factory = 'context.getTypeFactory()';
    switch (type.kind) {
      case 'list':
        return `${factory}.constructCollectionType(List.class, ${this.javaType(type.items)})`;
      case 'map':
        return `${factory}.constructMapType(Map.class, ${factory}.constructType(String.class), ${this.javaType(type.values)})`;
      case 'tuple':
        return `${factory}.constructParametricType(Tuple${type.items.length}.class, ${type.items.map((item) => this.javaType(item)).join(', ')})`;
      case 'nullable':
        return this.javaType(type.of);
      default:
        return `${factory}.constructType(${this.classOf(type)})`;
    }
  }

  private armsOf(union: UnionType): string[] {
    const plan = this.plans.get(union.name)!;
    if (plan.kind === 'tagged')
      return union.arms.map(({ type }) => this.names.type((type as { name: string }).name));
    return armNames(union, by.typeCasing, this.taken);
  }

  /** A name for a type that the model has not, different from all others. */
  private fresh(wanted: string): string {
    const name = allocate([wanted], by.typeCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  private typeText(type: Type): string {
    return spell(type, this.spellings.plain);
  }

  private boxedText(type: Type): string {
    return spell(type, this.spellings.boxed);
  }

  private emittedNames(): Emitted['names'] {
    const names = new Map<string, NamesOfType>(this.names.emitted());
    for (const union of this.model.unions) {
      const plan = this.plans.get(union.name)!;
      const tagged = plan.kind === 'tagged' ? plan.tagged : undefined;
      const owner = tagged?.arms[0]!.record.name;
      const fields = new Map(tagged?.shared.map(({ key }) => [key, this.names.field(owner!, key)]));
      names.set(union.name, {
        type: this.names.type(union.name),
        fields,
        union: { heldBy: '', arms: this.armsOf(union), shared: new Set(fields.keys()) },
      });
    }
    return names;
  }
}

const refusal = [
  '  @JsonAnySetter',
  '  private void refuse(String key, @Nullable Object value) {',
  '    throw new IllegalArgumentException("there is no field " + key);',
  '  }',
];

function planOf(model: TypeModel, union: UnionType): Plan {
  const tagged = toldByWord(model, union);
  if (tagged !== undefined && tagged.arms.every(({ words }) => words.length === 1))
    return { kind: 'tagged', tagged };
  const isByKind = union.arms.every(({ type, test }) => test.kind === 'json' && !isApart(type));
  // Of creators that take what is no plain scalar and no list, there can be one.
  const delegates = union.arms.filter(
    ({ type }) =>
      ['record', 'map', 'choice', 'literal', 'union'].includes(type.kind) ||
      (type.kind === 'string' && type.form !== undefined),
  );
  return { kind: isByKind && delegates.length <= 1 ? 'kinds' : 'told' };
}

/** What no creator takes: lists of fixed length, and numbers of any size, of which small ones look for another. */
function isApart(type: Type): boolean {
  return (
    type.kind === 'tuple' ||
    (type.kind === 'integer' && type.width === 'unbounded') ||
    (type.kind === 'number' && type.exact)
  );
}

/** A call or a declaration on one line, its parts on the next, or each on a line, whichever fits first. */
function fitted(
  head: string,
  items: readonly string[],
  close: string,
  indent: number,
  behind = 0,
  stop = head.trimEnd(),
): string {
  const flat = items.join(', ');
  if (`${head}${flat}${close}`.length + behind <= width) return `${head}${flat}${close}`;
  const pad = ' '.repeat(indent + 4);
  const isShort = stop !== '' && pad.length + flat.length + close.length + behind <= width;
  if (isShort) return `${head}\n${pad}${flat}${close}`;
  return stop === ''
    ? `${head}${items.join(`,\n${pad}`)}${close}`
    : `${head}\n${pad}${items.join(`,\n${pad}`)}${close}`;
}

/** A component as one line, or as two where it is too long for one. */
function row(annotations: readonly string[], Type: string, name: string): string[] {
  const line = [...annotations, Type, name].join(' ');
  return line.length <= width - 6 ? [line] : [annotations.join(' '), `${Type} ${name}`];
}

function nodeTest(type: Type, test: UnionArm['test']): string {
  if (test.kind === 'tag') {
    const found = `node.path(${java(test.key)}).asString("")`;
    const words = test.values.map((word) => `${found}.equals(${java(word)})`);
    return `node.isObject() && ${words.length === 1 ? words[0]! : `(${words.join(' || ')})`}`;
  }
  if (test.kind === 'key') return `node.has(${java(test.key)})`;
  return byJsonType(type, {
    boolean: 'node.isBoolean()',
    string: 'node.isString()',
    number: 'node.isNumber()',
    list: 'node.isArray()',
    object: 'node.isObject()',
  });
}

function isContainer(type: Type): boolean {
  return type.kind === 'list' || type.kind === 'map';
}

function acceptsNullItself(type: Type): boolean {
  return type.kind === 'nullable' || type.kind === 'null' || type.kind === 'anything';
}

/** Whether null may stand in a list or a map, at any depth: what is said of the elements holds for those of elements too. */
function holdsNulls(type: Type): boolean {
  const inner = type.kind === 'list' ? type.items : type.kind === 'map' ? type.values : undefined;
  return inner !== undefined && (acceptsNullItself(inner) || holdsNulls(inner));
}

/** What keeps the digits of trees one level inside. */
function nodesIn(type: Type): string[] {
  const inner = type.kind === 'list' ? type.items : type.kind === 'map' ? type.values : undefined;
  const isNode = inner?.kind === 'anything' || inner?.kind === 'null';
  return isNode ? ['@JsonDeserialize(contentUsing = ExactNode.class)'] : [];
}

/** What is said of the one value that a record holds. */
function valueMarks(type: Type): string[] {
  return ['@JsonValue', ...nodesIn(type), ...(hasTime(type) ? ['@DateTime'] : [])];
}

function hasTime(type: Type): boolean {
  return [...typesWithin(type)].some((each) => each.kind === 'string' && each.form === 'date-time');
}

function aboutExtra({ others }: RecordType): string {
  return `the keys that the schema does not ${others === undefined ? 'know' : 'name'}`;
}

/** @param components what is said of components, which stands with the record */
function javadoc(
  documented: Documented,
  otherwise = '',
  components: readonly (readonly [name: string, doc: string])[] = [],
): string[] {
  const safe = (line: string) =>
    line
      .replace(/&/g, '&amp;')
      .replace(/</g, '&lt;')
      .replace(/>/g, '&gt;')
      .replace(/\\/g, '&#92;')
      .replace(/@/g, '&#64;');
  const text = proseWithMark(documented, deprecatedMark) || otherwise;
  const lines = blockComment(text, { indent: '', width: 92, safe });
  const said = components.flatMap(([name, doc]) => {
    const own = proseLines(doc, 80 - name.length).filter((line) => line !== '');
    return own.map((line, i) => ` * ${i === 0 ? `@param ${name} ` : '    '}${withoutEnds(safe(line))}`);
  });
  if (said.length === 0) return lines;
  if (lines.length === 0) return ['/**', ...said, ' */'];
  const body = lines.length === 1 ? ['/**', ` * ${lines[0]!.slice(4, -3)}`] : lines.slice(0, -1);
  return [...body, ' *', ...said, ' */'];
}
