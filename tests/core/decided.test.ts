import { describe, expect, test } from 'vitest';
import { inferSchema, type InferOptions } from '../../src/core/infer/infer.js';
import { formatMark } from '../../src/core/observe/mark.js';
import { observe } from '../payloads.js';

/**
 * What inference decides and says of payloads on both sides of each of its limits: what is decided, why, how little speaks for it,
 * where it shows first and what decides it otherwise, as text in `decided/`.
 */
type Case = readonly [name: string, payloads: readonly unknown[], options?: Partial<InferOptions>];

const times = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));
const keyed = (keys: readonly string[], value: (i: number) => unknown) =>
  Object.fromEntries(keys.map((key, i) => [key, value(i)]));
/** A number in letters, so that a key of it is no number. */
const letters = (n: number): string =>
  [...String(n).padStart(2, '0')].map((digit) => 'bcdfghjklm'[Number(digit)]).join('');
const named = (stem: string, count: number) => times(count, (i) => `${stem}${letters(i)}`);
/** A field in a payload of its own for each value. */
const each = (values: readonly unknown[], key = 'a') => values.map((value) => ({ [key]: value }));
/** Words in turn. */
const inTurn = (words: readonly string[], count: number) => times(count, (i) => words[i % words.length]!);
const raw = (text: string) => ({ raw: text });

function textOf(payload: unknown): string {
  const { raw: text } = (payload ?? {}) as { raw?: string };
  return text ?? JSON.stringify(payload);
}

function decidedOf([name, payloads, options]: Case, rules: readonly string[]): string {
  const { decisions, notes, schema } = inferSchema(observe(payloads.map(textOf)), {
    name: 'Sailing',
    nameIsGiven: true,
    ...options,
  });
  const lines = decisions
    .filter(({ rule }) => rules.includes(rule))
    .map(({ place, rule, decision, because, doubt, otherwise, first }) => {
      const more = [
        doubt === undefined ? '' : `doubt ${doubt.toFixed(3)}`,
        otherwise === undefined ? '' : `or ${otherwise}`,
        first === undefined ? '' : formatMark(first),
      ].filter(Boolean);
      return `  ${place || 'the payload'}  ${rule}: ${decision}\n    ${because}${more.length > 0 ? ` [${more.join('; ')}]` : ''}`;
    });
  const told = rules.includes('notes') ? notes.map((note) => `  note: ${note}`) : [];
  const title = rules.includes('naming') ? [`  title ${schema.title}`] : [];
  return [name, ...(lines.length > 0 ? lines : ['  nothing']), ...title, ...told, ''].join('\n');
}

const scalar = [
  'presence',
  'nullable',
  'object',
  'list',
  'tuple',
  'string',
  'integer',
  'number',
  'boolean',
  'mixed',
];

const pier = (i: number) => ({ depth: i, lit: true });
/** Sailings with a word that decides which other keys there are. */
const notices = (count: number, kinds: Readonly<Record<string, object>>) =>
  Object.entries(kinds).flatMap(([kind, fields]) => times(count, () => ({ kind, at: 5, ...fields })));

const groups: Readonly<
  Record<string, { readonly rules: readonly string[]; readonly cases: readonly Case[] }>
