import { describe, expect, test } from 'vitest';
import type { Type, TypeModel, UnionType } from '../../src/core/model/types.js';
import { Containment } from '../../src/languages/kit/containment.js';
import { armNames, expectedOf, ModelNames, typeNames } from '../../src/languages/kit/model-names.js';
import {
  allocate,
  camelCase,
  pascalCasing,
  screamingCase,
  snakeCase,
} from '../../src/languages/kit/names.js';
import { reachWith, type ReachSyntax } from '../../src/languages/kit/reach.js';
import { literal, proseLines, proseOf } from '../../src/languages/kit/text.js';

const names = (keys: string[], casing = snakeCase, reserved: string[] = []) => [
  ...allocate(keys, casing, new Set(reserved)).values(),
];

test.each<[string, readonly string[]]>([
  ['Payload', ['PayloadData', 'PayloadClass']],
  ['Leg', ['Leg', 'LegClass']],
])('types of %s that are called as something reserved get a word more', (name, expected) => {
  const model = {
    name,
    records: [{ name, fields: [{ key: 'class', type: { kind: 'choice', name: 'Class' } }] }],
    choices: [{ name: 'Class', values: [], open: true }],
    unions: [],
  } as unknown as TypeModel;
  expect([...typeNames(model, pascalCasing, new Set(['Payload', 'Class'])).values()]).toEqual(expected);
});

describe('names', () => {
  test.each<[string[], string[]]>([
    [
      ['user_id', 'userId', 'UserID'],
      ['user_id', 'user_id2', 'user_id3'],
    ],
    [
      ['userId', 'user_id'],
      ['user_id2', 'user_id'],
    ],
    [
      ['', '*', '🌫'],
      ['field', 'field2', 'field3'],
    ],
    [
      ['2nd call', '42'],
      ['n2nd_call', 'n42'],
    ],
    [['class'], ['class_']],
    [
      ['class', 'class_'],
      ['class_', 'class2'],
    ],
    [
      ['URLPath', 'größe', 'ключ'],
      ['url_path', 'grosse', 'ключ'],
    ],
  ])('of %j are %j', (keys, expected) => expect(names(keys, snakeCase, ['class'])).toEqual(expected));

  test('that differ in capitals alone are told apart where a language does not see them', () => {
    expect(names(['userId', 'userid'], pascalCasing)).toEqual(['UserId', 'Userid']);
    expect(names(['userId', 'userid'], { ...pascalCasing, caseless: true })).toEqual(['UserId', 'Userid2']);
    expect(names(['list'], { ...pascalCasing, caseless: true }, ['LIST'])).toEqual(['List_']);
  });

  test('that are reserved get the ending that the language can read', () => {
    expect(names(['type'], { ...camelCase, reservedSuffix: 'Value' }, ['type'])).toEqual(['typeValue']);
    expect(names(['max value', 'min-value'], screamingCase)).toEqual(['MAX_VALUE', 'MIN_VALUE']);
  });

  test('of fields are never that of the type around them', () => {
    const model = modelOf({ Leg: [{ kind: 'string' }] }, 'leg');
    const spelling = {
      type: pascalCasing,
      field: pascalCasing,
      reservedTypes: new Set<string>(),
      reservedFields: new Set<string>(),
    };
    expect(new ModelNames(model, spelling).field('Leg', 'leg')).toBe('Leg_');
  });
});

/** Records of one field each, by name. */
function modelOf(records: Record<string, Type[]>, key = 'a', unions: UnionType[] = []): TypeModel {
  const root: Type = { kind: 'record', name: Object.keys(records)[0]! };
  return {
    name: 'Sailing',
    root,
    roots: [{ name: 'Sailing', type: root }],
    records: Object.entries(records).map(([name, types]) => ({
      name,
      fields: types.map((type, i) => ({
        key: i === 0 ? key : `${key}${i}`,
        type,
        required: true,
        nullable: false,
      })),
    })),
    choices: [],
    unions,
  };
}

