import { execa } from 'execa';
import { writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { describe, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import type { TypeModel } from '../../src/core/model/types.js';
import { readSchema } from '../../src/core/schema/read.js';
import { classPath } from '../../src/languages/kit/jvm.js';
import { makeAll } from '../../src/languages/make.js';
import { packageTrouble } from '../../src/languages/kit/packages.js';
import type { GeneratedFile, Language, Style } from '../../src/languages/language.js';
import { homeOf } from '../../src/workbench/toolchain.js';
import { linkPackages } from '../../src/workbench/folder.js';
import { buildBench } from '../../src/workbench/build.js';
import { checkStyle } from '../../src/workbench/check.js';
import { findToolchain } from '../../src/workbench/toolchain.js';
import { fewer, isBrief, isLong } from '../effort.js';
import { addFiles, bytes, languagesHere, payloadsOf, workspace, patient, chunks } from '../support.js';
import { words } from './words.js';

const here = await languagesHere();
// What is Jackson 2's has the names of Jackson 3's.
const all = here.flatMap((language) =>
  language.styles.filter(({ name }) => name !== 'jackson2').map((style) => ({ language, style })),
);

function modelOf(schema: object): TypeModel {
  return buildModel(readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 }));
}

/** A record that has words as keys, types, words of choices and tags of alternatives. */
function schemaOf(some: readonly string[]) {
  const text = { type: 'string' };
  return {
    title: 'Sailing',
    type: 'object',
    properties: {
      keys: {
        title: 'Keys',
        type: 'object',
        properties: Object.fromEntries(
          some.map((word, i) => [word, i % 3 === 2 ? text : { type: 'integer', format: 'int32' }]),
        ),
        required: some.filter((_, i) => i % 2),
      },
      closed: { type: 'array', items: { type: 'string', enum: some } },
      open: { type: 'array', items: { anyOf: [{ type: 'string', enum: some }, text] } },
      either: {
        anyOf: [
          { type: 'string', enum: some.slice(0, 5) },
          { type: 'array', items: text },
        ],
      },
      ...Object.fromEntries(
        chunks(some, 10).map((few, i) => [
          `arms${i}`,
          { type: 'array', items: { oneOf: few.map((word) => ({ $ref: `#/$defs/${word}` })) } },
        ]),
      ),
    },
    required: ['keys', 'closed', 'open'],
    $defs: Object.fromEntries(
      some.map((word) => [
        word,
        {
          type: 'object',
          properties: { kind: { const: word }, own: text },
          required: ['kind'],
        },
      ]),
    ),
  };
}

function payloadOf(some: readonly string[], isFull: boolean): string {
  const keys = some.flatMap((word, i) => (isFull || i % 2 ? [[word, i % 3 === 2 ? word : i] as const] : []));
  return JSON.stringify({
    keys: Object.fromEntries(keys),
    closed: some,
    open: [...some, 'a word of tomorrow'],
    ...(isFull ? { either: some[0] } : {}),
    ...Object.fromEntries(
      chunks(some, 10).map((few, i) => [
        `arms${i}`,
        few.map((word) => (isFull ? { kind: word, own: word } : { kind: word })),
      ]),
    ),
  });
}

const parts = chunks(words, 60);

/** Compilers that take minutes for all words are given few of them, and others a fifth, unless all are asked for. */
const slow = ['go', 'rust', 'swift', 'kotlin', 'scala', 'cpp', 'java'];
const someOf = <T>(language: Language, all: readonly T[], fast = 5, step = 60): readonly T[] =>
  isLong ? all : all.filter((_, i) => i % (fewer * (slow.includes(language.name) ? step : fast)) === 0);

describe.concurrent('words that mean something somewhere are keys, types, choices and tags', () => {
  for (const { language, style } of all) {
    test.for(
      someOf(
        language,
        parts.map((some, i) => ({ some, i })),
        5,
        20,
      ),
    )(`${language.name} ${style.name} $i`, async ({ some }, { expect }) => {
      const unbound = style.unboundKeys ?? language.unboundKeys;
      const own = some.filter((word) => unbound?.test(word) !== true);
      const payloads = [payloadOf(own, true), payloadOf(own, false)];
      const result = await checkStyle(
        language,
        style,
        modelOf(schemaOf(own)),
        's.json',
        payloadsOf(payloads),
        {
          strict: true,
          limits: patient,
        },
      );
      expect(result.reason).toBeUndefined();
      expect(result.findings.map(({ kind, pointer, cause }) => `${kind} ${pointer} ${cause}`)).toEqual([]);
      expect(result.returned).toBe(payloads.length);
    });
  }
});

