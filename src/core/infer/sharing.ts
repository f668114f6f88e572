import { Place } from '../observe/observation.js';
import { nodesFrom, unify, type Node } from './graph.js';
import type { Decision } from './infer.js';
import { nameCandidate } from './naming.js';

/**
 * Records that are one type: the same keys with the same kinds of value, and either the same name or at least
 * three keys. Two keys such as an id and a name say too little when the names differ.
 */
export function shareRecords(root: Node, record: (decision: Decision) => void): void {
  for (let again = true; again; ) {
    again = false;
    const likes = new Map<string, Node[]>();
    for (const node of nodesFrom(root)) {
      if (node.edges.size === 0) continue;
      const likeness = likenessOf(node);
      const group = likes.get(likeness);
      if (group === undefined) likes.set(likeness, [node]);
      else group.push(node);
    }
    for (const [first, ...others] of likes.values()) {
      for (const other of others) {
        const keep = first!.self();
        const drop = other.self();
        if (keep === drop) continue;
        const keys = [...drop.edges.keys()].map((key) => JSON.stringify(key)).join(', ');
        record({
          place: drop.place,
          rule: 'sharing',
          decision: `same type as ${keep.place || 'the payload'}`,
          because: `both have the keys ${keys} with values of the same kinds`,
          first: drop.facts.firstObject,
        });
        unify(keep, drop);
        again = true;
      }
    }
  }
}

function likenessOf(node: Node): string {
  const keys = [...node.edges.values()].map((edge) => `${JSON.stringify(edge.key)}:${kindsOf(edge.node.self().facts)}`);
  const name = node.edges.size >= 3 ? '' : nameCandidate(node).join(' ');
  return [name, ...keys.sort()].join('\n');
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
