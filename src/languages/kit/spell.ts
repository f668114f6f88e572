import type { IntegerWidth } from '../../core/json/number.js';
import type { TextForm, Type } from '../../core/model/types.js';

/** How a language spells types. */
export interface TypeSpelling {
  readonly anything: string;
  readonly null: string;
  readonly boolean: string;
  string(form: TextForm | undefined): string;
  integer(width: IntegerWidth): string;
  number(exact: boolean): string;
  /** The type of one word. */
  literal(value: string): string;
  list(items: string): string;
  map(values: string): string;
  tuple(items: readonly string[]): string;
  /** A record, choice or union. */
  named(name: string, kind: 'record' | 'choice' | 'union'): string;
  /** A type that has null too; never asked of one that has it already. */
  nullable(of: string): string;
}

/** A type as a language spells it. */
export function spell(type: Type, by: TypeSpelling): string {
  switch (type.kind) {
    case 'anything':
      return by.anything;
    case 'null':
      return by.null;
    case 'boolean':
      return by.boolean;
    case 'string':
      return by.string(type.form);
    case 'literal':
      return by.literal(type.value);
    case 'integer':
      return by.integer(type.width);
    case 'number':
      return by.number(type.exact);
    case 'list':
      return by.list(spell(type.items, by));
    case 'map':
      return by.map(spell(type.values, by));
    case 'tuple':
      return by.tuple(type.items.map((item) => spell(item, by)));
    case 'record':
    case 'choice':
    case 'union':
      return by.named(type.name, type.kind);
    case 'nullable': {
      const of = spell(type.of, by);
      return type.of.kind === 'anything' || type.of.kind === 'null' ? of : by.nullable(of);
    }
  }
}
