import { describe, expect, test } from 'vitest';
import { buildModel } from '../../src/core/model/build.js';
import { alignAnswers, judge, type Answer, type Answers } from '../../src/core/roundtrip/judge.js';
import { lineOf } from '../../src/core/roundtrip/payload.js';
import { changedWay } from '../../src/languages/language.js';
import { makeAll, type Made } from '../../src/languages/make.js';
import { buildBench, programOf } from '../../src/workbench/build.js';
import { openSession } from '../../src/workbench/check.js';
import { Conversation } from '../../src/workbench/exchange.js';
import { findToolchain } from '../../src/workbench/toolchain.js';
import { fewer, isLong } from '../effort.js';
import { infer, languagesFor, payloadsOf, workspace, patient } from '../support.js';
import { breakages, expected, hidden, type Breakage, type Edit } from './breakages.js';

/** Payloads in which every breakage shows. */
const sailings = [
  '{"id":9007199254740993,"departs_at":"2031-05-01T08:00:00+01:00","seats":12,"gate":"A","delay":3,"legs":["N","S","L"]}',
  '{"id":9007199254740995,"departs_at":"2031-05-02T08:00:00+01:00","seats":13,"delay":null,"legs":["S"]}',
  '{"id":9007199254740997,"departs_at":"2031-05-03T08:00:00+01:00","seats":14,"gate":"B","legs":["N"]}',
];
const narrowed = (sailing: string) => sailing.replace(/\d{16}/, '7');
const notices = Array.from({ length: 6 }, (_, i) =>
  JSON.stringify({
    kind: i % 2 ? 'closure' : 'delay',
    id: i,
    seen: i < 2 ? [] : ['a'],
    ...(i < 3 ? { note: `n${i}` } : {}),
    ...(i % 2 ? { berth: `N${i}`, until: i < 3 ? null : '1' } : { minutes: i }),
  }),
);

/** What was made, with one of its files edited. Sources are below `classes` in a bench. */
function broken(made: Made, [file, from, to]: Edit): Made {
  let edited = 0;
  const edit = (path: string, text: string) => {
    if (path !== file) return text;
    const now = text.replace(from, to);
    if (now !== text) edited++;
    return now;
  };
  const own = {
    ...made,
    emitted: {
      ...made.emitted,
      files: made.emitted.files.map(({ path, text }) => ({ path, text: edit(`classes/${path}`, text) })),
    },
    bench: {
      ...made.bench,
      files: made.bench.files.map(({ path, text }) => ({ path, text: edit(path, text) })),
    },
  };
  expect(edited, `${file} as it is edited`).toBe(1);
  return own;
}

/** Each build of these takes seconds: they get a third of the breakages, another third each, unless all are asked for; all get less where somebody waits. */
const slow = ['cpp', 'kotlin', 'rust', 'scala', 'swift'];
const someOf = (language: string): Breakage[] =>
  (Object.keys(expected) as Breakage[]).filter((_, i) => {
    const at = slow.indexOf(language);
    const parts = (at < 0 ? 1 : 3) * fewer;
    return isLong || i % parts === Math.max(at, 0) % parts;
  });

for (const language of await languagesFor(1)) {
  for (const style of language.styles) {
    describe(`${language.name} ${style.name}, broken on purpose:`, () => {
      const edits = breakages[`${language.name} ${style.name}`];
      const make = (texts: readonly string[], name: string) => {
        const model = buildModel(infer(texts, name).schema);
        return makeAll(model, [{ language, style }], { origin: 's.json' })[0]!;
      };
      const made = make(sailings, 'Sailing');

      test('unbroken, nothing is lost, and every breakage is known', async () => {
        const session = await openSession(made, { strict: false, limits: patient });
        const { reason, findings } = await session.ask(payloadsOf(sailings));
        await session.close();
        expect(reason).toBeUndefined();
        expect(findings.filter(({ severity }) => severity === 'loss')).toEqual([]);
        expect(Object.keys(edits ?? {})).toEqual(Object.keys(expected));
      });

      test.for(someOf(language.name))('%s, and through every way in', async (name) => {
        const { kind, pointer } = edits![name][3] ?? expected[name];
        const ways = style.ways?.filter((way) => way.name !== changedWay) ?? [
          { name: 'generated', limits: [] },
        ];
        /** What is found through each way in, broken as it is. */
        const foundIn = async (texts: readonly string[]) => {
          const own = broken(make(texts, 'Sailing'), edits![name]);
          const toolchain = await findToolchain(language);
          if (toolchain.state !== 'ready') throw new Error(toolchain.reason);
          const workshop = { emitted: own.emitted, bench: own.bench, tools: toolchain.tools };
          const built = await buildBench(`${language.name}-${style.name}`, workshop, {});
          if (!('folder' in built)) throw new Error(JSON.stringify(built));
          const program = programOf(workshop, built, workspace());
          const conversation = new Conversation(program, patient, true, ways.length);
          const payloads = payloadsOf(texts);
          const answers = alignAnswers(payloads, await conversation.ask(payloads.map(lineOf)));
          return ways.map((_, i) =>
            payloads.flatMap((payload, k) => judge(payload, through(answers[k]!, i), { strict: false })),
          );
        };
        const found = await foundIn(sailings);
        // Where a way refuses such wide numbers, as it says, narrow ones show what is broken.
        const isBeyond = (i: number) =>
          ways[i]!.limits?.length && found[i]!.every((each) => each.kind === 'refused');
        const narrow = ways.some((_, i) => isBeyond(i)) ? await foundIn(sailings.map(narrowed)) : found;
        for (const [i, way] of ways.entries()) {
          expect((isBeyond(i) ? narrow : found)[i], `through ${way.name}`).toContainEqual(
            expect.objectContaining({ kind, pointer, severity: 'loss' }),
          );
        }
      });

      const own = hidden[`${language.name} ${style.name}`] ?? {};
      test.for(Object.keys(own))('%s', async (name) => {
        const { edit, way } = own[name]!;
        const notice = make(notices, 'Notice');
        const whole = await openSession(notice, { strict: false, limits: patient });
        const before = await whole.ask(payloadsOf(notices));
        await whole.close();
        expect(before).toMatchObject({ state: 'checked', findings: [] });
        const session = await openSession(broken(notice, edit), { strict: false, limits: patient });
        const { reason, findings } = await session.ask(payloadsOf(notices));
        await session.close();
        expect(reason).toBeUndefined();
        expect(findings.map((each) => each.way)).toContain(way);
      });
    });
  }
}

/** What a payload came to through a way in, by its position. */
function through(answers: Answers, way: number): Answer {
  const other = way === 0 ? 'same' : (answers.others?.[way - 1] ?? 'same');
  return other === 'same' ? answers : other;
}
