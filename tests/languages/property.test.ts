import fc from 'fast-check';
import { expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { checkStyle } from '../../src/workbench/check.js';
import { payloadSet } from '../arbitraries.js';
import { fewer } from '../effort.js';
import { infer, isBeyond, languagesFor, mayRound, payloadsOf, patient } from '../support.js';

const here = await languagesFor(0);
/** Compilers that take seconds where others take tenths. */
const slowToBuild = new Set(['cpp', 'go', 'java', 'kotlin', 'r', 'rust', 'scala', 'swift']);

for (const language of here) {
  for (const style of language.styles) {
    test(`whatever the payloads are, ${language.name} ${style.name} loses nothing`, async () => {
      // A build takes most of the time, so many sets of payloads share one: each is a field of the whole.
      const set = payloadSet.filter(
        (texts) => !texts.some((text) => isBeyond(language, style, text) || mayRound(language, style, text)),
      );
      const batch = fc.array(set, { minLength: 12, maxLength: 24 });
      await fc.assert(
        fc.asyncProperty(batch, async (sets) => {
          const rounds = Math.max(...sets.map((set) => set.length));
          const payloads = Array.from(
            { length: rounds },
            (_, round) =>
              `{${sets.flatMap((set, i) => (set[round] === undefined ? [] : [`"set ${i}":${set[round]}`])).join(',')}}`,
          );
          const { schema } = infer(payloads);
          const result = await checkStyle(
            language,
            style,
            buildModel(schema),
            'sailing.schema.json',
            payloadsOf(payloads),
            { strict: false, limits: patient },
          );
          const losses = result.findings.filter(({ severity }) => severity === 'loss');
          expect(losses.map(({ kind, pointer, cause }) => `${kind} ${pointer} ${cause}`)).toEqual([]);
          expect(result.reason).toBeUndefined();
          expect(result).toMatchObject({ state: 'checked', returned: payloads.length });
        }),
        { numRuns: Math.ceil((slowToBuild.has(language.name) ? 3 : 6) / fewer), endOnFailure: true },
      );
    });
  }
}
