import type { Documented, Type } from '../../core/model/types.js';

/** How many characters the integers of a type may have, so that they are its type and no more than a line. */
const mostCharacters = 30;

/** The integers that a schema lists, where they are few enough, and small enough for any language, to be a type of their own. */
export function listedIntegers(type: Type): readonly string[] | undefined {
  if (type.kind !== 'integer' || type.listed === undefined) return undefined;
  if (!type.listed.every((digits) => Number.isSafeInteger(Number(digits)))) return undefined;
  return type.listed.join(', ').length <= mostCharacters ? type.listed : undefined;
}

/** A field without its type where that says which integers it has, so that its documentation does not say it again. */
export function saidByType<T extends Documented & { readonly type?: Type }>(field: T): T {
  if (field.type === undefined || listedIntegers(field.type) === undefined) return field;
  const { type: _, ...rest } = field;
  return rest as T;
}
