import { describe, expect, test } from 'vitest';
import { compareSchemas } from '../../src/core/contract/compare.js';
import { inferSchema } from '../../src/core/infer/infer.js';
import { writeJson } from '../../src/core/json/write.js';
import { buildModel } from '../../src/core/model/build.js';
import { causeOf } from '../../src/core/roundtrip/cause.js';
import { compareValues } from '../../src/core/roundtrip/compare.js';
import { instantOf } from '../../src/core/roundtrip/instant.js';
import { alignAnswers, judge, type Answer } from '../../src/core/roundtrip/judge.js';
import { ModelIndex, trace } from '../../src/core/roundtrip/trace.js';
import { Coverage } from '../../src/core/roundtrip/unproven.js';
import { readSchema } from '../../src/core/schema/read.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { Learner } from '../../src/core/update/learn.js';
import { updateSchema } from '../../src/core/update/update.js';
import { bytes, observe, parse, payloadsOf } from '../payloads.js';

const side = (schema: object) => {
  const source = { name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 };
  return { schema: readSchema(source), source };
};
const modelOf = (schema: object) => {
  const { schema: read, source } = side(schema);
  return buildModel(read, source);
};
const returned = (text: string): Answer => ({ kind: 'returned', text: bytes(text) });
const differences = (before: string, after: string) => compareValues(parse(before), parse(after));

describe('answers that a program left out are those of', () => {
  const payloads = payloadsOf(['{"a":1}', '{"a":2}', '{"a":3}', '{"a":4}']);
  const kinds = (...texts: string[]) =>
    alignAnswers(payloads, texts.map(returned)).map((each) =>
      each.kind === 'returned' ? new TextDecoder().decode(each.text) : each.kind,
    );
  test.for<[string, string[], string[]]>([
    ['one in the middle', ['{"a":1}', '{"a":3}', '{"a":4}'], ['{"a":1}', 'silent', '{"a":3}', '{"a":4}']],
    ['two apart', ['{"a":2}', '{"a":4}'], ['silent', '{"a":2}', 'silent', '{"a":4}']],
    ['two together', ['{"a":1}', '{"a":4}'], ['{"a":1}', 'silent', 'silent', '{"a":4}']],
    ['the last', ['{"a":1}', '{"a":2}', '{"a":3}'], ['{"a":1}', '{"a":2}', '{"a":3}', 'silent']],
    [
      'one, the answer before it changed',
      ['{"a":9}', '{"a":3}', '{"a":4}'],
      ['{"a":9}', 'silent', '{"a":3}', '{"a":4}'],
    ],
  ])('%s', ([, given, aligned]) => expect(kinds(...given)).toEqual(aligned));

  test('no more than are missing: another answer that is a later payload is a change', () => {
    const five = payloadsOf([1, 2, 3, 4, 5].map((a) => `{"a":${a}}`));
    const aligned = alignAnswers(
      five,
      [2, 4, 4, 5].map((a) => returned(`{"a":${a}}`)),
    );
    expect(
      aligned.map((each) => (each.kind === 'returned' ? new TextDecoder().decode(each.text) : each.kind)),
    ).toEqual(['silent', '{"a":2}', '{"a":4}', '{"a":4}', '{"a":5}']);
  });

  test('nobody when all are there', () =>
    expect(kinds('{"a":4}', '{"a":3}', '{"a":2}', '{"a":1}')).toEqual([
      '{"a":4}',
      '{"a":3}',
      '{"a":2}',
      '{"a":1}',
    ]));
});

