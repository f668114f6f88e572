/** An object, or all that stand at one place, as far as its keys go. */
export interface Keyed<Key> {
  /** Whether it has a key itself. */
  has(key: string): boolean;
  /** What stands under each key, with the keys of that. */
  readonly below: Iterable<readonly [key: Key, inner: Iterable<string>]>;
}

/** How often a key recurs: under which other keys, and in how many objects. */
export interface Recurrence<Key> {
  readonly keys: Set<Key>;
  parents: number;
}

/**
 * Keys that objects share with objects in them, under enough different other keys, those of most objects first.
 * @param isEnough whether a key recurs often enough to mark them
 * @param most different keys that are remembered of each
 */
export function recurringKeys<Key>(
  objects: Iterable<Keyed<Key>>,
  isEnough: (recurrence: Recurrence<Key>) => boolean,
  most = Infinity,
): string[] {
  const found = new Map<string, Recurrence<Key>>();
  for (const object of objects) {
    const own = new Set<string>();
    for (const [key, inner] of object.below)
      for (const each of inner) {
        if (each === key || !object.has(each)) continue;
        own.add(each);
        const known = found.get(each) ?? { keys: new Set(), parents: 0 };
        if (known.keys.size < most) known.keys.add(key);
        found.set(each, known);
      }
    for (const key of own) found.get(key)!.parents++;
  }
  return [...found]
    .filter(([, recurrence]) => isEnough(recurrence))
    .sort(([a, { parents: ours }], [b, { parents: theirs }]) => theirs - ours || (a < b ? -1 : 1))
    .map(([key]) => key);
}
