import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import type { BenchCommand, Language } from '../../src/languages/language.js';
import { cacheFolder } from '../../src/workbench/cache.js';
import { findToolchain } from '../../src/workbench/toolchain.js';
import { languagesHere, skevo, workspace } from '../support.js';
import { breakages, expected, type Breakage } from './breakages.js';

/** Payloads in which every breakage shows. */
const samples = [
  '{"id":9007199254740993,"departs_at":"2031-05-01T08:00:00+01:00","seats":12,"gate":"A","delay":3,"legs":["N","S","L"]}',
  '{"id":9007199254740995,"departs_at":"2031-05-02T08:00:00+01:00","seats":13,"delay":null,"legs":["S"]}',
  '{"id":9007199254740997,"departs_at":"2031-05-03T08:00:00+01:00","seats":14,"gate":"B","legs":["N"]}',
].join('\n');

/** A command of a bench as program and arguments. */
async function commandLine(language: Language, { tool, arguments: args }: BenchCommand): Promise<string[]> {
  const toolchain = await findToolchain(language);
  if (toolchain.state !== 'ready') throw new Error(toolchain.reason);
  const { file, prefix } = toolchain.tools.get(tool)!;
  return [file, ...prefix, ...args];
}

/** Where the last check found what does not depend on the schema; other compilers may have made theirs before. */
function preparedFolder(name: string): string {
  const found = readdirSync(cacheFolder())
    .filter((each) => each.startsWith(`${name}-prepared-`))
    .map((each) => join(cacheFolder(), each))
    .sort((a, b) => statSync(b).mtimeMs - statSync(a).mtimeMs);
  return found[0]!;
}

for (const language of await languagesHere()) {
  for (const style of language.styles) {
    describe(`${language.name} ${style.name}, broken on purpose:`, () => {
      const folder = workspace({ 'sailings.ndjson': samples });
      const bench = join(folder, 'bench', `${language.name}-${style.name}`);
      const check = (...args: string[]) =>
        skevo(['check', 's.json', 'sailings.ndjson', '--json', '--timeout', '30', ...args], { cwd: folder });
      skevo(['infer', 'sailings.ndjson', '--name', 'Sailing', '--out', 's.json'], { cwd: folder });
      const kept = check('--language', `${language.name}:${style.name}`, '--keep', 'bench');
      const edits = breakages[`${language.name} ${style.name}`];

      test('unbroken, nothing is lost, and every breakage is known', () => {
        expect(kept.code, kept.out + kept.err).toBe(0);
        expect(Object.keys(edits ?? {})).toEqual(Object.keys(expected));
      });

      test.for(Object.keys(expected) as Breakage[])('%s', async (name) => {
        const [file, from, to, { kind, pointer } = expected[name]] = edits![name];
        const path = join(bench, file);
        const original = readFileSync(path, 'utf8');
        const broken = original.replace(from, to);
        expect(broken).not.toBe(original);
        writeFileSync(path, broken);
        try {
          const source = { name: 's.json', bytes: readFileSync(join(folder, 's.json')), firstLine: 1 };
          const { build, run, prepared } = style.bench(buildModel(readSchema(source)), { pedantic: false });
          const library = prepared === undefined ? '' : preparedFolder(`${language.name}-${style.name}`);
          for (const step of build) {
            const [program, ...args] = await commandLine(language, step);
            const own = args.map((each) => each.replace('{prepared}', library));
            const built = spawnSync(program!, own, { cwd: bench, encoding: 'utf8' });
            expect(built.status, built.stdout + built.stderr).toBe(0);
          }
          const words =
            'program' in run
              ? [join(bench, run.program), ...run.arguments]
              : await commandLine(language, run);
          const quoted = words.map((word) => `'${word}'`).join(' ');
          const { code, out } = check('--with', `cd ${bench} && ${quoted}`);
          const found = JSON.parse(out).languages[0].findings as { severity: string }[];
          expect(code).toBe(1);
          expect(found.filter(({ severity }) => severity === 'loss')).toContainEqual(
            expect.objectContaining({ kind, pointer }),
          );
        } finally {
          writeFileSync(path, original);
        }
      });
    });
  }
}