describe('a finding says in which type and field it is', () => {
  const model = modelOf({
    title: 'Sailing',
    type: 'object',
    properties: {
      pair: {
        type: 'array',
        prefixItems: [{ $ref: '#/$defs/Pier' }, { $ref: '#/$defs/Tide' }],
        items: false,
        minItems: 2,
      },
      byDay: { type: 'object', additionalProperties: { $ref: '#/$defs/Tide' } },
      notice: { oneOf: [{ $ref: '#/$defs/Delay' }, { $ref: '#/$defs/Note' }] },
    },
    $defs: {
      Pier: { type: 'object', properties: { a: { type: 'string' } } },
      Tide: { type: 'object', properties: { a: { type: 'number' } } },
      Delay: {
        type: 'object',
        properties: { kind: { const: 'delay' }, a: { type: 'integer' } },
        required: ['kind'],
      },
      Note: {
        type: 'object',
        properties: { kind: { const: 'note' }, a: { type: 'string' } },
        required: ['kind'],
      },
    },
  });
  const index = new ModelIndex(model);
  const payload = parse(
    '{"pair":[{"a":"x"},{"a":1.5}],"byDay":{"mon":{"a":2}},"notice":{"kind":"note","a":"x"}}',
  );
  test.for<[(string | number)[], string, string, string | undefined]>([
    [['pair', 0, 'a'], '/pair/*/a', 'Pier', 'a'],
    [['pair', 1, 'a'], '/pair/*/a', 'Tide', 'a'],
    [['byDay', 'mon', 'a'], '/byDay/*/a', 'Tide', 'a'],
    [['notice', 'a'], '/notice/a', 'Note', 'a'],
    [['notice', 'unknown'], '/notice/unknown', 'Note', undefined],
    [['pair', 1], '/pair/*', 'Sailing', 'pair'],
  ])('%j', ([tokens, place, record, key]) =>
    expect(trace(index, payload, tokens)).toEqual({ place, record, key }),
  );
});

describe('the cause of a number that came back as another is', () => {
  test.for([
    ['4294967297', '1', 'overflows the width'],
    ['2147483648', '-2147483648', 'overflows the width'],
    ['18446744073709551617', '1', 'overflows the width'],
    ['9223372036854775808', '-9223372036854775808', 'overflows the width'],
    ['9007199254740993', '9007199254740992', 'goes through a double, which is exact only up to 2^53'],
    ['0.12345678901234567891', '0.12345678901234568', 'about 16 digits'],
    ['2.5', '2', 'cut to a whole number'],
    ['2', '3', 'another number'],
    ['65537', '1', 'another number'],
  ])('%s and %s: %s', ([before, after, words]) =>
    expect(causeOf(differences(before!, after!)[0]!)).toContain(words),
  );
});

describe('an instant', () => {
  test.for([
    ['2031-12-31T23:59:60Z', '2032-01-01T00:00:00Z', true],
    ['2031-05-01T08:00:00+01:00', '2031-05-01T07:00:00Z', true],
    ['2031-05-01T08:00:00.500Z', '2031-05-01T08:00:00.5Z', true],
    ['2032-02-29T00:00:00Z', '2032-03-01T00:00:00+24:00', true],
    ['2031-05-01T08:00:00Z', '2031-05-01T08:00:01Z', false],
  ] as const)('%s and %s: %s', ([a, b, same]) => expect(instantOf(a) === instantOf(b)).toBe(same));
  test.for([
    '2031-12-31T23:59:61Z',
    '2031-02-29T00:00:00Z',
    '2031-04-31T00:00:00Z',
    '2031-13-01T00:00:00Z',
    '2031-05-01T24:00:00Z',
    '2031-05-01T08:60:00Z',
    '2031-05-01T08:00:00',
    '2031-05-01',
  ])('%s is none', (text) => expect(instantOf(text)).toBeUndefined());
});

describe('a field is taken for renamed', () => {
  const kinds = (before: string, after: string) =>
    differences(before, after)
      .map(({ kind }) => kind)
      .sort();
  test.for<[string, string, string[]]>([
    ['{"a":"x"}', '{"b":"x"}', ['renamed']],
    ['{"a":0}', '{"b":0}', ['renamed']],
    ['{"a":[1]}', '{"b":[1]}', ['renamed']],
    ['{"a":""}', '{"b":""}', ['added', 'lost']],
    ['{"a":[]}', '{"b":[]}', ['added', 'lost']],
    ['{"a":{}}', '{"b":{}}', ['added', 'lost']],
    ['{"a":true}', '{"b":true}', ['added', 'lost']],
    ['{"a":null}', '{"b":null}', ['added', 'lost']],
    ['{"a_b":null}', '{"aB":null}', ['renamed']],
    ['{"a":1}', '{"b":2}', ['added', 'lost']],
  ])('%s and %s: %j', ([before, after, expected]) => expect(kinds(before, after)).toEqual(expected));
});

