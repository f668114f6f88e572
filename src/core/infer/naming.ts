import { pascalCase, singular, wordsOf } from '../words.js';
import { compareMarks } from '../observe/mark.js';
import type { Place } from '../observe/observation.js';
import { nodesFrom, type Node } from './graph.js';
import type { Steer } from './said.js';

/** What tells the vocabulary of a name, as in XML. */
const prefix = /^[A-Za-z_][\w.-]*:(?=[A-Za-z_])/;

/** Keys that are data rather than words: numbers, dates, ids. */
const isData = /^[^\p{L}]*$|\d{5,}|^(?=.*\d)[0-9a-f]{8,}$/iu;

/**
 * The words a record would like to be called by where it stands: its key, in the singular when it is an element of a list or a
 * value of a map. A key that only wraps what is below it is passed over.
 */
export function nameCandidate(node: Node): string[] {
  let inList = false;
  for (let i = node.steps.length - 1; i >= 0; i--) {
    const step = node.steps[i]!;
    if (step === 'every') {
      inList = true;
      continue;
    }
    const words = wordsOf(step.key.replace(prefix, ''));
    if (words.length === 0 || (inList && isEnvelope(step.key)) || isData.test(step.key)) continue;
    return inList ? singular(words) : words;
  }
  return [];
}

/**
 * The words for a type by all the places that use it: those that most of them would give it, else the words that all
 * end or begin with, else what they stand in when that is the same for three (one of the `berths` is a berth, one of a
 * `route` an item of it), else those of the place that has most values, but for trees, which have none then.
 */
