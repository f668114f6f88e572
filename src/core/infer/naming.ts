import { pascalCase, singular, wordsOf } from '../words.js';
import { nodesFrom, type Node } from './graph.js';

/**
 * The words a record would like to be called by: its key, in the singular when it is an element of a list or a
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
    const words = wordsOf(step.key);
    if (words.length === 0 || (inList && isEnvelope(step.key)) || /^\d+$/.test(step.key)) continue;
    return inList ? singular(words) : words;
  }
  return [];
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
 */
export function nameRecords(
  root: Node,
  records: readonly Nameable[],
  rootWords: readonly string[],
  itemWords: readonly string[],
): Map<Nameable, Named> {
  const rootName = pascalCase(rootWords);
  const words = new Map<Nameable, string[]>();
  const ofNode = new Map<Node, string[]>();
  for (const each of records) {
    const own = each.node === root ? [...rootWords] : nameCandidate(each.node);
    const plain = own.length > 0 ? own : [...itemWords];
    ofNode.set(each.node, plain);
    words.set(each, each.arm === undefined ? plain : joined(each.arm, plain));
  }

  const names = new Map<Nameable, Named>();
  const contenders = new Map<string, number>([[rootName, 1]]);
  for (const own of words.values())
    contenders.set(pascalCase(own), (contenders.get(pascalCase(own)) ?? 0) + 1);
  for (const [each, own] of words) {
    const name = pascalCase(own);
    names.set(
      each,
      contenders.get(name) === 1
        ? { name, because: each.arm === undefined ? 'from its key' : 'from its key and what tells it apart' }
        : {
            name: pascalCase(joined(around(each.node, ofNode, rootWords), own)),
            because: `from its key and the record around it, since ${name} is wanted twice`,
          },
    );
  }

  const taken = new Set([rootName]);
  const inOrder = [...records].sort((a, b) => (sortKey(a) < sortKey(b) ? -1 : 1));
  for (const each of inOrder) {
    const wanted = names.get(each)!;
    let { name } = wanted;
    for (let i = 2; taken.has(name); i++) name = `${wanted.name}${i}`;
    taken.add(name);
    names.set(each, { ...wanted, name });
  }
  return names;
}

function sortKey({ node, arm }: Nameable): string {
  return [node.pointer, ...(arm ?? [])].join('\n');
}

/** Words one after another, without saying the same word twice in a row. */
function joined(front: readonly string[], back: readonly string[]): string[] {
  return front[front.length - 1] === back[0] && back.length > 1
    ? [...front, ...back.slice(1)]
    : [...front, ...back];
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
