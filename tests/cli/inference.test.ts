import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, skevo, workspace } from '../support.js';

const notice = (kind: string, i: number, rest: string) => `{"id":${i},"kind":"${kind}",${rest}}`;
const notices = Array.from({ length: 12 }, (_, i) =>
  i % 2
    ? notice('delay', i, '"minutes":5,"sailing":"SF"')
    : notice('closure', i, '"berth":{"name":"N1"},"until":"2031-05-01"'),
).join('\n');

describe('outline', () => {
  const folder = workspace({
    'notices.ndjson': notices,
    'tide.json': '{"readings":{"2031-05-01":1,"2031-05-02":2}}',
    'tree.json': '{"berth":{"no":1,"id":"a","parts":[{"no":2,"id":"b","parts":[]}]}}',
  });

  test('shows unions with their arms, maps as maps, and a type inside itself once', () => {
    expect(skevo(['outline', 'notices.ndjson'], { cwd: folder }).out).toMatch(
      /\(payload\) +ClosureNotice \| DelayNotice/,
    );
    expect(skevo(['outline', 'tide.json'], { cwd: folder }).out).toMatch(
      /^\/readings +map .*\n\/readings\/\* +integer/m,
    );
    expect(skevo(['outline', 'tree.json'], { cwd: folder }).out).toMatch(
      /^\/berth\/parts\/\* +the same as \/berth/m,
    );
  });

  test('--why prints the evidence of one place', () => {
    const { out } = skevo(['outline', 'notices.ndjson', '--why', '/until'], { cwd: folder });
    expect(out).toMatch(
      /required in ClosureNotice +present in all 6 .*\n.*\n\/until +date \(RFC 3339\) +all 6 texts are written as a date \(RFC 3339\) +notices\.ndjson:1:56/,
    );
    const wrong = skevo(['outline', 'notices.ndjson', '--why', '/untill'], { cwd: folder });
    expect(wrong).toMatchObject({ code: 2, err: expect.stringContaining('Did you mean /until?') });
  });
});

describe('infer', () => {
  const folder = workspace({
    'words.json': JSON.stringify({ list: Array.from({ length: 40 }, (_, i) => ['foot', 'vehicle'][i % 2]) }),
  });
  test('makes choices open, closed or none as told', () => {
    const items = (...args: string[]) =>
      JSON.parse(skevo(['infer', 'words.json', '--quiet', ...args], { cwd: folder }).out).properties.list
        .items;
    expect(items()).toEqual({ type: 'string', enum: ['foot', 'vehicle'] });
    expect(items('--choices', 'open')).toEqual({
      anyOf: [{ type: 'string', enum: ['foot', 'vehicle'] }, { type: 'string' }],
    });
    expect(items('--choices', 'none')).toEqual({ type: 'string' });
    expect(skevo(['infer', 'words.json', '--choices', 'some'], { cwd: folder })).toMatchObject({
      code: 2,
      err: expect.stringContaining('auto, open, closed, none'),
    });
  });
});

describe('saved observations', () => {
  const lines = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, i) =>
      notice(
        i % 3 ? 'delay' : 'closure',
        from + i,
        i % 3
          ? '"minutes":9007199254740993,"why":null'
          : '"berth":{"name":"N1","at":["x",1]},"until":"2031-05-01"',
      ),
    ).join('\n');
  const folder = workspace({
    'a.ndjson': lines(0, 40),
    'b.ndjson': lines(40, 90),
    'c.json': '{"id":7,"kind":"closure","berth":{"name":"Ø\\u202e","at":["y",2]},"until":"soon"}',
  });
  const infer = (...args: string[]) =>
    skevo(['infer', ...args, '--name', 'Notice', '--quiet'], { cwd: folder });

  test('of parts combine to the schema and the reasons of the whole, in any order', () => {
    infer('a.ndjson', '--save-observation', 'a.observation');
    infer('b.ndjson', '--save-observation', 'b.observation');
    expect(infer('b.observation', 'c.json', 'a.observation').out).toBe(
      infer('a.ndjson', 'b.ndjson', 'c.json').out,
    );
    expect(infer('b.observation', 'c.json', 'a.observation', '--explain').out).toBe(
      infer('a.ndjson', 'b.ndjson', 'c.json', '--explain').out,
    );
    infer('a.observation', 'b.observation', '--save-observation', 'both.observation');
    infer('a.ndjson', 'b.ndjson', '--save-observation', 'same.observation');
    expect(readFileSync(join(folder, 'both.observation'), 'utf8')).toBe(
      readFileSync(join(folder, 'same.observation'), 'utf8'),
    );
  });

  test('that are none are refused', () => {
    addFiles(folder, { 'bad.observation': '{"payloads":1}', 'cut.observation': '{"skevoObs' });
    for (const name of ['bad.observation', 'cut.observation']) {
      expect(infer(name)).toMatchObject({
        code: 2,
        err: expect.stringContaining(`${name} is not a saved observation`),
      });
    }
    expect(skevo(['validate', 's.json', 'a.observation'], { cwd: folder }).code).toBe(2);
  });
});