/** What compiles, or loads, a folder of sources that have nothing to do with each other; its complaints. */
type Bulk = (folder: string, files: readonly string[], tool: (name: string) => string) => Promise<string>;

const run = async (folder: string, file: string, given: readonly string[]): Promise<string> => {
  const { exitCode, all, message } = await execa(file, given, {
    cwd: folder,
    all: true,
    reject: false,
    maxBuffer: 1 << 28,
  });
  return exitCode === 0 ? '' : (all || message || `exit ${exitCode}`).slice(0, 4000);
};
const listed = (folder: string, files: readonly string[]): string => {
  writeFileSync(join(folder, 'files'), files.map((file) => `"${file}"`).join('\n'));
  return '@files';
};
const librariesOf = (language: string) => {
  const { libraries = [], styles } = here.find(({ name }) => name === language)!;
  return [...libraries, ...styles.flatMap((style) => style.libraries ?? [])];
};

const bulk: Readonly<Record<string, Bulk>> = {
  python: (folder, files, tool) =>
    run(folder, tool('python'), [
      '-c',
      `import importlib, sys; sys.path.insert(0, ''); [importlib.import_module(m) for m in ${JSON.stringify(files.map((file) => file.slice(0, -3).replaceAll('/', '.')))}]`,
    ]),
  typescript: (folder, files, tool) => {
    linkPackages(folder, ['class-transformer', 'class-validator', 'reflect-metadata']);
    const options = ['--target', 'es2022', '--module', 'nodenext', '--strict', '--experimentalDecorators'];
    return run(folder, process.execPath, [
      tool('tsc'),
      '--noEmit',
      ...options,
      '--types',
      '',
      '--skipLibCheck',
      ...files,
    ]);
  },
  go: (folder, _, tool) => {
    writeFileSync(join(folder, 'go.mod'), 'module saltmere\n\ngo 1.24\n');
    return run(folder, tool('go'), ['build', './...']);
  },
  rust: async (folder, files, tool) => {
    const rust = here.find(({ name }) => name === 'rust')!;
    const [made] = makeAll(modelOf(schemaOf(['pier'])), [{ language: rust, style: rust.styles[0] }], {
      origin: '',
    });
    const toolchain = await findToolchain(rust);
    if (toolchain.state !== 'ready') throw new Error(toolchain.reason);
    // The crates are those of any program of a check.
    const built = await buildBench('rust-serde', { ...made!, tools: toolchain.tools }, {});
    if (!('folder' in built)) throw new Error(JSON.stringify(built));
    const crates = files.filter((file) => file.endsWith('/lib.rs'));
    const modules = crates.map((file, i) => `#[path = "${file}"]\npub mod m${i};\n`);
    writeFileSync(join(folder, 'all.rs'), modules.join(''));
    const options = ['--edition=2024', '--crate-type=lib', '--emit=metadata', '-A', 'warnings'];
    const libraries = ['chrono', 'serde', 'serde_json', 'serde_path_to_error', 'uuid'];
    return run(folder, tool('rustc'), [
      ...options,
      ...['all.rs', '-L', `${built.prepared!}/target/debug/deps`],
      ...libraries.flatMap((name) => ['--extern', name]),
    ]);
  },
  java: (folder, files, tool) =>
    run(folder, tool('javac'), [
      '-proc:none',
      '-cp',
      classPath(librariesOf('java')),
      '-d',
      'out',
      listed(folder, files),
    ]),
  kotlin: (folder, files, tool) =>
    run(folder, tool('kotlinc'), [
      ...['-nowarn', '-no-stdlib', '-cp', classPath(librariesOf('kotlin')), '-d', 'out'],
      `-Xplugin=${join(homeOf(tool('kotlinc')), 'lib/kotlinx-serialization-compiler-plugin.jar')}`,
      ...files,
    ]),
  scala: (folder, files, tool) => {
    addFiles(folder, { 'out/made': '' });
    const options = ['-J-Xss16m', '-nowarn', '-classpath', classPath(librariesOf('scala'))];
    return run(folder, tool('scalac'), [...options, '-d', 'out', ...files]);
  },
  csharp: (folder, files, tool) =>
    run(folder, tool('mcs'), [
      '-target:library',
      '-out:all.dll',
      `-r:${here
        .find(({ name }) => name === 'csharp')!
        .libraries![0]!.files()!
        .at(-1)!}`,
      ...files,
    ]),
  php: (folder, files, tool) =>
    run(folder, tool('php'), ['-r', `foreach (${phpList(files)} as $file) require $file;`]),
  ruby: (folder, files, tool) =>
    run(folder, tool('ruby'), [
      '-e',
      `${JSON.stringify(files.filter((file) => file.endsWith('.rb')))}.each { |file| require "./#{file}" }`,
    ]),
  r: (folder, files, tool) => {
    const packages = [...new Set(files.filter((file) => file.endsWith('.R')).map((file) => dirname(file)))];
    const code = `for (package in commandArgs(TRUE)) {
      space <- new.env()
      for (file in c("json.R", "kinds.R", "records.R", "types.R")) sys.source(file.path(package, file), space)
    }`;
    return run(folder, tool('r'), ['--vanilla', '-e', code, ...packages]);
  },
  swift: async (folder, files, tool) => {
    const modules = new Map<string, string[]>();
    for (const file of files) modules.set(dirname(file), [...(modules.get(dirname(file)) ?? []), file]);
    const said = [];
    for (const own of modules.values())
      said.push(await run(folder, tool('swiftc'), ['-swift-version', '6', '-typecheck', ...own]));
    return said.join('');
  },
  cpp: (folder, files, tool) => {
    const codecs = files.filter((file) => file.endsWith('.cpp'));
    writeFileSync(join(folder, 'all.cc'), codecs.map((file) => `#include "${file}"\n`).join(''));
    return run(folder, tool('g++'), ['-std=c++20', '-fsyntax-only', 'all.cc']);
  },
};

