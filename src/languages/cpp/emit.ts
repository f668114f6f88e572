import {
  jsonTypeOf,
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
import { Containment, isComposite } from '../kit/containment.js';
import { expectedOf, ModelNames } from '../kit/model-names.js';
import { allocate, identifier, namesOfPayloads, pascalCasing, snakeCase } from '../kit/names.js';
import { toldByWord, type TaggedUnion } from '../kit/plan.js';
import { hasNullState, presenceOf } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { fill } from '../kit/template.js';
import { oneLine, packed, proseOf, proseWithMark } from '../kit/text.js';
import type { BenchOptions, Emitted, EmitOptions, NamesOfType, UnknownRule } from '../language.js';
import * as by from './spelling.js';
import { comment, cpp, includesOf } from './spelling.js';
import jsonSupport from './support/json_support.hpp';
import typeSupport from './support/support.hpp';
import choiceTemplate from './templates/choice.hpp';
import codecTemplate from './templates/codec.cpp';
import recordTemplate from './templates/record.hpp';
import typesTemplate from './templates/types.hpp';

export function namespaceName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  if (options.package !== undefined) return options.package;
  const name = identifier(model.name, snakeCase);
  return by.reservedPackages.has(name) || /^[^a-z]/.test(name) ? `${name}_payload` : name;
}

export function fileName(model: TypeModel): string {
  const name = identifier(model.name, snakeCase);
  return name === 'support' || name === 'json_support' ? `${name}_payload` : name;
}

/** Structs for nlohmann/json, C++20. */
export function emitCpp(model: TypeModel, options: EmitOptions, isHeader = false): Emitted {
  return new Emitter(model, options, isHeader).emit();
}

