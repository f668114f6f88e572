import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeJson } from '../../src/core/json/write.js';
import { buildModel } from '../../src/core/model/build.js';
import { compareValues } from '../../src/core/roundtrip/compare.js';
import { causeOf } from '../../src/core/roundtrip/cause.js';
import { alignAnswers, judge, type Answer } from '../../src/core/roundtrip/judge.js';
import { lineOf } from '../../src/core/roundtrip/payload.js';
import { ModelIndex } from '../../src/core/roundtrip/trace.js';
import { Coverage } from '../../src/core/roundtrip/unproven.js';
import { readSchema } from '../../src/core/schema/read.js';
import { jsonText } from '../arbitraries.js';
import { bytes, infer, parse, payloadsOf } from '../payloads.js';

const differences = (before: string, after: string) =>
  compareValues(parse(before), parse(after)).map((each) => `${each.kind} ${each.tokens.join('/')}`);
const cause = (before: string, after: string) => causeOf(compareValues(parse(before), parse(after))[0]!);

describe('what differs between a payload and what came back', () => {
  test.each<[string, string, string[]]>([
    ['{"a":1,"b":2}', '{"b":2,"a":1}', []],
    ['{"a":1}', '{}', ['lost a']],
    ['{"a":null}', '{}', ['lost a']],
    ['{}', '{"a":null}', ['added a']],
    ['{"departs_at":1}', '{"departsAt":1}', ['renamed departs_at']],
    ['{"a":"x","b":1}', '{"c":"x","b":1}', ['renamed a']],
    ['{"a":true}', '{"b":true}', ['added b', 'lost a']],
    ['{"departs_at":1}', '{"departsAt":2}', ['renamed departs_at', 'altered departs_at']],
    ['{"a":1}', '{"a":null}', ['emptied a']],
    ['{"a":null}', '{"a":0}', ['filled a']],
    ['{"a":1}', '{"a":"1"}', ['retyped a']],
    ['{"a":[1]}', '{"a":{"0":1}}', ['retyped a']],
    ['{"a":1}', '{"a":2}', ['altered a']],
    ['{"a":"fog"}', '{"a":"fo"}', ['altered a']],
    ['{"a":true}', '{"a":false}', ['altered a']],
    ['{"a":1.0}', '{"a":1}', ['respelled a']],
    ['{"a":"2031-05-01T08:00:00+01:00"}', '{"a":"2031-05-01T07:00:00Z"}', ['altered a']],
    ['{"a":"2031-05-01T08:00:00.500+01:00"}', '{"a":"2031-05-01t08:00:00.5+01:00"}', ['respelled a']],
    ['{"a":"2031-05-01T07:00:00+00:00"}', '{"a":"2031-05-01T07:00:00Z"}', ['respelled a']],
    ['{"a":"2031-05-01T08:00:00+01:00"}', '{"a":"2031-05-01T08:00:00Z"}', ['altered a']],
    ['[1,2,3]', '[3,1,2]', ['shuffled ']],
    ['[1,2,3]', '[1,3]', ['lost 1']],
    ['[1,3]', '[1,2,3]', ['added 1']],
    ['[1,2,3]', '[1,2,4]', ['altered 2']],
    ['[{"a":1},{"a":2},{"a":3}]', '[{"a":1},{"a":4}]', ['altered 1/a', 'lost 2']],
    ['[[1,2],[3]]', '[[2,1],[3]]', ['shuffled 0']],
    ['{"a":{"b":[{"c":1}]}}', '{"a":{"b":[{}]}}', ['lost a/b/0/c']],
    ['{"__proto__":1,"constructor":2}', '{"constructor":2}', ['lost __proto__']],
    ['9007199254740993', '9007199254740992', ['altered ']],
  ])('%s and %s', (before, after, expected) => expect(differences(before, after)).toEqual(expected));

  test('is nothing for a value and itself', () => {
    fc.assert(
      fc.property(jsonText, (text) => void expect(differences(text, writeJson(parse(text), 2))).toEqual([])),
    );
  });

  test('is something for two values that are written differently', () => {
    fc.assert(
      fc.property(jsonText, jsonText, (a, b) => {
        const keysSorted = (text: string) =>
          JSON.stringify(JSON.parse(text), (_, value: unknown) =>
            typeof value === 'object' && value !== null && !Array.isArray(value)
              ? Object.fromEntries(Object.entries(value).sort(([x], [y]) => (x < y ? -1 : 1)))
              : value,
          );
        if (keysSorted(a) !== keysSorted(b)) expect(differences(a, b)).not.toEqual([]);
      }),
    );
  });

  test('is found at any depth and length', () => {
    const deep = (end: string) => '[{"a":'.repeat(20_000) + end + '}]'.repeat(20_000);
    expect(
      compareValues(parse(deep('1')), parse(deep('2'))).map(({ kind, tokens }) => [kind, tokens.length]),
    ).toEqual([['altered', 40_000]]);
    const long = Array.from({ length: 20_000 }, (_, i) => i);
    expect(differences(JSON.stringify(long), JSON.stringify(long.filter((i) => i !== 777)))).toEqual([
      'lost 777',
    ]);
  });
});

