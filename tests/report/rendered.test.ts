import pc from 'picocolors';
import { describe, expect, test } from 'vitest';
import type { ContractChange } from '../../src/core/contract/compare.js';
import type { Decision } from '../../src/core/infer/infer.js';
import type { OutlineRow } from '../../src/core/infer/outline.js';
import { json } from '../../src/core/json/value.js';
import { writeJson } from '../../src/core/json/write.js';
import { buildModel } from '../../src/core/model/build.js';
import type { ProvenDocuments } from '../../src/core/roundtrip/document.js';
import type { Finding } from '../../src/core/roundtrip/finding.js';
import { Coverage } from '../../src/core/roundtrip/unproven.js';
import type { SchemaChange } from '../../src/core/update/update.js';
import { parseProject } from '../../src/project/file.js';
import type { Outcome } from '../../src/project/run.js';
import { checkToJson } from '../../src/report/check-json.js';
import { renderCheck } from '../../src/report/check.js';
import { renderChanges } from '../../src/report/changes.js';
import { renderComparison } from '../../src/report/compare.js';
import { documentsToJson, renderDocuments } from '../../src/report/documents.js';
import { renderDrift } from '../../src/report/drift.js';
import { renderDecisions, renderDoubts } from '../../src/report/explain.js';
import { junitReport } from '../../src/report/files/junit.js';
import { markdownReport } from '../../src/report/files/markdown.js';
import type { ReportPart } from '../../src/report/files/report.js';
import { sarifReport } from '../../src/report/files/sarif.js';
import { writerOf } from '../../src/report/files/write.js';
import { renderOutline } from '../../src/report/outline.js';
import { renderRun } from '../../src/report/run.js';
import type { Terminal } from '../../src/report/terminal.js';
import { failureToJson, renderFailure, type PlacedFailure } from '../../src/report/validate.js';
import type { CheckResult } from '../../src/workbench/check-all.js';
import type { LanguageResult } from '../../src/workbench/check.js';
import { bytes, infer, parse } from '../support.js';

/** A terminal with colours, of so many columns. */
function terminal(width: number): Terminal {
  const { bold, dim, green, red, yellow, cyan } = pc.createColors(true);
  return {
    width,
    isNarrow: width < 200,
    isColoured: true,
    colours: { strong: bold, faint: dim, good: green, bad: red, warn: yellow, name: cyan },
  };
}

const signs: Readonly<Record<string, string>> = {
  1: 'strong',
  2: 'faint',
  31: 'bad',
  32: 'good',
  33: 'warn',
  36: 'name',
};