describe('threads', () => {
  const folder = workspace();
  const sailing = (i: number) =>
    `{"id":${i},"code":"SF-${i}","legs":[{"pier":"Østhavn","gate":${i % 3 ? '"A"' : 'null'}}]${i % 7 ? '' : ',"note":"fog"'},"filler":"${'mind the step '.repeat(16)}"}`;
  const many = Array.from({ length: 100_000 }, (_, i) => sailing(i));
  addFiles(folder, {
    'large.ndjson': `${many.join('\n')}\n`,
    'broken.ndjson': `${[...many.slice(0, 90_000), '{"id":}', ...many.slice(90_000)].join('\n')}\n`,
  });

  test('give the same bytes as one does', () => {
    const run = (workers: string, ...args: string[]) =>
      skevo(['infer', 'large.ndjson', '--quiet', '--workers', workers, ...args], { cwd: folder }).out;
    expect(run('3')).toBe(run('1'));
    expect(run('2', '--explain')).toBe(run('1', '--explain'));
  });

  test('report an error where it stands', () => {
    expect(skevo(['infer', 'broken.ndjson', '--workers', '2'], { cwd: folder })).toMatchObject({
      code: 2,
      err: expect.stringContaining('broken.ndjson:90001:7'),
    });
  });
});

describe('validate', () => {
  const folder = workspace({ 'notices.ndjson': notices });
  skevo(['infer', 'notices.ndjson', '--out', 's.json'], { cwd: folder });
  addFiles(folder, {
    'bad.ndjson': `${notice('delay', 1, '"minutes":"5","sailing":"SF"')}\n${notice('strike', 2, '"minutes":5,"sailing":"SF"')}\n${notice('delay', 3, '"minutes":5,"sailing":"SF"')}\n`,
    'seven.schema.json':
      '{"$schema":"http://json-schema.org/draft-07/schema#","definitions":{"no":{"type":"integer","minimum":1}},"type":"object","properties":{"no":{"$ref":"#/definitions/no"}},"required":["no"],"additionalProperties":false}',
    'no.json': '{\n  "no": 0,\n  "noo": 1\n}',
  });

  test('accepts the payloads that a schema was inferred from', () => {
    expect(skevo(['validate', 's.json', 'notices.ndjson'], { cwd: folder })).toMatchObject({
      code: 0,
      out: '',
      err: 'all 12 payloads meet the schema\n',
    });
  });

  test('explains the nearest alternative of a union', () => {
    const { code, out, err } = skevo(['validate', 's.json', 'bad.ndjson'], { cwd: folder });
    expect(code).toBe(1);
    expect(out).toMatch(
      /bad\.ndjson:1:1.*\n.*\n +closest is DelayNotice:\n +\/minutes expected type integer, found string "5"/,
    );
    expect(out).toMatch(
      /bad\.ndjson:2:1.*\n.*\n +closest is DelayNotice:\n +\/kind expected "delay", found string "strike"/,
    );
    expect(err).toBe('2 of 3 payloads do not meet the schema\n');
  });

  test('knows draft 7, and places every failure', () => {
    const { code, out } = skevo(['validate', 'seven.schema.json', 'no.json', '--json'], { cwd: folder });
    expect(code).toBe(1);
    expect(JSON.parse(out)).toMatchObject({
      payloads: 1,
      failing: 1,
      failures: [
        {
          payload: 'no.json',
          line: 1,
          column: 1,
          pointer: '',
          expected: 'no other keys',
          found: 'the key "noo"',
          keyword: 'additionalProperties',
        },
        {
          payload: 'no.json',
          line: 2,
          column: 9,
          pointer: '/no',
          expected: '>= 1',
          found: 'number 0',
          keyword: 'minimum',
        },
      ],
    });
  });

  test('refuses what is no schema', () => {
    addFiles(folder, { 'wrong.schema.json': '{"type":"strng"}' });
    expect(skevo(['validate', 'wrong.schema.json', 'no.json'], { cwd: folder })).toMatchObject({
      code: 2,
      err: expect.stringMatching(/"type" must be one of null, .*\n.*wrong\.schema\.json:1:9/) as unknown,
    });
  });
});

