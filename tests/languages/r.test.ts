import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { languages } from '../../src/languages/index.js';
import { unknownRules } from '../../src/languages/language.js';
import { addFiles, hasProgram, infer, workspace } from '../support.js';
import { unlessBrief } from '../effort.js';
import { asOne, cases } from './cases.js';

const style = languages.find(({ name }) => name === 'r')!.styles[0];

/** Cases that together use all of what is written once a package: checking takes ten seconds a package. */
const wanted = [
  ['the four states of a record, a list or a flag', 'a tuple with records and nulls'],
  ['the four states of a long integer'],
  ['a union told apart by its keys'],
];

describe.runIf(hasProgram('R'))('what is written in R is', () => {
  const folder = workspace();
  const packages = unlessBrief(wanted).map((wish, i) => {
    const parts = wish.map((name, k) => ({ ...cases.find((each) => each.name === name)!, name: `part${k}` }));
    const model = buildModel(infer(asOne(parts).payloads).schema);
    const unknown = unknownRules[i]!;
    const { files } = style.emit(model, { origin: 's.json', unknown, package: `ferries${i}` });
    addFiles(folder, Object.fromEntries(files.map(({ path, text }) => [`ferries${i}/${path}`, text])));
    return `ferries${i}`;
  });

  test.for(packages)('a package that R CMD check takes: %s', { timeout: 300_000 }, (name, context) => {
    const run = (...given: string[]) =>
      spawnSync('R', ['CMD', ...given], {
        cwd: folder,
        encoding: 'utf8',
        env: { ...process.env, LC_ALL: 'C.UTF-8' },
      });
    context.expect(run('build', name).status).toBe(0);
    const checked = run('check', '--no-manual', `${name}_1.0.0.tar.gz`);
    const log = readFileSync(join(folder, `${name}.Rcheck/00check.log`), 'utf8');
    context.expect(log).toMatch(/^Status: OK$/m);
    context.expect(checked.status).toBe(0);
  });

  test('as lintr leaves it', { timeout: 300_000 }, () => {
    // What names are made of, and how long they are, is the payloads' affair; what is used is seen in a package alone.
    const code = `
      linters <- lintr::linters_with_defaults(
        lintr::line_length_linter(120), object_name_linter = NULL, object_length_linter = NULL,
        object_usage_linter = NULL, cyclocomp_linter = NULL
      )
      for (name in commandArgs(TRUE)) print(lintr::lint_dir(file.path(name, "R"), linters))`;
    const { stdout, stderr } = spawnSync('Rscript', ['-e', code, ...packages], {
      cwd: folder,
      encoding: 'utf8',
    });
    expect(`${stdout}${stderr}`.replace(/^\.+$/gm, '').trim()).toBe('');
  });
});
