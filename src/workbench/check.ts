import type { TypeModel } from '../core/model/types.js';
import type { Finding } from '../core/roundtrip/finding.js';
import {
  alignAnswers,
  judge,
  judgeChange,
  judgeOthers,
  type Answers,
  type JudgeOptions,
} from '../core/roundtrip/judge.js';
import { writeJson } from '../core/json/write.js';
import { lineOf, type Payload } from '../core/roundtrip/payload.js';
import { ModelIndex } from '../core/roundtrip/trace.js';
import { changedWay, type Language, type Limit, type Style } from '../languages/language.js';
import { make, type Made, type MakeOptions, type Target, type Unmade } from '../languages/make.js';
import type { Compilers } from './compilers.js';
import { Conversation, separator, type Limits, type Program } from './exchange.js';
import { buildBench, programOf, type Workshop } from './build.js';
import { removeTemporary, temporaryFolder } from './temporary.js';
import { findToolchain } from './toolchain.js';

/** What became of one language, or of a user's own program. */
export interface LanguageResult {
  readonly language: string;
  readonly style: string;
  readonly state: 'checked' | 'not-run' | 'failed';
  /** Why it was not run or failed. */
  readonly reason?: string;
  /** Payloads that came back, whole or not. */
  readonly returned: number;
  readonly seconds: number;
  readonly findings: readonly Finding[];
  /** What did not come back and is known not to. */
  readonly limits: readonly KnownLimit[];
}

/** A limit that showed, and through which way in. */
export interface KnownLimit extends Pick<Limit, 'says'> {
  readonly way: string;
  /** Findings that it accounts for, and the first of them. */
  readonly count: number;
  readonly first: Finding;
}

export interface CheckOptions {
  readonly strict: boolean;
  readonly limits: Limits;
  /** Programs to use instead of those found, by the names of tools. */
  readonly tools?: ReadonlyMap<string, string>;
  /** Ends compilers and programs, with its reason. */
  readonly signal?: AbortSignal | undefined;
  /** Keep the bench in this folder. */
  readonly keep?: string | undefined;
  /** Compilers that are kept running, where there are many checks. */
  readonly compilers?: Compilers | undefined;
}

/** A language, or a program, that payloads are sent through. */
export interface Session {
  /** What became of some payloads. @param answered told of how many of them have been answered */
  ask(payloads: readonly Payload[], answered?: (count: number) => void): Promise<LanguageResult>;
  /** Ends what is running. Nothing may be asked after it. */
  close(): Promise<void>;
}

/**
 * Builds what was made of a target, and keeps its program running while payloads are asked for. A missing toolchain
 * gives `not-run`, a target that cannot write the types or a compiler that refuses them `failed` with the reason.
 */
export async function openSession(made: Made | Unmade, options: CheckOptions): Promise<Session> {
  const { language, style } = made.target;
  options.signal?.throwIfAborted();
  const started = performance.now();
  const own = { language: language.name, style: style.name };
  const settled = (state: 'not-run' | 'failed', reason: string): Session => {
    const seconds = (performance.now() - started) / 1000;
    const result: LanguageResult = { ...own, state, reason, returned: 0, findings: [], limits: [], seconds };
    return { ask: async () => result, close: async () => {} };
  };
  const toolchain = await findToolchain(language, options.tools, style);
  if (toolchain.state === 'missing')
    return settled('not-run', `${toolchain.reason}; get it with: ${toolchain.install}`);
  if ('trouble' in made)
    return settled('failed', [made.trouble.message, made.trouble.remedy].filter(Boolean).join('\n'));
  const workshop: Workshop = { emitted: made.emitted, bench: made.bench, tools: toolchain.tools };
  const built = await buildBench(`${language.name}-${style.name}`, workshop, options);
  if ('missing' in built) return settled('not-run', built.missing);
  if ('failed' in built) return settled('failed', built.failed);
  const temporary = temporaryFolder();
  const ways = style.ways?.filter(({ name }) => name !== changedWay) ?? [];
  const program = programOf(workshop, built, temporary);
  const conversation = new Conversation(
    program,
    options.limits,
    false,
    Math.max(1, ways.length),
    options.signal,
  );
  const judging = { strict: options.strict, index: new ModelIndex(made.model), names: made.emitted.names };
  let isFirst = true;
  // What was built and started is part of what the first payloads take.
  let since = started;
  return {
    ask: async (payloads, answered) => {
      const answers = await conversation.ask(payloads.map(lineOf), answered);
      const judged = judgeAll(
        payloads,
        answers,
        judging,
        ways.slice(1).map(({ name }) => name),
      );
      // Once is enough to know whether fields can be set.
      if (isFirst)
        judged.findings.push(...(await askChanges(conversation, made, payloads, answers, judging)));
      isFirst = false;
      const known = withoutLimits(judged.findings, style);
      const now = performance.now();
      const seconds = (now - since) / 1000;
      since = now;
      return { ...own, state: 'checked', seconds, ...judged, ...known };
    },
    close: async () => {
      await conversation.end();
      removeTemporary(temporary);
    },
  };
}

