import { spawnSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { homedir } from 'node:os';
import { join, resolve } from 'node:path';
import prettier from 'prettier';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import type { TypeModel } from '../../src/core/model/types.js';
import { formatMark } from '../../src/core/observe/mark.js';
import { lossesOf } from '../../src/report/check.js';
import type { Language, Style } from '../../src/languages/language.js';
import { makeAll } from '../../src/languages/make.js';
import { checkStyle } from '../../src/workbench/check.js';
import {
  addFiles,
  chunks,
  hasProgram,
  hasTool,
  infer,
  isBeyond,
  languagesHere,
  payloadsOf,
  rulesOf,
  workspace,
  patient,
} from '../support.js';
import { fewer, isBrief, isLong, shareOf, unlessBrief } from '../effort.js';
import { asOne, cases, isLarge, type Case } from './cases.js';

const here = await languagesHere();
const freshModel = (payloads: readonly string[]) => buildModel(infer(payloads).schema);
const models = new WeakMap<readonly string[], TypeModel>();
/** The model of a case, inferred once for all styles. */
const model = (payloads: readonly string[]): TypeModel => {
  const known = models.get(payloads) ?? freshModel(payloads);
  models.set(payloads, known);
  return known;
};
const check = (language: Language, style: Style, payloads: readonly string[]) =>
  checkStyle(language, style, model(payloads), 'sailing.schema.json', payloadsOf(payloads), {
    strict: false,
    pedantic: true,
    limits: patient,
  });
/** Milliseconds for a checker that reads hundreds of files beside other tests. */
const timeout = 600_000;

/** Checkers of Python, where scripts/install-toolchains.sh put them. */
const pythonTools = resolve('tests/.tools/python/bin');

/** The formatter of Kotlin, where the repository of Maven has it. */
const ktlint = join(
  homedir(),
  '.m2/repository/com/pinterest/ktlint/ktlint-cli/1.8.0/ktlint-cli-1.8.0-all.jar',
);

/** By case: the keys that become fields. */
const fieldKeys = new Map(
  cases.map(({ name, payloads }) => [
    name,
    model(payloads).records.flatMap(({ fields }) => fields.map(({ key }) => key)),
  ]),
);

/**
 * Cases by themselves: a third where builds take no time, a fourteenth where a compiler or a library takes a second or more to start,
 * others for each style, so that together they take all, and
 * fewer where somebody waits. The rest stand a score to a payload. Of the keys that stand alone, which one case has
 * together, all get a part.
 */
const quick = ['python dataclass', 'typescript interface', 'php class', 'ruby class'];
/** What a value built anew writes of a list without elements shows at the top of a payload alone. */
const shownByItself = 'the four states of a list of text';
const isSlow = (language: Language, style: Style) => !quick.includes(`${language.name} ${style.name}`);
const isKey = ({ name }: Case) => name.startsWith('the key ');
const aloneFor = (language: Language, style: Style) => {
  if (isLong) return cases;
  const at = styles.indexOf(`${language.name} ${style.name}`);
  const [others, keys] = (isSlow(language, style) ? [14, 36] : [3, 9]).map((each) => each * fewer) as [
    number,
    number,
  ];
  const [single, whole] = [cases.filter(isKey), cases.filter((each) => !isKey(each))];
  const known = cases.filter(({ name }) => name === shownByItself);
  return [...new Set([...known, ...shareOf(whole, at, others), ...shareOf(single, at * 5, keys)])];
};
const styles = here.flatMap((language) => language.styles.map((style) => `${language.name} ${style.name}`));

/** Limits that showed, by language and style. */
const shown = new Map<string, Set<string>>();

for (const language of here) {
  for (const style of language.styles) {
    const own = new Set<string>();
    shown.set(`${language.name} ${style.name}`, own);
    describe.concurrent(`${language.name} ${style.name} loses nothing of`, () => {
      const isBroken = ({ name, payloads, beyond }: Case) =>
        beyond?.some((each) => each === language.name || each === `${language.name} ${style.name}`) ||
        payloads.some((text) => isBeyond(language, style, text, fieldKeys.get(name)));
      const some = aloneFor(language, style);
      const broken = some.filter(isBroken);
      const alone = some.filter((each) => !isBroken(each));
      const others = cases.filter(
        (each) => !some.includes(each) && !isBroken(each) && !isKey(each) && !isLarge(each),
      );
      const whole = [
        ...alone,
        ...unlessBrief(chunks(others, 20).map(asOne), styles.indexOf(`${language.name} ${style.name}`)),
      ];

      test.for(broken)(
        '$name, which is beyond it, is not passed as clean',
        async ({ payloads }, { expect }) => {
          const result = await check(language, style, payloads);
          expect(result.state).toBe('checked');
          expect(lossesOf(result)).toBeGreaterThan(0);
        },
      );

      test.for(whole)('$name', async ({ payloads }, { expect }) => {
        const result = await check(language, style, payloads);
        result.limits.forEach(({ way, says }) => own.add(`${way}: ${says}`));
        expect(result.reason).toBeUndefined();
        expect(result.state).toBe('checked');
        expect(
          result.findings
            .filter(({ severity }) => severity === 'loss')
            .map(
              (each) =>
                `${each.kind} ${each.pointer} ${each.cause} ${formatMark({ ...each, file: each.payload })}`,
            ),
        ).toEqual([]);
        expect(lossesOf(result)).toBe(0);
        expect(result.returned).toBe(payloads.length);
      });
    });
  }
}

// Some show in one case alone.
test.skipIf(isBrief)(
  'every limit that is listed shows in some case, and those of Go that check have none',
  () => {
    for (const language of here) {
      for (const { name, ways = [] } of language.styles) {
        const listed = ways.flatMap(({ name: way, limits = [] }) =>
          limits.map(({ says }) => `${way}: ${says}`),
        );
        expect([...shown.get(`${language.name} ${name}`)!].sort(), `${language.name} ${name}`).toEqual(
          listed.sort(),
        );
        if (language.name === 'go' && name === 'struct') expect(listed).toEqual([]);
      }
    }
  },
);

describe('generated sources', () => {
  /** One rule for what a schema does not know for each case, in turn, or all of them. */
  const rulesHere = (style: Style, i: number) =>
    rulesOf(style).filter((_, k, all) => isLong || k === i % all.length);
  const emitted = here.flatMap((language) =>
    language.styles.flatMap((style) =>
      unlessBrief(cases)
        .filter(({ unformatted }) => !unformatted)
        .flatMap(({ name, payloads }, i) =>
          rulesHere(style, i).map((unknown) => ({
            payloads,
            language,
            style,
            name,
            unknown,
            slug: `case${String(i).padStart(3, '0')}_${unknown}`,
            files: style.emit(model(payloads), { origin: 'sailing.schema.json', unknown }).files,
          })),
        ),
    ),
  );

  /** A folder with a file for every case in a language, or a folder of files. */
  const filesOf = (name: string, ending: string): string => {
    const folder = workspace();
    for (const { language, style, slug, files } of emitted) {
      if (language.name !== name) continue;
      const pathOf = (path: string) => (files.length === 1 ? ending : `/${path}`);
      addFiles(
        folder,
        Object.fromEntries(files.map(({ path, text }) => [`${style.name}_${slug}${pathOf(path)}`, text])),
      );
    }
    return folder;
  };

  test('are as prettier leaves them', async () => {
    const changed: string[] = [];
    for (const { language, style, name, files } of emitted) {
      if (language.name !== 'typescript') continue;
      for (const { text } of files) {
        const formatted = await prettier.format(text, { parser: 'typescript' });
        if (formatted !== text) {
          const lines = formatted.split('\n');
          const at = text.split('\n').findIndex((line, k) => line !== lines[k]);
          changed.push(
            `${style.name}: ${name}: ${text
              .split('\n')
              .slice(at, at + 3)
              .join('\n')}\nshould be ${lines.slice(at, at + 3).join('\n')}`,
          );
        }
      }
    }
    expect(changed).toEqual([]);
  });

  test.runIf(hasTool(join(pythonTools, 'black')))(
    'are as black leaves them, and clean under ruff and mypy --strict',
    { timeout },
    () => {
      const folder = filesOf('python', '.py');
      const run = (program: string, ...given: string[]) => {
        const ran = spawnSync(join(pythonTools, program), [...given, folder], {
          encoding: 'utf8',
          maxBuffer: 1 << 28,
        });
        return `${ran.stdout}${ran.stderr}`;
      };
      expect(run('black', '--check', '--diff', '--quiet').slice(0, 4000)).toBe('');
      // What a name is made of, and how long a word is, is the payloads' affair.
      expect(run('ruff', 'check', '--quiet', '--ignore', 'E501,E741').slice(0, 4000)).toBe('');
      expect(run('mypy', '--strict', '--cache-dir', join(folder, 'cache')).slice(0, 4000)).toMatch(
        /^Success/,
      );
    },
  );

  test.runIf(hasProgram('gofmt', '-h'))('are as gofmt leaves them', () => {
    const folder = filesOf('go', '.go');
    expect(spawnSync('gofmt', ['-l', '-d', folder], { encoding: 'utf8' })).toMatchObject({
      stdout: '',
      stderr: '',
    });
  });

  test.runIf(hasProgram('rustfmt'))('are as rustfmt leaves them', () => {
    const folder = filesOf('rust', '.rs');
    const files = readdirSync(folder).map((name) => join(folder, name, 'src/lib.rs'));
    expect(
      spawnSync('rustfmt', ['--edition', '2024', '--check', ...files], { encoding: 'utf8' }),
    ).toMatchObject({
      stdout: '',
      stderr: '',
    });
  });

  test.runIf(hasProgram('swift-format'))('are as swift-format leaves them', () => {
    // What names are made of is the payloads' affair.
    const rules = { AlwaysUseLowerCamelCase: false, IdentifiersMustBeASCII: false };
    const layout = { version: 1, lineLength: 100, indentation: { spaces: 4 }, rules };
    const folder = filesOf('swift', '.swift');
    const given = [
      'lint',
      '--strict',
      '--parallel',
      '--recursive',
      '--configuration',
      JSON.stringify(layout),
    ];
    const { stdout, stderr } = spawnSync('swift-format', [...given, folder], {
      encoding: 'utf8',
      maxBuffer: 1 << 28,
    });
    // Long words and messages cannot be broken.
    const said = `${stdout}${stderr}`.split('\n').filter((line) => !/^$|\[LineLength\]/.test(line));
    expect(said.slice(0, 20)).toEqual([]);
  });

  test.runIf(hasTool(ktlint))('are as ktlint leaves them', { timeout }, () => {
    const folder = filesOf('kotlin', '.kt');
    // What names are made of is the payloads' affair, and so is which case has one class.
    const settings = [
      '[*.kt]',
      ...['filename', 'property-naming', 'class-naming', 'enum-entry-name-case'].map(
        (rule) => `ktlint_standard_${rule} = disabled`,
      ),
    ];
    addFiles(folder, { '.editorconfig': `root = true\n${settings.join('\n')}\n` });
    const { stdout, stderr } = spawnSync('java', ['-jar', ktlint, '--log-level=error', '**/*.kt'], {
      cwd: folder,
      encoding: 'utf8',
      maxBuffer: 1 << 28,
    });
    expect(`${stdout}${stderr}`.split('\n').slice(0, 20)).toEqual(['']);
  });

  test.runIf(hasTool('tests/.tools/scalafmt'))('are as scalafmt leaves them', { timeout }, () => {
    const { stdout, stderr } = spawnSync(
      'java',
      ['-cp', 'tests/.tools/scalafmt/*', 'tests/compilers/ScalaLayout.java', filesOf('scala', '.scala')],
      { encoding: 'utf8', maxBuffer: 1 << 28 },
    );
    expect(`${stdout}${stderr}`.split('\n').slice(0, 60)).toEqual(['']);
  });

  test.runIf(hasProgram('cargo-clippy'))('are what clippy takes', () => {
    const folder = filesOf('rust', '.rs');
    const rust = here.find(({ name }) => name === 'rust')!;
    const modules = readdirSync(folder).map(
      (name) => `#[path = "../${name}/src/lib.rs"]\npub mod ${name};\n`,
    );
    const [made] = makeAll(model(['{}']), [{ language: rust, style: rust.styles[0] }], { origin: '' });
    const { prepared } = made!.bench;
    addFiles(folder, Object.fromEntries(prepared!.files.map(({ path, text }) => [path, text])));
    const allowed = '#![allow(mixed_script_confusables, confusable_idents, uncommon_codepoints)]\n';
    addFiles(folder, { 'src/lib.rs': allowed + modules.join('') });
    const clippy = spawnSync(
      'cargo',
      ['clippy', '--quiet', '--', '-D', 'warnings', '-W', 'clippy::pedantic'],
      {
        cwd: folder,
        encoding: 'utf8',
        maxBuffer: 1 << 28,
      },
    );
    expect(clippy.stderr.slice(0, 3000)).toBe('');
    expect(clippy.status).toBe(0);
  });

  test.runIf(hasProgram('phpcs'))('are what php takes, and as PSR-12 wants them', { timeout }, () => {
    const folder = workspace();
    const known = new Set<string>();
    const php = emitted
      .filter(({ language, unknown }) => language.name === 'php' && unknown !== 'reject')
      .flatMap(({ slug, files }) => files.map(({ path, text }) => [`${slug}/${path}`, text] as const))
      .filter(([, text]) => !known.has(text) && known.add(text));
    addFiles(folder, Object.fromEntries(php));
    const run = (program: string, ...given: string[]) =>
      spawnSync(program, given, { cwd: folder, encoding: 'utf8', maxBuffer: 1 << 28 });
    // Its warnings are of classes that are readonly, which this release does not know, and it knows no letters beyond ASCII.
    const layout = run('phpcs', '--standard=PSR12', '--warning-severity=0', '--report=emacs', '.').stdout;
    const isOfLetters = (line: string) => /Class name ".*[^ -~].*" is not in PascalCase/.test(line);
    expect(layout.split('\n').filter((line) => line !== '' && !isOfLetters(line))).toEqual([]);
    const syntax = run('sh', '-c', "find . -name '*.php' -print0 | xargs -0 -n 1 -P 2 php -l");
    const said = `${syntax.stdout}${syntax.stderr}`
      .split('\n')
      .filter((line) => !/^$|^No syntax errors/.test(line));
    expect(said).toEqual([]);
  });

  test('are the same whenever they are made', () => {
    const again = new Map(cases.map(({ payloads }) => [payloads, freshModel(payloads)]));
    for (const { style, name, files, unknown, payloads } of emitted) {
      const made = style.emit(again.get(payloads)!, { origin: 'sailing.schema.json', unknown });
      expect(made.files, name).toEqual(files);
    }
  });
});
