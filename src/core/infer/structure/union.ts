import { wordsOf } from '../../words.js';
import type { ChoicePolicy } from '../rule.js';
import { mostTokens } from '../../observe/token.js';
import { contradicts, type Steer } from '../said.js';
import { isName } from '../naming-keys.js';
import { areApart, noForm, objectForm, type Form } from '../../observe/form.js';
import { edgesInOrder, formsBesideTag, nodesBelow, type Node, type NodeForm } from '../graph.js';

/** One of several records at a place. */
export interface Arm {
  /** In the order of the place's fields. */
  readonly keys: readonly string[];
  readonly required: ReadonlySet<string>;
  /** Objects of this arm. */
  readonly count: number;
  /** For a tagged union: the values of the tag. */
  readonly values: readonly string[];
  /** What stands under keys whose values the tag decides too. */
  readonly within?: ReadonlyMap<string, Within>;
}

/** What the values of a key are in one arm. */
export interface Within {
  /** Their kinds, and those of elements of lists. */
  readonly form: Form;
  /** For objects that the tag tells apart: which of them. */
  readonly arm?: Arm;
}

export interface Arms {
  /** The key that tells the arms apart by its value; missing when the keys themselves do. */
  readonly tag?: string;
  readonly arms: readonly Arm[];
  readonly decision: string;
  readonly because: string;
  /** As in `Decision`. */
  readonly doubt?: number;
  /** The objects below that are told apart by the tag of these. */
  readonly below?: ReadonlyMap<Node, readonly Arm[]>;
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
  if (variants === undefined || facts.objects < 2) return undefined;
  const seen = seenAt(node);
  // Where words are to stay open, none decides which keys there are.
  const isOpen = choices === 'open' || choices === 'none';
  return (isOpen ? undefined : tagged(node, seen)) ?? (seen.length < 2 ? undefined : untagged(node, seen));
}

function seenAt(node: Node): Seen[] {
  return [...(node.variants ?? [])].map(([signature, { keys, count }]) => ({ keys, count, signature }));
}

/** The union by the key that somebody named. */
function asDecided(node: Node, decided: Steer): Arms {
  const seen = seenAt(node);
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
  const { arms, below } = armsOf(node, decided.value, groups, tellingKeys(node, decided.value, sorted));
  return {
    tag: decided.value,
    arms,
    below,
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

    // Every variant must come with some value: then the tag can decide the keys.
    const covered = new Set([...values.values()].flatMap((signatures) => [...signatures]));
    if (covered.size !== seen.length) continue;
    const sorted = [...values.keys()].sort();
    const telling = tellingKeys(node, key, sorted);
    if (seen.length < 2 && telling.length === 0) continue;
    const groups = groupValues(sorted, values, bySignature, telling);
    if (groups.length < 2) continue;
    const { arms, below } = armsOf(node, key, groups, telling);
    if (arms.reduce((sum, { count }) => sum + count, 0) !== node.facts.objects) continue;
    const gain = gainOf(node, groups, arms);
    if (gain <= 0 || (best !== undefined && gain <= best.gain)) continue;
    if (arms.some(({ count }) => count < fewestPerArm)) continue;
    const lacks = (arm: Arm, other: Arm) => [...arm.required].some((each) => !other.keys.includes(each));
    if (
      !arms.some((arm) => arms.some((other) => other !== arm && lacks(arm, other))) &&
      arms.every(({ within }) => within === undefined)
    )
      continue;
    const decided = [...new Set(arms.flatMap(({ within }) => [...(within?.keys() ?? [])]))];
    const what =
      decided.length === 0
        ? 'which keys there are'
        : `what ${decided.map((each) => JSON.stringify(each)).join(' and ')} hold${decided.length > 1 ? '' : 's'}`;
    best = {
      gain,
      arms: {
        tag: key,
        arms,
        below,
        decision: `a union told apart by ${JSON.stringify(key)}`,
        because: `its ${values.size} values decide ${what}, in all ${node.facts.objects}`,
        doubt: 1 / fewestIn(arms),
      },
    };
  }
  return best?.arms;
}

