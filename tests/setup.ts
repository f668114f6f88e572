import { existsSync } from 'node:fs';
import { delimiter, join, resolve } from 'node:path';
import fc from 'fast-check';

/** The same examples in every run; `SKEVO_SEED=random` looks for others, and a failing run prints its seed. */
const { SKEVO_SEED: seed = '20311' } = process.env;
if (seed !== 'random') fc.configureGlobal({ seed: Number(seed) });

// Builds of tests are kept apart from the user's, and between runs: their names tell their content.
process.env['SKEVO_CACHE'] = resolve('node_modules/.cache/skevo-builds');

// The Python that has what the tests want, where scripts/install-toolchains.sh made it.
const python = resolve('tests/.tools/python/bin/python3');
if (existsSync(python)) process.env['SKEVO_PYTHON'] ??= python;

// Compilers that take seconds to start are kept running; they are the same that a user runs.
for (const [variable, name] of [
  ['SKEVO_JAVAC', 'javac'],
  ['SKEVO_KOTLINC', 'kotlinc'],
  ['SKEVO_SCALAC', 'scalac'],
] as const) {
  const isHere = (process.env['PATH'] ?? '')
    .split(delimiter)
    .some((folder) => existsSync(join(folder, name)));
  if (isHere) process.env[variable] ??= resolve('tests/compilers', name);
}
