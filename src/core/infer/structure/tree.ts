import { extend } from '../../extend.js';
import { makeRest, nodesFrom, unify, type Node } from '../graph.js';
import type { Decision } from '../infer.js';
import { recurringKeys, type Keyed } from '../../observe/recurring.js';
import { saidOf } from '../steering.js';
import { kindsAt } from './structure-rule.js';

/** The marker of a tree recurs below so many different keys, in so many objects. */
const fewestKeys = 8;
const fewestParents = 3;
/** Of the objects that have the marker and other keys, so many are made of such objects throughout. */
const mostly = 0.8;

/**
 * Trees of records that hold each other under keys that are data, beside a key that marks each of them: an area has a
 * `__depth` and areas by name, each with a `__depth` and areas by name. All of them are one type.
 */
export function joinTrees(root: Node, record: (decision: Decision) => void): void {
  for (const marker of markersIn(root)) {
    const isTree = treesBy(marker);
    const nodes = nodesFrom(root);
    const marked = nodes.filter((node) => node.edges.has(marker) && othersOf(node, marker).length > 0);
    const trees = marked.filter(
      (node) => isTree(node) && othersOf(node, marker).every(({ node: each }) => isTree(each.self())),
    );
    const keys = new Set(trees.flatMap((node) => othersOf(node, marker).map(({ key }) => key)));
    const isFound = keys.has(manyKeys) || (keys.size >= fewestKeys && trees.length >= fewestParents);
    if (!isFound || trees.length < mostly * marked.length) continue;
    const holds = (key: string, node: Node) => key !== marker && kindsAt(node) === 'object';
    const members = new Set(trees);
    for (const node of members) for (const { node: each } of othersOf(node, marker)) members.add(each.self());
    const [first, ...others] = [...members];
    for (const node of members) if (node.self() === node) makeRest(node, holds);
    for (const node of others) unify(first!, node);
    const type = first!.self();
    record({
      place: type.pointer,
      rule: 'map',
      decision: 'a tree: fields beside a map of the same type',
      because: `${JSON.stringify(marker)} recurs in what stands under ${keys.has(manyKeys) ? 'very many' : keys.size} other keys`,
      first: type.facts.firstObject,
      doubt: Math.min(1, 4 / keys.size),
      otherwise: 'map:record',
    });
  }
}

/** Stands for the keys that were too many to be told. */
const manyKeys = Symbol('many keys');

interface Other {
  readonly key: string | typeof manyKeys;
  readonly node: Node;
}

/** What stands in the objects at a node beside their marker. */
function othersOf(node: Node, marker: string): Other[] {
  const others: Other[] = [...node.edges.values()].filter(({ key }) => key !== marker);
  return node.rest === undefined ? others : [...others, { key: manyKeys, node: node.rest.node }];
}

/** Keys that an object shares with objects in it, under enough different keys, those of most objects first. */
function markersIn(root: Node): string[] {
  function* objects(): Generator<Keyed<Other['key']>> {
    for (const node of nodesFrom(root))
      yield {
        has: (key) => node.edges.has(key),
        // Every key may be the marker of the others.
        below: othersOf(node, '').map(({ key, node: below }) => [key, below.self().edges.keys()]),
      };
  }
  return recurringKeys(
    objects(),
    ({ keys, parents }) => keys.has(manyKeys) || (keys.size >= fewestKeys && parents >= fewestParents),
  );
}

/** Whether the objects at a node have a marker, or hold nothing but objects of which that is so. */
function treesBy(marker: string): (node: Node) => boolean {
  const known = new Map<Node, boolean>();
  return (top) => {
    // What is below comes after what is above it.
    const nodes: Node[] = [];
    const waiting = [top];
    for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
      if (known.has(node)) continue;
      nodes.push(node);
      known.set(node, false);
      if (!node.edges.has(marker))
        extend(
          waiting,
          othersOf(node, marker).map((edge) => edge.node.self()),
        );
    }
    for (const node of nodes.reverse()) {
      const isObject = kindsAt(node) === 'object' && !saidOf(node).has('map');
      const others = othersOf(node, marker);
      const isMade = others.length > 0 && others.every((edge) => known.get(edge.node.self()));
      known.set(node, isObject && (node.edges.has(marker) || isMade));
    }
    return known.get(top)!;
  };
}
