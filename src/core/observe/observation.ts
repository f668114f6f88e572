import { widerOf, type IntegerWidth } from '../json/number.js';
import { compareMarks, earlier, type Mark } from './mark.js';

/** Where a kind of value was seen first, with that value as JSON text, cut to `exampleLength` characters. */
export interface Sighting extends Mark {
  readonly example: string;
}

export const exampleLength = 60;

/**
 * Everything counted at one place. All counts are of values, so that
 * `nulls + trues + falses + integers + decimals + strings + lists + objects` is the number of values seen.
 */
export class Place {
  nulls = 0;
  firstNull: Mark | undefined = undefined;
  trues = 0;
  falses = 0;
  firstBoolean: Sighting | undefined = undefined;
  /** Numbers written without fraction or exponent. */
  integers = 0;
  width: IntegerWidth = 'int32';
  firstInteger: Sighting | undefined = undefined;
  /** The first integer that needed the present width. */
  firstWide: Sighting | undefined = undefined;
  /** Numbers written with a fraction or an exponent. */
  decimals = 0;
  firstDecimal: Sighting | undefined = undefined;
  /** Decimals that a double does not carry. */
  exact = 0;
  firstExact: Sighting | undefined = undefined;
  strings = 0;
  firstString: Sighting | undefined = undefined;
  lists = 0;
  emptyLists = 0;
  firstList: Mark | undefined = undefined;
  items: Place | undefined = undefined;
  objects = 0;
  emptyObjects = 0;
  firstObject: Mark | undefined = undefined;
  readonly fields = new Map<string, Field>();
  /** Fields that no object has lacked so far. For the scanner. */
  steadyFields = 0;
  /** The field that began the last object. For the scanner. */
  opening: Field | undefined = undefined;
}

/** One key of the objects at a place. */
export class Field {
  /** Objects that had the key. */
  present = 0;
  /** The first object that lacked the key. */
  firstAbsent: Mark | undefined = undefined;
  readonly place = new Place();
  /** Serial number of the last object that had the key. For the scanner. */
  lastObject = -1;
  /** The field that followed last time. For the scanner. */
  follower: Field | undefined = undefined;

  /**
   * @param first where the key was seen first
   * @param literal the key's JSON literal with its quotes, as UTF-8
   */
  constructor(
    readonly key: string,
    public first: Mark,
    readonly literal: Uint8Array,
  ) {}
}

/** What was seen in payloads, place by place. */
export class Observation {
  payloads = 0;
  readonly root = new Place();
}

/** How many values were seen at a place. */
export function totalAt(place: Place): number {
  return (
    place.nulls +
    place.trues +
    place.falses +
    place.integers +
    place.decimals +
    place.strings +
    place.lists +
    place.objects
  );
}

/** The fields of a place in the order of the first payload that had them. */
export function fieldsInOrder(place: Place): Field[] {
  return [...place.fields.values()].sort((a, b) => compareMarks(a.first, b.first));
}

/**
 * Adds what `other` saw to `target`. Associative and commutative: counts add up, and every first place is the
 * earliest by file name, line and column.
 */
export function mergeObservation(target: Observation, other: Observation): void {
  target.payloads += other.payloads;
  mergePlace(target.root, other.root);
}

export function mergePlace(target: Place, other: Place): void {
  for (const [key, theirs] of other.fields) {
    const ours = target.fields.get(key);
    if (ours === undefined) {
      const copy = new Field(key, theirs.first, theirs.literal);
      copy.present = theirs.present;
      copy.firstAbsent = earlier(theirs.firstAbsent, target.firstObject);
      mergePlace(copy.place, theirs.place);
      target.fields.set(key, copy);
    } else {
      ours.present += theirs.present;
      ours.first = earlier(ours.first, theirs.first)!;
      ours.firstAbsent = earlier(ours.firstAbsent, theirs.firstAbsent);
      mergePlace(ours.place, theirs.place);
    }
  }
  for (const [key, ours] of target.fields) {
    if (!other.fields.has(key)) ours.firstAbsent = earlier(ours.firstAbsent, other.firstObject);
  }
  if (other.items !== undefined) mergePlace((target.items ??= new Place()), other.items);
  mergeFacts(target, other);
  target.steadyFields = 0;
  for (const field of target.fields.values()) if (field.firstAbsent === undefined) target.steadyFields++;
}

/** Adds the counts and first places of one place to another, leaving fields and items alone. */
export function mergeFacts(target: Place, other: Place): void {
  if (other.integers > 0) {
    const width = target.integers === 0 ? other.width : widerOf(target.width, other.width);
    target.firstWide = earlier(
      target.integers > 0 && target.width === width ? target.firstWide : undefined,
      other.width === width ? other.firstWide : undefined,
    );
    target.width = width;
  }
  target.nulls += other.nulls;
  target.trues += other.trues;
  target.falses += other.falses;
  target.integers += other.integers;
  target.decimals += other.decimals;
  target.exact += other.exact;
  target.strings += other.strings;
  target.lists += other.lists;
  target.emptyLists += other.emptyLists;
  target.objects += other.objects;
  target.emptyObjects += other.emptyObjects;
  target.firstNull = earlier(target.firstNull, other.firstNull);
  target.firstBoolean = earlier(target.firstBoolean, other.firstBoolean);
  target.firstInteger = earlier(target.firstInteger, other.firstInteger);
  target.firstDecimal = earlier(target.firstDecimal, other.firstDecimal);
  target.firstExact = earlier(target.firstExact, other.firstExact);
  target.firstString = earlier(target.firstString, other.firstString);
  target.firstList = earlier(target.firstList, other.firstList);
  target.firstObject = earlier(target.firstObject, other.firstObject);
}
