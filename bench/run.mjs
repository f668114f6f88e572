/**
 * The benchmarks: `npm run bench`, or `npm run bench -- start` for one of them. Each compares two commands as
 * whole processes, run in turn (A B A B), and prints the median of the ratios pair by pair: the machine's speed
 * drifts, a ratio measured in one breath does not.
 */
import { spawn } from 'node:child_process';
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { growing, writeSailings } from './payloads.mjs';

const folder = mkdtempSync(join(tmpdir(), 'skevo-bench-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
const skevo = 'dist/skevo.js';

/** One run of Node with arguments: wall seconds, CPU seconds and peak memory in MB. */
async function run(args) {
  const started = performance.now();
  const child = spawn('/usr/bin/env', ['time', '-f', '%U %S %M', process.execPath, ...args], {
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let words = '';
  child.stderr.on('data', (chunk) => (words += chunk));
  const code = await new Promise((resolve) => child.on('close', resolve));
  const wall = (performance.now() - started) / 1000;
  if (code !== 0) throw new Error(`${args.join(' ')} ended with ${code}: ${words}`);
  const [user, system, kilobytes] = words.trim().split('\n').at(-1).split(' ').map(Number);
  return { wall, cpu: user + system, memory: kilobytes / 1024 };
}

const median = (numbers) => [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)];

/** Runs two commands in turn and prints how they compare. */
async function compare(name, aim, ours, theirs, pairs) {
  await run(ours);
  await run(theirs);
  const rows = [];
  for (let i = 0; i < pairs; i++) rows.push([await run(ours), await run(theirs)]);
  const ratio = (figure) => median(rows.map(([a, b]) => a[figure] / Math.max(b[figure], 0.001))).toFixed(2);
  const peak = Math.max(...rows.map(([a]) => a.memory)).toFixed(0);
  const seconds = median(rows.map(([a]) => a.wall)).toFixed(2);
  console.log(
    `${name.padEnd(44)} ${ratio('wall').padStart(5)}x wall ${ratio('cpu').padStart(6)}x cpu   ${seconds.padStart(6)} s  ${peak.padStart(5)} MB   aim ${aim}`,
  );
}

const benchmarks = {
  async start() {
    await compare('start: skevo --version / node -e 0', '2x', [skevo, '--version'], ['-e', '0'], 15);
  },
  async infer() {
    const file = join(folder, 'sailings.ndjson');
    writeSailings(file, 120);
    console.log(`      ${(statSync(file).size / 1e6).toFixed(0)} MB of NDJSON`);
    const parse = ['bench/parse-lines.mjs', file];
    await compare(
      'infer, one thread / JSON.parse of each line',
      '1.0x',
      [skevo, 'infer', file, '--quiet', '--workers', '1'],
      parse,
      7,
    );
    await compare(
      'infer, two threads / JSON.parse of each line',
      '0.6x',
      [skevo, 'infer', file, '--quiet', '--workers', '2'],
      parse,
      7,
    );
  },
  /** Peak memory of the largest inputs. Takes 3 GB of disk and some minutes, so it runs only when asked for. */
  async memory() {
    const inputs = [
      ['2 GB of NDJSON', 'large.ndjson', 2000, []],
      ['2 GB of NDJSON, compressed', 'large.ndjson.gz', 0, []],
      ['one document of 500 MB, --at /results/*', 'page.json', 500, ['--at', '/results/*']],
    ];
    for (const [name, file, megabytes, options] of inputs) {
      const path = join(folder, file);
      if (megabytes > 0) writeSailings(path, megabytes);
      else
        await pipeline(
          createReadStream(path.slice(0, -3)),
          createGzip({ level: 1 }),
          createWriteStream(path),
        );
      const { wall, memory } = await run([skevo, 'infer', path, '--quiet', ...options]);
      console.log(
        `${name.padEnd(44)} ${wall.toFixed(1).padStart(6)} s  ${memory.toFixed(0).padStart(5)} MB   aim 250 MB`,
      );
    }
  },
  /** How time grows with ten times the input; the time that Skevo takes to start is taken off both. */
  async growth() {
    const small = join(folder, 'small.ndjson');
    const large = join(folder, 'large.ndjson');
    const cases = [
      ['lines', () => (writeSailings(small, 12), writeSailings(large, 120))],
      ['different fields', 500, 5000],
      ['keys of a map', 10_000, 100_000],
      ['shapes of a union', 100, 1000],
    ];
    for (const [name, few, many] of cases) {
      if (typeof few === 'function') few();
      else {
        writeFileSync(small, growing[name](few));
        writeFileSync(large, growing[name](many));
      }
      const infer = (path) => [skevo, 'infer', path, '--quiet', '--workers', '1'];
      const rows = [];
      for (let i = 0; i < 7; i++)
        rows.push([await run(infer(large)), await run(infer(small)), await run([skevo, '--version'])]);
      const ratio = median(rows.map(([a, b, start]) => (a.wall - start.wall) / (b.wall - start.wall)));
      const label = few.length === 0 ? 'growth: 10x the lines' : `growth: ${few} to ${many} ${name}`;
      console.log(
        `${label.padEnd(44)} ${ratio.toFixed(2).padStart(5)}x   ${median(rows.map(([a]) => a.wall)).toFixed(2)} s   aim 10.5x`,
      );
    }
  },
};

const onlyWhenAsked = ['memory'];
const chosen = process.argv.slice(2);
for (const [name, benchmark] of Object.entries(benchmarks)) {
  if (chosen.length === 0 ? !onlyWhenAsked.includes(name) : chosen.includes(name)) await benchmark();
}
