import type { IntegerWidth } from '../json/number.js';
import type { DatesRule } from './dates.js';
import { member, type JsonValue } from '../json/value.js';

/** What a text may be, of which languages have types. */
export type TextForm = 'date-time' | 'date' | 'uuid' | 'base64';

/**
 * A type as every language sees it. Records, choices and unions are named and listed in the model, so that a
 * type may contain itself.
 */
export type Type =
  | { readonly kind: 'anything' }
  | { readonly kind: 'null' }
  | { readonly kind: 'boolean' }
  /** `form`: what the schema says that the text is; `dates`: whether it is to be of a type of the language's own. */
  | { readonly kind: 'string'; readonly form?: TextForm; readonly dates?: DatesRule }
  /**
   * `isUnstated`: the schema says no width; languages whose integers have less than 64 bits may take their own. `listed`: the
   * digits of all that there are, where the schema lists them.
   */
  | {
      readonly kind: 'integer';
      readonly width: IntegerWidth;
      readonly isUnstated?: true;
      readonly listed?: readonly string[];
    }
  /** `exact`: with more digits than a double carries. */
  | { readonly kind: 'number'; readonly exact: boolean }
  /** One string and no other. */
  | { readonly kind: 'literal'; readonly value: string }
  | { readonly kind: 'list'; readonly items: Type }
  /** A list of fixed length, each position of a type of its own. */
  | { readonly kind: 'tuple'; readonly items: readonly Type[] }
  | { readonly kind: 'map'; readonly values: Type }
  | { readonly kind: 'record'; readonly name: string }
  | { readonly kind: 'choice'; readonly name: string }
  | { readonly kind: 'union'; readonly name: string }
  | { readonly kind: 'nullable'; readonly of: Type };

export interface Documented {
  readonly title?: string;
  readonly description?: string;
  readonly deprecated?: boolean;
}

export interface RecordType extends Documented {
  readonly name: string;
  readonly fields: readonly RecordField[];
  /** The type of what stands under other keys, where the schema gives them one. */
  readonly others?: Type;
}

/** One field: `required` and `nullable` are two separate things, which makes four states. */
export interface RecordField extends Documented {
  /** The key in the JSON. */
  readonly key: string;
  /** The type of a value that is not null. */
  readonly type: Type;
  readonly required: boolean;
  readonly nullable: boolean;
}

/** A set of strings; when it is open, other strings are values too. */
export interface ChoiceType extends Documented {
  readonly name: string;
  readonly values: readonly string[];
  readonly open: boolean;
}

/** What tells an arm of a union: its JSON type and, for one of several records, a tag or keys of its own. */
export type ArmTest =
  | { readonly kind: 'json' }
  | { readonly kind: 'tag'; readonly key: string; readonly values: readonly string[] }
  | { readonly kind: 'key'; readonly key: string };

export interface UnionArm {
  readonly type: Type;
  readonly test: ArmTest;
}

/** Types of which a value has one. At most one arm of each JSON type, or several records told apart by their tests. */
export interface UnionType extends Documented {
  readonly name: string;
  readonly arms: readonly UnionArm[];
}

/** A payload: what it is called, and its type. */
export interface RootType extends Documented {
  readonly name: string;
  readonly type: Type;
}

/** What is generated from schemas, free of any language. Names are unique in the model, in the schema's spelling. */
export interface TypeModel extends Documented {
  /** What the payload is called; the first where there are several. */
  readonly name: string;
  readonly root: Type;
  /** Every payload that the types are of. */
  readonly roots: readonly [RootType, ...RootType[]];
  readonly records: readonly RecordType[];
  readonly choices: readonly ChoiceType[];
  readonly unions: readonly UnionType[];
}

/** The JSON type by which a union tells an arm; the type itself must be neither nullable nor anything nor a union. */
export function jsonTypeOf(type: Type): 'boolean' | 'string' | 'number' | 'list' | 'object' | undefined {
  switch (type.kind) {
    case 'boolean':
      return 'boolean';
    case 'string':
    case 'choice':
    case 'literal':
      return 'string';
    case 'integer':
    case 'number':
      return 'number';
    case 'list':
    case 'tuple':
      return 'list';
    case 'map':
    case 'record':
      return 'object';
    case 'anything':
    case 'null':
    case 'union':
    case 'nullable':
      return undefined;
  }
}

