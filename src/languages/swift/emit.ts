import {
  typesIn,
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
import { Containment, isComposite } from '../kit/containment.js';
import { armNames, expectedOf, ModelNames } from '../kit/model-names.js';
import {
  allocate,
  camelCase as camel,
  identifier,
  namesOfPayloads,
  pascalCasing as pascal,
  type Casing,
} from '../kit/names.js';
import { toldByWord, type TaggedUnion } from '../kit/plan.js';
import { payloadsFirst } from '../kit/order.js';
import { presenceOf } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { fill } from '../kit/template.js';
import { deprecatedMark, lineComments, oneLine, proseLines, proseOf, proseWithMark } from '../kit/text.js';
import type { Emitted, EmitOptions, NamesOfType, UnknownRule } from '../language.js';
import * as by from './spelling.js';
import { swift, swiftLabel, swiftName } from './spelling.js';
import anyKeySupport from './support/any-key.swift';
import attemptSupport from './support/attempt.swift';
import boxSupport from './support/box.swift';
import extraSupport from './support/extra.swift';
import fieldSupport from './support/field.swift';
import hasSupport from './support/has.swift';
import jsonValueSupport from './support/json-value.swift';
import nullSupport from './support/null.swift';
import nullableSupport from './support/nullable.swift';
import refuseSupport from './support/refuse.swift';
import saysSupport from './support/says.swift';
import tupleSupport from './support/tuple.swift';
import choiceTemplate from './templates/choice.swift';
import recordTemplate from './templates/record.swift';
import taggedTemplate from './templates/tagged.swift';
import unionTemplate from './templates/union.swift';

function fileName(model: TypeModel): string {
  const name = identifier(model.name, pascalCasing);
  return name === 'JSONSupport' ? `${name}Payload` : name;
}

/** Structs and enums that are Codable, Swift 6. */
export function emitSwift(model: TypeModel, options: EmitOptions, isPublic = false): Emitted {
  return new Emitter(model, options, isPublic).emit();
}

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  /** Whether it is a record, which is built from its fields. */
  readonly isRecord: boolean;
  /** All that its initialiser takes, in order. */
  readonly members: readonly { readonly label: string; readonly name: string }[];
  readonly isNullable: boolean;
  readonly fields: readonly { readonly key: string; readonly name: string }[];
}