/** Text with its colours as words. */
function told(text: string): string {
  return text.replace(/\x1b\[(\d+)m/g, (_, code: string) =>
    signs[code] === undefined ? '›' : `‹${signs[code]}:`,
  );
}

/** What is rendered is as in the file of that name. */
async function isAsIn(file: string, text: string): Promise<void> {
  await expect(told(text)).toMatchFileSnapshot(`rendered/${file}.txt`);
}

const model = buildModel(infer(['{"id":1,"gate":"A"}', '{"id":2}'], 'Berth').schema);
const loss = (more: Partial<Finding>): Finding => ({
  kind: 'lost',
  severity: 'loss',
  pointer: '/legs/0/pier',
  place: '/legs/*/pier',
  payload: 'sailings/1.json',
  line: 3,
  column: 14,
  before: json.string('N1'),
  record: 'Leg',
  key: 'pier',
  type: 'Leg',
  field: 'pier',
  cause: 'the decoder passes over it',
  ...more,
});
const note = (cause: string, more: Partial<Finding> = {}): Finding =>
  loss({ kind: 'respelled', severity: 'note', before: parse('1.50'), after: parse('1.5'), cause, ...more });
const result = (language: string, style: string, more: Partial<LanguageResult> = {}): LanguageResult => ({
  language,
  style,
  state: 'checked',
  returned: 12,
  seconds: 1.26,
  findings: [],
  limits: [],
  ...more,
});

const long = 'a cause that goes on and on, '.repeat(12);
const languages: readonly LanguageResult[] = [
  result('go', 'struct'),
  result('rust', 'serde', {
    limits: [{ way: 'from_value', says: 'digits beyond a double are bent', count: 1, first: loss({}) }],
  }),
  result('kotlin', 'data', {
    limits: [
      { way: 'decodeFromStream', says: long, count: 20, first: loss({}) },
      { way: 'plain', says: 'digits', count: 2, first: loss({}) },
    ],
    findings: [
      note('a number in another spelling'),
      note('a text in another spelling', { before: undefined, after: undefined }),
    ],
  }),
  result('java', 'record', {
    findings: [note('a number in another spelling', { line: 9 }), note('a number in another spelling')],
  }),
  result('swift', 'codable', { findings: [note('a text in another spelling', { like: 4 })] }),
  result('program', 'node careless.mjs --and a long line of arguments', {
    returned: 11,
    seconds: 0.04,
    findings: [
      loss({}),
      loss({ payload: 'sailings/2.json', line: 1 }),
      loss({ payload: 'sailings/3.json', line: 2, like: 7 }),
      loss({
        kind: 'renamed',
        pointer: '/departs_at',
        place: '/departs_at',
        otherKey: 'departsAt',
        field: undefined,
        cause: 'it comes back as departsAt',
      } as Partial<Finding>),
      loss({
        kind: 'altered',
        place: '/fare',
        pointer: '/fare',
        before: parse('12345678901234567890.5'),
        after: parse('12345678901234567000'),
        cause: long,
        way: 'a plain call',
      }),
      loss({
        kind: 'crashed',
        place: '',
        pointer: '',
        before: undefined,
        after: undefined,
        type: undefined,
        cause: 'it ended with\nexit code 7',
      } as Partial<Finding>),
      loss({
        kind: 'added',
        place: '/gate',
        pointer: '/gate',
        before: undefined,
        after: json.null(),
      } as Partial<Finding>),
    ],
  }),
  result('scala', 'case', {
    state: 'not-run',
    reason: 'scalac is not here\nget it with: coursier',
    returned: 0,
    seconds: 0,
  }),
  result('cpp', 'struct', {
    state: 'failed',
    reason: 'g++ says:\n  x.cpp:1: error',
    returned: 0,
    seconds: 3,
  }),
  result('php', 'class', { state: 'failed', returned: 0 }),
];
const checked = (some: readonly LanguageResult[], more: Partial<CheckResult> = {}): CheckResult => ({
  payloads: 12,
  languages: some,
  unproven: [],
  fields: [],
  coverage: new Coverage(model),
  ...more,
});
const unproven = Array.from({ length: 13 }, (_, i) => ({
  pointer: i === 0 ? '' : `/legs/*/gate${i}`,
  state: 'absent',
}));
const whole = checked(languages, { unproven });

const mark = (line: number) => ({ file: 'sailings/1.json', line, column: 5 });
const changes: readonly SchemaChange[] = [
  { place: '/pets', was: 'not known', now: 'boolean', because: 'a new key', first: mark(3) },
  { place: '/id', was: 'required', now: 'optional', because: 'it is absent', first: mark(4) },
  { place: '', was: 'Sailing', now: 'Sailing or null', because: 'a value of another type', first: mark(1) },
  { place: '/old', was: 'required', now: 'never there', because: 'no payload has it', first: mark(5) },
];
const documents: ProvenDocuments = {
  documents: 3,
  losses: [
    { place: { file: 'fares.csv', line: 4, column: 2 }, message: '"a" is "b" when it is written again' },
  ],
} as ProvenDocuments;

describe('a check', () => {
  test.each([60, 100, 200])('on %i columns', (width) =>
    isAsIn(`check-${width}`, renderCheck(whole, terminal(width))),
  );

  test('that is clean', () => isAsIn('check-clean', renderCheck(checked([languages[0]!]), terminal(100))));

  test('with as much unproven as is shown', () => {
    const text = renderCheck(checked([], { unproven: unproven.slice(0, 12) }), terminal(100));
    expect(text).toContain('/legs/*/gate11');
    expect(text).not.toContain('more');
    expect(renderCheck(whole, terminal(100))).toContain('and 1 more; --json lists them all');
  });

  test('as JSON', async () => {
    await isAsIn('check-json', writeJson(checkToJson(whole, changes, documents), 2));
    await isAsIn('check-json-clean', writeJson(checkToJson(checked([languages[0]!])), 2));
  });
});

describe('what the payloads say and the schema does not', () => {
  test('place by place', async () => {
    await isAsIn('drift', renderDrift(changes, "skevo infer 'a b.json' --update s.json", terminal(100)));
    await isAsIn('drift-given', renderDrift(changes.slice(0, 1), undefined, terminal(100)));
    await isAsIn('drift-40', renderDrift(changes, undefined, terminal(40)));
  });

  test.each([60, 120])('as a table of %i columns', (width) =>
    isAsIn(`changes-${width}`, renderChanges(changes, terminal(width))),
  );
});

describe('a comparison', () => {
  const change = (more: Partial<ContractChange>): ContractChange => ({
    kind: 'field added',
    place: '/pets_allowed',
    was: 'nothing',
    now: 'boolean',
    readers: 'safe',
    writers: 'safe',
    types: ['Sailing'],
    ...more,
  });
  const some = [
    change({ place: '' }),
    change({ perhaps: 'pets', writers: 'unknown' }),
    change({ kind: 'field removed', perhaps: 'pets_allowed', place: '/pets', readers: 'breaking' }),
    change({
      kind: 'type changed',
      was: 'integer (int32)',
      now: 'integer or a text that goes on',
      readers: 'breaking',
      writers: 'breaking',
      types: ['Leg', 'Sailing'],
    }),
  ];
  test('of schemas that differ', async () => {
    await isAsIn('comparison-200', renderComparison(some, terminal(200)));
    await isAsIn('comparison-80', renderComparison(some, terminal(80)));
    await isAsIn('comparison-one', renderComparison(some.slice(0, 1), terminal(200)));
  });

  test('of schemas that do not', () => isAsIn('comparison-none', renderComparison([], terminal(80))));
});

describe('documents that are written again', () => {
  test('come back or not', async () => {
    await isAsIn('documents', renderDocuments(documents, terminal(80)));
    await isAsIn('documents-clean', renderDocuments({ ...documents, losses: [] }, terminal(80)));
    await isAsIn('documents-one', renderDocuments({ documents: 1, losses: [] }, terminal(80)));
    await isAsIn('documents-json', writeJson(documentsToJson(documents), 2));
  });
});

describe('decisions', () => {
  const decision = (place: string, rule: string, more: Partial<Decision> = {}): Decision => ({
    place,
    rule,
    decision: rule,
    because: 'of 12 values',
    ...more,
  });
  const some = [
    decision('', 'naming', { decision: 'Sailing' }),
    decision('/id', 'width', { first: mark(2) }),
    decision('/gate', 'presence', { decision: 'optional: absent in 1 of 2', otherwise: 'optional:true' }),
    decision('/name', 'presence', { decision: 'required' }),
    decision('/state', 'choice', { doubt: 0.4, first: mark(8), otherwise: "choice:o'pen" }),
    decision('/labels', 'map', {
      doubt: 0.9,
      because: 'five keys that look like data, and more that is said of them',
      otherwise: 'map:record',
    }),
    decision('/note', 'nullable', { decision: 'may be null' }),
    ...[0.1, 0.2, 0.3, 0.5].map((doubt) => decision(`/d${doubt}`, 'format', { doubt })),
  ];
  test.each([70, 200])('that may be wrong, on %i columns', (width) =>
    isAsIn(`decisions-${width}`, renderDecisions(some, terminal(width))),
  );
  test('all', () => isAsIn('decisions-all', renderDecisions(some, terminal(200), true)));
  test('that go without saying', () => isAsIn('decisions-silent', renderDecisions([some[1]!], terminal(40))));
  test('that are the most doubtful', () => isAsIn('doubts', renderDoubts(some, terminal(80)).join('\n')));
});

describe('an outline', () => {
  const row = (place: string, more: Partial<OutlineRow> = {}): OutlineRow => ({
    place,
    repeated: 0,
    types: ['string'],
    count: 12,
    of: 12,
    nulls: 0,
    example: '"N1"',
    records: false,
    ...more,
  });
  const rows = [
    row('', { types: ['object'], example: '' }),
    row('/results', { types: ['list'], example: '12 elements' }),
    row('/results/*', { repeated: 8, types: ['object', 'string'], example: '', records: true }),
    row('/results/*/gate', {
      repeated: 10,
      count: 3,
      nulls: 2,
      example: '"a long text that goes on and is cut somewhere"',
    }),
    row('/results/*/\u202eturn', { repeated: 10, example: '"\u202e"' }),
  ];
  test.each([20, 40, 50, 71, 72, 100])('on %i columns', (width) =>
    isAsIn(`outline-${width}`, renderOutline(rows, terminal(width))),
  );
});

describe('a failure of validation', () => {
  const failure: PlacedFailure = {
    payload: 'a.json',
    line: 2,
    column: 7,
    pointer: '/legs/0',
    offset: 10,
    expected: 'Leg or Bus',
    found: '7',
    keyword: 'anyOf',
    schemaPointer: '/properties/legs/items/anyOf',
    nearest: {
      alternative: 'Leg',
      failures: [
        {
          pointer: '',
          offset: 11,
          expected: 'an object',
          found: '7',
          keyword: 'type',
          schemaPointer: '/$defs/Leg/type',
          nearest: {
            alternative: 'Inner',
            failures: [
              {
                pointer: '/x',
                offset: 12,
                expected: 'text',
                found: '1',
                keyword: 'type',
                schemaPointer: '/x',
              },
            ],
          },
        },
      ],
    },
  };
  test('with what comes closest', async () => {
    await isAsIn('failure', renderFailure(failure, terminal(80)));
    const { nearest: _, ...plain } = failure;
    await isAsIn('failure-plain', renderFailure({ ...plain, pointer: '' }, terminal(80)));
    await isAsIn('failure-json', writeJson(failureToJson(failure), 2));
  });
});

const { contracts } = parseProject({
  name: 'skevo.yaml',
  bytes: bytes(
    'contracts:\n  berth: { samples: x, schema: s.json, languages: [{ language: go, out: go }] }\n  tide: { samples: x, schema: s.json }\n',
  ),
  firstLine: 1,
});
const outcome = (name: string, more: Partial<Outcome> = {}): Outcome => ({
  name,
  contract: contracts.get('berth')!,
  changes: [],
  isGiven: false,
  files: [],
  stale: [],
  model,
  made: [],
  seen: [],
  ...more,
});
const clean = checked([languages[0]!, languages[0]!, languages[6]!], { unproven: unproven.slice(0, 2) });

describe('a run', () => {
  const files = (count: number) => Array.from({ length: count }, (_, i) => `out/f${i}.ts`);
  const outcomes = [
    outcome('nothing', { check: clean, documents: { ...documents, losses: [] } }),
    outcome('learned', { changes, files: files(8), check: clean, documents: { ...documents, losses: [] } }),
    outcome('many', { files: files(9), check: checked([languages[0]!], { payloads: 1 }) }),
    outcome('first', {
      changes: undefined,
      files: files(1),
      check: checked([]),
      contract: contracts.get('tide')!,
    }),
    outcome('given', { isGiven: true, changes: changes.slice(0, 1), check: clean }),
    outcome('stale', { stale: ['out/old.ts', 'out/older.ts'], check: clean }),
    outcome('failed', { check: checked([languages[7]!]) }),
    outcome('lost', { check: checked([languages[5]!, languages[6]!]) }),
    outcome("it's", { documents, files: files(1) }),
    outcome('-x', { files: files(1) }),
  ];
  test('that writes', () => isAsIn('run', renderRun(outcomes, false, terminal(100))));
  test('that may not', () => isAsIn('run-locked', renderRun(outcomes, true, terminal(100))));
  test('in which nothing happened', () =>
    expect(renderRun(outcomes.slice(0, 1), true, terminal(100))).toBe(''));
});

describe('reports in files', () => {
  const part = (name: string, more: Partial<ReportPart> = {}): ReportPart => ({
    name,
    schema: 's.json',
    model,
    made: [],
    result: whole,
    drift: [],
    linesOf: () => undefined,
    ...more,
  });
  const many = Array.from({ length: 21 }, (_, i) => loss({ place: `/p${i}`, pointer: `/p${i}` }));
  const parts = [
    part('berth', { drift: changes }),
    part('pending', {
      result: checked([]),
      pending: Array.from({ length: 21 }, (_, i) => `out/a b${i}#?.ts`),
    }),
    part('failed', { result: checked([languages[7]!]) }),
    part('one', {
      result: checked([result('go', 'struct', { findings: [loss({ place: '', payload: 'a b#.json' })] })]),
    }),
    part('many', {
      result: checked([
        result('go', 'struct', { findings: many }),
        result('r', 'record', { findings: many.slice(0, 1) }),
      ]),
    }),
    part('clean', { result: checked([languages[0]!], { payloads: 1 }) }),
    part('signs', {
      result: checked([
        result('go', 'struct', {
          findings: [loss({ place: '/a|`b', cause: 'x <b> @all #1 www.x http://y [z](q) *w*' })],
        }),
      ]),
    }),
    part('ticks', {
      result: checked([
        result('go', 'struct', {
          findings: ['/a`b', '/a``b`', '/ a ', ' /a', '/a\n \tb'].map((place) => loss({ place })),
        }),
      ]),
    }),
    part('\u0000\ud800', { result: checked([]) }),
  ];
  test('of Markdown', () => isAsIn('report-md', writerOf('r.md')(parts, '1.2.3')));

  // What is the same for each of many is shown by few of them.
  const few = [
    part('berth', { result: checked(languages.slice(4, 8)), drift: changes.slice(0, 1) }),
    part('pending', { result: checked([]), pending: ['out/a b#?.ts', 'out/b.ts'] }),
    ...parts.slice(-3),
  ];
  test.each(['junit.xml', 'sarif', 'json'])('of %s', (ending) =>
    isAsIn(`report-${ending.split('.')[0]!}`, writerOf(`r.${ending}`)(few, '1.2.3')),
  );

  test('of SARIF say whether it could be done', () => {
    const successful = (some: readonly ReportPart[]) =>
      (JSON.parse(sarifReport(some, '1')) as { runs: { invocations: { executionSuccessful: boolean }[] }[] })
        .runs[0]!.invocations[0]!.executionSuccessful;
    expect(
      [parts[0]!, parts[2]!, parts[5]!, part('x', { result: checked([languages[6]!]) })].map((each) =>
        successful([each]),
      ),
    ).toEqual([false, false, true, true]);
  });

  test('are of the ending, whatever its letters', () => {
    expect(writerOf('R.MD')).toBe(markdownReport);
    expect(writerOf('a/r.junit.XML')).toBe(junitReport);
    expect(() => writerOf('r')).toThrow('no report ends in nothing: r');
    expect(() => writerOf('a.b/r')).toThrow('no report ends in nothing: a.b/r');
    expect(() => writerOf('r.xml')).toThrow('no report ends in .xml: r.xml');
  });
});
