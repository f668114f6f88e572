import { existsSync } from 'node:fs';
import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language, Prepared } from '../language.js';
import { emitRust, functionNames, moduleName, reservedFields } from './emit.js';
import { plainRust, reachRust } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.rs';
import { changed, generated } from '../kit/ways.js';

const installCrates =
  'apt-get install librust-serde-json-dev librust-serde-derive-dev librust-serde-path-to-error-dev';

/** Rust: structs with serde. */
export const rust: Language = {
  name: 'rust',
  title: 'Rust',
  package: { pattern: /^[a-z][a-z0-9_]*$/, example: 'sailings', reserved: reservedFields, isFile: true },
  text: 'utf-8',
  // The limit of serde_json.
  deepest: 127,
  tools: [
    {
      name: 'rustc',
      programs: ['rustc'],
      variable: 'SKEVO_RUSTC',
      versionArguments: ['--version'],
      versionPattern: /rustc (\d+\.\d+\.\d+)/,
      minimum: '1.62',
      install: 'apt-get install rustc',
    },
    {
      name: 'cargo',
      programs: ['cargo'],
      variable: 'SKEVO_CARGO',
      versionArguments: ['--version'],
      versionPattern: /cargo (\d+\.\d+\.\d+)/,
      minimum: '1.62',
      install:
        'apt-get install cargo librust-serde-json-dev librust-serde-derive-dev librust-serde-path-to-error-dev',
    },
  ],
  libraries: [
    {
      name: 'crates',
      files: () => [existsSync(crates) ? crates : "cargo's registry"],
      install: installCrates,
    },
  ],
  styles: [
    {
      name: 'serde',
      summary: 'structs and enums for serde',
      ways: [
        generated,
        { name: 'from_slice', summary: 'serde_json::from_slice and to_string' },
        { name: 'field', summary: "a field of the caller's own struct" },
        { name: 'elements', summary: 'elements of a Vec' },
        { name: 'Value', summary: 'serde_json::Value and back' },
        { name: 'built', summary: 'a literal of the fields that were decoded' },
        changed,
      ],
      emit: emitRust,
      reach: reachRust,
      plain: plainRust,
      bench,
    },
  ],
};

/** Where distributions put the sources of crates; without it they come from the registry that cargo knows. */
const crates = '/usr/share/cargo/registry';

function dependencies(): Prepared {
  const files = [
    {
      path: 'Cargo.toml',
      text: `[package]
name = "dependencies"
version = "0.0.0"
edition = "2021"

[dependencies]
serde = { version = "1", features = ["derive"] }
serde_json = { version = "1", features = ["arbitrary_precision", "float_roundtrip"] }
serde_path_to_error = "0.1"
`,
    },
    { path: 'src/lib.rs', text: 'pub use {serde, serde_json, serde_path_to_error};\n' },
  ];
  // A registry that does not answer is not asked again: it is said at once what to install.
  const patience = '[net]\nretry = 0\n\n[http]\ntimeout = 20\n';
  const source = existsSync(crates)
    ? `\n[source.crates-io]\nreplace-with = "distribution"\n\n[source.distribution]\ndirectory = "${crates}"\n`
    : '';
  files.push({ path: '.cargo/config.toml', text: patience + source });
  return {
    files,
    build: [{ tool: 'cargo', arguments: ['build', '--quiet'] }],
    unavailable: {
      pattern:
        /failed to (get|fetch|download|query|load source)|no matching package|[Uu]nable to update|can't be (found|accessed)/,
      what: 'cargo cannot have the crates of serde',
      install: installCrates,
    },
  };
}

function bench(model: TypeModel, options: BenchOptions): Bench {
  const { pedantic } = options;
  const module = moduleName(model);
  const { decode, encode } = functionNames(model.roots[options.root ?? 0]!);
  const { scope, changes } = benchScope(model, options);
  const program = `${fill(benchTemplate, { ...scope, module, decode, encode })}\n`;
  const libraries = ['serde', 'serde_json', 'serde_path_to_error'].flatMap((name) => ['--extern', name]);
  return {
    changes,
    files: [{ path: 'main.rs', text: program }],
    prepared: dependencies(),
    build: [
      {
        tool: 'rustc',
        arguments: [
          '--edition=2021',
          '-C',
          'strip=symbols',
          'main.rs',
          '-o',
          'bench',
          '-L',
          '{prepared}/target/debug/deps',
          ...libraries,
          ...(pedantic ? ['-D', 'warnings', '-A', 'dead_code'] : ['-A', 'warnings']),
        ],
      },
    ],
    run: { program: 'bench', arguments: [] },
  };
}
