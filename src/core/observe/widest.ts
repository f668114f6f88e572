import type { Field, Place } from './observation.js';
import { recurringKeys, type Keyed, type Recurrence } from './recurring.js';

/** Objects with fewer keys than these stay as they are. */
const fewestKeys = 16;
/** The marker of a tree recurs below so many different keys, in so many objects. */
const fewestInTree = 8;
const fewestParents = 3;
/** So large a share of what stands under the keys looks alike. */
const mostly = 0.8;

/** An object whose keys seem to be data, and those of them that are not. */
export interface Widest {
  readonly place: Place;
  readonly kept: ReadonlySet<string>;
  /** How many places are below it. */
  readonly size: number;
}

export interface Found {
  readonly widest: readonly Widest[];
  /** The keys that mark the objects of trees wherever they are. */
  readonly markers: readonly string[];
}

/**
 * The places below one, itself among them, whose keys stand over values that look alike, none inside another, those with
 * most below them first: a key that most of the values have marks them, and stays a field where they have it as the object
 * around them does.
 * @param any whether the place with most keys will do where none look alike
 */
export function widestIn(root: Place, any: boolean): Found {
  const places = [...placesFrom(root)];
  const below = sizesOf(places);
  const markers = markersIn(places);
  const alike: Widest[] = [];
  let widest: Widest | undefined;
  // What is below a place that was found follows it.
  let passed = 0;
  places.forEach((place, i) => {
    const size = below[i]!;
    const keys = place.fields.size;
    if (place.values !== undefined || keys < 2) return;
    if (keys > (widest?.place.fields.size ?? 0)) widest = { place, kept: new Set(), size };
    if (i < passed) return;
    const kept = keptInTree(place, markers) ?? (keys < fewestKeys ? undefined : keptOf(place));
    if (kept === undefined) return;
    alike.push({ place, kept, size });
    passed = i + 1 + size;
  });
  if (alike.length === 0 && any && widest !== undefined) alike.push(widest);
  return { widest: alike.sort((a, b) => b.size - a.size), markers };
}

/** Of objects with a marker and other keys, so many are in trees. */
const nearlyAll = 0.95;

/** Keys that objects share with objects in them, under many different other keys. */
function markersIn(places: readonly Place[]): string[] {
  function* objects(): Generator<Keyed<string>> {
    for (const { fields } of places)
      yield {
        has: (key) => fields.has(key),
        below: [...fields].map(([key, field]) => [key, field.place.fields.keys()]),
      };
  }
  const isEnough = ({ keys, parents }: Recurrence<string>) =>
    keys.size >= fewestInTree && parents >= fewestParents;
  return recurringKeys(objects(), isEnough, fewestInTree).filter((key) => {
    // What has no objects may have them one day.
    const marked = places.filter(
      ({ fields }) =>
        fields.has(key) && [...fields.values()].some((field) => field.key !== key && field.place.objects > 0),
    );
    const trees = marked.filter((place) => keptInTree(place, [key]) !== undefined);
    return trees.length >= nearlyAll * marked.length;
  });
}

/** The marker of a tree that a place is in. */
function keptInTree({ fields }: Place, markers: readonly string[]): Set<string> | undefined {
  const marker = markers.find((key) => {
    if (!fields.has(key)) return false;
    let marked = 0;
    for (const field of fields.values()) if (field.key !== key && field.place.fields.has(key)) marked++;
    return marked >= mostly * (fields.size - 1);
  });
  return marker === undefined ? undefined : new Set([marker]);
}

/** For places in the order of `placesFrom` how many places are below each. */
function sizesOf(places: readonly Place[]): number[] {
  const sizes = new Map<Place, number>();
  // What is below a place comes after it.
  for (const place of places.toReversed()) {
    let size = 0;
    for (const each of partsOf(place)) size += sizes.get(each)! + 1;
    sizes.set(place, size);
  }
  return places.map((place) => sizes.get(place)!);
}

/** How many keys there are below a place. */
export function placesBelow(root: Place): number {
  let count = 0;
  for (const { fields } of placesFrom(root)) count += fields.size;
  return count;
}

function* placesFrom(root: Place): Generator<Place> {
  const waiting = [root];
  for (let place = waiting.pop(); place !== undefined; place = waiting.pop()) {
    yield place;
    for (const part of partsOf(place)) waiting.push(part);
  }
}

function* partsOf({ fields, values, items, positions }: Place): Generator<Place> {
  for (const field of fields.values()) yield field.place;
  if (values !== undefined) yield values;
  if (items !== undefined) yield items;
  yield* positions ?? [];
}

/** The keys that are no data where the others are; undefined when what stands under them does not look alike. */
function keptOf(place: Place): Set<string> | undefined {
  const fields = [...place.fields.values()];
  const counts = new Map<string, number>();
  const objects = fields.filter((field) => field.place.objects > 0);
  for (const { place: below } of objects)
    for (const key of below.fields.keys()) counts.set(key, (counts.get(key) ?? 0) + 1);
  const markers = [...counts].filter(([, count]) => count >= mostly * objects.length).map(([key]) => key);
  const kept = new Set(markers.filter((key) => place.fields.has(key)));
  const others = fields.filter(({ key }) => !kept.has(key));
  const isMarked = ({ place: below }: Field) => markers.some((key) => below.fields.has(key));
  if (others.filter(isMarked).length >= mostly * others.length) return kept;
  const kinds = new Set(others.map(({ place: below }) => kindOf(below)));
  return kinds.size === 1 && !kinds.has('object') && !kinds.has('mixed') ? new Set() : undefined;
}

function kindOf({ strings, integers, decimals, trues, falses, lists, objects }: Place): string {
  const counts = {
    text: strings,
    number: integers + decimals,
    boolean: trues + falses,
    list: lists,
    object: objects,
  };
  const seen = Object.entries(counts).filter(([, count]) => count > 0);
  return seen.length === 1 ? seen[0]![0] : 'mixed';
}
