import { formatPlace, parsePlace, type PlaceStep } from '../json/pointer.js';
import { singular, wordsOf } from '../words.js';
import type { Schema } from '../schema/schema.js';
import { formatAt, kindsAt, leavesOf, starsIn, stepBetween } from './mapping.js';

/** One line of a first mapping. */
export interface DraftLine {
  readonly target: string;
  readonly source: string;
  readonly steps: readonly string[];
}

/** A first mapping: what joins by its name, and what is left over on either side. */
export interface Draft {
  readonly lines: readonly DraftLine[];
  /** Targets that nothing is called as, with what is called most alike. */
  readonly open: readonly {
    readonly target: string;
    readonly isRequired: boolean;
    readonly candidates: readonly string[];
  }[];
  readonly left: readonly string[];
}

/** How many places are named as candidates. */
const mostCandidates = 3;

/** Joins equal names of two schemas, whatever their casing and number, lists to lists. */
export function draftMapping(from: Schema, to: Schema): Draft {
  const sources = leavesOf(from).map((place) => ({ place, steps: parsePlace(place)! }));
  const used = new Set<string>();
  const lines: DraftLine[] = [];
  const open: { target: string; isRequired: boolean; candidates: string[] }[] = [];
  const lists = new Map<string, string>();
  for (const target of leavesOf(to)) {
    const steps = parsePlace(target)!;
    const alike = sources
      .map((each) => ({ ...each, score: likeness(each.steps, steps) }))
      .filter(({ score, place }) => score > 0 && !used.has(place))
      .sort((a, b) => b.score - a.score);
    const best = alike.find((each) => each.score >= sameName && joins(each.steps, steps, lists));
    if (best === undefined) {
      open.push({
        target,
        isRequired: isRequired(to, steps),
        candidates: alike.slice(0, mostCandidates).map(({ place }) => place),
      });
      continue;
    }
    used.add(best.place);
    noteLists(best.steps, steps, lists);
    const given = kindsAt(best.steps, from)!.filter((kind) => kind !== 'null');
    const wanted = kindsAt(steps, to)!;
    const misfit = given.find((kind) => !wanted.includes(kind));
    const needed = [
      ...(starsIn(best.steps) > starsIn(steps) ? ['first'] : []),
      ...(misfit === undefined ? [] : [stepBetween(misfit, wanted) ?? []].flat()),
    ];
    lines.push({ target, source: best.place, steps: needed });
  }
  const left = sources.filter(({ place }) => !used.has(place));
  return {
    lines,
    // What is called otherwise may still be of the same kind.
    open: open.map((each) => ({
      ...each,
      candidates:
        each.candidates.length > 0
          ? each.candidates
          : left
              .filter(({ steps }) => isOfKind(from, steps, to, parsePlace(each.target)!))
              .slice(0, mostCandidates)
              .map(({ place }) => place),
    })),
    left: left.map(({ place }) => place),
  };
}

/** The likeness of places with the same last key. */
const sameName = 10;

/** How alike two places are by their keys: the last counts most. */
function likeness(source: readonly PlaceStep[], target: readonly PlaceStep[]): number {
  const [a, b] = [namesOf(source), namesOf(target)];
  const [own, other] = [a.at(-1), b.at(-1)];
  if (own === undefined || other === undefined) return 0;
  if (own !== other) {
    const [first, second] = [own.split(' '), other.split(' ')];
    const shared = first.filter((word) => second.includes(word)).length;
    return shared === 0 ? 0 : shared / Math.max(first.length, second.length);
  }
  let score = sameName;
  for (let i = 2; i <= Math.min(a.length, b.length); i++) if (a.at(-i) === b.at(-i)) score += 2;
  return score - Math.abs(a.length - b.length) * 0.1;
}

function namesOf(place: readonly PlaceStep[]): string[] {
  return place.flatMap((step) =>
    step === 'every'
      ? []
      : [
          singular(wordsOf(step.key.replace(/^[@#]/, '')))
            .map((word) => word.toLowerCase())
            .join(' '),
        ],
  );
}

/** Whether values at two places are of the same kind and format, and neither is one of many texts without any. */
function isOfKind(
  from: Schema,
  source: readonly PlaceStep[],
  to: Schema,
  target: readonly PlaceStep[],
): boolean {
  const kinds = (schema: Schema, place: readonly PlaceStep[]) =>
    kindsAt(place, schema)!
      .filter((kind) => kind !== 'null')
      .join(' ');
  const [own, other] = [kinds(from, source), kinds(to, target)];
  return (
    own === other && starsIn(source) === starsIn(target) && formatAt(source, from) === formatAt(target, to)
  );
}

/** Whether the lists of two places may be one another's. */
function joins(
  source: readonly PlaceStep[],
  target: readonly PlaceStep[],
  lists: ReadonlyMap<string, string>,
): boolean {
  if (starsIn(source) < starsIn(target)) return false;
  return listsOf(target).every((list, i) => {
    const before = lists.get(list);
    return before === undefined || before === listsOf(source)[i];
  });
}

function noteLists(
  source: readonly PlaceStep[],
  target: readonly PlaceStep[],
  lists: Map<string, string>,
): void {
  listsOf(target).forEach((list, i) => lists.set(list, listsOf(source)[i]!));
}

function listsOf(place: readonly PlaceStep[]): string[] {
  return place.flatMap((step, i) => (step === 'every' ? [formatPlace(place.slice(0, i + 1))] : []));
}

function isRequired(schema: Schema, place: readonly PlaceStep[]): boolean {
  let here: Schema | undefined = schema;
  for (const step of place) {
    while (here?.$ref !== undefined)
      here = here.$ref === '#' ? schema : schema.$defs?.get(decodeName(here.$ref));
    if (step === 'every') here = typeof here?.items === 'object' ? here.items : undefined;
    else {
      if (!here?.required?.includes(step.key)) return false;
      here = here.properties?.get(step.key);
    }
  }
  return true;
}

function decodeName(reference: string): string {
  return reference.replace(/^.*\//, '').replace(/~1/g, '/').replace(/~0/g, '~');
}
