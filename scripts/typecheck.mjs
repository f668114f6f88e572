/** Type checks the sources and tests with the same compiler that checks generated TypeScript. */
import { spawnSync } from 'node:child_process';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

const compiler = join(
  dirname(createRequire(import.meta.url).resolve('typescript-native/package.json')),
  'bin',
  'tsc',
);
const run = spawnSync(process.execPath, [compiler, '-p', 'tsconfig.json'], { stdio: 'inherit' });
process.exit(run.status ?? 1);
