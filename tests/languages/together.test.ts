import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { allMade, makeTogether } from '../../src/languages/make.js';
import { openSession } from '../../src/workbench/check.js';
import { addFiles, infer, languagesFor, payloadsOf, skevo, workspace, patient } from '../support.js';

const sailings = [
  '{"id":1,"legs":[{"pier":"N","gate":null},{"pier":"S"}],"vessel":{"name":"Heron"}}',
  '{"id":2,"legs":[{"pier":"L","gate":"2"}],"vessel":{"name":"Tern"}}',
];
const notices = [
  '{"title":"a","legs":[{"pier":"N","gate":null},{"pier":"S"}],"vessel":{"code":7}}',
  '{"title":"b","legs":[{"pier":"L","gate":"2"}],"vessel":{"code":8},"seen":[]}',
];
const models = [
  buildModel(infer(sailings, 'Sailing').schema),
  buildModel(infer(notices, 'Notice').schema),
] as const;

describe.concurrent('two payloads in one package', async () => {
  for (const language of await languagesFor(2)) {
    for (const style of language.styles) {
      test(`${language.name} ${style.name} come back, each through its own functions`, async ({ expect }) => {
        const target = { language, style, package: language.package!.example };
        const parts = makeTogether(models, [target], { origin: 's.json and n.json', pedantic: true });
        const [own, other] = parts.map((part) => allMade(part)[0]!);
        expect(own!.emitted.files).toEqual(other!.emitted.files);
        for (const [made, payloads] of [
          [own!, sailings],
          [other!, notices],
        ] as const) {
          const session = await openSession(made, { strict: false, limits: patient });
          const result = await session.ask(payloadsOf(payloads));
          await session.close();
          expect(result.reason).toBeUndefined();
          expect(result).toMatchObject({ state: 'checked', returned: 2, findings: [] });
        }
        const text = own!.emitted.files.map((file) => `${file.path}\n${file.text}`).join('\n');
        const vessels = text.match(/\b(?:notice_?)?vessel\b/gi)!;
        expect(new Set(vessels.map((name) => name.replace('_', '').toLowerCase()))).toEqual(
          new Set(['vessel', 'noticevessel']),
        );
      });
    }
  }
});

const schemas = () => {
  const folder = workspace({ 's.ndjson': sailings.join('\n'), 'n.ndjson': notices.join('\n') });
  skevo(['infer', 's.ndjson', '--name', 'Sailing', '--out', 's.schema.json'], { cwd: folder });
  skevo(['infer', 'n.ndjson', '--name', 'Notice', '--out', 'n.schema.json'], { cwd: folder });
  return folder;
};

describe('generate', () => {
  test('writes several schemas as one package, with its support code once', () => {
    const folder = schemas();
    const args = ['generate', 's.schema.json', 'n.schema.json', '--language', 'go', '--out', 'ferries'];
    const unnamed = skevo(args, { cwd: folder });
    expect(unnamed.code).toBe(2);
    expect(unnamed.err).toContain('Name it with --package');
    expect(existsSync(join(folder, 'ferries'))).toBe(false);
    const { code, err } = skevo([...args, '--package', 'ferries'], { cwd: folder });
    expect([code, err]).toEqual([0, 'wrote ferries/ferries.go\nwrote ferries/support.go\n']);
    const text = readFileSync(join(folder, 'ferries/ferries.go'), 'utf8');
    expect(text).toMatch(/from s\.schema\.json and n\.schema\.json; DO NOT EDIT/);
    expect(text.match(/^type Leg struct/gm)).toHaveLength(1);
  });

  test('writes over nothing that came from another schema', () => {
    const folder = schemas();
    const generate = (schema: string) =>
      skevo(['generate', schema, '--language', 'go', '--package', 'ferries', '--out', 'ferries'], {
        cwd: folder,
      });
    expect(generate('s.schema.json').code).toBe(0);
    const before = readFileSync(join(folder, 'ferries/support.go'), 'utf8');
    const { code, err } = generate('n.schema.json');
    expect(code).toBe(2);
    expect(err).toContain('ferries/support.go is there already, generated from s.schema.json');
    expect(err).toContain('Give all schemas to one generate with --package');
    expect(readFileSync(join(folder, 'ferries/support.go'), 'utf8')).toBe(before);
    expect(readdirSync(join(folder, 'ferries')).sort()).toEqual(['sailing.go', 'support.go']);
    expect(generate('s.schema.json').code).toBe(0);
  });
});

