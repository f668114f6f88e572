import { SkevoError } from '../error.js';
import { formatPlace, parsePlace, type PlaceStep } from '../json/pointer.js';
import { excerptOf, type Source } from '../json/source.js';
import { json, membersByKey, type JsonKind, type JsonMember, type JsonValue } from '../json/value.js';
import { nearest } from '../nearest.js';
import { armsOf } from '../schema/conform.js';
import { impliedTypes, type Schema, type TypeName } from '../schema/schema.js';
import { spoken, steps as known, StepTrouble, type Step } from './steps.js';

/** How one value of the target comes about. */
export interface Entry {
  readonly target: readonly PlaceStep[];
  /** Where it comes from; missing for a constant. */
  readonly source: readonly PlaceStep[] | undefined;
  readonly value: JsonValue | undefined;
  readonly steps: readonly Step[];
  /** Where it stands in the mapping's file. */
  readonly offset: number;
}

export interface Mapping {
  readonly entries: readonly Entry[];
  readonly from: Schema;
  readonly to: Schema;
}

/** What a mapping leaves out. */
export interface Uncarried {
  /** Places of the source that nothing carries. */
  readonly sources: readonly string[];
}

const kindOfType: Readonly<Record<TypeName, JsonKind>> = {
  null: 'null',
  boolean: 'boolean',
  integer: 'number',
  number: 'number',
  string: 'string',
  array: 'list',
  object: 'object',
};

/**
 * A mapping from what its file says, checked against both schemas.
 * @param root the document of the file
 * @throws SkevoError with the place in the file of the first entry that cannot be followed, and the nearest that can
 */
export function readMapping(root: JsonValue, source: Source, from: Schema, to: Schema): Mapping {
  const fail = (at: number, message: string, remedy: string): never => {
    throw new SkevoError(message, remedy, excerptOf(source, at));
  };
  const fields = root.kind === 'object' ? membersByKey(root).get('fields')?.value : undefined;
  if (root.kind === 'object')
    for (const { key, keyStart } of root.members)
      if (!['from', 'to', 'fields'].includes(key))
        fail(keyStart, `a mapping has no key ${JSON.stringify(key)}`, 'It has from, to and fields.');
  if (fields?.kind !== 'object')
    return fail(
      root.start,
      'a mapping has fields: places of the target, and where they come from',
      'See docs/convert.md.',
    );
  const entries = fields.members.map((member) => readEntry(member, fail, from, to));
  const targets = new Set<string>();
  for (const { target, offset } of entries) {
    const place = formatPlace(target);
    if (targets.has(place)) fail(offset, `${place} is filled twice`, 'Keep one.');
    targets.add(place);
  }
  for (const { target, offset } of entries)
    for (let i = 1; i < target.length; i++) {
      const around = formatPlace(target.slice(0, i));
      if (targets.has(around))
        fail(offset, `${formatPlace(target)} is a part of ${around}, which is filled whole`, 'Keep one.');
    }
  checkLists(entries, fail);
  checkRequired(to, entries, root.start, fail);
  return { entries, from, to };
}

type Fail = (at: number, message: string, remedy: string) => never;

