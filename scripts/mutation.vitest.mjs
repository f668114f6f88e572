import { fileURLToPath } from 'node:url';
import base from '../vitest.config.ts';

/** The tests of the core alone, for scripts/mutation.mjs. */
export default {
  ...base,
  root: fileURLToPath(new URL('..', import.meta.url)),
  test: {
    ...base.test,
    // Laws are tried a few times, so that a run ends; all others say what they always say.
    env: { SKEVO_FEW: '1' },
    // The audit asks the built program.
    include: ['tests/core/**/*.test.ts'],
    exclude: ['tests/core/audit.test.ts'],
  },
};
