import { formatPlace, type PlaceStep } from '../json/pointer.js';
import { compareMarks, earlier, type Mark } from '../observe/mark.js';
import {
  fieldsInOrder,
  formsAt,
  formsBeside,
  manyForms,
  mergeFacts,
  mergeTexts,
  Place,
  totalAt,
} from '../observe/observation.js';
import { nullForm, objectForm, type Form } from '../observe/form.js';
import type { Shape } from '../observe/shape.js';
import { extend } from '../extend.js';
import { nothing, type Said } from './said.js';

/** A node with more variants holds no union worth telling apart. */
const mostVariants = 2048;

/** What was seen where a type is used, which says nothing about its other uses. */
export interface Use {
  total: number;
  nulls: number;
  firstNull: Mark | undefined;
  /** What a person decided about the place. */
  said: Said;
}

/** A form of a value as `observe/form.ts` has it, that of an object as the signature of its variant. */
export type NodeForm = Form | string;

/** The forms of the values of a key. */
export interface Forms {
  readonly all: Set<NodeForm>;
  /** By tag and token: what stood beside the token; missing as long as there is only one form. */
  readonly beside: Map<string, Map<string, Set<NodeForm>>>;
}

/** What the keys of a record hold that are data. */
export interface Rest {
  readonly node: Node;
  /** Whether a key is data. @param node what stands under it */
  readonly holds: (key: string, node: Node) => boolean;
}

/** The objects at a node that had exactly the same keys. */
export interface Variant {
  readonly keys: readonly string[];
  count: number;
}

/**
 * A place, or several that were found to share a type: then one of them stands for all. `facts` and what is below are
 * of the type; `use` is of this place alone, whatever stands for it.
 */
export class Node {
  readonly facts = new Place();
  readonly use: Use = { total: 0, nulls: 0, firstNull: undefined, said: nothing };
  readonly edges = new Map<string, Edge>();
  items: Node | undefined = undefined;
  /** By position, for lists that may be tuples. */
  positions: Node[] | undefined = undefined;
  /** What is below every key, for objects that are maps. */
  values: Node | undefined = undefined;
  /** What is below keys that are data beside others that are not, and which those are. */
  rest: Rest | undefined = undefined;
  /** What a single object stands for where most payloads have a list of such. */
  single: Node | undefined = undefined;
  /** By their sorted keys; undefined when there were too many to tell. */
  variants: Map<string, Variant> | undefined = new Map();
  /** By key and token: the variants in which the token was the key's value. */
  readonly tags = new Map<string, Map<string, Set<string>>>();
  /** By key: the forms of its values, for keys whose values have several or stand beside a token. */
  readonly forms = new Map<string, Forms>();
  /** The nodes that this one stands for, itself first. */
  readonly members: Node[] = [this];
  /** Set when another node stands for this one. */
  private forward: Node | undefined = undefined;

