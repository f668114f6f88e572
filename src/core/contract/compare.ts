import { buildModel } from '../model/build.js';
import {
  jsonTypeOf,
  type ChoiceType,
  type RecordField,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionType,
} from '../model/types.js';
import type { Schema } from '../schema/schema.js';
import type { Source } from '../json/source.js';
import { formatPlace } from '../json/pointer.js';
import { formatOfWidth } from '../json/number.js';
import { constraintChanges } from './constraints.js';

/** What a change does to programs that were made for the old schema. */
export type Effect = 'safe' | 'breaking' | 'unknown';

export const changeKinds = [
  'field added',
  'field removed',
  'may be absent',
  'always there',
  'may be null',
  'never null',
  'type widened',
  'type narrowed',
  'type changed',
  'word added',
  'word removed',
  'choice opened',
  'choice closed',
  'alternative added',
  'alternative removed',
  'constraint changed',
] as const;

export type ChangeKind = (typeof changeKinds)[number];

export interface ContractChange {
  readonly kind: ChangeKind;
  /** Where in a payload, with `*` for every element or key. */
  readonly place: string;
  /** What was there and what is, in words. */
  readonly was: string;
  readonly now: string;
  /** What it does to those who decode payloads of the new schema with types of the old. */
  readonly readers: Effect;
  /** What it does to those who send payloads of the old schema to who expects the new. */
  readonly writers: Effect;
  /** Generated types, by their names in the model. */
  readonly types: readonly string[];
  /** When a field may have been given another name: that name. */
  readonly perhaps?: string;
}

/**
 * Every difference between two schemas that payloads or programs can tell, in the order of the new schema. Order,
 * titles and descriptions make none.
 */
export function compareSchemas(
  old: { readonly schema: Schema; readonly source: Source },
  now: { readonly schema: Schema; readonly source: Source },
): ContractChange[] {
  const before = buildModel(old.schema, old.source);
  const after = buildModel(now.schema, now.source);
  const changes = new Comparison(before, after).run();
  const known = new Set(changes.map(({ place }) => place));
  // A place whose type changed says nothing more by its bounds.
  return [
    ...changes,
    ...constraintChanges(old, now)
      .filter(({ place }) => !known.has(place))
      .map(({ place, was, now: is }): ContractChange => ({
        kind: 'constraint changed',
        place,
        was,
        now: is,
        readers: 'unknown',
        writers: 'unknown',
        types: [],
      })),
  ];
}

type Effects = readonly [readers: Effect, writers: Effect];

/** Old programs may meet what they do not know. */
const widened: Effects = ['breaking', 'safe'];
/** Old programs may send what is no longer taken. */
const narrowed: Effects = ['safe', 'breaking'];
const changed: Effects = ['breaking', 'breaking'];
const harmless: Effects = ['safe', 'safe'];

class Comparison {
  private readonly changes: ContractChange[] = [];
  /** Pairs of named types that are being compared or were. */
  private readonly done = new Set<string>();

  constructor(
    private readonly old: TypeModel,
    private readonly now: TypeModel,
  ) {}

  run(): ContractChange[] {
    this.compare(this.old.root, this.now.root, '', []);
    return this.changes;
  }

  private add(
    kind: ChangeKind,
    place: string,
    [was, now]: readonly [string, string],
    [readers, writers]: Effects,
    types: readonly string[],
    perhaps?: string,
  ): void {
    this.changes.push({
      kind,
      place,
      was,
      now,
      readers,
      writers,
      types: [...new Set(types)],
      ...(perhaps === undefined ? {} : { perhaps }),
    });
  }

  private compare(a: Type, b: Type, place: string, types: readonly string[]): void {
    const [wasNull, isNull] = [a.kind === 'nullable', b.kind === 'nullable'];
    const [old, now] = [a.kind === 'nullable' ? a.of : a, b.kind === 'nullable' ? b.of : b];
    if (wasNull !== isNull) this.nullability(isNull, place, types);
    this.compareTypes(old, now, place, types);
  }

