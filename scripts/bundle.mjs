/** How the sources become bundles: what scripts/build.mjs and the tests share. */
import { readFileSync } from 'node:fs';
import { relative, resolve } from 'node:path';
import { textsForBuild } from './texts.mjs';

const { version, dependencies } = JSON.parse(readFileSync('package.json', 'utf8'));

/**
 * Packages of one function each that take tens of milliseconds to load, for tables of Unicode, and that most runs never
 * call: they are loaded by the first call.
 */
const late = /^(string-width|slice-ansi|wrap-ansi)$/;
const lateForBuild = {
  name: 'late',
  setup: (build) => {
    build.onResolve({ filter: late }, async ({ path, resolveDir, kind, pluginData }) => {
      if (kind !== 'import-statement' || pluginData === 'found') return undefined;
      const found = await build.resolve(path, { kind, resolveDir, pluginData: 'found' });
      return { path: relative('.', found.path), namespace: 'late', errors: found.errors };
    });
    build.onLoad({ filter: /./, namespace: 'late' }, ({ path }) => ({
      contents: `let late; module.exports = (...given) => (late ??= require(${JSON.stringify(`./${path}`)}).default)(...given);`,
      loader: 'js',
      resolveDir: resolve(),
    }));
  },
};

/** @type {import('esbuild').BuildOptions} */
export const bundled = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  // The ES module builds, where there are any: what is not used is then left out.
  mainFields: ['module', 'main'],
  // Its ES module breaks lines inside of words.
  alias: { cliui: './node_modules/cliui/build/index.cjs' },
  plugins: [textsForBuild, lateForBuild],
  legalComments: 'none',
  define: { SKEVO_VERSION: JSON.stringify(version) },
  external: Object.keys(dependencies).filter((name) => name.startsWith('typescript')),
};
