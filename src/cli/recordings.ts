import { answersOf, type Recorded } from '../capture/har.js';
import { parseJson } from '../core/json/parse.js';
import { buildModel } from '../core/model/build.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { inWords } from '../core/words.js';
import { make } from '../languages/make.js';
import { lossesOf, renderCheck } from '../report/check.js';
import { visible } from '../report/visible.js';
import { findSchema } from '../schemas/find.js';
import { descriptionAt, loadSchema, type Loaded } from '../schemas/load.js';
import { answerTo, type AnswerPlace } from '../schemas/openapi/places.js';
import { SkevoError } from '../core/error.js';
import { checkAll, type CheckResult } from '../workbench/check-all.js';
import type { CheckOptions } from './commands/check.js';
import { exitCode, exitOnInterrupt } from './exit.js';
import { readSource } from '../formats/source.js';
import { toolsOption, type chooseLanguages } from './languages.js';
import { noteTaker, out, print } from './print.js';

const operationsShown = 12;

/**
 * Checks every answer of recordings against the schema that an OpenAPI description has for its operation and status, and says
 * what no answer showed.
 * @returns whether the schema is a description that is given whole
 */
export async function checkRecordings(
  chosen: CheckOptions,
  targets: ReturnType<typeof chooseLanguages>,
): Promise<boolean> {
  const found = await findSchema(chosen.schema);
  const description = await descriptionAt(found);
  if (description === undefined) return false;
  const { json, report, at } = chosen;
  for (const [option, isGiven] of [
    ['--json', json],
    ['--report', report.length > 0],
    ['--at', at !== undefined],
  ] as const)
    if (isGiven)
      throw new SkevoError(
        `${option} cannot be given for a whole description`,
        `Name one operation, such as ${chosen.schema}#${description.answers[0]?.operation ?? 'listSailings'}.`,
      );
  exitOnInterrupt();
  const groups = new Map<AnswerPlace, Payload[]>();
  const strangers = new Map<string, number>();
  for (const file of chosen.payload) {
    for (const [i, answer] of (await answersOf(readSource(file))).entries()) {
      const place = answer.format === 'json' ? answerTo(description.answers, answer) : undefined;
      if (place === undefined) {
        const { pathname } = new URL(answer.url);
        const name = `${answer.method} ${pathname} ${answer.status}`;
        strangers.set(name, (strangers.get(name) ?? 0) + 1);
        continue;
      }
      groups.set(place, [...(groups.get(place) ?? []), payloadOf(answer, `${file}#${i + 1}`)]);
    }
  }
  const { notes, finish } = noteTaker(chosen.quiet);
  const results: CheckResult[] = [];
  for (const place of description.answers) {
    const payloads = groups.get(place);
    if (payloads === undefined) continue;
    const loaded = await loadSchema({ ...found, given: `${found.given}#${place.pointer}` });
    for (const note of loaded.notes) notes(note);
    const heading = `${place.operation} ${place.status}: ${place.method.toUpperCase()} ${place.path}, ${payloads.length} ${payloads.length === 1 ? 'answer' : 'answers'}`;
    print(`${results.length > 0 ? '\n' : ''}${out.colours.strong(visible(heading))}\n`);
    const result = await checked(loaded, `${place.operation} answer`, payloads, targets, chosen);
    results.push(result);
    print(renderCheck(result, out));
  }
  finish();
  const unseen = description.answers.filter((place) => !groups.has(place));
  sayRest(unseen, strangers);
  const languages = results.flatMap((result) => result.languages);
  if (results.length === 0)
    throw new SkevoError(
      'no answer of the recordings is of an operation of the description',
      'Compare their paths: those of a description are matched from the end.',
    );
  if (languages.some((each) => lossesOf(each) > 0)) process.exitCode = exitCode.findings;
  else if (
    languages.some(({ state }) => state === 'failed') ||
    languages.some(({ state }, i) => state === 'not-run' && targets[i % targets.length]?.named) ||
    languages.every(({ state }) => state !== 'checked')
  )
    process.exitCode = exitCode.notRun;
  return true;
}

function checked(
  { schema, source }: Loaded,
  origin: string,
  payloads: readonly Payload[],
  targets: ReturnType<typeof chooseLanguages>,
  chosen: CheckOptions,
): Promise<CheckResult> {
  const model = buildModel(schema, source);
  const made = make(
    model,
    targets.map((target) => ({
      ...target,
      unknown: chosen.unknown,
      dates: chosen.dates,
      builders: chosen.builders,
    })),
    { origin },
  );
  async function* all() {
    yield* payloads;
  }
  return checkAll(made, model, all(), {
    program: chosen.with,
    strict: chosen.strict,
    limits: { seconds: chosen.timeout, memory: chosen.memory * (1 << 20) },
    keep: chosen.keep,
    tools: toolsOption(chosen.tool),
    observe: () => Promise.resolve(),
    expect: () => {},
    answered: () => {},
  });
}

function payloadOf({ bytes }: Recorded, name: string): Payload {
  const source = { name, bytes, firstLine: 1 };
  return { root: parseJson(source).root, source, tokens: [] };
}

function sayRest(unseen: readonly AnswerPlace[], strangers: ReadonlyMap<string, number>): void {
  const { colours } = out;
  const few = (names: readonly string[]): string =>
    names.length > operationsShown
      ? `${names.slice(0, operationsShown).join(', ')} and ${names.length - operationsShown} more`
      : inWords(names);
  if (unseen.length > 0) {
    const names = unseen.map(({ operation, status }) => visible(`${operation} ${status}`));
    print(`\n${colours.warn('no answer showed')} ${few(names)}`);
  }
  if (strangers.size > 0) {
    const names = [...strangers].map(([name, count]) => visible(count === 1 ? name : `${name} (${count})`));
    print(`\n${colours.warn('of no operation')} ${few(names)}`);
  }
}
