import type { RecordField } from '../../core/model/types.js';

/** The four states that a field can be declared in. */
export type Presence = 'required' | 'nullable' | 'optional' | 'both';

/**
 * What a field is declared as: its key must be there, or its value may be null, or its key may be absent, or both of
 * these. Where null is one of the values of the type itself, it is no state of the field.
 */
export function presenceOf({ type, required, nullable }: RecordField): Presence {
  const hasNullState = nullable && type.kind !== 'null' && type.kind !== 'anything';
  if (required) return hasNullState ? 'nullable' : 'required';
  return hasNullState ? 'both' : 'optional';
}
