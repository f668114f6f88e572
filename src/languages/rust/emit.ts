import {
  jsonTypeOf,
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
import { inWords } from '../../core/words.js';
import { recordOf } from '../kit/bench.js';
import { byJsonType } from '../kit/by-json-type.js';
import { Containment, isComposite } from '../kit/containment.js';
import { armNames, expectedOf, ModelNames } from '../kit/model-names.js';
import { allocate, identifier, pascalCasing, snakeCase } from '../kit/names.js';
import { toldByWord, type TaggedUnion } from '../kit/plan.js';
import { payloadsFirst } from '../kit/order.js';
import { presenceOf } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { fill, type Scope } from '../kit/template.js';
import { deprecatedMark, oneLine, proseLines, proseOf, proseWithMark } from '../kit/text.js';
import type { BenchOptions, Emitted, EmitOptions, NamesOfType, UnknownRule } from '../language.js';
import { attribute, matchArm, renamed, ruleFor } from './serde.js';
import * as by from './spelling.js';
import { rust } from './spelling.js';
import digitsSupport from './support/digits.rs';
import fieldSupport from './support/field.rs';
import locatedSupport from './support/located.rs';
import toldSupport from './support/told.rs';
import armsTemplate from './templates/arms.rs';
import manifestTemplate from './templates/Cargo.toml';
import choiceTemplate from './templates/choice.rs';
import constantTemplate from './templates/constant.rs';
import libTemplate from './templates/lib.rs';
import recordTemplate from './templates/record.rs';
import toldTemplate from './templates/told.rs';

/** A crate of structs and enums for serde, Rust 2024. */
export function emitRust(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

/** What a payload of a model is called, and the field of what it has beside its fields; empty where there is none. */
export function rootOf(
  model: TypeModel,
  { unknown, root = 0 }: Pick<BenchOptions, 'unknown' | 'root'>,
): { readonly Root: string; readonly extra: string } {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

/**
 * How a union is decoded: by its tag, beside the fields that its arms share or as the arms stand; as the first arm that fits,
 * where the JSON type tells them; or from what it says of itself.
 */
type Plan =
  | { readonly kind: 'shared' | 'inline' | 'whole'; readonly tagged: TaggedUnion }
  | { readonly kind: 'kinds' | 'told' };

class Emitter {
  private readonly rootNames: readonly string[];
  private readonly names: ModelNames;
  private readonly plans: ReadonlyMap<string, Plan>;
  /** Records that stand in an alternative, without the word that tells it. */
  private readonly inArms = new Map<string, Plan>();
  private readonly containment: Containment;
  private readonly taken: Set<string>;
  private readonly details = new Map<string, string>();
  private readonly constants = new Map<string, string>();
  private readonly imports = new Set<string>();
  private readonly unknown: UnknownRule;

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
  ) {
    this.unknown = options.unknown ?? 'drop';
    this.containment = new Containment(model);
    this.plans = new Map(model.unions.map((union) => [union.name, this.plan(union)]));
    const together: string[][] = [];
    for (const plan of this.plans.values()) {
      if (!('tagged' in plan)) continue;
      const records = plan.tagged.arms.map(({ record }) => record.name);
      records.forEach((name) => this.inArms.set(name, plan));
      if (plan.kind !== 'whole') together.push(records);
    }
    const { reservedTypes, reservedFields } = by;
    this.names = new ModelNames(
      model,
      { type: pascalCasing, field: snakeCase, reservedTypes, reservedFields },
      together,
    );
    this.taken = new Set([...reservedTypes, ...this.names.all()]);
    for (const [name, { kind }] of this.plans)
      if (kind === 'shared') this.details.set(name, this.fresh(`${name} detail`));
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) ? this.names.type(type.name) : this.fresh(name),
    );
  }

  emit(): Emitted {
    const { model, options } = this;
    const stands = ({ name }: RecordType) => ['whole', undefined].includes(this.inArms.get(name)?.kind);
    const types = payloadsFirst(
      model,
      {
        root: (each, i) => this.root(each, i),
        record: (each) => this.record(each),
        choice: (each) => this.choice(each),
        union: (each) => this.union(each),
        isNamed: isComposite,
      },
      model.records.filter(stands),
    );
    for (const [value, Constant] of this.constants) types.push(this.constant(value, Constant));
    const origin = oneLine(options.origin);
    const uses = [...this.imports];
    const shown = ['from_slice', ...uses.filter((path) => /^support::[A-Z]/.test(path)).map(nameOf)].sort();
    const features = ['float_roundtrip', ...(this.usesDigits() ? ['raw_value'] : [])];
    const lib = fill(libTemplate, {
      origin,
      about: proseLines(proseOf(model) ?? aboutRoots(this.rootNames), 92).join('\n'),
      uses: useLines(uses.filter((path) => !/^support::[A-Z]/.test(path))),
      shown: `pub use support::${shown.length === 1 ? shown[0]! : `{${shown.join(', ')}}`};`,
      types: types.map((text) => ({ text })),
    });
    return {
      files: [
        {
          path: 'Cargo.toml',
          text: `${fill(
            manifestTemplate,
            {
              origin,
              package: crateName(model, options),
              features: features.map((each) => `"${each}"`).join(', '),
              chrono: uses.some((path) => path.startsWith('chrono')),
              uuid: uses.some((path) => path.startsWith('uuid')),
            },
            '#',
          )}\n`,
        },
        { path: 'src/lib.rs', text: `${lib.replace(/\n{3,}/g, '\n\n').trimEnd()}\n` },
        { path: 'src/support.rs', text: this.support(origin) },
      ],
      names: this.emittedNames(),
    };
  }

  rootOf(root: number): ReturnType<typeof rootOf> {
    const record = recordOf(this.model, root);
    return { Root: this.rootNames[root]!, extra: record === undefined ? '' : this.extraOf(record) };
  }

  /** The support code that the types use. */
  private support(origin: string): string {
    const wanted = [
      'from_slice',
      ...[...this.imports].filter((path) => path.startsWith('support::')).map(nameOf),
    ];
    const digits = (Digits: string, doc: string, what: string, test: string) =>
      fill(digitsSupport, { Digits, doc, what, test });
    const all = [
      locatedSupport,
      fieldSupport,
      digits(
        'Number',
        'A number to the last digit.',
        'a number',
        "text.starts_with(|c: char| c == '-' || c.is_ascii_digit())",
      ),
      digits(
        'Integer',
        'An integer of any size.',
        'an integer',
        "text.bytes().all(|c| c == b'-' || c.is_ascii_digit())",
      ),
      toldSupport,
    ];
    const used = new Support(all.map((text) => text.trim()).join('\n\n'), by.supportSyntax).usedBy(wanted);
    const code = used.join('\n').replace(by.supportSyntax.notCode, '');
    const imports = by.supportImports.filter((path) => new RegExp(`(?<!::)\\b${nameOf(path)}\\b`).test(code));
    return `${[`// @generated by Skevo from ${origin}; DO NOT EDIT.`, useLines(imports), ...used].join('\n\n')}\n`;
  }

  private usesDigits(): boolean {
    return (
      this.model.roots.some(({ type }) => this.hasDigits(type)) ||
      this.model.records.some(({ name }) => this.hasDigits({ kind: 'record', name }))
    );
  }

  private plan(union: UnionType): Plan {
    if (this.hasDigits({ kind: 'union', name: union.name })) return { kind: 'told' };
    const tagged = toldByWord(this.model, union);
    if (tagged !== undefined && tagged.arms.every(({ words }) => words.length === 1)) {
      if (this.unknown !== 'drop') return { kind: 'whole', tagged };
      return { kind: tagged.shared.length > 0 ? 'shared' : 'inline', tagged };
    }
    // What is derived does not say what was wrong with an alternative, where there is more to say than its JSON type.
    const isPlain = union.arms.every(({ type, test }) => test.kind === 'json' && isShallow(type));
    return { kind: isPlain ? 'kinds' : 'told' };
  }

  private root({ type, ...documented }: TypeModel['roots'][number], i: number): string {
    const about = prose(documented) || 'The payload.';
    return [
      ...about.split('\n').map((line) => `/// ${line}`.trimEnd()),
      `pub type ${this.rootNames[i]!} = ${this.typeText(type)};`,
    ].join('\n');
  }

  private record(record: RecordType): string {
    const plan = this.inArms.get(record.name);
    const fields =
      plan !== undefined && 'tagged' in plan
        ? record.fields.filter(({ key }) => key !== plan.tagged.key)
        : record.fields;
    const { rule, rows } = this.fields(record.name, fields);
    const others = record.others;
    const isOpen = this.unknown === 'keep' || others !== undefined;
    if (isOpen) this.import('std::collections::BTreeMap');
    const type = { kind: 'record', name: record.name } as const;
    return this.struct({
      Record: this.names.type(record.name),
      doc: prose(record),
      derives: this.derives(
        type,
        fields.every(({ required }) => !required),
      ),
      attributes: attribute([
        ...(rule === undefined ? [] : [`rename_all = "${rule}"`]),
        ...(this.unknown === 'reject' && others === undefined ? ['deny_unknown_fields'] : []),
      ]),
      fields: rows,
      extra: this.extraOf(record),
      know: others === undefined ? 'know' : 'name',
      Other: !isOpen
        ? ''
        : others === undefined || this.hasDigits(others)
          ? this.import('serde_json::Value')
          : this.typeText(others),
      detail: '',
    });
  }

  private struct(scope: Scope): string {
    this.import('serde::Deserialize');
    this.import('serde::Serialize');
    const filled = [scope['fields'], scope['extra'], scope['detail']].some(
      (each) => each !== '' && !(Array.isArray(each) && each.length === 0),
    );
    const attributes = [scope['attributes'], ...allowed(scope['fields'] as Rows)];
    return fill(recordTemplate, {
      Detail: '',
      ...scope,
      filled,
      attributes: attributes.filter(Boolean).join('\n'),
    });
  }

  /** The field for keys that a record has beside its fields; empty where it keeps none. */
  private extraOf({ name, fields, others }: RecordType): string {
    if (this.unknown !== 'keep' && others === undefined) return '';
    const taken = new Set(fields.map(({ key }) => this.fieldName(name, key)));
    return allocate(['extra'], snakeCase, taken).get('extra')!;
  }

  /** Fields as the record around them renames them. */
  private fields(record: string, fields: readonly RecordField[], ruled?: ReturnType<typeof ruleFor>) {
    const named = fields.map((field) => [this.fieldName(record, field.key), field.key] as const);
    const { rule, by: change } = ruled ?? ruleFor('field', named);
    const rows = fields.map((field, i) => {
      const [name] = named[i]!;
      return {
        doc: prose(field),
        field: name,
        Type: this.fieldText(field, record),
        serde: attribute([...renamed(name, field.key, change), ...this.presence(field)]),
      };
    });
    return { rule, rows };
  }

  private fieldName(record: string, key: string): string {
    return by.fieldName(this.names.field(record, key));
  }

  private presence(field: RecordField): string[] {
    switch (presenceOf(field)) {
      case 'required':
        return [];
      case 'nullable':
        return ['deserialize_with = "Option::deserialize"'];
      case 'optional':
        this.import('support::not_null');
        return ['default', 'skip_serializing_if = "Option::is_none"', 'deserialize_with = "not_null"'];
      case 'both':
        return ['default', 'skip_serializing_if = "Field::is_absent"'];
    }
  }

  private fieldText(field: RecordField, record: string): string {
    const type = this.typeText(field.type, record);
    switch (presenceOf(field)) {
      case 'required':
        return type;
      case 'nullable':
      case 'optional':
        return `Option<${type}>`;
      case 'both':
        return `${this.import('support::Field')}<${type}>`;
    }
  }

  private choice(choice: ChoiceType): string {
    const Other = 'Other';
    const words = allocate(choice.values, pascalCasing, new Set(choice.open ? ['Self', Other] : ['Self']));
    const named = choice.values.map((value) => [words.get(value)!, value] as const);
    const { rule, by: change } = ruleFor('variant', named);
    ['serde::Deserialize', 'serde::Serialize', 'std::fmt'].forEach((path) => this.import(path));
    if (choice.open) ['std::hash::Hash', 'std::hash::Hasher'].forEach((path) => this.import(path));
    return fill(choiceTemplate, {
      Choice: this.names.type(choice.name),
      Other,
      open: choice.open,
      doc: prose(choice) || (choice.open ? 'Other words than these are values too.' : ''),
      derives: choice.open
        ? 'Debug, Clone, Serialize, Deserialize'
        : 'Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize',
      attributes: attribute(rule === undefined ? [] : [`rename_all = "${rule}"`]),
      words: named.map(([Word, value]) => ({
        Word,
        serde: attribute(renamed(Word, value, change)),
        case: matchArm(`Self::${Word}`, rust(value), 12),
      })),
    });
  }

  private constant(value: string, Constant: string): string {
    this.import('serde::Deserialize');
    this.import('serde::Serialize');
    const name = identifier(value, pascalCasing);
    const Word = name === 'Self' ? 'Self_' : name;
    return fill(constantTemplate, {
      Constant,
      Word,
      text: oneLine(rust(value)),
      serde: attribute(renamed(Word, value, (same) => same)),
    });
  }

  private union(union: UnionType): string {
    const plan = this.plans.get(union.name)!;
    if (plan.kind === 'shared') return this.sharingUnion(union, plan.tagged);
    return 'tagged' in plan
      ? this.taggedEnum(union, plan, this.names.type(union.name), prose(union))
      : this.otherUnion(union, plan.kind);
  }

  /** A struct of the fields that all alternatives have, and an enum of what differs. */
  private sharingUnion(union: UnionType, tagged: TaggedUnion): string {
    const Detail = this.details.get(union.name)!;
    const { rule, rows } = this.fields(tagged.arms[0]!.record.name, tagged.shared);
    const struct = this.struct({
      Record: this.names.type(union.name),
      doc: prose(union) || 'What all have, and the detail that tells them apart.',
      derives: this.derives({ kind: 'union', name: union.name }, false),
      attributes: attribute(rule === undefined ? [] : [`rename_all = "${rule}"`]),
      fields: rows,
      extra: '',
      know: '',
      Other: '',
      detail: this.detailOf(tagged),
      Detail,
    });
    return `${struct}\n\n${this.taggedEnum(union, { kind: 'shared', tagged }, Detail, '')}`;
  }

  private detailOf({ shared, arms }: TaggedUnion): string {
    const taken = shared.map(({ key }) => this.fieldName(arms[0]!.record.name, key));
    return allocate(['detail'], snakeCase, new Set(taken)).get('detail')!;
  }

  private taggedEnum(
    union: UnionType,
    { kind, tagged }: Plan & { tagged: TaggedUnion },
    name: string,
    doc: string,
  ): string {
    this.import('serde::Deserialize');
    this.import('serde::Serialize');
    const variants = this.variantsOf(tagged);
    const words = ruleFor(
      'variant',
      variants.map((variant, i) => [variant, tagged.arms[i]!.words[0]!] as const),
    );
    const own = tagged.arms.flatMap(({ record, own: fields }) =>
      fields.map(({ key }) => [this.fieldName(record.name, key), key] as const),
    );
    const isWhole = kind === 'whole';
    const fieldRule = isWhole ? ruleFor('field', []) : ruleFor('field', own);
    const rows = tagged.arms.map(({ record, own: fields }) =>
      isWhole ? [] : this.fields(record.name, fields, fieldRule).rows,
    );
    // The formatter puts either all of them on a line each, or none.
    const isShort = rows.every(
      (each) =>
        each.every(({ doc: about, serde }) => about === '' && serde === '') &&
        onOneLine(each).length <= longestVariant,
    );
    return fill(armsTemplate, {
      Union: name,
      doc,
      derives: this.derives({ kind: 'union', name: union.name }, false),
      attributes: attribute([
        `tag = ${rust(tagged.key)}`,
        ...(words.rule === undefined ? [] : [`rename_all = "${words.rule}"`]),
        ...(fieldRule.rule === undefined ? [] : [`rename_all_fields = "${fieldRule.rule}"`]),
      ]),
      arms: tagged.arms.map(({ record, words: [word] }, i) => ({
        Arm: variants[i]!,
        doc: isWhole ? '' : prose(record),
        serde: attribute(renamed(variants[i]!, word!, words.by)),
        fields: isShort ? [] : rows[i]!,
        held: isWhole ? `(${this.names.type(record.name)})` : isShort ? onOneLine(rows[i]!) : '',
      })),
    });
  }

  private variantsOf({ arms }: TaggedUnion): string[] {
    const words = arms.map(({ words: [word] }) => word!);
    const names = allocate(words, pascalCasing, new Set(['Self']));
    return words.map((word) => names.get(word)!);
  }

  /** A union that is told by the JSON types of its alternatives, or from the whole value. */
  private otherUnion(union: UnionType, kind: 'kinds' | 'told'): string {
    this.import('serde::Deserialize');
    this.import('serde::Serialize');
    const names = armNames(union, pascalCasing, new Set(['Self']));
    const all = union.arms.map((arm, i) => ({
      arm,
      Arm: names[i]!,
      Type: this.typeText(arm.type, union.name),
    }));
    const type = { kind: 'union', name: union.name } as const;
    const doc = prose(union);
    const Union = this.names.type(union.name);
    if (kind === 'kinds')
      return fill(armsTemplate, {
        Union,
        doc,
        derives: this.derives(type, false),
        attributes: [
          attribute(['untagged', `expecting = ${rust(`expected ${expectedOf(union)}`)}`]),
          ...allowed(all),
        ].join('\n'),
        // A struct is decoded from a list too, and a word from an object: these come later.
        arms: [...all]
          .sort((a, b) => byJsonType(a.arm.type, order) - byJsonType(b.arm.type, order))
          .map(({ Arm, Type }) => ({ Arm, doc: '', serde: '', fields: [], held: `(${Type})` })),
      });
    const raw = this.hasDigits(type);
    [
      'serde::Deserializer',
      'serde::de::Error',
      'serde_json::Value',
      raw ? 'support::parse' : 'support::read',
      ...(union.arms.some(({ test }) => test.kind === 'tag') ? ['support::says'] : []),
    ].forEach((path) => this.import(path));
    if (raw) this.import('serde_json::value::RawValue');
    const read = raw ? 'parse(&text)' : 'read(value)';
    return fill(toldTemplate, {
      Union,
      doc,
      raw,
      derives: this.derives(type, false).replace(', Deserialize', ''),
      attributes: [attribute(['untagged']), ...allowed(all)].join('\n'),
      arms: all.map(({ arm, Arm, Type }) => ({
        Arm,
        Type,
        case: matchArm(pattern(arm), `${read}.map(Self::${Arm})`, 12),
      })),
      otherwise: `${isAnyButNull(union) ? 'Value::Null' : '_'} => ${failure(`expected ${expectedOf(union)}`)},`,
    });
  }

  private derives(type: Type, hasDefault: boolean): string {
    return [
      'Debug',
      'Clone',
      ...(hasDefault ? ['Default'] : []),
      'PartialEq',
      ...(this.hasDoubles(type) ? [] : ['Eq', 'Hash']),
      'Serialize',
      'Deserialize',
    ].join(', ');
  }

  /** A name for a type that the model has not, different from all others. */
  private fresh(wanted: string): string {
    const name = allocate([wanted], pascalCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  private wordType(value: string): string {
    const known = this.constants.get(value) ?? this.fresh(`${value} word`);
    this.constants.set(value, known);
    return known;
  }

  /** Notes that the file uses something; returns its name. */
  private import(path: string): string {
    this.imports.add(path);
    return nameOf(path);
  }

  /** @param around the record or union that holds the type; a value of it inside itself is put into a box */
  private typeText(type: Type, around?: string): string {
    const spelling = (holder: string | undefined) =>
      by.spelling(
        (name, kind) => {
          const own = this.names.type(name);
          const isHeld = holder !== undefined && kind !== 'choice' && this.containment.holds(name, holder);
          return isHeld ? `Box<${own}>` : own;
        },
        (value) => this.wordType(value),
        (path) => this.import(path),
      );
    return spell(type, { ...spelling(around), behind: spelling(undefined) });
  }

  private readonly hasDigits = this.having(
    (type) =>
      (type.kind === 'integer' && type.width === 'unbounded') || (type.kind === 'number' && type.exact),
  );
  private readonly hasDoubles = this.having((type) => type.kind === 'number' && !type.exact);

  /** Whether something is in values of a type, at any depth. */
  private having(is: (type: Type) => boolean): (type: Type) => boolean {
    const known = new Map<string, boolean>();
    const within = (type: Type, seen: Set<string>): boolean =>
      [...typesWithin(type)].some((part) => {
        if (is(part)) return true;
        if (part.kind !== 'record' && part.kind !== 'union') return false;
        if (seen.has(part.name)) return false;
        seen.add(part.name);
        return this.partsOf(part.name).some((each) => within(each, seen));
      });
    return (type) => {
      if (type.kind !== 'record' && type.kind !== 'union') return within(type, new Set());
      const found = known.get(type.name) ?? within(type, new Set());
      known.set(type.name, found);
      return found;
    };
  }

  private partsOf(name: string): readonly Type[] {
    const record = this.model.records.find((each) => each.name === name);
    if (record !== undefined)
      return [
        ...record.fields.map(({ type }) => type),
        ...(record.others === undefined ? [] : [record.others]),
      ];
    return this.model.unions.find((each) => each.name === name)!.arms.map(({ type }) => type);
  }

  private emittedNames(): Emitted['names'] {
    const names = new Map<string, NamesOfType>(
      [...this.names.emitted()].map(([name, { type, fields }]) => [
        name,
        { type, fields: new Map([...fields].map(([key, field]) => [key, by.fieldName(field)])) },
      ]),
    );
    for (const union of this.model.unions) {
      const plan = this.plans.get(union.name)!;
      const type = this.names.type(union.name);
      const isShared = plan.kind === 'shared';
      const Enum = isShared ? this.details.get(union.name)! : type;
      const variants =
        'tagged' in plan ? this.variantsOf(plan.tagged) : armNames(union, pascalCasing, new Set(['Self']));
      const fields = new Map(
        isShared
          ? plan.tagged.shared.map(({ key }) => [key, this.fieldName(plan.tagged.arms[0]!.record.name, key)])
          : [],
      );
      names.set(union.name, {
        type,
        fields,
        union: {
          heldBy: isShared ? this.detailOf(plan.tagged) : '',
          arms: variants.map((variant) => `${Enum}::${variant}`),
          shared: new Set(fields.keys()),
          ...((isShared || plan.kind === 'inline') && { isFields: true as const }),
        },
      });
    }
    return names;
  }
}

const order = { list: 0, object: 1, boolean: 2, number: 3, string: 4 };

export function crateName(model: TypeModel, { package: given }: Pick<EmitOptions, 'package'>): string {
  const name = (given ?? identifier(model.name, by.crateCasing).replace(/[^a-z0-9_]/g, '')) || 'payload';
  return by.reservedCrates.has(name) ? `${name}_payload` : name;
}

type Rows = readonly { readonly Type: string }[];

/** Types that the usual checker would have parts of named, which the payload has no names for. */
function allowed(rows: Rows): string[] {
  const isDeep = rows.some(({ Type }) => (Type.match(/</g) ?? []).length > 4);
  return isDeep ? ['#[allow(clippy::type_complexity)]'] : [];
}

/** The fields of a variant on one line; longer ones the formatter puts below each other. */
const longestVariant = ' { '.length + 35 + ' }'.length;

function onOneLine(fields: readonly { readonly field: string; readonly Type: string }[]): string {
  return fields.length === 0 ? '' : ` { ${fields.map(({ field, Type }) => `${field}: ${Type}`).join(', ')} }`;
}

function pattern({ type, test }: UnionArm): string {
  if (test.kind === 'tag')
    return `Value::Object(object) if says(object, ${rust(test.key)}, &[${test.values.map(rust).join(', ')}])`;
  if (test.kind === 'key') return `Value::Object(object) if object.contains_key(${rust(test.key)})`;
  return byJsonType(type, {
    boolean: 'Value::Bool(_)',
    string: 'Value::String(_)',
    number: 'Value::Number(_)',
    list: 'Value::Array(_)',
    object: 'Value::Object(_)',
  });
}

/** Whether alternatives are of every JSON type but null, so that nothing else is left. */
function isAnyButNull({ arms }: UnionType): boolean {
  return (
    new Set(arms.flatMap(({ type, test }) => (test.kind === 'json' ? [jsonTypeOf(type)] : []))).size === 5
  );
}

/** A call whose arguments are longer is broken by the formatter. */
const longestArguments = 60;

function failure(message: string): string {
  const error = `D::Error::custom(${rust(message)})`;
  return error.length <= longestArguments
    ? `Err(${error})`
    : `Err(D::Error::custom(\n    ${rust(message)},\n))`;
}

function aboutRoots(names: readonly string[]): string {
  return `Types for the payload${names.length === 1 ? '' : 's'} ${inWords(names.map((name) => `[\`${name}\`]`))}.`;
}

/** Whether a value is made of nothing but scalars and lists of them. */
function isShallow(type: Type): boolean {
  return [...typesWithin(type)].every(({ kind }) => !['record', 'union', 'map', 'tuple'].includes(kind));
}

function nameOf(path: string): string {
  return path.slice(path.lastIndexOf(':') + 1);
}

function prose(documented: Documented): string {
  return proseLines(proseWithMark(documented, deprecatedMark), 92).join('\n');
}

/** `use` lines as the formatter orders them: by path, the names of one path together. */
function useLines(imports: readonly string[]): string {
  const byPath = new Map<string, string[]>();
  for (const each of [...imports].sort()) {
    const at = each.lastIndexOf('::');
    byPath.set(each.slice(0, at), [...(byPath.get(each.slice(0, at)) ?? []), each.slice(at + 2)]);
  }
  const lines = [...byPath].map(([path, names]) =>
    names.length === 1 ? `use ${path}::${names[0]!};` : `use ${path}::{${names.join(', ')}};`,
  );
  // Below one path, modules come before what is taken from the path itself.
  const sorted = lines.sort((a, b) => (a.replace('{', '~') < b.replace('{', '~') ? -1 : 1));
  const groups = [/^use std/, /^use (chrono|serde|uuid)/, /^use support/].map((own) =>
    sorted.filter((line) => own.test(line)).join('\n'),
  );
  return groups.filter((text) => text !== '').join('\n\n');
}
