import { defineConfig } from 'vitest/config';

export default defineConfig({
  define: { SKEVO_VERSION: '"test"' },
  test: {
    include: ['tests/**/*.test.ts'],
    setupFiles: ['tests/setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
