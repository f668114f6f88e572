import {
  mapParts,
  mapTypes,
  typesWithin,
  type RecordField,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionType,
} from '../../core/model/types.js';
import type { Doc } from '../kit/layout.js';
import { snakeCase } from '../kit/names.js';
import type { Presence } from '../kit/presence.js';
import type { TypeSpelling } from '../kit/spell.js';
import type { Emitted, EmitOptions, NamesOfType, UnknownRule } from '../language.js';
import {
  beforeDefault,
  call,
  either,
  isInsideItself,
  listed,
  marked,
  PythonEmitter,
  type Import,
  type RootOfBench,
} from './emit.js';
import { reservedFields, reservedTypes } from './spelling.js';
import structSupport from './support/struct.py';
import { python } from './text.js';

const words = (text: string) => text.split(' ');

const reserved = {
  types: [
    ...reservedTypes,
    ...words('Annotated DICT Host LIST Meta Moment Struct TypeError UNSET UUID UnsetType WRITER'),
  ],
  fields: [...reservedFields, ...words('bytes dt field tuple')],
  fieldCasing: snakeCase,
};

/** Structs that msgspec decodes and encodes, Python 3.11 and later. */
export function emitMsgspec(model: TypeModel, options: EmitOptions): Emitted {
  const types = withinReach(model);
  const tags = tagsOf(types);
  const { files, names } = new Emitter(types, options, reserved).emit();
  const nameOf = (record: string): NamesOfType => {
    const own = names.get(record);
    if (own === undefined) return { type: 'dict', fields: new Map() };
    const key = tags.get(record)?.key;
    return key === undefined ? own : { ...own, fields: new Map([...own.fields, [key, tagMember]]) };
  };
  const records = model.records.map(({ name }) => [name, nameOf(name)] as const);
  return { files, names: new Map([...names, ...records]) };
}

export function rootOfMsgspec(model: TypeModel, unknown: UnknownRule | undefined, root: number): RootOfBench {
  return new Emitter(withinReach(model), { origin: '', unknown }, reserved).rootOf(root);
}

/** Where a struct has the word that tells it from others. */
const tagMember = '__struct_config__.tag';

/** The key and the word by which msgspec tells a record from others, which is no field of it. */
interface Tag {
  readonly key: string;
  readonly word: string;
}

class Emitter extends PythonEmitter {
  private readonly tags = tagsOf(this.model);

  protected readonly imported: readonly (readonly Import[])[] = [
    [['datetime as dt'], ['decimal', 'Decimal'], ['typing', 'Annotated', 'Any', 'Literal'], ['uuid', 'UUID']],
    [['msgspec', 'UNSET', 'Meta', 'Struct', 'UnsetType', 'field']],
  ];

  protected ownSpelling(): Partial<TypeSpelling> {
    return {
      string: (form) => (form === undefined ? 'str' : natives[form]),
      number: (exact) => (exact ? 'Decimal' : 'float'),
      list: (items) => `tuple[${items}, ...]`,
    };
  }

  protected support(text: string): readonly string[] {
    return /\bMoment\b/.test(text) ? [structSupport.trim()] : [];
  }

  protected opening(name: string, base: string | undefined, record: RecordType | undefined): Doc {
    const union = [...this.bases].find(([, each]) => each === name)?.[0];
    const key = union === undefined ? undefined : this.tagged.get(union)!.key;
    const tag = record === undefined ? undefined : this.tags.get(record.name);
    const tagKey = key ?? (base === undefined ? tag?.key : undefined);
    return [
      `class ${name}(`,
      listed([
        base ?? 'Struct',
        'frozen=True',
        'kw_only=True',
        ...(this.unknown === 'reject' ? ['forbid_unknown_fields=True'] : []),
        ...(tagKey === undefined ? [] : [`tag_field=${python(tagKey)}`]),
        ...(tag === undefined ? [] : [`tag=${python(tag.word)}`]),
      ]),
      '):',
    ];
  }

  protected override isField({ name }: RecordType, { key }: RecordField): boolean {
    return this.tags.get(name)?.key !== key;
  }

  protected others(): readonly Doc[] {
    return [];
  }

  protected fieldType(type: string, presence: Presence): { type: string; initial?: string } {
    return marked(type, presence, 'UnsetType', 'UNSET');
  }

  protected declared(name: string, key: string, type: Doc, initial: Doc | undefined): Doc {
    const value =
      name === key
        ? initial
        : call('field', [`name=${python(key)}`, ...(initial === undefined ? [] : [['default=', initial]])]);
    const annotation = name === key ? beforeDefault(type, initial) : type;
    return [`${name}: `, annotation, ...(value === undefined ? [] : [' = ', value])];
  }

