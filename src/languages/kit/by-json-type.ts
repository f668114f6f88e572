import { jsonTypeOf, type Type } from '../../core/model/types.js';

type JsonType = NonNullable<ReturnType<typeof jsonTypeOf>>;

/** What a table says of the JSON type of a union's alternative. */
export function byJsonType<T>(type: Type, table: Readonly<Record<JsonType, T>>): T {
  return table[jsonTypeOf(type) ?? 'object'];
}