  private nullability(isNull: boolean, place: string, types: readonly string[]): void {
    if (isNull) this.add('may be null', place, ['never null', 'may be null'], widened, types);
    else this.add('never null', place, ['may be null', 'never null'], narrowed, types);
  }

  private compareTypes(a: Type, b: Type, place: string, types: readonly string[]): void {
    const words = [describe(a), describe(b)] as const;
    if (a.kind === 'record' && b.kind === 'record') return this.records(a.name, b.name, place);
    if (a.kind === 'union' || b.kind === 'union') return this.unions(a, b, place, types);
    if (a.kind === 'list' && b.kind === 'list') return this.compare(a.items, b.items, `${place}/*`, types);
    if (a.kind === 'map' && b.kind === 'map') return this.compare(a.values, b.values, `${place}/*`, types);
    if (a.kind === 'tuple' && b.kind === 'tuple' && a.items.length === b.items.length) {
      a.items.forEach((item, i) => this.compare(item, b.items[i]!, `${place}/${i}`, types));
      return;
    }
    if (a.kind === 'choice' && b.kind === 'choice') return this.choices(a.name, b.name, place, types);
    if (words[0] === words[1]) return;
    // What a text is said to be changes no text: decoders take it as it is.
    if (a.kind === 'string' && b.kind === 'string')
      return this.add('type changed', place, words, ['unknown', 'unknown'], types);
    if (isWider(b, a)) this.add('type widened', place, words, widened, types);
    else if (isWider(a, b)) this.add('type narrowed', place, words, narrowed, types);
    else this.add('type changed', place, words, changed, types);
  }

  private records(oldName: string, nowName: string, place: string): void {
    const key = JSON.stringify([oldName, nowName]);
    if (this.done.has(key)) return;
    this.done.add(key);
    const old = this.old.records.find(({ name }) => name === oldName)!;
    const now = this.now.records.find(({ name }) => name === nowName)!;
    this.fields(old, now, place, [nowName]);
  }

  private fields(old: RecordType, now: RecordType, place: string, types: readonly string[]): void {
    const find = (record: RecordType, key: string) => record.fields.find((field) => field.key === key);
    const added = now.fields.filter(({ key }) => find(old, key) === undefined);
    const removed = old.fields.filter(({ key }) => find(now, key) === undefined);
    for (const field of now.fields) {
      const before = find(old, field.key);
      const here = place + formatPlace([{ key: field.key }]);
      if (before !== undefined) {
        this.field(before, field, here, types);
        continue;
      }
      const like = removed.find((each) => isAlike(each, field));
      this.add(
        'field added',
        here,
        ['not known', describeField(field)],
        // Who does not send it is refused; who does not know it reads past it.
        field.required ? narrowed : harmless,
        types,
        like?.key,
      );
    }
    for (const field of removed) {
      const like = added.find((each) => isAlike(each, field));
      this.add(
        'field removed',
        place + formatPlace([{ key: field.key }]),
        [describeField(field), 'not known'],
        // What becomes of a field that is not known is the receiver's affair.
        field.required ? ['breaking', 'unknown'] : ['safe', 'unknown'],
        types,
        like?.key,
      );
    }
  }

  private field(a: RecordField, b: RecordField, place: string, types: readonly string[]): void {
    if (a.required && !b.required)
      this.add('may be absent', place, ['always there', 'may be absent'], widened, types);
    if (!a.required && b.required)
      this.add('always there', place, ['may be absent', 'always there'], narrowed, types);
    if (a.nullable !== b.nullable && a.type.kind !== 'null' && b.type.kind !== 'null')
      this.nullability(b.nullable, place, types);
    this.compare(a.type, b.type, place, types);
  }