function readEntry({ key, keyStart, value }: JsonMember, fail: Fail, from: Schema, to: Schema): Entry {
  const target = parsePlace(key);
  if (target === undefined || target.length === 0)
    return fail(
      keyStart,
      `${JSON.stringify(key)} is no place`,
      'A place begins with /, such as /vessel/name or /legs/*/pier.',
    );
  checkPlace(target, to, 'target', keyStart, fail);
  const given = value.kind === 'object' ? membersByKey(value) : undefined;
  const said = given?.get('from')?.value ?? (value.kind === 'string' ? value : undefined);
  const constant = given?.get('value')?.value;
  if (given !== undefined)
    for (const { key: word, keyStart: at } of given.values())
      if (!['from', 'value', 'steps'].includes(word)) {
        const near = nearest(word, ['from', 'value', 'steps']);
        fail(
          at,
          `there is no ${JSON.stringify(word)} here`,
          near === undefined ? 'There are from, value and steps.' : `Did you mean ${near}?`,
        );
      }
  if ((said === undefined) === (constant === undefined))
    return fail(
      value.start,
      `${key} comes from a place, or has a value`,
      `Write ${key}: /place, or { value: ... }.`,
    );
  const chain = readSteps(given?.get('steps')?.value, fail);
  if (said === undefined) {
    checkKinds([constant!.kind], chain, target, to, value.start, fail);
    return { target, source: undefined, value: constant!, steps: chain, offset: keyStart };
  }
  const source = said.kind === 'string' ? parsePlace(said.value) : undefined;
  if (source === undefined)
    return fail(
      said.start,
      `${said.kind === 'string' ? JSON.stringify(said.value) : 'this'} is no place`,
      'A place begins with /, such as /vessel/name or /stops/*/name.',
    );
  checkPlace(source, from, 'source', said.start, fail);
  const extra = starsIn(source) > starsIn(target);
  checkKinds(extra ? ['list'] : kindsAt(source, from)!, chain, target, to, said.start, fail);
  return { target, source, value: undefined, steps: chain, offset: keyStart };
}

function readSteps(value: JsonValue | undefined, fail: Fail): Step[] {
  if (value === undefined) return [];
  const items = value.kind === 'list' ? value.items : [value];
  return items.map((item) => {
    const [word, argument] =
      item.kind === 'string'
        ? [item.value, undefined]
        : item.kind === 'object' && item.members.length === 1
          ? [item.members[0]!.key, item.members[0]!.value]
          : fail(
              item.start,
              'a step is a word, or a word with what it needs',
              'Such as trim, or split: ",".',
            );
    const make = known.get(word);
    if (make === undefined) {
      const near = nearest(word, [...known.keys()]);
      return fail(
        item.start,
        `there is no step ${JSON.stringify(word)}`,
        near === undefined ? `There are ${[...known.keys()].join(', ')}.` : `Did you mean ${near}?`,
      );
    }
    const made = make(argument);
    return typeof made === 'string' ? fail(item.start, made, 'See docs/convert.md.') : made;
  });
}

/** @throws SkevoError when a schema knows no such place, with the nearest key */
function checkPlace(place: readonly PlaceStep[], schema: Schema, side: string, at: number, fail: Fail): void {
  let here = armsOf(schema, schema);
  place.forEach((step, i) => {
    const next = here.flatMap((arm) => below(arm, step)).flatMap((each) => armsOf(each, schema));
    if (next.length === 0) {
      const keys = [...new Set(here.flatMap((arm) => [...(arm.properties?.keys() ?? [])]))];
      const near = step === 'every' ? undefined : nearest(step.key, keys);
      const around = formatPlace(place.slice(0, i)) || 'the top';
      fail(
        at,
        `the ${side} has no ${step === 'every' ? 'list or map' : JSON.stringify(step.key)} at ${around}`,
        near === undefined
          ? keys.length === 0
            ? 'skevo outline shows the places of payloads.'
            : `There are ${keys.slice(0, 8).join(', ')}.`
          : `Did you mean ${formatPlace([...place.slice(0, i), { key: near }, ...place.slice(i + 1)])}?`,
      );
    }
    here = next;
  });
}

/** The schemas of what a step leads to. */
function below(arm: Schema, step: PlaceStep): Schema[] {
  const { properties, additionalProperties, items, prefixItems } = arm;
  if (step === 'every') {
    const all = [...(prefixItems ?? []), ...(typeof items === 'object' ? [items] : [])];
    if (properties === undefined && typeof additionalProperties === 'object') all.push(additionalProperties);
    return all.length === 0 && (arm.type?.includes('array') ?? false) ? [{}] : all;
  }
  const own = properties?.get(step.key);
  if (own !== undefined) return [own];
  if (/^\d+$/.test(step.key) && arm.type?.includes('array')) return below(arm, 'every');
  return typeof additionalProperties === 'object' ? [additionalProperties] : [];
}