> = {
  values: {
    rules: [...scalar, 'notes'],
    cases: [
      ['one payload', [{ a: 1 }]],
      ['nothing but null', each([null, null])],
      ['null among others', each([null, 'x', 'y', null])],
      ['a key that some lack', [{ a: 1, b: 1 }, { b: 2 }, { a: 3, b: 3 }]],
      ['true and false', each([true, false, true, null])],
      ['false alone', each([false])],
      ['lists, some empty', each([[1], [], [2, 3], null])],
      ['lists that are all empty', each([[], []])],
      ['objects, some empty', each([{ b: 1 }, {}, { b: 2 }, null])],
      ['objects that are all empty', each([{}, {}])],
      ['integers of 27 bits', each([134217727, 5])],
      ['integers just beyond', each([5, 134217729])],
      ['integers of 53 bits', [{ a: 5 }, raw('{"a":9007199254740991}')]],
      ['integers beyond 53 bits', [{ a: 5 }, raw('{"a":9007199254740993}')]],
      ['integers beyond 64 bits', [{ a: 5 }, raw('{"a":18446744073709551616}')]],
      ['negative integers', [raw('{"a":-9223372036854775808}'), { a: 1 }]],
      ['small ids', each([1, 2], 'pier_id')],
      ['small times of a clock', each([1, 2], 'delay_ms')],
      ['large sizes', each([1, 5000000000], 'bytes')],
      ['numbers', each([1.5, 2, null, 3])],
      ['numbers with an exponent', [raw('{"a":1e3}'), { a: 1 }]],
      ['numbers beside a wide integer', [{ a: 1.5 }, raw('{"a":9007199254740993}')]],
      ['numbers of many digits', [raw('{"a":1.50}'), raw('{"a":0.12345678901234567891}')]],
      ['several kinds', each([1, 'x', true, [1], { b: 1 }])],
      [
        'two lists with positions',
        each([
          [1, 'a'],
          [2, 'b'],
        ]),
      ],
      [
        'three lists with positions',
        each([
          [1, 'a'],
          [2, 'b'],
          [3, 'c'],
        ]),
      ],
      ['three lists with positions and an empty one', each([[1, 'a'], [2, 'b'], [3, 'c'], []])],
      [
        'three lists with positions of one kind',
        each([
          [1, 2],
          [2, 3],
          [3, 4],
        ]),
      ],
      [
        'three lists, a position of two kinds',
        each([
          [1, 'a'],
          [2, 'b'],
          [3, null],
        ]),
      ],
      [
        'three lists of two lengths',
        each([
          [1, 'a'],
          [2, 'b'],
          [3, 'c', 1],
        ]),
      ],
      ['three lists of one element', each([['a'], ['b'], ['c']])],
    ],
  },
  maps: {
    rules: ['map'],
    cases: [
      ['63 scalars of one kind', [keyed(named('berth', 63), (i) => i)]],
      ['64 scalars of one kind', [keyed(named('berth', 64), (i) => i)]],
      ['64 scalars of two kinds', [keyed(named('berth', 64), (i) => (i % 2 ? i : 'x'))]],
      [
        '15 records of two types',
        [keyed(named('berth', 15), (i) => (i % 2 ? { depth: 1, lit: 2, x: 1 } : { depth: 'a', lit: 2 }))],
      ],
      [
        '16 records of two types',
        [keyed(named('berth', 16), (i) => (i % 2 ? { depth: 1, lit: 2, x: 1 } : { depth: 'a', lit: 2 }))],
      ],
      ['4 records of one type', [keyed(named('berth', 4), pier)]],
      ['5 records of one type', [keyed(named('berth', 5), pier)]],
      [
        '8 keys that vary, each in a quarter',
        times(4, (i) => keyed(named('berth', 8).slice(2 * i, 2 * i + 2), (k) => k)),
      ],
      ['7 keys that vary', times(7, (i) => keyed([named('berth', 7)[i]!], (k) => k))],
      [
        '8 keys that vary, each in a third',
        times(3, (i) => keyed([...named('berth', 8).slice(3 * i, 3 * i + 3)], (k) => k)),
      ],
      [
        '9 keys, each in more than a third',
        times(5, (i) =>
          keyed(
            named('berth', 9).filter((_, k) => (k + i) % 5 < 2),
            (k) => k,
          ),
        ),
      ],
      [
        '64 keys that keep coming, in 20',
        times(20, (i) =>
          keyed(
            times(4, (k) => `k${letters(i * 4 + k)}`),
            (k) => (k % 2 ? k : 'x'),
          ),
        ),
      ],
      [
        '76 keys that keep coming, in 19',
        times(19, (i) =>
          keyed(
            times(4, (k) => `k${letters(i * 4 + k)}`),
            (k) => (k % 2 ? k : 'x'),
          ),
        ),
      ],
      [
        '63 keys that keep coming, in 21',
        times(21, (i) =>
          keyed(
            times(3, (k) => `k${letters(i * 3 + k)}`),
            (k) => (k % 2 ? k : 'x'),
          ),
        ),
      ],
      [
        '64 keys in more than a twentieth',
        times(20, (i) =>
          keyed(
            times(8, (k) => `k${letters((i * 4 + k) % 80)}`),
            (k) => (k % 2 ? k : 'x'),
          ),
        ),
      ],
      ['a number', [{ 7: 1, '-1.5': 2 }]],
      ['numbers but for one', [{ 7: 1, x: 2 }]],
      ['months, weeks and quarters', [{ '2031-05': 1, '2031-W07': 2, '2031-Q4': 3 }]],
      ['a month that is none', [{ '2031-13': 'a', '2031-05': 2 }]],
      ['one language tag', [{ 'en-GB': 'x' }]],
      ['two language tags', [{ 'en-GB': 'x', 'zh-Hans': 'y' }]],
      ['two languages over texts', [{ en: 'x', da: 'y' }]],
      ['three languages over texts', [{ en: 'x', da: 'y', de: 'z' }]],
      ['two languages over records of the same keys', [{ en: { a: 1 }, da: { a: 2 } }]],
      ['two languages over records of other keys', [{ en: { a: 1 }, da: { b: 2 } }]],
      ['two countries', [{ GB: 1, DK: 2 }]],
      ['three countries', [{ GB: 1, DK: 2, NO: 3 }]],
      ['one hexadecimal id', [{ '9f86d081': 1 }]],
      ['two hexadecimal ids', [{ '9f86d081': 1, '2c26b46b': 2 }]],
      ['hexadecimal of seven', [{ '9f86d08': 'x', '2c26b46': 2 }]],
      ['ids up to ten', [{ SF1: 1, SF2: 'x', SF10: 3 }]],
      ['ids beyond ten', [{ SF1: 1, SF2: 'x', SF11: 3 }]],
      ['two ids beyond ten', [{ SF1: 1, SF11: 'x' }]],
      ['ids of two stems', [{ SF1: 1, SF2: 'x', SG11: 3 }]],
      ['one host', [{ 'api.saltmere.example': 1 }]],
      ['two hosts', [{ 'api.saltmere.example': 1, 'saltmere.example': 'x' }]],
      ['half of them paths', [{ '/a/b': 1, note: 'x' }]],
      ['more than half of them paths', [{ '/a/b': 1, './c': 2, note: 'x' }]],
      ['one scope', [{ 'read:all': true }]],
      ['two scopes', [{ 'read:all': true, 'write:own': true }]],
      ['two scopes over two kinds', [{ 'read:all': true, 'write:own': 1 }]],
      ['dates', [{ '2031-05-01': 1, '2031-05-02': 'x' }]],
      ['UUIDs', [{ '6f9619ff-8b86-d011-b42d-00c04fc964ff': 1 }]],
      ['addresses of both kinds', [{ '192.0.2.1': 1 }, { '192.0.2.2': 1 }]],
      [
        '16 records, half of the keys in each',
        [keyed(named('berth', 16), (i) => (i % 2 ? { a: 1, b: 1 } : { c: 1, d: 1 }))],
      ],
      [
        '16 records, a third of the keys in each',
        [keyed(named('berth', 16), (i) => [{ a: 1 }, { b: 1 }, { c: 1 }][i % 3])],
      ],
      [
        '16 records, most keys in one alone',
        [keyed(named('berth', 16), (i) => ({ [`x${letters(i)}`]: 1, a: 1 }))],
      ],
      [
        '30 records, common keys among rare ones',
        [keyed(named('berth', 30), (i) => ({ a: 1, b: 2, ...(i === 7 ? { c: 1, d: 1, e: 1, f: 1 } : {}) }))],
      ],
    ],
  },
  'fields-beside-data': {
    rules: ['map'],
    cases: [
      ['one number beside a field', [{ name: 'x', 7: 1 }]],
      ['two numbers beside a field', [{ name: 'x', 7: 1, 8: 2 }]],
      ['three numbers beside fields', [{ name: 'x', no: 1, 7: 1, 8: 2, 9: 3 }]],
      ['two numbers over two kinds', [{ name: 'x', 7: 1, 8: 'y' }]],
      ['numbers over what the field has', [{ total: 3, 7: 1, 8: 2 }]],
      ['language tags', [{ key: 'x', 'en-GB': 1, 'da-DK': 2 }]],
      ['paths', [{ title: 'x', '/a': 1, '/b': 2 }]],
      ['links and dates', [{ title: 'x', 'https://a.example/1': 1, '2031-05-01': 2 }]],
      ['four records under one stem', [{ name: 'x', ...keyed(named('pier-', 4), pier) }]],
      ['five records under one stem', [{ name: 'x', ...keyed(named('pier-', 5), pier) }]],
      ['five texts under one stem', [{ name: 'x', ...keyed(named('pier-', 5), (i) => `t${i}`) }]],
      [
        'five records of one key under one stem',
        [{ name: 'x', ...keyed(named('pier-', 5), (i) => ({ depth: i })) }],
      ],
      ['seven records under a longer stem', [{ name: 'x', ...keyed(named('pier-east-', 7), pier) }]],
    ],
  },
  trees: {
    rules: ['map'],
    cases: (
      [
        [7, 3],
        [8, 3],
        [8, 2],
        [10, 5],
      ] as const
    ).map(([keys, parents]): Case => {
      const names = named('area', keys);
      const per = Math.ceil(keys / parents);
      // Each holds some of the areas, and the next that does.
      const build = (at: number): object => ({
        __depth: at,
        ...Object.fromEntries(
          names
            .slice(at * per, (at + 1) * per)
            .map((name, i) => [name, i === 0 && at + 1 < parents ? build(at + 1) : { __depth: 9 }]),
        ),
      });
      return [`${keys} keys below ${parents} objects`, [build(0)]];
    }),
  },
  choices: {
    rules: ['choice'],
    cases: [
      ['two words, five texts', each(inTurn(['open', 'shut'], 5))],
      ['two words, six texts', each(inTurn(['open', 'shut'], 6))],
      ['two words, 29 texts', each(inTurn(['open', 'shut'], 29))],
      ['two words, 30 texts', each(inTurn(['open', 'shut'], 30))],
      ['three words, one of them once', each([...inTurn(['open', 'shut'], 40), 'late'])],
      ['24 words', each(inTurn(named('w', 24), 72))],
      ['24 words, a text less', each(inTurn(named('w', 24), 71))],
      ['25 words', each(inTurn(named('w', 25), 75))],
      ['words with a digit, 39 texts', each(inTurn(['deck 1', 'upper'], 39))],
      ['words with a digit, 40 texts', each(inTurn(['deck 1', 'upper'], 40))],
      ['words that all have a digit', each(inTurn(['deck1', 'deck2'], 60))],
      ['letters, 39 texts', each(inTurn(['A', 'B'], 39))],
      ['letters, 40 texts', each(inTurn(['A', 'B'], 40))],
      ['names, 39 texts', each(inTurn(['Heron', 'Tern'], 39))],
      ['names, 40 texts', each(inTurn(['Heron', 'Tern'], 40))],
      ['texts of 32 letters', each(inTurn(['a'.repeat(32), 'open'], 12))],
      ['texts of 33 letters', each(inTurn(['a'.repeat(33), 'open'], 12))],
      ['texts of three words', each(inTurn(['open for all', 'shut'], 60))],
      ['texts of four words', each(inTurn(['open for all cars', 'shut'], 60))],
      ['texts that end as a sentence', each(inTurn(['open.', 'shut'], 60))],
      ['words under a key that names', each(inTurn(['open', 'shut'], 60), 'pier_name')],
      ['one word', each(inTurn(['open'], 60))],
      ['one word under a key that tells, 29 texts', each(inTurn(['sailing'], 29), 'kind')],
      ['one word under a key that tells, 30 texts', each(inTurn(['sailing'], 30), 'record_type')],
      [
        'one word under a key that tells, all open',
        each(inTurn(['sailing'], 30), 'kind'),
        { choices: 'open' },
      ],
      ['one sentence under a key that tells', each(inTurn(['see the notice at the pier'], 30), 'kind')],
      ['few words, all closed', each(inTurn(['open', 'shut'], 6)), { choices: 'closed' }],
      ['many words, all open', each(inTurn(['open', 'shut'], 40)), { choices: 'open' }],
      ['many words, none', each(inTurn(['open', 'shut'], 40)), { choices: 'none' }],
      [
        'words of few records, seen often',
        times(40, (i) => ({ id: `s-${i % 4}x${i % 4}`, a: i % 2 ? 'open' : 'shut' })),
      ],
      [
        'words of records enough, seen often',
        times(60, (i) => ({ id: `s-${i % 6}x${i % 6}`, a: i % 2 ? 'open' : 'shut' })),
      ],
      ['words of elements', [{ flags: inTurn(['open', 'shut'], 12) }]],
      ['words of elements of what only wraps', [{ data: inTurn(['open', 'shut'], 12) }]],
    ],
  },
  formats: {
    rules: ['format', 'text'],
    cases: [
      ['a date-time', each(['2031-05-01T08:00:00Z'])],
      ['date-times that would change', each(['2031-05-01T08:00:00.50Z', '2031-05-01T08:00:00Z'])],
      ['dates', each(['2031-05-01', '2031-05-02'])],
      ['dates and a word', each(['2031-05-01', 'soon'])],
      ['times', each(['08:00:00Z'])],
      ['two durations', each(['PT1H', 'PT2H'])],
      ['three durations', each(['PT1H', 'PT2H', 'PT3H'])],
      ['two numbers', each(['12', '13'])],
      ['three numbers', each(['12', '13', '14.5'])],
      ['two short addresses', each(['::1', 'a::b'])],
      ['three short addresses', each(['::1', 'a::b', 'c::d'])],
      ['an address of 12', each(['2001:db8::12'])],
      ['an address of 13', each(['2001:db8::123'])],
      ['an address', each(['192.0.2.1'])],
      ['a mailbox', each(['crew@saltmere.example'])],
      ['links', each(['https://saltmere.example/a', 'https://saltmere.example/b'])],
      ['a template', each(['https://saltmere.example/{id}', 'https://saltmere.example/{no}'])],
      ['UUIDs in capitals', each(['6F9619FF-8B86-D011-B42D-00C04FC964FF'])],
      ['UUIDs', each(['6f9619ff-8b86-d011-b42d-00c04fc964ff'])],
      ['base64, three texts of 24', each(times(3, (i) => `AAECAwQFBgcICQoLDA0ODx${i}=`))],
      [
        'base64, three texts up to 23',
        each(['AAECAwQFBgcICQoLDA0O', 'AAECAwQFBgcICQoLDA0P', 'AAECAwQFBgcICQoLDA0Q']),
      ],
      ['base64, two texts', each(['AAECAwQFBgcICQoLDA0ODxAREhMUFQ==', 'BAECAwQFBgcICQoLDA0ODxAREhMUFQ=='])],
      ['base64, one text of 64', each([Buffer.from(times(48, (i) => i)).toString('base64')])],
      ['base64, one text of 60', each([Buffer.from(times(45, (i) => i)).toString('base64')])],
      [
        'base64 under a key that names',
        each(
          times(3, (i) => Buffer.from(times(48, (k) => i + k)).toString('base64')),
          'token',
        ),
      ],
    ],
  },
  unions: {
    rules: ['union', 'naming', 'choice'],
    cases: [
      [
        'two words, five objects',
        notices(3, { delay: { minutes: 1, cause: 'x' }, pier: { from: 'a', to: 'b' } }).slice(0, 5),
      ],
      [
        'two words, six objects',
        notices(3, { delay: { minutes: 1, cause: 'x' }, pier: { from: 'a', to: 'b' } }),
      ],
      [
        'two words, forty objects',
        notices(20, { delay: { minutes: 1, cause: 'x' }, pier: { from: 'a', to: 'b' } }),
      ],
      [
        'three words, two of the same keys',
        notices(12, { delay: { minutes: 1 }, late: { minutes: 2 }, pier: { from: 'a', to: 'b' } }),
      ],
      [
        'a word that one object has',
        [
          ...notices(12, { delay: { minutes: 1 }, pier: { from: 'a', to: 'b' } }),
          { kind: 'odd', at: 1, z: 1, y: 1 },
        ],
      ],
      [
        'a word that two objects have',
        [
          ...notices(12, { delay: { minutes: 1 }, pier: { from: 'a', to: 'b' } }),
          ...notices(2, { odd: { z: 1, y: 1 } }),
        ],
      ],
      [
        'words whose keys vary',
        times(40, (i) => ({ kind: i % 2 ? 'delay' : 'pier', ...(i % 3 ? { a: 1 } : { b: 1 }) })),
      ],
      [
        'words that change one optional key',
        times(40, (i) => ({ kind: i % 2 ? 'delay' : 'pier', ...(i % 2 ? { a: 1 } : {}) })),
      ],
      [
        'a key that names and tells',
        notices(20, { delay: { minutes: 1 }, pier: { from: 'a' } }).map(({ kind, ...rest }) => ({
          name: kind,
          ...rest,
        })),
      ],
      [
        'choices that stay open',
        notices(20, { delay: { minutes: 1 }, pier: { from: 'a' } }),
        { choices: 'open' },
      ],
      [
        'what a word says of the values of a key',
        times(40, (i) => ({ kind: i % 2 ? 'delay' : 'note', value: i % 2 ? 5 : 'x' })),
      ],
      [
        'what a word says of the records of a key',
        times(40, (i) => ({
          kind: i % 2 ? 'delay' : 'pier',
          data: i % 2 ? { minutes: 1, cause: 'x' } : { from: 'a', to: 'b' },
        })),
      ],
      [
        'keys of two groups apart',
        times(20, (i) => (i % 2 ? { minutes: 1, cause: 'x', by: 1 } : { from: 'a', to: 'b', via: 'c' })),
      ],
      [
        'keys of two groups, a quarter in common',
        times(20, (i) => (i % 2 ? { no: 1, minutes: 1, cause: 'x' } : { no: 2, from: 'a', to: 'b' })),
      ],
      [
        'keys of two groups, exactly a quarter in common',
        times(20, (i) => (i % 2 ? { no: 1, minutes: 1 } : { no: 2, from: 'a', to: 'b' })),
      ],
      [
        'keys of two groups, one of one key',
        times(20, (i) => (i % 2 ? { minutes: 1 } : { from: 'a', to: 'b' })),
      ],
      [
        'keys of two groups, one of one object',
        [...times(20, () => ({ minutes: 1, cause: 'x' })), { from: 'a', to: 'b' }],
      ],
      [
        'keys of two groups, one of two objects',
        [...times(20, () => ({ minutes: 1, cause: 'x' })), ...times(2, () => ({ from: 'a', to: 'b' }))],
      ],
      [
        'three groups in a list',
        [
          {
            stops: times(
              18,
              (i) =>
                [
                  { pier: 1, gate: 2 },
                  { buoy: 1, light: 2 },
                  { lock: 1, level: 2 },
                ][i % 3],
            ),
          },
        ],
      ],
      [
        'objects without a key among them',
        [...times(10, () => ({ minutes: 1, cause: 'x' })), ...times(10, () => ({ from: 'a', to: 'b' })), {}],
      ],
    ],
  },
  sharing: {
    rules: ['sharing', 'mixed', 'naming', 'map'],
    cases: [
      [
        'two records of the very same keys that tell',
        [{ origin: { pier: 'a', gate: 1 }, target: { pier: 'b', gate: 2 } }],
      ],
      [
        'two records of the very same keys that do not',
        [{ origin: { id: 'a', gate: 1 }, target: { id: 'b', gate: 2 } }],
      ],
      [
        'two records of keys that say nothing',
        [{ origin: { id: 'a', name: 'x' }, target: { id: 'b', name: 'y' } }],
      ],
      [
        'three records of keys that say nothing',
        [{ origin: { id: 'a', name: 'x' }, target: { id: 'b', name: 'y' }, via: { id: 'c', name: 'z' } }],
      ],
      [
        'records called alike, half in common',
        [{ a: { pier: { x: 1, y: 2 } }, b: { pier: { x: 1, z: 2 } } }],
      ],
      [
        'records called alike, more in common',
        [{ a: { pier: { x: 1, y: 2, w: 1 } }, b: { pier: { x: 1, y: 2, z: 2 } } }],
      ],
      ['records called differently, two keys', [{ a: { x: 1, y: 2, z: 1 }, b: { x: 1, y: 2 } }]],
      [
        'records called differently, three keys',
        [{ a: { x: 1, y: 2, z: 1, w: 1 }, b: { x: 1, y: 2, z: 1 } }],
      ],
      ['keys of other kinds', [{ a: { x: 1, y: 2, z: 1 }, b: { x: 'a', y: 'b', z: 1 } }]],
      ['keys of null', [{ a: { x: 1, y: 2, z: 1 }, b: { x: null, y: 2, z: 1 } }]],
      [
        'a record inside itself',
        [
          {
            text: 'a',
            at: 5,
            by: 'x',
            reply: { text: 'b', at: 6, by: 'y', reply: { text: 'c', at: 7, by: 'z' } },
          },
        ],
      ],
      [
        'a record inside another of the same keys, whose key does not recur',
        [{ a: { x: 1, y: 2, b: 1 }, c: { x: 1, y: 2, d: { x: 1, y: 2 } } }],
      ],
      [
        'a list in some and one in others',
        [{ leg: [{ from: 'a', to: 'b' }] }, { leg: { from: 'a', to: 'b' } }],
      ],
      [
        'a list in some and another thing in others',
        [{ leg: [{ from: 'a', to: 'b' }] }, { leg: { x: 'a', y: 'b' } }],
      ],
      [
        'seven keys in common',
        [keyed(['a', 'b'], () => keyed(['k', 'l', 'm', 'n', 'o', 'p', 'q'], (i) => i))],
      ],
    ],
  },
  places: {
    rules: [...scalar, 'map', 'sharing', 'naming', 'choice'],
    cases: [
      ['below keys that are data', [{ legs: { '2031-05-01': { pier: { gate: 1 } }, '2031-05-02': {} } }]],
      ['below keys beside fields', [{ name: 'x', 7: { pier: { gate: 1 } }, 8: { pier: { gate: 2 } } }]],
      ['below lists of one length', [{ rows: [[{ a: { b: 1 } }]] }, { rows: [[{ a: { b: 1 } }]] }]],
      [
        'below tuples',
        each([
          [1, { b: { c: 1 } }],
          [2, { b: { c: 1 } }],
          [3, { b: { c: 1 } }],
        ]),
      ],
      [
        'of one or many',
        [{ leg: [{ from: { pier: 1 }, to: 'b' }] }, { leg: { from: { pier: 2 }, to: 'b' } }],
      ],
      [
        'of a type that is shared below data',
        [{ legs: { '2031-05-01': { from: { lon: 1, lat: 2, alt: 1 }, to: { lon: 1, lat: 2, alt: 1 } } } }],
      ],
      ['of fields called as numbers', [{ 0: { a: 1 }, no: 1 }]],
    ],
  },
  names: {
    rules: ['naming'],
    cases: [
      ['elements of a list', [{ sailings: [{ a: 1 }], crew_members: [{ b: 1 }] }]],
      ['a list of lists', [{ rows: [[{ a: 1 }]] }]],
      ['a wrapped record', [{ results: [{ a: 1 }] }], { nameIsGiven: false }],
      ['a wrapped record and another', [{ results: [{ a: 1 }], page: { no: 1 } }], { nameIsGiven: false }],
      ['a wrapped record of a page', [{ results: [{ a: 1 }] }], { nameIsGiven: false, name: 'Sailing page' }],
      ['two wrapped records', [{ results: [{ a: 1 }], items: [{ b: 1 }] }], { nameIsGiven: false }],
      ['a record of the name that was suggested', [{ sailing: { a: 1 } }], { nameIsGiven: false }],
      ['a record of the name that was given', [{ sailing: { a: 1 } }]],
      ['the elements of a list at the top', [[{ a: 1 }]], { name: 'Sailings' }],
      ['the elements of a list at the top, in the singular', [[{ a: 1 }]]],
      ['keys that are data', [{ legs: { '2031-05-01': { a: 1, b: 2 }, '2031-05-02': { a: 1, b: 2 } } }]],
      ['a key with a prefix', [{ 'sf:pier': { a: 1 } }]],
      ['a key without words', [{ '': { a: 1 } }]],
      ['two that want a name, one nearer the top', [{ pier: { a: 1 }, leg: { pier: { b: 1 } } }]],
      ['two that want a name, as deep', [{ leg: { pier: { a: 1 } }, way: { pier: { b: 1 } } }]],
      [
        'two that want a name, one twice as large',
        [{ leg: { pier: { a: 1, c: 1, d: 1, e: 1 } }, way: { pier: { b: 1, x: 1 } } }],
      ],
      [
        'two that want a name, one less than twice as large',
        [{ leg: { pier: { a: 1, c: 1, d: 1 } }, way: { pier: { b: 1, x: 1 } } }],
      ],
      [
        'two that want a name in records of one name',
        [{ a: { leg: { pier: { p: 1 } } }, b: { leg: { pier: { q: 1 } } } }],
      ],
      ['one that is called as its record', [{ leg: { pier: { leg: { q: 1 } } } }]],
      ['words that repeat', [{ pier_gate: { gate: { a: 1 } }, x: { gate: { b: 1 } } }]],
      [
        'a type of two places, one of them more',
        [{ legs: [{ pier: { lon: 1, lat: 2 } }, { pier: { lon: 1, lat: 2 } }], start: { lon: 1, lat: 3 } }],
      ],
      ['a type of places that end alike', [{ home_pier: { lon: 1, lat: 2 }, far_pier: { lon: 1, lat: 3 } }]],
      [
        'a type of places that begin alike',
        [{ pier_home: { lon: 1, lat: 2 }, pier_far: { lon: 1, lat: 3 } }],
      ],
      [
        'a type of three places in one record',
        [{ route: { north: { lon: 1, lat: 2 }, south: { lon: 1, lat: 3 }, mid: { lon: 1, lat: 3 } } }],
      ],
      [
        'a type of two places in one record',
        [{ route: { north: { lon: 1, lat: 2 }, south: { lon: 1, lat: 3 } } }],
      ],
      [
        'a type of two places, one with more values',
        [{ north: { lon: 1, lat: 2 } }, { north: { lon: 1, lat: 2 }, south: { lon: 1, lat: 3 } }],
      ],
      [
        'a type of many values of a tag',
        notices(12, { a: { x: 1 }, b: { x: 2 }, c: { x: 1 }, d: { y: 1, z: 2 } }),
      ],
    ],
  },
};

describe.each(Object.entries(groups))('%s', (name, { rules, cases }) => {
  test('are decided as in their file', async () => {
    const text = cases.map((each) => decidedOf(each, rules)).join('\n');
    await expect(text).toMatchFileSnapshot(`decided/${name}.txt`);
  });
});
