import { resolve } from 'node:path';
import fc from 'fast-check';

/** The same examples in every run; `SKEVO_SEED=random` looks for others, and a failing run prints its seed. */
const { SKEVO_SEED: seed = '20311' } = process.env;
if (seed !== 'random') fc.configureGlobal({ seed: Number(seed) });

// Builds of tests are kept apart from the user's, and between runs: their names tell their content.
process.env['SKEVO_CACHE'] = resolve('node_modules/.cache/skevo-builds');