describe('locate', () => {
  const folder = workspace({ 'notices.ndjson': notices });
  const locate = (...args: string[]) => skevo(['locate', 'notices.ndjson', ...args], { cwd: folder });

  test('finds keys in any spelling, and shows the code that reaches them', () => {
    const { code, out } = locate('--key', 'Name', '--language', 'python,typescript:interface');
    expect(code).toBe(0);
    expect(out).toContain('/berth/name  6 times');
    expect(out).toContain('first /berth/name at notices.ndjson:1:35  "N1"');
    expect(out).toContain('        if isinstance(notice, ClosureNotice):\n            notice.berth.name\n');
    expect(out).toContain(
      '        if (notice.kind === "closure") {\n          notice.berth.name;\n        }\n',
    );
  });

  test('finds values, lists as loops', () => {
    addFiles(folder, {
      'page.json': '{"results":[{"legs":[{"pier":"North Pier"}]},{"legs":[{"pier":"Gull Steps"}]}]}',
    });
    const found = skevo(['locate', 'page.json', '--value', 'gull', '--language', 'python', '--json'], {
      cwd: folder,
    });
    expect(JSON.parse(found.out).places).toMatchObject([
      {
        place: '/results/*/legs/*/pier',
        pointer: '/results/1/legs/0/pier',
        code: [
          {
            typed: 'for result in page.results:\n    for leg in result.legs:\n        leg.pier',
            plain: 'for result in page["results"]:\n    for leg in result["legs"]:\n        leg["pier"]',
          },
        ],
      },
    ]);
  });

  test('calls a page after its folder where that was named, and nothing after the number of a file', () => {
    addFiles(folder, {
      'sailings/page-1.json': '{"results":[{"code":"a"},{"code":"b"}]}',
      'notice-12.json': '{"code":"a"}',
    });
    const code = (file: string) =>
      skevo(['locate', file, '--key', 'code', '--language', 'python'], { cwd: folder }).out;
    expect(code('sailings/page-1.json')).toContain('for result in sailing_page.results:');
    expect(code('notice-12.json')).toContain('notice.code');
  });

  test('says when there is nothing, and when it is not told what to look for', () => {
    expect(locate('--key', 'tide')).toMatchObject({
      code: 1,
      out: '',
      err: expect.stringContaining('no key "tide"'),
    });
    expect(locate()).toMatchObject({ code: 2, err: expect.stringContaining('--key NAME or --value TEXT') });
  });
});

