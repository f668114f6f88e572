import { readFileSync } from 'node:fs';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  plugins: [
    {
      // Files of a language are texts, as the build takes them.
      name: 'texts',
      enforce: 'pre',
      load: (id) =>
        /\/languages\/\w+\/(templates|support)\//.test(id)
          ? `export default ${JSON.stringify(readFileSync(id, 'utf8'))}`
          : undefined,
    },
  ],
  define: { SKEVO_VERSION: '"test"' },
  test: {
    include: ['tests/**/*.test.ts'],
    setupFiles: ['tests/setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
