import type { JsonValue } from '../json/value.js';

/** Every way in which a payload may fail to come back. */
export const findingKinds = [
  'lost',
  'added',
  'renamed',
  'emptied',
  'filled',
  'retyped',
  'altered',
  'shuffled',
  'refused',
  'crashed',
  'respelled',
] as const;

export type FindingKind = (typeof findingKinds)[number];

/** A loss fails a check; a note (the same value in another spelling) fails it only when asked to be strict. */
export type Severity = 'loss' | 'note';

export function severityOf(kind: FindingKind, strict: boolean): Severity {
  return kind === 'respelled' && !strict ? 'note' : 'loss';
}

/** Something that did not come back as it went in. */
export interface Finding {
  readonly kind: FindingKind;
  readonly severity: Severity;
  /** JSON Pointer (RFC 6901) in the payload. */
  readonly pointer: string;
  /** The same with a `*` for every element and map key: what findings are grouped by. */
  readonly place: string;
  /** The file of the payload, and where in it. */
  readonly payload: string;
  readonly line: number;
  readonly column: number;
  /** Missing when there was no value. */
  readonly before?: JsonValue;
  readonly after?: JsonValue;
  /** For a renamed field: the key under which it came back. */
  readonly otherKey?: string;
  /** The record of the model and the key in it that the value belongs to. */
  readonly record?: string | undefined;
  readonly key?: string | undefined;
  /** The generated type and field, in the language's own names. */
  readonly type?: string;
  readonly field?: string;
  /** The way in that it came through, where the first one does not show it. */
  readonly way?: string;
  /** How many more there are like it, which are left out. */
  readonly like?: number;
  /** The most likely cause, in one line. */
  readonly cause: string;
}