/** The kinds that values at a place may have; undefined where there is no such place, all for what may be anything. */
export function kindsAt(place: readonly PlaceStep[], schema: Schema): JsonKind[] | undefined {
  const here = schemasAt(place, schema);
  return here.length === 0 ? undefined : [...new Set(here.flatMap(kindsOf))];
}

/** The format that values at a place have, where it is one of texts; `double-int` and the like say nothing of kinds. */
export function formatAt(place: readonly PlaceStep[], schema: Schema): string | undefined {
  const formats = schemasAt(place, schema).flatMap(({ format, type }) =>
    type?.includes('string') ? [format] : [],
  );
  return formats.length === 1 ? formats[0] : undefined;
}

function schemasAt(place: readonly PlaceStep[], schema: Schema): readonly Schema[] {
  let here = armsOf(schema, schema);
  for (const step of place)
    here = here.flatMap((arm) => below(arm, step)).flatMap((each) => armsOf(each, schema));
  return here;
}

function kindsOf(schema: Schema): JsonKind[] {
  const types = schema.type ?? impliedTypes(schema);
  if (types.length > 0) return types.map((type) => kindOfType[type]);
  const values = schema.enum ?? (schema.const === undefined ? undefined : [schema.const]);
  return values?.map(({ kind }) => kind) ?? ['null', 'boolean', 'number', 'string', 'list', 'object'];
}

/** @throws SkevoError when the steps make nothing that the target takes of what the source has */
function checkKinds(
  given: readonly JsonKind[],
  chain: readonly Step[],
  target: readonly PlaceStep[],
  to: Schema,
  at: number,
  fail: Fail,
): void {
  let kinds: JsonKind[] = given.filter((kind) => kind !== 'null');
  let isSure = true;
  for (const each of chain) {
    const taken = kinds.filter((kind) => each.takes.includes(kind));
    if (kinds.length > 0 && taken.length === 0)
      fail(
        at,
        `"${each.word}" takes ${spoken(each.takes)}, and gets ${spoken(kinds)}`,
        'Put another step before it.',
      );
    kinds = each.fillsGaps ? [...new Set([...kinds, ...each.gives])] : [...each.gives];
    isSure &&= each.word !== 'first' && each.word !== 'last';
  }
  const wanted = kindsAt(target, to)!;
  const fitting = kinds.filter((kind) => wanted.includes(kind));
  if (
    kinds.length > 0 &&
    (fitting.length === 0 || (isSure && chain.length === 0 && fitting.length < kinds.length))
  ) {
    const misfits = kinds.filter((kind) => !wanted.includes(kind));
    fail(
      at,
      `${formatPlace(target)} takes ${spoken(wanted)}, and gets ${spoken(misfits)}`,
      conversionOf(misfits[0]!, wanted) ?? 'Give it steps that make it so.',
    );
  }
}

/** The step that makes one kind another. */
export function stepBetween(from: JsonKind, wanted: readonly JsonKind[]): string | undefined {
  if (from === 'string' && wanted.includes('number')) return 'number';
  if (from === 'string' && wanted.includes('boolean')) return 'boolean';
  if ((from === 'number' || from === 'boolean') && wanted.includes('string')) return 'text';
  if (from === 'list' && !wanted.includes('list')) return 'first';
  return undefined;
}

function conversionOf(from: JsonKind, wanted: readonly JsonKind[]): string | undefined {
  const word = stepBetween(from, wanted);
  return word === undefined ? undefined : `Give it steps: [${word}].`;
}

export function starsIn(place: readonly PlaceStep[]): number {
  return place.filter((step) => step === 'every').length;
}

/** Up to and with the star of a number, from 0. */
function upToStar(place: readonly PlaceStep[], number: number): readonly PlaceStep[] | undefined {
  let count = 0;
  for (const [i, step] of place.entries())
    if (step === 'every' && count++ === number) return place.slice(0, i + 1);
  return undefined;
}

