import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import type { unknownRules } from '../../src/languages/language.js';
import { swift } from '../../src/languages/swift/index.js';
import { makeAll } from '../../src/languages/make.js';
import { checkStyle } from '../../src/workbench/check.js';
import { findToolchain } from '../../src/workbench/toolchain.js';
import { infer, payloadsOf, patient } from '../support.js';
import { cases } from './cases.js';

const [style] = swift.styles;
const sourceOf = (payloads: readonly string[], unknown?: (typeof unknownRules)[number]) =>
  style.emit(buildModel(infer(payloads).schema), { origin: 'sailing.schema.json', unknown }).files[0]!.text;

/** One file a case, with the bench's program beside them: scripts/check-swift.sh compiles and runs them. */
describe('the Swift of every case is as it was reviewed', () => {
  test.for(cases.map((each, i) => ({ ...each, i })))('$name', async ({ payloads, i }) => {
    await expect(sourceOf(payloads)).toMatchFileSnapshot(
      `../snapshots/swift/case${String(i).padStart(3, '0')}/Sailing.swift`,
    );
    await expect(
      `${payloads.map((each) => each.replace(/\s*\n\s*/g, ' ')).join('\n')}\n`,
    ).toMatchFileSnapshot(`../snapshots/swift/case${String(i).padStart(3, '0')}/payloads.ndjson`);
  });
});

test('the program that runs them is as it was reviewed', async () => {
  const [made] = makeAll(buildModel(infer(['{}']).schema), [{ language: swift, style }], { origin: '' });
  const [main] = made!.bench.files;
  await expect(main!.text).toMatchFileSnapshot('../snapshots/swift/main.swift');
});

test('what is kept or refused beside known fields is as it was reviewed', async () => {
  const { payloads } = cases[0]!;
  for (const unknown of ['keep', 'reject'] as const)
    await expect(sourceOf(payloads, unknown)).toMatchFileSnapshot(
      `../snapshots/swift/${unknown}/Sailing.swift`,
    );
});

test('brackets, quotes and comments are balanced whatever the payloads hold', () => {
  for (const { name, payloads } of cases) {
    const bare = sourceOf(payloads)
      .replace(/^\s*\/\/.*$/gm, '')
      .replace(/"(?:[^"\\\n]|\\.)*"/g, '""');
    const count = (sign: string) => bare.split(sign).length;
    expect(count('{'), name).toBe(count('}'));
    expect(count('('), name).toBe(count(')'));
    expect(bare.replace(/""/g, ''), name).not.toContain('"');
  }
});

test('a check says that it was not run, and why', async () => {
  const toolchain = await findToolchain(swift);
  if (toolchain.state === 'ready') return;
  const model = buildModel(infer(['{}']).schema);
  const result = await checkStyle(swift, style, model, 's.json', payloadsOf(['{}']), {
    strict: false,
    limits: patient,
  });
  expect(result).toMatchObject({ state: 'not-run', returned: 0 });
  expect(result.reason).toContain('swiftc is not installed');
});
