import { spawnSync } from 'node:child_process';
import { join, resolve } from 'node:path';
import prettier from 'prettier';
import { describe, expect, test } from 'vitest';
import { languages } from '../../src/languages/index.js';
import { addFiles, hasProgram, hasTool, rulesOf, workspace } from '../support.js';
import { compilerOpened } from './java-tools.js';
import { wideModel } from './wide.js';

/** Names of plain letters, and of others. */
const models = ['vehicles_at_low_tide', 'машины_у_пирса'].map(wideModel);
const folder = workspace();
/** Every style of a language by each of its rules, as it is written. */
const written = (name: string) =>
  languages
    .find((language) => language.name === name)!
    .styles.flatMap((style) =>
      models
        .flatMap((model, i) => rulesOf(style).map((unknown) => ({ model, i, unknown })))
        .flatMap(({ model, i, unknown }) => {
          const own = `${style.name}_${unknown}${i}`;
          const named = name === 'java' ? { package: `ferries.${own}` } : {};
          const { files } = style.emit(model, { origin: 's.json', unknown, ...named });
          return files.map(({ path, text }) => ({ path: join(name, own, path), text }));
        }),
    );
const said = (program: string, given: readonly string[]) => {
  const { stdout, stderr } = spawnSync(program, given, { cwd: folder, encoding: 'utf8' });
  return `${stdout}${stderr}`;
};
const place = (name: string): string[] => {
  const files = written(name);
  addFiles(folder, Object.fromEntries(files.map(({ path, text }) => [path, text])));
  return files.map(({ path }) => path);
};
const black = resolve('tests/.tools/python/bin/black');
const tools = resolve('tests/.tools/error-prone');

describe('what takes more than a line is as the formatter leaves it in', () => {
  test('TypeScript', async () => {
    for (const { text } of written('typescript'))
      expect(text).toBe(await prettier.format(text, { parser: 'typescript' }));
  });

  test.runIf(hasTool(black))('Python', () => {
    place('python');
    expect(said(black, ['--check', '--diff', '--quiet', 'python'])).toBe('');
  });

  test.runIf(hasProgram('gofmt', '-h'))('Go', () => {
    place('go');
    expect(said('gofmt', ['-d', 'go'])).toBe('');
  });

  test.runIf(hasTool(tools))('Java', () => {
    const formatter = [...compilerOpened, '-cp', `${tools}/*`, 'com.google.googlejavaformat.java.Main'];
    expect(said('java', [...formatter, '--dry-run', ...place('java')])).toBe('');
  });
});
