import type { Place } from '../observe/observation.js';
import { nodesFrom, unify, type Node } from './graph.js';
import type { Decision } from './infer.js';
import { nameCandidate } from './naming.js';

/**
 * Records that are one type: the same keys with the same kinds of value, and either at least three keys, or the
 * same name, or one inside the other. Two keys such as an id and a name say too little when the names differ.
 */
export function shareRecords(root: Node, record: (decision: Decision) => void): void {
  for (let again = true; again;) {
    again = false;
    const likes = new Map<string, Map<string, Node>>();
    for (const node of nodesFrom(root)) {
      if (!mayShare(node) || node !== node.self()) continue;
      const likeness = likenessOf(node);
      const group = likes.get(likeness) ?? new Map<string, Node>();
      likes.set(likeness, group);
      const name = node.edges.size >= 3 ? '' : nameCandidate(node).join(' ');
      const twin = group.get(name) ?? containing(node, likeness);
      if (twin === undefined) {
        group.set(name, node);
        continue;
      }
      const keys = [...node.edges.keys()].map((key) => JSON.stringify(key)).join(', ');
      record({
        place: node.place,
        rule: 'sharing',
        decision: `same type as ${twin.self().place || 'the payload'}`,
        because: `both have the keys ${keys} with values of the same kinds`,
        first: node.facts.firstObject,
      });
      unify(twin, node);
      again = true;
    }
  }
}

/**
 * Whether a place holds records and no lists. A list among them could come to hold itself, which is a type without
 * a name.
 */
function mayShare(node: Node): boolean {
  return node.edges.size > 0 && node.facts.lists === 0;
}

/** The record of the same likeness that a record lies in. */
function containing(node: Node, likeness: string): Node | undefined {
  for (let up = node.parent; up !== undefined; up = up.parent) {
    const around = up.self();
    if (
      around !== node &&
      mayShare(around) &&
      around.edges.size === node.edges.size &&
      likenessOf(around) === likeness
    )
      return around;
  }
  return undefined;
}

function likenessOf(node: Node): string {
  const keys = [...node.edges.values()].map(
    (edge) => `${JSON.stringify(edge.key)}:${kindsOf(edge.node.self().facts)}`,
  );
  return keys.sort().join('\n');
}

/** The kinds of value at a place, null aside. */
function kindsOf(facts: Place): string {
  return [
    facts.trues + facts.falses > 0 ? 'boolean' : '',
    facts.integers + facts.decimals > 0 ? 'number' : '',
    facts.strings > 0 ? 'string' : '',
    facts.lists > 0 ? 'list' : '',
    facts.objects > 0 ? 'object' : '',
  ]
    .filter((kind) => kind !== '')
    .join('|');
}
