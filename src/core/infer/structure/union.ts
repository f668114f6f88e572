import { wordsOf } from '../../words.js';
import type { ChoicePolicy } from '../rule.js';
import { mostTokens } from '../../observe/token.js';
import { contradicts, type Steer } from '../said.js';
import { isName } from '../naming-keys.js';
import { edgesInOrder, type Node } from '../graph.js';

/** One of several records at a place. */
export interface Arm {
  /** In the order of the place's fields. */
  readonly keys: readonly string[];
  readonly required: ReadonlySet<string>;
  /** Objects of this arm. */
  readonly count: number;
  /** For a tagged union: the values of the tag. */
  readonly values: readonly string[];
}

export interface Arms {
  /** The key that tells the arms apart by its value; missing when the keys themselves do. */
  readonly tag?: string;
  readonly arms: readonly Arm[];
  readonly decision: string;
  readonly because: string;
  /** As in `Decision`. */
  readonly doubt?: number;
}

interface Seen {
  readonly keys: readonly string[];
  readonly count: number;
  readonly signature: string;
}

const mostArms = 32;
/** A tag has so many objects a value on the mean; an arm of any union has so many. */
const fewestPerValue = 3;
const fewestPerArm = 2;
/** Arms with more than this share of their keys in common are one record with optional fields. */
const nearIdentical = 0.8;
/** Arms without a tag must have less than this share of their keys in common. */
const farApart = 0.25;

/**
 * Several records at one place. Told apart by a property whose value decides which keys there are, they are a
 * tagged union; told apart by keys that only one of them has, an untagged one. Near-identical ones are one record.
 *
 * A tag must be worth its price: the bits that knowing it saves in telling which keys are present (Shannon 1948)
 * against half a logarithm of the number of objects for each parameter it adds (Rissanen 1978).
 */
export function decideArms(node: Node, choices: ChoicePolicy, decided?: Steer): Arms | undefined {
  if (decided !== undefined) return decided.value === 'none' ? undefined : asDecided(node, decided);
  const { variants, facts } = node;
  if (variants === undefined || facts.objects < 2 || variants.size < 2) return undefined;
  const seen = [...variants].map(([signature, { keys, count }]) => ({ keys, count, signature }));
  // Where words are to stay open, none decides which keys there are.
  const isOpen = choices === 'open' || choices === 'none';
  return (isOpen ? undefined : tagged(node, seen)) ?? untagged(node, seen);
}

/** The union by the key that somebody named. */
function asDecided(node: Node, decided: Steer): Arms {
  const seen = [...(node.variants ?? [])].map(([signature, { keys, count }]) => ({ keys, count, signature }));
  const values = node.tags.get(decided.value);
  const edge = node.edges.get(decided.value);
  if (edge === undefined || edge.present !== node.facts.objects)
    contradicts(decided, `some objects lack ${decided.value}`, edge?.firstAbsent ?? node.facts.firstObject);
  const sorted = [...(values?.keys() ?? [])].sort();
  if (values === undefined || edge.node.self().facts.strings !== edge.present || sorted.length < 2)
    contradicts(decided, `${decided.value} is no text of two to ${mostTokens} words`, edge.first);
  const groups = sorted.map((value) => ({
    values: [value],
    variants: seen.filter(({ signature }) => values.get(value)!.has(signature)),
  }));
  const arms = groups.map(({ values: own, variants }) => armOf(node, variants, own));
  const told = arms.reduce((sum, { count }) => sum + count, 0);
  if (told !== node.facts.objects)
    contradicts(
      decided,
      `objects with equal keys have different values of ${decided.value}`,
      node.facts.firstObject,
    );
  return {
    tag: decided.value,
    arms,
    decision: `a union told apart by ${JSON.stringify(decided.value)}`,
    because: decided.source,
  };
}

function tagged(node: Node, seen: readonly Seen[]): Arms | undefined {
  let best: { arms: Arms; gain: number } | undefined;
  const bySignature = new Map(seen.map((variant) => [variant.signature, variant]));
  for (const [key, values] of [...node.tags].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const edge = node.edges.get(key);
    if (edge === undefined || edge.present !== node.facts.objects) continue;
    const { facts } = edge.node.self();
    if (facts.strings !== edge.present || values.size < 2 || values.size > mostArms) continue;
    if (isName(wordsOf(key).at(-1) ?? '') || node.facts.objects < fewestPerValue * values.size) continue;

    // Every variant must belong to one value: then the tag decides the keys.
    const owners = new Map<string, string[]>();
    for (const [value, signatures] of values) {
      for (const signature of signatures) owners.set(signature, [...(owners.get(signature) ?? []), value]);
    }
    if (owners.size !== seen.length) continue;
    const groups = groupValues([...values.keys()].sort(), owners, bySignature);
    if (groups.length < 2) continue;
    const gain = savedBits(
      node,
      groups.map(({ variants: own }) => own),
    );
    if (gain <= 0 || (best !== undefined && gain <= best.gain)) continue;
    const arms = groups.map(({ values: own, variants: its }) => armOf(node, its, own));
    if (arms.some(({ count }) => count < fewestPerArm)) continue;
    if (
      !arms.some((arm) =>
        arms.some((other) => other !== arm && [...arm.required].some((each) => !other.keys.includes(each))),
      )
    )
      continue;
    best = {
      gain,
      arms: {
        tag: key,
        arms,
        decision: `a union told apart by ${JSON.stringify(key)}`,
        because: `its ${values.size} values decide which keys there are, in all ${node.facts.objects}`,
        doubt: 1 / fewestIn(arms),
      },
    };
  }
  return best?.arms;
}

