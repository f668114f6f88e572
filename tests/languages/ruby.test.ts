import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { languages } from '../../src/languages/index.js';
import { unknownRules } from '../../src/languages/language.js';
import { addFiles, hasProgram, infer, workspace } from '../support.js';
import { cases } from './cases.js';

const layout = `AllCops:
  NewCops: enable
  TargetRubyVersion: 3.1
Style/StringLiterals:
  EnforcedStyle: double_quotes
Style/StringLiteralsInInterpolation:
  EnforcedStyle: double_quotes
# Comments stand where the schema says something.
Style/Documentation:
  Enabled: false
# What names are made of is the payloads' affair.
Naming/AsciiIdentifiers:
  Enabled: false
Naming/VariableNumber:
  Enabled: false
Lint/BooleanSymbol:
  Enabled: false
`;
const style = languages.find(({ name }) => name === 'ruby')!.styles[0];
/** Ruby brings its checker of signatures along as a gem, without a program of its own. */
const rbs = hasProgram('gem')
  ? spawnSync('gem', ['contents', 'rbs'], { encoding: 'utf8' })
      .stdout.split('\n')
      .find((path) => path.endsWith('exe/rbs') && existsSync(path))
  : undefined;

describe('what is written in Ruby is', () => {
  const folder = workspace({ '.rubocop.yml': layout });
  // Checking takes a tenth of a second a file: each case is written by one rule, and what is the same stands once.
  const known = new Set<string>();
  const written = cases
    .filter(({ unformatted }) => !unformatted)
    .flatMap(({ payloads }, i) => {
      const name = `Case${i}`;
      const unknown = unknownRules[i % unknownRules.length]!;
      const { files } = style.emit(buildModel(infer(payloads).schema), {
        origin: 's.json',
        unknown,
        package: name,
      });
      return files.filter(({ text }) => {
        const same = text.replaceAll(name, 'Case');
        return !known.has(same) && known.add(same);
      });
    });
  addFiles(folder, Object.fromEntries(written.map(({ path, text }) => [`lib/${path}`, text])));

  test.runIf(hasProgram('rubocop'))('as RuboCop leaves it', { timeout: 600_000 }, () => {
    const { stdout, stderr } = spawnSync('rubocop', ['--cache', 'false', '--format', 'emacs', 'lib'], {
      cwd: folder,
      encoding: 'utf8',
      maxBuffer: 1 << 28,
    });
    // Its parser knows no classes whose names begin with a letter beyond ASCII, which Ruby does.
    const parsed = (line: string) => !/ E: Lint\/Syntax: .*(constant literal|kEND)/.test(line);
    expect(`${stdout}${stderr}`.split('\n').filter(parsed).slice(0, 20)).toEqual(['']);
  });

  test.runIf(rbs !== undefined)('signed as the types of Ruby want it', { timeout: 600_000 }, () => {
    const libraries = ['json', 'date', 'time'].flatMap((name) => ['-r', name]);
    const given = [rbs!, '--log-level', 'error', ...libraries, '-I', 'lib', 'validate', '--silent'];
    const { stdout, stderr, status } = spawnSync('ruby', given, { cwd: folder, encoding: 'utf8' });
    expect(`${stdout}${stderr}`.slice(0, 2000)).toBe('');
    expect(status).toBe(0);
  });
});
