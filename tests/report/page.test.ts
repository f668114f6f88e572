import { describe, expect, test } from 'vitest';
import { json } from '../../src/core/json/value.js';
import { buildModel } from '../../src/core/model/build.js';
import type { Finding } from '../../src/core/roundtrip/finding.js';
import { Coverage, type FieldCoverage } from '../../src/core/roundtrip/unproven.js';
import type { Made } from '../../src/languages/make.js';
import { pageData } from '../../src/report/page/data.js';
import { infer } from '../support.js';

const model = buildModel(infer(['{"id":1,"legs":[{"gate":"A"}]}'], 'Berth').schema);
const finding = (more: Partial<Finding> = {}): Finding => ({
  kind: 'lost',
  severity: 'loss',
  pointer: '/id',
  place: '/id',
  payload: 'a.json',
  line: 5,
  column: 2,
  record: 'Berth',
  key: 'id',
  cause: 'the decoder passes over it',
  ...more,
});
const field = (place: string, record: string, required: boolean, nullable: boolean): FieldCoverage => ({
  record,
  place,
  present: 3,
  absent: 2,
  nulls: 1,
  field: { key: place.split('/').at(-1)!, type: { kind: 'string' }, required, nullable },
});
const fields = [
  field('/id', 'Berth', true, false),
  field('/legs', 'Berth', false, true),
  field('/legs/*/gate', 'Leg', true, true),
];
const lines = Array.from({ length: 9 }, (_, i) => `line ${i + 1}`);

/** What the page is told of these findings of one language. */
function told(findings: readonly Finding[], files: readonly { path: string; text: string }[] = []) {
  const { parts } = pageData([
    {
      name: 'berth',
      schema: 's.json',
      model,
      made: [{ emitted: { files, names: new Map() } } as unknown as Made],
      drift: [
        {
          place: '/pets',
          was: 'not known',
          now: 'boolean',
          because: 'a new key',
          first: { file: 'a.json', line: 1, column: 1 },
        },
      ],
      linesOf: (file) => (file === 'gone.json' ? undefined : lines),
      result: {
        payloads: 6,
        coverage: new Coverage(model),
        fields,
        unproven: [
          { pointer: '/legs', state: 'null' },
          { pointer: '/legs', state: 'absent' },
          { pointer: '/other', state: 'null' },
        ],
        languages: [
          {
            language: 'go',
            style: 'struct',
            state: 'checked',
            returned: 6,
            seconds: 1,
            findings,
            limits: [],
          },
        ],
      },
    },
  ]);
  return parts[0]!;
}

