/**
 * Makes small changes of meaning in src/core, one at a time, and counts how many of them the tests of tests/core notice.
 * Folders below src/core can be named instead of all: `node scripts/mutation.mjs model roundtrip`. The share that is
 * noticed is printed for each; docs/performance.md has those of the last run.
 */
import { Stryker } from '@stryker-mutator/core';
import { availableParallelism } from 'node:os';

const folders = process.argv.slice(2);
const files = (folders.length === 0 ? ['**'] : folders.map((folder) => `${folder}/**`)).map(
  (each) => `src/core/${each}/*.ts`,
);
const results = await new Stryker({
  mutate: files,
  testRunner: 'vitest',
  vitest: { configFile: 'scripts/mutation.vitest.mjs', related: false },
  plugins: ['@stryker-mutator/vitest-runner'],
  coverageAnalysis: 'perTest',
  // Words of messages, and what is only said in them, are no meaning.
  mutator: { excludedMutations: ['StringLiteral'] },
  concurrency: availableParallelism(),
  reporters: ['progress'],
  tempDirName: '.mutation',
  ignorePatterns: ['dist', 'tests/.tools', 'tests/golden', 'tests/snapshots', 'docs'],
  allowEmpty: true,
  timeoutMS: 20_000,
}).runMutationTest();

const byFolder = new Map();
for (const { fileName, status } of results) {
  const folder = /src\/core\/([^/]+)\//.exec(fileName)?.[1] ?? 'core';
  const counts = byFolder.get(folder) ?? { killed: 0, all: 0 };
  if (['Killed', 'Timeout', 'Survived', 'NoCoverage'].includes(status)) counts.all++;
  if (['Killed', 'Timeout'].includes(status)) counts.killed++;
  byFolder.set(folder, counts);
}
for (const [folder, { killed, all }] of [...byFolder].sort())
  console.log(
    `${folder.padEnd(12)} ${killed} of ${all} noticed, ${((100 * killed) / Math.max(1, all)).toFixed(0)} %`,
  );