/** The type of a field's value, null included where it may be null. */
export function valueTypeOf({ type, nullable }: RecordField): Type {
  return nullable && type.kind !== 'null' ? { kind: 'nullable', of: type } : type;
}

/** Whether null is a value that a field may have. */
export function acceptsNull({ type, nullable }: RecordField): boolean {
  return nullable || type.kind === 'anything' || type.kind === 'null';
}

/** The unions of which a record is an alternative. */
export function unionsWith({ unions }: TypeModel, record: RecordType): UnionType[] {
  return unions.filter(({ arms }) =>
    arms.some(({ type }) => type.kind === 'record' && type.name === record.name),
  );
}

/** Whether a choice of a model has other words too. */
export function isOpenChoice({ choices }: TypeModel, name: string): boolean {
  return choices.find((choice) => choice.name === name)!.open;
}

/** The alternatives of a union of a model. */
export function armsOf({ unions }: TypeModel, name: string): readonly UnionArm[] {
  return unions.find((union) => union.name === name)!.arms;
}

/**
 * Whether some numbers may need more digits than doubles have, or than 64 bits hold.
 * @param integersToo set where the language has no integers without bounds
 */
export function needsDigits(model: TypeModel, integersToo: boolean): boolean {
  return [...typesIn(model)].some(
    (type) =>
      type.kind === 'anything' ||
      (type.kind === 'number' && type.exact) ||
      (integersToo && type.kind === 'integer' && type.width === 'unbounded'),
  );
}

/** Whether a value that JSON has already shown to be of an arm's JSON type is of the arm. */
export function meets(test: ArmTest, value: JsonValue): boolean {
  if (test.kind === 'json') return true;
  const found = value.kind === 'object' ? member(value, test.key) : undefined;
  if (test.kind === 'key') return found !== undefined;
  return found?.kind === 'string' && test.values.includes(found.value);
}

/** Every type that occurs anywhere in a model. */
export function* typesIn(model: TypeModel): Generator<Type> {
  for (const { type } of model.roots) yield* typesWithin(type);
  for (const { fields, others } of model.records) {
    for (const field of fields) yield* typesWithin(field.type);
    if (others !== undefined) yield* typesWithin(others);
  }
  for (const union of model.unions) for (const { type } of union.arms) yield* typesWithin(type);
}

/** A type with its parts changed, as far as it has no name of its own. */
export function mapParts(type: Type, change: (part: Type) => Type): Type {
  switch (type.kind) {
    case 'list':
      return { ...type, items: change(type.items) };
    case 'tuple':
      return { ...type, items: type.items.map(change) };
    case 'map':
      return { ...type, values: change(type.values) };
    case 'nullable':
      return { ...type, of: change(type.of) };
    default:
      return type;
  }
}

/**
 * A model with its types changed.
 * @param whole what becomes of payloads and alternatives, where it is otherwise
 */
export function mapTypes(
  model: TypeModel,
  change: (type: Type) => Type,
  whole: (type: Type) => Type = change,
): TypeModel {
  const [first, ...others] = model.roots.map((each) => ({ ...each, type: whole(each.type) }));
  return {
    ...model,
    root: whole(model.root),
    roots: [first!, ...others],
    records: model.records.map((record) => ({
      ...record,
      fields: record.fields.map((field) => ({ ...field, type: change(field.type) })),
      ...(record.others === undefined ? {} : { others: change(record.others) }),
    })),
    unions: model.unions.map((union) => ({
      ...union,
      arms: union.arms.map((arm) => ({ ...arm, type: whole(arm.type) })),
    })),
  };
}

/** A type and all that it is made of, as far as they have no name of their own. */
export function* typesWithin(type: Type): Generator<Type> {
  yield type;
  if (type.kind === 'list') yield* typesWithin(type.items);
  else if (type.kind === 'tuple') for (const item of type.items) yield* typesWithin(item);
  else if (type.kind === 'map') yield* typesWithin(type.values);
  else if (type.kind === 'nullable') yield* typesWithin(type.of);
}
