import { SkevoError } from '../error.js';
import { datesRules } from '../model/dates.js';
import { formatMark, type Mark } from '../observe/mark.js';

/** What can be decided about a place, and the values that each takes; a text tells what may be written. */
export const decidable = {
  map: ['true', 'record', 'any'],
  name: 'the name of a type',
  same: 'a place of the same type',
  choice: ['open', 'closed', 'none'],
  union: 'the key that tells records apart, or none',
  width: ['int32', 'double-int', 'int64'],
  format: ['none'],
  text: ['true'],
  dates: datesRules,
  nullable: ['true'],
  optional: ['true'],
} as const satisfies Readonly<Record<string, readonly string[] | string>>;

export type Decidable = keyof typeof decidable;

/** One thing that a person decided about the places that a pattern stands for. */
export interface Steer {
  /** A place in which `**` stands for any number of steps and `*` for any one. */
  readonly pattern: string;
  readonly what: Decidable;
  readonly value: string;
  /** Where it was said, for people: an option, or a line of a file. */
  readonly source: string;
}

/** What was decided about one place. */
export type Said = ReadonlyMap<Decidable, Steer>;

export const nothing: Said = new Map();

/** @throws SkevoError always: payloads are not as somebody decided */
export function contradicts({ source, pattern, what, value }: Steer, found: string, first?: Mark): never {
  const where = first === undefined ? '' : `, first at ${formatMark(first)}`;
  throw new SkevoError(
    `${source}: ${pattern} cannot have ${what} ${value}: ${found}${where}`,
    'Take the decision back, or leave out the payloads that are wrong.',
  );
}
