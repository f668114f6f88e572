import { cpSync, readdirSync, readFileSync, symlinkSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { execa, execaSync } from 'execa';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { languages } from '../../src/languages/index.js';
import { csharp } from '../../src/languages/csharp/index.js';
import { java } from '../../src/languages/java/index.js';
import { kotlin } from '../../src/languages/kotlin/index.js';
import { scala } from '../../src/languages/scala/index.js';
import { classPath } from '../../src/languages/kit/jvm.js';
import { allMade, makeTogether } from '../../src/languages/make.js';
import { addFiles, hasTool, infer, languagesHere, workspace } from '../support.js';

/** How an application of a language is built and run around the files of its types. */
interface Client {
  /** Where the types stand. */
  readonly types: string;
  readonly package?: string;
  /** The first of the language when not given. */
  readonly style?: string;
  readonly files: Readonly<Record<string, string>>;
  readonly build: readonly (readonly string[])[];
  readonly run: readonly string[];
}

/** The pinned crates of the types, which the application has too. */
const dependencies = readFileSync('src/languages/rust/templates/dependencies.toml', 'utf8').split(
  '[dependencies]\n',
)[1]!;

/** Where the crates that the types use are built, once for all runs. */
const crates = resolve('node_modules/.cache/skevo-clients');

/** A compiler that is kept running, as tests/setup.ts says. */
const residentOr = (compiler: string) => process.env[`SKEVO_${compiler.toUpperCase()}`] ?? compiler;

/** Where the distribution of a compiler is, whose program is in its folder `bin`. */
const homeOf = (program: string) =>
  execaSync({ shell: true, reject: false })`readlink -f "$(command -v ${program})"`.stdout.replace(
    /\/bin\/.*/,
    '',
  );

const newtonsoft = csharp.libraries![0]!.files()?.[0] ?? '';

/** The Python that has what the tests want. */
const pythonTools = resolve('tests/.tools/python/bin');

/** Checked by what knows which tests narrow. */
function pythonClient(style: string): Client {
  return {
    types: '.',
    style,
    files: {},
    build: [[join(pythonTools, 'mypy'), '--strict', '--no-error-summary', 'main.py']],
    run: [join(pythonTools, 'python3'), 'main.py'],
  };
}

/** Compiled under the strictest rules that the style is for. */
function typescriptClient(style: string, rules: Readonly<Record<string, boolean>>): Client {
  const options = {
    strict: true,
    target: 'es2023',
    module: 'nodenext',
    lib: ['es2023'],
    types: ['node'],
    typeRoots: [resolve('node_modules/@types')],
    noUncheckedIndexedAccess: true,
    noPropertyAccessFromIndexSignature: true,
    exactOptionalPropertyTypes: true,
    verbatimModuleSyntax: true,
    rewriteRelativeImportExtensions: true,
    outDir: 'out',
    ...rules,
  };
  return {
    types: '.',
    style,
    files: {
      'package.json': '{ "type": "module" }\n',
      'tsconfig.json': JSON.stringify({ compilerOptions: options, include: ['*.ts'] }),
    },
    build: [['node', resolve('node_modules/typescript-native/bin/tsc'), '-p', '.']],
    run: ['node', 'out/main.js'],
  };
}

const clients: Readonly<Record<string, Client>> = {
  cpp: {
    types: '.',
    package: 'saltmere::sailings',
    files: {},
    build: [
      [
        'g++',
        '-std=c++20',
        ...['-Wall', '-Wextra', '-Wpedantic', '-Wconversion', '-Wshadow', '-Werror'],
        ...['main.cpp', 'sailings.cpp', '-o', 'client'],
      ],
    ],
    run: ['./client'],
  },
  java: {
    types: '.',
    package: 'saltmere.sailings',
    files: {},
    build: [
      [
        'javac',
        '-proc:none',
        '-Xlint:all',
        '-Werror',
        '-cp',
        `.:${classPath(java.libraries!)}`,
        '-d',
        'out',
        'Main.java',
      ],
    ],
    run: ['java', '-cp', `out:${classPath(java.libraries!)}`, 'Main'],
  },
  typescript: typescriptClient('class', { experimentalDecorators: true, emitDecoratorMetadata: true }),
  'typescript-interface': typescriptClient('interface', {
    erasableSyntaxOnly: true,
    isolatedDeclarations: true,
    declaration: true,
  }),
  php: {
    types: '.',
    package: 'Saltmere\\Sailings',
    files: {},
    build: [],
    run: ['php', '-d', 'error_reporting=-1', '-d', 'display_errors=1', 'main.php'],
  },
  // The signatures are held against every call.
  ruby: {
    types: '.',
    package: 'SaltmereSailings',
    files: {},
    build: [],
    run: [
      'env',
      'RBS_TEST_TARGET=SaltmereSailings::*',
      'RBS_TEST_OPT=-I . -r json -r date -r time',
      'RBS_TEST_LOGLEVEL=error',
      ...['ruby', '-w', '-r', 'rbs/test/setup', 'main.rb'],
    ],
  },
  r: {
    types: 'package',
    package: 'saltmere',
    files: { 'library/made': '' },
    build: [['sh', '-c', 'R CMD INSTALL --library=library package > log 2>&1 || cat log']],
    run: ['env', 'R_LIBS=library', 'LC_ALL=C.UTF-8', 'Rscript', '--vanilla', 'main.R'],
  },
  python: pythonClient('dataclass'),
  'python-pydantic': pythonClient('pydantic'),
  'python-msgspec': pythonClient('msgspec'),
  kotlin: {
    types: '.',
    package: 'saltmere.sailings',
    files: {},
    build: [
      [
        residentOr('kotlinc'),
        '-no-stdlib',
        '-Werror',
        '-Xexplicit-api=strict',
        `-Xplugin=${join(homeOf('kotlinc'), 'lib/kotlinx-serialization-compiler-plugin.jar')}`,
        '-cp',
        classPath(kotlin.libraries!),
        ...['-d', 'out', 'Main.kt', 'Sailings.kt', 'JsonSupport.kt'],
      ],
    ],
    run: ['java', '-cp', `out:${classPath(kotlin.libraries!)}`, 'client.MainKt'],
  },
  scala: {
    types: '.',
    package: 'saltmere.sailings',
    files: { 'out/made': '' },
    build: [
      [
        residentOr('scalac'),
        ...['-Werror', '-Wunused:all', '-deprecation', '-feature', '-classpath', classPath(scala.libraries!)],
        ...['-d', 'out', 'Main.scala', 'Sailings.scala', 'JsonSupport.scala'],
      ],
    ],
    run: ['java', '-cp', `out:${classPath(scala.libraries!)}`, 'client.Main'],
  },
  csharp: {
    types: '.',
    package: 'Saltmere.Sailings',
    files: {},
    build: [
      [
        'mcs',
        ...['-warn:4', '-warnaserror+', `-r:${newtonsoft}`, '-out:client.exe'],
        ...['Main.cs', 'Sailings.cs', 'JsonSupport.cs'],
      ],
    ],
    run: ['mono', 'client.exe'],
  },
  go: {
    types: 'sailings',
    files: { 'go.mod': 'module saltmere.example/client\n\ngo 1.24\n' },
    build: [
      ['go', 'vet', './...'],
      ['go', 'build', '-o', 'client', '.'],
    ],
    run: ['./client'],
  },
  rust: {
    types: 'sailings',
    files: {
      'Cargo.toml': `[package]
name = "client"
version = "0.1.0"
edition = "2024"

[[bin]]
name = "client"
path = "main.rs"

[dependencies]
sailings = { path = "sailings" }
${dependencies}`,
    },
    build: [['cargo', 'build', '--quiet', '--offline', '--target-dir', crates]],
    run: [join(crates, 'debug/client')],
  },
  swift: {
    types: '.',
    package: 'Sailings',
    files: {},
    build: [
      [
        'swiftc',
        ...['-swift-version', '6', '-warnings-as-errors'],
        ...['main.swift', 'Sailings.swift', 'JSONSupport.swift', '-o', 'client'],
      ],
    ],
    run: ['./client'],
  },
};

/** Headers alone, in two sources of one program. */
const headers: Client = {
  ...clients['cpp']!,
  files: { 'second.cpp': '#include "sailings.hpp"\n#include "sailings.hpp"\n' },
  build: clients['cpp']!.build.map((command) =>
    command.map((each) => (each === 'sailings.cpp' ? 'second.cpp' : each)),
  ),
};

const demo = resolve('demo/payloads');
const texts = (folder: string) =>
  readdirSync(join(demo, folder))
    .sort()
    .map((file) => readFileSync(join(demo, folder, file), 'utf8'));
const models = [
  buildModel(infer(texts('sailings'), 'SailingPage').schema),
  buildModel(infer(texts('notices'), 'Notice').schema),
] as const;
const here = await languagesHere();

/** Applications that decode, read, change, build, compare and print the demo as users of each language would. */
describe.concurrent('an application over the demo', () => {
  const all = [
    ...Object.entries(clients),
    ['cpp:header', headers] as const,
    ['swift:public', clients['swift']!] as const,
  ];
  for (const [label, client] of all) {
    const [name, style] = label.split(/[:-]/);
    const language = languages.find((each) => each.name === name)!;
    const isHere = here.some((each) => each.name === name) && (name !== 'python' || hasTool(pythonTools));
    test.runIf(isHere)(`in ${label} prints what it does in all`, async ({ expect: own }) => {
      const target = {
        language,
        style: language.styles.find((each) => each.name === (style ?? client.style)) ?? language.styles[0],
        package: client.package ?? 'sailings',
      };
      const [made] = allMade(makeTogether(models, [target], { origin: 'the demo' })[0]!);
      const folder = workspace(client.files);
      // As if its packages were installed.
      if (name === 'typescript') symlinkSync(resolve('node_modules'), join(folder, 'node_modules'));
      cpSync(`tests/clients/${label.split(':')[0]}`, folder, { recursive: true });
      addFiles(
        folder,
        Object.fromEntries(made!.emitted.files.map(({ path, text }) => [join(client.types, path), text])),
      );
      for (const [program, ...args] of client.build) {
        const built = await execa(program!, args, { cwd: folder, all: true, reject: false });
        own(built.all).toBe('');
      }
      const [program, ...args] = client.run;
      const { stdout } = await execa(
        program!.startsWith('./') ? join(folder, program!) : program!,
        [...args, demo],
        { cwd: folder },
      );
      own(`${stdout}\n`).toBe(readFileSync('tests/clients/printed.txt', 'utf8'));
    });
  }
});

test('every application that lies here is run', () => {
  const folders = readdirSync('tests/clients', { withFileTypes: true }).filter((each) => each.isDirectory());
  expect(folders.map(({ name }) => name).sort()).toEqual(Object.keys(clients).sort());
});
