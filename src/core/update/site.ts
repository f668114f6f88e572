import type { IntegerWidth } from '../json/number.js';
import type { PlaceStep } from '../json/pointer.js';
import type { Mark } from '../observe/mark.js';
import { Place } from '../observe/observation.js';

/** Values that a schema did not foresee, observed so that a schema of their own can be inferred. */
export class Strangers {
  readonly place = new Place();

  /** @param steps how the payloads lead to them */
  constructor(
    readonly steps: readonly PlaceStep[],
    readonly first: Mark,
  ) {}
}

/** What payloads contradict at one schema of a file, each with the first value that does. */
export class Site {
  /** Null where the type does not have it. */
  nulls: Mark | undefined = undefined;
  /** An integer that the promised width does not hold. */
  width: { readonly needed: IntegerWidth; readonly first: Mark } | undefined = undefined;
  /** A number with a fraction or an exponent where integers were promised. */
  decimal: Mark | undefined = undefined;
  /** A number that a double does not carry. */
  exact: Mark | undefined = undefined;
  /** Words that a choice does not have. */
  readonly words = new Map<string, Mark>();
  /** A date, a UUID or bytes that the types of languages do not carry. */
  text: Mark | undefined = undefined;
  /** Keywords that a value does not meet. */
  readonly keywords = new Map<string, Mark>();
  /** Keys that were absent though required. */
  readonly absent = new Map<string, Mark>();
  /** Keys that the schema does not know. */
  readonly fields = new Map<string, Strangers>();
  /** A list that is no tuple as promised, with the elements beyond it. */
  tuple: Strangers | undefined = undefined;
  /** Values of other types, and what is inside lists and objects of which the schema says nothing. */
  others: Strangers | undefined = undefined;
  /** Objects of a tagged union whose tag it does not have, by that tag. */
  readonly arms = new Map<string, Strangers>();
  tag: string | undefined = undefined;

  /** @param steps how the payloads lead here, by the first that did */
  constructor(readonly steps: readonly PlaceStep[]) {}
}