/** @throws SkevoError when elements of one list of the target come from different lists */
function checkLists(entries: readonly Entry[], fail: Fail): void {
  const sources = new Map<string, string>();
  for (const { target, source, offset } of entries) {
    if (source === undefined) continue;
    for (let i = 0; i < starsIn(target); i++) {
      const list = formatPlace(upToStar(target, i)!);
      const own = upToStar(source, i);
      if (own === undefined) continue;
      const from = formatPlace(own);
      const before = sources.get(list);
      if (before !== undefined && before !== from)
        fail(
          offset,
          `the elements of ${list} come from ${before} and from ${from}`,
          'A list comes from one list.',
        );
      sources.set(list, from);
    }
  }
  for (const { target, offset } of entries)
    for (let i = 0; i < starsIn(target); i++) {
      const list = formatPlace(upToStar(target, i)!);
      if (!sources.has(list))
        fail(
          offset,
          `nothing says how many elements ${list} has`,
          `Let something in it come from a list, as ${list}: /places/*.`,
        );
    }
}

/** @throws SkevoError for what the target must have and nothing fills */
function checkRequired(to: Schema, entries: readonly Entry[], at: number, fail: Fail): void {
  const targets = entries.map(({ target }) => formatPlace(target));
  const visit = (schema: Schema, place: readonly PlaceStep[], depth: number): void => {
    if (depth > 20) return;
    const arms = armsOf(schema, to).filter((arm) => arm.properties !== undefined);
    // Of several alternatives, any may be meant.
    if (arms.length !== 1) return;
    for (const [key, property] of arms[0]!.properties!) {
      const own = [...place, { key }];
      const shown = formatPlace(own);
      const isFilled = targets.includes(shown);
      const isBegun = targets.some((each) => each.startsWith(`${shown}/`));
      if (!isFilled && !isBegun && arms[0]!.required?.includes(key))
        fail(
          at,
          `nothing fills ${shown}, which the target must have`,
          `Add ${shown}: and where it comes from, or a value.`,
        );
      if (isBegun) {
        const lists = armsOf(property, to).filter((arm) => typeof arm.items === 'object');
        if (lists.length === 1 && targets.some((each) => each.startsWith(`${shown}/*`)))
          visit(lists[0]!.items as Schema, [...own, 'every'], depth + 1);
        else visit(property, own, depth + 1);
      }
    }
  };
  visit(to, [], 0);
}

/** The places of a source's scalars that no entry carries. */
export function uncarried({ entries, from }: Mapping): string[] {
  const carried = entries.flatMap(({ source }) => (source === undefined ? [] : [formatPlace(source)]));
  return leavesOf(from).filter(
    (place) => !carried.some((each) => place === each || place.startsWith(`${each}/`) || each === ''),
  );
}

/** The places of all scalars, lists of them and of what may be anything, in the order of the schema; what recurs ends. */
export function leavesOf(schema: Schema): string[] {
  const leaves: string[] = [];
  const visit = (here: Schema, place: readonly PlaceStep[], open: readonly Schema[]): void => {
    const arms = armsOf(here, schema);
    let isLeaf = arms.length === 0;
    const seen = new Set<string>();
    for (const arm of arms) {
      if (open.includes(arm)) continue;
      const inside = [...open, arm];
      const once = (step: PlaceStep, each: Schema): void => {
        const next = [...place, step];
        const shown = formatPlace(next);
        if (!seen.has(shown)) visit(each, next, inside);
        seen.add(shown);
      };
      for (const [key, property] of arm.properties ?? []) once({ key }, property);
      if (typeof arm.items === 'object') once('every', arm.items);
      else if (arm.properties === undefined && typeof arm.additionalProperties === 'object')
        once('every', arm.additionalProperties);
      else if (arm.properties === undefined && !(arm.type?.length === 1 && arm.type[0] === 'null'))
        isLeaf = true;
    }
    if (isLeaf) leaves.push(formatPlace(place));
  };
  visit(schema, [], []);
  return leaves.filter((place, i) => leaves.indexOf(place) === i);
}

/** Why a payload cannot be mapped. */
export interface MapTrouble {
  /** Where the source's value stands. */
  readonly value: JsonValue;
  readonly message: string;
}

