/** Builds the command, in parts that are read when they are needed, and the library as one file with its types. */
import { build } from 'esbuild';
import { chmodSync, existsSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { bundled } from './bundle.mjs';

rmSync('dist', { recursive: true, force: true });

const shared = {
  ...bundled,
  format: 'esm',
  metafile: true,
  banner: {
    // What bundled CommonJS packages expect to find.
    js: [
      "import { createRequire as skevoRequire } from 'node:module';",
      "import { fileURLToPath as skevoPath } from 'node:url';",
      'const require = skevoRequire(import.meta.url), __filename = skevoPath(import.meta.url);',
    ].join(' '),
  },
};
const command = await build({
  ...shared,
  entryPoints: { skevo: 'src/cli/bin.ts' },
  outdir: 'dist',
  // Each command in files of its own, so that a start reads no more than it needs. All beside each other: some code
  // looks for files next to itself.
  splitting: true,
  chunkNames: 'part-[hash]',
  minify: true,
});
const program = 'dist/skevo.js';
writeFileSync(program, `#!/usr/bin/env node\n${readFileSync(program, 'utf8')}`);
const library = await build({ ...shared, entryPoints: ['src/index.ts'], outfile: 'dist/index.js' });
await build({
  ...shared,
  entryPoints: ['src/formats/observe-worker.ts'],
  outfile: 'dist/observe-worker.js',
  minify: true,
});
chmodSync(program, 0o755);
const manual = spawnSync(process.execPath, [program, 'manual'], { encoding: 'utf8' });
if (manual.status !== 0) throw new Error(manual.stderr);
writeFileSync('dist/skevo.1', manual.stdout);

const compiler = join(
  dirname(createRequire(import.meta.url).resolve('typescript-native/package.json')),
  'bin',
  'tsc',
);
const types = spawnSync(process.execPath, [compiler, '-p', 'tsconfig.types.json'], { stdio: 'inherit' });
if (types.status !== 0) process.exit(1);

/** The licences of the packages whose code is in the bundles. */
const inputs = [...Object.keys(command.metafile.inputs), ...Object.keys(library.metafile.inputs)];
const packages = new Set(
  inputs.flatMap((path) => /^(?:.*\/)?node_modules\/((?:@[^/]+\/)?[^/]+)\//.exec(path)?.[0] ?? []),
);
const texts = [...packages].sort().map((folder) => {
  const { name, version: its, license } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
  const file = readdirSync(folder).find((each) => /^licen[cs]e/i.test(each));
  const text =
    file !== undefined && existsSync(join(folder, file))
      ? readFileSync(join(folder, file), 'utf8').trim()
      : license;
  return `${name} ${its} (${license})\n\n${text}\n`;
});
writeFileSync('dist/THIRD-PARTY-LICENCES.txt', texts.join(`\n${'-'.repeat(80)}\n\n`));
