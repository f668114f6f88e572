import { pascalCase, wordsOf } from '../words.js';
import {
  mapParts,
  mapTypes,
  typesWithin,
  type ChoiceType,
  type RecordType,
  type RootType,
  type Type,
  type TypeModel,
  type UnionType,
} from './types.js';

/** Types of several payloads that stand in one package. */
export interface Merged {
  /** All of them; what is the same in several models is there once. */
  readonly model: TypeModel;
  /** The models with the names that their types have in it, in their order. */
  readonly parts: readonly TypeModel[];
}

/**
 * The types of several models as those of one. Types of one name that are the same, whatever is said of them, are one
 * type; of others of one name, the later get the name of their payload before theirs.
 * @param name what they are called together
 */
export function mergeModels(models: readonly [TypeModel, ...TypeModel[]], name: string): Merged {
  const known = new Map<string, Body>();
  const taken = new Set<string>();
  const parts = models.map((model) => {
    const own = bodiesOf(model);
    const shared = sameBodies(known, own);
    const names = new Map<string, string>();
    // Names that stay are taken before others are looked for.
    for (const each of own.keys()) if (!shared.has(each) && !taken.has(each)) names.set(each, each);
    for (const each of names.values()) taken.add(each);
    for (const each of own.keys()) {
      if (shared.has(each) || names.has(each)) continue;
      const wanted = pascalCase(wordsOf(`${model.name} ${each}`));
      let free = wanted;
      for (let i = 2; taken.has(free); i++) free = `${wanted}${i}`;
      names.set(each, free);
      taken.add(free);
    }
    const part = renamed(model, (each) => names.get(each) ?? each);
    for (const [each, body] of bodiesOf(part)) if (!known.has(each)) known.set(each, body);
    return part;
  });
  const first = <T extends { readonly name: string }>(listOf: (model: TypeModel) => readonly T[]): T[] => {
    const all = new Map<string, T>();
    for (const part of parts)
      for (const each of listOf(part)) if (!all.has(each.name)) all.set(each.name, each);
    return [...all.values()];
  };
  const roots = distinctRoots(parts);
  return {
    model: {
      name,
      root: roots[0].type,
      roots,
      records: first(({ records }) => records),
      choices: first(({ choices }) => choices),
      unions: first(({ unions }) => unions),
    },
    parts: parts.map((part, i) => ({ ...part, roots: [roots[i]!] })),
  };
}

type Body = RecordType | ChoiceType | UnionType;

function bodiesOf({ records, choices, unions }: TypeModel): Map<string, Body> {
  return new Map([...records, ...choices, ...unions].map((each) => [each.name, each]));
}

/** Names under which both have the same type: all of them at first, and none whose parts turn out to differ. */
function sameBodies(a: ReadonlyMap<string, Body>, b: ReadonlyMap<string, Body>): Set<string> {
  const same = new Set([...b.keys()].filter((name) => a.has(name)));
  for (let before = -1; before !== same.size;) {
    before = same.size;
    for (const name of same) {
      const [one, other] = [a.get(name)!, b.get(name)!];
      const isSame = bare(one) === bare(other) && namesIn(one).every((each) => same.has(each));
      if (!isSame) same.delete(name);
    }
  }
  return same;
}

/** A type without what is said of it. */
function bare(body: Body): string {
  return JSON.stringify(body, (key, value: unknown) =>
    key === 'title' || key === 'description' || key === 'deprecated' ? undefined : value,
  );
}

function namesIn(body: Body): string[] {
  return typesOf(body).flatMap((type) =>
    [...typesWithin(type)].flatMap((each) => ('name' in each ? [each.name] : [])),
  );
}

function typesOf(body: Body): readonly Type[] {
  if ('fields' in body)
    return [...body.fields.map(({ type }) => type), ...(body.others === undefined ? [] : [body.others])];
  return 'arms' in body ? body.arms.map(({ type }) => type) : [];
}

function renamed(model: TypeModel, to: (name: string) => string): TypeModel {
  const type = (each: Type): Type =>
    'name' in each ? { ...each, name: to(each.name) } : mapParts(each, type);
  const { records, choices, unions, ...rest } = mapTypes(model, type);
  const named = <T extends { readonly name: string }>(each: T): T => ({ ...each, name: to(each.name) });
  return { ...rest, records: records.map(named), choices: choices.map(named), unions: unions.map(named) };
}

/** The payloads, each by the name of its type where it has one, and all of different names. */
function distinctRoots(parts: readonly TypeModel[]): [RootType, ...RootType[]] {
  const taken = new Set<string>();
  return parts.map(({ roots: [root] }) => {
    const { type } = root;
    const isNamed = type.kind === 'record' || type.kind === 'union' || type.kind === 'choice';
    const wanted = isNamed ? type.name : root.name;
    let name = wanted;
    for (let i = 2; taken.has(pascalCase(wordsOf(name))); i++) name = `${wanted} ${i}`;
    taken.add(pascalCase(wordsOf(name)));
    return { ...root, name };
  }) as [RootType, ...RootType[]];
}
