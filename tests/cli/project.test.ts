import { Ajv2020 } from 'ajv/dist/2020.js';
import { existsSync, readFileSync, utimesSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { serveFerries, type Standin } from '../../src/standin/ferries.js';
import { parse } from 'yaml';
import { languages } from '../../src/languages/index.js';
import { readProject } from '../../src/project/file.js';
import { execa } from 'execa';
import { addFiles, program, skevoAsync as skevo, workspace } from '../support.js';

let ferries: Standin;
beforeAll(async () => {
  ferries = await serveFerries(resolve('demo/payloads'));
});
afterAll(() => ferries.close());

const project = (version: string) => `contracts:
  sailing:
    samples: samples/sailings
    at: /results/*
    schema: schemas/sailing.schema.json
    capture:
      - url: ${ferries.url}/${version}/sailings?page=1
        pages: 8
    languages:
      - language: typescript
        style: interface
        out: clients/typescript
`;

describe('a project, from the first answer to the next version of the API', () => {
  const folder = workspace();
  const run = (...args: string[]) => skevo(['run', ...args], { cwd: folder });
  const file = (path: string) => readFileSync(join(folder, path), 'utf8');

  test('captures samples page by page, each as it came', async () => {
    addFiles(folder, { 'skevo.yaml': project('v1') });
    const ran = await skevo(['capture'], { cwd: folder });
    expect(ran).toMatchObject({ code: 0, err: '' });
    expect(ran.out.trim().split('\n')).toHaveLength(8);
    expect(file('samples/sailings/sailings-001.json')).toBe(
      readFileSync('demo/payloads/sailings/page-1.json', 'utf8'),
    );
    expect(file('samples/sailings/sailings-001.origin.yaml')).toContain('status: 200');
    const again = await skevo(['capture'], { cwd: folder });
    expect(again.out).toBe('');
    expect(again.err).toContain('answers what samples/sailings/sailings-001.json already holds');
  });

  test('learns, generates and proves at the first run', async () => {
    const ran = await run();
    expect(ran).toMatchObject({ code: 0, err: '' });
    expect(ran.out).toContain('wrote schemas/sailing.schema.json');
    expect(ran.out).toContain('nothing lost of 28 payloads in typescript');
    expect(JSON.parse(file('schemas/sailing.schema.json')).title).toBe('Sailing');
    expect(file('clients/typescript/sailing.ts')).toContain('export interface Sailing');
  });

  test('does and says nothing when nothing changed', async () => {
    expect(await run()).toEqual({ code: 0, out: '', err: '' });
    expect(await run('--locked')).toEqual({ code: 0, out: '', err: '' });
    expect((await run('sailng')).err).toContain('Did you mean sailing?');
  });

  test('keeps what people wrote into the schema, and generates anew', async () => {
    const edited = file('schemas/sailing.schema.json').replace(
      '"title": "Sailing"',
      '"title": "Sailing",\n  "description": "One crossing between two islands."',
    );
    writeFileSync(join(folder, 'schemas/sailing.schema.json'), edited);
    const ran = await run();
    expect(ran.out).not.toContain('schemas/sailing.schema.json');
    expect(ran.out).toContain('wrote clients/typescript/sailing.ts');
    expect(file('schemas/sailing.schema.json')).toBe(edited);
    expect(file('clients/typescript/sailing.ts')).toContain('One crossing between two islands.');
  });

  test('makes anew a generated file that somebody changed or removed', async () => {
    writeFileSync(join(folder, 'clients/typescript/sailing.ts'), '// gone');
    expect((await run('--locked')).out).toContain('would write clients/typescript/sailing.ts');
    expect(file('clients/typescript/sailing.ts')).toBe('// gone');
    expect((await run()).out).toContain('wrote clients/typescript/sailing.ts');
  });

  test('locked, fails on answers of the next version and names what is new', async () => {
    writeFileSync(join(folder, 'skevo.yaml'), project('v2'));
    await skevo(['capture', '--quiet'], { cwd: folder });
    const before = file('schemas/sailing.schema.json');
    const ran = await run('--locked');
    expect(ran.code).toBe(1);
    for (const place of ['/seats_free', '/seats_left', '/pets_allowed', '/booked_by'])
      expect(ran.out).toContain(place);
    expect(ran.out).toContain('skevo run sailing');
    expect(file('schemas/sailing.schema.json')).toBe(before);
  });

  test('updates, and compare says for whom each change matters', async () => {
    writeFileSync(join(folder, 'old.json'), file('schemas/sailing.schema.json'));
    expect((await run()).code).toBe(0);
    expect(await run('--locked')).toEqual({ code: 0, out: '', err: '' });
    expect(file('schemas/sailing.schema.json')).toContain('One crossing between two islands.');
    const compared = await skevo(['compare', 'old.json', 'schemas/sailing.schema.json', '--json'], {
      cwd: folder,
    });
    expect(compared.code).toBe(1);
    const changes = JSON.parse(compared.out).changes.map(
      ({ place, kind, readers, writers }: Record<string, string>) => [place, kind, readers, writers],
    );
    expect(changes).toEqual(
      expect.arrayContaining([
        ['/seats_free', 'may be absent', 'breaking', 'safe'],
        ['/booked_by', 'may be null', 'breaking', 'safe'],
        ['/seats_left', 'field added', 'safe', 'safe'],
        ['/pets_allowed', 'field added', 'safe', 'safe'],
      ]),
    );
    expect(changes).toHaveLength(4);
  });

  test('sees a sample that changed though its size did not', async () => {
    const path = join(folder, 'samples/sailings/sailings-001.json');
    const text = readFileSync(path, 'utf8');
    writeFileSync(path, text.replace('"seats_free": 119', '"seats_free": "ab"'));
    const ran = await run('--locked');
    expect(ran.code).toBe(1);
    expect(ran.out).toContain('/seats_free');
    writeFileSync(path, text);
    utimesSync(path, new Date(), new Date());
    expect((await run()).code).toBe(0);
  });
});

describe('a project file', () => {
  const refused = async (text: string, ...more: string[]) => {
    const folder = workspace({ 'skevo.yaml': text, 'samples/a.json': '{"id":1}' });
    const ran = await skevo(['run'], { cwd: folder });
    expect(ran.code, ran.out).toBe(2);
    expect(ran.out).toBe('');
    for (const words of more) expect(ran.err).toContain(words);
  };
  const contract = 'contracts:\n  a:\n    samples: samples\n    schema: a.json\n';

  test('that cannot be is refused with the place and what to do', () =>
    refused(`${contract}    langages: []\n`, 'skevo.yaml:5:5', 'Did you mean languages?'));

  test('may be JSON, and lie above the current folder', async () => {
    const folder = workspace({
      'skevo.json': '{"contracts":{"note":{"samples":["a.ndjson"],"schema":"note.json","languages":[]}}}',
      'a.ndjson': '{"id":1}\n{"id":2,"text":null}\n',
      'below/x.txt': '',
    });
    const ran = await skevo(['run'], { cwd: join(folder, 'below') });
    expect(ran).toMatchObject({ code: 0, err: '' });
    expect(JSON.parse(readFileSync(join(folder, 'note.json'), 'utf8')).required).toEqual(['id']);
  });

  test('names generated files that are made no more, and is not clean until they are gone', async () => {
    const folder = workspace({
      'skevo.yaml': `${contract}    name: Note\n    languages: [{ language: typescript, style: interface, out: out }]\n`,
      'samples/a.json': '{"id":1}',
    });
    expect((await skevo(['run'], { cwd: folder })).code).toBe(0);
    const text = readFileSync(join(folder, 'out/note.ts'), 'utf8');
    writeFileSync(join(folder, 'out/remark.ts'), text);
    const ran = await skevo(['run', 'a'], { cwd: folder });
    expect(ran.out).toContain('made no more: out/remark.ts');
    expect((await skevo(['run', '--locked'], { cwd: folder })).code).toBe(1);
    expect(existsSync(join(folder, 'out/remark.ts'))).toBe(true);
  });
});

describe('init', () => {
  test('writes a project for a folder of payloads that runs as it is', async () => {
    const folder = workspace({
      'go.mod': 'module ferries',
      'answers/berths/a.json': '{"id":1}',
      'answers/sailings/1.json': '{"page":1,"results":[{"code":"A"}]}',
      'answers/tides.ndjson': '{"metres":1.5}\n',
      'package.json': '{"name":"x"}',
    });
    const ran = await skevo(['init'], { cwd: folder });
    expect(ran.code).toBe(0);
    const text = readFileSync(join(folder, 'skevo.yaml'), 'utf8');
    expect(text).toContain('language: go');
    expect(text).toContain('language: typescript');
    expect(text).toContain('at: /results/*');
    expect(text).not.toContain('package.json');
    const again = await skevo(['init'], { cwd: folder });
    expect(again).toMatchObject({ code: 2, err: expect.stringContaining('there is a skevo.yaml already') });
    writeFileSync(join(folder, 'skevo.yaml'), text.replace(/ *- language: go\n.*\n/g, ''));
    const first = await skevo(['run'], { cwd: folder });
    expect(first.code).toBe(0);
    expect(first.err).toMatch(/^3 contracts in [\d.]+ s: 3 clean\n$/);
    expect(existsSync(join(folder, 'schemas/sailing.schema.json'))).toBe(true);
  });

  test('says that a folder without payloads has none', async () => {
    expect(await skevo(['init'], { cwd: workspace() })).toMatchObject({
      code: 2,
      err: expect.stringContaining('there are no payloads in .'),
    });
  });
});

test('the schema for editors knows the same keys, and takes what run takes', () => {
  const schema = JSON.parse(readFileSync('skevo.schema.json', 'utf8'));
  expect(schema.$defs.language.properties.language.enum).toEqual(languages.map(({ name }) => name));
  const validate = new Ajv2020({ strict: false, formats: { uri: true } }).compile(schema);
  const page = readFileSync('docs/project.md', 'utf8');
  const example = parse(/```yaml\n([\s\S]*?)```/.exec(page)![1]!);
  expect(validate(example), JSON.stringify(validate.errors)).toBe(true);
  expect(validate(parse(project('v1')))).toBe(true);
  expect(validate({ contracts: { a: { samples: 'x', schema: 'y', langages: [] } } })).toBe(false);
  const folder = workspace({ 'skevo.yaml': /```yaml\n([\s\S]*?)```/.exec(page)![1]! });
  expect(() => readProject(join(folder, 'skevo.yaml'))).not.toThrow();
});

describe('a project of two contracts', () => {
  const folder = workspace({
    'skevo.yaml': `contracts:
  berth:
    samples: berths
    schema: berth.json
    languages: [{ language: typescript, style: interface, out: out }]
  tide:
    samples: tides/*.ndjson
    schema: tide.json
    languages: []
`,
    'berths/a.json': '{"id":1,"name":"North"}',
    'berths/b.json': '{"id":2,"name":"South"}',
    'tides/1.ndjson': '{"metres":1}\n',
  });
  const run = (...args: string[]) => skevo(['run', ...args], { cwd: folder });

  test('passes over the one in which nothing changed, and samples that are known', async () => {
    expect((await run()).code).toBe(0);
    addFiles(folder, { 'tides/2.ndjson': '{"metres":1.5,"gauge":"Low Marrow"}\n' });
    const ran = await run();
    expect(ran.out).toMatch(/^tide\n/);
    expect(ran.out).toContain('/gauge');
    expect(ran.out).not.toContain('berth');
    expect(JSON.parse(readFileSync(join(folder, 'tide.json'), 'utf8')).properties.metres.type).toEqual(
      'number',
    );
  });

  test('writes a report of both, though nothing changed', async () => {
    const ran = await run('--report', 'r.json', '--quiet');
    expect(ran).toMatchObject({ code: 0, out: '' });
    const { contracts } = JSON.parse(readFileSync(join(folder, 'r.json'), 'utf8'));
    expect(contracts.map(({ name }: { name: string }) => name)).toEqual(['berth', 'tide']);
  });

  test('fails locked where a language cannot be run, though it was clean without', async () => {
    const text = readFileSync(join(folder, 'skevo.yaml'), 'utf8');
    addFiles(folder, {
      'skevo.yaml': text.replace('languages: []', 'languages: [{ language: go, out: go }]'),
    });
    const env = { SKEVO_GO: '/nowhere' };
    const open = await skevo(['run'], { cwd: folder, env });
    expect(open).toMatchObject({ code: 0, out: expect.stringContaining('not run: go') });
    expect((await skevo(['run', '--locked'], { cwd: folder, env })).code).toBe(3);
  });

  test('runs again when something changes, until it is ended', async () => {
    const child = execa(process.execPath, [program, 'run', '--watch'], { cwd: folder, reject: false });
    let said = '';
    const says = (words: string) =>
      new Promise<void>((done) => {
        const timer = setInterval(() => {
          if (said.includes(words)) {
            clearInterval(timer);
            done();
          }
        }, 50);
      });
    child.stdout.on('data', (chunk: Buffer) => (said += chunk.toString()));
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    await says('watching');
    addFiles(folder, { 'berths/c.json': '{"id":3,"name":null}' });
    await says('/name');
    child.kill('SIGINT');
    expect((await child).exitCode).toBe(130);
    expect(readFileSync(join(folder, 'berth.json'), 'utf8')).toContain('"null"');
  });
});

test('compare takes a schema of git at a revision', async () => {
  const folder = workspace({
    's.json': '{"title":"T","type":"object","properties":{"a":{"type":"string"}}}',
  });
  const git = (...args: string[]) =>
    execa('git', ['-c', 'user.name=t', '-c', 'user.email=t@ferries.example', ...args], { cwd: folder });
  await git('init', '-q');
  await git('add', '.');
  await git('commit', '-qm', 'first');
  addFiles(folder, { 's.json': '{"title":"T","type":"object","properties":{"a":{"type":"boolean"}}}' });
  const ran = await skevo(['compare', 's.json@HEAD', 's.json'], { cwd: folder });
  expect(ran.code).toBe(1);
  expect(ran.out).toContain('type changed');
  const wrong = await skevo(['compare', 's.json@no-such', 's.json'], { cwd: folder });
  expect(wrong).toMatchObject({ code: 2, err: expect.stringContaining('git has no s.json at no-such') });
});

test('check says what drifted and how to accept it, and --vary leaves nothing unproven', async () => {
  const folder = workspace({
    'a.ndjson': '{"id":1,"gate":"A"}\n{"id":2}\n',
    'b.json': '{"id":null,"pier":"N"}',
  });
  await skevo(['infer', 'a.ndjson', '--name', 'Berth', '--out', 's.json', '--quiet'], { cwd: folder });
  const check = (...args: string[]) =>
    skevo(['check', 's.json', ...args, '--language', 'typescript:interface', '--quiet'], { cwd: folder });
  const drifted = await check('b.json');
  expect(drifted.out).toMatch(
    /widened {2}\/id\n.*integer \(double-int\); it would be integer \(double-int\) or null/,
  );
  expect(drifted.out).toMatch(/new {6}\/pier/);
  expect(drifted.out).toContain('skevo infer b.json --update s.json --out s.json');
  expect(
    (await skevo(['infer', 'b.json', '--update', 's.json', '--out', 's.json'], { cwd: folder })).code,
  ).toBe(0);
  expect((await check('b.json')).out).not.toContain('drift');
  expect((await check('a.ndjson')).out).toContain('unproven');
  expect((await check('a.ndjson', '--vary')).out).not.toContain('unproven');
  const made = await skevo(['vary', 's.json', '--out', 'made'], { cwd: folder });
  expect(made).toMatchObject({ code: 0, out: '' });
  expect((await skevo(['validate', 's.json', 'made'], { cwd: folder })).code).toBe(0);
});