describe('updating a schema', () => {
  const folder = workspace({
    'old.ndjson': '{"code":"SF-1","minutes":5}\n{"code":"SF-2","minutes":6}\n',
    'new.ndjson': '{"code":"SF-3","minutes":7}\n{"code":null,"pier":"N"}\n',
  });
  const update = (payloads: string, ...args: string[]) =>
    skevo(['infer', payloads, '--update', 's.json', ...args], { cwd: folder });
  const people =
    '{"type":"object","title":"Sailing","properties":{\n  "code": {"type":"string", "description":"Who sails."},\n  "minutes": {"type":"integer", "maximum":600}},"required":["minutes","code"]}\n';

  test('lists what changed with its first place, and keeps what people wrote', () => {
    addFiles(folder, { 's.json': people });
    const { code, out, err } = update('new.ndjson');
    expect(code).toBe(0);
    expect(JSON.parse(out)).toEqual({
      type: 'object',
      title: 'Sailing',
      properties: {
        code: { type: ['string', 'null'], description: 'Who sails.' },
        minutes: { type: 'integer', maximum: 600 },
        pier: { type: 'string' },
      },
      required: ['code'],
    });
    expect(err).toMatch(/^\/minutes +required +optional +absent +new\.ndjson:2:1$/m);
    expect(err).toMatch(/^\/code +string +string or null +null +new\.ndjson:2:9$/m);
    expect(err).toMatch(/^\/pier +not known +string, optional +a new key +new\.ndjson:2:21$/m);
    expect(readFileSync(join(folder, 's.json'), 'utf8')).toBe(people);
  });

  test('writes nothing when nothing is new, and the same the second time', () => {
    addFiles(folder, { 's.json': people });
    expect(update('old.ndjson', '--out', 's.json')).toMatchObject({
      code: 0,
      out: '',
      err: '2 payloads say nothing new to s.json\n',
    });
    expect(readFileSync(join(folder, 's.json'), 'utf8')).toBe(people);
    expect(update('old.ndjson').out).toBe(people);
    expect(update('new.ndjson', '--out', 's.json').err).toContain('wrote s.json with 3 changes');
    const learned = readFileSync(join(folder, 's.json'), 'utf8');
    expect(JSON.parse(update('new.ndjson', '--json').out)).toMatchObject({ changes: [] });
    expect(update('new.ndjson').out).toBe(learned);
  });

  test('refuses payloads that have nothing to do with the schema, such as pages of records', () => {
    addFiles(folder, { 's.json': people, 'page.json': '{"results":[{"code":null,"minutes":7}],"page":1}' });
    expect(update('page.json', '--out', 's.json')).toMatchObject({
      code: 2,
      out: '',
      err: expect.stringContaining('say where with --at'),
    });
    expect(readFileSync(join(folder, 's.json'), 'utf8')).toBe(people);
    expect(update('page.json', '--at', '/results/*').code).toBe(0);
  });

  test('refuses options that only a new schema can follow', () => {
    addFiles(folder, { 's.json': people });
    expect(update('new.ndjson', '--name', 'Ferry')).toMatchObject({
      code: 2,
      err: expect.stringContaining('--name cannot be given with --update'),
    });
  });
});

test('--evidence annotates places with counts and examples', () => {
  const folder = workspace({ 'a.ndjson': '{"code":"SF-1","gate":null}\n{"code":"SF-2"}\n' });
  const { out } = skevo(['infer', 'a.ndjson', '--evidence'], { cwd: folder });
  expect(JSON.parse(out).properties).toEqual({
    code: { type: 'string', examples: ['SF-1'], 'x-evidence': { seen: 2 } },
    gate: { 'x-evidence': { seen: 1, absent: 1, null: 1 } },
  });
});

