import { formatPlace, type PlaceStep } from '../json/pointer.js';
import { earlier, type Mark } from '../observe/mark.js';
import { fieldsInOrder, mergeFacts, Place, totalAt } from '../observe/observation.js';

/** A place, or several that were found to share a type: then one of them stands for all. */
export class Node {
  readonly facts = new Place();
  readonly edges = new Map<string, Edge>();
  items: Node | undefined = undefined;
  /** Set when another node stands for this one. */
  private forward: Node | undefined = undefined;

  /**
   * @param steps how the first payloads lead here
   * @param parent the node around this one; undefined at the top
   */
  constructor(
    readonly steps: readonly PlaceStep[],
    readonly parent: Node | undefined,
  ) {}

  /** The node that stands for this one; itself when none does. */
  self(): Node {
    if (this.forward === undefined) return this;
    let node: Node = this.forward;
    while (node.forward !== undefined) node = node.forward;
    return node;
  }

  standFor(other: Node): void {
    other.forward = this;
  }

  get place(): string {
    return formatPlace(this.steps);
  }

  get total(): number {
    return totalAt(this.facts);
  }
}

/** A key of the objects at a node. */
export interface Edge {
  readonly key: string;
  readonly node: Node;
  first: Mark;
  present: number;
  firstAbsent: Mark | undefined;
}

/** A tree of nodes from observed places. */
export function graphOf(place: Place, steps: readonly PlaceStep[] = [], parent?: Node): Node {
  const node = new Node(steps, parent);
  mergeFacts(node.facts, place);
  for (const field of fieldsInOrder(place)) {
    node.edges.set(field.key, {
      key: field.key,
      node: graphOf(field.place, [...steps, { key: field.key }], node),
      first: field.first,
      present: field.present,
      firstAbsent: field.firstAbsent,
    });
  }
  if (place.items !== undefined) node.items = graphOf(place.items, [...steps, 'every'], node);
  return node;
}

/**
 * Makes two nodes one, and with them what lies below them key by key, so that a type that contains itself
 * becomes a cycle. The one with the shorter place stands for both.
 * Congruence closure by union-find (Downey, Sethi and Tarjan 1980).
 */
export function unify(a: Node, b: Node): void {
  const pending: [Node, Node][] = [[a, b]];
  for (let pair = pending.pop(); pair !== undefined; pair = pending.pop()) {
    const left = pair[0].self();
    const right = pair[1].self();
    if (left === right) continue;
    const [keep, drop] = comesFirst(left, right) ? [left, right] : [right, left];
    keep.standFor(drop);
    for (const edge of keep.edges.values()) {
      if (!drop.edges.has(edge.key)) edge.firstAbsent = earlier(edge.firstAbsent, drop.facts.firstObject);
    }
    for (const edge of drop.edges.values()) {
      const ours = keep.edges.get(edge.key);
      if (ours === undefined) {
        keep.edges.set(edge.key, { ...edge, firstAbsent: earlier(edge.firstAbsent, keep.facts.firstObject) });
      } else {
        ours.present += edge.present;
        ours.first = earlier(ours.first, edge.first)!;
        ours.firstAbsent = earlier(ours.firstAbsent, edge.firstAbsent);
        pending.push([ours.node, edge.node]);
      }
    }
    if (drop.items !== undefined) {
      if (keep.items === undefined) keep.items = drop.items;
      else pending.push([keep.items, drop.items]);
    }
    mergeFacts(keep.facts, drop.facts);
  }
}

/** Every node below a node, itself first, each once, level by level. */
export function nodesFrom(root: Node): Node[] {
  const seen = new Set<Node>([root.self()]);
  for (const node of seen) {
    for (const edge of node.edges.values()) seen.add(edge.node.self());
    if (node.items !== undefined) seen.add(node.items.self());
  }
  return [...seen];
}

/** Shorter places first, then by their text. */
function comesFirst(a: Node, b: Node): boolean {
  return a.steps.length !== b.steps.length ? a.steps.length < b.steps.length : a.place <= b.place;
}
