import { pascalCase, singular, wordsOf } from '../words.js';
import { nodesFrom, type Node } from './graph.js';

/** The words a record would like to be called by: its key, in the singular when it is an element of a list. */
export function nameCandidate(node: Node): string[] {
  let inList = false;
  for (let i = node.steps.length - 1; i >= 0; i--) {
    const step = node.steps[i]!;
    if (step === 'every') {
      inList = true;
      continue;
    }
    const words = wordsOf(step.key);
    if (words.length > 0) return inList ? singular(words) : words;
  }
  return [];
}

export interface Named {
  readonly name: string;
  readonly because: string;
}

/**
 * A name for every record below the top: its key in the singular and in PascalCase. Records that want the same
 * name all put the name of the record around them in front, so that none depends on which came first; what is
 * still equal is numbered in the order of places.
 *
 * @param rootWords the words of the payload's own name, which no other type may take
 */
export function nameRecords(
  root: Node,
  isRecord: (node: Node) => boolean,
  rootWords: readonly string[],
): Map<Node, Named> {
  const records = nodesFrom(root).filter((node) => node !== root.self() && isRecord(node));
  const rootName = pascalCase(rootWords);
  const words = new Map<Node, string[]>();
  for (const node of records) {
    const own = nameCandidate(node);
    words.set(node, own.length > 0 ? own : itemOf(rootWords));
  }

  const names = new Map<Node, Named>();
  const contenders = new Map<string, number>([[rootName, 1]]);
  for (const own of words.values())
    contenders.set(pascalCase(own), (contenders.get(pascalCase(own)) ?? 0) + 1);
  for (const [node, own] of words) {
    const name = pascalCase(own);
    names.set(
      node,
      contenders.get(name) === 1
        ? { name, because: 'from its key' }
        : {
            name: pascalCase([...around(node, words, rootWords), ...own]),
            because: `from its key and the record around it, since ${name} is wanted twice`,
          },
    );
  }

  const taken = new Set([rootName]);
  for (const node of records) {
    const wanted = names.get(node)!;
    let { name } = wanted;
    for (let i = 2; taken.has(name); i++) name = `${wanted.name}${i}`;
    taken.add(name);
    names.set(node, { ...wanted, name });
  }
  return names;
}

/** The words of the record around a record. */
function around(
  node: Node,
  words: ReadonlyMap<Node, string[]>,
  rootWords: readonly string[],
): readonly string[] {
  for (let up = node.parent; up !== undefined; up = up.parent) {
    const found = words.get(up.self());
    if (found !== undefined) return found;
  }
  return rootWords;
}

/** What an element of a list at the top is called: the payload's name in the singular. */
function itemOf(rootWords: readonly string[]): string[] {
  const one = singular(rootWords);
  return one.join() === rootWords.join() ? [...rootWords, 'item'] : one;
}