describe('contracts that share a package', () => {
  const contract = (name: string, file: string, extra = {}) => ({
    samples: [`${file}.ndjson`],
    name,
    schema: `${file}.schema.json`,
    languages: [{ language: 'python', out: 'out', package: 'ferries', ...extra }],
  });

  test('come out together, and are run together when one of them changes', () => {
    const folder = workspace({
      's.ndjson': sailings.join('\n'),
      'n.ndjson': notices.join('\n'),
      'skevo.yaml': JSON.stringify({
        contracts: { sailings: contract('Sailing', 's'), notices: contract('Notice', 'n') },
      }),
    });
    const env = { SKEVO_CACHE: join(folder, '.cache') };
    const first = skevo(['run'], { cwd: folder, env });
    expect(first.code, first.out + first.err).toBe(0);
    expect(readdirSync(join(folder, 'out'))).toEqual(['ferries.py']);
    const text = readFileSync(join(folder, 'out/ferries.py'), 'utf8');
    expect(text.match(/^class \w+/gm)).toEqual(
      expect.arrayContaining(['class Sailing', 'class Notice', 'class Leg', 'class NoticeVessel']),
    );
    expect(text.match(/^class Leg/gm)).toHaveLength(1);
    expect(skevo(['run', '--locked'], { cwd: folder, env }).code).toBe(0);

    skevo(['run'], { cwd: folder, env });
    addFiles(folder, {
      'n.ndjson': [...notices, '{"title":"c","legs":[],"vessel":{"code":9},"mark":1}'].join('\n'),
    });
    const changed = skevo(['run', '--locked'], { cwd: folder, env });
    expect(changed.code).toBe(1);
    const again = skevo(['run'], { cwd: folder, env });
    expect(again.code, again.out + again.err).toBe(0);
    expect(again.out).toContain('sailings');
    expect(readFileSync(join(folder, 'out/ferries.py'), 'utf8')).toContain('mark');
  });

  test('with another rule for what is unknown are two, which may not write one file', () => {
    const folder = workspace({
      's.ndjson': sailings.join('\n'),
      'n.ndjson': notices.join('\n'),
      'skevo.yaml': JSON.stringify({
        contracts: {
          sailings: contract('Sailing', 's'),
          notices: contract('Notice', 'n', { unknown: 'keep' }),
        },
      }),
    });
    const { code, err } = skevo(['run'], { cwd: folder, env: { SKEVO_CACHE: join(folder, '.cache') } });
    expect(code).toBe(2);
    expect(err).toContain('would be written twice');
  });
});

test('a contract that cannot be run leaves those before it whole', () => {
  const contract = (file: string) => ({
    samples: [`${file}.ndjson`],
    schema: `${file}.schema.json`,
    languages: [{ language: 'python', out: `out-${file}` }],
  });
  const folder = workspace({
    's.ndjson': sailings.join('\n'),
    'n.ndjson': '{"title":',
    'skevo.yaml': JSON.stringify({ contracts: { sailing: contract('s'), notice: contract('n') } }),
  });
  const { code, err } = skevo(['run'], { cwd: folder, env: { SKEVO_CACHE: join(folder, '.cache') } });
  expect(code).toBe(2);
  expect(err).toContain('n.ndjson:1:10');
  expect(readdirSync(join(folder, 'out-s'))).toEqual(['sailing.py']);
  expect(existsSync(join(folder, 'n.schema.json'))).toBe(false);
});
