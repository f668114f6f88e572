import { describe, expect, test } from 'vitest';
import { inferSchema } from '../../src/core/infer/infer.js';
import { parseSteer, steersOf } from '../../src/core/infer/steering.js';
import { writeJson } from '../../src/core/json/write.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { observe } from '../payloads.js';

/** What is inferred from payloads when a person has decided something. */
function steered(payloads: readonly unknown[], ...decisions: string[]) {
  const {
    schema,
    decisions: made,
    unmet,
  } = inferSchema(observe(payloads.map((each) => JSON.stringify(each))), {
    name: 'Sailing',
    decisions: decisions.map(parseSteer),
  });
  const written = JSON.parse(writeJson(schemaToJson(schema))) as {
    properties: Record<string, unknown>;
    required: string[];
    $defs?: Record<string, object>;
  };
  return { ...written, names: Object.keys(written.$defs ?? {}), made, unmet };
}

const times = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));

describe('a person decides that', () => {
  const labels = { labels: { deck: 1, hold: 2 } };
  test.for<[string, unknown, string, unknown]>([
    ['keys are data', labels, '/labels=map', { type: 'object', additionalProperties: expect.anything() }],
    [
      'keys are fields',
      { labels: { en: 1, da: 2, de: 3 } },
      '/labels=map:record',
      { $ref: '#/$defs/Labels' },
    ],
    ['an object is any', labels, '/labels=map:any', { type: 'object' }],
    ['a word is one of a closed set', { state: 'open' }, '/state=choice:closed', { const: 'open' }],
    ['text has no format', { on: '2031-05-01' }, '/on=format:none', { type: 'string' }],
    ['a number is wider', { seats: 3 }, '/seats=width:int64', { type: 'integer', format: 'int64' }],
    ['an identifier is small', { id: 3 }, '/id=width:int32', { type: 'integer', format: 'int32' }],
    ['a place is nullable', { seats: 3 }, '/seats=nullable', { type: ['integer', 'null'], format: 'int32' }],
  ])('%s', ([, payload, decision, expected]) => {
    const [key] = Object.keys(payload as object);
    const { properties, made } = steered([payload], decision);
    expect(properties[key!]).toEqual(expected);
    // The reason is the line that decided.
    if (!decision.includes('format'))
      expect(made.map(({ because }) => because)).toContain(`--decide ${decision}`);
  });

  test('a field is optional', () => {
    expect(steered([{ seats: 3, no: 1 }], '/seats=optional').required).toEqual(['no']);
  });

  test('repeated words are text, or open, against the evidence', () => {
    const rows = times(60, (i) => ({ state: i % 2 ? 'open' : 'shut' }));
    const words = { type: 'string', enum: ['open', 'shut'] };
    expect(steered(rows).properties['state']).toEqual(words);
    expect(steered(rows, '/state=choice:none').properties['state']).toEqual({ type: 'string' });
    expect(steered(rows, '/state=choice:open').properties['state']).toEqual({
      anyOf: [words, { type: 'string' }],
    });
  });

  test('records have a name, wherever they stand, and are one type then', () => {
    const payload = { by: { a: 1, b: '' }, legs: [{ by: { a: 2, c: true } }] };
    expect(steered([payload]).names).toEqual(['By', 'Leg', 'LegBy']);
    expect(steered([payload], '/**/by=name:CrewMember').names).toEqual(['CrewMember', 'Leg']);
    expect(steered([payload], '/legs=name:Stage').names).toEqual(['By', 'Stage', 'StageBy']);
  });

  test('places are of one type, and others are not though they look it', () => {
    const berth = { long: 3, deep: 4 };
    expect(steered([{ a: { x: 1 }, b: { y: 2 } }], '/b=same:/a').names).toEqual(['A']);
    expect(steered([{ home: berth, away: berth }]).names).toEqual(['Home']);
    expect(steered([{ home: berth, away: berth }], '/home=name:Here', '/away=name:There').names).toEqual([
      'Here',
      'There',
    ]);
  });

  test('a key tells records apart, or none does', () => {
    const notices = times(8, (i) => ({ n: i % 2 ? { kind: 'a', x: 1, y: 2 } : { kind: 'b', p: 1, q: 2 } }));
    expect(steered(notices).names).toEqual(['AN', 'BN', 'N']);
    expect(steered(notices, '/n=union:none').names).toEqual(['N']);
    expect(steered(notices.slice(0, 2)).names).toEqual(['N']);
    expect(steered(notices.slice(0, 2), '/n=union:kind').names).toEqual(['AN', 'BN', 'N']);
  });

  test('the last of several that fit a place holds', () => {
    const { properties } = steered([{ seats: 3 }], '/**/seats=width:int64', '/seats=width:double-int');
    expect(properties['seats']).toMatchObject({ format: 'double-int' });
  });
});

