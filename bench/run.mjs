/**
 * The benchmarks: `npm run bench`, or `npm run bench -- start infer` for some. Each compares two commands as
 * whole processes, run in turn (A B A B), and prints the ratio of each pair: the machine's speed drifts, a
 * ratio measured in one breath does not.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeSailings } from './payloads.mjs';

const folder = mkdtempSync(join(tmpdir(), 'skevo-bench-'));
const skevo = 'dist/skevo.js';

/** One run of a command: wall and CPU seconds. */
function measure(args) {
  const before = process.resourceUsage();
  void before;
  const started = performance.now();
  const script = `
    const { spawnSync } = require('node:child_process');
    const run = spawnSync(process.execPath, JSON.parse(process.argv[1]), { stdio: ['ignore', 'ignore', 'inherit'] });
    if (run.status !== 0) process.exit(run.status ?? 1);
  `;
  void script;
  const run = spawnSync(process.execPath, args, { stdio: ['ignore', 'ignore', 'inherit'] });
  const wall = (performance.now() - started) / 1000;
  if (run.status !== 0) throw new Error(`${args.join(' ')} ended with ${run.status}`);
  return wall;
}
