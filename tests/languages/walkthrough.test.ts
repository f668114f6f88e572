import { build } from 'esbuild';
import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expect, onTestFinished, test } from 'vitest';
import { textsForBuild } from '../../scripts/texts.mjs';
import { workspace } from '../support.js';

test('a language that is added as CONTRIBUTING.md says is generated and checked', async () => {
  // Beside the packages, so that they are found.
  const copy = resolve(`.walkthrough-${process.pid}`);
  onTestFinished(() => rmSync(copy, { recursive: true, force: true }));
  mkdirSync(copy, { recursive: true });
  cpSync('src', join(copy, 'src'), { recursive: true });
  const begun = spawnSync(process.execPath, ['scripts/new-language.mjs', 'tally', copy], {
    encoding: 'utf8',
  });
  expect(begun.status, begun.stderr).toBe(0);
  expect(begun.stdout.match(/(?<=^wrote .*)src\/.*$/gm)).toEqual([
    'src/languages/tally/templates/file.text',
    'src/languages/tally/templates/bench.text',
    'src/languages/tally/index.ts',
  ]);
  const again = spawnSync(process.execPath, ['scripts/new-language.mjs', 'tally', copy], {
    encoding: 'utf8',
  });
  expect(again.status).toBe(2);
  expect(again.stderr).toContain('is there already');
  const outfile = join(copy, 'skevo.mjs');
  await build({
    entryPoints: [join(copy, 'src/cli/bin.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    outfile,
    define: { SKEVO_VERSION: '"test"' },
    plugins: [textsForBuild],
    logLevel: 'silent',
  });

  const payloads = [
    '{"code":"A","route-code":"x","legs":[{"pier":"N","gate":null},{"pier":"S"},{"pier":"S","gate":"B"}],"load":0.5}',
    '{"code":"B","route-code":"y","legs":[],"load":1.5,"tides":{"2031-05-01":1,"2031-05-02":2}}',
  ];
  const folder = workspace({ 'sailings.ndjson': payloads.join('\n') });
  const skevo = (...args: string[]) =>
    spawnSync(process.execPath, [outfile, ...args], {
      cwd: folder,
      encoding: 'utf8',
      env: { ...process.env, SKEVO_CACHE: join(folder, 'cache') },
    });
  const inferred = skevo('infer', 'sailings.ndjson', '--name', 'Sailing', '--out', 's.json');
  expect(inferred.status, inferred.stderr).toBe(0);
  const generated = skevo('generate', 's.json', '--language', 'tally');
  expect(generated.stdout).toContain('record Sailing\n');
  expect(generated.stdout).toContain('  route_code = "route-code" : required text\n');
  expect(generated.stdout).toContain('  gate = "gate" : both text\n');
  expect(generated.stdout).toContain('  legs = "legs" : required list of Leg\n');
  const checked = skevo('check', 's.json', 'sailings.ndjson', '--language', 'tally', '--json');
  expect(checked.status, checked.stdout + checked.stderr).toBe(0);
  expect(JSON.parse(checked.stdout)).toMatchObject({
    languages: [{ language: 'tally', state: 'checked', returned: 2, findings: [] }],
  });
  writeFileSync(join(folder, 'odd.ndjson'), '{"code":"C","route-code":"z","legs":[],"load":"heavy"}');
  const odd = skevo('check', 's.json', 'odd.ndjson', '--language', 'tally', '--json');
  expect(odd.status).toBe(1);
  expect(JSON.parse(odd.stdout)).toMatchObject({
    languages: [{ findings: [{ kind: 'refused', cause: '"heavy" is no number' }] }],
  });
});
