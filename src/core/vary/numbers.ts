import {
  compareNumbers,
  integerOf,
  middleOf,
  multiplesAround,
  rangesOfFormats,
  sumOf,
  widthOfFormat,
  type IntegerWidth,
} from '../json/number.js';
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
  const keyword: Keyword = (name) => {
    const value = schema.other?.get(name);
    return value?.kind === 'number' ? value.text : undefined;
  };
  const range = rangesOfFormats.get(schema.format ?? '');
  const isTaken = (text: string): boolean =>
    isWithin(text, keyword) && (range === undefined || isBetween(text, String(range[0]), String(range[1])));
  const step = keyword('multipleOf');
  if (step !== undefined) return multiplesOf(step, keyword).filter(isTaken);
  const [least, most] = [boundOf('minimum', keyword), boundOf('maximum', keyword)];
  const candidates = [
    '7',
    keyword('minimum'),
    keyword('maximum'),
    ...(isInteger
      ? [least && wholeBeside(least, true), most && wholeBeside(most, false)]
      : [
          least?.isExclusive && sumOf(least.text, '0.5'),
          most?.isExclusive && sumOf(most.text, '-0.5'),
          least && most && middleOf(least.text, most.text),
        ]),
    '0',
    '-1',
    ...(isInteger ? [] : ['0.5', '-12.25']),
    ...(!isInteger && schema.format === 'decimal' ? ['0.1234567890123456789'] : []),
    low,
    high,
  ];
  const found = [...new Set(candidates.filter((each) => typeof each === 'string'))].filter(
    (each) => isTaken(each) && (!isInteger || integerOf(each) === each),
  );
  return found.length > 0
    ? found
    : [least === undefined ? '0' : (multiplesAround(least.text, '1').at(-1) ?? least.text)];
}

type Keyword = (name: string) => string | undefined;

interface Bound {
  readonly text: string;
  readonly isExclusive: boolean;
}

/** A bound; where there are two of a kind, that which is none of the values. */
function boundOf(name: 'minimum' | 'maximum', keyword: Keyword): Bound | undefined {
  const exclusive = keyword(name === 'minimum' ? 'exclusiveMinimum' : 'exclusiveMaximum');
  const text = exclusive ?? keyword(name);
  return text === undefined ? undefined : { text, isExclusive: exclusive !== undefined };
}

/** The integer nearest to a bound among those that it takes. */
function wholeBeside({ text, isExclusive }: Bound, isLeast: boolean): string | undefined {
  const around = multiplesAround(text, '1');
  const nearest = around.at(isLeast ? -1 : 0);
  return nearest === undefined || !isExclusive || around.length === 2
    ? nearest
    : sumOf(nearest, isLeast ? '1' : '-1');
}

function isBetween(text: string, least: string, most: string): boolean {
  return compareNumbers(text, least) >= 0 && compareNumbers(text, most) <= 0;
}

function isWithin(text: string, keyword: Keyword): boolean {
  const holds = (name: string, keeps: (order: number) => boolean): boolean => {
    const bound = keyword(name);
    return bound === undefined || keeps(compareNumbers(text, bound));
  };
  return (
    holds('minimum', (order) => order >= 0) &&
    holds('maximum', (order) => order <= 0) &&
    holds('exclusiveMinimum', (order) => order > 0) &&
    holds('exclusiveMaximum', (order) => order < 0)
  );
}

/** Multiples of a step, to the digit: the least ones, and those next to the bounds. */
function multiplesOf(step: string, keyword: Keyword): string[] {
  const bounds = ['minimum', 'exclusiveMinimum', 'maximum', 'exclusiveMaximum'].flatMap(
    (name) => keyword(name) ?? [],
  );
  // Where a bound is no value itself, the next is.
  const near = bounds.flatMap((bound) => [
    bound,
    sumOf(bound, step),
    sumOf(bound, `-${step}`.replace('--', '')),
  ]);
  const thrice = sumOf(step, sumOf(step, step) ?? step);
  const found = [thrice, ...near].flatMap((each) => (each === undefined ? [] : multiplesAround(each, step)));
  return [...new Set([step, '0', ...found])];
}
