import { SkevoError } from '../error.js';
import { nearest } from '../nearest.js';
import { formatPlace, type PlaceStep } from './pointer.js';
import { excerptOf, type Source } from './source.js';
import { membersByKey, type JsonValue } from './value.js';

/** A value found by a place, with the reference tokens that lead to it. */
export interface Selected {
  readonly value: JsonValue;
  readonly tokens: readonly string[];
}

/**
 * The values that a place stands for in a document, in document order.
 *
 * @throws SkevoError when a key is missing or a step meets something that has no parts; an empty list or
 *   object where every part was asked for gives nothing and is no error
 */
export function selectPlace(root: JsonValue, steps: readonly PlaceStep[], source: Source): Selected[] {
  let found: Selected[] = [{ value: root, tokens: [] }];
  steps.forEach((step, index) => {
    const next: Selected[] = [];
    for (const { value, tokens } of found) {
      const here = formatPlace(steps.slice(0, index)) || 'the top';
      if (step === 'every') {
        if (value.kind === 'list') {
          value.items.forEach((item, i) => next.push({ value: item, tokens: [...tokens, String(i)] }));
        } else if (value.kind === 'object') {
          for (const each of membersByKey(value).values())
            next.push({ value: each.value, tokens: [...tokens, each.key] });
        } else {
          throw new SkevoError(
            `--at expects a list or an object at ${here}, found ${describe(value)}`,
            'Run skevo outline on this file to see its places.',
            excerptOf(source, value.start),
          );
        }
        continue;
      }
      if (value.kind === 'list' && /^\d+$/.test(step.key)) {
        const item = value.items[Number(step.key)];
        if (item !== undefined) {
          next.push({ value: item, tokens: [...tokens, step.key] });
          continue;
        }
      }
      if (value.kind !== 'object') {
        const instead =
          value.kind === 'list'
            ? ` Every element of the list is ${formatPlace([...steps.slice(0, index), 'every'])}.`
            : '';
        throw new SkevoError(
          `--at expects an object with the key ${JSON.stringify(step.key)} at ${here}, found ${describe(value)}`,
          `Run skevo outline on this file to see its places.${instead}`,
          excerptOf(source, value.start),
        );
      }
      const members = membersByKey(value);
      const hit = members.get(step.key);
      if (hit === undefined) {
        const near = nearest(step.key, members.keys());
        const keys = [...members.keys()];
        const shown = keys.slice(0, 8).map((key) => JSON.stringify(key));
        const list =
          keys.length === 0
            ? 'no keys at all'
            : `${shown.join(', ')}${keys.length > 8 ? ` and ${keys.length - 8} more` : ''}`;
        throw new SkevoError(
          `--at finds no key ${JSON.stringify(step.key)} at ${here}; there is ${list}`,
          near === undefined
            ? 'Run skevo outline on this file to see its places.'
            : `Did you mean ${formatPlace([...steps.slice(0, index), { key: near }, ...steps.slice(index + 1)])}?`,
          excerptOf(source, value.start),
        );
      }
      next.push({ value: hit.value, tokens: [...tokens, step.key] });
    }
    found = next;
  });
  return found;
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
