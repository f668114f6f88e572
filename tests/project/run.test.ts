import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { parseProject, type Contract, type Project } from '../../src/project/file.js';
import {
  learnContract,
  modelAsItIs,
  writeContract,
  SharedPackage,
  type RunOptions,
} from '../../src/project/run.js';
import { slotsHere } from '../../src/workbench/check-all.js';
import { addFiles, bytes, patient, workspace } from '../support.js';

/** A project of one contract `berth` in a folder of its own, with what else stands in it. */
function projectIn(files: Record<string, string>, more: Record<string, unknown> = {}) {
  const folder = workspace(files);
  const at = (path: string) => join(folder, path);
  const given = { samples: [at('berths')], schema: at('berth.json'), ...more };
  const project = parseProject({
    name: at('skevo.yaml'),
    bytes: bytes(JSON.stringify({ contracts: { berth: given } })),
    firstLine: 1,
  });
  return { at, project, contract: project.contracts.get('berth')!, told: [] as string[] };
}

function optionsOf(project: Project, told: string[], more: Partial<RunOptions> = {}): RunOptions {
  return {
    known: () => [],
    reading: (paths) => told.push(`reads ${paths.length}`),
    claim: (path) => told.push(`claims ${path.split('/').at(-1)}`),
    isOwn: () => false,
    locked: false,
    refresh: false,
    limits: patient,
    tools: new Map(),
    notes: ({ message }) => told.push(message),
    steers: project.steers,
    slots: slotsHere(),
    ...more,
  };
}

type Given = ReturnType<typeof projectIn>;
const learn = ({ project, contract, told }: Given, more: Partial<RunOptions> = {}) =>
  learnContract('berth', contract, optionsOf(project, told, more));
const schemaOf = ({ contract }: Given) => JSON.parse(readFileSync(contract.schema, 'utf8'));

describe('the schema of a contract is learned', () => {
  const samples = { 'berths/a.json': '{"id":1,"name":"North"}', 'berths/b.json': '{"id":2}' };

  test('from its samples, where there is none', async () => {
    const given = projectIn(samples);
    const { changes, isGiven, files, inputs, model } = await learn(given);
    expect([changes, isGiven, files, inputs.length]).toEqual([undefined, false, [given.contract.schema], 2]);
    expect(schemaOf(given)).toMatchObject({ title: 'Berth', required: ['id'] });
    expect(model.name).toBe('Berth');
    expect(given.told).toEqual(['reads 2', 'claims berth.json']);
  });

  test('as the contract says: what it is called, where the records are, what a person decided', async () => {
    const given = projectIn(
      { 'berths/a.json': '{"results":[{"id":1},{"id":2}]}' },
      { name: 'Mooring', at: '/results/*', decisions: { '/id': { width: 'int64' }, '/gone': { map: true } } },
    );
    await learn(given);
    expect(schemaOf(given)).toMatchObject({ title: 'Mooring', properties: { id: { format: 'int64' } } });
    expect(given.told).toContainEqual(expect.stringContaining('/gone'));
  });

  test('and may be learned without a file that changes', async () => {
    const given = projectIn(samples);
    const { files, model } = await learn(given, { locked: true });
    expect(files).toEqual([given.contract.schema]);
    expect(model.records.map(({ name }) => name)).toEqual(['Berth']);
    expect(existsSync(given.contract.schema)).toBe(false);
  });

  test('again: to the byte as it stands where samples say nothing new', async () => {
    const given = projectIn(samples);
    await learn(given);
    const text = readFileSync(given.contract.schema, 'utf8').replace('{', '{ ');
    writeFileSync(given.contract.schema, text);
    const { changes, files } = await learn(given);
    expect([changes, files]).toEqual([[], []]);
    expect(readFileSync(given.contract.schema, 'utf8')).toBe(text);
  });

  test('again: with what is new, and what is known is not read again', async () => {
    const given = projectIn(samples);
    await learn(given);
    addFiles(given.at(''), { 'berths/c.json': '{"id":"x"}' });
    const known = (files: readonly string[]) => files.filter((file) => !file.endsWith('c.json'));
    const { changes } = await learn(given, { known });
    expect(changes?.map(({ because, place }) => [because, place])).toEqual([
      ['a value of another type', '/id'],
    ]);
    // The schema itself is another than at the last run: all is read.
    addFiles(given.at(''), { 'berths/a.json': '{"id":1,"name":null}' });
    const all = await learn(given, { known: (files) => files.filter((file) => file.endsWith('a.json')) });
    expect(all.changes?.map(({ place }) => place)).toEqual(['/name']);
    const none = await learn(given, { known: (files) => files });
    expect(none.changes).toEqual([]);
  });

  test('and refused for samples of something else', async () => {
    const given = projectIn(samples);
    await learn(given);
    addFiles(given.at(''), { 'berths/a.json': '{"x":{"q":1}}', 'berths/b.json': '{"y":1}' });
    await expect(learn(given)).rejects.toMatchObject({
      message: `no sample of berth has any of the keys that ${given.contract.schema} knows`,
      remedy: 'If the records are inside each document, say where with at:.',
    });
    given.contract.at = '/x';
    await expect(learn(given)).rejects.toMatchObject({ remedy: 'Check at: and the schema.' });
  });

  test('anew from all samples: bounds stay, what no sample says is gone', async () => {
    const given = projectIn(samples);
    await learn(given);
    const schema = schemaOf(given);
    schema.properties.id.maximum = 40;
    schema.properties.old = { type: 'string' };
    writeFileSync(given.contract.schema, JSON.stringify(schema));
    const { changes } = await learn(given, { refresh: true });
    expect(changes?.map(({ place }) => place)).toEqual(['/old']);
    expect(schemaOf(given).properties).toMatchObject({ id: { maximum: 40 } });
    expect(schemaOf(given).properties).not.toHaveProperty('old');
    const text = readFileSync(given.contract.schema, 'utf8');
    expect((await learn(given, { refresh: true })).changes).toEqual([]);
    expect(readFileSync(given.contract.schema, 'utf8')).toBe(text);
  });

  test('and stands in nobody’s way: it is no sample of its own', async () => {
    const given = projectIn({ 'berths/a.json': '{}', 'berths/berth.json': '{"type":"object"}' });
    given.contract.schema = given.at('berths/berth.json');
    await expect(learn(given)).rejects.toThrow('lies among its samples, and would be learned from');
  });

  test('or must be there where there are no samples', async () => {
    const given = projectIn({}, { samples: [] });
    await expect(learn(given)).rejects.toThrow('there is no');
    expect(await modelAsItIs({ ...given.contract, samples: ['x'] } as Contract)).toBeUndefined();
  });
});

