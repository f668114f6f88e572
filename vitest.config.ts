import { defineConfig } from 'vitest/config';
import { textsForTests } from './scripts/texts.mjs';

export default defineConfig({
  plugins: [textsForTests],
  define: { SKEVO_VERSION: '"test"' },
  test: {
    include: ['tests/**/*.test.ts'],
    globalSetup: ['tests/steps/bundle.ts'],
    setupFiles: ['tests/setup.ts'],
    // Modules are loaded once for all files that a worker takes; nothing that a test leaves in them may matter to another.
    isolate: false,
    // Compilers beside each other take their time; one that is stuck is ended by the limits of a check.
    testTimeout: 600_000,
    hookTimeout: 600_000,
    // Of the processors of a machine one is used by the tests that run one program after another, the others by compilers.
    maxWorkers: 2,
    maxConcurrency: 3,
  },
});
