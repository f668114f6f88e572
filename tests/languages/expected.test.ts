import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import type { UnknownRule } from '../../src/languages/language.js';
import { checkStyle } from '../../src/workbench/check.js';
import { bytes, languagesHere, payloadsOf, patient } from '../support.js';

const here = await languagesHere();
const modelOf = (schema: object) =>
  buildModel(
    readSchema({
      name: 's.json',
      bytes: bytes(JSON.stringify(schema).replace(/"#(\d+)"/g, '$1')),
      firstLine: 1,
    }),
  );

/** What a language made of payloads: the kinds of finding, and what decoders said. */
async function outcome(
  name: string,
  schema: object,
  payloads: readonly string[],
  unknown: UnknownRule = 'drop',
): Promise<string[]> {
  const [languageName, styleName] = name.split(':');
  const language = here.find((each) => each.name === languageName)!;
  const result = await checkStyle(
    language,
    language.styles.find((each) => each.name === styleName) ?? language.styles[0],
    modelOf(schema),
    's.json',
    payloadsOf(payloads),
    { strict: false, unknown, limits: patient },
  );
  expect(result.reason).toBeUndefined();
  return result.findings.map(({ kind, pointer, cause }) => `${kind} ${pointer} ${cause}`);
}

const vessel = {
  title: 'Sailing',
  type: 'object',
  properties: {
    vessel: {
      type: 'object',
      properties: { id: { type: 'string' }, name: { type: 'string' } },
      required: ['id', 'name'],
    },
    trend: { enum: ['rising', 'falling'] },
  },
};
const berth = {
  title: 'Sailing',
  type: 'object',
  properties: {
    berth: {
      anyOf: [
        { type: 'string' },
        {
          type: 'object',
          properties: { no: { type: 'integer', format: 'int32' } },
          required: ['no'],
        },
      ],
    },
  },
};
const seats = {
  title: 'Sailing',
  type: 'object',
  properties: { seats: { type: 'integer', format: 'int32' } },
};
const deck = {
  title: 'Sailing',
  type: 'object',
  properties: {
    deck: { enum: [1, 2, 3, null] },
    open: { type: 'array', items: { enum: [0, -1] } },
    version: { const: 5 },
    // Too many for a type, and too large for some.
    gate: { enum: Array.from({ length: 20 }, (_, i) => 100 + i) },
    wide: { enum: ['#9007199254740993', 1] },
  },
  required: ['deck'],
};
const nothing = { title: 'Sailing', type: 'object', properties: { code: { type: 'string' } } };

describe.runIf(here.some(({ name }) => name === 'rust'))('Rust', () => {
  test.each([
    ['a list for a record', '{"vessel":["V1","Heron"]}', 'retyped /vessel '],
    ['an object for a word', '{"trend":{"rising":null}}', 'retyped /trend '],
  ])('%s, which serde takes, is found', async (_, payload, finding) =>
    expect(await outcome('rust', vessel, [payload])).toEqual([expect.stringContaining(finding)]),
  );

  test('an error in an alternative has the whole path', async () =>
    expect((await outcome('rust', berth, ['{"berth":{"no":"x"}}'])).join()).toContain(' berth: no: '));
});

const hereOf = (names: readonly string[]) => names.filter((name) => here.some((each) => each.name === name));

test.each(hereOf(['python', 'typescript', 'csharp', 'php', 'ruby', 'r', 'cpp', 'swift']))(
  '%s takes 12.0 and 1e2 for integers',
  async (name) => {
    expect(await outcome(name, seats, ['{"seats":12.0}', '{"seats":1e2}'])).toEqual([
      expect.stringContaining('respelled /seats'),
      expect.stringContaining('respelled /seats'),
    ]);
    expect(await outcome(name, seats, ['{"seats":12.5}'])).toEqual([expect.stringContaining('refused')]);
  },
);

describe.concurrent('listed integers', () => {
  const listed = '{"deck":3,"open":[0,-1,0],"version":5,"gate":107,"wide":9007199254740993}';
  test.for(here.flatMap(({ name, styles }) => styles.map((style) => `${name}:${style.name}`)))(
    'come back from %s',
    async (name, { expect: own }) => own(await outcome(name, deck, [listed, '{"deck":null}'])).toEqual([]),
  );

  const typed = [
    'python:dataclass',
    'python:pydantic',
    'python:msgspec',
    'typescript:class',
    'typescript:interface',
  ];
  test.for(typed.filter((name) => here.some((each) => name.startsWith(each.name))))(
    'are a type of their own in %s, which refuses all others',
    async (name, { expect: own }) => {
      // Which is 1 for pydantic.
      const flag = name === 'python:pydantic' ? [] : ['{"deck":true}'];
      for (const payload of [...flag, '{"deck":4}', '{"deck":1,"open":[0,1]}', '{"deck":1,"version":6}'])
        own(await outcome(name, deck, [payload]), payload).toEqual([own.stringContaining('refused')]);
    },
  );
});

test.each(hereOf(['go', 'rust', 'java', 'kotlin', 'scala']))(
  '%s leaves 12.0 to its library, which takes it for no integer and says so',
  async (name) =>
    expect(await outcome(name, seats, ['{"seats":12.0}'])).toContainEqual(
      expect.stringMatching(/^refused .*(?:12\.0|'\.'|illegal number)/),
    ),
);

describe.runIf(here.some(({ name }) => name === 'csharp'))('C#', () => {
  test('a key in other letters is another key', async () => {
    expect(await outcome('csharp', nothing, ['{"Code":"A"}'], 'keep')).toEqual([]);
    expect(await outcome('csharp', nothing, ['{"code":"A","Code":"B","CODE":1}'], 'keep')).toEqual([]);
    expect(await outcome('csharp', seats, ['{"seats":1,"SEATS":"x"}'])).toEqual([
      expect.stringContaining('lost /SEATS'),
    ]);
  });
});

test.runIf(here.some(({ name }) => name === 'csharp'))(
  'C# keeps fractions and wide integers that it does not know',
  async () => {
    const payloads = ['{"code":"A","x":1.5,"y":12345678901234567890}'];
    expect(await outcome('csharp', nothing, payloads, 'keep')).toEqual([]);
  },
);

test.runIf(here.some(({ name }) => name === 'go'))(
  'plain structs of Go pass over what the library does',
  async () => {
    const notice = {
      title: 'Notice',
      type: 'object',
      properties: {
        code: { type: 'string' },
        berths: { type: 'array', items: { type: 'string' } },
        trend: { enum: ['rising', 'falling'] },
      },
      required: ['code', 'berths', 'trend'],
    };
    const plain = (text: string) => outcome('go:plain', notice, [text]);
    expect(await plain('{"code":null,"berths":[],"trend":"rising"}')).toContain(
      'filled /code null is replaced by a default',
    );
    expect((await plain('{"berths":[],"trend":"rising"}')).map((each) => each.split(' ')[0])).toEqual([
      'added',
    ]);
    expect((await plain('{"Code":"A","berths":[],"trend":"rising"}'))[0]).toMatch(/^renamed \/Code /);
    expect(await plain('{"code":"A","code":"B","berths":[],"trend":"steady"}')).toEqual([]);
    expect((await plain('{"code":"A","trend":"rising"}')).map((each) => each.split(' ')[0])).toEqual([
      'added',
    ]);
    expect((await plain('{"code":1,"berths":[],"trend":"rising"}'))[0]).toMatch(
      /^refused .*code of type string/,
    );
  },
);