describe('the likely cause', () => {
  test.each([
    ['9007199254740993', '9007199254740992', /goes through a double, which is exact only up to 2\^53/],
    ['3.14159265358979323846', '3.141592653589793', /keeps about 16 digits/],
    ['2.5', '2', /cut to a whole number/],
    ['4294967297', '1', /overflows/],
    ['"Saltmere Quay"', '"Saltmere"', /cut short/],
    ['" N "', '"N"', /trimmed/],
    ['"N"', '"n"', /case/],
    ['"Østhavn"', '"Ã˜sthavn"', /encoding/],
    ['{"a":null}', '{}', /null is turned into absent/],
    ['{}', '{"a":null}', /absent is turned into null/],
    ['{}', '{"a":0}', /default/],
    ['{"a_b":1}', '{"aB":1}', /"aB": the mapping to the key is missing/],
  ])('of %s and then %s', (before, after, pattern) => expect(cause(before, after)).toMatch(pattern));
});

describe('a finding', () => {
  test('carries the place, the file, both values, and the generated type and field', () => {
    const texts = ['{\n  "legs": [\n    { "pier": "N", "departs_at": "8" }\n  ]\n}'];
    const [payload] = payloadsOf(texts);
    const index = new ModelIndex(buildModel(infer(texts).schema));
    const names = new Map([['Leg', { type: 'Leg', fields: new Map([['departs_at', 'departsAt']]) }]]);
    const [finding, ...others] = judge(
      payload!,
      { kind: 'returned', text: bytes('{"legs":[{"pier":"N","departs_at":"9"}]}') },
      { strict: false, index, names },
    );
    expect(others).toEqual([]);
    expect(finding).toMatchObject({
      kind: 'altered',
      severity: 'loss',
      pointer: '/legs/0/departs_at',
      place: '/legs/*/departs_at',
      payload: '0001.json',
      line: 3,
      column: 34,
      type: 'Leg',
      field: 'departsAt',
    });
    expect([writeJson(finding!.before!), writeJson(finding!.after!)]).toEqual(['"8"', '"9"']);
  });
});

describe('answers', () => {
  const returned = (text: string): Answer => ({ kind: 'returned', text: bytes(text) });

  test('that leave out payloads are given to those they belong to', () => {
    const payloads = payloadsOf(['1', '2', '3', '4']);
    const kinds = (...texts: string[]) => alignAnswers(payloads, texts.map(returned)).map(({ kind }) => kind);
    expect(kinds('1', '2', '3', '4')).toEqual(['returned', 'returned', 'returned', 'returned']);
    expect(kinds('1', '2', '3')).toEqual(['returned', 'returned', 'returned', 'silent']);
    expect(kinds('1', '4')).toEqual(['returned', 'silent', 'silent', 'returned']);
    expect(kinds('1', '9', '4')).toEqual(['returned', 'returned', 'silent', 'returned']);
    expect(kinds()).toEqual(['silent', 'silent', 'silent', 'silent']);
  });
});

test('a payload goes out on one line, whatever breaks lines in it', () => {
  const [payload] = payloadsOf([' {\r\n\t"a" : "x\u2028y\u2029\u2027" ,\n "b": 1.0 } ']);
  const line = new TextDecoder().decode(lineOf(payload!));
  expect(line).toBe('{  \t"a" : "x\\u2028y\\u2029\u2027" ,  "b": 1.0 }');
  expect(compareValues(payload!.root, parse(line))).toEqual([]);
});

describe('what is unproven', () => {
  const unproven = (schema: object, ...payloads: string[]) => {
    const coverage = new Coverage(
      buildModel(readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 })),
    );
    for (const payload of payloads) coverage.add(parse(payload));
    return coverage
      .unproven((_, key) => key === 'departs_at')
      .map(({ pointer, state }) => `${pointer} ${state}`);
  };

  test('is every state that the types allow and no payload had', () => {
    const schema = {
      type: 'object',
      properties: {
        gate: { type: ['string', 'null'] },
        departs_at: { type: 'string' },
        kind: { enum: ['foot', 'vehicle'] },
        berth: { anyOf: [{ type: 'string' }, { type: 'integer' }] },
        legs: { type: 'array', items: { type: ['integer', 'null'] } },
      },
      required: ['legs'],
    };
    expect(unproven(schema, '{"legs":[1],"gate":"A","kind":"foot","berth":1}')).toEqual([
      '/gate optional, never absent',
      '/gate nullable, never null',
      '/departs_at renamed, never present',
      '/kind optional, never absent',
      '/kind choice "vehicle", never used',
      '/berth optional, never absent',
      '/berth string of a union, never used',
      '/legs/* nullable, never null',
    ]);
    expect(
      unproven(
        schema,
        '{"legs":[1,null],"gate":"A","kind":"foot","berth":1,"departs_at":"8"}',
        '{"legs":[],"gate":null,"kind":"vehicle","berth":"N"}',
        '{"legs":[]}',
      ),
    ).toEqual([]);
  });
});
