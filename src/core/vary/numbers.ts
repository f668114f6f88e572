import { multiplesAround, widthOfFormat, type IntegerWidth } from '../json/number.js';
import type { Schema } from '../schema/schema.js';

const ranges: Readonly<Record<IntegerWidth, readonly [least: string, most: string]>> = {
  int32: ['-2147483648', '2147483647'],
  'double-int': ['-9007199254740991', '9007199254740991'],
  // Jackson refuses the very ends of 64 bits.
  int64: ['-9007199254740993', '9007199254740993'],
  unbounded: ['-123456789012345678901', '123456789012345678901'],
};

/** Numbers that a schema takes, as JSON writes them: one of the usual ones first, then the bounds, then others. */
export function numbersOf(schema: Schema, type: 'integer' | 'number'): string[] {
  const isInteger = type === 'integer';
  const [low, high] = isInteger ? ranges[widthOfFormat(schema.format)] : [];
  const keyword = (name: string): string | undefined => {
    const value = schema.other?.get(name);
    return value?.kind === 'number' ? value.text : undefined;
  };
  const step = keyword('multipleOf');
  if (step !== undefined) return multiplesOf(step, keyword).filter((each) => isWithin(each, keyword));
  const nudged = (text: string | undefined, by: number) =>
    text === undefined ? undefined : String(Number(text) + (isInteger ? by : by / 2));
  const candidates = [
    '7',
    keyword('minimum'),
    keyword('maximum'),
    nudged(keyword('exclusiveMinimum'), 1),
    nudged(keyword('exclusiveMaximum'), -1),
    '0',
    '-1',
    ...(isInteger ? [] : ['0.5', '-12.25']),
    ...(!isInteger && schema.format === 'decimal' ? ['0.1234567890123456789'] : []),
    low,
    high,
  ];
  const found = [...new Set(candidates.filter((each) => each !== undefined))].filter((each) =>
    isWithin(each, keyword),
  );
  const least = Number(keyword('minimum') ?? keyword('exclusiveMinimum') ?? 0);
  return found.length > 0 ? found : [String(Math.ceil(least))];
}

function isWithin(text: string, keyword: (name: string) => string | undefined): boolean {
  const value = Number(text);
  return (
    value >= Number(keyword('minimum') ?? -Infinity) &&
    value <= Number(keyword('maximum') ?? Infinity) &&
    value > Number(keyword('exclusiveMinimum') ?? -Infinity) &&
    value < Number(keyword('exclusiveMaximum') ?? Infinity)
  );
}

/** Multiples of a step, to the digit: the least ones, and those next to the bounds. */
function multiplesOf(step: string, keyword: (name: string) => string | undefined): string[] {
  const bounds = ['minimum', 'exclusiveMinimum', 'maximum', 'exclusiveMaximum'].map(keyword);
  // Where a bound is no value itself, the next is.
  const near = bounds.flatMap((bound) =>
    bound === undefined ? [] : [0, 1, -1].map((steps) => Number(bound) + steps * Number(step)),
  );
  const found = [3 * Number(step), ...near]
    .filter(Number.isFinite)
    .flatMap((each) => multiplesAround(String(each), step));
  return [...new Set([step, '0', ...found])];
}