const phpList = (files: readonly string[]) => `[${files.map((file) => `'${file}'`).join(', ')}]`;

async function complaints(
  language: Language,
  style: Style,
  made: readonly { readonly folder: string; readonly files: readonly GeneratedFile[] }[],
): Promise<string> {
  const root = workspace();
  const paths = new Set<string>();
  const packages = new Set<string>();
  for (const { folder, files } of made) {
    // Several titles, such as value and values, may give one package.
    const [, name] = /^(?:package|namespace|module) ([\w.:\\]+)/m.exec(files[0]!.text) ?? [];
    if (name !== undefined && packages.has(name.toLowerCase())) continue;
    if (name !== undefined) packages.add(name.toLowerCase());
    const own = files.map(({ path, text }) => ({ path: join(folder, path), text }));
    // Words that differ in capitals alone are one name, and some have one file.
    if (own.some(({ path }) => paths.has(path))) continue;
    addFiles(root, Object.fromEntries(own.map(({ path, text }) => [path, text])));
    own.forEach(({ path }) => paths.add(path));
  }
  const toolchain = await findToolchain(language, undefined, style);
  if (toolchain.state !== 'ready') throw new Error(toolchain.reason);
  const { tools } = toolchain;
  return bulk[language.name]!(
    root,
    [...paths],
    (name) => [...tools.get(name)!.prefix, tools.get(name)!.file][0]!,
  );
}

/** What has a record, a choice and a union. */
const small = (title: string) => modelOf({ ...schemaOf(['pier', 'ramp']), title });

describe.concurrent('words that mean something somewhere', () => {
  for (const { language, style } of all) {
    test(`are titles in ${language.name} ${style.name}`, async ({ expect }) => {
      // What some call a file is not told by the title alone.
      const isApart = ['cpp', 'go', 'kotlin', 'rust', 'scala', 'swift'].includes(language.name);
      const made = someOf(language, words).map((word) => ({
        folder: isApart ? `w${word.toLowerCase()}` : '',
        files: style.emit(small(word), { origin: 's.json' }).files,
      }));
      expect(await complaints(language, style, made)).toBe('');
    });

    test.runIf(language.package !== undefined)(
      `are packages in ${language.name} ${style.name}, or refused`,
      async ({ expect }) => {
        // In some languages, and on some disks, capitals make no difference.
        const distinct = words.filter(
          (word, i) => words.findIndex((other) => other.toLowerCase() === word.toLowerCase()) === i,
        );
        const taken = someOf(
          language,
          distinct.filter((word) => packageTrouble(language, word) === undefined),
        );
        expect(taken.length).toBeGreaterThan(isLong ? 5 : isBrief ? 0 : 1);
        const made = taken.map((word, i) => ({
          folder: `w${i}`,
          files: makeAll(small('Sailing'), [{ language, style, package: word }], { origin: 's.json' })[0]!
            .emitted.files,
        }));
        expect(await complaints(language, style, made)).toBe('');
      },
    );
  }
});
