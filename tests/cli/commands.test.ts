import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { describe, expect, test } from 'vitest';
import { languages } from '../../src/languages/index.js';
import { program, skevo, workspace } from '../support.js';

const page = '{"page":1,"results":[{"id":1,"departs_at":"2031-05-01"},{"id":2,"departs_at":null}]}';

describe('inputs', () => {
  const folder = workspace({
    'pages/1.json': page,
    'pages/2.json.gz': gzipSync(page),
    'lines.ndjson': '{"a":1}\n\n{"a":2}\r\n{"b":1}',
    'lines.jsonl.gz': gzipSync('{"a":1}\n{"a":2}\n'),
    'bom.json': '\ufeff{"a":1}',
    'twice.json': '{"a":1,\n "a":2}',
  });
  const places = (args: string[], input?: string) => {
    const ran = skevo(['outline', ...args, '--json'], { cwd: folder, input });
    expect(ran.err.replace(/^note:.*\n/gm, '').replace(/^.*payloads? in.*\n/gm, '')).toBe('');
    const { payloads, places: rows } = JSON.parse(ran.out) as {
      payloads: number;
      places: { place: string; count: number; of: number }[];
    };
    return {
      payloads,
      counts: Object.fromEntries(rows.map(({ place, count, of }) => [place, `${count}/${of}`])),
    };
  };

  test('are files, folders, globs, gzip and lines', () => {
    expect(places(['pages'])).toMatchObject({ payloads: 2, counts: { '/results/*': '4/4' } });
    expect(places(['pages/*.json'])).toMatchObject({ payloads: 1 });
    expect(places(['lines.ndjson'])).toEqual({
      payloads: 3,
      counts: { '': '3/3', '/a': '2/3', '/b': '1/3' },
    });
    expect(places(['lines.jsonl.gz', 'lines.jsonl.gz'])).toMatchObject({ payloads: 2 });
  });

  test('are the standard input: one document, or one a line', () => {
    expect(places(['-'], '{"a":\n1}')).toMatchObject({ payloads: 1 });
    expect(places(['-'], '{"a":1}\n{"a":2}\n')).toMatchObject({ payloads: 2 });
  });

  test('are what --at selects in each document', () => {
    expect(places(['pages', '--at', '/results/*'])).toEqual({
      payloads: 4,
      counts: { '': '4/4', '/id': '4/4', '/departs_at': '4/4' },
    });
    expect(places(['pages', '--at', '/results/1/id'])).toEqual({ payloads: 2, counts: { '': '2/2' } });
  });

  test('may begin with a byte order mark and repeat a key, and the notes say so', () => {
    expect(skevo(['infer', 'bom.json'], { cwd: folder }).err).toContain(
      'note: bom.json:1:1: a byte order mark stands here',
    );
    expect(skevo(['infer', 'twice.json'], { cwd: folder }).err).toContain(
      'note: twice.json:2:2: the key "a" comes twice in one object, first at 1:2',
    );
    expect(skevo(['infer', 'twice.json', '--quiet'], { cwd: folder }).err).toBe('');
  });
});

