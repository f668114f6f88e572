import type { IntegerWidth } from '../json/number.js';
import type { Mark } from '../observe/mark.js';
import type { Place } from '../observe/observation.js';
import type { Said } from './said.js';
import type { DatesRule } from '../model/dates.js';
import type { TextFormat } from '../observe/text-format.js';

/** How repeated words become choices: open or closed by the evidence, always one of them, or not at all. */
export type ChoicePolicy = 'auto' | 'open' | 'closed' | 'none';

/** What a rule looks at: one place, or several that share a type, merged. */
export interface Seen {
  readonly facts: Place;
  /** Values seen, null among them. */
  readonly total: number;
  /** The words of the key whose value it is; of the list or map around it for an element. */
  readonly key?: readonly string[];
  /** Whether its objects were found to be maps, and its lists tuples. */
  readonly isMap: boolean;
  readonly isTuple: boolean;
  /** What a person decided about this place. */
  readonly said: Said;
  /** What the user wants choices to be. */
  readonly choices: ChoicePolicy;
  /** Distinct records around it, by what tells them apart; undefined when nothing does, or there are very many. */
  readonly records?: number;
  /** For the value of a key: how often the objects around it had the key. */
  readonly presence?: { readonly present: number; readonly objects: number; readonly firstAbsent?: Mark };
}

/** What the rules together make of a place. */
export interface Shape {
  readonly required?: boolean;
  readonly boolean?: boolean;
  readonly string?: boolean;
  readonly choice?: { readonly values: readonly string[]; readonly closed: boolean };
  readonly format?: Exclude<TextFormat, 'number'>;
  /** Whether what languages have types for is to be of them; by default where every text comes back from them. */
  readonly dates?: DatesRule;
  readonly integer?: IntegerWidth;
  /** `exact` when some value has more digits than a double carries. */
  readonly number?: 'double' | 'exact';
  /** `untyped` when no list had an element. */
  readonly list?: 'typed' | 'untyped' | 'tuple';
  /** `open` when no object had a key. */
  readonly object?: 'record' | 'map' | 'open';
}

/** One choice made, with its reason. */
export interface Decided {
  readonly shape: Shape;
  /** In a few words, such as `optional`. Empty for what goes without saying. */
  readonly decision: string;
  readonly because: string;
  readonly first?: Mark;
  /** As in `Decision`. */
  readonly doubt?: number;
  readonly otherwise?: string;
}

/** One rule, one file: a question about a place and its answer, or undefined when it has none. */
export interface Rule {
  readonly name: string;
  decide(seen: Seen): Decided | undefined;
}

/** `3 of 12`, `all 12`, or `the only one`. */
export function share(count: number, of: number): string {
  if (count < of) return `${count} of ${of}`;
  return of === 1 ? 'the only one' : `all ${of}`;
}
