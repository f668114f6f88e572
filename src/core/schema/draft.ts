import type { Source } from '../json/source.js';
import type { JsonValue } from '../json/value.js';

/** The drafts of JSON Schema; OpenAPI 3.0 has a dialect of its own. */
export type Draft = '4' | '6' | '7' | '2019-09' | '2020-12' | 'openapi-3.0';

/** A schema as payloads are validated against it. */
export interface Validation {
  readonly source: Source;
  /** What stands there, where it refers to other documents: with references that say where those are. */
  readonly root?: JsonValue;
  /** Where in the source the schema stands, as a JSON Pointer. */
  readonly pointer?: string;
  /** What it is written in, where that is known otherwise than by its `$schema`. */
  readonly draft?: Draft;
  /** The documents that it refers to, by their URIs. */
  readonly others?: readonly (readonly [uri: string, root: JsonValue])[];
  /** The URI that references in it start from. */
  readonly location?: string;
}

const drafts: readonly (readonly [RegExp, Draft])[] = [
  [/draft-0?4/, '4'],
  [/draft-0?6/, '6'],
  [/draft-0?7/, '7'],
  [/2019-09/, '2019-09'],
];

/** The draft that a value of `$schema` names; the newest when it names none. */
export function draftOf(said: unknown): Draft {
  const text = typeof said === 'string' ? said : '';
  return drafts.find(([pattern]) => pattern.test(text))?.[1] ?? '2020-12';
}