describe('what payloads contradict is refused with the first that does', () => {
  test.for([
    ['/a=map', [{ a: 1 }], 'there is no object, first at 0001.json:1:6'],
    ['/a=width:int32', [{ a: 1 }, { a: 2147483648 }], 'there is 2147483648, first at 0002.json:1:6'],
    [
      '/a=width:int32',
      [{ a: 1 }, { a: 1.5 }],
      'a number with a fraction or an exponent, first at 0002.json:1:6',
    ],
    ['/a=width:int32', [{ a: 'x' }], 'there is no whole number'],
    ['/a=choice:open', [{ a: 1 }], 'there is no text'],
    ['/a=choice:open', [{ a: 'x'.repeat(50) }], 'more than 48 different texts, or such as are no words'],
    ['/a=union:kind', [{ a: { kind: 'x' } }, { a: {} }], 'some objects lack kind, first at 0002.json:1:6'],
    ['/a=union:kind', [{ a: { kind: 'x' } }], 'kind is no text of two to 48 words'],
    ['/a=union:kind', [{ a: { kind: 'x' } }, { a: { kind: 'y' } }], ''],
    ['/a=name:A', [{ a: 1 }], ''],
    ['/a=same:/b', [{ a: {} }], 'there is no such place'],
  ] as const)('%s of %o: %s', ([decision, payloads, message]) => {
    if (message === '') expect(() => steered(payloads, decision)).not.toThrow();
    else expect(() => steered(payloads, decision)).toThrow(message);
  });

  test('int32 takes what it holds, to the last', () => {
    expect(steered([{ a: 2147483647 }], '/a=width:int32').properties['a']).toMatchObject({ format: 'int32' });
    expect(() => steered([{ a: 2147483648 }], '/a=width:int32')).toThrow('there is 2147483648');
  });
});

test('a decision about no place is told, with the nearest that there is', () => {
  expect(steered([{ state: 'x' }], '/stat=choice:open').unmet).toEqual([
    '--decide /stat=choice:open: there is no place /stat; did you mean /state?',
  ]);
  // As it stands in the document, while each record is a payload.
  expect(steered([{ state: 'x' }], '/results/*/state=choice:open').unmet).toEqual([
    '--decide /results/*/state=choice:open: there is no place /results/*/state; did you mean /state?',
  ]);
});

describe('what cannot be decided is refused where it stands:', () => {
  test.for([
    ['/a', 'decides nothing'],
    ['a=map', '"a" is no place'],
    ['=map', '"" is no place'],
    ['/a=colour:red', '"colour" is nothing that can be decided'],
    ['/a=choice:maybe', 'choice cannot be "maybe"'],
    ['/a=map:false', 'map cannot be "false"'],
    ['/a=name:two words', '"two words" is no name of a type'],
    ['/a=union:', 'union cannot be ""'],
  ])('%s', ([text, message]) => expect(() => parseSteer(text!)).toThrow(message));

  test('in a file, with its line', () => {
    expect(() => steersOf({ '/a': { choice: 'x' } }, () => 'd.yaml:3')).toThrow(
      'd.yaml:3: choice cannot be "x"',
    );
    expect(() => steersOf({ '/a': 'open' }, () => 'd.yaml:3')).toThrow(
      'd.yaml:3: what is decided about /a must be a map',
    );
  });
});
