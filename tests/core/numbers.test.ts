import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  compareNumbers,
  isMultipleOf,
  middleOf,
  multiplesAround,
  sumOf,
} from '../../src/core/json/number.js';
import { SchemaValidator } from '../../src/core/schema/apply.js';
import { runsOf } from '../arbitraries.js';
import { bytes, parse } from '../payloads.js';

describe('numbers in order', () => {
  const ordered = [
    '-1e400',
    '-10',
    '-9.5',
    '-1',
    '-1e-400',
    '0',
    '1e-400',
    '0.1',
    '0.12',
    '0.2',
    '1',
    '9.5',
    '10',
    '9007199254740992',
    '9007199254740992.5',
    '9007199254740993',
    '1e16',
    '1e400',
  ];
  test.each(ordered.map((text, i) => [text, i] as const))('%s', (text, i) => {
    const signs = ordered.map((other) => Math.sign(compareNumbers(text, other)));
    expect(signs).toEqual(ordered.map((_, k) => Math.sign(i - k)));
  });

  test.each([
    ['-0', '0.0'],
    ['1e2', '100.0'],
    ['-0.5', '-5e-1'],
  ])('%s is %s', (a, b) => expect(compareNumbers(a, b)).toBe(0));
});

describe('sums and middles to the digit', () => {
  test.each([
    ['9007199254740993', '1', '9007199254740994', '4503599627370497'],
    ['0.1', '0.2', '0.3', '0.15'],
    ['-7', '7', '0', '0'],
    ['0', '-2.5', '-2.5', '-1.25'],
    ['1e3', '0', '1000', '500'],
    ['1e500', '1', undefined, undefined],
    ['0', '1e500', '1e500', '5e499'],
  ])('%s and %s: %s, %s', (a, b, sum, middle) => {
    expect(sumOf(a, b)).toBe(sum);
    expect(sumOf(b, a)).toBe(sum);
    expect(middleOf(a, b)).toBe(middle);
  });
});

describe('multiples to the digit', () => {
  test.each([
    ['19.99', '0.01', true],
    ['19.995', '0.01', false],
    ['0.3', '0.1', true],
    ['0', '7', true],
    ['-0.0', '7', true],
    ['-14', '7', true],
    ['14', '-7', true],
    ['1e2', '2.5e1', true],
    ['7', '0', false],
    ['1e400000', '1e-400000', true],
    ['1e400000', '3', false],
    ['9007199254740993', '3', true],
    ['9007199254740992', '3', false],
    ['0.1', '1e1', false],
  ])('%s is one of %s: %s', (text, of, expected) => {
    expect(isMultipleOf(text, of)).toBe(expected);
  });

  test.each([
    ['100', '0.3', ['99.9', '100.2']],
    ['100', '0.1', ['100']],
    ['-100', '0.3', ['-100.2', '-99.9']],
    ['15', '7', ['14', '21']],
    ['0', '7', ['0']],
    ['1e3', '300', ['900', '1200']],
    ['0.05', '7', ['0', '7']],
    ['7', '0', []],
    ['1e500', '3', []],
    ['5e-401', '1e-401', ['5e-401']],
    ['3e401', '1e401', ['3e401']],
    ['12', '1.5', ['12']],
    ['15', '-7', ['14', '21']],
  ])('around %s those of %s are %j', (text, step, expected) => {
    expect(multiplesAround(text, step)).toEqual(expected);
  });

  const written = fc
    .tuple(fc.integer({ min: -99999, max: 99999 }), fc.integer({ min: 0, max: 6 }))
    .map(([digits, places]) => (digits / 10 ** places).toFixed(places));

  test('are multiples, and what stands between two of them is none', () => {
    fc.assert(
      fc.property(written, written, (text, step) => {
        fc.pre(Number(step) !== 0);
        const found = multiplesAround(text, step);
        for (const each of found) expect(isMultipleOf(each, step)).toBe(true);
        expect(isMultipleOf(text, step)).toBe(found.length === 1);
        if (found.length === 1) expect(Number(found[0])).toBe(Number(text));
        else {
          expect(Number(found[0])).toBeLessThan(Number(text));
          expect(Number(found[1])).toBeGreaterThan(Number(text));
        }
      }),
      { numRuns: runsOf(500) },
    );
  });

  test('are what validation takes for them', () => {
    const schema = { type: 'array', items: { multipleOf: 0.01 } };
    const validator = new SchemaValidator({
      source: { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 },
    });
    const cents = Array.from({ length: 2000 }, (_, i) => (i / 100).toFixed(2));
    expect(validator.failures(parse(`[${cents.join(',')}]`))).toEqual([]);
    expect(validator.failures(parse('[0.001,1.005]')).map(({ pointer }) => pointer)).toEqual(['/0', '/1']);
  });
});
