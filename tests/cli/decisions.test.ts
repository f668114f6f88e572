import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, skevo, workspace } from '../support.js';

const berth = { long: 3, deep: 4 };
const files = {
  'a.json': JSON.stringify({
    state: 'open',
    labels: { en: 1, da: 2, de: 3 },
    home: berth,
    away: berth,
    seats: 3,
  }),
};
const properties = (out: string) => (JSON.parse(out) as { properties: Record<string, unknown> }).properties;

describe('what a person decides', () => {
  const folder = workspace({
    ...files,
    'decisions.yaml': '/labels: { map: record }\n/home: { name: Berth }\n/seats:\n  width: int64\n',
    'wrong.yaml': '/seats:\n  width: int64\n/state: { choice: opne }\n',
    'no.yaml': '- open\n',
    'broken.yaml': '/a: {\n',
  });

  test('holds for a schema, from options and from a file, options last', () => {
    const { code, out, err } = skevo(
      ['infer', 'a.json', '--decisions', 'decisions.yaml', '--decide', '/seats=width:double-int', '--quiet'],
      { cwd: folder },
    );
    expect({ code, err }).toEqual({ code: 0, err: '' });
    expect(properties(out)).toMatchObject({
      labels: { $ref: '#/$defs/Labels' },
      home: { $ref: '#/$defs/Berth' },
      away: { $ref: '#/$defs/Berth' },
      seats: { format: 'double-int' },
    });
  });

  test('is what --explain and --why cite', () => {
    const args = ['a.json', '--decisions', 'decisions.yaml'];
    expect(skevo(['infer', ...args, '--explain'], { cwd: folder }).out).toMatch(
      /integer \(int64\) +decisions\.yaml:\d/,
    );
    expect(skevo(['outline', ...args, '--why', '/labels'], { cwd: folder }).out).toMatch(
      /a record +decisions\.yaml:1/,
    );
    expect(skevo(['outline', 'a.json', '--decide', '/labels=map:record'], { cwd: folder }).out).toMatch(
      /\/labels +object/,
    );
  });

  test.for([
    ['--decisions', 'wrong.yaml', 'wrong.yaml:3: choice cannot be "opne"'],
    ['--decisions', 'no.yaml', 'no.yaml has no decisions'],
    ['--decisions', 'broken.yaml', 'broken.yaml:'],
    ['--decisions', 'gone.yaml', 'gone.yaml'],
    ['--decide', '/seats', 'decides nothing'],
    ['--decide', '/seats=choice:open', 'there is no text'],
  ] as const)('is refused when it cannot be: %s %s', ([option, value, message]) => {
    const { code, out, err } = skevo(['infer', 'a.json', option, value, '--out', 'made.json'], {
      cwd: folder,
    });
    expect({ code, out }).toEqual({ code: 2, out: '' });
    expect(err).toContain(message);
    expect(() => readFileSync(join(folder, 'made.json'))).toThrow('ENOENT');
  });

  test('about no place is told, and changes nothing', () => {
    const { code, err } = skevo(['infer', 'a.json', '--decide', '/seatss=map'], { cwd: folder });
    expect(code).toBe(0);
    expect(err).toContain('there is no place /seatss; did you mean /seats?');
  });

  test('holds for what an update adds, and for words that it meets', () => {
    addFiles(folder, {
      'old.schema.json': JSON.stringify({
        title: 'Sailing',
        type: 'object',
        properties: { state: { type: 'string', enum: ['open', 'shut'] } },
      }),
      'new.json': '{"state":"late","labels":{"en":1,"da":2,"de":3}}',
    });
    const updated = (...args: string[]) =>
      properties(
        skevo(['infer', 'new.json', '--update', 'old.schema.json', '--quiet', ...args], { cwd: folder }).out,
      );
    expect(updated()).toMatchObject({
      state: { enum: ['late', 'open', 'shut'] },
      labels: { additionalProperties: expect.anything() },
    });
    expect(updated('--decide', '/state=choice:open', '--decide', '/labels=map:record')).toMatchObject({
      state: { anyOf: [{ enum: ['late', 'open', 'shut'] }, { type: 'string' }] },
      labels: { $ref: '#/$defs/Labels' },
    });
    expect(updated('--decide', '/state=choice:none')['state']).toEqual({ type: 'string' });
  });
});

describe('a contract', () => {
  const contract = (decisions: string) =>
    `contracts:\n  sailing:\n    samples: a.json\n    schema: s.json\n    decisions:\n${decisions}`;

  test('has decisions, which hold for its schema', () => {
    const folder = workspace({
      ...files,
      'skevo.yaml': contract(
        "      /labels: { map: record }\n      '/**/home': { name: Berth }\n      /gone: { map: true }\n",
      ),
    });
    const { code, err } = skevo(['run'], { cwd: folder });
    expect(code).toBe(0);
    expect(err).toContain('skevo.yaml:8: there is no place /gone');
    expect(properties(readFileSync(join(folder, 's.json'), 'utf8'))).toMatchObject({
      labels: { $ref: '#/$defs/Labels' },
      home: { $ref: '#/$defs/Berth' },
    });
  });

  test.for([
    ['      /state: { choice: opne }\n', 'skevo.yaml:6: choice cannot be "opne"'],
    ['      /state: open\n', 'skevo.yaml:6: what is decided about /state must be a map'],
    ['      /seats: { choice: open }\n', 'skevo.yaml:6: /seats cannot have choice open: there is no text'],
  ])('with a decision that cannot be is refused: %s', ([decisions, message]) => {
    const folder = workspace({ ...files, 'skevo.yaml': contract(decisions!) });
    const { code, err } = skevo(['run'], { cwd: folder });
    expect(code).toBe(2);
    expect(err).toContain(message);
    expect(() => readFileSync(join(folder, 's.json'))).toThrow('ENOENT');
  });
});