  /**
   * @param steps how the payloads lead here
   * @param parent the node around this one; undefined at the top
   * @param place what was observed here alone, whatever stands for it
   */
  constructor(
    readonly steps: readonly PlaceStep[],
    readonly parent: Node | undefined,
    readonly place: Place,
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

  /** Where it stands in what was observed, which tells it from all others. */
  get pointer(): string {
    return formatPlace(this.steps);
  }

  /** Where it stands among all that was found out: below maps and lists for every key and element. */
  get pattern(): string {
    return formatPlace(this.patternSteps());
  }

  private patternSteps(): readonly PlaceStep[] {
    const { parent } = this;
    const own = this.steps.at(-1);
    if (parent === undefined || own === undefined) return this.steps;
    const { edges, single, positions } = parent.self();
    const around = parent.patternSteps();
    // A single object is as an element of the lists that others have there.
    if (own !== 'every' && single?.self().edges.has(own.key)) return [...around, 'every', own];
    const isOne = own !== 'every' && (edges.has(own.key) || positions?.[Number(own.key)] !== undefined);
    return [...around, isOne ? own : 'every'];
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

/** The keys of a node in the order of the first payload that had them. */
export function edgesInOrder(node: Node): Edge[] {
  return [...node.edges.values()].sort((a, b) => compareMarks(a.first, b.first));
}

/** A tree of nodes from observed places. */
export function graphOf(place: Place, steps: readonly PlaceStep[] = [], parent?: Node): Node {
  const node = new Node(steps, parent, place);
  mergeFacts(node.facts, place);
  mergeTexts(node.facts, place);
  Object.assign(node.use, { total: totalAt(place), nulls: place.nulls, firstNull: place.firstNull });
  for (const field of fieldsInOrder(place)) {
    node.edges.set(field.key, {
      key: field.key,
      node: graphOf(field.place, [...steps, { key: field.key }], node),
      first: field.first,
      present: field.present,
      firstAbsent: field.firstAbsent,
    });
  }
  const every: readonly PlaceStep[] = [...steps, 'every'];
  if (place.values !== undefined) {
    const values = graphOf(place.values, every, node);
    if (place.fields.size === 0) node.values = values;
    // There may have been no other key yet.
    else if (values.total > 0) node.rest = { node: values, holds: (key) => !place.fields.has(key) };
  }
  if (place.items !== undefined) node.items = graphOf(place.items, every, node);
  if (place.positions !== undefined && place.positions.length > 0) {
    node.positions = place.positions.map((each, i) => graphOf(each, [...steps, { key: String(i) }], node));
  }
  readVariants(node, place);
  return node;
}

function readVariants(node: Node, place: Place): void {
  if (place.shapes === undefined) {
    node.variants = undefined;
    return;
  }
  const signatures = new Map<unknown, string>();
  for (const shape of place.shapes.all()) {
    if (shape.count === 0) continue;
    const keys = keysOf(shape);
    const signature = signatureOf(keys);
    signatures.set(shape, signature);
    const known = node.variants!.get(signature);
    if (known === undefined) node.variants!.set(signature, { keys, count: shape.count });
    else known.count += shape.count;
  }
  for (const field of place.fields.values()) {
    const { tokens } = field.place;
    if (tokens === undefined || tokens.byText.size === 0) continue;
    const tag = new Map<string, Set<string>>();
    for (const [text, token] of tokens.byText)
      tag.set(text, new Set([...token.shapes].map((shape) => signatures.get(shape)!)));
    node.tags.set(field.key, tag);
  }
  readForms(node, place);
}

/** What forms say besides null, which is counted where a type is used. */
function readForms(node: Node, place: Place): void {
  if (node.tags.size === 0) return;
  for (const field of place.fields.values()) {
    if (field.forms === manyForms) continue;
    const read = readerOf(field.place);
    const forms: Forms = { all: read(formsAt(field)), beside: new Map() };
    node.forms.set(field.key, forms);
    if (forms.all.size < 2) continue;
    for (const key of node.tags.keys()) {
      if (key === field.key) continue;
      const tokens = [...place.fields.get(key)!.place.tokens!.byText];
      forms.beside.set(key, new Map(tokens.map(([text, token]) => [text, read(formsBeside(token, field)!)])));
    }
  }
}

/** From the forms of the values at a place to those of its node. */
function readerOf(place: Place): (forms: ReadonlySet<Form>) => Set<NodeForm> {
  let signatures: ReadonlyMap<Form, string> | undefined;
  const read = (form: Form): NodeForm => {
    if (form >= 0) return form;
    signatures ??= new Map(
      [...(place.shapes?.all() ?? [])].map((shape) => [-shape.serial, signatureOf(keysOf(shape))]),
    );
    return signatures.get(form) ?? objectForm;
  };
  return (forms) => new Set([...forms].filter((form) => form !== nullForm).map(read));
}

function keysOf(shape: Shape): string[] {
  return shape.fields().map(({ key }) => key);
}

function signatureOf(keys: readonly string[]): string {
  return JSON.stringify([...keys].sort());
}

/** What stood under a key beside the tokens of a tag. */
export function formsBesideTag(
  node: Node,
  key: string,
  tag: string,
): ReadonlyMap<string, ReadonlySet<NodeForm>> {
  const forms = node.forms.get(key);
  if (forms === undefined) return new Map();
  const known = forms.beside.get(tag);
  if (known !== undefined) return known;
  // There is one form only: it stood beside every token whose objects had the key.
  const has = (signature: string) => node.variants!.get(signature)?.keys.includes(key) ?? false;
  return new Map(
    [...(node.tags.get(tag) ?? [])].map(([text, signatures]) => [
      text,
      [...signatures].some(has) ? forms.all : new Set<NodeForm>(),
    ]),
  );
}

/** To be called before tags and variants are merged, which say beside what a token stood. */
function mergeForms(keep: Node, drop: Node): void {
  for (const key of new Set([...keep.forms.keys(), ...drop.forms.keys()])) {
    const [ours, theirs] = [keep.forms.get(key), drop.forms.get(key)];
    const isUntold = (node: Node, forms: Forms | undefined) => forms === undefined && node.edges.has(key);
    if (isUntold(keep, ours) || isUntold(drop, theirs)) {
      keep.forms.delete(key);
      continue;
    }
    const merged: Forms = {
      all: new Set([...(ours?.all ?? []), ...(theirs?.all ?? [])]),
      beside: new Map(),
    };
    if (merged.all.size > 1) {
      for (const tag of new Set([...keep.tags.keys(), ...drop.tags.keys()])) {
        if (tag === key) continue;
        const beside = new Map<string, Set<NodeForm>>();
        for (const [text, forms] of [...formsBesideTag(keep, key, tag), ...formsBesideTag(drop, key, tag)])
          beside.set(text, new Set([...(beside.get(text) ?? []), ...forms]));
        merged.beside.set(tag, beside);
      }
    }
    keep.forms.set(key, merged);
  }
}

/**
 * Makes two nodes of one type, and with them what lies below them key by key, so that a type that contains itself
 * becomes a cycle. The one with the shorter place stands for both; each keeps its own use.
 * Congruence closure by union-find (Downey, Sethi and Tarjan 1980).
 */
export function unify(a: Node, b: Node): void {
  unifyAll([[a, b]], []);
}

/** @param pairs of nodes that become one type; @param places pairs that become one place too */
function unifyAll(pairs: readonly [Node, Node][], places: readonly [Node, Node][]): void {
  const pending = [...pairs];
  const joined = (some: readonly [Node, Node][]): void => {
    for (const [{ use }, { use: other }] of some) {
      use.total += other.total;
      use.nulls += other.nulls;
      use.firstNull = earlier(use.firstNull, other.firstNull);
      if (other.said.size > 0) use.said = new Map([...other.said, ...use.said]);
    }
    extend(pending, some);
  };
  joined(places);
  for (let pair = pending.pop(); pair !== undefined; pair = pending.pop()) {
    const left = pair[0].self();
    const right = pair[1].self();
    if (left === right) continue;
    const [keep, drop] = comesFirst(left, right) ? [left, right] : [right, left];
    keep.standFor(drop);
    extend(keep.members, drop.members);
    if (keep.values !== undefined || drop.values !== undefined) {
      joined(mapPairs(keep));
      joined(mapPairs(drop));
      if (keep.values === undefined) keep.values = drop.values;
      else if (drop.values !== undefined) joined([[keep.values, drop.values]]);
    }
    mergeForms(keep, drop);
    mergeVariants(keep, drop);
    joined(mergeEdges(keep, drop));
    if (keep.rest === undefined) keep.rest = drop.rest;
    else if (drop.rest !== undefined) joined([[keep.rest.node, drop.rest.node]]);
    joined(restPairs(keep));
    joined(mergeLists(keep, drop));
    keep.single ??= drop.single;
    mergeFacts(keep.facts, drop.facts);
    mergeTexts(keep.facts, drop.facts);
  }
}

/** What several nodes would be if they were made one. */
interface Merged {
  /** The group that this one became a part of. */
  into: Merged | undefined;
  readonly edges: Map<string, Node>;
  values: Node | undefined;
  items: Node | undefined;
  rest: Rest | undefined;
}

/**
 * Whether making two nodes one would make a map whose values are that map again, or lists or maps of it, or a list whose
 * elements are that list again beside something else: a type that has no end and no name. Follows what `unify` does without doing it.
 */
export function wouldHoldItself(a: Node, b: Node): boolean {
  const groups = new Map<Node, Merged>();
  const groupOf = (node: Node): Merged => {
    const self = node.self();
    let group = groups.get(self);
    if (group === undefined) {
      const edges = new Map([...self.edges].map(([key, edge]) => [key, edge.node] as const));
      group = { into: undefined, edges, values: self.values, items: self.items, rest: self.rest };
      groups.set(self, group);
    }
    while (group.into !== undefined) group = group.into;
    return group;
  };
  const pending: [Node, Node][] = [[a, b]];
  const fold = (group: Merged): void => {
    const { rest } = group;
    if (rest !== undefined) {
      for (const [key, node] of group.edges) {
        if (group.values === undefined && !rest.holds(key, node.self())) continue;
        pending.push([rest.node, node]);
        group.edges.delete(key);
      }
      if (group.values !== undefined) pending.push([group.values, rest.node]);
    }
    if (group.values === undefined) return;
    for (const node of group.edges.values()) pending.push([group.values, node]);
    group.edges.clear();
  };
  for (let pair = pending.pop(); pair !== undefined; pair = pending.pop()) {
    const [ours, theirs] = [groupOf(pair[0]), groupOf(pair[1])];
    if (ours === theirs) continue;
    theirs.into = ours;
    for (const [key, node] of theirs.edges) {
      const known = ours.edges.get(key);
      if (known === undefined) ours.edges.set(key, node);
      else pending.push([known, node]);
    }
    for (const part of ['values', 'items'] as const) {
      const [own, other] = [ours[part], theirs[part]];
      if (own === undefined) ours[part] = other;
      else if (other !== undefined) pending.push([own, other]);
    }
    if (ours.rest === undefined) ours.rest = theirs.rest;
    else if (theirs.rest !== undefined) pending.push([ours.rest.node, theirs.rest.node]);
    fold(ours);
  }
  const met = [...new Set([...groups.keys()].map(groupOf))];
  return met.some((start) => {
    const seen = new Set<Merged>();
    const waiting = [start];
    for (let group = waiting.pop(); group !== undefined; group = waiting.pop()) {
      // Where there are keys there is a name, though not for the lists that stand beside them.
      if (group !== start && group.edges.size > 0) continue;
      for (const below of [group.edges.size > 0 ? undefined : group.values, group.items]) {
        if (below === undefined) continue;
        const next = groupOf(below);
        if (next === start) return true;
        if (!seen.has(next)) {
          seen.add(next);
          waiting.push(next);
        }
      }
    }
    return false;
  });
}

function mergeEdges(keep: Node, drop: Node): [Node, Node][] {
  const pairs: [Node, Node][] = [];
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
      pairs.push([ours.node, edge.node]);
    }
  }
  return pairs;
}

function mergeLists(keep: Node, drop: Node): [Node, Node][] {
  const { positions: ours } = keep;
  const { positions: theirs } = drop;
  const oneIsEmpty =
    (keep.items === undefined && ours === undefined) || (drop.items === undefined && theirs === undefined);
  // An empty list is no tuple, wherever it was seen.
  const isTuple = keep.facts.emptyLists === 0 && drop.facts.emptyLists === 0;
  if (oneIsEmpty && !isTuple && (ours ?? theirs) !== undefined) {
    keep.items ??= drop.items;
    keep.positions ??= theirs;
    return itemPairs(keep);
  }
  if (oneIsEmpty || (ours !== undefined && theirs !== undefined && ours.length === theirs.length)) {
    keep.items ??= drop.items;
    keep.positions ??= theirs;
    return ours !== undefined && theirs !== undefined ? ours.map((node, i) => [node, theirs[i]!]) : [];
  }
  const pairs = [...itemPairs(keep), ...itemPairs(drop)];
  return [...pairs, [keep.items!, drop.items!]];
}

/** To be called before the edges are merged, which say whose keys they were. */
function mergeVariants(keep: Node, drop: Node): void {
  for (const [signature, variant] of drop.variants ?? []) {
    const known = keep.variants?.get(signature);
    if (known === undefined) keep.variants?.set(signature, { ...variant });
    else known.count += variant.count;
  }
  if (drop.variants === undefined || (keep.variants?.size ?? 0) > mostVariants) keep.variants = undefined;
  if (keep.variants === undefined) {
    keep.tags.clear();
    return;
  }
  // Words that are not all known at one of them tell nothing at both.
  for (const key of keep.tags.keys()) if (drop.edges.has(key) && !drop.tags.has(key)) keep.tags.delete(key);
  for (const [key, theirs] of drop.tags) {
    const ours = keep.tags.get(key);
    if (ours === undefined && keep.edges.has(key)) continue;
    if (ours === undefined)
      keep.tags.set(key, new Map([...theirs].map(([text, signatures]) => [text, new Set(signatures)])));
    else mergeTag(ours, theirs);
  }
}

function mergeTag(ours: Map<string, Set<string>>, theirs: ReadonlyMap<string, ReadonlySet<string>>): void {
  for (const [text, signatures] of theirs) {
    const known = ours.get(text);
    if (known === undefined) ours.set(text, new Set(signatures));
    else for (const signature of signatures) known.add(signature);
  }
}

/** A node of the objects at a node alone, which loses their fields. */
export function takeObjects(node: Node): Node {
  const taken = new Node([...node.steps, 'every'], node, new Place());
  taken.facts.objects = node.facts.objects;
  taken.facts.emptyObjects = node.facts.emptyObjects;
  taken.facts.firstObject = node.facts.firstObject;
  for (const [key, edge] of node.edges) taken.edges.set(key, edge);
  taken.variants = node.variants;
  taken.rest = node.rest;
  node.rest = undefined;
  for (const [key, tag] of node.tags) taken.tags.set(key, tag);
  for (const [key, forms] of node.forms) taken.forms.set(key, forms);
  node.edges.clear();
  node.tags.clear();
  node.forms.clear();
  node.variants = new Map();
  return taken;
}

/** Leaves nothing of the keys of the objects at a node, which may be any. */
export function forgetKeys(node: Node): void {
  node.edges.clear();
  node.tags.clear();
  node.forms.clear();
  node.variants = new Map();
  node.values = undefined;
  node.rest = undefined;
  node.facts.emptyObjects = node.facts.objects;
}

/** Makes the objects at a node maps: what is below each key becomes one. */
export function makeMap(node: Node): void {
  node.values ??= new Node([...node.steps, 'every'], node, new Place());
  unifyAll([], mapPairs(node));
}

function mapPairs(node: Node): [Node, Node][] {
  // A node is made only where edges go, so that maps inside themselves come to an end.
  if (node.edges.size === 0 && node.rest === undefined) return [];
  const values = (node.values ??= new Node([...node.steps, 'every'], node, new Place()));
  const pairs: [Node, Node][] = [];
  for (const edge of node.edges.values()) pairs.push([values, edge.node]);
  if (node.rest !== undefined) pairs.push([values, node.rest.node]);
  node.rest = undefined;
  node.edges.clear();
  node.variants = new Map();
  node.tags.clear();
  node.forms.clear();
  return pairs;
}

/** Makes what is below keys that are data one, and leaves the others fields. */
export function makeRest(node: Node, holds: Rest['holds']): void {
  node.rest ??= { node: new Node([...node.steps, 'every'], node, new Place()), holds };
  unifyAll([], restPairs(node));
}

function restPairs(node: Node): [Node, Node][] {
  const { rest } = node;
  if (rest === undefined) return [];
  const pairs: [Node, Node][] = [];
  for (const [key, edge] of node.edges) {
    if (!rest.holds(key, edge.node.self())) continue;
    pairs.push([rest.node, edge.node]);
    node.edges.delete(key);
  }
  // Which of the other keys there are together is not worth telling.
  node.variants = undefined;
  node.tags.clear();
  node.forms.clear();
  return pairs;
}

/** Makes the lists at a node plain ones: what is at each position becomes one. */
export function makeList(node: Node): void {
  unifyAll([], itemPairs(node));
}

function itemPairs(node: Node): [Node, Node][] {
  const items = (node.items ??= new Node([...node.steps, 'every'], node, new Place()));
  const pairs = (node.positions ?? []).map((each): [Node, Node] => [items, each]);
  node.positions = undefined;
  return pairs;
}

/** Every node below a node, itself first, each once, level by level. */
export function nodesFrom(root: Node): Node[] {
  const seen = new Set<Node>([root.self()]);
  for (const node of seen) for (const below of nodesBelow(node)) seen.add(below.self());
  return [...seen];
}

/** Every place where a type is used below a node, itself first. */
export function usesFrom(root: Node): Node[] {
  return [root, ...nodesFrom(root).flatMap(nodesBelow)];
}

/** The nodes right below a node. */
export function nodesBelow(node: Node): Node[] {
  return [
    ...[...node.edges.values()].map((edge) => edge.node),
    ...(node.values === undefined ? [] : [node.values]),
    ...(node.rest === undefined ? [] : [node.rest.node]),
    ...(node.items === undefined ? [] : [node.items]),
    ...(node.positions ?? []),
  ];
}

/** Shorter places first, then those that stand for every element or key, then by their text. */
function comesFirst(a: Node, b: Node): boolean {
  if (a.steps.length !== b.steps.length) return a.steps.length < b.steps.length;
  const every = (node: Node) => node.steps.filter((step) => step === 'every').length;
  return every(a) !== every(b) ? every(a) > every(b) : a.pointer <= b.pointer;
}