/** The payload of the target that a mapping makes of one of the source, or why there is none. */
export function mapped({ entries }: Mapping, payload: JsonValue): JsonValue | MapTrouble {
  try {
    return build(entries, [], [], payload) ?? json.object([]);
  } catch (error) {
    if (error instanceof Refused) return { value: error.value, message: error.message };
    throw error;
  }
}

class Refused extends Error {
  constructor(
    readonly value: JsonValue,
    message: string,
  ) {
    super(message);
  }
}

/** @param at the place in the target; @param indices of the elements of the source's lists that it is for */
function build(
  entries: readonly Entry[],
  at: readonly PlaceStep[],
  indices: readonly string[],
  payload: JsonValue,
): JsonValue | undefined {
  const [whole] = entries.filter(({ target }) => target.length === at.length);
  if (whole !== undefined) return valueOf(whole, indices, payload);
  const next = new Map<string, Entry[]>();
  for (const entry of entries) {
    const step = entry.target[at.length]!;
    const shown = step === 'every' ? '*' : `/${step.key}`;
    next.set(shown, [...(next.get(shown) ?? []), entry]);
  }
  const elements = next.get('*');
  if (elements !== undefined) return buildList(elements, [...at, 'every'], indices, payload);
  const members: [string, JsonValue][] = [];
  for (const inner of next.values()) {
    const step = inner[0]!.target[at.length] as { readonly key: string };
    const value = build(inner, [...at, step], indices, payload);
    if (value !== undefined) members.push([step.key, value]);
  }
  return members.length === 0 ? undefined : json.object(members);
}

function buildList(
  entries: readonly Entry[],
  at: readonly PlaceStep[],
  indices: readonly string[],
  payload: JsonValue,
): JsonValue | undefined {
  const leading = entries.find(({ source }) => source !== undefined && starsIn(source) > indices.length)!;
  const list = found(payload, upToStar(leading.source!, indices.length)!.slice(0, -1), indices);
  if (list === undefined || list.kind === 'null') return undefined;
  const keys =
    list.kind === 'list'
      ? list.items.map((_, i) => String(i))
      : list.kind === 'object'
        ? [...membersByKey(list).keys()]
        : undefined;
  if (keys === undefined) throw new Refused(list, `a list was expected here, found ${list.kind}`);
  return json.list(keys.map((key) => build(entries, at, [...indices, key], payload) ?? json.object([])));
}

function valueOf(
  { source, value, steps, target }: Entry,
  indices: readonly string[],
  payload: JsonValue,
): JsonValue | undefined {
  const original = source === undefined ? value : collected(payload, source, indices);
  let here = original;
  for (const each of steps) {
    try {
      here = each.change(here);
    } catch (error) {
      if (!(error instanceof StepTrouble)) throw error;
      throw new Refused(original ?? payload, `${formatPlace(target)}: ${error.message}`);
    }
  }
  return here;
}

/** What stands at a place; where it has more stars than there are indices, a list of all. */
function collected(
  payload: JsonValue,
  place: readonly PlaceStep[],
  indices: readonly string[],
): JsonValue | undefined {
  const star = starsIn(place) > indices.length ? upToStar(place, indices.length)! : undefined;
  if (star === undefined) return found(payload, place, indices);
  const list = found(payload, star.slice(0, -1), indices);
  if (list?.kind !== 'list') return list;
  const items = list.items.flatMap((_, i) => {
    const each = collected(payload, place, [...indices, String(i)]);
    return each === undefined
      ? []
      : starsIn(place) > indices.length + 1 && each.kind === 'list'
        ? each.items
        : [each];
  });
  return { ...json.list(items), start: list.start, end: list.end };
}

function found(
  payload: JsonValue,
  place: readonly PlaceStep[],
  indices: readonly string[],
): JsonValue | undefined {
  let here: JsonValue | undefined = payload;
  let star = 0;
  for (const step of place) {
    const key: string | undefined = step === 'every' ? indices[star++] : step.key;
    if (key === undefined || here === undefined) return undefined;
    here =
      here.kind === 'list'
        ? here.items[Number(key)]
        : here.kind === 'object'
          ? membersByKey(here).get(key)?.value
          : undefined;
  }
  return here;
}
