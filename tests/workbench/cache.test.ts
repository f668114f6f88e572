import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeEach, describe, expect, test } from 'vitest';
import { cached, cacheFolder, cacheKey, clearCache, remembered } from '../../src/workbench/cache.js';

const root = mkdtempSync(join(tmpdir(), 'skevo-test-'));
const before = process.env['SKEVO_CACHE'];
afterAll(() => {
  process.env['SKEVO_CACHE'] = before;
  rmSync(root, { recursive: true, force: true });
});
beforeEach(() => {
  process.env['SKEVO_CACHE'] = join(root, String(Math.random()));
});

const build = (text: string) => async (folder: string) => {
  writeFileSync(join(folder, 'out.txt'), text);
  return undefined;
};

describe('kept builds', () => {
  test('are made once', async () => {
    const first = await cached('a', build('one'));
    const again = await cached('a', build('two'));
    expect(again).toEqual(first);
    expect(readFileSync(join(cacheFolder(), 'a', 'out.txt'), 'utf8')).toBe('one');
  });

  test('of checks at the same time do not harm each other', async () => {
    const made = await Promise.all(Array.from({ length: 8 }, () => cached('a', build('same'))));
    expect(new Set(made.map((each) => JSON.stringify(each))).size).toBe(1);
    expect(readdirSync(cacheFolder())).toEqual(['a']);
  });

  test('that fail leave nothing', async () => {
    expect(await cached('a', async () => 'the compiler says no')).toEqual({ failed: 'the compiler says no' });
    await expect(cached('b', () => Promise.reject(new Error('no disk')))).rejects.toThrow('no disk');
    expect(readdirSync(cacheFolder())).toEqual([]);
  });

  test('that were cut off are made again', async () => {
    await cached('a', build('one'));
    rmSync(join(cacheFolder(), 'a', '.complete'));
    rmSync(join(cacheFolder(), 'a'), { recursive: true });
    await cached('a', build('two'));
    expect(readFileSync(join(cacheFolder(), 'a', 'out.txt'), 'utf8')).toBe('two');
  });

  test('are gone when they are cleared', async () => {
    await cached('a', build('one'));
    expect(clearCache()).toBeGreaterThanOrEqual(3);
    expect(existsSync(cacheFolder())).toBe(false);
    expect(clearCache()).toBe(0);
  });
});

test('keys tell parts apart, however they are cut', () => {
  expect(cacheKey('go', ['ab', 'c'])).not.toBe(cacheKey('go', ['a', 'bc']));
  expect(cacheKey('go', ['ab', 'c'])).toBe(cacheKey('go', ['ab', 'c']));
});

test('what was found out is remembered, and what was not is asked again', async () => {
  const version = /^\d+\.\d+$/;
  expect(await remembered('v', version, async () => undefined)).toBeUndefined();
  expect(await remembered('v', version, async () => '1.19')).toBe('1.19');
  expect(await remembered('v', version, async () => '1.20')).toBe('1.19');
  writeFileSync(join(cacheFolder(), 'v.txt'), '');
  expect(await remembered('v', version, async () => '1.21')).toBe('1.21');
});
