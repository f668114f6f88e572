import { mkdirSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import {
  dropStamp,
  foldersBelow,
  isCurrent,
  keepStamp,
  lastRun,
  lastSeen,
  stampOf,
  unchangedSince,
} from '../../src/project/stamp.js';
import { workspace } from '../support.js';

const { SKEVO_CACHE: cache, PATH: programs } = process.env;
afterAll(() => {
  process.env['SKEVO_CACHE'] = cache;
  process.env['PATH'] = programs;
});

describe('what the last clean run depended on', () => {
  const folder = workspace({ 'a.json': '{"id":1}', 'x/b.json': '{}', 'bin/known': '' });
  const at = (path: string) => join(folder, path);
  const project = at('skevo.yaml');
  const seen = [at('a.json'), at('x'), at('x/b.json'), at('gone.json')];
  beforeEach(async () => {
    process.env['SKEVO_CACHE'] = at('cache');
    process.env['PATH'] = `${programs}${delimiter}${at('bin')}`;
    delete process.env['SKEVO_GO'];
    rmSync(at('cache'), { recursive: true, force: true });
    rmSync(at('x/c.json'), { force: true });
    rmSync(at('gone.json'), { force: true });
    writeFileSync(at('a.json'), '{"id":1}');
    await keepStamp(project, '1', [...seen, at('a.json')], []);
  });
  const asOne = (mayMiss = false) => isCurrent(project, '1', mayMiss);

  test('is told, and current as long as nothing changes', () => {
    expect(asOne()).toBe(true);
    expect(lastSeen(project)).toEqual([...seen].sort());
    expect(lastRun(project, '1')).toMatchObject({ isClean: true, missing: [], version: '1' });
    expect(unchangedSince(project, '1', [...seen, at('other.json')])).toEqual(seen.slice(0, 3));
  });

  test.each<[string, () => void, string[]]>([
    ['a file of another size', () => writeFileSync(at('a.json'), '{"id":12}'), ['x', 'x/b.json']],
    ['of the same size', () => utimesSync(at('a.json'), new Date(0), new Date(0)), ['x', 'x/b.json']],
    ['a file that came into a folder', () => writeFileSync(at('x/c.json'), ''), ['a.json', 'x/b.json']],
    ['one that was not there', () => writeFileSync(at('gone.json'), ''), ['a.json', 'x', 'x/b.json']],
    ['one that is gone', () => rmSync(at('a.json')), ['x', 'x/b.json']],
  ])('is not current after %s', (_, change, unchanged) => {
    change();
    expect(asOne()).toBe(false);
    expect(unchangedSince(project, '1', seen)).toEqual(unchanged.map(at));
  });

  test.each<[string, () => unknown]>([
    ['nothing was run', () => rmSync(at('cache'), { recursive: true })],
    ['the environment names another program', () => (process.env['SKEVO_GO'] = '/nowhere')],
    ['programs are looked for elsewhere', () => (process.env['PATH'] = at('bin'))],
    ['something is wrong since', () => dropStamp(project)],
  ])('is not known where %s', async (_, change) => {
    await change();
    expect(asOne()).toBe(false);
    expect(lastRun(project, '1')).toBeUndefined();
    expect(unchangedSince(project, '1', seen)).toEqual([]);
  });

  test('is that of one version and one project', () => {
    expect(isCurrent(project, '2', false)).toBe(false);
    expect(isCurrent(at('other.yaml'), '1', false)).toBe(false);
    expect(lastSeen(at('other.yaml'))).toEqual([]);
  });

  test('is still seen where something is wrong since, until it is clean again', async () => {
    await dropStamp(project);
    await dropStamp(project);
    await dropStamp(at('other.yaml'));
    expect(lastSeen(project)).toEqual([...seen].sort());
    await keepStamp(project, '1', seen, []);
    expect(asOne()).toBe(true);
  });

  test('without languages whose programs are missing, until they are there', async () => {
    await keepStamp(project, '1', seen, ['no-such-program']);
    expect([asOne(), asOne(true)]).toEqual([false, true]);
    await keepStamp(project, '1', seen, ['no-such-program', 'known']);
    expect([asOne(), asOne(true)]).toEqual([false, false]);
  });

  test.each(['{', 'null', '{}', '{"seen":null}', '{"seen":1}'])('is no stamp: %s', (text) => {
    const [stamp] = foldersBelow(at('cache'));
    writeFileSync(join(stamp!, readdirSync(stamp!)[0]!), text);
    expect([asOne(), lastSeen(project)]).toEqual([false, []]);
  });

  test('is nowhere kept where nothing can be written', async () => {
    process.env['SKEVO_CACHE'] = at('a.json/cache');
    await keepStamp(project, '1', seen, []);
    expect(asOne()).toBe(false);
  });
});

test('a stamp tells what is there', () => {
  const folder = workspace({ a: 'xyz' });
  utimesSync(join(folder, 'a'), 5, 7);
  expect(stampOf(join(folder, 'a'))).toMatch(/^3 7000 [\d.]+$/);
  utimesSync(folder, 5, 7);
  expect(stampOf(folder)).toBe('folder 7000');
  expect(stampOf(join(folder, 'b'))).toBeNull();
});

test('all folders below one are found', () => {
  const folder = workspace({ 'a/b/x': '', 'c/y': '', z: '' });
  mkdirSync(join(folder, 'd'));
  expect(foldersBelow(folder).sort()).toEqual(['', '/a', '/a/b', '/c', '/d'].map((each) => folder + each));
});