describe('a schema that people gave', () => {
  const openapi = JSON.stringify({
    openapi: '3.1.0',
    info: { title: 'Saltmere Ferries', version: '1' },
    paths: {},
    components: { schemas: { Berth: { type: 'object', properties: { id: { type: 'integer' } } } } },
  });

  test('is never changed: what samples say else is told', async () => {
    const given = projectIn({ 'api.json': openapi, 'berths/a.json': '{"id":1,"name":"North"}' });
    given.contract.schema = `${given.at('api.json')}#/components/schemas/Berth`;
    const { isGiven, changes, files } = await learn(given);
    expect([isGiven, files]).toEqual([true, []]);
    expect(changes?.map(({ because, place }) => [because, place])).toEqual([['a new key', '/name']]);
    expect(readFileSync(given.at('api.json'), 'utf8')).toBe(openapi);
  });

  test('needs no samples', async () => {
    const given = projectIn({ 'berth.json': '{"title":"Berth","type":"object"}' }, { samples: [] });
    const { isGiven, changes, files, inputs } = await learn(given);
    expect([isGiven, changes, files, inputs]).toEqual([true, [], [], []]);
    expect((await modelAsItIs(given.contract))?.name).toBe('Berth');
  });
});

describe('the classes of a contract are written', () => {
  const files = { 'berths/a.json': '{"id":1}' };
  const typescript = (given: Given) => {
    given.contract.languages = [{ language: 'typescript', style: 'interface', out: given.at('out') }];
    return given;
  };
  const write = async (given: Given, more: Partial<RunOptions> = {}) => {
    const learned = await learn(given, more);
    return writeContract(
      learned,
      () => Promise.resolve(new SharedPackage([learned])),
      optionsOf(given.project, given.told, more),
    );
  };

  test('once: what is so already is not written', async () => {
    const given = typescript(projectIn(files));
    const first = await write(given);
    expect(first.outcome.files).toEqual([given.contract.schema, given.at('out/berth.ts')]);
    expect(readFileSync(given.at('out/berth.ts'), 'utf8')).toContain('export interface Berth');
    const again = await write(given, { isOwn: () => true });
    expect([again.outcome.files, again.outcome.stale]).toEqual([[], []]);
    expect(again.outcome.seen).toEqual([
      given.contract.schema,
      given.at('out/berth.ts'),
      given.at('out'),
      given.at('berths/a.json'),
    ]);
    expect(given.told.filter((each) => each.startsWith('claims'))).toEqual(
      ['berth.json', 'berth.ts', 'berth.json', 'berth.ts'].map((each) => `claims ${each}`),
    );
  });

  test('or would be, and then there is nothing to prove', async () => {
    const given = typescript(projectIn(files));
    const { outcome, prove } = await write(given, { locked: true });
    expect([outcome.files.length, prove, existsSync(given.at('out'))]).toEqual([2, undefined, false]);
    await write(given);
    expect((await write(given, { locked: true })).prove).toBeDefined();
  });

  test('over nobody’s own work, unless a run wrote it', async () => {
    const given = typescript(projectIn({ ...files, 'out/berth.ts': 'export const mine = 1;' }));
    await expect(write(given)).rejects.toThrow('was not generated by Skevo');
    expect(readFileSync(given.at('out/berth.ts'), 'utf8')).toBe('export const mine = 1;');
    await write(given, { isOwn: (path) => path.endsWith('berth.ts') });
    expect(readFileSync(given.at('out/berth.ts'), 'utf8')).toContain('export interface Berth');
  });

  test('and those that are made no more are told', async () => {
    const given = typescript(projectIn(files));
    await write(given);
    const text = readFileSync(given.at('out/berth.ts'), 'utf8');
    addFiles(given.at('out'), {
      'old.ts': text,
      'below/old.ts': text,
      'node_modules/x/old.ts': text,
      'own.ts': 'export {};',
      'other.ts': text.replace('berth.json', 'tide.json'),
    });
    const { outcome } = await write(given);
    expect([...outcome.stale].sort()).toEqual([given.at('out/below/old.ts'), given.at('out/old.ts')]);
  });

  test('with its own rule where a language has one, and that of the contract elsewhere', async () => {
    const given = projectIn(files, { unknown: 'keep', dates: 'native' });
    const entry = { language: 'typescript', style: 'interface' };
    given.contract.languages = [
      { ...entry, out: given.at('a') },
      { ...entry, out: given.at('b'), unknown: 'reject', dates: 'text' },
    ];
    const { outcome } = await write(given);
    expect(outcome.made.map(({ target }) => [target.unknown, target.dates])).toEqual([
      ['keep', 'native'],
      ['reject', 'text'],
    ]);
  });

  test.each([false, true])('once for all that share a package (locked: %s)', async (locked) => {
    const given = projectIn({ 'berths/a.json': '{"id":1}', 'tides/a.json': '{"metres":1.5}' });
    const languages = [
      { language: 'typescript', style: 'interface', package: 'ferries', out: given.at('out') },
    ];
    const tides: Contract = {
      ...given.contract,
      samples: [given.at('tides')],
      schema: given.at('tide.json'),
      name: 'Tide',
    };
    const learned = [];
    for (const contract of [given.contract, tides])
      learned.push(await learn({ ...given, contract: { ...contract, languages } }, { locked }));
    let asked = 0;
    const isOwn = () => ++asked > 0;
    const shared = new SharedPackage(learned);
    const outcomes = [];
    for (const each of learned) {
      const options = optionsOf(given.project, given.told, { locked, isOwn });
      outcomes.push((await writeContract(each, () => Promise.resolve(shared), options)).outcome);
    }
    const [berth, tide] = outcomes;
    const path = given.at('out/ferries.ts');
    expect(outcomes.map(({ files }) => files.includes(path))).toEqual([true, locked]);
    expect(outcomes.map(({ seen }) => seen.includes(path))).toEqual([true, true]);
    expect(tide!.made[0]!.emitted).toBe(berth!.made[0]!.emitted);
    expect(outcomes.map(({ made }) => made[0]!.model.root)).toEqual([
      { kind: 'record', name: 'Berth' },
      { kind: 'record', name: 'Tide' },
    ]);
    expect(existsSync(path)).toBe(!locked);
    if (locked) return;
    expect(readFileSync(path, 'utf8')).toMatch(/generated by Skevo from berth\.json and tide\.json/i);
  });

  test('and proven with the samples, in each format as it is', async () => {
    const given = typescript(projectIn({ 'berths/a.csv': 'id,name\n1,North\n2,\n' }));
    const { outcome, prove } = await write(given);
    expect([outcome.check, outcome.documents]).toEqual([undefined, undefined]);
    const proven = await prove!();
    expect(proven.check).toMatchObject({ payloads: 2, languages: [{ state: 'checked', findings: [] }] });
    expect(proven.documents).toMatchObject({ losses: [] });
  });

  test('or with payloads made from the schema where there are none', async () => {
    const schema = '{"title":"Berth","type":"object","properties":{"id":{"type":"integer"}}}';
    const given = typescript(projectIn({ 'berth.json': schema }, { samples: [] }));
    const proven = await (await write(given)).prove!();
    expect(proven.check?.payloads).toBeGreaterThan(1);
    expect(proven.check?.unproven).toEqual([]);
    expect(proven.documents).toBeUndefined();
  });
});
