import { nodesFrom, takeObjects, unify, wouldHoldItself, type Node } from './graph.js';
import type { Decision } from './infer.js';
import { nameCandidate } from './naming.js';
import { saidOf } from './steering.js';
import { kindsAt } from './structure/structure-rule.js';

/** Records called the same, or one inside the other, share a type from this likeness on; others from a higher one. */
const enoughWithName = 0.5;
const enough = 0.7;
/** Records that are called differently must have at least so many keys in common. */
const fewestCommon = 3;
/** A key that so many records have says nothing about what they are. */
const tooCommon = 200;

/** So many records of the very same keys are one type, however little the keys say. */
const fewestTwins = 3;
/** Two of the very same keys are one type when so many of the keys say something. */
const fewestTelling = 2;
/** Keys that records of all kinds have. */
const untelling = new Set(
  'id name type kind title label text value key url href uri code description count total number no date time at'.split(
    ' ',
  ),
);

/** What is compared: the record as it was observed, before anything was made one with it. */
interface Profile {
  readonly node: Node;
  readonly kinds: ReadonlyMap<string, string>;
  readonly name: string;
  /** Keys and kinds as one text. */
  readonly signature: string;
}

function profileOf(node: Node): Profile {
  const kinds = new Map([...node.edges.values()].map((edge) => [edge.key, kindsAt(edge.node.self())]));
  const signature = JSON.stringify([...kinds].sort(([a], [b]) => (a < b ? -1 : 1)));
  return { node, kinds, name: nameCandidate(node).join(' '), signature };
}

/**
 * Records that are one type. Two records are as like as the weight of the keys they have in common, with values of
 * the same kinds, is of all their keys; a key weighs the less the more records have it (inverse document frequency,
 * Sparck Jones 1972), so that an `id` and a `name` say little. Every record is compared with the first of each type
 * as that was observed, never with what a type has grown to, so that likeness does not pass from one to the next.
 * A record inside another is of its type only when the key that leads to it recurs in it. Three records of the very
 * same keys are one type, however little the keys say.
 * @param apart a node that is no type of its own
 */
export function shareRecords(root: Node, record: (decision: Decision) => void, apart?: Node): void {
  const nodes = nodesFrom(root)
    .filter((node) => node !== apart && mayShare(node))
    .sort((a, b) => a.steps.length - b.steps.length || (a.pointer < b.pointer ? -1 : 1));
  const profiles = nodes.map(profileOf);
  const records = new Map<string, number>();
  const twins = new Map<string, number>();
  for (const { kinds, signature } of profiles) {
    for (const key of kinds.keys()) records.set(key, (records.get(key) ?? 0) + 1);
    twins.set(signature, (twins.get(signature) ?? 0) + 1);
  }
  const weight = (key: string) => Math.log(1 + profiles.length / records.get(key)!);
  const areOne = (a: Profile, b: Profile, likeness: number, common: readonly string[]): boolean => {
    const [one, other] = [saidOf(a.node).get('name'), saidOf(b.node).get('name')];
    if (one !== undefined && other !== undefined && one.value !== other.value) return false;
    const key = keyInside(a.node, b.node) ?? keyInside(b.node, a.node);
    if (key !== undefined && !(a.node.edges.has(key) && b.node.edges.has(key))) return false;
    if (a.signature === b.signature) {
      const telling = common.filter((each) => !untelling.has(each.toLowerCase())).length;
      if (twins.get(a.signature)! >= fewestTwins || telling >= fewestTelling) return true;
    }
    if (key !== undefined || a.name === b.name) return likeness >= enoughWithName;
    return likeness >= enough && common.length >= fewestCommon;
  };

  const firsts = new Map<string, Profile[]>();
  const firstTwins = new Map<string, Profile>();
  for (const profile of profiles) {
    const twin = firstTwins.get(profile.signature);
    const candidates = new Set<Profile>(twin === undefined ? [] : [twin]);
    for (const key of profile.kinds.keys()) {
      const others = firsts.get(key) ?? [];
      if (others.length <= tooCommon) others.forEach((other) => candidates.add(other));
    }
    const alike: { profile: Profile; likeness: number; common: string[] }[] = [];
    for (const other of candidates) {
      if (other.node.self() === profile.node.self()) continue;
      const { likeness, common } = compare(profile, other, weight);
      if (areOne(profile, other, likeness, common)) alike.push({ profile: other, likeness, common });
    }
    const best = alike
      .sort((a, b) => b.likeness - a.likeness)
      .find((each) => !wouldHoldItself(each.profile.node, profile.node));
    if (best === undefined) {
      if (twin === undefined) firstTwins.set(profile.signature, profile);
      for (const key of profile.kinds.keys()) {
        const others = firsts.get(key);
        if (others === undefined) firsts.set(key, [profile]);
        else others.push(profile);
      }
      continue;
    }
    record({
      place: profile.node.pointer,
      rule: 'sharing',
      decision: `same type as ${best.profile.node.pattern || 'the payload'}`,
      because: `${best.common.length === profile.kinds.size && best.common.length === best.profile.kinds.size ? 'the same keys' : `likeness ${best.likeness.toFixed(2)}`}: ${best.common
        .slice(0, 6)
        .map((key) => JSON.stringify(key))
        .join(', ')}${best.common.length > 6 ? ' and more' : ''}`,
      first: profile.node.facts.firstObject,
      doubt: Math.min(1, 1 - best.likeness + 0.5 / (best.common.length + 1)),
      otherwise: 'name:...',
    });
    unify(best.profile.node, profile.node);
  }
}

