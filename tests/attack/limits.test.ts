import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import { checkStyle } from '../../src/workbench/check.js';
import { boundedPatterns } from '../../src/workbench/pattern.js';
import { isBrief } from '../effort.js';
import { addFiles, bytes, languagesHere, payloadsOf, program, workspace, patient } from '../support.js';

/** Runs the built program, which must come to an end by itself. */
function bounded(cwd: string, args: readonly string[], input = '') {
  const run = spawnSync(process.execPath, ['--max-old-space-size=1024', program, ...args], {
    cwd,
    input,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    timeout: 90_000,
    killSignal: 'SIGKILL',
  });
  expect(run.signal).toBeNull();
  expect(run.stderr).not.toMatch(/inside Skevo|heap out of memory/);
  return { code: run.status, out: run.stdout, err: run.stderr };
}

describe('patterns of a schema that come to no end are ended', () => {
  const hostile = ['^(a+)+$', '^(a|aa)+$', '^(.*)*x$', '(a*)*b', '^(?=(a+)+$)', '^(a+)\\1+$'];
  test.for(hostile)('%s', (pattern) => {
    const text = `${'a'.repeat(5000)}!`;
    const outcome = (): string => {
      try {
        return String(boundedPatterns(pattern, 'u').test(text));
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(outcome()).toMatch(
      /^(true|false|the pattern .* comes to no end within 1 s on a text of 5001 characters)$/,
    );
  });

  test.for([
    ['^SF-\\d+$', 'SF-1001', true],
    ['^SF-\\d+$', 'SF-', false],
    ['^[a-z]{2,3}(-[A-Z]{2})?$', 'en-GB', true],
    ['^(?!x)\\w+$', 'xyz', false],
    ['^(\\w)\\1$', 'aa', true],
    ['\\p{Lu}', 'ä', false],
    ['^(north|south) pier$', 'south pier', true],
  ] as const)('%s still says what it says of %s', ([pattern, text, met]) => {
    expect(boundedPatterns(pattern, 'u').test(text)).toBe(met);
    // Behind a limit of length, it is tried in another way.
    expect(boundedPatterns(pattern, 'u').test(text.padEnd(2000, '!'))).toBe(
      new RegExp(pattern, 'u').test(text.padEnd(2000, '!')),
    );
  });

  test.for([
    ['validate', 's.json', 'p.json'],
    ['infer', 'p.json', '--update', 's.json'],
  ])('in %j, by name', (args) => {
    const folder = workspace({
      's.json': '{"type":"object","properties":{"a":{"type":"string","pattern":"^(a+)+$"}}}',
      'p.json': `{"a":"${'a'.repeat(60)}!"}`,
    });
    const ran = bounded(folder, args);
    expect(ran.code).toBe(2);
    expect(ran.err).toContain('the pattern "^(a+)+$" of the schema comes to no end');
  });

  test('in a check, which says that drift cannot be told, and in vary', () => {
    const folder = workspace({
      's.json':
        '{"type":"object","properties":{"a":{"type":"string","pattern":"^(a+)+$","examples":["' +
        `${'a'.repeat(60)}!` +
        '"]}}}',
      'p.json': `{"a":"${'a'.repeat(60)}!"}`,
    });
    const ran = bounded(folder, ['check', 's.json', 'p.json', '--language', 'python']);
    expect(ran).toMatchObject({ code: 0, err: expect.stringContaining('drift cannot be told: the pattern') });
    expect(bounded(folder, ['vary', 's.json'])).toMatchObject({ code: 2 });
  });
});

describe('what is large is read in a line with its size, or refused with the limit', () => {
  test('a key that comes 500,000 times', () => {
    const folder = workspace({
      'a.json': `{${Array.from({ length: 500_000 }, (_, i) => `"a":${i}`).join(',\n')}}`,
    });
    const ran = bounded(folder, ['outline', 'a.json']);
    expect(ran.code).toBe(0);
    expect(ran.err).toContain('a.json:2:1: the key "a" comes twice in one object, first at 1:2');
    expect(ran.err).toContain('and 499979 more like these');
  });

  test('2,000 keys of mixed kinds, with every reason', () => {
    const kinds = ['1', '"x"', 'null', '[1]', '{"a":1}', 'true'];
    const folder = workspace({
      'a.json': `[${[2000, 1000]
        .map((count) => `{${Array.from({ length: count }, (_, i) => `"k${i}":${kinds[i % 6]}`).join(',')}}`)
        .join(',')}]`,
    });
    const ran = bounded(folder, ['infer', 'a.json', '--explain']);
    expect(ran.code).toBe(0);
    expect(ran.out.match(/absent in 1 of 2/g)).toHaveLength(1000);
  });

  test('5,000 places of many shapes', () => {
    const line = (n: number) =>
      JSON.stringify(
        Object.fromEntries(
          Array.from({ length: 40 }, (_, i) => [
            `k${(n * 37 + i * 131) % 5000}`,
            [n, 'x', null, [1], { a: n }][(n + i) % 5],
          ]),
        ),
      );
    const folder = workspace({ 'a.ndjson': Array.from({ length: 6000 }, (_, n) => line(n)).join('\n') });
    expect(bounded(folder, ['infer', 'a.ndjson', '--out', 's.json'])).toMatchObject({ code: 0 });
  });

  test('a payload with more values than a call takes arguments', () => {
    const count = isBrief ? 150_000 : 300_000;
    const folder = workspace({ 'a.ndjson': '1\n'.repeat(count) });
    expect(bounded(folder, ['infer', 'a.ndjson', '--name', 'Number', '--out', 's.json']).code).toBe(0);
    const ran = bounded(folder, ['check', 's.json', 'a.ndjson', '--language', 'python']);
    expect(ran).toMatchObject({ code: 0, out: expect.stringContaining(`${count} of ${count}`) });
  });

  test.for([
    ['a.json.gz', ['outline', 'a.json.gz', '--limit', '1']],
    ['a.ndjson.gz', ['outline', 'a.ndjson.gz', '--limit', '1']],
    ['a.json', ['outline', 'a.json', '--limit', '1']],
    ['a.ndjson', ['infer', 'a.ndjson', '--limit', '1']],
    ['stdin', ['outline', '-', '--limit', '1']],
  ] as const)('%s of more than --limit', ([name, args]) => {
    const text = ' '.repeat(3 << 20);
    const folder = workspace({ [name]: name.endsWith('.gz') ? gzipSync(text) : text });
    const ran = bounded(folder, args, name === 'stdin' ? text : '');
    expect(ran).toMatchObject({ code: 2, out: '' });
    expect(ran.err).toContain(`${name} has more than 1 MB in one document or line`);
    expect(ran.err).toContain('--limit');
    const more = bounded(folder, [...args.slice(0, -1), '4'], name === 'stdin' ? text : '');
    expect(more.err).not.toContain('more than');
  });

  test.for([
    ['{"type":"array","minItems":50000000}', 100_000],
    ['{"type":"string","minLength":900000000}', 100_000],
    [
      '{"type":"array","minItems":900,"items":{"type":"array","minItems":900,"items":{"type":"array","minItems":900}}}',
      100_000,
    ],
  ] as const)('payloads made of %s', ([schema, size]) => {
    const folder = workspace({ 's.json': schema });
    const ran = bounded(folder, ['vary', 's.json']);
    expect(ran).toMatchObject({ code: 2, out: '' });
    expect(ran.err).toContain(`more than ${size} values`);
    expect(ran.err).toContain('--size');
  });

  test('payloads made within --size', () => {
    const folder = workspace({ 's.json': '{"type":"array","minItems":2000,"items":{"type":"integer"}}' });
    expect(bounded(folder, ['vary', 's.json', '--size', '2000']).code).toBe(2);
    const ran = bounded(folder, ['vary', 's.json', '--size', '2001']);
    expect(ran.code).toBe(0);
    expect((JSON.parse(ran.out.split('\n')[0]!) as unknown[]).length).toBe(2000);
  });

  test('a recording of 3,000 answers of one endpoint', () => {
    const entry = (i: number) => ({
      request: { method: 'GET', url: `http://ferries.example/v1/sailings?page=${i}` },
      response: { status: 200, content: { text: `{"a":${i}}` } },
    });
    const folder = workspace({
      'a.har': JSON.stringify({ log: { entries: Array.from({ length: 3000 }, (_, i) => entry(i)) } }),
    });
    const ran = bounded(folder, ['capture', 'a.har', '--out', 'got']);
    expect(ran).toMatchObject({ code: 0, out: expect.stringContaining('3000 new of 3000') });
  });
});

test('a map inside a record inside itself comes to an end', () => {
  const folder = workspace({ 'a.json': '{"t":{"t":{"2031-05-01":1.25},"k":1},"k":1}' });
  expect(bounded(folder, ['infer', 'a.json', '--out', 's.json']).code).toBe(0);
  expect(bounded(folder, ['validate', 's.json', 'a.json']).code).toBe(0);
});

test('observations are the same bytes with any number of workers', () => {
  const line = (i: number) =>
    JSON.stringify({
      ...(i % 3 ? { b: i, a: `word${i % 7}` } : { a: `word${i % 5}`, c: [i, { d: i % 2 ? null : 'x' }] }),
      kind: ['ferry', 'launch', 'tug'][i % 3],
      [`k${i % 50}`]: i % 11 ? 'x'.repeat(i % 40) : { deep: [i] },
      pad: 'y'.repeat(300),
    });
  const folder = workspace();
  const lines = Array.from({ length: 70_000 }, (_, i) => line(i)).join('\n');
  expect(lines.length).toBeGreaterThan(24 << 20);
  writeFileSync(join(folder, 'a.ndjson'), lines);
  const saved = [1, 2, 5].map((workers) => {
    const name = `${workers}.observation`;
    const args = [
      'infer',
      'a.ndjson',
      '--workers',
      String(workers),
      '--save-observation',
      name,
      '--out',
      's.json',
    ];
    expect(bounded(folder, args).code).toBe(0);
    return readFileSync(join(folder, name), 'utf8');
  });
  expect(saved[1] === saved[0] && saved[2] === saved[0]).toBe(true);
});

describe.concurrent('records of more fields than a constructor takes are refused by name', async () => {
  const here = await languagesHere();
  const check = (name: string, count: number, type: object) => {
    const language = here.find((each) => each.name === name)!;
    const keys = Array.from({ length: count }, (_, i) => `f${i}`);
    const schema = {
      title: 'Wide',
      type: 'object',
      properties: Object.fromEntries(keys.map((key) => [key, type])),
      required: keys,
    };
    const model = buildModel(
      readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 }),
    );
    const payload = JSON.stringify(Object.fromEntries(keys.map((key) => [key, 1])));
    return checkStyle(language, language.styles[0], model, 's.json', payloadsOf([payload]), {
      strict: false,
      limits: patient,
    });
  };
  const [int, double] = [{ type: 'integer', format: 'int32' }, { type: 'number' }];
  // Compilers of these take half a minute for the most that they take: it is the longer numbers that they are tried with.
  for (const [name, most, type] of [
    ['java', 253, int],
    ['java', 126, double],
    ['kotlin', 245, int],
    ['kotlin', 124, double],
    ['scala', 254, int],
    ['scala', 127, double],
  ] as const) {
    test.runIf(here.some((each) => each.name === name))(`${name} ${most}`, async ({ expect }) => {
      if (name === 'java' || type === double) {
        const whole = await check(name, most, type);
        expect(whole.reason).toBeUndefined();
        expect(whole.findings.filter(({ severity }) => severity === 'loss')).toEqual([]);
      }
      const wide = await check(name, most + 1, type);
      expect(wide.state).toBe('failed');
      expect(wide.reason).toContain(`the type Wide has ${most + 1} fields`);
    });
  }

  test('which generate says too', ({ expect }) => {
    const folder = workspace();
    addFiles(folder, {
      's.json': JSON.stringify({
        title: 'Wide',
        type: 'object',
        properties: Object.fromEntries(Array.from({ length: 300 }, (_, i) => [`f${i}`, int])),
      }),
    });
    const ran = bounded(folder, ['generate', 's.json', '--language', 'java', '--out', 'x']);
    expect(ran).toMatchObject({ code: 2, err: expect.stringContaining('the type Wide has 300 fields') });
  });
});
