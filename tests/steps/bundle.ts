import { build } from 'esbuild';
import { pathToFileURL } from 'node:url';
import { resolve } from 'node:path';
import { bundled } from '../../scripts/bundle.mjs';
import { isBrief } from '../effort.js';

/** Bundles the program, before all tests, into one script for `server.mjs`. */
export async function setup(): Promise<void> {
  if (!isBrief) return;
  await build({
    ...bundled,
    format: 'cjs',
    entryPoints: ['src/cli/main.ts'],
    outfile: 'node_modules/.cache/skevo-steps/main.cjs',
    minify: true,
    // It looks for files beside the built program.
    define: {
      ...bundled.define,
      'import.meta.url': JSON.stringify(pathToFileURL(resolve('dist/skevo.js')).href),
    },
  });
}