interface Group {
  readonly values: readonly string[];
  readonly variants: readonly Seen[];
}

/**
 * Values of a tag that come with nearly the same keys share an arm, unless what stands under some key tells them
 * apart.
 */
function groupValues(
  values: readonly string[],
  signatures: ReadonlyMap<string, ReadonlySet<string>>,
  bySignature: ReadonlyMap<string, Seen>,
  telling: readonly TellingKey[],
): Group[] {
  let groups: Group[] = [];
  for (const value of values) {
    const variants = [...signatures.get(value)!].map((signature) => bySignature.get(signature)!);
    const twins = groups.filter(
      (group) =>
        (group.variants.some((variant) => variants.includes(variant)) ||
          likeness(union(group.variants), union(variants)) >= nearIdentical) &&
        group.values.some((other) => !telling.some(({ tells }) => tells(value, other))),
    );
    groups = [
      ...groups.filter((group) => !twins.includes(group)),
      {
        values: [...twins.flatMap((twin) => twin.values), value],
        variants: [...new Set([...twins.flatMap((twin) => twin.variants), ...variants])],
      },
    ];
  }
  return groups;
}

/** A key whose values are of different forms beside different values of a tag. */
interface TellingKey {
  readonly key: string;
  /** What stood under the key beside each value of the tag. */
  readonly beside: ReadonlyMap<string, ReadonlySet<NodeForm>>;
  /** Whether what stands under the key beside one value of the tag never stands beside the other. */
  readonly tells: (a: string, b: string) => boolean;
}

/** The keys that a tag decides what stands under. */
function tellingKeys(node: Node, tag: string, values: readonly string[]): TellingKey[] {
  const found: TellingKey[] = [];
  for (const { key, node: below } of edgesInOrder(node)) {
    if ((node.forms.get(key)?.all.size ?? 0) < 2 || key === tag) continue;
    const beside = formsBesideTag(node, key, tag);
    const kinds = new Map(values.map((value) => [value, plainForm(beside.get(value) ?? [])]));
    const records = isToldApart(below) ? below : undefined;
    const tells = (a: string, b: string): boolean => {
      const [ours, theirs] = [kinds.get(a)!, kinds.get(b)!];
      if (ours === noForm || theirs === noForm) return false;
      if (areApart(ours, theirs)) return true;
      return (
        records !== undefined &&
        ours === objectForm &&
        theirs === objectForm &&
        areOtherRecords(variantsOf(records, beside.get(a)!), variantsOf(records, beside.get(b)!))
      );
    };
    if (values.some((a, i) => values.slice(i + 1).some((b) => tells(a, b))))
      found.push({ key, beside, tells });
  }
  return found;
}

/** Forms together, all objects alike. */
function plainForm(forms: Iterable<NodeForm>): Form {
  let all: Form = noForm;
  for (const form of forms) all |= typeof form === 'string' ? objectForm : form;
  return all;
}

/** Whether the objects at a place are of this place alone, and their keys fields. */
function isToldApart(used: Node): boolean {
  const node = used.self();
  return (
    node.members.length === 1 &&
    node.values === undefined &&
    node.single === undefined &&
    node.variants !== undefined &&
    node.edges.size > 0 &&
    nodesBelow(node).every((below) => below.self() !== node)
  );
}

function variantsOf(node: Node, forms: ReadonlySet<NodeForm>): Seen[] {
  return seenAt(node.self()).filter(({ signature }) => forms.has(signature));
}

/** Whether each of two groups of objects always has a key that the other never has. */
function areOtherRecords(ours: readonly Seen[], theirs: readonly Seen[]): boolean {
  const [all, others] = [union(ours), union(theirs)];
  const always = (key: string, some: readonly Seen[]) => some.every(({ keys }) => keys.includes(key));
  return (
    likeness(all, others) < nearIdentical &&
    [...all].some((key) => !others.has(key) && always(key, ours)) &&
    [...others].some((key) => !all.has(key) && always(key, theirs))
  );
}

