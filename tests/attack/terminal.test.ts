import { spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { showable, visible } from '../../src/report/visible.js';
import { addFiles, hasProgram, program, skevo, workspace } from '../support.js';

/** Clears the screen, sets the title, colours, moves up, turns the line around, and breaks it, in several codings. */
const hostile =
  '\u001b[2J\u001b]0;gone\u0007\u001b[31mred\u009b1A\u0090x\u202eturned\u2066\u2028next\u0085\u0000\u007f\u200b\u{e0041}';

const control =
  /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u061c\u200b\u200e\u200f\u2028-\u202e\u2060-\u2069\ufeff\u{e0000}-\u{e007f}]/u;

/** The same as an argument of a program can hold it. */
const given = hostile.replaceAll('\0', '');

const folder = workspace();
const named = `samples \u001b[31m\u202e\u009b.json`;
const payload = JSON.stringify({
  [hostile]: hostile,
  kind: hostile,
  when: { [hostile]: [1, hostile] },
  n: 1,
});
addFiles(folder, {
  [named]: payload,
  'b.json': JSON.stringify({ [hostile]: 1, kind: 2, when: { [hostile]: null } }),
  'broken.json': `{"a": "${hostile.replaceAll(/[\u0000-\u001f]/g, '')}" x}`,
  'twice.json': `{${JSON.stringify(hostile)}:1,${JSON.stringify(hostile)}:2}`,
  'day.har': JSON.stringify({
    log: {
      entries: [
        {
          request: { method: `GET${hostile}`, url: `http://ferries.example/${hostile}?x=${hostile}` },
          response: { status: 200, content: { text: '{}', mimeType: hostile } },
        },
      ],
    },
  }),
  'skevo.yaml': `contracts:\n  ${JSON.stringify(hostile)}:\n    samples: [b.json]\n    schema: out.schema.json\n    languages: [{ language: python, out: out }]\n`,
  'wrong.yaml': `contracts:\n  x:\n    ${JSON.stringify(hostile)}: 1\n`,
});
const schema = skevo(['infer', named, '--name', `Sail${given}ing`, '--quiet'], { cwd: folder }).out;
addFiles(folder, {
  's.json': schema.replace('"type": "object"', `"type": "object", "description": ${JSON.stringify(hostile)}`),
  'ref.json': JSON.stringify({ $ref: `#/$defs/${hostile}`, $defs: { [`${hostile}x`]: {} } }),
  'pattern.json': JSON.stringify({ type: 'object', properties: { kind: { pattern: `^${hostile}(` } } }),
});

const calls: readonly (readonly string[])[] = [
  ['outline', named],
  ['outline', '.', '--why', '/kind'],
  ['outline', 'twice.json'],
  ['outline', 'broken.json'],
  ['infer', named, 'b.json', '--explain'],
  ['infer', named, 'b.json'],
  ['infer', named, 'b.json', '--json'],
  ['infer', 'b.json', '--update', 's.json'],
  ['locate', named, '--key', 'kind', '--language', 'python,go'],
  ['locate', named, '--value', given],
  ['validate', 's.json', 'b.json'],
  ['validate', 's.json', 'b.json', '--json'],
  ['validate', 'pattern.json', 'b.json'],
  ['generate', 's.json', '--language', 'python'],
  ['generate', 'ref.json', '--language', 'python'],
  ['generate', 's.json', '--language', `py${given}`],
  ['check', 's.json', named, 'b.json', '--language', 'python'],
  ['check', 's.json', named, 'b.json', '--language', 'python', '--json'],
  ['check', 's.json', 'b.json', '--with', `echo '!${given}'; cat >/dev/null #`],
  ['vary', 's.json'],
  ['compare', 's.json', 'ref.json'],
  ['compare', 's.json', 'b.json'],
  ['capture', 'day.har', '--out', 'got'],
  ['capture', `x:${given}`],
  ['run'],
  ['run', '--project', 'wrong.yaml'],
  ['run', given],
  [given],
  ['outline', `${given}.json`],
  ['outline', named, `--${given}`],
];

