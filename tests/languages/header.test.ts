import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { languages } from '../../src/languages/index.js';
import { unknownRules } from '../../src/languages/language.js';
import { checkStyle } from '../../src/workbench/check.js';
import { infer, languagesHere, patient, payloadsOf } from '../support.js';
import { cases } from './cases.js';

const cpp = languages.find(({ name }) => name === 'cpp')!;
const style = cpp.styles.find(({ name }) => name === 'header')!;
const isHere = (await languagesHere()).some(({ name }) => name === 'cpp');

/** What the other style compiles on its own, and this one in every source: functions, words, and unions of every kind. */
const wanted = new Set([
  'the four states of a record, a list or a flag',
  'a union told apart by a tag',
  'a closed choice',
  'a tuple with records and nulls',
  'tricky keys all together',
]);

describe.concurrent('headers of C++ alone', () => {
  const some = cases.filter(({ name }) => wanted.has(name));
  test('are of cases that are there', () =>
    expect(some.map(({ name }) => name).sort()).toEqual([...wanted].sort()));

  test.runIf(isHere).for(some.flatMap((each) => unknownRules.map((unknown) => ({ ...each, unknown }))))(
    'lose nothing of $name, where what they do not know is to $unknown',
    async ({ payloads, unknown }) => {
      const model = buildModel(infer(payloads).schema);
      const result = await checkStyle(cpp, style, model, 's.json', payloadsOf(payloads), {
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
