import { execa } from 'execa';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, skevoAsync as skevo, workspace } from '../support.js';

const description = readFileSync(resolve('demo/schemas/ferries.openapi.yaml'), 'utf8');
const vessel = (cars: string) =>
  JSON.stringify({
    title: 'Vessel',
    type: 'object',
    properties: { id: { type: 'integer', format: 'int32' }, cars: { type: cars } },
    required: ['id'],
  });
const contract = (schema: string, rest = '') => `contracts:
  vessel:
    schema: ${JSON.stringify(schema)}
${rest}    languages:
      - { language: python, out: clients }
`;

describe('a contract whose schema is given', () => {
  test('without samples, is proven on payloads made from the schema, and the description stays as it is', async () => {
    const folder = workspace({
      'api.yaml': description,
      'skevo.yaml': contract('api.yaml#Sailing'),
    });
    const ran = await skevo(['run'], { cwd: folder });
    expect(ran.out).toMatch(/wrote clients[/]sailing.py[^]*nothing lost of \d+ payloads in python/);
    expect(ran.code).toBe(0);
    expect(readFileSync(join(folder, 'api.yaml'), 'utf8')).toBe(description);
    expect(await skevo(['run', '--locked'], { cwd: folder })).toMatchObject({ code: 0, out: '' });
    writeFileSync(join(folder, 'api.yaml'), description.replace('hulls: {', 'hull_count: {'));
    const changed = await skevo(['run', '--locked'], { cwd: folder });
    expect(changed.code).toBe(1);
    expect(changed.out).toContain('would write clients/sailing.py');
  });

  test('with samples that say more, names what the schema does not say and is not clean when locked', async () => {
    const folder = workspace({
      'vessel.avsc':
        '{"type":"record","name":"Vessel","fields":[{"name":"id","type":"int"},{"name":"name","type":"string"}]}',
      'vessels.ndjson': '{"id":1,"name":"Heron"}\n{"id":2,"name":"Tern","cars":12}\n',
      'skevo.yaml': contract('vessel.avsc', '    samples: vessels.ndjson\n'),
    });
    const ran = await skevo(['run'], { cwd: folder });
    expect(ran.out).toMatch(/the samples say what the schema does not:\n.*\n +\/cars/);
    expect(ran.code).toBe(1);
    expect(ran.out).toContain('lost');
    writeFileSync(join(folder, 'vessels.ndjson'), '{"id":1,"name":"Heron"}\n');
    expect(await skevo(['run'], { cwd: folder })).toMatchObject({ code: 0, out: '' });
    expect(await skevo(['run', '--locked'], { cwd: folder })).toMatchObject({ code: 0, out: '' });
  });

  test('is anew when a file changes to which it refers', async () => {
    const folder = workspace({
      'vessel.json': '{"title":"Vessel","type":"object","properties":{"berth":{"$ref":"berth.json"}}}',
      'berth.json': '{"title":"Berth","type":"object","properties":{"pier":{"type":"string"}}}',
      'skevo.yaml': contract('vessel.json'),
    });
    expect((await skevo(['run'], { cwd: folder })).code).toBe(0);
    addFiles(folder, {
      'berth.json': '{"title":"Berth","type":"object","properties":{"gate":{"type":"string"}}}',
    });
    const ran = await skevo(['run'], { cwd: folder });
    expect(ran.out).toContain('wrote clients/vessel.py');
    expect(readFileSync(join(folder, 'clients/vessel.py'), 'utf8')).toContain('gate');
  });

  test('needs samples or a schema', async () => {
    const folder = workspace({ 'skevo.yaml': contract('vessel.json') });
    expect(await skevo(['run'], { cwd: folder })).toMatchObject({
      code: 2,
      err: expect.stringContaining('there is no file vessel.json'),
    });
    expect(existsSync(join(folder, 'clients'))).toBe(false);
  });
});

test('a schema that is still to be learned may lie in a folder that begins with the sign of versions', async () => {
  const folder = workspace({
    'a.json': '{"id":1}',
    'skevo.yaml': contract('@ferries/vessel.schema.json', '    samples: a.json\n'),
  });
  const ran = await skevo(['run'], { cwd: folder });
  expect(ran).toMatchObject({ code: 0, out: expect.stringContaining('wrote @ferries/vessel.schema.json') });
});

describe('a version of a schema', () => {
  test.each(['vessel@2.json', 'vessel-v2.schema.json', 'vessel.2.json', 'vessel/2.json', 'v2/vessel.json'])(
    'lies in the folder as %s',
    async (file) => {
      const folder = workspace({ 'vessel@1.json': vessel('string'), [file]: vessel('integer') });
      const ran = await skevo(['compare', 'vessel@1', 'vessel@2'], { cwd: folder });
      expect(ran.out).toContain('type changed');
      expect(ran.out).toContain('/cars');
    },
  );

  test('that several files may be is asked for by its file', async () => {
    const folder = workspace({ 'vessel@2.json': vessel('string'), '2/vessel.json': vessel('integer') });
    expect(await skevo(['generate', 'vessel@2', '--language', 'go'], { cwd: folder })).toMatchObject({
      code: 2,
      err: expect.stringMatching(/version 2 of vessel may be any of 2\/vessel\.json, vessel@2\.json/),
    });
  });

  test('is what git has at a tag, with what it refers to there', async () => {
    const folder = workspace({
      'schemas/vessel.json':
        '{"title":"Vessel","type":"object","properties":{"berth":{"$ref":"berth.json"}}}',
      'schemas/berth.json': '{"title":"Berth","type":"object","properties":{"pier":{"type":"string"}}}',
    });
    const git = (...args: string[]) =>
      execa('git', ['-c', 'user.name=t', '-c', 'user.email=t@ferries.example', ...args], { cwd: folder });
    await git('init', '-q');
    await git('add', '.');
    await git('commit', '-qm', 'first');
    await git('tag', 'vessel-v1.0');
    addFiles(folder, {
      'schemas/berth.json': '{"title":"Berth","type":"object","properties":{"pier":{"type":"boolean"}}}',
    });
    for (const old of ['schemas/vessel@1.0', 'schemas/vessel.json@1.0', 'schemas/vessel@HEAD']) {
      const ran = await skevo(['compare', old, 'schemas/vessel.json'], { cwd: folder });
      expect(ran).toMatchObject({ code: 1, out: expect.stringMatching(/berth.pier +type changed/) });
    }
    const made = await skevo(['generate', 'schemas/vessel@1.0', '--language', 'typescript:interface'], {
      cwd: folder,
    });
    expect(made.out).toMatch(/pier[?]: string/);
    const none = await skevo(['generate', 'schemas/vessel@3', '--language', 'go'], { cwd: folder });
    expect(none).toMatchObject({
      code: 2,
      err: expect.stringContaining('there is no version 3 of schemas/vessel'),
    });
  });
});
