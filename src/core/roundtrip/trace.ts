import { formatPlace, type PlaceStep } from '../json/pointer.js';
import type { JsonValue } from '../json/value.js';
import {
  jsonTypeOf,
  meets,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionArm,
} from '../model/types.js';

/** A model with its types at hand by name. */
export class ModelIndex {
  private readonly records: ReadonlyMap<string, RecordType>;
  private readonly unions: ReadonlyMap<string, readonly UnionArm[]>;

  constructor(readonly model: TypeModel) {
    this.records = new Map(model.records.map((record) => [record.name, record]));
    this.unions = new Map(model.unions.map(({ name, arms }) => [name, arms]));
  }

  record(name: string): RecordType {
    return this.records.get(name)!;
  }

  /** The type that a value of a declared type is decoded as: null and unions resolved. Undefined when none fits. */
  typeOf(type: Type, value: JsonValue): Type | undefined {
    if (type.kind === 'nullable')
      return value.kind === 'null' ? { kind: 'null' } : this.typeOf(type.of, value);
    if (type.kind === 'union')
      return this.unions
        .get(type.name)!
        .find((arm) => jsonTypeOf(arm.type) === value.kind && meets(arm.test, value))?.type;
    return type;
  }
}

/** Where a place of a payload ends up in generated types. */
export interface Traced {
  /** The place with a `*` for every element and map key. */
  readonly place: string;
  /** The innermost record on the way and its field, by their names in the model. */
  readonly record?: string;
  readonly key?: string;
}

/** Follows reference tokens through a payload and its types. Where the types end, it goes on with the payload alone. */
export function trace(
  index: ModelIndex | undefined,
  root: JsonValue,
  tokens: readonly (string | number)[],
): Traced {
  let type: Type | undefined = index?.model.root;
  let value: JsonValue | undefined = root;
  let record: string | undefined;
  let key: string | undefined;
  const steps: PlaceStep[] = [];
  for (const token of tokens) {
    const actual: Type | undefined =
      type === undefined || value === undefined ? undefined : index!.typeOf(type, value);
    if (typeof token === 'number') {
      steps.push('every');
      type =
        actual?.kind === 'list' ? actual.items : actual?.kind === 'tuple' ? actual.items[token] : undefined;
      value = value?.kind === 'list' ? value.items[token] : undefined;
      continue;
    }
    if (actual?.kind === 'map') {
      steps.push('every');
      type = actual.values;
    } else {
      steps.push({ key: token });
      const field =
        actual?.kind === 'record'
          ? index!.record(actual.name).fields.find((each) => each.key === token)
          : undefined;
      if (actual?.kind === 'record') {
        record = actual.name;
        key = field?.key;
      }
      const others = actual?.kind === 'record' ? index!.record(actual.name).others : undefined;
      type =
        field === undefined ? others : field.nullable ? { kind: 'nullable', of: field.type } : field.type;
    }
    value = value?.kind === 'object' ? value.members.find((each) => each.key === token)?.value : undefined;
  }
  return { place: formatPlace(steps), record, key };
}
