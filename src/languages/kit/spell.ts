import type { IntegerWidth } from '../../core/json/number.js';
import type { TextForm, Type } from '../../core/model/types.js';
import { listedIntegers } from './listed.js';

/** How a language spells types. @typeParam T what a spelling is: mostly a text */
export interface TypeSpelling<T = string> {
  anything(): T;
  null(): T;
  boolean(): T;
  string(form: TextForm | undefined): T;
  /** @param isUnstated set where the schema says no width */
  integer(width: IntegerWidth, isUnstated: boolean): T;
  /** The type of a few integers and no others; as any integer when not given. */
  listed?(values: readonly string[]): T;
  number(exact: boolean): T;
  /** The type of one word; as any text when not given. */
  literal?(value: string): T;
  /** @param of the type of the elements */
  list(items: T, of: Type): T;
  map(values: T): T;
  tuple(items: readonly T[]): T;
  /** A record, choice or union. */
  named(name: string, kind: 'record' | 'choice' | 'union'): T;
  /** A type that has null too; never asked of one that has it already. */
  nullable(of: T, type: Type): T;
  /** How types behind a list or a map are spelled, where it is otherwise. */
  readonly behind?: TypeSpelling<T>;
  /** How types in a tuple, and those that may be null, are spelled, where it is otherwise. */
  readonly inside?: TypeSpelling<T>;
}

/** A type as a language spells it. */
export function spell<T = string>(type: Type, by: TypeSpelling<T>): T {
  const { behind = by, inside = by } = by;
  switch (type.kind) {
    case 'anything':
      return by.anything();
    case 'null':
      return by.null();
    case 'boolean':
      return by.boolean();
    case 'string':
      return by.string(type.form);
    case 'literal':
      return by.literal === undefined ? by.string(undefined) : by.literal(type.value);
    case 'integer': {
      const values = listedIntegers(type);
      const listed = values === undefined ? undefined : by.listed?.(values);
      return listed ?? by.integer(type.width, type.isUnstated === true);
    }
    case 'number':
      return by.number(type.exact);
    case 'list':
      return by.list(spell(type.items, behind), type.items);
    case 'map':
      return by.map(spell(type.values, behind));
    case 'tuple':
      return by.tuple(type.items.map((item) => spell(item, inside)));
    case 'record':
    case 'choice':
    case 'union':
      return by.named(type.name, type.kind);
    case 'nullable': {
      const of = spell(type.of, inside);
      return type.of.kind === 'anything' || type.of.kind === 'null' ? of : by.nullable(of, type.of);
    }
  }
}