describe('what no payload showed is said', () => {
  const model = modelOf({
    title: 'Sailing',
    type: 'object',
    properties: {
      gate: { type: ['string', 'null'] },
      id: { type: 'integer' },
      notes: { type: 'array', items: { type: ['string', 'null'] } },
    },
    required: ['gate'],
  });
  const states = (...texts: string[]) => {
    const coverage = new Coverage(model);
    for (const text of texts) coverage.add(parse(text));
    return coverage.unproven(() => false).map(({ pointer, state }) => `${pointer} ${state}`);
  };
  test('of nulls alone', () => {
    expect(states('{"gate":null,"id":1,"notes":[null]}', '{"gate":null}')).toEqual([
      '/gate nullable, never other than null',
    ]);
    expect(states('{"gate":"a","id":1,"notes":["x"]}', '{"gate":"b"}')).toEqual([
      '/gate nullable, never null',
      '/notes/* nullable, never null',
    ]);
    expect(states('{"gate":null,"id":1,"notes":[null]}', '{"gate":"b"}')).toEqual([]);
  });
  test('of fields that are always, or never, there', () => {
    expect(states('{"gate":null,"id":1}', '{"gate":"a","id":2}')).toEqual([
      '/id optional, never absent',
      '/notes never present',
      '/notes/* nullable, never null',
    ]);
  });
});

describe('a change of a schema matters to', () => {
  const record = (x: object) => ({ title: 'Sailing', type: 'object', properties: { x }, required: ['x'] });
  const effects = (old: object, now: object) =>
    compareSchemas(side(record(old)), side(record(now))).map(
      ({ kind, place, was, now: is, readers, writers }) =>
        `${place} ${kind} (${was} -> ${is}): ${readers}, ${writers}`,
    );
  const words = { type: 'string', enum: ['a', 'b'] };
  const open = { anyOf: [words, { type: 'string' }] };
  test('writers, when a choice is closed, and readers, when it is opened', () => {
    expect(effects(open, words)).toEqual([
      '/x choice closed (other words too -> no other words): safe, breaking',
    ]);
    expect(effects(words, open)).toEqual([
      '/x choice opened (no other words -> other words too): breaking, safe',
    ]);
  });
  test('nobody knows whom, when a bound below a map or list changes', () => {
    const bounded = (maximum: number) => ({ type: 'number', maximum });
    expect(
      effects(
        { type: 'object', additionalProperties: bounded(1) },
        { type: 'object', additionalProperties: bounded(2) },
      ),
    ).toEqual(['/x/* constraint changed (maximum 1 -> maximum 2): unknown, unknown']);
    expect(
      effects({ type: 'array', items: bounded(1) }, { type: 'array', items: { type: 'number' } }),
    ).toEqual(['/x/* constraint changed (maximum 1 -> no maximum): unknown, unknown']);
    expect(effects(bounded(1), bounded(1))).toEqual([]);
  });
});

test('an integer of 64 bits beside a number keeps its digits', () => {
  const arms = (format: string | undefined) => ({
    title: 'Sailing',
    type: 'object',
    properties: {
      x: { anyOf: [{ type: 'integer', ...(format === undefined ? {} : { format }) }, { type: 'number' }] },
    },
  });
  const exact = (format: string | undefined) => {
    const { type } = modelOf(arms(format)).records[0]!.fields[0]!;
    return type.kind === 'number' && type.exact;
  };
  expect(exact('int64')).toBe(true);
  expect(exact(undefined)).toBe(true);
  expect(exact('double-int')).toBe(false);
  expect(exact('int32')).toBe(false);
});