export function rootOf(model: TypeModel, unknown: UnknownRule | undefined, root: number): RootOfBench {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

/** A name that is taken gets a word more: no name of Swift has an underscore. */
const camelCase: Casing = { ...camel, reservedSuffix: 'Value' };
const pascalCasing: Casing = { ...pascal, reservedSuffix: 'Value' };

/** The width of a line. */
const width = 100;

/** A field as code has it: the property, and what decodes and encodes it by hand. */
interface Member {
  readonly [name: string]: string;
  readonly doc: string;
  readonly name: string;
  /** As the property is declared, with what it is at first. */
  readonly Type: string;
  readonly wrapper: string;
  readonly stored: string;
  readonly decode: string;
  readonly encode: string;
  /** As the initialiser takes it. */
  readonly parameter: string;
}

class Emitter {
  private readonly names: ModelNames;
  private readonly containment: Containment;
  private readonly tagged: ReadonlyMap<string, TaggedUnion>;
  private readonly protocols = new Map<string, string[]>();
  private readonly protocolNames = new Map<string, string>();
  private readonly taken: Set<string>;
  /** Types of single words, by the word, where no record has them as its own. */
  private readonly constants = new Map<string, string>();
  private readonly access: string;
  private readonly unknown: UnknownRule;
  private readonly rootNames: readonly string[];

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
    private readonly isPublic = false,
  ) {
    this.access = isPublic ? 'public ' : '';
    this.unknown = options.unknown ?? 'drop';
    this.containment = new Containment(model);
    const { reservedTypes, reservedFields } = by;
    this.names = new ModelNames(model, {
      type: pascalCasing,
      field: camelCase,
      reservedTypes,
      reservedFields,
    });
    this.taken = new Set([...reservedTypes, ...this.names.all()]);
    this.tagged = new Map(
      model.unions.flatMap((union) => {
        const found = toldByWord(model, union);
        return found === undefined ? [] : [[union.name, found]];
      }),
    );
    for (const [name, { shared, arms }] of this.tagged) {
      if (!this.isShared(shared, arms)) continue;
      const Fields = this.fresh(`${name} fields`);
      this.protocolNames.set(name, Fields);
      for (const { record } of arms)
        this.protocols.set(record.name, [...(this.protocols.get(record.name) ?? []), Fields]);
    }
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) || type.kind === 'choice' ? this.names.type(type.name) : this.fresh(name),
    );
  }

  emit(): Emitted {
    const { model } = this;
    const types = payloadsFirst(model, {
      root: (each, i) => this.root(each, i),
      record: (each) => this.record(each),
      choice: (each) => this.choice(each),
      union: (each) => this.union(each),
    });
    for (const [value, Constant] of this.constants)
      types.push(
        `${this.access}enum ${Constant}: String, Codable, Sendable { case ${this.case(value, value)} }`,
      );
    const head = [
      `// Generated by Skevo from ${oneLine(this.options.origin)}; edit that and generate again.`,
    ];
    const about = lineComments('//', proseOf(model) ?? `Types for ${namesOfPayloads(model)}.`, width - 3);
    const needsFoundation = [...typesIn(model)].some(by.isOfFoundation);
    const file = (parts: readonly string[]) => `${parts.join('\n\n').replace(/\n{3,}/g, '\n\n')}\n`;
    const support = this.support(types);
    return {
      files: [
        {
          path: `${fileName(model)}.swift`,
          text: file([
            [...head, '//', ...about].join('\n'),
            ...(needsFoundation ? ['import Foundation'] : []),
            ...types,
          ]),
        },
        ...(support.length === 0
          ? []
          : [
              {
                path: 'JSONSupport.swift',
                text: file([
                  [...head, '//', '// What the types share.'].join('\n'),
                  'import Foundation',
                  ...support,
                ]),
              },
            ]),
      ],
      names: this.emittedNames(),
    };
  }

  rootOf(root: number): RootOfBench {
    const record = recordOf(this.model, root);
    const extra = record === undefined ? '' : this.extraOf(record);
    const fields = (record?.fields ?? []).map(({ key }) => {
      const bare = this.names.field(record!.name, key);
      return { key, label: swiftLabel(bare), name: swiftName(bare) };
    });
    return {
      Root: this.rootNames[root]!,
      isRecord: record !== undefined,
      isNullable: this.model.roots[root]!.type.kind === 'nullable',
      members: [...fields, ...(extra === '' ? [] : [{ label: extra, name: extra }])],
      fields,
    };
  }

  /** The support code that the types use. */
  private support(types: readonly string[]): string[] {
    const { access } = this;
    const tuples = by.positions.map((_, i) => {
      const letters = [...'ABCDEFGH'.slice(0, i + 1)];
      const rows = letters.map((Letter, k) => ({ Letter, position: by.positions[k]! }));
      return fill(tupleSupport, {
        access,
        size: String(i + 1),
        parameters: letters.map((letter) => `${letter}: Codable & Hashable & Sendable`).join(', '),
        given: rows.map(({ Letter, position }) => `_ ${position}: ${Letter}`).join(', '),
        elements: rows,
      });
    });
    const parts = [nullableSupport, fieldSupport, nullSupport, boxSupport, jsonValueSupport].map((text) =>
      fill(text, { access }),
    );
    const plain = [attemptSupport, anyKeySupport, saysSupport, hasSupport, extraSupport, refuseSupport];
    const all = [...parts, ...tuples, ...plain].map((text) => text.trim()).join('\n\n');
    // In a type of the caller's own, a payload that may be null is left out without it.
    const forCallers = this.model.roots.some(({ type }) => type.kind === 'nullable') ? ['Nullable'] : [];
    return new Support(all, by.supportSyntax).usedBy([...types, ...forCallers]);
  }

  private root({ type, ...documented }: TypeModel['roots'][number], i: number): string {
    const doc = prose(documented) || 'The payload.';
    return [
      ...doc.split('\n').map((line) => `/// ${line}`.trimEnd()),
      `${this.access}typealias ${this.rootNames[i]!} = ${this.typeText(type)}`,
    ].join('\n');
  }

  private record(record: RecordType): string {
    const constants: { Constant: string; word: string; access: string }[] = [];
    const members = record.fields.map((field) => this.member(record, field, constants));
    const extra = this.extraOf(record);
    const isStrict = this.unknown === 'reject' && record.others === undefined;
    // Without a field the library does not ask whether there is an object.
    const reads = extra !== '' || isStrict || members.length === 0;
    const Other = record.others === undefined ? 'JSONValue' : this.typeText(record.others);
    const keys = record.fields.map(({ key }) => [key, this.names.field(record.name, key)] as const);
    const isPlain = keys.every(([key, name]) => key === name);
    const parameters = [
      ...members.map(({ parameter }) => parameter),
      ...(extra === '' ? [] : [`${extra}: [String: ${Other}] = [:]`]),
    ];
    const assigned = [...members.map(({ name }) => name), ...(extra === '' ? [] : [extra])];
    return fill(recordTemplate, {
      access: this.access,
      Record: this.names.type(record.name),
      conforms: [...(this.protocols.get(record.name) ?? []), 'Codable', 'Hashable', 'Sendable'].join(', '),
      doc: prose(record),
      filled: members.length > 0 || extra !== '',
      constants,
      fields: members.map((member) => ({ ...member, access: this.access, read: assignment(member) })),
      extra,
      Other,
      know: record.others === undefined ? 'know' : 'name',
      keys: keys.length === 0 || (isPlain && !reads) ? '' : codingKeys(keys).join('\n'),
      raw: isPlain ? '' : 'String, ',
      initialiser: this.isPublic ? initialiser(parameters, assigned).join('\n') : '',
      reads,
      only: isStrict,
      bare: members.length === 0 && extra === '' && !isStrict,
      known: listed('[', [...new Set(record.fields.map(({ key }) => swift(key)))], ']', 8),
    });
  }

  private member(
    record: RecordType,
    field: RecordField,
    constants: { Constant: string; word: string; access: string }[],
  ): Member {
    const bare = this.names.field(record.name, field.key);
    const name = swiftName(bare);
    const label = swiftLabel(bare);
    const type = this.fieldType(record, field, constants);
    const key = `forKey: .${name}`;
    const plain = {
      doc: prose(field),
      name,
      wrapper: '',
      stored: `self.${name}`,
      encode: `encode(${name}, ${key})`,
    };
    switch (this.presence(field)) {
      case 'required': {
        const isConstant = field.type.kind === 'literal';
        const value = field.type.kind === 'literal' ? this.caseName(field.type.value) : 'Null()';
        const isGiven = !isConstant && field.type.kind !== 'null';
        return {
          ...plain,
          Type: isGiven ? type : `${type} = ${isConstant ? `.${value}` : value}`,
          decode: `decode(${type}.self, ${key})`,
          parameter: isGiven
            ? `${label}: ${type}`
            : `${label}: ${type} = ${isConstant ? `.${value}` : value}`,
        };
      }
      case 'nullable':
        return {
          ...plain,
          wrapper: '@Nullable ',
          stored: `self._${bare}`,
          Type: `${type}?`,
          decode: `decode(Nullable<${type}>.self, ${key})`,
          encode: `encode(_${bare}, ${key})`,
          parameter: `${label}: ${type}?`,
        };
      case 'optional':
        return {
          ...plain,
          Type: `${type}?`,
          decode: `decodeIfPresent(${type}.self, ${key})`,
          encode: `encodeIfPresent(${name}, ${key})`,
          parameter: `${label}: ${type}? = nil`,
        };
      case 'both':
        return {
          ...plain,
          Type: `Field<${type}> = .absent`,
          decode: `decode(Field<${type}>.self, ${key})`,
          parameter: `${label}: Field<${type}> = .absent`,
        };
    }
  }

  /** The state of a field; an optional of what may be null itself could not tell the two. */
  private presence(field: RecordField): ReturnType<typeof presenceOf> {
    const isNullItself = field.type.kind === 'null' || field.type.kind === 'anything';
    return !field.required && isNullItself ? 'both' : presenceOf(field);
  }

  /** @param constants types of single words that the record has for its own */
  private fieldType(
    record: RecordType,
    field: RecordField,
    constants: { Constant: string; word: string; access: string }[] = [],
  ): string {
    if (field.type.kind !== 'literal') return this.typeText(field.type, record.name);
    const { value } = field.type;
    const Constant = identifier(field.key, pascalCasing);
    // Inside the record the name would hide a type of the model.
    if (this.taken.has(Constant) || constants.some((each) => each.Constant === Constant))
      return this.constant(value);
    constants.push({ Constant, word: this.case(value, value), access: this.access });
    return Constant;
  }

  /** The field for keys that a record has beside its fields; empty where it keeps none. */
  private extraOf({ name, fields, others }: RecordType): string {
    if (this.unknown !== 'keep' && others === undefined) return '';
    const taken = new Set([...by.reservedFields, ...fields.map(({ key }) => this.names.field(name, key))]);
    return allocate(['extra'], camelCase, taken).get('extra')!;
  }

  private choice(choice: ChoiceType): string {
    const names = allocate(choice.values, camelCase, by.reservedFields);
    return fill(choiceTemplate, {
      access: this.access,
      Choice: this.names.type(choice.name),
      doc: prose(choice) || (choice.open ? 'Other words than these are values too.' : ''),
      open: choice.open,
      initialiser: this.isPublic,
      words: choice.values.map((value) => ({
        access: this.access,
        Choice: this.names.type(choice.name),
        name: swiftName(names.get(value)!),
        word: swift(value),
        case: this.case(names.get(value)!, value),
      })),
    });
  }

  /** A case that stands for a text. @param name as it is called, before what makes a keyword a name */
  private case(name: string, value: string): string {
    const own = name === value ? this.bareCase(value) : name;
    return own === value ? swiftName(own) : `${swiftName(own)} = ${swift(value)}`;
  }

  private caseName(value: string): string {
    return swiftName(this.bareCase(value));
  }

  private bareCase(value: string): string {
    return allocate([value], camelCase, by.reservedFields).get(value)!;
  }

  private constant(value: string): string {
    const known = this.constants.get(value) ?? this.fresh(`${value} word`);
    this.constants.set(value, known);
    return known;
  }

  private union(union: UnionType): string {
    const tagged = this.tagged.get(union.name);
    return tagged === undefined ? this.otherUnion(union) : this.taggedUnion(union, tagged);
  }

  private isShared(shared: TaggedUnion['shared'], arms: TaggedUnion['arms']): boolean {
    // A field is one property in all alternatives.
    return (
      shared.length > 0 &&
      shared.every(
        ({ key }) => new Set(arms.map(({ record }) => this.names.field(record.name, key))).size === 1,
      )
    );
  }

  private taggedUnion(union: UnionType, { key, shared, arms }: TaggedUnion): string {
    const names = this.armsOf(union);
    const Fields = this.protocolNames.get(union.name);
    const tag = allocate([key], camelCase, by.reservedFields).get(key)!;
    const first = arms[0]!.record;
    return fill(taggedTemplate, {
      access: this.access,
      indirect: this.indirect(union),
      Union: this.names.type(union.name),
      doc: prose(union),
      Fields: Fields ?? '',
      tag: tag === key ? swiftName(tag) : `${swiftName(tag)} = ${swift(key)}`,
      tagName: swiftName(tag),
      none: noneOf(arms.flatMap(({ words }) => words)),
      arms: arms.map(({ record, words }, i) => ({
        arm: names[i]!,
        Type: this.names.type(record.name),
        words: words.map(swift).join(', '),
      })),
      shared:
        Fields === undefined
          ? []
          : shared.map((field) => ({
              doc: prose(field),
              name: swiftName(this.names.field(first.name, field.key)),
              Type: this.propertyType(first, field),
            })),
    });
  }

  /** A field's type as others see it. */
  private propertyType(record: RecordType, field: RecordField): string {
    const type = this.typeText(field.type, record.name);
    const presence = this.presence(field);
    return presence === 'required' ? type : presence === 'both' ? `Field<${type}>` : `${type}?`;
  }

  /** A union told by its kind, or by what it has. */
  private otherUnion(union: UnionType): string {
    const names = this.armsOf(union);
    const rows = union.arms.map(({ type, test }, i) => {
      const Type = this.typeText(type);
      const arm = names[i]!;
      return test.kind === 'json'
        ? { arm, Type, isObject: false, test: `let held = try value.attempt(${Type}.self)`, held: 'held' }
        : { arm, Type, isObject: true, test: objectTest(test), held: `try ${Type}(from: decoder)` };
    });
    // What asks an object for its keys refuses all that is none.
    const ordered = [...rows.filter(({ isObject }) => !isObject), ...rows.filter(({ isObject }) => isObject)];
    return fill(unionTemplate, {
      access: this.access,
      indirect: this.indirect(union),
      Union: this.names.type(union.name),
      doc: prose(union),
      value: rows.some(({ isObject }) => !isObject),
      arms: ordered.map(({ arm, Type, test, held }, i) => ({
        arm,
        Type,
        test,
        held,
        otherwise: i === 0 ? '' : '} else ',
      })),
      expected: swift(`expected ${expectedOf(union)}`),
    });
  }

  /** What no alternative may be called, which in scripts without capitals a type may be. */
  private get reservedCases(): ReadonlySet<string> {
    return new Set([...by.reservedFields, 'shared', ...this.taken]);
  }

  /** What alternatives are called: as the words that tell them, where each has one. */
  private armsOf(union: UnionType): string[] {
    const words = this.tagged
      .get(union.name)
      ?.arms.flatMap((arm) => (arm.words.length === 1 ? arm.words : []));
    if (words?.length === union.arms.length && new Set(words).size === words.length) {
      const names = allocate(words, camelCase, this.reservedCases);
      return words.map((word) => swiftName(names.get(word)!));
    }
    return armNames(union, camelCase, this.reservedCases).map(swiftName);
  }

  private indirect({ name }: UnionType): string {
    const isInside = [...this.containment.heldBy(name)].some((held) => this.containment.holds(held, name));
    return isInside ? 'indirect ' : '';
  }

  /** A name for a type that the model has not, different from all others. */
  private fresh(wanted: string): string {
    const name = allocate([wanted], pascalCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  /** @param around the record that would hold the value itself, if it is not behind a list or a map */
  private typeText(type: Type, around?: string): string {
    const named = (holder: string | undefined) => (name: string, kind: 'record' | 'choice' | 'union') => {
      const own = this.names.type(name);
      const isInside = holder !== undefined && kind === 'record' && this.containment.holds(name, holder);
      return isInside ? `Box<${own}>` : own;
    };
    const word = (value: string) => this.constant(value);
    return spell(type, by.spelling(named(around), word, by.spelling(named(undefined), word)));
  }

  private emittedNames(): Emitted['names'] {
    const names = new Map<string, NamesOfType>(
      [...this.names.emitted()].map(([name, { type, fields }]) => [
        name,
        { type, fields: new Map([...fields].map(([key, field]) => [key, swiftName(field)])) },
      ]),
    );
    for (const union of this.model.unions) {
      const type = this.names.type(union.name);
      names.set(union.name, {
        type,
        fields: new Map(),
        union: { heldBy: '', arms: this.armsOf(union), shared: new Set() },
      });
    }
    return names;
  }
}

function objectTest(test: Exclude<UnionArm['test'], { readonly kind: 'json' }>): string {
  return test.kind === 'tag'
    ? `try decoder.says(${swift(test.key)}, [${test.values.map(swift).join(', ')}])`
    : `try decoder.has(${swift(test.key)})`;
}

function assignment({ stored, decode }: Member): string {
  const value = `try fields.${decode}`;
  return stored.length + value.length + 11 <= width ? `${stored} = ${value}` : `${stored} =\n    ${value}`;
}

/** What the error of an alternative says that no known word tells. */
function noneOf(words: readonly string[]): string {
  const known = words.map((word) => JSON.stringify(word)).join(', ');
  return `"\\"\\(word)\\" is none of ${swift(known.length < width - 40 ? known : 'the known words').slice(1)}`;
}

/** The cases of keys: those that are called as they are beside each other, the others a line each. */
function codingKeys(keys: readonly (readonly [key: string, name: string])[]): string[] {
  const lines: string[] = [];
  for (const [key, name] of keys) {
    if (key !== name) continue;
    const last = lines.at(-1);
    const wider = last === undefined ? '' : `${last}, ${swiftName(name)}`;
    if (last !== undefined && wider.length <= width - 8) lines[lines.length - 1] = wider;
    else lines.push(`case ${swiftName(name)}`);
  }
  for (const [key, name] of keys) if (key !== name) lines.push(`case ${swiftName(name)} = ${swift(key)}`);
  return lines;
}

function initialiser(parameters: readonly string[], names: readonly string[]): string[] {
  const head = `public init(${parameters.join(', ')}) {`;
  if (names.length === 0) return [`${head}}`];
  const signature =
    head.length <= width - 4
      ? [head]
      : [
          'public init(',
          ...parameters.map((each, i) => `    ${each}${i < parameters.length - 1 ? ',' : ''}`),
          ') {',
        ];
  return [...signature, ...names.map((name) => `    self.${name} = ${name}`), '}'];
}

/** A list on one line, or an element a line where that is too long. */
function listed(open: string, items: readonly string[], close: string, indent: number): string {
  const flat = `${open}${items.join(', ')}${close}`;
  const pad = ' '.repeat(indent);
  return items.length === 1 || flat.length <= width - 40
    ? flat
    : `${open}\n${items.map((item) => `${pad}    ${item},`).join('\n')}\n${pad}${close}`;
}

function prose(documented: Documented): string {
  return proseLines(proseWithMark(documented, deprecatedMark), width - 8).join('\n');
}