describe('infer', () => {
  const folder = workspace({
    'sailings/1.json': '{"id":1,"legs":[{"pier":"N"}]}',
    'sailings/2.json': '{"id":null,"legs":[]}',
  });

  test('prints the schema, or writes it whole', () => {
    const printed = skevo(['infer', 'sailings'], { cwd: folder });
    expect(printed).toMatchObject({ code: 0, err: '' });
    expect(JSON.parse(printed.out)).toMatchObject({ title: 'Sailing', required: ['id', 'legs'] });
    const written = skevo(['infer', 'sailings', '--out', 'sailing.schema.json'], { cwd: folder });
    expect(written).toMatchObject({ code: 0, out: '', err: 'wrote sailing.schema.json from 2 payloads\n' });
    expect(readFileSync(join(folder, 'sailing.schema.json'), 'utf8')).toBe(printed.out);
  });

  test('explains every decision with its first place', () => {
    const { out } = skevo(['infer', 'sailings', '--explain'], { cwd: folder });
    expect(out).toMatch(/^\/id +nullable +null in 1 of 2 +sailings\/2\.json:1:7$/m);
    // What goes without saying is folded; it is told place by place.
    expect(out).not.toContain('present in all 2');
    expect(out).toMatch(/^and \d+ that go without saying/m);
    const why = skevo(['outline', 'sailings', '--why', '/id'], { cwd: folder }).out;
    expect(why).toMatch(/^\/id +required +present in all 2 +sailings\/1\.json:1:2$/m);
    const { schema, decisions, notes } = JSON.parse(
      skevo(['infer', 'sailings', '--json'], { cwd: folder }).out,
    );
    expect(schema.title).toBe('Sailing');
    expect(decisions).toContainEqual({
      place: '/id',
      rule: 'nullable',
      decision: 'nullable',
      because: 'null in 1 of 2',
      first: { file: 'sailings/2.json', line: 1, column: 7 },
    });
    expect(notes).toEqual([]);
  });

  test('gives the same bytes however its inputs are named', () => {
    const run = (...args: string[]) => skevo(['infer', ...args, '--name', 'Sailing'], { cwd: folder }).out;
    expect(run('sailings/2.json', 'sailings/1.json')).toBe(run('sailings'));
  });
});

describe('generate', () => {
  const folder = workspace({
    's.json': JSON.stringify({
      title: 'Sailing',
      type: 'object',
      properties: {
        departs_at: { type: 'string', description: 'When it leaves. */ """ ${x}' },
        kind: { enum: ['foot', 'vehicle'] },
      },
      required: ['kind'],
    }),
  });

  test('prints one file, and writes several below a folder', () => {
    const python = skevo(['generate', 's.json', '--language', 'python'], { cwd: folder });
    expect(python).toMatchObject({ code: 0, err: '' });
    expect(python.out).toContain('departs_at: str | None = None');
    const several = skevo(
      ['generate', 's.json', '--language', 'python,typescript:interface', '--out', 'out'],
      { cwd: folder },
    );
    expect(several.err).toBe(
      `wrote ${join('out', 'python', 'sailing.py')}\nwrote ${join('out', 'typescript-interface', 'sailing.ts')}\n`,
    );
    expect(readFileSync(join(folder, 'out', 'python', 'sailing.py'), 'utf8')).toBe(python.out);
    expect(readFileSync(join(folder, 'out', 'typescript-interface', 'sailing.ts'), 'utf8')).toContain(
      'departs_at?: string;',
    );
    expect(skevo(['generate', 's.json', '--language', 'python,typescript'], { cwd: folder })).toMatchObject({
      code: 2,
      err: expect.stringContaining('--out'),
    });
  });
});

