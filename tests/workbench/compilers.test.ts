import { chmodSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, test } from 'vitest';
import { java } from '../../src/languages/java/index.js';
import { kotlin } from '../../src/languages/kotlin/index.js';
import type { Language } from '../../src/languages/language.js';
import { scala } from '../../src/languages/scala/index.js';
import { Compilers, type Build } from '../../src/workbench/compilers.js';
import { findToolchain, type FoundTool } from '../../src/workbench/toolchain.js';
import { hasProgram, skevo, workspace } from '../support.js';

const own: Compilers[] = [];
afterEach(async () => {
  for (const each of own.splice(0)) await each.end();
});
const compilersOf = (most?: number): Compilers => {
  const made = new Compilers(most);
  own.push(made);
  return made;
};

/** A compiler that says when it is started, and does what the first argument of a build tells it. */
const fake = (log: string, file = 'fakec'): FoundTool => ({
  file,
  prefix: [],
  version: '1',
  resident: {
    file: process.execPath,
    arguments: ['server.mjs'],
    files: [
      {
        path: 'server.mjs',
        text: `import { appendFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
appendFileSync(${JSON.stringify(log)}, 'started\\n');
const answers = { good: '0 ', bad: '1 c2Vl', odd: 'what?' };
createInterface({ input: process.stdin }).on('line', (line) => {
  const given = line.split(' ').map((each) => Buffer.from(each, 'base64').toString());
  appendFileSync(${JSON.stringify(log)}, JSON.stringify(given) + '\\n');
  if (given[0] === 'dies') process.exit(0);
  if (given[0] !== 'hangs') setTimeout(() => console.log(answers[given[0]]), given[0] === 'good' ? 100 : 0);
});
`,
      },
    ],
  },
});

const bench = () => {
  const folder = workspace();
  const log = join(folder, 'log');
  const lines = () => (existsSync(log) ? readFileSync(log, 'utf8').trim().split('\n') : []);
  const build = (word: string, more: Partial<Build> = {}): Build => ({
    folder,
    arguments: [word],
    longest: 60,
    ...more,
  });
  return { folder, tool: fake(log), log, lines, build };
};

describe('a compiler that is kept running', () => {
  test('is started once for builds one after another, and told where their files are', async () => {
    const { folder, tool, lines, build } = bench();
    mkdirSync(join(folder, 'classes'));
    writeFileSync(join(folder, 'classes', 'A ä.java'), '');
    const compilers = compilersOf();
    const given = ['good', '-J-Xmx1g', '-d', 'build', '-cp', 'a:b', 'classes/A ä.java', 'classes', ''];
    expect(await compilers.build(tool, build('', { arguments: given }))).toBe(true);
    expect(await compilers.build(tool, build('good'))).toBe(true);
    const at = (path: string) => join(folder, path);
    expect(lines()).toEqual([
      'started',
      JSON.stringify(['good', '-d', at('build'), '-cp', 'a:b', at('classes/A ä.java'), at('classes'), '']),
      '["good"]',
    ]);
  });

  test('is started as often as builds stand beside each other, up to a number', async () => {
    const { tool, lines, build } = bench();
    const compilers = compilersOf(2);
    const built = await Promise.all(
      ['good', 'good', 'good'].map((word) => compilers.build(tool, build(word))),
    );
    expect(built).toEqual([true, true, false]);
    expect(lines().filter((line) => line === 'started')).toHaveLength(2);
    expect(await compilers.build(tool, build('good'))).toBe(true);
    expect(lines().filter((line) => line === 'started')).toHaveLength(2);
  });

  test('is kept for each program, none where there is no room', async () => {
    const { tool, log, lines, build } = bench();
    const compilers = compilersOf();
    await compilers.build(tool, build('good'));
    await compilers.build(fake(log, 'otherc'), build('good'));
    expect(lines().filter((line) => line === 'started')).toHaveLength(2);
    expect(await compilersOf(0).build(tool, build('good'))).toBe(false);
  });

  test.for(['bad', 'odd'])(
    'leaves a build to its start by hand when it answers %s, and goes on',
    async (word) => {
      const { tool, lines, build } = bench();
      const compilers = compilersOf();
      expect(await compilers.build(tool, build(word))).toBe(false);
      expect(await compilers.build(tool, build('good'))).toBe(true);
      expect(lines().filter((line) => line === 'started')).toHaveLength(1);
    },
  );

  test('is not started again when it ended on its own', async () => {
    const { tool, lines, build } = bench();
    const compilers = compilersOf();
    expect(await compilers.build(tool, build('dies'))).toBe(false);
    expect(await compilers.build(tool, build('good'))).toBe(false);
    expect(lines()).toEqual(['started', '["dies"]']);
  });

  test('that is not there, or that there is no way to keep, builds nothing', async () => {
    const { tool, build } = bench();
    const compilers = compilersOf();
    const missing = { file: 'no-such-program', arguments: [], files: [] };
    expect(await compilers.build({ ...tool, resident: missing }, build('good'))).toBe(false);
    expect(await compilers.build({ file: 'fakec', prefix: [], version: '1' }, build('good'))).toBe(false);
  });

  test('is ended when a build takes too long, or is cancelled, with its reason', async () => {
    const { tool, log, build } = bench();
    const compilers = compilersOf();
    expect(await compilers.build(tool, build('hangs', { longest: 0.3 }))).toBe(false);
    const cancelled = new AbortController();
    setTimeout(() => cancelled.abort(new Error('no more')), 300);
    const { signal } = cancelled;
    const other = fake(log, 'otherc');
    await expect(compilers.build(other, build('hangs', { signal }))).rejects.toThrow('no more');
    await expect(compilers.build(other, build('good', { signal }))).rejects.toThrow('no more');
  });

  test('ends with those that keep it', async () => {
    const { folder, tool, build } = bench();
    const compilers = new Compilers();
    await compilers.build(tool, build('good'));
    await compilers.end();
    expect(existsSync(join(folder, 'log'))).toBe(true);
    expect(await compilers.build(tool, build('good'))).toBe(true);
    await compilers.end();
  });
});

