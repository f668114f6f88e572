import { expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import type { Payload } from '../../src/core/roundtrip/payload.js';
import { checkAll } from '../../src/workbench/check-all.js';
import { infer, payloadsOf, patient } from '../support.js';

const remark = 'calm '.repeat(20_000);
const model = buildModel(infer([`{"id":1,"remark":"x"}`, `{"id":2}`]).schema);

/** Payloads of 100 kB one after another; tells how many were asked for. */
async function* sailings(count: number, asked: (i: number) => void): AsyncGenerator<Payload> {
  for (let i = 0; i < count; i++) {
    asked(i);
    yield* payloadsOf([`{"id":${i},"remark":"${remark}"}`]);
  }
}

test('payloads are held a few megabytes at a time, and counted over all of them', async () => {
  const expected: number[] = [];
  const reached: number[] = [];
  let ahead = 0;
  const result = await checkAll(
    [],
    model,
    sailings(130, (i) => (ahead = Math.max(ahead, i - (reached.at(-1) ?? 0)))),
    {
      strict: false,
      limits: patient,
      program: 'cat',
      expect: (payloads) => expected.push(payloads),
      answered: (_position, payloads) => reached.push(payloads),
    },
  );
  expect(result.payloads).toBe(130);
  expect(result.languages).toMatchObject([
    { language: 'program', state: 'checked', returned: 130, findings: [] },
  ]);
  expect(expected.length).toBeGreaterThan(2);
  expect(expected.at(-1)).toBe(130);
  // No more is read before what was read has been answered.
  expect(ahead).toBeLessThan(60);
  expect(result.unproven).toContainEqual({ pointer: '/remark', state: 'optional, never absent' });
  expect(result.fields.map(({ place, present, absent }) => [place, present, absent])).toEqual([
    ['/id', 130, 0],
    ['/remark', 130, 0],
  ]);
});

test('findings of all payloads are kept, each in its own', async () => {
  const result = await checkAll(
    [],
    model,
    sailings(90, () => {}),
    {
      strict: false,
      limits: patient,
      program: `sed 's/"id":77,/"id":78,/'`,
    },
  );
  expect(result.languages[0]!.findings).toMatchObject([{ kind: 'altered', pointer: '/id' }]);
  expect(result.languages[0]!.returned).toBe(90);
});

test('a check of no payload at all gives nothing', async () => {
  const options = { strict: false, limits: patient };
  expect(await checkAll([], model, [], options)).toMatchObject({ payloads: 0, languages: [] });
});