describe('check', () => {
  const folder = workspace({ 'a.ndjson': '{"id":1,"gate":"A"}\n{"id":2}\n{"id":3,"gate":null}\n' });
  skevo(['infer', 'a.ndjson', '--out', 's.json'], { cwd: folder });
  const check = (command: string, ...args: string[]) =>
    skevo(['check', 's.json', 'a.ndjson', '--with', command, ...args], { cwd: folder });
  const findings = (command: string, ...args: string[]) =>
    JSON.parse(check(command, '--json', ...args).out).languages[0].findings as Record<string, unknown>[];
  const node = (body: string) => `node -e '${body}'`;
  const lines = 'require("readline").createInterface({ input: process.stdin }).on("line", (line) => ';

  test('of a program that gives everything back is clean', () => {
    const ran = check('cat');
    expect(ran).toMatchObject({ code: 0, err: '' });
    expect(ran.out).toContain('nothing lost');
    expect(ran.out).toContain('3 of 3');
  });

  test('says what no payload exercised', () => {
    const [unproven] = [
      JSON.parse(
        skevo(['check', 's.json', '-', '--with', 'cat', '--json'], {
          cwd: folder,
          input: '{"id":1,"gate":"A"}',
        }).out,
      ).unproven,
    ];
    expect(unproven).toEqual([
      { pointer: '/gate', state: 'optional, never absent' },
      { pointer: '/gate', state: 'nullable, never null' },
    ]);
  });

  test('another spelling is a note, and a loss when strict', () => {
    const respell = node(`${lines} console.log(line.replace(/"id":(\\d)/, "\\"id\\":$1.0")))`);
    expect(check(respell).code).toBe(0);
    expect(check(respell, '--strict').code).toBe(1);
    expect(findings(respell)[0]).toMatchObject({
      kind: 'respelled',
      severity: 'note',
      pointer: '/id',
      line: 1,
      column: 7,
    });
  });

  test('a refusal is in the words of the decoder', () => {
    expect(findings(node(`${lines} console.log(line.includes("2") ? "!no such berth" : line))`))).toEqual([
      expect.objectContaining({
        kind: 'refused',
        cause: 'no such berth',
        payload: 'a.ndjson',
        line: 2,
        column: 1,
      }),
    ]);
  });

  test('a program that dies at one payload still gets the others', () => {
    const dies = node(
      `${lines} { if (line.includes("2")) { console.error("out of rope"); process.exit(7); } console.log(line); })`,
    );
    expect(findings(dies)).toEqual([
      expect.objectContaining({ kind: 'crashed', line: 2, cause: 'it ended with exit code 7: out of rope' }),
    ]);
  });

  test('a program that hangs is ended', () => {
    const hangs = node(`${lines} { if (line.includes("2")) for (;;); console.log(line); })`);
    expect(findings(hangs, '--timeout', '2')).toEqual([
      expect.objectContaining({ kind: 'crashed', line: 2, cause: 'no answer within 6 s of its start' }),
    ]);
  });

  test('a program that floods its output or its memory is ended', () => {
    const floods = node(
      'const rope = "x".repeat(1 << 20); const more = () => process.stdout.write(rope, more); more();',
    );
    expect(findings(floods)).toHaveLength(3);
    expect(findings(floods)[0]).toMatchObject({ kind: 'crashed', cause: 'it floods its output' });
    const hoards = node('const hold = []; setInterval(() => hold.push(Buffer.alloc(20 << 20, 1)), 10)');
    expect(findings(hoards, '--memory', '200')[0]).toMatchObject({
      kind: 'crashed',
      cause: 'more than 200 MB of memory',
    });
  });

  test('an answer that is not JSON is named', () => {
    expect(findings('sed s/1/one/')[0]).toMatchObject({
      kind: 'crashed',
      cause: expect.stringContaining('the answer is not JSON'),
    });
  });

  test('payloads that are skipped silently are named, whichever they are', () => {
    expect(findings('sed 2d')).toEqual([expect.objectContaining({ kind: 'lost', line: 2, pointer: '' })]);
    expect(findings('true')).toHaveLength(3);
    expect(findings('sed \\$p')).toEqual([
      expect.objectContaining({ kind: 'crashed', cause: expect.stringContaining('more answers') }),
    ]);
  });

  test('a language whose toolchain is missing is not run, and fails when it was asked for', () => {
    const env = { SKEVO_PYTHON: '/nowhere/python' };
    const named = skevo(['check', 's.json', 'a.ndjson', '--language', 'python', '--json'], {
      cwd: folder,
      env,
    });
    expect(named.code).toBe(3);
    expect(JSON.parse(named.out).languages[0]).toMatchObject({
      state: 'not-run',
      reason: expect.stringContaining('SKEVO_PYTHON names /nowhere/python'),
    });
    // Of those that are here, the quick ones do.
    const slow = ['CXX', 'GO', 'JAVAC', 'KOTLINC', 'MCS', 'RSCRIPT', 'RUSTC', 'SCALAC', 'SWIFTC'];
    const none = Object.fromEntries(slow.map((name) => [`SKEVO_${name}`, '/nowhere']));
    const all = skevo(['check', 's.json', 'a.ndjson'], { cwd: folder, env: { ...env, ...none } });
    expect(all.code).toBe(0);
    expect(all.out).toContain('not run');
  });

  test('the bench can be kept', () => {
    skevo(['check', 's.json', 'a.ndjson', '--language', 'typescript:interface', '--keep', 'bench'], {
      cwd: folder,
    });
    expect(existsSync(join(folder, 'bench', 'typescript-interface', 'classes', 'a.ts'))).toBe(true);
  });

  test('generated programs see no secrets of the environment', () => {
    const ran = skevo(['check', 's.json', 'a.ndjson', '--language', 'python', '--keep', 'seen', '--json'], {
      cwd: folder,
      env: { HARBOUR_TOKEN: 'x' },
    });
    expect(JSON.parse(ran.out).languages[0].state).not.toBe('failed');
    expect(spawnSync('grep', ['-r', 'HARBOUR_TOKEN', join(folder, 'seen')]).status).toBe(1);
  });
});

