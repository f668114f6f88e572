import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { languages } from '../../src/languages/index.js';
import { unknownRules } from '../../src/languages/language.js';
import { checkStyle } from '../../src/workbench/check.js';
import { infer, languagesHere, patient, payloadsOf } from '../support.js';
import { unlessBrief } from '../effort.js';
import { cases } from './cases.js';

const here = await languagesHere();
const variants = languages.flatMap((language) =>
  language.styles.filter(({ variantOf }) => variantOf !== undefined).map((style) => ({ language, style })),
);

/** What the other style of the same text does not show: functions, words, initialisers, and unions of every kind. */
const wanted = new Set([
  'the four states of a record, a list or a flag',
  'a union told apart by a tag',
  'a closed choice',
  'a tuple with records and nulls',
  'a type inside itself, at times',
  'tricky keys all together',
]);
const some = cases.filter(({ name }) => wanted.has(name));

test('what variants are tried with is there', () => {
  expect(some.map(({ name }) => name).sort()).toEqual([...wanted].sort());
  expect(variants.map(({ language, style }) => `${language.name} ${style.name}`)).toEqual([
    'cpp header',
    'swift public',
  ]);
});

describe.concurrent.each(variants)('$language.name $style.name', ({ language, style }) => {
  const isHere = here.some(({ name }) => name === language.name);
  // Each case by one rule, and all rules are there.
  test
    .runIf(isHere)
    .for(unlessBrief(some.map((each, i) => ({ ...each, unknown: unknownRules[i % unknownRules.length]! }))))(
    'loses nothing of $name, where what it does not know is to $unknown',
    async ({ payloads, unknown }) => {
      const model = buildModel(infer(payloads).schema);
      const result = await checkStyle(language, style, model, 's.json', payloadsOf(payloads), {
        strict: false,
        pedantic: true,
        unknown,
        limits: patient,
      });
      expect(result.reason).toBeUndefined();
      expect(result.findings.filter(({ severity }) => severity === 'loss')).toEqual([]);
      expect(result.returned).toBe(payloads.length);
    },
  );
});
