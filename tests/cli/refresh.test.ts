import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { addFiles, skevo, workspace } from '../support.js';

const sailing = (i: number) => ({
  id: i,
  state: i % 2 ? 'moored' : 'at sea',
  pier: { name: `N ${i}`, depth: i },
  legs: [{ from: 'N', to: 'S' }],
});
const lines = (values: readonly unknown[]) => `${values.map((value) => JSON.stringify(value)).join('\n')}\n`;

/** What somebody made of an inferred schema. */
const people = {
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: 'Sailing',
  description: 'As the board shows it.',
  'x-owner': 'harbour office',
  type: 'object',
  properties: {
    state: { type: 'string', description: 'Where it is.', maxLength: 40 },
    id: { type: ['integer', 'null'], format: 'int32', minimum: 0, maximum: 6, title: 'Number' },
    berth: { $ref: '#/$defs/Mooring', description: 'Not here any more.' },
    pier: { $ref: '#/$defs/Mooring', description: 'Where it lies.' },
    legs: { type: 'array', items: { $ref: '#/$defs/Hop' }, maxItems: 9 },
  },
  required: ['id'],
  $defs: {
    Mooring: {
      type: 'object',
      description: 'A place to lie.',
      properties: { name: { type: 'string' }, depth: { type: 'number' } },
    },
    Hop: {
      type: 'object',
      properties: { from: { type: 'string' }, to: { type: 'string' } },
      deprecated: true,
    },
  },
};

const folder = () =>
  workspace({
    'sailings.ndjson': lines(Array.from({ length: 8 }, (_, i) => sailing(i))),
    's.json': JSON.stringify(people),
  });

describe('infer --refresh decides anew', () => {
  const where = folder();
  const refresh = (...args: string[]) =>
    skevo(['infer', 'sailings.ndjson', '--refresh', 's.json', ...args], { cwd: where });

  test('and keeps names, titles, descriptions, bounds that are met, and the order of fields', () => {
    const { code, out, err } = refresh();
    expect(code).toBe(0);
    expect(JSON.parse(out)).toEqual({
      $schema: people.$schema,
      title: 'Sailing',
      description: 'As the board shows it.',
      'x-owner': 'harbour office',
      type: 'object',
      properties: {
        state: { type: 'string', description: 'Where it is.', maxLength: 40 },
        // A bound that a payload goes beyond is gone.
        id: { type: 'integer', format: 'double-int', minimum: 0, title: 'Number' },
        pier: { $ref: '#/$defs/Mooring', description: 'Where it lies.' },
        legs: { type: 'array', items: { $ref: '#/$defs/Hop' }, maxItems: 9 },
      },
      required: ['state', 'id', 'pier', 'legs'],
      $defs: {
        Hop: {
          type: 'object',
          properties: { from: { type: 'string' }, to: { type: 'string' } },
          required: ['from', 'to'],
          deprecated: true,
        },
        Mooring: {
          type: 'object',
          description: 'A place to lie.',
          properties: { name: { type: 'string' }, depth: { type: 'integer', format: 'int32' } },
          required: ['name', 'depth'],
        },
      },
    });
    expect(Object.keys((JSON.parse(out) as typeof people).properties)).toEqual([
      'state',
      'id',
      'pier',
      'legs',
    ]);
    expect(err).toMatch(/\/berth +Mooring, may be absent +not known +field removed/);
    expect(err).toMatch(/\/pier\/depth .*integer/);
  });

  test('--out writes it, and again changes nothing, to the byte', () => {
    expect(refresh('--out', 's.json').err).toMatch(/wrote s.json with \d+ changes/);
    const written = readFileSync(join(where, 's.json'), 'utf8');
    expect(refresh('--out', 's.json')).toMatchObject({
      code: 0,
      err: expect.stringContaining('8 payloads say nothing new') as unknown,
    });
    expect(readFileSync(join(where, 's.json'), 'utf8')).toBe(written);
    expect(JSON.parse(refresh('--json').out)).toMatchObject({ changes: [] });
  });

  test('what somebody decided holds', () => {
    const { out } = refresh('--decide', '/state=choice:open', '--decide', '/pier=name:Quay');
    expect(JSON.parse(out)).toMatchObject({
      properties: { state: { anyOf: [{ enum: ['at sea', 'moored'] }, { type: 'string' }] } },
    });
  });

  test('standard input is read once and gone through twice', () => {
    const { code, out } = skevo(['infer', '-', '--refresh', 's.json'], {
      cwd: where,
      input: lines([sailing(1), sailing(2)]),
    });
    expect([code, (JSON.parse(out) as typeof people).properties.state.maxLength]).toEqual([0, 40]);
  });

  test.each<[string[], string]>([
    [['--update', 's.json'], '--update and --refresh are given together'],
    [['--name', 'X'], '--name cannot be given with --refresh'],
  ])('%j is refused', (args, message) => {
    expect(refresh(...args)).toMatchObject({
      code: 2,
      out: '',
      err: expect.stringContaining(message) as unknown,
    });
  });
});

test('arms of a union keep their names by what tells them apart, whatever their order', () => {
  const notice = (i: number) =>
    i % 2
      ? { kind: 'delay', minutes: i, sailing: `SF ${i}` }
      : { kind: 'closure', berth: `N ${i}`, until: i };
  const where = workspace({ 'n.ndjson': lines(Array.from({ length: 12 }, (_, i) => notice(i))) });
  const schema = JSON.parse(skevo(['infer', 'n.ndjson', '--name', 'Notice'], { cwd: where }).out) as {
    oneOf: { $ref: string }[];
    $defs: Record<string, object>;
  };
  const renamed = JSON.stringify({ ...schema, oneOf: schema.oneOf.toReversed() })
    .replaceAll('DelayNotice', 'Late')
    .replaceAll('ClosureNotice', 'Shut');
  addFiles(where, { 's.json': renamed });
  const { out, code } = skevo(['infer', 'n.ndjson', '--refresh', 's.json', '--json'], { cwd: where });
  expect(code).toBe(0);
  expect(JSON.parse(out)).toMatchObject({
    changes: [],
    schema: {
      $defs: {
        Late: { properties: { kind: { const: 'delay' } } },
        Shut: { properties: { kind: { const: 'closure' } } },
      },
    },
  });
});

test('run --refresh does so for every contract, and --locked only says it', () => {
  const where = folder();
  addFiles(where, {
    'skevo.yaml':
      'contracts:\n  sailing:\n    samples: sailings.ndjson\n    schema: s.json\n    languages: []\n',
  });
  const run = (...args: string[]) => skevo(['run', ...args], { cwd: where });
  const before = readFileSync(join(where, 's.json'), 'utf8');
  expect(run('--refresh', '--locked').out).toMatch(/\/berth .*field removed/);
  expect(readFileSync(join(where, 's.json'), 'utf8')).toBe(before);
  expect(run('--refresh').out).toMatch(/\/berth .*field removed/);
  const after = JSON.parse(readFileSync(join(where, 's.json'), 'utf8')) as typeof people;
  expect(after.properties).not.toHaveProperty('berth');
  expect(after.$defs.Mooring.description).toBe('A place to lie.');
  expect(run('--watch', '--refresh')).toMatchObject({
    code: 2,
    err: expect.stringContaining('exclude each other') as unknown,
  });
});