test('a check in which everything is refused asks where the records are', () => {
  const folder = workspace({ 'page.json': '{"results":[{"id":1},{"id":2}]}' });
  skevo(['infer', 'page.json', '--at', '/results/*', '--out', 's.json'], { cwd: folder });
  const check = (...args: string[]) =>
    skevo(['check', 's.json', 'page.json', '--language', 'typescript', ...args], { cwd: folder });
  expect(check()).toMatchObject({ code: 1, err: expect.stringContaining('say where with --at') });
  expect(check('--at', '/results/*')).toMatchObject({ code: 0, err: '' });
});

describe('languages', () => {
  test('says which can be run here, and how to get the others', () => {
    const folder = workspace();
    const { out, code } = skevo(['languages'], { cwd: folder, env: { SKEVO_PYTHON: '/nowhere' } });
    expect(code).toBe(0);
    expect(out).toMatch(/python +dataclass .* not here .* apt-get install python3/);
    expect(out).toMatch(/typescript +class .* ready +node 2\d/);
    expect(
      JSON.parse(skevo(['languages', '--json'], { cwd: folder }).out).languages.map(
        ({ language }: { language: string }) => language,
      ),
    ).toEqual(languages.map(({ name }) => name));
  });
});

describe('generate --package', () => {
  const folder = workspace({
    's.json': '{"title":"Sailing","type":"object","properties":{"id":{"type":"integer"}}}',
  });
  const generate = (language: string, name: string) =>
    skevo(['generate', 's.json', '--language', language, '--package', name, '--out', language], {
      cwd: folder,
    });

  test.each<[string, string, string, RegExp]>([
    ['go', 'sailings', 'go/sailing.go', /^package sailings$/m],
    ['java', 'saltmere.sailings', 'java/saltmere/sailings/Sailing.java', /^package saltmere\.sailings;$/m],
    ['csharp', 'Saltmere.Sailings', 'csharp/Sailing.cs', /^namespace Saltmere\.Sailings$/m],
    ['kotlin', 'saltmere.sailings', 'kotlin/Sailing.kt', /^package saltmere\.sailings$/m],
    ['php', 'Saltmere\\Sailings', 'php/Sailing.php', /^namespace Saltmere\\Sailings;$/m],
    ['ruby', 'Saltmere', 'ruby/saltmere.rb', /^module Saltmere$/m],
    ['cpp', 'saltmere::sailings', 'cpp/sailing.hpp', /^namespace saltmere::sailings \{$/m],
    ['scala', 'saltmere.sailings', 'scala/Sailing.scala', /^package saltmere\.sailings$/m],
  ])('is what %s writes', (language, name, file, line) => {
    expect(generate(language, name).code).toBe(0);
    expect(readFileSync(join(folder, file), 'utf8')).toMatch(line);
  });

  test('is refused where it is not', () => {
    expect(generate('java', 'x; class Y {}')).toMatchObject({
      code: 2,
      err: expect.stringContaining('as in saltmere.sailings'),
    });
    expect(generate('python', 'Saltmere')).toMatchObject({
      code: 2,
      err: expect.stringContaining('is not what Python writes'),
    });
  });
});

describe('the demo', () => {
  test('is clean in its first act, and names all four mistakes in its second', () => {
    const folder = workspace();
    const { out, code } = skevo(['demo'], { cwd: folder });
    expect(code).toBe(0);
    const [first, second] = out.split('Second act.') as [string, string];
    const verdicts = first.match(/^\w+ +\w+ +\d+ of \d+ .*$/gm)!;
    expect(verdicts.length).toBeGreaterThan(6);
    expect(verdicts.filter((line) => !/nothing lost(, \d+ limits?)?$/.test(line))).toEqual([]);
    expect(second).toMatch(/lost +\/replacement_for/);
    expect(second).toMatch(/renamed +\/departs_at/);
    expect(second).toMatch(/added +\/delay_minutes/);
    expect(second).toMatch(/altered +\/id/);
    expect(readdirSync(join(folder, 'saltmere', 'payloads'), { recursive: true }).length).toBeGreaterThan(40);
  });
});

describe('errors', () => {
  const folder = workspace({
    'a.json': '{"results":{"id":1},"page":3}',
    'cut.json': '{"results": [1, 2',
    'bad.ndjson': '{"a":1}\n{"a":}\n{"a":3}\n',
    'empty.ndjson': '\n\n',
    'none.json': '{"results":[]}',
    'notes.txt': 'x',
    'payload.json': '{"id":1}',
    'broken.schema.json': '{"type":"object","properties":{"a":{"type":"strng"}}}',
    'dangling.schema.json': '{"$ref":"#/$defs/Berht","$defs":{"Berth":{"type":"object","properties":{}}}}',
    'good.schema.json': '{"type":"object","properties":{}}',
    'list.json': '[1]',
    'zipped.json.gz': 'not gzip',
    'file/x.json': '1',
  });
  mkdirSync(join(folder, 'void'));

  test.each<[string, string[], RegExp[]]>([
    ['a file that is not there', ['infer', 'b.json'], [/there is no file b\.json/, /Did you mean a\.json\?/]],
    ['a folder without payloads', ['infer', 'void'], [/the folder void holds no payloads/, /\.ndjson/]],
    ['a glob without payloads', ['infer', 'x*.json'], [/no payload matches x\*\.json/]],
    [
      'another ending',
      ['infer', 'notes.txt'],
      [/notes\.txt is not called as payloads are/, /\.yaml, \.csv or \.xml/],
    ],
    ['JSON cut short', ['infer', 'cut.json'], [/cut\.json:1:18/, /\n +\^\n/, /cut short/]],
    ['one bad line', ['infer', 'bad.ndjson'], [/bad\.ndjson:2:6/, /expected a value here, found "}"/]],
    ['nothing but blank lines', ['infer', 'empty.ndjson'], [/there is no payload in empty\.ndjson/]],
    ['not gzip', ['infer', 'zipped.json.gz'], [/is not gzip/]],
    ['--at that is no place', ['infer', 'a.json', '--at', 'results'], [/is not a JSON Pointer/]],
    [
      '--at at a scalar',
      ['infer', 'a.json', '--at', '/page/*'],
      [/expects a list or an object at \/page, found the number 3/, /a\.json:1:28/],
    ],
    [
      '--at at a list',
      ['infer', 'list.json', '--at', '/id'],
      [/found a list/, /Every element of the list is \/\*/],
    ],
    [
      '--at that matches nothing',
      ['infer', 'a.json', '--at', '/result/*'],
      [/finds no key "result" at the top; there is "results", "page"/, /Did you mean \/results\/\*\?/],
    ],
    ['--at where all is empty', ['infer', 'none.json', '--at', '/results/*'], [/--at matches nothing/]],
    [
      'an unknown language',
      ['generate', 'good.schema.json', '--language', 'pyton'],
      [/"pyton" is not a language/, /Did you mean python\?/],
    ],
    [
      'an unknown style',
      ['generate', 'good.schema.json', '--language', 'typescript:clas'],
      [/Did you mean class\?/],
    ],
    ['no language', ['generate', 'good.schema.json'], [/--language/]],
    [
      'an output folder that is not there',
      ['infer', 'a.json', '--out', 'no/s.json'],
      [/there is no folder no/],
    ],
    ['an output path that is a folder', ['infer', 'a.json', '--out', 'void'], [/cannot write void/]],
    [
      'an output path below a file',
      ['generate', 'good.schema.json', '--language', 'python', '--out', 'a.json/x'],
      [/cannot write/],
    ],
    [
      'a schema that is a payload',
      ['check', 'payload.json', 'a.json'],
      [/this is not a JSON Schema/, /skevo infer/],
    ],
    ['a schema that is a list', ['check', 'list.json', 'a.json'], [/list\.json:1:1/]],
    [
      'a schema with a wrong type',
      ['check', 'broken.schema.json', 'a.json'],
      [/broken\.schema\.json:1:44/, /must be one of null, boolean/],
    ],
    [
      'a reference that leads nowhere',
      ['check', 'dangling.schema.json', 'a.json'],
      [/leads nowhere/, /Did you mean "#\/\$defs\/Berth"\?/],
    ],
    ['an unknown command', ['infr', 'a.json'], [/there is no command "infr"/, /Did you mean skevo infer\?/]],
    [
      'an unknown option',
      ['infer', 'a.json', '--nmae', 'X'],
      [/infer has no option --nmae\n/, /Did you mean --name\?/],
    ],
    [
      'an unknown option whose value is one too',
      ['check', '--languge=go', 'a.json'],
      [/check has no option --languge\n/, /Did you mean --language\?/],
    ],
    [
      'an option that is turned off',
      ['run', '--no-lockd'],
      [/no option --no-lockd\n/, /Did you mean --locked\?/],
    ],
    [
      'an option like no other',
      ['infer', 'a.json', '--zzzzzzzz'],
      [/no option --zzzzzzzz\n {2}skevo infer --help/],
    ],
    [
      'a number below zero, where more is wanted',
      ['check', '--timeout', '-1'],
      [/check needs more than that: skevo check/],
    ],
    ['an option of a letter', ['infer', 'a.json', '-x'], [/no option -x\n {2}skevo infer --help/]],
    ['more than a command takes', ['languages', 'x'], [/unknown argument: x/, /skevo languages --help/]],
    [
      'no payload',
      ['infer'],
      [/infer needs more than that: skevo infer <payload\.\.>/, /skevo infer --help/],
    ],
    [
      'an option behind what are no options',
      ['check', 'good.schema.json', 'a.json', '--', '--nmae'],
      [/there is no file --nmae/],
    ],
    [
      'an option without its value',
      ['infer', 'a.json', '--out'],
      [/infer --out needs a value\n {2}skevo infer --help/],
    ],
    ['an option without its number', ['infer', 'a.json', '--width'], [/infer --width needs a value/]],
    ['an option before another', ['infer', 'a.json', '--name', '--quiet'], [/infer --name needs a value/]],
    [
      'a value of an option that takes none',
      ['infer', 'a.json', '--quiet=maybe'],
      [/infer --quiet takes no value\n {2}skevo infer --help/],
    ],
    ['no command', ['--'], [/a command is needed/]],
    [
      'an option given twice',
      ['infer', 'a.json', '--name', 'A', '--name', 'B'],
      [/--name is given more than once/],
    ],
    [
      'a timeout that is no time',
      ['check', 'good.schema.json', 'a.json', '--timeout', '-1'],
      [/--timeout must be more than 0/],
    ],
  ])('%s', (_what, args, patterns) => {
    const { code, out, err } = skevo(args, { cwd: folder });
    expect(code).toBe(2);
    expect(out).toBe('');
    expect(err).toMatch(/^skevo: /);
    for (const pattern of patterns) expect(err).toMatch(pattern);
    expect(err).not.toMatch(/\n +at .*\.js:/);
    expect(readdirSync(folder).filter((name) => /\.\d+$/.test(name))).toEqual([]);
  });

  test('a stack trace comes only with --debug', () => {
    expect(skevo(['infer', 'b.json', '--debug'], { cwd: folder }).err).toMatch(/\n +at /);
  });

  test('a pipe that is closed early is no error', () => {
    writeFileSync(
      join(folder, 'wide.json'),
      `{${Array.from({ length: 20_000 }, (_, i) => `"key${i}":1`).join(',')}}`,
    );
    const run = spawnSync('sh', ['-c', `node ${program} infer wide.json --quiet | head -1`], {
      cwd: folder,
      encoding: 'utf8',
    });
    expect(run.stderr).toBe('');
    expect(run.stdout.split('\n')[0]).toBe('{');
  });

  test('Ctrl-C leaves no half-written file and no running program, and exits with 130', async () => {
    writeFileSync(join(folder, 'one.ndjson'), '{"a":1}\n');
    const child = spawn(
      process.execPath,
      [program, 'check', 'good.schema.json', 'one.ndjson', '--with', 'sleep 98.7', '--timeout', '60'],
      { cwd: folder },
    );
    const running = () => spawnSync('pgrep', ['-f', '^sleep 98.7']).status === 0;
    for (let i = 0; i < 100 && !running(); i++) await new Promise((resolve) => setTimeout(resolve, 50));
    expect(running()).toBe(true);
    child.kill('SIGINT');
    const [code] = (await once(child, 'exit')) as [number];
    expect(code).toBe(130);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(running()).toBe(false);
  });
});

describe('programs named by option', () => {
  const folder = workspace({ 'a.json': '{"id":1}' });
  skevo(['infer', 'a.json', '--out', 's.json', '--quiet'], { cwd: folder });
  const check = (...args: string[]) =>
    skevo(['check', 's.json', 'a.json', '--language', 'python', ...args], { cwd: folder });

  test('are used before those that are found, and shown when asked', () => {
    const python = spawnSync('python3', ['-c', 'import sys; print(sys.executable)'], { encoding: 'utf8' });
    const ran = check('--tool', `python=${python.stdout.trim()}`, '--verbose');
    expect(ran.code).toBe(0);
    expect(ran.err).toContain(`is ${python.stdout.trim()}`);
    expect(
      JSON.parse(skevo(['languages', '--json'], { cwd: folder }).out).languages[0].tools[0],
    ).toMatchObject({
      tool: 'python',
      program: expect.stringContaining('python'),
    });
  });

  test('that are not there, or not needed, are refused', () => {
    expect(check('--tool', 'python=/nowhere')).toMatchObject({
      code: 3,
      out: expect.stringContaining('--tool names /nowhere, which is not there'),
    });
    expect(check('--tool', 'pyton=/nowhere')).toMatchObject({ code: 2, out: '' });
    expect(check('--tool', 'python')).toMatchObject({
      code: 2,
      err: expect.stringContaining('NAME=PROGRAM'),
    });
  });

  test('--unknown takes three words', () => {
    expect(check('--unknown', 'ignore')).toMatchObject({
      code: 2,
      err: expect.stringContaining('keep, drop, reject'),
    });
    expect(
      skevo(['generate', 's.json', '--language', 'python', '--unknown', 'keep'], { cwd: folder }).out,
    ).toContain('OpenPayload');
  });
});

test('skevo alone shows what there is, and what to type first', () => {
  const { code, out, err } = skevo([], { cwd: workspace() });
  expect({ code, err }).toEqual({ code: 0, err: '' });
  for (const line of [
    /^  skevo check <schema> <payload\.\.> /m,
    /^  skevo demo {2,}all of it/m,
    /^  skevo outline response\.json /m,
  ])
    expect(out).toMatch(line);
});

test('native dates are text, which is said, where a language has no types for them', () => {
  const folder = workspace({
    's.json': '{"title":"Notice","type":"object","properties":{"at":{"type":"string","format":"date-time"}}}',
  });
  const generate = (...more: string[]) =>
    skevo(['generate', 's.json', '--language', 'go,cpp', '--out', 'out', ...more], { cwd: folder });
  expect(generate('--dates', 'native').err).toContain('note: cpp struct: dates, UUIDs and bytes stay text');
  expect(generate('--dates', 'text').err).not.toContain('note:');
  expect(generate('--dates', 'native', '--quiet').err).toBe('');
  expect(generate('--dates', 'natve')).toMatchObject({
    code: 2,
    err: expect.stringContaining('--dates must be one of text, native'),
  });
});
