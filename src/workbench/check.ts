import type { TypeModel } from '../core/model/types.js';
import type { Finding } from '../core/roundtrip/finding.js';
import { alignAnswers, judge, type Answer, type JudgeOptions } from '../core/roundtrip/judge.js';
import { lineOf, type Payload } from '../core/roundtrip/payload.js';
import { ModelIndex } from '../core/roundtrip/trace.js';
import type { Language, Style } from '../languages/language.js';
import { make, type Made, type MakeOptions, type Target, type Unmade } from '../languages/make.js';
import { Conversation, type Limits, type Program } from './exchange.js';
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
}

export interface CheckOptions {
  readonly strict: boolean;
  readonly limits: Limits;
  /** Programs to use instead of those found, by the names of tools. */
  readonly tools?: ReadonlyMap<string, string>;
  /** Keep the bench in this folder. */
  readonly keep?: string | undefined;
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
export async function openSession(
  made: Made | Unmade,
  model: TypeModel,
  options: CheckOptions,
): Promise<Session> {
  const { language, style } = made.target;
  const started = performance.now();
  const own = { language: language.name, style: style.name };
  const settled = (state: 'not-run' | 'failed', reason: string): Session => {
    const seconds = (performance.now() - started) / 1000;
    const result: LanguageResult = { ...own, state, reason, returned: 0, findings: [], seconds };
    return { ask: async () => result, close: async () => {} };
  };
  const toolchain = await findToolchain(language, options.tools, style);
  if (toolchain.state === 'missing')
    return settled('not-run', `${toolchain.reason}; get it with: ${toolchain.install}`);
  if ('trouble' in made)
    return settled('failed', [made.trouble.message, made.trouble.remedy].filter(Boolean).join('\n'));
  const workshop: Workshop = { emitted: made.emitted, bench: made.bench, tools: toolchain.tools };
  const built = await buildBench(`${language.name}-${style.name}`, workshop, options.keep);
  if ('missing' in built) return settled('not-run', built.missing);
  if ('failed' in built) return settled('failed', built.failed);
  const temporary = temporaryFolder();
  const conversation = new Conversation(programOf(workshop, built, temporary), options.limits, false);
  const judging = { strict: options.strict, index: new ModelIndex(model), names: made.emitted.names };
  // What was built and started is part of what the first payloads take.
  let since = started;
  return {
    ask: async (payloads, answered) => {
      const answers = await conversation.ask(payloads.map(lineOf), answered);
      const judged = judgeAll(payloads, answers, judging);
      const now = performance.now();
      const seconds = (now - since) / 1000;
      since = now;
      return { ...own, state: 'checked', seconds, ...judged };
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
  const conversation = new Conversation(program, options.limits, true);
  return {
    ask: async (payloads, answered) => {
      const started = performance.now();
      const answers = await conversation.ask(payloads.map(lineOf), answered);
      const judged = judgeAll(payloads, answers, { strict: options.strict, index });
      const seconds = (performance.now() - started) / 1000;
      return { language: 'program', style: command, state: 'checked', seconds, ...judged };
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
  options: CheckOptions & Pick<Target, 'unknown' | 'package'> & Pick<MakeOptions, 'pedantic'>,
): Promise<LanguageResult> {
  const { unknown, package: named, pedantic = false } = options;
  const [made] = make(model, [{ language, style, unknown, package: named }], { origin, pedantic });
  const session = await openSession(made!, model, options);
  try {
    return await session.ask(payloads);
  } finally {
    await session.close();
  }
}

function judgeAll(
  payloads: readonly Payload[],
  answers: readonly Answer[],
  options: JudgeOptions,
): Pick<LanguageResult, 'returned' | 'findings'> {
  const aligned = alignAnswers(payloads, answers);
  const findings = payloads.flatMap((payload, i) => judge(payload, aligned[i]!, options));
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
