import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { languages } from '../../src/languages/index.js';
import { unknownRules, type UnknownRule } from '../../src/languages/language.js';
import { makeAll } from '../../src/languages/make.js';
import { buildModel } from '../../src/core/model/build.js';
import type { TypeModel } from '../../src/core/model/types.js';
import { addFiles, infer, workspace } from '../support.js';
import { unlessBrief } from '../effort.js';
import { asOne, cases } from './cases.js';
import { wideModel } from './wide.js';

const tools = resolve('tests/.tools/clang/bin');
const isHere = existsSync(join(tools, 'clang-tidy'));
if (!isHere && process.env['SKEVO_ALL_LANGUAGES'] !== undefined)
  throw new Error('clang-tidy must run here: scripts/install-toolchains.sh gets it');
if (!isHere) process.stderr.write('not run: clang-format and clang-tidy are not installed\n');

const layout = `BasedOnStyle: LLVM
ColumnLimit: 120
IndentWidth: 4
AccessModifierOffset: -4
AlwaysBreakTemplateDeclarations: Yes
IncludeBlocks: Preserve
DerivePointerAlignment: false
PointerAlignment: Left
`;
const checks = `Checks: >
  -*,
  bugprone-*,
  modernize-*,
  performance-*,
  readability-*,
  -bugprone-easily-swappable-parameters,
  -modernize-use-trailing-return-type,
  -readability-identifier-length,
  -readability-magic-numbers,
  -readability-redundant-member-init
WarningsAsErrors: '*'
HeaderFilterRegex: '.*'
`;
const cpp = languages.find(({ name }) => name === 'cpp')!;

/** Cases that together use all of what is written once a package: checking takes half a minute a package. */
const one = (name: string) => cases.find((each) => each.name === name)!;
const wanted = [
  asOne(
    [
      'the four states of a record, a list or a flag',
      'a union told apart by its keys',
      'a closed choice',
      'a tuple with records and nulls',
    ].map((name, i) => ({ ...one(name), name: `part${i}` })),
  ),
  one('a union at the top that contains itself'),
];

describe.runIf(isHere)('what is written in C++ is', () => {
  const folder = workspace({ '.clang-format': layout, '.clang-tidy': checks });
  // What drops what it does not know has less of the same.
  const rules = ['keep', 'reject'] as const;
  const files = unlessBrief(wanted).flatMap(({ payloads }, i) => {
    const unknown = rules[i]!;
    const model = buildModel(infer(payloads).schema);
    const [made] = makeAll(model, [{ language: cpp, style: cpp.styles[0], unknown }], { origin: 's.json' });
    const own = made!.emitted.files.map(({ path, text }) => [`${i}/${path}`, text] as const);
    addFiles(folder, Object.fromEntries(own));
    return own.map(([path]) => path);
  });
  const run = (tool: string, given: readonly string[]) => {
    const { status, stdout, stderr } = spawnSync(join(tools, tool), given, {
      cwd: folder,
      encoding: 'utf8',
      maxBuffer: 1 << 28,
      env: { ...process.env, PYTHONPATH: resolve(tools, '..') },
    });
    return { status, said: `${stdout}${stderr}` };
  };

  test('as clang-format leaves it', () => {
    const style = cpp.styles[0];
    const texts = new Map<string, string>();
    const take = (name: string, model: TypeModel, unknown: UnknownRule) => {
      for (const { path, text } of style.emit(model, { origin: 's.json', unknown }).files)
        if (![...texts.values()].includes(text)) texts.set(`${name}-${unknown}/${path}`, text);
    };
    unlessBrief(cases)
      .filter(({ unformatted }) => !unformatted)
      .forEach(({ payloads }, i) =>
        take(`case${i}`, buildModel(infer(payloads).schema), unknownRules[i % unknownRules.length]!),
      );
    for (const unknown of unknownRules)
      take('wide', wideModel('the_number_of_vehicles_that_may_still_board_when_the_tide_is_low'), unknown);
    addFiles(folder, Object.fromEntries(texts));
    const { said } = run('clang-format', ['--dry-run', ...texts.keys()]);
    expect(said.split('\n').filter((line) => line.includes(': warning:'))).toEqual([]);
  });

  test('clean under clang-tidy', { timeout: 600_000 }, () => {
    const sources = files.filter((path) => path.endsWith('.cpp'));
    const { status, said } = run('clang-tidy', ['--quiet', ...sources, '--', '-std=c++20']);
    expect(said.split('\n').filter((line) => /: (warning|error):/.test(line))).toEqual([]);
    expect(status).toBe(0);
  });
});