const record = (name: string): Type => ({ kind: 'record', name });
const union: UnionType = {
  name: 'Notice',
  arms: [
    { type: record('Delay'), test: { kind: 'tag', key: 'kind', values: ['delay', 'late'] } },
    { type: record('Closure'), test: { kind: 'key', key: 'berth' } },
    { type: { kind: 'list', items: { kind: 'string' } }, test: { kind: 'json' } },
    { type: { kind: 'map', values: { kind: 'string' } }, test: { kind: 'json' } },
    { type: { kind: 'boolean' }, test: { kind: 'json' } },
  ],
};

describe('alternatives', () => {
  test('are called by their records or by what they are', () => {
    expect(armNames(union, pascalCasing, new Set(['List']))).toEqual([
      'Delay',
      'Closure',
      'List_',
      'Map',
      'Flag',
    ]);
  });

  test('are described by what tells them apart', () => {
    expect(expectedOf(union)).toBe(
      'an object whose "kind" is "delay" or "late" or an object with "berth" or a list or an object or true or false',
    );
  });
});

test('values that a type holds itself are told from those behind a list or a map', () => {
  const containment = new Containment(
    modelOf(
      {
        Berth: [{ kind: 'nullable', of: record('Berth') }],
        Leg: [{ kind: 'list', items: record('Leg') }],
        Page: [record('Berth'), { kind: 'map', values: record('Leg') }],
        Delay: [{ kind: 'tuple', items: [{ kind: 'string' }, { kind: 'union', name: 'Notice' }] }],
        Closure: [{ kind: 'string' }],
      },
      'a',
      [union],
    ),
  );
  expect(containment.holds('Berth', 'Berth')).toBe(true);
  expect([...containment.heldBy('Leg')]).toEqual([]);
  expect(containment.holds('Page', 'Berth')).toBe(true);
  expect(containment.holds('Page', 'Leg')).toBe(false);
  expect(containment.holds('Notice', 'Delay')).toBe(true);
  expect(containment.holds('Delay', 'Notice')).toBe(true);
  expect(containment.holds('Closure', 'Notice')).toBe(false);
});

describe('texts', () => {
  const escapes = {
    quote: '"' as const,
    short: { '\n': '\\n' },
    unit: (code: number) => `<${code.toString(16)}>`,
  };

  test.each([
    ['a"b\\c\nd', '"a\\"b\\\\c\\nd"'],
    ['Østhavn 🌫', '"Østhavn 🌫"'],
    ['\u202e\u0000\u2028', '"<202e><0><2028>"'],
    ['\ud800x', '"<d800>x"'],
    ['\u{e0001}', '"<db40><dc01>"'],
  ])('%j as a literal', (text, expected) => expect(literal(text, escapes)).toBe(expected));

  test('of comments are wrapped, without invisible characters', () => {
    expect(proseLines('one  two\u202e three\n\nfour', 9)).toEqual(['one two', 'three', '', 'four']);
    expect(proseOf({ title: ' ', description: 'Tide.' })).toBe('Tide.');
    expect(proseOf({})).toBeUndefined();
  });
});

test('a way through types opens a block for each loop, alternative and value that may lack, and closes all', () => {
  const syntax: ReachSyntax = {
    casing: camelCase,
    reserved: new Set(['leg']),
    indent: '  ',
    close: 'end',
    end: ';',
    loop: (of, item, here) => `each ${of} ${item} in ${here}`,
    field: (here, name) => `${here}.${name}`,
    ifThere: (here) => ({ line: `if ${here}`, here: `(${here})` }),
    position: (here, index) => `${here}[${index}]`,
    ifArm: (here, _type, name) => ({ line: `is ${here} ${name ?? 'other'}`, here }),
  };
  const emitted = new Map([['Page', { type: 'Page', fields: new Map([['legs', 'legs']]) }]]);
  const way = reachWith(
    syntax,
    'Page',
    [
      { kind: 'arm', type: record('Page'), test: { kind: 'json' }, union: 'PageOrText', index: 0 },
      { kind: 'field', record: 'Page', key: 'legs', mayLack: true, isBoth: false },
      { kind: 'each', of: 'list', word: 'legs', mayLack: false },
      { kind: 'position', index: 1 },
    ],
    emitted,
  );
  expect(way).toBe(
    [
      'is page Page',
      '  if page.legs',
      '    each list leg_ in (page.legs)',
      '      leg_[1];',
      '    end',
      '  end',
      'end',
    ].join('\n'),
  );
});