describe('the page is told', () => {
  test('of fields what they may be, what was seen and what was not', () => {
    expect(told([]).fields).toEqual([
      { place: '/id', record: 'Berth', state: 'always there', present: 3, absent: 2, nulls: 1, unproven: [] },
      {
        place: '/legs',
        record: 'Berth',
        state: 'optional, nullable',
        present: 3,
        absent: 2,
        nulls: 1,
        unproven: ['null', 'absent'],
      },
      {
        place: '/legs/*/gate',
        record: 'Leg',
        state: 'always there, nullable',
        present: 3,
        absent: 2,
        nulls: 1,
        unproven: [],
      },
    ]);
    expect(told([])).toMatchObject({
      name: 'berth',
      schema: 's.json',
      payloads: 6,
      unproven: [
        { pointer: '/legs', state: 'null' },
        { pointer: '/legs', state: 'absent' },
        { pointer: '/other', state: 'null' },
      ],
      drift: [{ kind: 'new', place: '/pets', was: 'not known', now: 'boolean', because: 'a new key' }],
    });
  });

  test('of languages how many losses and notes they have', () => {
    const note = finding({ kind: 'respelled', severity: 'note', like: 2 });
    expect(told([finding({ like: 4 }), note]).languages).toEqual([
      { language: 'go', style: 'struct', state: 'checked', reason: '', returned: 6, losses: 5, notes: 3 },
    ]);
  });

  test.each<[string, Partial<Finding>, number]>([
    ['its own', {}, 0],
    ['its own, wherever it was found', { place: '/elsewhere', record: 'Leg', key: 'gate' }, 2],
    ['that which holds its place', { record: undefined, key: undefined, place: '/legs/*/gate/deep/down' }, 2],
    ['that around it', { record: 'Leg', key: 'nobody', place: '/legs/*/other' }, 1],
    ['none', { record: undefined, key: undefined, place: '' }, -1],
    ['none either', { record: undefined, key: undefined, place: '/legs2' }, -1],
  ])('of a finding which field it is of: %s', (_, more, expected) => {
    expect(told([finding(more)]).findings.map((each) => each.field)).toEqual([expected]);
  });

  test('of findings that are alike once, with three of them and their count', () => {
    const alike = [1, 2, 3, 4].map((line) => finding({ payload: `${line}.json`, line }));
    const others = [
      finding({ kind: 'altered' }),
      finding({ cause: 'another' }),
      finding({ place: '/x' }),
      finding({ severity: 'note' }),
    ];
    const { findings } = told([...alike, ...others]);
    expect(
      findings.map(({ kind, severity, place, cause, count }) => [kind, severity, place, cause, count]),
    ).toEqual([
      ['lost', 'loss', '/id', 'the decoder passes over it', 4],
      ['altered', 'loss', '/id', 'the decoder passes over it', 1],
      ['lost', 'loss', '/id', 'another', 1],
      ['lost', 'loss', '/x', 'the decoder passes over it', 1],
      ['lost', 'note', '/id', 'the decoder passes over it', 1],
    ]);
    expect(findings[0]!.examples.map(({ file }) => file)).toEqual(['1.json', '2.json', '3.json']);
  });

  test.each([
    [1, 1, ['line 1', 'line 2', 'line 3']],
    [2, 1, ['line 1', 'line 2', 'line 3', 'line 4']],
    [3, 1, ['line 1', 'line 2', 'line 3', 'line 4', 'line 5']],
    [4, 2, ['line 2', 'line 3', 'line 4', 'line 5', 'line 6']],
    [9, 7, ['line 7', 'line 8', 'line 9']],
  ])('of a place in line %i the lines around it', (line, from, around) => {
    expect(told([finding({ line })]).findings[0]!.examples).toEqual([
      { file: 'a.json', line, column: 2, pointer: '/id', from, lines: around },
    ]);
  });

  test('of values as much as is read, and of a file that is gone no lines', () => {
    const [example] = told([
      finding({
        payload: 'gone.json',
        before: json.string('x'.repeat(238)),
        after: json.string('x'.repeat(239)),
      }),
    ]).findings[0]!.examples;
    expect(example).toEqual({
      file: 'gone.json',
      line: 5,
      column: 2,
      pointer: '/id',
      before: `"${'x'.repeat(238)}"`,
      after: `"${'x'.repeat(238)}…`,
    });
  });

  const source = [
    'package x;',
    '',
    'class Berthing {}',
    'import Berth;',
    'class Berth {',
    '  a: A;',
    '  b: B;',
    '  my_id: C;',
    '  id: Id;',
    '}',
    'id',
  ].join('\n');
  test.each<[string, Partial<Finding>, string, object | undefined]>([
    [
      'with the line of the type',
      {},
      source,
      { path: 'x.go', line: 9, lines: ['class Berth {', '…', '  b: B;', '  my_id: C;', '  id: Id;', '}'] },
    ],
    [
      'close to it',
      { field: 'a' },
      source,
      { path: 'x.go', line: 6, lines: ['class Berth {', '  a: A;', '  b: B;'] },
    ],
    [
      'a few lines below it',
      { field: 'b' },
      source,
      { path: 'x.go', line: 7, lines: ['class Berth {', '  a: A;', '  b: B;', '  my_id: C;'] },
    ],
    [
      'of signs that mean something',
      { field: 'b', type: 'B$' },
      'type B$ = {\n  b: 1\n}',
      { path: 'x.go', line: 2, lines: ['type B$ = {', '  b: 1', '}'] },
    ],
    ['not of a type that nobody declares', { type: 'Nobody' }, source, undefined],
    ['not of a field that is nowhere', { field: 'nothing' }, source, undefined],
    ['not of no field', { field: undefined }, source, undefined],
    ['not of no type', { type: undefined }, source, undefined],
    ['not of what is only named', {}, 'class Berth;\n  id', undefined],
  ])('of generated code what declares the field, %s', (_, more, text, expected) => {
    const own = finding({ type: 'Berth', field: 'id', ...more } as Partial<Finding>);
    expect(
      told(
        [own],
        [
          { path: 'other.go', text: 'nothing' },
          { path: 'x.go', text },
        ],
      ).findings[0]!.code,
    ).toEqual(expected);
  });
});