describe('nothing but text, ends of lines and tabs reaches', () => {
  test.for(calls.map((args) => ({ args, name: args.map(visible).join(' ') })))(
    'a pipe from $name',
    ({ args }) => {
      const ran = skevo(args, { cwd: folder });
      expect(ran.out + ran.err).not.toBe('');
      expect(control.exec(ran.out)?.index ?? -1, visible(ran.out)).toBe(-1);
      expect(control.exec(ran.err)?.index ?? -1, visible(ran.err)).toBe(-1);
    },
  );

  const hasTerminal = hasProgram('script');
  test.runIf(hasTerminal)('a terminal, but for colours and progress of Skevo', () => {
    for (const args of calls.slice(0, 19)) {
      writeFileSync(
        join(folder, 'call.mjs'),
        `process.argv.splice(2, 0, ...${JSON.stringify(args)}); await import(${JSON.stringify(program)});`,
      );
      const ran = spawnSync('script', ['-qec', `${process.execPath} call.mjs`, '/dev/null'], {
        cwd: folder,
        encoding: 'utf8',
        env: { ...process.env, TERM: 'xterm', NO_COLOR: '' },
      });

      // Colours, and what a progress bar does to its own line when something takes longer.
      const own = /\u001b\[(?:(?:0|1|2|22|3[1236]|39)m|\?(?:25|7)[lh]|1G|0[JK])/g;
      const bare = ran.stdout.replaceAll(own, '').replaceAll('\r\n', '\n');
      expect(bare).not.toBe('');
      expect(control.exec(bare)?.index ?? -1, `${args.map(visible).join(' ')}\n${visible(bare)}`).toBe(-1);
    }
  });

  test.runIf(hasTerminal)('a terminal while something takes more than a second: how far it is', () => {
    const slow = workspace({
      // A program is started for each few megabytes.
      'a.ndjson': Array.from({ length: 12 }, (_, id) =>
        JSON.stringify({ id, text: 'x'.repeat(1 << 20) }),
      ).join('\n'),
      's.json': '{"type":"object","properties":{"id":{"type":"integer"},"text":{"type":"string"}}}',
      'slow.sh': 'sleep 1.2\nexec cat\n',
    });
    const command = `${process.execPath} ${program} check s.json a.ndjson --with 'sh slow.sh'`;
    const ran = spawnSync('script', ['-qec', command, '/dev/null'], {
      cwd: slow,
      encoding: 'utf8',
      env: { ...process.env, TERM: 'xterm', NO_COLOR: '1' },
    });
    expect(ran).toMatchObject({ status: 0 });
    expect(ran.stdout).toMatch(/program [=-]{30} \d+% {2}\d+ of \d+ payloads/);
    // It is gone when the result is printed.
    expect(ran.stdout.slice(ran.stdout.lastIndexOf('left'))).toMatch(
      /\u001b\[0J[^]*12 of 12[^]*nothing lost/,
    );
  });
});

test('JSON that is printed says the same as what it was made of', () => {
  const { out } = skevo(['infer', named, '--name', 'Sailing', '--quiet'], { cwd: folder });
  expect(Object.keys((JSON.parse(out) as { properties: object }).properties)).toContain(hostile);
});

describe('what is shown of a text', () => {
  test.for<[string, string]>([
    ['North Pier', 'North Pier'],
    ['\u001b[31m', '\\u001b[31m'],
    ['a\u202eb', 'a\\u202eb'],
    ['\u{e0041}', '\\udb40\\udc41'],
    ['\ud800', '\\ud800'],
    ['نام\u200cها 👩‍✈️', 'نام\u200cها 👩‍✈️'],
    ['a\nb\tc', 'a\\u000ab\\u0009c'],
  ])('%j is %j', ([text, shown]) => expect(visible(text)).toBe(shown));
  test('is with ends of lines and tabs where it is several', () => {
    expect(showable('a\nb\tc\rd', false)).toBe('a\nb\tc\\u000dd');
    expect(showable('\u001b[31mred\u001b[39m\u001b[5m', true)).toBe('\u001b[31mred\u001b[39m\\u001b[5m');
    expect(showable('\u001b[31mred', false)).toBe('\\u001b[31mred');
  });
});

mkdirSync(join(folder, 'reports'));
test('a Markdown report keeps its cells, and nothing in it comes alive', () => {
  const keys = [
    'a\\|b',
    'c|d',
    '`x`|`y`',
    '@harbour',
    '#12',
    'https://ferries.example/x',
    'www.ferries.example',
    '<img src=x>',
    '[a](b)',
    '!7',
    '&lt;',
  ];
  addFiles(folder, {
    'keys.json': JSON.stringify(Object.fromEntries(keys.map((key) => [key, 1]))),
    'strict.json': JSON.stringify({
      title: 'Keys',
      type: 'object',
      properties: Object.fromEntries(keys.map((key) => [key, { type: 'string' }])),
      required: keys,
    }),
  });
  const args = [
    'check',
    'strict.json',
    'keys.json',
    '--with',
    `node -e "for (const _ of [1]) process.stdout.write('{}\\n')"`,
  ];
  const ran = skevo([...args, '--report', 'reports/r.md', '--report', 'reports/r.json'], { cwd: folder });
  expect(ran.code).toBe(1);
  const text = spawnSync('cat', [join(folder, 'reports/r.md')], { encoding: 'utf8' }).stdout;
  const rows = text.split('\n').filter((line) => line.startsWith('| ') && line.includes('**lost**'));
  expect(rows).toHaveLength(keys.length);
  for (const row of rows) {
    expect(row.match(/\|/g), row).toHaveLength(5);
    const outside = row.replaceAll(/(`+)(?!`).*?(?<!`)\1(?!`)/g, '');
    expect(outside, row).not.toMatch(/@\w|(?<!&)#\d|:\/\/|www\.|!\d|<img|\]\(/);
  }
});
