/**
 * Makes small changes of meaning in a part of src, one at a time, and counts how many of them the tests of that part notice:
 * `node scripts/mutation.mjs core/model report`; all of src/core where nothing is named. What was not noticed is listed,
 * then the share that was, for each folder; docs/performance.md has those of the last run. With SKEVO_ONE_IN=5 a
 * fifth of the functions is changed, always the same.
 */
import { Stryker } from '@stryker-mutator/core';
import { readFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';

const given = process.argv.slice(2);
const folders = given.length === 0 ? ['core'] : given;
// A part is asked by its own tests, and not by all others that come through it.
process.env['SKEVO_PARTS'] = [...new Set(folders.map((folder) => folder.split('/')[0]))].join(' ');
const results = await new Stryker({
  mutate: folders.map((folder) => `src/${folder}/**/*.ts`),
  testRunner: 'vitest',
  vitest: { configFile: 'scripts/mutation.vitest.mjs', related: false },
  plugins: ['@stryker-mutator/vitest-runner', './scripts/mutation.some.mjs'],
  ignorers: ['some'],
  coverageAnalysis: 'perTest',
  // What is made while a module is loaded would ask all tests each time.
  ignoreStatic: true,
  // Words of messages, and what is only said in them, are no meaning.
  mutator: { excludedMutations: ['StringLiteral'] },
  concurrency: availableParallelism(),
  reporters: ['progress'],
  tempDirName: '.mutation',
  ignorePatterns: ['tests/.tools', 'tests/golden', 'docs'],
  allowEmpty: true,
  timeoutMS: 20_000,
}).runMutationTest();

const counted = results.filter(({ status }) =>
  ['Killed', 'Timeout', 'Survived', 'NoCoverage'].includes(status),
);
const isNoticed = ({ status }) => status === 'Killed' || status === 'Timeout';
for (const each of counted) {
  if (isNoticed(each)) continue;
  const { start, end } = each.location;
  const lines = readFileSync(each.fileName, 'utf8')
    .split('\n')
    .slice(start.line - 1, end.line);
  lines[lines.length - 1] = lines.at(-1).slice(0, end.column - 1);
  const before = lines
    .join(' ')
    .slice(start.column - 1)
    .replace(/\s+/g, ' ')
    .slice(0, 80);
  const place = `${each.fileName.replace(/^.*\/src\//, 'src/')}:${start.line}:${start.column}`;
  console.log(
    `${each.status === 'Survived' ? 'survived' : 'not run '}  ${place}  ${before}  ->  ${each.replacement.replace(/\s+/g, ' ').slice(0, 60)}`,
  );
}
const byFolder = new Map();
for (const each of counted) {
  const folder = /src\/(core\/[^/]+(?=\/)|[^/]+)/.exec(each.fileName)[1];
  const counts = byFolder.get(folder) ?? { noticed: 0, all: 0 };
  counts.all++;
  if (isNoticed(each)) counts.noticed++;
  byFolder.set(folder, counts);
}
for (const [folder, { noticed, all }] of [...byFolder].sort())
  console.log(`${folder.padEnd(18)} ${noticed} of ${all} noticed, ${((100 * noticed) / all).toFixed(0)} %`);
