import type { PlaceStep } from '../json/pointer.js';
import { ModelIndex } from '../roundtrip/trace.js';
import { meets, type ArmTest, type Type, type TypeModel } from './types.js';
import type { JsonValue } from '../json/value.js';

/** One step of the way from a decoded payload to a place in it. */
export type ReachStep =
  /** Into a field. `mayLack`: what is reached may be absent or null; `isBoth`: either of them. */
  | {
      readonly kind: 'field';
      readonly record: string;
      readonly key: string;
      readonly mayLack: boolean;
      readonly isBoth: boolean;
    }
  /** Over the elements of a list or the values of a map; `word` is what one of them may be called, and it may be null. */
  | { readonly kind: 'each'; readonly of: 'list' | 'map'; readonly word: string; readonly mayLack: boolean }
  /** To one position of a tuple. */
  | { readonly kind: 'position'; readonly index: number }
  /** Only when the value is one arm of a union. */
  | {
      readonly kind: 'arm';
      readonly type: Type;
      readonly test: ArmTest;
      readonly union: string;
      /** Its position among the arms. */
      readonly index: number;
    };

/**
 * The way to a place through the types of a model, for a payload that has the place. It ends where the types end.
 * @param tokens the reference tokens of one occurrence; numbers are positions in lists
 */
export function reach(
  model: TypeModel,
  payload: JsonValue,
  tokens: readonly (string | number)[],
): ReachStep[] {
  const index = new ModelIndex(model);
  const steps: ReachStep[] = [];
  let type: Type = model.root;
  let value: JsonValue | undefined = payload;
  let word = model.name;
  for (const token of tokens) {
    if (value === undefined) return steps;
    const declared: Type = type.kind === 'nullable' ? type.of : type;
    const actual = index.typeOf(type, value);
    if (actual === undefined) return steps;
    if (declared.kind === 'union') {
      const { arms } = model.unions.find(({ name }) => name === declared.name)!;
      const at = arms.findIndex((each) => each.type === actual && meets(each.test, value!));
      const test = arms[at]?.test ?? { kind: 'json' };
      steps.push({ kind: 'arm', type: actual, test, union: declared.name, index: at });
    }
    if (actual.kind === 'record' && typeof token === 'string') {
      const field = index.record(actual.name).fields.find(({ key }) => key === token);
      if (field === undefined) return steps;
      steps.push({
        kind: 'field',
        record: actual.name,
        key: token,
        mayLack: !field.required || field.nullable,
        isBoth: !field.required && field.nullable,
      });
      type = field.nullable ? { kind: 'nullable', of: field.type } : field.type;
      word = token;
      value = value.kind === 'object' ? value.members.find(({ key }) => key === token)?.value : undefined;
    } else if (actual.kind === 'map' && typeof token === 'string') {
      steps.push({ kind: 'each', of: 'map', word, mayLack: actual.values.kind === 'nullable' });
      type = actual.values;
      value = value.kind === 'object' ? value.members.find(({ key }) => key === token)?.value : undefined;
    } else if (actual.kind === 'list' && typeof token === 'number') {
      steps.push({ kind: 'each', of: 'list', word, mayLack: actual.items.kind === 'nullable' });
      type = actual.items;
      value = value.kind === 'list' ? value.items[token] : undefined;
    } else if (actual.kind === 'tuple' && typeof token === 'number') {
      steps.push({ kind: 'position', index: token });
      type = actual.items[token]!;
      value = value.kind === 'list' ? value.items[token] : undefined;
    } else {
      return steps;
    }
  }
  return steps;
}

/** The steps of a place through plain parsed JSON, with what an element may be called. */
export type PlainStep =
  | { readonly kind: 'key'; readonly key: string }
  | { readonly kind: 'each'; readonly of: 'list' | 'map'; readonly word: string };

export function plainReach(payload: JsonValue, place: readonly PlaceStep[], root: string): PlainStep[] {
  const steps: PlainStep[] = [];
  let values: JsonValue[] = [payload];
  let word = root;
  for (const step of place) {
    if (step === 'every') {
      const of = values.some(({ kind }) => kind === 'list') ? 'list' : 'map';
      steps.push({ kind: 'each', of, word });
      values = values.flatMap((each) =>
        each.kind === 'list'
          ? each.items
          : each.kind === 'object'
            ? each.members.map(({ value }) => value)
            : [],
      );
    } else {
      steps.push({ kind: 'key', key: step.key });
      word = step.key;
      values = values.flatMap((each) =>
        each.kind === 'object'
          ? each.members.filter(({ key }) => key === step.key).map(({ value }) => value)
          : [],
      );
    }
  }
  return steps;
}