export function nameOfType(node: Node): string[] {
  const counts = new Map<string, number>();
  const places = node.members.filter((each) => isField(each) && !isInside(each, node));
  for (const each of places.length > 0 ? places : [node]) {
    const name = nameCandidate(each).join(' ');
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  const names = [...counts].sort((a, b) => b[1] - a[1]).map(([name]) => name.split(' '));
  const [most, next] = [...counts.values()].sort((a, b) => b - a);
  if (next === undefined || most! > next) return names[0]!.filter((word) => word !== '');
  const back = commonStart(names.map((words) => words.toReversed())).toReversed();
  if (back.length > 0) return back;
  const front = commonStart(names);
  if (front.length > 0) return front;
  const around = new Set(places.map((each) => nameCandidate(each.parent ?? each).join(' ')));
  const [whole] = around;
  if (names.length >= fewestInside && around.size === 1 && whole !== '') {
    const words = whole!.split(' ');
    const one = singular(words);
    return one.join(' ') === whole ? [...words, 'item'] : one;
  }
  return isTree(node) ? [] : nameCandidate(mostUsed(places));
}

/** Whether a record holds such records under keys that are data: none of them says what all are. */
function isTree(node: Node): boolean {
  return node.rest?.node.self() === node.self();
}

/** Whether a node is not one key of many in a map, or one position in a list. */
function isField({ steps, parent }: Node): boolean {
  const step = steps.at(-1);
  return step === undefined || step === 'every' || (parent?.self().edges.has(step.key) ?? true);
}

/** The place where most values were seen; the first of the payload when several have equally many. */
function mostUsed([first, ...others]: readonly Node[]): Node {
  return others.reduce((best, each) => {
    const more = each.use.total - best.use.total;
    return more > 0 || (more === 0 && precedesInPayload(each.place, best.place)) ? each : best;
  }, first!);
}

function precedesInPayload({ firstObject: a }: Place, { firstObject: b }: Place): boolean {
  return a !== undefined && b !== undefined && compareMarks(a, b) < 0;
}

/** Whether a node is inside another of its own type. */
function isInside({ parent }: Node, type: Node): boolean {
  for (let up = parent; up !== undefined; up = up.parent) if (up.self() === type) return true;
  return false;
}

/** So many different names in one record are better said by the name of that. */
const fewestInside = 3;

/** The words that all begin with. */
function commonStart([first = [], ...others]: readonly (readonly string[])[]): string[] {
  const end = first.findIndex((word, i) => word === '' || others.some((words) => words[i] !== word));
  return first.slice(0, end < 0 ? first.length : end);
}

export interface Named {
  readonly name: string;
  readonly because: string;
}

/** A record, or one arm of a union of records: then `arm` are the words that tell it from the others. */
export interface Nameable {
  readonly node: Node;
  readonly arm?: readonly string[];
}

/**
 * A name for every record below the top: its key in the singular and in PascalCase. Records that want the same
 * name all put the name of the record around them in front, so that none depends on which came first; what is
 * still equal is numbered in the order of places.
 *
 * @param rootWords the words of the payload's own name, which no other type may take
 * @param itemWords what a record is called that has no key of its own
 * @param given names that somebody decided
 */
export function nameRecords(
  root: Node,
  records: readonly Nameable[],
  rootWords: readonly string[],
  itemWords: readonly string[],
  given: ReadonlyMap<Node, Steer> = new Map(),
): Map<Nameable, Named> {
  const rootName = pascalCase(rootWords);
  const words = new Map<Nameable, string[]>();
  // Where several wrap what is in them, they are told apart by their keys all the same.
  const isOneOfMany =
    records.filter(({ node, arm }) => arm === undefined && nameOfType(node).length === 0).length > 1;
  const ofNode = new Map<Node, string[]>();
  for (const each of records) {
    const chosen = given.get(each.node);
    const own =
      each.node === root
        ? [...rootWords]
        : chosen === undefined
          ? nameOfType(each.node)
          : wordsOf(chosen.value);
    const wrapper = isOneOfMany ? wrapperWords(each.node) : [];
    const plain = own.length > 0 ? own : wrapper.length > 0 ? wrapper : [...itemWords];
    ofNode.set(each.node, plain);
    words.set(each, each.arm === undefined ? plain : joined(each.arm, plain));
  }

  const names = new Map<Nameable, Named>();
  const contenders = new Map<string, Nameable[]>();
  for (const [each, own] of words) {
    const others = contenders.get(pascalCase(own));
    if (others === undefined) contenders.set(pascalCase(own), [each]);
    else others.push(each);
  }
  const plain = new Set(
    [...contenders].flatMap(([name, all]) => (name === rootName ? [] : (firstOf(all) ?? []))),
  );
  for (const [each, own] of words) {
    const name = pascalCase(own);
    names.set(
      each,
      plain.has(each) || (name === rootName && each.node === root && each.arm === undefined)
        ? { name, because: each.arm === undefined ? 'from its key' : 'from its key and what tells it apart' }
        : {
            name: pascalCase(inside(around(each.node, ofNode, rootWords), own, each.node)),
            because: `from its key and the record around it, since ${name} is wanted twice`,
          },
    );
  }

  const taken = new Set([rootName]);
  const isGiven = (each: Nameable) => each.arm === undefined && given.has(each.node);
  for (const each of records) {
    if (!isGiven(each)) continue;
    const { value: name, source: because } = given.get(each.node)!;
    names.set(each, { name, because });
  }
  const inOrder = [...records].sort(
    (a, b) => Number(isGiven(b)) - Number(isGiven(a)) || (sortKey(a) < sortKey(b) ? -1 : 1),
  );
  for (const each of inOrder) {
    const wanted = names.get(each)!;
    let { name } = wanted;
    for (let i = 2; taken.has(name); i++) name = `${wanted.name}${i}`;
    taken.add(name);
    names.set(each, { ...wanted, name });
  }
  return names;
}

/** The one of several that keeps the name that all want; undefined when none is before all others. */
function firstOf([first, ...others]: readonly Nameable[]): Nameable | undefined {
  const best = others.reduce((a, b) => (precedes(b, a) ? b : a), first!);
  return [first!, ...others].every((other) => other === best || precedes(best, other)) ? best : undefined;
}

/** Whether one of two that want a name is rather what it says: the one nearer the top, or much the larger. */
function precedes({ node: a, arm }: Nameable, { node: b, arm: other }: Nameable): boolean {
  if ((arm === undefined) !== (other === undefined)) return arm === undefined;
  return a.steps.length !== b.steps.length
    ? a.steps.length < b.steps.length
    : a.edges.size >= muchLarger * b.edges.size;
}

const muchLarger = 2;

function sortKey({ node, arm }: Nameable): string {
  return [node.pointer, ...(arm ?? [])].join('\n');
}

/** Words one after another, without saying the same word twice in a row. */
function joined(front: readonly string[], back: readonly string[]): string[] {
  return front[front.length - 1] === back[0] && back.length > 1
    ? [...front, ...back.slice(1)]
    : [...front, ...back];
}

/** What a record is called in another: an element that is called as that is an item of it. */
function inside(around: readonly string[], own: readonly string[], { steps }: Node): string[] {
  const isItem = steps.at(-1) === 'every' && own.join(' ') === around.join(' ');
  return isItem ? [...around, 'item'] : joined(around, own);
}

/** The words of the key that only wraps a record. */
function wrapperWords({ steps }: Node): string[] {
  const key = steps.findLast((step) => step !== 'every');
  return key !== undefined && isEnvelope(key.key) ? singular(wordsOf(key.key)) : [];
}

/** The words of the record around a record. */
function around(
  node: Node,
  words: ReadonlyMap<Node, string[]>,
  rootWords: readonly string[],
): readonly string[] {
  for (let up = node.parent; up !== undefined; up = up.parent) {
    const found = words.get(up.self());
    if (found !== undefined && up.self() !== node) return found;
  }
  return rootWords;
}

/** What an element of a list at the top is called: the payload's name in the singular. */
export function itemOf(rootWords: readonly string[]): string[] {
  const one = singular(rootWords);
  return one.join() === rootWords.join() ? [...rootWords, 'item'] : one;
}

/** The one record that a payload at the top only wraps, in a list under a key such as `results`. */
export function wrappedRecord(root: Node): Node | undefined {
  const wrapped = nodesFrom(root).filter(
    (node) =>
      node.steps.length >= 2 &&
      node.edges.size > 0 &&
      node.steps.at(-1) === 'every' &&
      node.steps.slice(0, -1).every((step) => step !== 'every' && isEnvelope(step.key)),
  );
  return wrapped.length === 1 ? wrapped[0] : undefined;
}

/** Keys of lists that say nothing about what is in them. */
const envelopes = new Set(
  'data items results records entries content values rows list hits objects elements result response payload body collection'.split(
    ' ',
  ),
);

/** Whether a key only wraps what is below it. */
export function isEnvelope(key: string): boolean {
  const words = wordsOf(key);
  return words.length === 1 && envelopes.has(words[0]!);
}