describe('what may be wrong', () => {
  const row = (i: number) => ({
    state: ['open', 'shut', 'late'][i % 3],
    by: { login: 'a', rank: i },
    to: { login: 'c', rank: i },
  });
  const folder = workspace({
    'few.ndjson': Array.from({ length: 30 }, (_, i) => JSON.stringify(row(i))).join('\n'),
    'many.ndjson': Array.from({ length: 300 }, (_, i) => JSON.stringify({ state: row(i).state })).join('\n'),
    'long.json': JSON.stringify({ ['k'.repeat(300)]: { a: 1 } }),
  });
  const choice =
    "unsure: /state: closed choice, 3 words in 30 texts, each more than once: a new one is unlikely; otherwise --decide '/state=choice:open'";

  test('is said with what decides it otherwise, the most doubtful first', () => {
    const { out, err } = skevo(['infer', 'few.ndjson'], { cwd: folder });
    expect(JSON.parse(out).properties.state.enum).toEqual(['late', 'open', 'shut']);
    expect(err.trim().split('\n')).toEqual([
      choice,
      `unsure: /to: same type as /by, the same keys: "login", "rank"; otherwise --decide '/to=name:...'`,
    ]);
    const steer = ['--decide', '/state=choice:open', '--decide', '/to=name:To', '--decide', '/by=name:By'];
    expect(skevo(['infer', 'few.ndjson', ...steer], { cwd: folder }).err).toBe('');
  });

  test('is not said of what has enough evidence, nor to those who want quiet', () => {
    expect(skevo(['infer', 'many.ndjson'], { cwd: folder }).err).toBe('');
    expect(skevo(['infer', 'few.ndjson', '--quiet'], { cwd: folder }).err).toBe('');
  });

  test('can be pasted into a shell, whatever the keys are', () => {
    const rows = Array.from({ length: 30 }, (_, i) =>
      JSON.stringify({ "a'; echo b; '": ['open', 'shut', 'late'][i % 3] }),
    );
    addFiles(folder, {
      'odd.ndjson': rows.join('\n'),
      'page.json': JSON.stringify({ "it's": [{ a: 1, b: 2, c: 3 }] }),
    });
    expect(skevo(['infer', 'odd.ndjson'], { cwd: folder }).err).toContain(
      `--decide '/a'\\''; echo b; '\\''=choice:open'`,
    );
    expect(skevo(['outline', 'page.json'], { cwd: folder }).err).toContain(`--at '/it'\\''s/*'`);
  });

  test('--explain tells fields that are optional in one record of a union', () => {
    const some = Array.from({ length: 12 }, (_, i) =>
      JSON.stringify(
        i % 2 ? { kind: 'a', x: 1, y: 2, ...(i < 6 ? { z: 1 } : {}) } : { kind: 'b', p: 1, q: 2 },
      ),
    );
    addFiles(folder, { 'arms.ndjson': some.join('\n') });
    expect(skevo(['infer', 'arms.ndjson', '--explain'], { cwd: folder }).out).toMatch(
      /^\/z +optional in AArms? /m,
    );
  });

  test('comes first in --explain, and nothing is cut in a pipe', () => {
    const { out } = skevo(['infer', 'few.ndjson', '--explain'], { cwd: folder });
    expect(out.split('\n')[1]).toMatch(/^\/state +closed choice .* choice:open$/);
    expect(skevo(['infer', 'long.json', '--explain'], { cwd: folder }).out).toContain('k'.repeat(300));
  });

  test('--explain tells what an update changes, and why', () => {
    const schema = skevo(['infer', 'few.ndjson', '--quiet'], { cwd: folder }).out;
    addFiles(folder, {
      's.json': schema,
      'new.json': '{"state":"gone","by":{"login":"a","rank":1},"to":{"login":"c"}}',
    });
    const { out, err } = skevo(['infer', 'new.json', '--update', 's.json', '--explain'], { cwd: folder });
    expect(out).toMatch(/\/state[^]*"gone"[^]*\/to\/rank[^]*optional[^]*absent/);
    expect(err).not.toContain('gone');
  });

  test('--why finds a place of a type that is explained elsewhere', () => {
    const { out } = skevo(['outline', 'few.ndjson', '--why', '/to/login'], { cwd: folder });
    expect(out).toMatch(/^\/by\/login +required/m);
  });
});

test('a file that is named is read whatever its ending; a folder gives those that surely are payloads', () => {
  const folder = workspace({ 'a.geojson': '{"long":1}', 'b.map': '{"deep":2}', 'c.json': '{"lit":true}' });
  const keys = (...args: string[]) =>
    Object.keys(JSON.parse(skevo(['infer', ...args, '--quiet'], { cwd: folder }).out).properties);
  expect(keys('a.geojson', 'b.map')).toEqual(['long', 'deep']);
  expect(keys('.')).toEqual(['lit']);
});