  private choices(oldName: string, nowName: string, place: string, types: readonly string[]): void {
    const choice = ({ choices }: TypeModel, name: string): ChoiceType =>
      choices.find((each) => each.name === name)!;
    const old = choice(this.old, oldName);
    const now = choice(this.now, nowName);
    const touched = [...types, nowName];
    if (!old.open && now.open)
      this.add('choice opened', place, ['no other words', 'other words too'], widened, touched);
    if (old.open && !now.open)
      this.add('choice closed', place, ['other words too', 'no other words'], narrowed, touched);
    // An open choice takes any word, known or not.
    for (const word of now.values.filter((each) => !old.values.includes(each)))
      this.add(
        'word added',
        place,
        ['not known', JSON.stringify(word)],
        old.open ? harmless : widened,
        touched,
      );
    for (const word of old.values.filter((each) => !now.values.includes(each)))
      this.add(
        'word removed',
        place,
        [JSON.stringify(word), 'not known'],
        now.open ? harmless : narrowed,
        touched,
      );
  }

  private unions(a: Type, b: Type, place: string, types: readonly string[]): void {
    const arms = ({ unions }: TypeModel, type: Type): readonly Type[] =>
      type.kind === 'union'
        ? unions.find(({ name }: UnionType) => name === type.name)!.arms.map((arm) => arm.type)
        : [type];
    const old = [...arms(this.old, a)];
    const touched = b.kind === 'union' ? [...types, b.name] : types;
    for (const arm of arms(this.now, b)) {
      const at = old.findIndex((each) => isSameArm(each, arm));
      if (at < 0) {
        this.add('alternative added', place, ['not known', describe(arm)], widened, touched);
        continue;
      }
      const [same] = old.splice(at, 1);
      this.compareTypes(same!, arm, place, touched);
    }
    for (const arm of old)
      this.add('alternative removed', place, [describe(arm), 'not known'], narrowed, touched);
  }
}

/** Whether two alternatives stand for the same: records by name, all else by the JSON type. */
function isSameArm(a: Type, b: Type): boolean {
  if (a.kind === 'record' && b.kind === 'record') return a.name === b.name;
  return a.kind !== 'record' && b.kind !== 'record' && jsonTypeOf(a) === jsonTypeOf(b);
}

/** Whether every value of one scalar type is a value of another, which has more. */
function isWider(wide: Type, narrow: Type): boolean {
  if (wide.kind === 'anything') return true;
  const widths = ['int32', 'double-int', 'int64', 'unbounded'];
  if (wide.kind === 'integer' && narrow.kind === 'integer')
    return widths.indexOf(wide.width) > widths.indexOf(narrow.width);
  if (wide.kind === 'number')
    return narrow.kind === 'integer' || (narrow.kind === 'number' && wide.exact && !narrow.exact);
  if (wide.kind === 'string') return narrow.kind === 'literal' || narrow.kind === 'choice';
  if (wide.kind === 'choice') return narrow.kind === 'literal';
  return false;
}

/** Whether one field may be another under a new name. */
function isAlike(a: RecordField, b: RecordField): boolean {
  return a.nullable === b.nullable && describe(a.type) === describe(b.type) && a.type.kind !== 'anything';
}

function describeField(field: RecordField): string {
  const words = [describe(field.type)];
  if (field.nullable && field.type.kind !== 'null') words.push('or null');
  return `${words.join(' ')}, ${field.required ? 'always there' : 'may be absent'}`;
}

function describe(type: Type): string {
  switch (type.kind) {
    case 'integer':
      return `integer (${formatOfWidth(type.width)})`;
    case 'number':
      return type.exact ? 'number (decimal)' : 'number';
    case 'string':
      return type.form === undefined ? 'string' : `string (${type.form})`;
    case 'literal':
      return JSON.stringify(type.value);
    case 'list':
      return `list of ${describe(type.items)}`;
    case 'map':
      return `map of ${describe(type.values)}`;
    case 'tuple':
      return `tuple of ${type.items.map(describe).join(', ')}`;
    case 'record':
    case 'choice':
    case 'union':
      return type.name;
    case 'nullable':
      return `${describe(type.of)} or null`;
    default:
      return type.kind;
  }
}