interface Group {
  readonly values: string[];
  readonly variants: Seen[];
}

/** Values of a tag that come with nearly the same keys share an arm. */
function groupValues(
  values: readonly string[],
  owners: ReadonlyMap<string, string[]>,
  bySignature: ReadonlyMap<string, Seen>,
): Group[] {
  const groups: Group[] = [];
  for (const value of values) {
    const variants = [...owners]
      .filter(([, own]) => own.includes(value))
      .map(([signature]) => bySignature.get(signature)!);
    const twins = groups.filter(
      (group) =>
        group.variants.some((variant) => variants.includes(variant)) ||
        likeness(union(group.variants), union(variants)) >= nearIdentical,
    );
    const merged: Group = {
      values: [...twins.flatMap((twin) => twin.values), value],
      variants: [...new Set([...twins.flatMap((twin) => twin.variants), ...variants])],
    };
    for (const twin of twins) groups.splice(groups.indexOf(twin), 1);
    groups.push(merged);
  }
  return groups;
}

function untagged(node: Node, seen: readonly Seen[]): Arms | undefined {
  let groups: { keys: Set<string>; variants: Seen[] }[] = [];
  for (const variant of [...seen].sort((a, b) => (a.signature < b.signature ? -1 : 1))) {
    if (variant.keys.length === 0) return undefined;
    const own = new Set(variant.keys);
    const twins = groups.filter((group) => likeness(group.keys, own) >= farApart);
    if (twins.length === 1) {
      for (const key of own) twins[0]!.keys.add(key);
      twins[0]!.variants.push(variant);
      continue;
    }
    groups = groups.filter((group) => !twins.includes(group));
    groups.push({
      keys: new Set([...twins.flatMap((twin) => [...twin.keys]), ...own]),
      variants: [...twins.flatMap((twin) => twin.variants), variant],
    });
    if (groups.length > mostArms) return undefined;
  }
  if (groups.length < 2) return undefined;
  const arms = groups.map((group) => armOf(node, group.variants, []));
  const apart = arms.every(
    (arm) =>
      arm.keys.length >= 2 &&
      [...arm.required].some((key) => arms.every((other) => other === arm || !other.keys.includes(key))),
  );
  const gain = savedBits(
    node,
    groups.map(({ variants }) => variants),
  );
  if (!apart || gain <= 0 || arms.some(({ count }) => count < fewestPerArm)) return undefined;
  return {
    arms,
    decision: 'a union told apart by its keys',
    because: `${arms.length} groups of objects with less than ${farApart * 100}% of their keys in common`,
    // Nothing but the keys tells them apart.
    doubt: Math.min(1, 0.25 + 1 / fewestIn(arms)),
  };
}

function fewestIn(arms: readonly Arm[]): number {
  return Math.min(...arms.map(({ count }) => count));
}

/** How many variants, and how many objects, have each key. */
function countKeys(variants: readonly Seen[]): Map<string, { variants: number; objects: number }> {
  const counts = new Map<string, { variants: number; objects: number }>();
  for (const { keys, count } of variants) {
    for (const key of keys) {
      const known = counts.get(key) ?? { variants: 0, objects: 0 };
      known.variants++;
      known.objects += count;
      counts.set(key, known);
    }
  }
  return counts;
}

function armOf(node: Node, variants: readonly Seen[], values: readonly string[]): Arm {
  const counts = countKeys(variants);
  const keys = edgesInOrder(node)
    .map(({ key }) => key)
    .filter((key) => counts.has(key));
  const required = new Set(keys.filter((key) => counts.get(key)!.variants === variants.length));
  return { keys, required, count: variants.reduce((sum, { count }) => sum + count, 0), values };
}

/** Bits saved by knowing the group of an object, less the bits that the grouping costs. */
function savedBits(node: Node, groups: readonly (readonly Seen[])[]): number {
  const total = node.facts.objects;
  const sizes = groups.map((group) => group.reduce((sum, { count }) => sum + count, 0));
  const counts = groups.map(countKeys);
  let saved = 0;
  let varying = 0;
  for (const edge of node.edges.values()) {
    const whole = total * entropy(edge.present / total);
    if (whole === 0) continue;
    let parts = 0;
    counts.forEach((group, i) => {
      parts += sizes[i]! * entropy((group.get(edge.key)?.objects ?? 0) / sizes[i]!);
    });
    saved += whole - parts;
    varying++;
  }
  // With few objects the measure is coarse: ask for a margin of three bits.
  return saved - 0.5 * Math.log2(total) * (groups.length - 1) * Math.max(1, varying / 2) - 3;
}

function entropy(p: number): number {
  return p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p);
}

function union(variants: readonly { readonly keys: readonly string[] }[]): Set<string> {
  return new Set(variants.flatMap(({ keys }) => keys));
}

/** The share of keys that two sets have in common (Jaccard 1901). */
function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let common = 0;
  for (const key of a) if (b.has(key)) common++;
  return common / (a.size + b.size - common || 1);
}
