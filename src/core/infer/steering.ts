import { SkevoError } from '../error.js';
import { extend } from '../extend.js';
import { parsePlace, type PlaceStep } from '../json/pointer.js';
import { nearest } from '../nearest.js';
import { nodesBelow, nodesFrom, unify, wouldHoldItself, type Node } from './graph.js';
import type { Decision } from './infer.js';
import { contradicts, decidable, nothing, type Decidable, type Said, type Steer } from './said.js';

const shown = (what: Decidable): string => {
  const values = decidable[what];
  return typeof values === 'string' ? values : values.join(', ');
};

/**
 * One decision that a person wrote.
 * @param source where it was written
 * @throws SkevoError when nothing of the kind can be decided
 */
export function steer(pattern: string, what: string, value: unknown, source: string): Steer {
  const refuse = (message: string, remedy: string): never => {
    throw new SkevoError(`${source}: ${message}`, remedy);
  };
  if (parsePlace(pattern) === undefined || pattern === '')
    refuse(
      `${JSON.stringify(pattern)} is no place`,
      'A place begins with /, such as /legs/*/pier or /**/author.',
    );
  const values: readonly string[] | string | undefined = Object.hasOwn(decidable, what)
    ? decidable[what as Decidable]
    : undefined;
  if (values === undefined) {
    const known = Object.keys(decidable);
    const near = nearest(what, known);
    refuse(
      `${JSON.stringify(what)} is nothing that can be decided`,
      near === undefined ? `There are ${known.join(', ')}.` : `Did you mean ${near}?`,
    );
  }
  const text = String(value);
  if (typeof values === 'string' ? typeof value !== 'string' || text === '' : !values!.includes(text))
    refuse(`${what} cannot be ${JSON.stringify(value)}`, `It takes ${shown(what as Decidable)}.`);
  if (what === 'name' && !/^\p{L}[\p{L}\p{Nd}]*$/u.test(text))
    refuse(`${JSON.stringify(text)} is no name of a type`, 'Use letters and digits, such as CrewMember.');
  return { pattern, what: what as Decidable, value: text, source };
}

/** A decision as the command line has it: `/state=choice:open`, `/labels=map`. @throws SkevoError */
export function parseSteer(text: string): Steer {
  const source = `--decide ${text}`;
  const at = text.lastIndexOf('=');
  if (at < 0)
    throw new SkevoError(
      `${source} decides nothing`,
      "Write the place and what it is: '/state=choice:open'.",
    );
  const [what = '', ...value] = text.slice(at + 1).split(':');
  return steer(text.slice(0, at), what, value.length === 0 ? 'true' : value.join(':'), source);
}

/** Decisions as a project file has them: by place, by what is decided. @param source where those of a place stand */
export function steersOf(decisions: object, source: (place: string) => string): Steer[] {
  return Object.entries(decisions).flatMap(([place, said]) => {
    if (typeof said !== 'object' || said === null || Array.isArray(said))
      throw new SkevoError(
        `${source(place)}: what is decided about ${place} must be a map`,
        'Such as { choice: open }.',
      );
    return Object.entries(said as object).map(([what, value]) => steer(place, what, value, source(place)));
  });
}

/**
 * Notes at every node what was decided about its place.
 * @param at the place of the root
 * @returns decisions that no place meets
 */
export function markSteered(root: Node, steers: readonly Steer[], at: readonly PlaceStep[] = []): Steer[] {
  if (steers.length === 0) return [];
  const patterns = steers.map((each) => ({ each, steps: parsePlace(each.pattern)! }));
  const met = new Set<Steer>();
  const pending = [root];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    const said = new Map<Decidable, Steer>();
    for (const { each, steps } of patterns) {
      if (!matches(steps, [...at, ...node.steps])) continue;
      met.add(each);
      said.set(each.what, each);
    }
    if (said.size > 0) node.use.said = said;
    extend(pending, nodesBelow(node));
  }
  return steers.filter((each) => !met.has(each));
}

/** The last thing that was decided about a place; undefined when nothing was. */
export function steerAt(
  steers: readonly Steer[],
  what: Decidable,
  steps: readonly PlaceStep[],
): Steer | undefined {
  return steers.findLast((each) => each.what === what && matches(parsePlace(each.pattern)!, steps));
}

function matches(pattern: readonly PlaceStep[], steps: readonly PlaceStep[]): boolean {
  const [first, ...others] = pattern;
  if (first === undefined) return steps.length === 0;
  if (first !== 'every' && first.key === '**')
    return steps.some((_, i) => matches(others, steps.slice(i))) || matches(others, []);
  const [step, ...rest] = steps;
  if (step === undefined) return false;
  const fits = first === 'every' || (step !== 'every' && step.key === first.key);
  return fits && matches(others, rest);
}

/**
 * Makes the places one type that somebody gave one name, or said to be of the same type. The elements of a list stand
 * for the list.
 */
export function joinSteered(root: Node, record: (decision: Decision) => void): void {
  const byName = new Map<string, Node>();
  const nodes = nodesFrom(root);
  const recordAt = (node: Node): Node => node.self().items?.self() ?? node.self();
  const join = (first: Node, node: Node, decided: Steer): void => {
    if (first === node) return;
    if (first.edges.size === 0 || node.edges.size === 0)
      contradicts(decided, 'there is no record', node.facts.firstString);
    if (wouldHoldItself(first, node)) contradicts(decided, 'the type would be a list or map of itself');
    record({
      place: node.pointer,
      rule: 'sharing',
      decision: `same type as ${first.pattern}`,
      because: decided.source,
      first: node.facts.firstObject,
    });
    unify(first, node);
  };
  for (const node of nodes) {
    const said = saidOf(node);
    const named = said.get('name');
    if (named !== undefined) {
      const target = recordAt(node);
      target.use.said = new Map([...target.use.said, ['name', named]]);
      const first = byName.get(named.value)?.self();
      if (first === undefined) byName.set(named.value, target);
      else join(first, target, named);
    }
    const same = said.get('same');
    if (same === undefined) continue;
    const other = nodes.find((each) => each.pointer === same.value);
    if (other === undefined) contradicts(same, 'there is no such place');
    join(recordAt(other), recordAt(node), same);
  }
}

/** What was decided about a type at any of its places. */
export function saidOf(node: Node): Said {
  return node.members.reduce<Said>(
    (all, { use }) =>
      all.size === 0 ? use.said : use.said.size === 0 ? all : new Map([...use.said, ...all]),
    nothing,
  );
}
