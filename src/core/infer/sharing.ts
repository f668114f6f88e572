import { nodesFrom, takeObjects, unify, wouldHoldItself, type Node } from './graph.js';
import type { Decision } from './infer.js';
import { nameCandidate } from './naming.js';
import { kindsAt } from './structure/structure-rule.js';

/** Records called the same, or one inside the other, share a type from this likeness on; others from a higher one. */
const enoughWithName = 0.5;
const enough = 0.7;
/** Records that are called differently must have at least so many keys in common. */
const fewestCommon = 3;
/** A key that so many records have says nothing about what they are. */
const tooCommon = 200;

/** What is compared: the record as it was observed, before anything was made one with it. */
interface Profile {
  readonly node: Node;
  readonly kinds: ReadonlyMap<string, string>;
  readonly name: string;
}

/**
 * Records that are one type. Two records are as like as the weight of the keys they have in common, with values of
 * the same kinds, is of all their keys; a key weighs the less the more records have it (inverse document frequency,
 * Sparck Jones 1972), so that an `id` and a `name` say little. Every record is compared with the first of each type
 * as that was observed, never with what a type has grown to, so that likeness does not pass from one to the next.
 * @param apart a node that is no type of its own
 */
export function shareRecords(root: Node, record: (decision: Decision) => void, apart?: Node): void {
  const nodes = nodesFrom(root)
    .filter((node) => node !== apart && mayShare(node))
    .sort((a, b) => a.steps.length - b.steps.length || (a.pointer < b.pointer ? -1 : 1));
  const profiles = nodes.map((node): Profile => {
    const kinds = new Map([...node.edges.values()].map((edge) => [edge.key, kindsAt(edge.node.self())]));
    return { node, kinds, name: nameCandidate(node).join(' ') };
  });
  const records = new Map<string, number>();
  for (const { kinds } of profiles)
    for (const key of kinds.keys()) records.set(key, (records.get(key) ?? 0) + 1);
  const weight = (key: string) => Math.log(1 + profiles.length / records.get(key)!);

  const firsts = new Map<string, Profile[]>();
  for (const profile of profiles) {
    const candidates = new Set<Profile>();
    for (const key of profile.kinds.keys()) {
      const others = firsts.get(key) ?? [];
      if (others.length <= tooCommon) others.forEach((other) => candidates.add(other));
    }
    const alike: { profile: Profile; likeness: number; common: string[] }[] = [];
    for (const other of candidates) {
      if (other.node.self() === profile.node.self()) continue;
      const { likeness, common } = compare(profile, other, weight);
      const related = profile.name === other.name || contains(other.node, profile.node);
      if (related ? likeness < enoughWithName : likeness < enough || common.length < fewestCommon) continue;
      alike.push({ profile: other, likeness, common });
    }
    const best = alike
      .sort((a, b) => b.likeness - a.likeness)
      .find((each) => !wouldHoldItself(each.profile.node, profile.node));
    if (best === undefined) {
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
      decision: `same type as ${best.profile.node.pointer || 'the payload'}`,
      because: `${best.common.length === profile.kinds.size && best.common.length === best.profile.kinds.size ? 'the same keys' : `likeness ${best.likeness.toFixed(2)}`}: ${best.common
        .slice(0, 6)
        .map((key) => JSON.stringify(key))
        .join(', ')}${best.common.length > 6 ? ' and more' : ''}`,
      first: profile.node.facts.firstObject,
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
    const kinds = (of: Node) =>
      new Map([...of.edges.values()].map((edge) => [edge.key, kindsAt(edge.node.self())]));
    const profile = (of: Node): Profile => ({ node: of, kinds: kinds(of), name: '' });
    const { likeness } = compare(profile(node), profile(items), () => 1);
    if (likeness < enoughWithName) continue;
    record({
      place: node.pointer,
      rule: 'mixed',
      decision: 'one or many',
      because: `a single element in ${node.facts.objects} of ${node.total}, like those of the lists`,
      first: node.facts.firstObject,
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

function contains(outer: Node, inner: Node): boolean {
  for (let up = inner.parent; up !== undefined; up = up.parent) if (up.self() === outer.self()) return true;
  return false;
}

/**
 * Whether a place holds records and no lists. A list among them could come to hold itself, which is a type without
 * a name.
 */
function mayShare(node: Node): boolean {
  return node.edges.size > 0 && node.values === undefined && node.facts.lists === 0;
}
