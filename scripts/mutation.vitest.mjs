import { fileURLToPath } from 'node:url';
import base from '../vitest.config.ts';

/** The tests that ask functions, for scripts/mutation.mjs: what runs the built program notices no change of the source. */
export default {
  ...base,
  root: fileURLToPath(new URL('..', import.meta.url)),
  test: {
    ...base.test,
    // Laws are tried a few times, so that a run ends; all others say what they always say.
    env: { SKEVO_FEW: '1' },
    include: process.env['SKEVO_PARTS'].split(' ').map((part) => `tests/${part}/**/*.test.ts`),
    // These ask the built program.
    exclude: ['tests/core/audit.test.ts', 'tests/report/files.test.ts'],
  },
};