  protected taggedType(arms: readonly string[]): Doc {
    return either(arms);
  }
}

/** The type of a form of text. */
const natives = { 'date-time': 'Moment', date: 'dt.date', uuid: 'UUID', base64: 'bytes' } as const;

/** By the names of records: what tells them from the other alternatives of their unions. */
function tagsOf({ unions }: TypeModel): ReadonlyMap<string, Tag> {
  return new Map(
    unions.flatMap(({ arms }) =>
      arms.flatMap(({ type, test }) =>
        type.kind === 'record' && test.kind === 'tag'
          ? [[type.name, { key: test.key, word: test.values[0]! }] as const]
          : [],
      ),
    ),
  );
}

/** Keys for which msgspec has no fields. */
const unbound = /["\\\u0000-\u001f\p{Cs}]/u;

/**
 * A model in which what msgspec has no types for is plain dicts or anything: records with keys that it cannot name, or with
 * other keys of one type, records that are told apart by more than one word each, and texts beside decimals.
 */
function withinReach(model: TypeModel): TypeModel {
  const anything: Type = { kind: 'anything' };
  const dict: Type = { kind: 'map', values: anything };
  const isStruct = ({ fields, others }: RecordType) =>
    others === undefined && fields.every(({ key }) => !unbound.test(key));
  const open = new Set(model.records.flatMap((each) => (isStruct(each) ? [] : [each.name])));
  const tags = new Map<string, Tag>();
  const isTold = ({ arms }: UnionType): boolean => {
    const records = arms.filter(({ type }) => type.kind === 'record');
    if (records.every(({ test }) => test.kind === 'json')) return true;
    const found = records.map(({ type, test }) => {
      if (type.kind !== 'record' || test.kind !== 'tag' || test.values.length > 1) return undefined;
      const field = model.records
        .find(({ name }) => name === type.name)!
        .fields.find(({ key }) => key === test.key);
      const known = tags.get(type.name);
      const tag = { key: test.key, word: test.values[0]! };
      const isAnother = known !== undefined && (known.key !== tag.key || known.word !== tag.word);
      const isWord = field?.type.kind === 'literal' && field.required && !field.nullable;
      return isAnother || !isWord || open.has(type.name) ? undefined : ([type.name, tag] as const);
    });
    if (found.includes(undefined) || new Set(found.map((each) => each![1].key)).size > 1) return false;
    for (const each of found) tags.set(...each!);
    return true;
  };
  const beyond = new Set(model.unions.flatMap((union) => (isTold(union) ? [] : [union.name])));
  const isLoose = (union: UnionType) => {
    const kinds = new Set(union.arms.map(({ type }) => type.kind));
    const isDecimal = union.arms.some(({ type }) => type.kind === 'number' && type.exact);
    const hasText = kinds.has('string') || kinds.has('literal') || kinds.has('choice');
    return (isDecimal && hasText) || isInsideItself(model, union);
  };
  const change = (type: Type): Type =>
    type.kind === 'record' && open.has(type.name) ? dict : mapParts(type, change);
  const changed = mapTypes(model, change);
  const all: TypeModel = {
    ...changed,
    unions: changed.unions.map((union) => {
      if (isLoose(union)) return { ...union, arms: [{ type: anything, test: { kind: 'json' } }] };
      if (!beyond.has(union.name)) return union;
      const isObject = ({ kind }: Type) => kind === 'record' || kind === 'map';
      const others = union.arms.filter(({ type }) => !isObject(type));
      return { ...union, arms: [...others, { type: dict, test: { kind: 'json' } }] };
    }),
  };
  return { ...all, ...namedFrom(all) };
}

/** What payloads lead to. */
function namedFrom({
  roots,
  records,
  choices,
  unions,
}: TypeModel): Pick<TypeModel, 'records' | 'choices' | 'unions'> {
  const used = new Set<string>();
  const visit = (type: Type): void => {
    for (const part of typesWithin(type)) {
      if (!('name' in part) || used.has(part.name)) continue;
      used.add(part.name);
      records.find(({ name }) => name === part.name)?.fields.forEach((field) => visit(field.type));
      unions.find(({ name }) => name === part.name)?.arms.forEach((arm) => visit(arm.type));
    }
  };
  roots.forEach(({ type }) => visit(type));
  const isUsed = ({ name }: { readonly name: string }) => used.has(name);
  return {
    records: records.filter(isUsed),
    choices: choices.filter(isUsed),
    unions: unions.filter(isUsed),
  };
}
