/**
 * The benchmarks: `npm run bench`, or `npm run bench -- start` for one of them. Each compares two commands as
 * whole processes, run in turn (A B A B), and prints the median of the ratios pair by pair: the machine's speed
 * drifts, a ratio measured in one breath does not.
 */
import { spawn, spawnSync } from 'node:child_process';
import {
  closeSync,
  createReadStream,
  createWriteStream,
  mkdirSync,
  mkdtempSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { growing, writeSailings } from './payloads.mjs';

const folder = mkdtempSync(join(tmpdir(), 'skevo-bench-'));
process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
const skevo = 'dist/skevo.js';

/** One run of Node with arguments: wall seconds, CPU seconds and peak memory in MB. */
async function run(args, env = process.env) {
  const started = performance.now();
  const child = spawn('/usr/bin/env', ['time', '-f', '%U %S %M', process.execPath, ...args], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env,
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
  /** Generated types against the untyped values of their libraries. */
  async types() {
    const { benchTypes } = await import('./types.mjs');
    await benchTypes(folder, (samples, name, out) =>
      run([skevo, 'infer', samples, '--name', name, '--out', out, '--quiet']),
    );
  },
  async start() {
    await compare('start: skevo --version / node -e 0', '2x', [skevo, '--version'], ['-e', '0'], 15);
    const small = 'demo/payloads/sailings';
    await compare('start: skevo outline / node -e 0', '5x', [skevo, 'outline', small], ['-e', '0'], 15);
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
  /** CSV and XML against a loop of the same library that does nothing with what it reads. */
  async formats() {
    const rows = join(folder, 'timetable.csv');
    const remarks = (i) => `Mind the step, row ${i}`;
    const row = (i) =>
      `${i},SF-${i % 977},N${i % 3},2031-05-${String((i % 28) + 1).padStart(2, '0')}T08:00:00Z,${i % 11 ? i % 300 : ''},${i % 90}.50,${i % 2 > 0},"${remarks(i)}"`;
    writeFileSync(
      rows,
      `id,sailing,pier,departs,seats,fare,full,remarks\n${Array.from({ length: 400_000 }, (_, i) => row(i)).join('\n')}\n`,
    );
    const document = join(folder, 'fares.xml');
    const fare = (i) =>
      `<fare id="${i}"><price currency="EUR">${i % 90}.50</price><route>N${i % 9}</route>${i % 3 ? '' : '<route>S2</route>'}<remarks>${remarks(i)}</remarks></fare>`;
    writeFileSync(
      document,
      `<fares>${Array.from({ length: 100_000 }, (_, i) => fare(i)).join('\n')}</fares>`,
    );
    for (const [name, path, loop] of [
      ['CSV', rows, 'bench/parse-csv.mjs'],
      ['XML', document, 'bench/parse-xml.mjs'],
    ])
      await compare(
        `infer of ${name} / its library alone`,
        '1.5x',
        [skevo, 'infer', path, '--quiet'],
        [loop, path],
        7,
      );
  },
  /** CSV to lines of JSON under a schema, against a loop of the same library that writes texts. */
  async convert() {
    const rows = join(folder, 'timetable.csv');
    const row = (i) =>
      `${i},N${i % 3},2031-05-01T08:00:00Z,${i % 300},${i % 90}.50,"Mind the step, row ${i}"`;
    writeFileSync(
      rows,
      `id,pier,departs,seats,fare,remarks\n${Array.from({ length: 300_000 }, (_, i) => row(i)).join('\n')}\n`,
    );
    const schema = join(folder, 'row.schema.json');
    await run([skevo, 'infer', rows, '--out', schema, '--quiet']);
    await compare(
      'convert CSV to lines / its library and JSON',
      '1.5x',
      [skevo, 'convert', rows, '--schema', schema, '--to', 'ndjson', '--out', '/dev/null', '--quiet'],
      ['bench/convert-csv.mjs', rows],
      5,
    );
  },
  /** Peak memory of the largest inputs. Takes 3 GB of disk and some minutes, so it runs only when asked for. */
  async memory() {
    const inputs = [
      ['2 GB of NDJSON', 'large.ndjson', 2000, []],
      ['2 GB of NDJSON, compressed', 'large.ndjson.gz', 0, []],
      ['one document of 500 MB, --at /results/*', 'page.json', 500, ['--at', '/results/*']],
    ];
    const texts = [
      [
        '1 GB of CSV',
        'rows.csv',
        'id,pier,remarks\n',
        (i) => `${i},N${i % 3},"Mind the step, row ${i}"\n`,
        '',
        [],
      ],
      [
        '1 GB of XML, --at /fares/fare/*',
        'fares.xml',
        '<fares>',
        (i) =>
          `<fare id="${i}"><price currency="EUR">${i % 90}.50</price><remarks>Mind the step ${i}</remarks></fare>\n`,
        '</fares>',
        ['--at', '/fares/fare/*'],
      ],
    ];
    for (const [name, file, head, part, end, options] of texts) {
      const path = join(folder, file);
      const target = openSync(path, 'w');
      writeSync(target, head);
      for (let i = 0, size = 0; size < 1e9;) {
        let text = '';
        while (text.length < 1 << 20) text += part(i++);
        size += writeSync(target, text);
      }
      writeSync(target, end);
      closeSync(target);
      const { wall, memory } = await run([skevo, 'infer', path, '--quiet', ...options]);
      console.log(
        `${name.padEnd(44)} ${wall.toFixed(1).padStart(6)} s  ${memory.toFixed(0).padStart(5)} MB   aim 300 MB`,
      );
      rmSync(path);
    }
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
  /** A first check of all languages against the same programs built and run by hand, and second checks. */
  async check() {
    const { languages, findToolchain, buildModel, makeAll, readSchema } = await import('../dist/index.js');
    const schema = join(folder, 'sailing.schema.json');
    const samples = 'demo/payloads/sailings';
    const at = ['--at', '/results/*'];
    await run([skevo, 'infer', samples, ...at, '--name', 'Sailing', '--out', schema, '--quiet']);
    const source = { name: schema, bytes: readFileSync(schema), firstLine: 1 };
    const model = buildModel(readSchema(source), source);
    const lines = readdirSync(samples)
      .sort()
      .flatMap((name) => JSON.parse(readFileSync(join(samples, name), 'utf8')).results)
      .map((each) => JSON.stringify(each));

    let byHand = 0;
    const here = [];
    for (const language of languages) {
      const toolchain = await findToolchain(language);
      if (toolchain.state !== 'ready') continue;
      here.push(language);
      const [style] = language.styles;
      const [{ bench, emitted }] = makeAll(model, [{ language, style }], { origin: 's.json' });
      const place = join(folder, language.name);
      const prepared = join(folder, `${language.name}-prepared`);
      write(place, [
        ...bench.files,
        ...emitted.files.map(({ path, text }) => ({ path: `classes/${path}`, text })),
      ]);
      for (const name of bench.packages ?? []) link(place, name);
      const started = performance.now();
      if (bench.prepared !== undefined) {
        write(prepared, bench.prepared.files);
        for (const step of bench.prepared.build) perform(toolchain, step, prepared, prepared);
      }
      for (const step of bench.build) perform(toolchain, step, place, prepared);
      const { run: last } = bench;
      if ('program' in last)
        spawnSync(join(place, last.program), last.arguments, { cwd: place, input: `${lines.join('\n')}\n` });
      else perform(toolchain, last, place, prepared, `${lines.join('\n')}\n`);
      byHand += (performance.now() - started) / 1000;
    }
    process.env.SKEVO_CACHE = join(folder, 'builds');
    const check = (...more) => run([skevo, 'check', schema, samples, ...at, '--quiet', ...more]);
    const first = (await check()).wall;
    console.log(
      `check: first, all languages / by hand          ${(first / byHand).toFixed(2)}x wall   ${first.toFixed(1)} s   aim 1.2x`,
    );
    const again = async (...more) =>
      median([(await check(...more)).wall, (await check(...more)).wall, (await check(...more)).wall]);
    console.log(`check: again, all languages                    ${(await again()).toFixed(2)} s   aim 3 s`);
    for (const { name } of here)
      console.log(
        `check: again, ${name.padEnd(32)} ${(await again('--language', name)).toFixed(2)} s   aim 0.7 s`,
      );
  },
  /** A run of a project in which nothing changed, against the time that Skevo takes to start. */
  async run() {
    const place = join(folder, 'project');
    mkdirSync(place);
    writeSailings(join(place, 'sailings.ndjson'), 4);
    writeFileSync(
      join(place, 'skevo.yaml'),
      'contracts:\n  sailing:\n    samples: sailings.ndjson\n    schema: s.json\n    languages: [{ language: python, out: out }]\n',
    );
    const project = ['run', '--project', join(place, 'skevo.yaml'), '--quiet'];
    await compare(
      'run, nothing changed / skevo --version',
      '1.5x',
      [skevo, ...project],
      [skevo, '--version'],
      15,
    );
  },
  /** A run of contracts whose classes stand in one package, against the same with a package each. */
  async shared() {
    const projectOf = (name, packageOf) => {
      const place = join(folder, name);
      const contracts = Array.from({ length: 40 }, (_, i) => {
        mkdirSync(join(place, `s${i}`), { recursive: true });
        writeFileSync(
          join(place, `s${i}`, 'a.json'),
          JSON.stringify({ id: i, legs: [{ pier: 'N', gate: null }, { pier: 'S' }], [`own${i}`]: { a: 1 } }),
        );
        const language = { language: 'python', package: packageOf(i), out: `out/${packageOf(i)}` };
        return [
          `k${i}`,
          { samples: [`s${i}`], name: `Kind${i}`, schema: `k${i}.json`, languages: [language] },
        ];
      });
      writeFileSync(join(place, 'skevo.json'), JSON.stringify({ contracts: Object.fromEntries(contracts) }));
      return ['run', '--project', join(place, 'skevo.json'), '--refresh', '--quiet'];
    };
    await compare(
      'run, 40 contracts in one package / in their own',
      '2x',
      [skevo, ...projectOf('together', () => 'ferries')],
      [skevo, ...projectOf('apart', (i) => `ferries${i}`)],
      3,
    );
  },
  /** A run of many contracts in languages of the JVM, built anew: what each takes beside what each of two takes. */
  async many() {
    const projectOf = (language, count) => {
      const place = join(folder, `${language}-${count}`);
      mkdirSync(place, { recursive: true });
      const contracts = Array.from({ length: count }, (_, i) => {
        writeFileSync(join(place, `k${i}.json`), JSON.stringify({ id: i, [`own${i}`]: { pier: 'N' } }));
        const own = { language, package: `ferries${i}`, out: `out/${i}` };
        return [`k${i}`, { samples: [`k${i}.json`], schema: `k${i}.schema.json`, languages: [own] }];
      });
      writeFileSync(join(place, 'skevo.json'), JSON.stringify({ contracts: Object.fromEntries(contracts) }));
      return async () => {
        const cache = mkdtempSync(join(folder, 'cache-'));
        const args = [skevo, 'run', '--project', join(place, 'skevo.json'), '--refresh', '--quiet'];
        const { wall } = await run(args, { ...process.env, SKEVO_CACHE: cache });
        rmSync(cache, { recursive: true });
        return wall / count;
      };
    };
    const { languages, findToolchain } = await import('../dist/index.js');
    for (const name of ['java', 'kotlin', 'scala']) {
      if ((await findToolchain(languages.find((each) => each.name === name))).state !== 'ready') continue;
      const [many, two] = [projectOf(name, 20), projectOf(name, 2)];
      const rows = [];
      for (let i = 0; i < 3; i++) rows.push([await many(), await two()]);
      const ratio = median(rows.map(([a, b]) => a / b)).toFixed(2);
      const seconds = median(rows.map(([a]) => a)).toFixed(2);
      console.log(
        `run, each of 20 contracts / of 2 in ${name.padEnd(8)} ${ratio.padStart(5)}x wall   ${seconds} s   aim 0.5x`,
      );
    }
  },
  /** 100,000 payloads through each language, and what comparing costs: a program that copies its input decodes nothing. */
  async stream() {
    const { languages, findToolchain } = await import('../dist/index.js');
    const file = join(folder, 'sailings.ndjson');
    const schema = join(folder, 'sailing.schema.json');
    writeSailings(file, 40);
    const count = readFileSync(file).reduce((sum, byte) => sum + (byte === 10 ? 1 : 0), 0);
    await run([skevo, 'infer', file, '--name', 'Sailing', '--out', schema, '--quiet']);
    const check = (...more) => run([skevo, 'check', schema, file, '--quiet', ...more]);
    const comparing = (await check('--with', 'cat')).wall;
    console.log(`stream: comparing alone${' '.repeat(23)} ${comparing.toFixed(1)} s for ${count} payloads`);
    for (const language of languages) {
      if ((await findToolchain(language)).state !== 'ready') continue;
      await check('--language', language.name);
      const { wall, memory } = await check('--language', language.name);
      console.log(
        `stream: ${language.name.padEnd(38)} ${wall.toFixed(1).padStart(5)} s  ${memory.toFixed(0).padStart(5)} MB   comparing / the rest ${(comparing / (wall - comparing)).toFixed(2)}x`,
      );
    }
  },
};

function write(place, files) {
  for (const { path, text } of files) {
    mkdirSync(dirname(join(place, path)), { recursive: true });
    writeFileSync(join(place, path), text);
  }
}

/** Makes an npm package resolve from a folder. */
function link(place, name) {
  mkdirSync(join(place, 'node_modules'), { recursive: true });
  symlinkSync(join(process.cwd(), 'node_modules', name), join(place, 'node_modules', name));
}

/** Runs one command of a bench. */
function perform({ tools }, { tool, arguments: given }, cwd, prepared, input = '') {
  const { file, prefix } = tools.get(tool);
  const args = [...prefix, ...given.map((each) => each.replace('{prepared}', prepared))];
  const { status, stderr, stdout } = spawnSync(file, args, { cwd, input, encoding: 'utf8' });
  if (status !== 0) throw new Error(`${file} ${args.join(' ')}: ${stdout}${stderr}`);
}

const onlyWhenAsked = ['memory', 'check', 'stream'];
const chosen = process.argv.slice(2);
for (const [name, benchmark] of Object.entries(benchmarks)) {
  if (chosen.length === 0 ? !onlyWhenAsked.includes(name) : chosen.includes(name)) await benchmark();
}
