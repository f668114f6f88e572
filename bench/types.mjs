/**
 * Decoding and encoding with generated types beside the library's own untyped values: the demo's notices and sailings, each
 * enlarged to 20 MB, in one optimised program a language that does both in turn.
 */
import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { buildModel, findToolchain, languages, makeTogether, readSchema } from '../dist/index.js';

const size = 20e6;
const median = (numbers) => [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)];

/** How the program of a language is built around its types, and run. */
const programs = {
  go: {
    main: 'main.go',
    types: 'sailings',
    files: { 'go.mod': 'module skevo.example/types\n\ngo 1.24\n' },
    build: [['go', 'build', '-o', 'types', '.']],
    run: 'types',
  },
  rust: {
    main: 'main.rs',
    types: 'sailings',
    files: {
      'Cargo.toml': `[package]
name = "types"
version = "0.0.0"
edition = "2024"

[[bin]]
name = "types"
path = "main.rs"

[dependencies]
sailings = { path = "sailings" }
serde = "=1.0.229"
serde_json = { version = "=1.0.154", features = ["float_roundtrip"] }
serde_path_to_error = "=0.1.20"
`,
    },
    build: [['cargo', 'build', '--release', '--quiet']],
    run: 'target/release/types',
  },
  cpp: {
    main: 'main.cpp',
    types: '.',
    package: 'saltmere::sailings',
    files: {},
    build: [['g++', '-std=c++20', '-O2', 'main.cpp', 'sailings.cpp', '-o', 'types']],
    run: 'types',
  },
};

/** @param infer writes the schema of a folder of payloads, under a name, to a file */
export async function benchTypes(folder, infer) {
  const models = [];
  for (const [samples, name] of [
    ['sailings', 'SailingPage'],
    ['notices', 'Notice'],
  ]) {
    const path = join(folder, `${name}.schema.json`);
    await infer(join('demo/payloads', samples), name, path);
    const source = { name, bytes: readFileSync(path), firstLine: 1 };
    models.push(buildModel(readSchema(source), source));
  }
  const payloads = (name) =>
    readdirSync(join('demo/payloads', name))
      .sort()
      .map((file) => JSON.parse(readFileSync(join('demo/payloads', name, file), 'utf8')));
  enlarge(join(folder, 'notices.json'), payloads('notices'));
  enlarge(
    join(folder, 'sailings.json'),
    payloads('sailings').flatMap(({ results }) => results),
  );
  console.log('types: 20 MB, typed / untyped                  decode  encode');
  for (const language of languages.filter(({ name }) => name in programs)) {
    if ((await findToolchain(language)).state !== 'ready') continue;
    const program = programs[language.name];
    const target = { language, style: language.styles[0], package: program.package ?? 'sailings' };
    const [made] = makeTogether(models, [target], { origin: 'the demo' })[0];
    const own = join(folder, `types-${language.name}`);
    const types = made.emitted.files.map(({ path, text }) => [join(program.types, path), text]);
    for (const [path, text] of [...Object.entries(program.files), ...types]) {
      mkdirSync(dirname(join(own, path)), { recursive: true });
      writeFileSync(join(own, path), text);
    }
    cpSync(join('bench/types', program.main), join(own, program.main));
    for (const [command, ...args] of program.build)
      execFileSync(command, args, { cwd: own, stdio: 'inherit' });
    const rows = execFileSync(join(own, program.run), [folder], { encoding: 'utf8' })
      .trim()
      .split('\n')
      .map((line) => line.split(' '));
    for (const name of ['notices', 'sailings']) {
      const times = rows.filter(([of]) => of === name).map(([, ...figures]) => figures.map(Number));
      const decode = median(times.map(([plain, , typed]) => typed / plain)).toFixed(2);
      const encode = median(times.map(([, plain, , typed]) => typed / plain)).toFixed(2);
      console.log(
        `types: ${`${language.name}, ${name}`.padEnd(38)} ${decode.padStart(5)}x  ${encode.padStart(5)}x`,
      );
    }
  }
}

/** Writes a list of some values again and again. */
function enlarge(path, values) {
  const texts = values.map((value) => JSON.stringify(value));
  const all = [];
  for (let i = 0, written = 0; written < size; i++) {
    all.push(texts[i % texts.length]);
    written += all[i].length + 1;
  }
  writeFileSync(path, `[${all.join(',')}]`);
}
