import { integerOf, multiplesAround, widthOfFormat, type IntegerWidth } from '../json/number.js';
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
  const [least, most] = [
    boundOf(keyword('minimum'), keyword('exclusiveMinimum')),
    boundOf(keyword('maximum'), keyword('exclusiveMaximum')),
  ];
  const between = least === undefined || most === undefined ? undefined : String((least + most) / 2);
  const candidates = [
    '7',
    keyword('minimum'),
    keyword('maximum'),
    ...(isInteger
      ? []
      : [nudged(keyword('exclusiveMinimum'), 0.5), nudged(keyword('exclusiveMaximum'), -0.5), between]),
    ...(isInteger ? [least, most].flatMap((each, i) => wholeWithin(each, i === 0, keyword)) : []),
    '0',
    '-1',
    ...(isInteger ? [] : ['0.5', '-12.25']),
    ...(!isInteger && schema.format === 'decimal' ? ['0.1234567890123456789'] : []),
    low,
    high,
  ];
  const found = [...new Set(candidates.filter((each) => each !== undefined))].filter(
    (each) => isWithin(each, keyword) && (!isInteger || integerOf(each) === each),
  );
  return found.length > 0 ? found : [String(Math.ceil(least ?? 0))];
}

function nudged(text: string | undefined, by: number): string | undefined {
  return text === undefined ? undefined : String(Number(text) + by);
}

/** The integer nearest to a bound among those that it takes. */
function wholeWithin(
  bound: number | undefined,
  isLeast: boolean,
  keyword: (name: string) => string | undefined,
): string[] {
  if (bound === undefined) return [];
  const isExclusive = keyword(isLeast ? 'exclusiveMinimum' : 'exclusiveMaximum') !== undefined;
  if (isLeast) return [String(isExclusive ? Math.floor(bound) + 1 : Math.ceil(bound))];
  return [String(isExclusive ? Math.ceil(bound) - 1 : Math.floor(bound))];
}

/** The number of a bound; where there are two of a kind, that which is none of the values. */
function boundOf(bound: string | undefined, exclusive: string | undefined): number | undefined {
  const given = exclusive ?? bound;
  return given === undefined ? undefined : Number(given);
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
