import type { TypeModel } from '../../core/model/types.js';
import type { Bench, BenchOptions, Language, Prepared } from '../language.js';
import { emitRust, rootOf } from './emit.js';
import { plainRust, reachRust } from './reach.js';
import { benchScope } from '../kit/bench.js';
import { fill } from '../kit/template.js';
import benchTemplate from './templates/bench.rs';
import { reservedCrates, ways } from './spelling.js';
import dependenciesManifest from './templates/dependencies.toml';

const installCrates = 'cargo fetch, where its registry can be reached';

/** Rust: structs with serde. */
export const rust: Language = {
  name: 'rust',
  title: 'Rust',
  package: { pattern: /^[a-z][a-z0-9_]*$/, example: 'sailings', reserved: reservedCrates },
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
      minimum: '1.85',
      install: 'see rust-lang.org/tools/install',
    },
    {
      name: 'cargo',
      programs: ['cargo'],
      variable: 'SKEVO_CARGO',
      versionArguments: ['--version'],
      versionPattern: /cargo (\d+\.\d+\.\d+)/,
      minimum: '1.85',
      install: 'see rust-lang.org/tools/install',
    },
  ],
  styles: [
    {
      name: 'serde',
      summary: 'structs and enums for serde',
      ways,
      typesOthers: true,
      natives: ['date-time', 'date', 'uuid'],
      emit: emitRust,
      reach: reachRust,
      plain: plainRust,
      bench,
    },
  ],
};

function dependencies(): Prepared {
  return {
    files: [
      { path: 'Cargo.toml', text: dependenciesManifest },
      { path: 'src/lib.rs', text: 'pub use {chrono, serde, serde_json, serde_path_to_error, uuid};\n' },
      // A registry that does not answer is not asked again: it is said at once what to install.
      { path: '.cargo/config.toml', text: '[net]\nretry = 0\n\n[http]\ntimeout = 20\n' },
    ],
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
  const { scope, changes } = benchScope(model, options, true);
  const program = `${fill(benchTemplate, { ...scope, ...rootOf(model, options) })}\n`;
  const libraries = ['chrono', 'serde', 'serde_json', 'serde_path_to_error', 'uuid'].flatMap((name) => [
    '--extern',
    name,
  ]);
  return {
    changes,
    files: [{ path: 'main.rs', text: program }],
    prepared: dependencies(),
    build: [
      {
        tool: 'rustc',
        arguments: [
          '--edition=2024',
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
