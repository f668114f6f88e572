/**
 * Files that the program takes as texts: those in the folders `templates` and `support` of a language, and the scripts for
 * shells.
 */
import { readFileSync } from 'node:fs';

const inTextFolder = /[\\/]languages[\\/]\w+[\\/](templates|support)[\\/]|[\\/]cli[\\/]shells[\\/]/;

/** For esbuild. */
export const textsForBuild = {
  name: 'texts',
  setup: (build) =>
    build.onLoad({ filter: inTextFolder }, ({ path }) => ({
      contents: readFileSync(path, 'utf8'),
      loader: 'text',
    })),
};

/** For Vite, which runs the tests. */
export const textsForTests = {
  name: 'texts',
  enforce: 'pre',
  load: (id) =>
    inTextFolder.test(id) ? `export default ${JSON.stringify(readFileSync(id, 'utf8'))}` : undefined,
};