/** A user's own program over the same protocol. It is started for each batch, since it may wait for the end of all. */
export function openProgram(command: string, model: TypeModel, options: CheckOptions): Session {
  const program: Program = {
    file: command,
    arguments: [],
    folder: process.cwd(),
    environment: process.env,
    shell: true,
  };
  const index = new ModelIndex(model);
  const conversation = new Conversation(program, options.limits, true, 1, options.signal);
  return {
    ask: async (payloads, answered) => {
      const started = performance.now();
      const answers = await conversation.ask(payloads.map(lineOf), answered);
      const judged = judgeAll(payloads, answers, { strict: options.strict, index }, []);
      const seconds = (performance.now() - started) / 1000;
      return { language: 'program', style: command, state: 'checked', seconds, limits: [], ...judged };
    },
    close: async () => void (await conversation.end()),
  };
}

/**
 * Generates, builds and runs one style of a language, and compares every payload with what comes back.
 * @param origin what the schema is called in the sources
 */
export async function checkStyle(
  language: Language,
  style: Style,
  model: TypeModel,
  origin: string,
  payloads: readonly Payload[],
  options: CheckOptions & Pick<Target, 'unknown' | 'package' | 'dates'> & Pick<MakeOptions, 'pedantic'>,
): Promise<LanguageResult> {
  const { unknown, dates, package: named, pedantic = false } = options;
  const [made] = make(model, [{ language, style, unknown, dates, package: named }], { origin, pedantic });
  const session = await openSession(made!, options);
  try {
    return await session.ask(payloads);
  } finally {
    await session.close();
  }
}

function judgeAll(
  payloads: readonly Payload[],
  answers: readonly Answers[],
  options: JudgeOptions,
  otherWays: readonly string[],
): { readonly returned: number; readonly findings: Finding[] } {
  const aligned = alignAnswers(payloads, answers);
  const findings = payloads.flatMap((payload, i) => {
    const first = judge(payload, aligned[i]!, options);
    return [...first, ...judgeOthers(payload, aligned[i]!, first, otherWays, options)];
  });
  const last = payloads[payloads.length - 1];
  if (aligned.length > payloads.length && last !== undefined) {
    const extra = aligned.length - payloads.length;
    findings.push(
      ...judge(
        last,
        { kind: 'crashed', message: `the program gave ${extra} more answers than there were payloads` },
        options,
      ),
    );
  }
  return {
    returned: aligned.slice(0, payloads.length).filter(({ kind }) => kind === 'returned').length,
    findings,
  };
}

/** Payloads of which fields are set, how many fields in all, and bytes of payloads that are sent for it. */
const changedPayloads = 8;
const mostChanges = 400;
const mostChangedBytes = 4 << 20;

/** What setting one field of a payload to its value in another came to, field by field. */
async function askChanges(
  conversation: Conversation,
  { bench: { changes: keys = [] } }: Made,
  payloads: readonly Payload[],
  answers: readonly Answers[],
  options: JudgeOptions,
): Promise<Finding[]> {
  const whole = payloads.flatMap((payload, i) => {
    const { root } = payload;
    return answers[i]?.kind === 'returned' && root.kind === 'object'
      ? [{ payload, answer: answers[i], members: root.members }]
      : [];
  });
  const step = Math.max(1, Math.floor(whole.length / changedPayloads));
  const sample = whole
    .filter((_, i) => i % step === 0)
    .slice(0, changedPayloads)
    .map(({ payload, answer, members }) => ({
      payload,
      answer,
      line: lineOf(payload),
      values: new Map(members.map(({ key, value }) => [key, writeJson(value)])),
    }));
  const changes = keys.flatMap((key, field) =>
    sample.flatMap((before) => {
      const own = before.values.get(key);
      const others = sample.filter(({ values }) => values.get(key) !== own);
      // To a value, to null and to nothing, as far as there are payloads with them.
      const states = [
        others.find(({ values }) => values.has(key) && values.get(key) !== 'null'),
        others.find(({ values }) => values.get(key) === 'null'),
        others.find(({ values }) => !values.has(key)),
      ];
      return states.flatMap((from) => (from === undefined ? [] : [{ key, field, before, from }]));
    }),
  );
  let bytes = 0;
  const asked = changes.slice(0, mostChanges).filter(({ before, from }) => {
    bytes += before.line.length + from.line.length;
    return bytes <= mostChangedBytes;
  });
  if (asked.length === 0) return [];
  const mark = Buffer.from([separator]);
  const told = await conversation.ask(
    asked.map(({ field, before, from }) =>
      Buffer.concat([mark, Buffer.from(String(field)), mark, before.line, mark, from.line]),
    ),
  );
  return asked.flatMap(({ key, before, from }, i) =>
    judgeChange(
      before.payload,
      { before: before.answer, from: from.answer, key, answer: told[i] ?? { kind: 'silent' } },
      options,
    ),
  );
}

/** Findings but for those that the limits of their ways in account for. */
function withoutLimits(
  findings: readonly Finding[],
  { ways = [] }: Style,
): Pick<LanguageResult, 'findings' | 'limits'> {
  // Several ways may have one limit.
  const limits = new Map<string, KnownLimit>();
  const left = findings.filter((finding) => {
    const name = finding.way ?? ways[0]?.name;
    const way = ways.find((each) => each.name === name);
    const limit = way?.limits?.find(
      ({ kinds, causes }) => kinds?.includes(finding.kind) !== false && causes?.test(finding.cause) !== false,
    );
    if (way === undefined || limit === undefined) return true;
    const { says } = limit;
    const key = `${way.name} ${says}`;
    const known = limits.get(key);
    limits.set(key, {
      says,
      way: way.name,
      count: (known?.count ?? 0) + 1,
      first: known?.first ?? finding,
    });
    return false;
  });
  return { findings: left, limits: [...limits.values()] };
}