/** What a payload of a model is called, and the field of what it has beside its fields; empty where there is none. */
export function rootOf(
  model: TypeModel,
  { unknown, root = 0 }: Pick<BenchOptions, 'unknown' | 'root'>,
): { readonly Root: string; readonly extra: string } {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

/** How a union holds its alternatives: beside the fields that they share, or as one of them, by its tag or from what it is. */
type Plan = { readonly kind: 'shared' | 'whole'; readonly tagged: TaggedUnion } | { readonly kind: 'told' };

/** Lines are no longer than this. */
const width = 120;

class Emitter {
  private readonly rootNames: readonly string[];
  private readonly names: ModelNames;
  private readonly plans: ReadonlyMap<string, Plan>;
  /** Records that stand in an alternative, without the word that tells it. */
  private readonly inArms = new Map<string, TaggedUnion>();
  private readonly containment: Containment;
  private readonly taken: Set<string>;
  /** The functions that list the fields of each record. */
  private readonly listings: ReadonlyMap<string, string>;
  private readonly unknown: UnknownRule;
  private usesBoxes = false;

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
    /** Set where what reads and writes is a header too, so that nothing is compiled on its own. */
    private readonly isHeader = false,
  ) {
    this.unknown = options.unknown ?? 'drop';
    this.containment = new Containment(model);
    this.plans = new Map(model.unions.map((union) => [union.name, this.plan(union)]));
    for (const plan of this.plans.values())
      if ('tagged' in plan)
        for (const { record } of plan.tagged.arms) this.inArms.set(record.name, plan.tagged);
    const { reservedTypes, reservedFields } = by;
    this.names = new ModelNames(model, {
      type: pascalCasing,
      field: snakeCase,
      reservedTypes,
      reservedFields,
    });
    this.taken = new Set([...reservedTypes, ...this.names.all()]);
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) ? this.names.type(type.name) : this.fresh(name),
    );
    const listed = [...model.records, ...model.unions].map(({ name }) => this.names.type(name));
    const functions = allocate(
      [...listed, ...this.rootNames.filter((name) => !listed.includes(name))],
      snakeCase,
      new Set(),
    );
    this.listings = new Map([...functions].map(([name, own]) => [name, `${own}_fields`]));
  }

  emit(): Emitted {
    const { model, options } = this;
    const origin = oneLine(options.origin);
    const namespace = namespaceName(model, options);
    const file = fileName(model);
    const ordered = this.inOrder();
    const types = [
      ...model.choices.map((each) => this.choice(each)),
      ...this.forward(ordered),
      ...ordered.map((each) => ('fields' in each ? this.record(each) : this.union(each))),
      ...model.roots.flatMap((root, i) => (isComposite(root.type) ? [] : [this.root(root, i)])),
    ].map((text) => ({ text }));
    const codecs = [
      ...model.choices.map((each) => this.choiceCodec(each)),
      ...ordered.map((each) => ('fields' in each ? this.recordCodec(each) : this.unionCodec(each))),
      ...model.roots.flatMap(({ type }, i) => (isComposite(type) ? [] : [this.rootCodec(i)])),
    ];
    const all = types.map(({ text }) => text).join('\n');
    const shared = /\bField</.test(all) || this.usesBoxes;
    const about = proseOf(model) ?? `Types for ${namesOfPayloads(model)}.`;
    const header = fill(typesTemplate, {
      origin,
      namespace,
      shared,
      about: comment('', about).join('\n').trim().replace(/\n ?/g, '\n'),
      library: `#include <nlohmann/json${/nlohmann::json\b/.test(all) ? '' : '_fwd'}.hpp>`,
      includes: includesOf(all + codecs.map(({ declared }) => declared).join('\n')),
      types,
      inlined: this.isHeader ? `#include "${file}_inline.hpp"` : '',
      declared: codecs.map(({ declared }) => ({ text: declared })),
    });
    const listings = codecs.flatMap(({ listing }) => (listing === undefined ? [] : [{ text: listing }]));
    const codec = fill(codecTemplate, {
      origin,
      header: this.isHeader,
      file,
      namespace,
      listings,
      functions: codecs.flatMap(({ functions }) => functions.map((text) => ({ text }))),
    });
    return {
      files: [
        { path: `${file}.hpp`, text: tidy(header) },
        { path: this.isHeader ? `${file}_inline.hpp` : `${file}.cpp`, text: tidy(codec) },
        ...(shared ? [{ path: 'support.hpp', text: this.support(origin, namespace, all) }] : []),
        { path: 'json_support.hpp', text: this.jsonSupport(origin, namespace, all, codec, shared) },
      ],
      names: this.emittedNames(),
    };
  }

  private support(origin: string, namespace: string, types: string): string {
    const scope = { origin, namespace, field: /\bField</.test(types), box: this.usesBoxes };
    const text = fill(typeSupport, { ...scope, includes: '' });
    return tidy(fill(typeSupport, { ...scope, includes: includesOf(text) }));
  }

  rootOf(root: number): ReturnType<typeof rootOf> {
    const record = recordOf(this.model, root);
    return {
      Root: this.rootNames[root]!,
      extra: record === undefined ? '' : (this.extraOf(record)?.name ?? ''),
    };
  }

  /** What reads and writes the parts of types, each where it is used. */
  private jsonSupport(
    origin: string,
    namespace: string,
    types: string,
    codec: string,
    shared: boolean,
  ): string {
    const kinds = new Set([...typesIn(this.model)].map(({ kind }) => kind));
    const parts = {
      nulls: kinds.has('null'),
      integers: kinds.has('integer'),
      anything: kinds.has('anything') || this.unknown === 'keep',
      boxes: this.usesBoxes,
      // Fields that may be null are read as optional values.
      optionals: /std::optional<|\bField</.test(types),
      lists: kinds.has('list'),
      tuples: kinds.has('tuple'),
      maps: kinds.has('map'),
    };
    const scope = {
      ...parts,
      origin,
      namespace,
      shared,
      declared: parts.boxes || parts.optionals || parts.lists || parts.tuples || parts.maps,
      words: /codec::Words<|\.tagged\(/.test(codec),
      records: /codec::Reader/.test(codec),
      fields: /\bField</.test(types),
      constants: /\.constant\(/.test(codec),
      tagged: /\.tagged\(/.test(codec),
      rests: /\.rest\(/.test(codec),
      only: /\.only\(/.test(codec),
      says: /codec::says\(/.test(codec),
    };
    const text = fill(jsonSupport, { ...scope, includes: '' });
    return tidy(fill(jsonSupport, { ...scope, includes: includesOf(text) }));
  }

  private plan(union: UnionType): Plan {
    const tagged = toldByWord(this.model, union);
    if (tagged === undefined || tagged.arms.some(({ words }) => words.length > 1)) return { kind: 'told' };
    return { kind: this.unknown === 'drop' && tagged.shared.length > 0 ? 'shared' : 'whole', tagged };
  }

  /** Records and unions, each after all that it is made of, as far as these are not made of it. */
  private inOrder(): (RecordType | UnionType)[] {
    const all = new Map<string, RecordType | UnionType>(
      [...this.model.records, ...this.model.unions].map((each) => [each.name, each]),
    );
    const parts = new Map([...all].map(([name, each]) => [name, partsOf(each)]));
    const done = new Set<RecordType | UnionType>();
    const visit = (each: RecordType | UnionType): void => {
      if (done.has(each)) return;
      const held = this.containment.heldBy(each.name);
      for (const name of parts.get(each.name)!) {
        const isInside = held.has(name)
          ? this.containment.holds(name, each.name)
          : isReached(parts, name, each.name);
        if (!isInside) visit(all.get(name)!);
      }
      done.add(each);
    };
    for (const each of all.values()) visit(each);
    return [...done];
  }

  /** Types that are named before they are written. */
  private forward(ordered: readonly (RecordType | UnionType)[]): string[] {
    const texts = ordered.map((each) => ('fields' in each ? this.record(each) : this.union(each)));
    const early = ordered
      .map(({ name }) => this.names.type(name))
      .filter((name, i) => texts.slice(0, i).some((text) => new RegExp(`\\b${name}\\b`, 'u').test(text)));
    return early.length === 0 ? [] : [early.map((name) => `struct ${name};`).join('\n')];
  }

  /** The fields of a record as its struct has them: those of an alternative without what stands around it. */
  private own(record: RecordType): readonly RecordField[] {
    const tagged = this.inArms.get(record.name);
    if (tagged === undefined) return record.fields;
    if (this.unknown !== 'drop' || tagged.shared.length === 0)
      return record.fields.filter(({ key }) => key !== tagged.key);
    return tagged.arms.find((arm) => arm.record === record)!.own;
  }

  private record(record: RecordType): string {
    const members = this.members(record.name, this.own(record));
    const extra = this.extraOf(record);
    if (extra !== undefined)
      members.push({
        line: `/// The keys that the schema does not ${record.others === undefined ? 'know' : 'name'}.\n${extra.type} ${extra.name} = {};`,
      });
    return fill(recordTemplate, { Record: this.names.type(record.name), doc: prose(record), members });
  }

  private extraOf({
    name,
    others,
  }: RecordType): { readonly name: string; readonly type: string } | undefined {
    if (this.unknown !== 'keep' && others === undefined) return undefined;
    const keys = this.model.records.find((each) => each.name === name)!.fields.map(({ key }) => key);
    const taken = new Set(keys.map((key) => this.names.field(name, key)));
    const type = spell({ kind: 'map', values: others ?? { kind: 'anything' } }, this.spelling());
    return { name: allocate(['extra'], snakeCase, taken).get('extra')!, type };
  }

  private members(record: string, fields: readonly RecordField[]): { line: string }[] {
    return fields.map((field) => {
      const doc = prose(field);
      const name = this.names.field(record, field.key);
      const line = member(this.fieldText(field, record), name, this.initial(field));
      return { line: doc === '' ? line : `${doc}\n${line}` };
    });
  }

  /** What a field begins as: what may be left out is absent, and what must be given is empty or has no value at all. */
  private initial(field: RecordField): string {
    if (!field.required) return ' = std::nullopt';
    if (hasNullState(field)) return '';
    const { type } = field;
    switch (type.kind) {
      case 'boolean':
        return ' = false';
      case 'integer':
      case 'number':
        return ' = 0';
      case 'null':
        return ' = nullptr';
      case 'literal':
        return ` = ${text(type.value)}`;
      case 'choice': {
        const choice = this.model.choices.find(({ name }) => name === type.name)!;
        return choice.open
          ? ''
          : ` = ${this.names.type(type.name)}::${wordNames(choice).get(choice.values[0]!)!}`;
      }
      default:
        return '';
    }
  }

  private fieldText(field: RecordField, around: string): string {
    const inner = this.typeText(field.type, around);
    switch (presenceOf(field)) {
      case 'required':
        return inner;
      case 'nullable':
      case 'optional':
        return `std::optional<${inner}>`;
      case 'both':
        return `Field<${inner}>`;
    }
  }

  private choice(choice: ChoiceType): string {
    const Choice = this.names.type(choice.name);
    const names = wordNames(choice);
    if (!choice.open) {
      const doc = prose(choice);
      const words = choice.values.map((value) => names.get(value)!);
      const bits = words.length <= 256 ? 8 : 16;
      const line = `enum class ${Choice} : std::uint${bits}_t { ${words.join(', ')} };`;
      const text =
        line.length <= width
          ? line
          : `enum class ${Choice} : std::uint${bits}_t {\n${words.map((word) => `    ${word},`).join('\n')}\n};`;
      return doc === '' ? text : `${doc}\n${text}`;
    }
    return fill(choiceTemplate, {
      Choice,
      doc: prose(choice) || '/// Other words than these are values too.',
      words: choice.values.map((value) => ({ name: names.get(value)!, word: text(value) })),
    });
  }

  private union(union: UnionType): string {
    const Union = this.names.type(union.name);
    const plan = this.plans.get(union.name)!;
    if (plan.kind === 'shared') {
      const [first] = plan.tagged.arms;
      const members = this.members(first!.record.name, plan.tagged.shared);
      members.push({
        line: member(`std::variant<${this.armTypes(union).join(', ')}>`, this.tagField(plan.tagged), ''),
      });
      return fill(recordTemplate, {
        Record: Union,
        doc: prose(union) || '/// What all have, and what those of its kind have.',
        members,
      });
    }
    const doc = prose(union);
    const head = derived(`struct ${Union}`, this.armTypes(union));
    return `${doc === '' ? '' : `${doc}\n`}${head} {\n    using variant::variant;\n};`;
  }

  /** The member that holds what differs, called as the key that tells it. */
  private tagField({ key, shared, arms }: TaggedUnion): string {
    const taken = shared.map((field) => this.names.field(arms[0]!.record.name, field.key));
    return allocate([key], snakeCase, new Set([...by.reservedFields, ...taken])).get(key)!;
  }

  /** The alternatives of a union, those first that a value of it can begin as. */
  private armsOf(union: UnionType): UnionArm[] {
    const isInside = ({ type }: UnionArm) =>
      isComposite(type) && this.containment.holds(type.name, union.name);
    return [...union.arms.filter((arm) => !isInside(arm)), ...union.arms.filter(isInside)];
  }

  private armTypes(union: UnionType): string[] {
    return this.armsOf(union).map(({ type }) => this.typeText(type, union.name));
  }

  private root({ type, ...documented }: TypeModel['roots'][number], i: number): string {
    return fill(recordTemplate, {
      Record: this.rootNames[i]!,
      doc: prose(documented) || '/// The payload.',
      members: [
        { line: `${this.typeText(type)} value${type.kind === 'literal' ? ` = ${text(type.value)}` : '{}'};` },
      ],
    });
  }

  /** What stands before a function that several sources may define. */
  private get inline(): string {
    return this.isHeader ? 'inline ' : '';
  }

  /** A function, on one line where it fits; the formatter breaks those of templates. */
  private function(signature: string, statements: readonly string[], isTemplate = false): string {
    const line = `${signature} {${statements.length === 0 ? '' : ` ${statements.join(' ')} `}}`;
    const isShort = statements.length <= (isTemplate ? 0 : 1);
    if (isShort && !statements.some((each) => each.includes('\n')) && line.length <= width) return line;
    return `${signature} {\n${statements.map((each) => each.replace(/^(?=.)/gm, '    ')).join('\n')}\n}`;
  }

  private codec(
    Type: string,
    read: readonly string[],
    write: readonly string[],
    { listing, byValue = false }: { readonly listing?: string; readonly byValue?: boolean } = {},
  ) {
    const from = `${this.inline}void from_json(const nlohmann::json& json, ${Type}& value)`;
    const to = `${this.inline}void to_json(nlohmann::json& json, ${byValue ? `${Type} value` : `const ${Type}& value`})`;
    return {
      declared: `${from};\n${to};`,
      listing,
      functions: [this.function(from, read), this.function(to, write)],
    };
  }

  private choiceCodec(choice: ChoiceType): ReturnType<Emitter['codec']> {
    const Type = this.names.type(choice.name);
    if (choice.open) return this.codec(Type, ['codec::decode(json, value.word);'], ['json = value.word;']);
    const words = `${identifier(Type, snakeCase)}_words`;
    const count = choice.values.length;
    const shown = `${this.inline}std::string_view to_string(${Type} value)`;
    const own = this.codec(
      Type,
      [
        'std::string word;',
        'codec::decode(json, word);',
        called(`value = static_cast<${Type}>`, [`codec::index(${words}, word)`], 4),
      ],
      ['json = to_string(value);'],
      {
        byValue: true,
        listing: `/// In the order of ${Type}.\n${listed(`${this.inline}constexpr codec::Words<${count}> ${words}`, choice.values.map(cpp))}`,
      },
    );
    return {
      ...own,
      declared: `${shown};\n${own.declared}`,
      functions: [
        this.function(shown, [`return ${words}.at(static_cast<std::size_t>(value));`]),
        ...own.functions,
      ],
    };
  }

  private recordCodec(record: RecordType): ReturnType<Emitter['codec']> {
    const Type = this.names.type(record.name);
    const fields = this.own(record);
    const tag = this.inArms.get(record.name)?.key;
    const lines = fields.map((field) => this.listed(record.name, field));
    const extra = this.extraOf(record);
    const isStrict = this.unknown === 'reject' && record.others === undefined;
    let keys = '';
    if (extra !== undefined || isStrict) {
      const name = `${identifier(Type, snakeCase)}_keys`;
      const known = [...new Set([...fields.map(({ key }) => key), ...(tag === undefined ? [] : [tag])])];
      const sorted = known.sort((a, b) => Buffer.compare(Buffer.from(a), Buffer.from(b)));
      keys = `${listed(`${this.inline}constexpr codec::Words<${sorted.length}> ${name}`, sorted.map(cpp))}\n\n`;
      lines.push(
        extra === undefined ? `fields.only(${name});` : `fields.rest(${name}, value.${extra.name});`,
      );
    }
    return this.listedCodec(Type, lines, keys);
  }

  private listedCodec(Type: string, lines: readonly string[], before = ''): ReturnType<Emitter['codec']> {
    const name = this.listings.get(Type)!;
    const given =
      lines.length === 0
        ? 'Fields /*fields*/, Self& /*value*/'
        : `Fields fields, Self& ${lines.some((line) => /\bvalue\b/.test(line)) ? 'value' : '/*value*/'}`;
    return this.codec(
      Type,
      [`${name}(codec::Reader(json), value);`],
      [`${name}(codec::Writer(json), value);`],
      {
        listing: `${before}template <typename Fields, typename Self>\n${this.function(`void ${name}(${given})`, lines, true)}`,
      },
    );
  }

  /** A field as reading and writing go through it. */
  private listed(record: string, field: RecordField): string {
    const name = `value.${this.names.field(record, field.key)}`;
    if (field.type.kind === 'literal' && field.required && !field.nullable)
      return called('fields.constant', [cpp(field.key), cpp(field.type.value), name], 4);
    return called(`fields.${field.required ? 'required' : 'optional'}`, [cpp(field.key), name], 4);
  }

  private unionCodec(union: UnionType): ReturnType<Emitter['codec']> {
    const Type = this.names.type(union.name);
    const plan = this.plans.get(union.name)!;
    if ('tagged' in plan) {
      const { tagged } = plan;
      const isShared = plan.kind === 'shared';
      const order = this.armsOf(union).map(({ type }) => (type.kind === 'record' ? type.name : ''));
      const words = order.map((name) => tagged.arms.find(({ record }) => record.name === name)!.words[0]!);
      const held = isShared ? `value.${this.tagField(tagged)}` : 'value';
      const lines = isShared
        ? tagged.shared.map((field) => this.listed(tagged.arms[0]!.record.name, field))
        : [];
      const given = [cpp(tagged.key), held];
      return this.listedCodec(Type, [...lines, withWords('fields.tagged(', given, words.map(cpp), ');')]);
    }
    const inside = this.containment.holds(union.name, union.name) || this.isInItself(union);
    const arms = this.armsOf(union);
    const types = this.armTypes(union);
    const cases = [...arms.keys()]
      .sort((a, b) => (arms[a]!.test.kind === 'json' ? 1 : 0) - (arms[b]!.test.kind === 'json' ? 1 : 0))
      .map(
        (i, k) => `${condition(k === 0 ? 'if (' : '} else if (', arms[i]!)}\n    ${decoded(types[i]!, i)}\n`,
      )
      .join('');
    return this.codec(
      Type,
      [
        ...(inside ? ['const codec::Level level;'] : []),
        `${cases}} else {\n    ${called('throw codec::mismatch', [text(expectedOf(union)), 'json'], 8).replace(/\n/g, '\n    ')}\n}`,
      ],
      ['std::visit([&json](const auto& each) { json = codec::encode(each); }, value);'],
    );
  }

  /** Whether a union is inside itself without a record between, which would count the levels. */
  private isInItself(union: UnionType): boolean {
    const within = (type: Type, seen: Set<string>): boolean => {
      switch (type.kind) {
        case 'list':
          return within(type.items, seen);
        case 'map':
          return within(type.values, seen);
        case 'tuple':
          return type.items.some((item) => within(item, seen));
        case 'nullable':
          return within(type.of, seen);
        case 'union': {
          if (type.name === union.name) return true;
          if (seen.has(type.name)) return false;
          seen.add(type.name);
          const other = this.model.unions.find(({ name }) => name === type.name)!;
          return other.arms.some((arm) => within(arm.type, seen));
        }
        default:
          return false;
      }
    };
    return union.arms.some(({ type }) => within(type, new Set()));
  }

  private rootCodec(i: number): ReturnType<Emitter['codec']> {
    return this.codec(
      this.rootNames[i]!,
      ['codec::decode(json, value.value);'],
      ['json = codec::encode(value.value);'],
    );
  }

  /** A name for a type that the model has not, different from all others. */
  private fresh(wanted: string): string {
    const name = allocate([wanted], pascalCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  private typeText(type: Type, around?: string): string {
    return spell(type, this.spelling(around));
  }

  /** @param around the type that would hold the value itself, if it is not behind a list or a map */
  private spelling(around?: string) {
    return {
      ...by.spelling((name, kind) => {
        const own = this.names.type(name);
        if (around === undefined || kind === 'choice' || !this.containment.holds(name, around)) return own;
        this.usesBoxes = true;
        return `Box<${own}>`;
      }),
      ...(around === undefined ? {} : { behind: by.spelling((name) => this.names.type(name)) }),
    };
  }

  private emittedNames(): Emitted['names'] {
    const names = new Map<string, NamesOfType>(this.names.emitted());
    for (const union of this.model.unions) {
      const plan = this.plans.get(union.name)!;
      const arms = this.armTypes(union);
      const order = this.armsOf(union);
      const spelled = union.arms.map((arm) => arms[order.indexOf(arm)]!);
      const shared =
        plan.kind === 'shared'
          ? plan.tagged.shared.map(
              ({ key }) => [key, this.names.field(plan.tagged.arms[0]!.record.name, key)] as const,
            )
          : [];
      names.set(union.name, {
        type: this.names.type(union.name),
        fields: new Map(shared),
        union: {
          heldBy: plan.kind === 'shared' ? this.tagField(plan.tagged) : '',
          arms: spelled,
          shared: new Set(shared.map(([key]) => key)),
        },
      });
    }
    return names;
  }
}

/** The records and unions that a type names. */
function partsOf(type: RecordType | UnionType): ReadonlySet<string> {
  const own =
    'fields' in type
      ? [...type.fields.map((field) => field.type), ...(type.others === undefined ? [] : [type.others])]
      : type.arms.map((arm) => arm.type);
  return new Set(own.flatMap((each) => [...typesWithin(each)].filter(isComposite).map(({ name }) => name)));
}

function isReached(parts: ReadonlyMap<string, ReadonlySet<string>>, from: string, to: string): boolean {
  const seen = new Set([from]);
  for (const name of seen) {
    if (name === to) return true;
    for (const part of parts.get(name)!) seen.add(part);
  }
  return false;
}

function wordNames({ values, open }: ChoiceType): ReadonlyMap<string, string> {
  return allocate(values, snakeCase, new Set([...by.reservedFields, ...(open ? ['word'] : [])]));
}

/** A text where a std::string is wanted. */
function text(value: string): string {
  const own = cpp(value);
  return own.startsWith('"') ? own : own.replace('std::string_view(', 'std::string(');
}

/** An array of texts, on one line or in columns. */
function listed(head: string, items: readonly string[]): string {
  const line = `${head}{${items.join(', ')}};`;
  if (line.length <= width) return line;
  return `${head}{\n${inColumns(items, width - 4, 5)
    .map((row) => `    ${row}\n`)
    .join('')}};`;
}

/**
 * Items with a comma behind each, in the columns that formatters of C++ make: as few lines as the room allows, with as few columns
 * as that takes, and none whose items differ by more than ten characters.
 *
 * @param least so many items are in columns, fewer on a line each
 */
function inColumns(items: readonly string[], room: number, least: number): string[] {
  const own = items.map((item) => `${item},`);
  const rowsOf = (columns: number) =>
    Array.from({ length: Math.ceil(own.length / columns) }, (_, i) =>
      own.slice(i * columns, (i + 1) * columns),
    );
  let best = rowsOf(1);
  if (own.length < least) return own;
  for (let columns = Math.min(own.length, Math.floor(width / 3)); columns > 1; columns--) {
    const rows = rowsOf(columns);
    const sizes = rows[0]!.map((_, k) =>
      rows.flatMap((row) => row.slice(k, k + 1)).map(({ length }) => length),
    );
    const widest = sizes.map((each) => Math.max(...each));
    const isEven = sizes.slice(0, -1).every((each) => Math.max(...each) - Math.min(...each) <= 10);
    const whole = widest.reduce((sum, each) => sum + each, columns - 1);
    if (!isEven || whole > room || rows.length > best.length) continue;
    best = rows.map((row) => row.map((item, k) => (k < row.length - 1 ? item.padEnd(widest[k]!) : item)));
  }
  return best.map((row) => row.join(' '));
}

/** A call that stands behind so many spaces: what a line does not hold goes below the first argument. */
function called(name: string, given: readonly string[], indent: number): string {
  const line = `${name}(${given.join(', ')});`;
  if (indent + line.length <= width) return line;
  const [first, ...others] = given;
  const isAligned = indent + name.length + first!.length + 2 <= width;
  if (isAligned) return `${name}(${first},\n${' '.repeat(name.length + 1)}${others.join(', ')});`;
  const below = `${given.join(', ')});`;
  return `${name}(\n    ${indent + 4 + below.length <= width ? below : `${given.join(',\n    ')});`}`;
}

/** A call within a function whose last argument is a list of words. @param start its name with what stands before it */
function withWords(start: string, given: readonly string[], words: readonly string[], end: string): string {
  const line = `${start}${given.join(', ')}, {${words.join(', ')}}${end}`;
  if (4 + line.length <= width) return line;
  const at = (indent: number) => {
    const own = ' '.repeat(indent);
    const rows = inColumns(words, width - 8 - indent, 19).map((row) => `${own}    ${row}\n`);
    return { rows, text: `${given.join(', ')},\n${own}{\n${rows.join('')}${own}}${end}` };
  };
  const [beside, below] = [at(start.length), at(4)];
  return below.rows.length + 1 < beside.rows.length
    ? `${start}\n    ${below.text}`
    : `${start}${beside.text}`;
}

/** The head of a struct that is one of several types. */
function derived(head: string, types: readonly string[]): string {
  const start = ': std::variant<';
  const line = `${start}${types.join(', ')}>`;
  if (head.length + line.length + 3 <= width) return `${head} ${line}`;
  const apart = `\n    ${start}${packedBehind(types, 4 + start.length, 3)}>`;
  const indent = head.length + 1 + start.length;
  const beside = ` ${start}${packedBehind(types, indent, 3)}>`;
  const isFull = types.some((type) => indent + type.length + 3 > width);
  const linesOf = (text: string) => text.split('\n').length;
  return `${head}${isFull || linesOf(apart) <= linesOf(beside) ? apart : beside}`;
}

/** A member of a struct: where its line is full, its value or its name stands below. */
function member(type: string, name: string, initial: string): string {
  const line = `${type} ${name}${initial};`;
  if (4 + line.length <= width) return line;
  if (initial !== '' && 4 + `${type} ${name} =`.length <= width)
    return `${type} ${name} =\n    ${initial.slice(' = '.length)};`;
  const [, start, inside, end] = /^((?:[\w:]+<)*std::(?:variant|tuple)<)(.*?)(>+)$/.exec(type) ?? [];
  const isFull = 4 + type.length > width && start !== undefined;
  const above = isFull
    ? `${start}${packedBehind(argumentsOf(inside!), 4 + start.length, end!.length).replace(/\n {4}/g, '\n')}${end}`
    : type;
  return `${above}\n    ${name}${initial};`;
}

/** The arguments of a template, without those inside them. */
function argumentsOf(text: string): string[] {
  const given: string[] = [''];
  let depth = 0;
  for (const part of text.split(/(, |[<>])/)) {
    depth += part === '<' ? 1 : part === '>' ? -1 : 0;
    if (part === ', ' && depth === 0) given.push('');
    else given[given.length - 1] += part;
  }
  return given;
}

/** Arguments that begin behind so many spaces. @param behind characters that the last line has behind them */
function packedBehind(items: readonly string[], indent: number, behind: number): string {
  return packed(items, width - indent, behind).join(`\n${' '.repeat(indent)}`);
}

/** Reads the alternative at a place of a union, by its place where its type is too long for a line. */
function decoded(type: string, at: number): string {
  const line = `codec::decode(json, value.emplace<${type}>());`;
  return line.length + 8 <= width ? line : `codec::decode(json, value.emplace<${at}>());`;
}

/** What is asked before an alternative is read. @param start what stands before it, within a function */
function condition(start: string, { type, test }: UnionArm): string {
  if (test.kind === 'tag')
    return withWords(`${start}codec::says(`, ['json', cpp(test.key)], test.values.map(cpp), ')) {');
  if (test.kind === 'key') return `${start}json.contains(${cpp(test.key)})) {`;
  const asked = byJsonType(type, {
    boolean: 'json.is_boolean()',
    string: 'json.is_string()',
    number: 'json.is_number()',
    list: 'json.is_array()',
    object: jsonTypeOf(type) === undefined ? 'true' : 'json.is_object()',
  });
  return `${start}${asked}) {`;
}

function prose(documented: Documented): string {
  return comment('///', proseWithMark(documented, '@deprecated no longer to be used')).join('\n');
}

/** A file without the empty lines that lists of parts leave at their ends. */
function tidy(source: string): string {
  return `${source
    .replace(/\n{3,}/g, '\n\n')
    .replace(/\n\n(?=\} \/\/ namespace\b)/g, '\n\n')
    .trimEnd()}\n`;
}