/**
 * Lists where some payloads have one of what is in them: the single one is of the type of the elements when it is
 * like them. What is known of it moves there, so that the place itself holds a list or that type.
 */
export function joinSingles(root: Node, record: (decision: Decision) => void): void {
  for (const node of nodesFrom(root)) {
    const items = node.items?.self();
    if (items === undefined || node.edges.size === 0 || !mayShare(items)) continue;
    const { likeness } = compare(profileOf(node), profileOf(items), () => 1);
    if (likeness < enoughWithName) continue;
    record({
      place: node.pointer,
      rule: 'mixed',
      decision: 'one or many',
      because: `a single element in ${node.facts.objects} of ${node.total}, like those of the lists`,
      first: node.facts.firstObject,
      doubt: Math.min(1, 1 - likeness + 0.5 / node.facts.objects),
    });
    unify(items, takeObjects(node));
    node.single = items.self();
  }
}

function compare(
  a: Profile,
  b: Profile,
  weight: (key: string) => number,
): { likeness: number; common: string[] } {
  let shared = 0;
  let all = 0;
  const common: string[] = [];
  for (const [key, kinds] of a.kinds) {
    all += weight(key);
    const theirs = b.kinds.get(key);
    if (theirs === undefined || (kinds !== theirs && kinds !== '' && theirs !== '')) continue;
    shared += weight(key);
    common.push(key);
  }
  for (const key of b.kinds.keys()) if (!a.kinds.has(key)) all += weight(key);
  return { likeness: all === 0 ? 0 : shared / all, common };
}

/** The key of the outer record through which the inner one is inside it; undefined when it is not. */
function keyInside(outer: Node, inner: Node): string | undefined {
  for (let up: Node = inner; up.parent !== undefined; up = up.parent) {
    if (up.parent.self() !== outer.self()) continue;
    const step = up.steps.at(-1);
    return step === undefined || step === 'every' ? undefined : step.key;
  }
  return undefined;
}

/**
 * Whether a place holds records and no lists. A list among them could come to hold itself, which is a type without
 * a name.
 */
function mayShare(node: Node): boolean {
  return node.edges.size > 0 && node.values === undefined && node.facts.lists === 0;
}
