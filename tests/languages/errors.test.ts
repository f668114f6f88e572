import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { checkStyle } from '../../src/workbench/check.js';
import { infer, languagesFor, payloadsOf, patient } from '../support.js';

const sailing = {
  id: 1,
  code: 'SF-1',
  load: 0.5,
  open: true,
  legs: [
    { pier: 'N', minutes: 5 },
    { pier: 'S', minutes: 7 },
  ],
  tides: { '2031-05-01': { height: 2 }, '2031-05-02': { height: 3 } },
  berth: 'N1',
};
const samples = [sailing, { ...sailing, berth: { no: 1, lit: true } }].map((each) => JSON.stringify(each));

/** A copy with one value changed, or taken out when it is undefined. */
function changed(path: readonly (string | number)[], value: unknown): string {
  const copy = structuredClone(sailing) as never;
  const last = path.at(-1)!;
  const around = path
    .slice(0, -1)
    .reduce<Record<string | number, unknown>>((here, step) => here[step] as never, copy);
  if (value === undefined) delete around[last];
  else around[last] = value;
  return JSON.stringify(copy);
}

/** What contradicts the schema, and the steps that the decoder's message must name, each with what is around it. */
const contradictions: readonly [what: string, payload: string, steps: readonly RegExp[]][] = [
  ['text for an integer', changed(['id'], 'one'), [/id/]],
  ['a fraction for an integer', changed(['legs', 1, 'minutes'], 7.5), [/legs/, /1/, /minutes/]],
  ['an integer for text', changed(['legs', 0, 'pier'], 3), [/legs/, /0/, /pier/]],
  ['text for a number', changed(['load'], 'half'), [/load/]],
  ['an integer for a flag', changed(['open'], 1), [/open/]],
  ['null for text', changed(['code'], null), [/code/]],
  ['an object for a list', changed(['legs'], {}), [/legs/]],
  ['a list for an object', changed(['tides', '2031-05-02'], []), [/tides/, /2031-05-02/]],
  ['a missing key', changed(['tides', '2031-05-01', 'height'], undefined), [/tides/, /2031-05-01/, /height/]],
  ['none of the alternatives', changed(['berth'], true), [/berth/]],
  ['an alternative that lacks a key', changed(['berth'], { no: 1 }), [/berth/, /lit/]],
];

/**
 * What a library refuses without a place: Foundation takes such a number for text that is no JSON, and what chooses among
 * alternatives in Kotlin does not know where it is. Msgspec does not say which key of a map it is.
 */
const untold: Readonly<Record<string, readonly string[]>> = {
  swift: ['a fraction for an integer'],
  kotlin: ['none of the alternatives'],
  msgspec: ['a list for an object', 'a missing key'],
};

/** What structs that check nothing make of it: zero values, which are written. All else the library refuses. */
const passed = ['null for text: filled', 'a missing key: added', 'an alternative that lacks a key: added'];

describe.concurrent('a payload that contradicts the schema is refused, with its place,', async () => {
  const model = buildModel(infer(samples).schema);
  const texts = contradictions.map(([, payload]) => payload);
  for (const language of await languagesFor(1)) {
    for (const style of language.styles) {
      test(`by ${language.name} ${style.name}`, async ({ expect }) => {
        const result = await checkStyle(language, style, model, 's.json', payloadsOf(texts), {
          strict: false,
          limits: patient,
        });
        const told = contradictions.map(([what, , steps], i) => {
          const own = result.findings.filter(
            ({ payload }) => payload === `${String(i + 1).padStart(4, '0')}.json`,
          );
          const refused = own.find(({ kind }) => kind === 'refused');
          if (refused === undefined) return `${what}: ${own.map(({ kind }) => kind).join() || 'passed'}`;
          // Scala's library says where in the text it is.
          if (language.name === 'scala')
            return /, offset: 0x[0-9a-f]{8}$/.test(refused.cause) ? `${what}: refused` : refused.cause;
          const place = untold[language.name] ?? untold[style.name];
          return place?.includes(what) || steps.every((step) => step.test(refused.cause))
            ? `${what}: refused`
            : `${what}: ${refused.cause}`;
        });
        expect(told).toEqual(
          contradictions.map(([what], i) => (style.isUnchecked ? told[i]! : `${what}: refused`)),
        );
        if (style.isUnchecked)
          expect(told.filter((each) => !/: (refused|json: )/.test(each))).toEqual(passed);
      });
    }
  }
});

test('the samples themselves are of one schema with a union', () => {
  expect(infer(samples).schema.properties!.get('berth')!.anyOf).toHaveLength(2);
});
