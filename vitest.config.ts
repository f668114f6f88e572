import { defineConfig } from 'vitest/config';
import { textsForTests } from './scripts/texts.mjs';

export default defineConfig({
  plugins: [textsForTests],
  define: { SKEVO_VERSION: '"test"' },
  test: {
    include: ['tests/**/*.test.ts'],
    setupFiles: ['tests/setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
