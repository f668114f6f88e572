import { fileURLToPath } from 'node:url';
import base from '../vitest.config.ts';

/** The tests of the core alone, for scripts/mutation.mjs. */
export default {
  ...base,
  root: fileURLToPath(new URL('..', import.meta.url)),
  test: {
    ...base.test, // The audit asks the built program.
    include: ['tests/core/**/*.test.ts'],
    exclude: ['tests/core/audit.test.ts'],
  },
};
