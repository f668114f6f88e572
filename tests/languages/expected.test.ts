import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { readSchema } from '../../src/core/schema/read.js';
import type { UnknownRule } from '../../src/languages/language.js';
import { checkStyle } from '../../src/workbench/check.js';
import { bytes, languagesHere, payloadsOf, patient } from '../support.js';

const here = await languagesHere();
const modelOf = (schema: object) =>
  buildModel(readSchema({ name: 's.json', bytes: bytes(JSON.stringify(schema)), firstLine: 1 }));

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
const deck = { title: 'Sailing', type: 'object', properties: { deck: { enum: [1, 2, 3] } } };
const nothing = { title: 'Sailing', type: 'object', properties: { code: { type: 'string' } } };

/** Faults that are known, and go when their language is written anew: each test says when it is mended. */
const faults: readonly [what: string, language: string, test: () => Promise<void>][] = [
  [
    'a list is no record',
    'rust',
    async () =>
      expect(await outcome('rust', vessel, ['{"vessel":["V1","Heron"]}'])).toEqual([
        expect.stringContaining('refused'),
      ]),
  ],
  [
    'an object is no word',
    'rust',
    async () =>
      expect(await outcome('rust', vessel, ['{"trend":{"rising":null}}'])).toEqual([
        expect.stringContaining('refused'),
      ]),
  ],
  [
    'an error in an alternative has the whole path',
    'rust',
    async () =>
      expect((await outcome('rust', berth, ['{"berth":{"no":"x"}}'])).join()).toMatch(/at \/berth\/no: /),
  ],
  [
    'a key in other letters is another key',
    'csharp',
    async () => expect(await outcome('csharp', nothing, ['{"Code":"A"}'], 'keep')).toEqual([]),
  ],
  ...['go', 'rust', 'java', 'csharp', 'kotlin', 'php', 'ruby', 'scala'].map(
    (language): [string, string, () => Promise<void>] => [
      'an integer may be spelled as 1.0',
      language,
      async () => expect(await outcome(language, seats, ['{"seats":12.0}'])).toEqual([]),
    ],
  ),
  ...here.map(({ name }): [string, string, () => Promise<void>] => [
    'an integer that is not listed is refused',
    name,
    async () =>
      expect(await outcome(name, deck, ['{"deck":4}'])).toEqual([expect.stringContaining('refused')]),
  ]),
];

describe.concurrent('known faults', () => {
  for (const [what, language, body] of faults)
    if (here.some(({ name }) => name === language)) test.fails(`${language}: ${what}`, body);
});

test.each(['python', 'cpp'].filter((name) => here.some((each) => each.name === name)))(
  '%s takes 12.0 and 1e2 for integers',
  async (name) => {
    expect(await outcome(name, seats, ['{"seats":12.0}', '{"seats":1e2}'])).toEqual([
      expect.stringContaining('respelled /seats'),
      expect.stringContaining('respelled /seats'),
    ]);
    expect(await outcome(name, seats, ['{"seats":12.5}'])).toEqual([expect.stringContaining('refused')]);
  },
);

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
