import type { RecordField } from '../../core/model/types.js';

/** The four states that a field can be declared in. */
export type Presence = 'required' | 'nullable' | 'optional' | 'both';

/**
 * Whether null is a state of a field beside its values. Where it is one of the values of the type itself, it is no state
 * of the field.
 */
export function hasNullState({ type, nullable }: RecordField): boolean {
  return nullable && type.kind !== 'null' && type.kind !== 'anything';
}

/** What a field is declared as: its key must be there, or its value may be null, or its key may be absent, or both. */
export function presenceOf(field: RecordField): Presence {
  if (field.required) return hasNullState(field) ? 'nullable' : 'required';
  return hasNullState(field) ? 'both' : 'optional';
}