describe('objects are a map', () => {
  const kindOf = (texts: readonly string[]) => {
    const { schema } = inferSchema(observe(texts), { name: 'Sailing' });
    return schema.properties === undefined ? 'map' : 'record';
  };
  const letters = (i: number) => `k${String.fromCharCode(97 + Math.floor(i / 26), 97 + (i % 26))}`;
  const object = (count: number, value: string, from = 0) =>
    `{${Array.from({ length: count }, (_, i) => `${JSON.stringify(letters(from + i))}:${value}`).join(',')}}`;
  test.for([
    [63, '1', 'record'],
    [64, '1', 'map'],
    [4, '{"a":1,"b":2}', 'record'],
    [5, '{"a":1,"b":2}', 'map'],
  ] as const)('from %i keys of %s: %s', ([count, value, kind]) =>
    expect(kindOf([object(count, value)])).toBe(kind),
  );

  test.for([
    [15, 'record'],
    [16, 'map'],
  ] as const)('from %i keys of records that differ a little: %s', ([count, kind]) => {
    const values = (i: number) => (i % 2 ? { a: 1, b: 2 } : { a: 1, b: 2, c: 3 });
    const pairs = Array.from({ length: count }, (_, i) => [letters(i), values(i)] as const);
    expect(kindOf([JSON.stringify(Object.fromEntries(pairs))])).toBe(kind);
  });

  test('when keys vary: 8 of them, each in at most 35% of the objects', () => {
    const single = (count: number) => Array.from({ length: count }, (_, i) => object(1, '1', i));
    expect(kindOf(single(7))).toBe('record');
    expect(kindOf(single(8))).toBe('map');
    // Each of 20 keys in 7, and in 8, of 20 objects.
    const turning = (width: number) =>
      Array.from({ length: 20 }, (_, i) =>
        JSON.stringify(
          Object.fromEntries(Array.from({ length: width }, (_each, j) => [letters((i + j) % 20), 1])),
        ),
      );
    expect(kindOf(turning(7))).toBe('map');
    expect(kindOf(turning(8))).toBe('record');
  });
});

describe('a choice that is taught more words', () => {
  const taught = (known: number, fresh: number) => {
    const word = (i: number) => `word-${String(i).padStart(3, '0')}`;
    const { schema, source } = side({
      title: 'Sailing',
      type: 'object',
      properties: { kind: { type: 'string', enum: Array.from({ length: known }, (_, i) => word(i)) } },
    });
    const learner = new Learner(schema, source);
    payloadsOf(Array.from({ length: fresh }, (_, i) => `{"kind":"${word(known + i)}"}`)).forEach((each) =>
      learner.learn(each),
    );
    return writeJson(schemaToJson(updateSchema(learner, 'auto').schema));
  };
  test('has them up to a limit, and is any text beyond', () => {
    expect(taught(3, 1)).toContain('"word-003"');
    expect(taught(1, 48 - 1)).toContain(`"word-${String(48 - 1).padStart(3, '0')}"`);
    expect(taught(1, 48)).not.toContain('"enum"');
    expect(taught(1, 48)).toContain('"type":"string"');
  });
});

test('a finding has the place, the words and both values', () => {
  const [payload] = payloadsOf(['{"a":{"b":[1,null]}}']);
  expect(judge(payload!, returned('{"a":{"b":[1,0]}}'), { strict: false })).toMatchObject([
    {
      kind: 'filled',
      severity: 'loss',
      pointer: '/a/b/1',
      place: '/a/b/*',
      line: 1,
      column: 14,
      cause: 'null is replaced by a default',
    },
  ]);
  expect(judge(payload!, { kind: 'silent' }, { strict: false })).toMatchObject([
    { kind: 'lost', pointer: '' },
  ]);
  expect(judge(payload!, returned('{'), { strict: false })).toMatchObject([
    { kind: 'crashed', cause: 'the answer is not JSON: "{"' },
  ]);
});