/** What compilers of the JVM are given, good and bad. */
const sources: readonly (readonly [Language, string, string, string])[] = [
  [java, 'javac', 'Pier.java', 'class Pier { int berth = %; }\n'],
  [kotlin, 'kotlinc', 'Pier.kt', 'class Pier { val berth: Int = % }\n'],
  [scala, 'scalac', 'Pier.scala', 'class Pier { val berth: Int = % }\n'],
];

for (const [language, compiler, file, text] of sources) {
  test.runIf(hasProgram(compiler, '-version'))(
    `${compiler} builds what it takes, and leaves the rest`,
    async () => {
      const named = new Map([[compiler, compiler]]);
      const toolchain = await findToolchain(language, named);
      if (toolchain.state !== 'ready') throw new Error(toolchain.reason);
      const tool = toolchain.tools.get(compiler)!;
      const compilers = compilersOf();
      const path = [...toolchain.libraries.values()].flat().join(':');
      for (const [value, isGood] of [
        ['7', true],
        ['"N7"', false],
        ['8', true],
      ] as const) {
        const folder = workspace();
        mkdirSync(join(folder, 'build'));
        writeFileSync(join(folder, file), text.replace('%', value));
        const given = { folder, longest: 120, arguments: ['-J-Xss4m', '-cp', path, '-d', 'build', file] };
        expect(await compilers.build(tool, given), value).toBe(isGood);
        expect(existsSync(join(folder, 'build', 'Pier.class')), value).toBe(isGood);
      }
    },
  );
}

describe.runIf(hasProgram('javac', '-version'))('a run of', () => {
  /** A JDK that says how its programs are started. */
  const jdk = (log: string) =>
    Object.fromEntries(
      ['java', 'javac'].map((name) => [
        `jdk/bin/${name}`,
        `#!/bin/sh\necho "${name} $*" >> '${log}'\nexec ${name} "$@"\n`,
      ]),
    );

  test.for([
    [2, 2, 0],
    [3, 0, 3],
  ] as const)('%i contracts starts javac %i times', ([count, byHand, kept]) => {
    const names = ['piers', 'berths', 'crews'].slice(0, count);
    const folder = workspace(
      Object.fromEntries(names.map((name, i) => [`${name}.json`, `{"id": ${i}, "${name}": null}`])),
    );
    const log = join(folder, 'log');
    for (const [path, text] of Object.entries(jdk(log))) {
      mkdirSync(join(folder, 'jdk/bin'), { recursive: true });
      writeFileSync(join(folder, path), text);
      chmodSync(join(folder, path), 0o755);
    }
    const contracts = Object.fromEntries(
      names.map((name) => [
        name,
        {
          samples: [`${name}.json`],
          schema: `${name}.schema.json`,
          languages: [{ language: 'java', out: `out/${name}`, package: name }],
        },
      ]),
    );
    writeFileSync(join(folder, 'skevo.json'), JSON.stringify({ contracts }));
    const { code, out } = skevo(['run'], {
      cwd: folder,
      env: { SKEVO_CACHE: join(folder, '.cache'), SKEVO_JAVAC: join(folder, 'jdk/bin/javac') },
    });
    expect(code, out).toBe(0);
    const lines = readFileSync(log, 'utf8').split('\n');
    expect(lines.filter((line) => /^javac .*Bench\.java/.test(line))).toHaveLength(byHand);
    const servers = lines.filter((line) => /^java .*CompilerServer\.java javac/.test(line)).length;
    expect(servers > 0).toBe(kept > 0);
    expect(servers).toBeLessThanOrEqual(kept);
  });
});
