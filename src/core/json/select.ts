import { SkevoError } from '../error.js';
import { nearest } from '../nearest.js';
import { extend } from '../extend.js';
import { formatPlace, type PlaceStep, type Selector } from './pointer.js';
import { excerptOf, type Source } from './source.js';
import { membersByKey, type JsonValue } from './value.js';

/** A value found by a place, with the reference tokens that lead to it. */
export interface Selected {
  readonly value: JsonValue;
  readonly tokens: readonly string[];
}

/**
 * The values that a place stands for in a document, in document order. An empty list or object where every part was asked
 * for gives nothing and lacks nothing.
 * @param missed told of every value that lacks the next step: a key that is missing, or parts where there are none
 */
export function selectPlace(
  root: JsonValue,
  steps: Selector,
  source: Source,
  missed: (error: () => SkevoError) => void,
): Selected[] {
  let found: Selected[] = [{ value: root, tokens: [] }];
  let isSearch = false;
  steps.forEach((step, index) => {
    if (step === 'any depth') {
      found = [...new Map(found.flatMap(within).map((each) => [each.value, each])).values()];
      isSearch = true;
      return;
    }
    const next: Selected[] = [];
    for (const each of found) {
      const parts = partsAt(each, step, source.origin?.hasNoLists);
      if (parts !== undefined) for (const part of parts) next.push(part);
      else if (!isSearch) missed(() => lacking(each.value, steps, index, source));
    }
    if (isSearch && next.length === 0)
      missed(
        () =>
          new SkevoError(
            `--at finds nothing at ${formatPlace(steps.slice(0, index + 1))}`,
            'Run skevo outline on this file to see its places.',
            excerptOf(source, root.start),
          ),
      );
    // What is looked for may be inside what was found.
    if (isSearch) next.sort((a, b) => a.value.start - b.value.start);
    isSearch = false;
    found = next;
  });
  return found;
}

/** A value and all that are in it, each before what it holds. */
function within(top: Selected): Selected[] {
  const all: Selected[] = [];
  const waiting = [top];
  for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
    all.push(each);
    const { kind } = each.value;
    if (kind === 'list' || kind === 'object') extend(waiting, partsAt(each, 'every')!.reverse());
  }
  return all;
}

/**
 * What a step leads to from a value; undefined when it leads nowhere.
 * @param hasNoLists whether what stands alone may be one of a list
 */
function partsAt({ value, tokens }: Selected, step: PlaceStep, hasNoLists = false): Selected[] | undefined {
  if (step === 'every') {
    if (hasNoLists && value.kind !== 'list') return [{ value, tokens: [...tokens, '0'] }];
    if (value.kind === 'list')
      return value.items.map((item, i) => ({ value: item, tokens: [...tokens, String(i)] }));
    if (value.kind !== 'object') return undefined;
    return [...membersByKey(value).values()].map((each) => ({
      value: each.value,
      tokens: [...tokens, each.key],
    }));
  }
  const hit =
    value.kind === 'list' && /^\d+$/.test(step.key)
      ? value.items[Number(step.key)]
      : value.kind === 'object'
        ? membersByKey(value).get(step.key)?.value
        : undefined;
  return hit === undefined ? undefined : [{ value: hit, tokens: [...tokens, step.key] }];
}

/** Why a step leads nowhere from a value. */
function lacking(value: JsonValue, steps: Selector, index: number, source: Source): SkevoError {
  const step = steps[index]!;
  const here = formatPlace(steps.slice(0, index)) || 'the top';
  if (step === 'every' || step === 'any depth')
    return new SkevoError(
      `--at expects a list or an object at ${here}, found ${describe(value)}`,
      'Run skevo outline on this file to see its places.',
      excerptOf(source, value.start),
    );
  if (value.kind !== 'object') {
    const instead =
      value.kind === 'list'
        ? ` Every element of the list is ${formatPlace([...steps.slice(0, index), 'every'])}.`
        : '';
    return new SkevoError(
      `--at expects an object with the key ${JSON.stringify(step.key)} at ${here}, found ${describe(value)}`,
      `Run skevo outline on this file to see its places.${instead}`,
      excerptOf(source, value.start),
    );
  }
  const keys = [...membersByKey(value).keys()];
  const near = nearest(step.key, keys);
  const shown = keys.slice(0, 8).map((key) => JSON.stringify(key));
  const list =
    keys.length === 0
      ? 'no keys at all'
      : `${shown.join(', ')}${keys.length > 8 ? ` and ${keys.length - 8} more` : ''}`;
  return new SkevoError(
    `--at finds no key ${JSON.stringify(step.key)} at ${here}; there is ${list}`,
    near === undefined
      ? 'Run skevo outline on this file to see its places.'
      : `Did you mean ${formatPlace([...steps.slice(0, index), { key: near }, ...steps.slice(index + 1)])}?`,
    excerptOf(source, value.start),
  );
}

function describe(value: JsonValue): string {
  switch (value.kind) {
    case 'null':
      return 'null';
    case 'boolean':
      return String(value.value);
    case 'number':
      return `the number ${value.text}`;
    case 'string':
      return 'a string';
    case 'list':
      return 'a list';
    case 'object':
      return 'an object';
  }
}