/** The arms of groups of values of a tag, with what the tag decides besides the keys. */
function armsOf(
  node: Node,
  tag: string,
  groups: readonly Group[],
  telling: readonly TellingKey[],
): { arms: Arm[]; below: Map<Node, Arm[]> } {
  const counts = node.edges.get(tag)!.node.self().facts.tokens!.byText;
  const below = new Map<Node, Arm[]>();
  const within = groups.map(() => new Map<string, Within>());
  for (const { key, beside } of telling) {
    const used = node.edges.get(key)!.node;
    const forms = groups.map(
      ({ values }) => new Set(values.flatMap((value) => [...(beside.get(value) ?? [])])),
    );
    const records = isToldApart(used) ? recordsOfGroups(used.self(), groups, forms) : undefined;
    if (records !== undefined)
      below.set(used.self(), [...new Set(records.filter((arm) => arm !== undefined))]);
    const whole = plainForm(node.forms.get(key)!.all);
    forms.forEach((own, i) => {
      const form = plainForm(own);
      const arm = records?.[i];
      // Where nothing stood but null, anything of the key may.
      if (form !== noForm && (form !== whole || arm !== undefined))
        within[i]!.set(key, { form, ...(arm === undefined ? {} : { arm }) });
    });
  }
  const arms = groups.map(({ values, variants }, i) => ({
    ...armOf(node, variants, values),
    count: values.reduce((sum, value) => sum + (counts.get(value)?.count ?? 0), 0),
    ...(within[i]!.size === 0 ? {} : { within: within[i]! }),
  }));
  return { arms, below };
}

/**
 * The record of each group among the objects at a node; undefined when they are not told apart.
 * @param forms what stood there in each group
 */
function recordsOfGroups(
  node: Node,
  groups: readonly Group[],
  forms: readonly ReadonlySet<NodeForm>[],
): (Arm | undefined)[] | undefined {
  let records: { values: readonly string[]; variants: Seen[] }[] = [];
  groups.forEach(({ values }, i) => {
    const variants = variantsOf(node, forms[i]!);
    if (variants.length === 0) return;
    const twins = records.filter(
      (record) =>
        record.variants.some((variant) =>
          variants.some(({ signature }) => signature === variant.signature),
        ) || !areOtherRecords(record.variants, variants),
    );
    records = [
      ...records.filter((record) => !twins.includes(record)),
      {
        values: [...twins.flatMap((twin) => twin.values), ...values],
        variants: [...twins.flatMap((twin) => twin.variants), ...variants],
      },
    ];
  });
  if (records.length < 2) return undefined;
  const seen = seenAt(node);
  const arms = records.map(({ values, variants }) => {
    const own = new Set(variants.map(({ signature }) => signature));
    return armOf(
      node,
      seen.filter(({ signature }) => own.has(signature)),
      values,
    );
  });
  if (arms.reduce((sum, { count }) => sum + count, 0) !== node.facts.objects) return undefined;
  return groups.map(({ values }) => arms.find((arm) => arm.values.includes(values[0]!)));
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

/** The same for the groups of a tag, with what the tag tells of the values of other keys. */
function gainOf(node: Node, groups: readonly Group[], arms: readonly Arm[]): number {
  const total = node.facts.objects;
  const isShared = groups.some((group, i) =>
    groups.some((other, j) => i < j && group.variants.some((variant) => other.variants.includes(variant))),
  );
  const keys = isShared
    ? 0
    : savedBits(
        node,
        groups.map(({ variants }) => variants),
      );
  if (arms.every(({ within }) => within === undefined)) return keys;
  // What stands under such a key tells the group, and the group what stands there.
  const bits = arms.reduce((sum, { count }) => sum - count * Math.log2(count / total), 0);
  return Math.max(0, keys) + bits - 0.5 * Math.log2(total) * (groups.length - 1) - 3;
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
