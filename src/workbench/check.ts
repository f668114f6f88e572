import { SkevoError } from '../core/error.js';
import type { TypeModel } from '../core/model/types.js';
import type { Finding } from '../core/roundtrip/finding.js';
import { alignAnswers, judge, type Answer, type JudgeOptions } from '../core/roundtrip/judge.js';
import { lineOf, type Payload } from '../core/roundtrip/payload.js';
import { ModelIndex } from '../core/roundtrip/trace.js';
import type { Bench, Emitted, Language, Style, UnknownRule } from '../languages/language.js';
import { exchange, type Limits, type Program } from './exchange.js';
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
  /** Whether warnings of compilers and checkers are failures too. */
  readonly pedantic?: boolean;
  /** What generated code does with fields that the schema does not know. */
  readonly unknown?: UnknownRule | undefined;
  /** Programs to use instead of those found, by the names of tools. */
  readonly tools?: ReadonlyMap<string, string>;
  /** Keep the bench in this folder. */
  readonly keep?: string | undefined;
  /** Told of how many payloads have been answered. */
  readonly progress?: (answered: number) => void;
}

/**
 * Generates, builds and runs one style of a language, and compares every payload with what comes back.
 * A missing toolchain gives `not-run`, a failing compiler `failed` with its words.
 */
export async function checkStyle(
  language: Language,
  style: Style,
  model: TypeModel,
  origin: string,
  payloads: readonly Payload[],
  options: CheckOptions,
): Promise<LanguageResult> {
  const started = performance.now();
  const result = (rest: Pick<LanguageResult, 'state'> & Partial<LanguageResult>): LanguageResult => ({
    language: language.name,
    style: style.name,
    returned: 0,
    findings: [],
    seconds: (performance.now() - started) / 1000,
    ...rest,
  });
  const toolchain = await findToolchain(language, options.tools, style);
  if (toolchain.state === 'missing') {
    return result({ state: 'not-run', reason: `${toolchain.reason}; get it with: ${toolchain.install}` });
  }
  let emitted: Emitted;
  let bench: Bench;
  try {
    emitted = style.emit(model, { origin, unknown: options.unknown });
    bench = style.bench(model, { pedantic: options.pedantic ?? false });
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    return result({ state: 'failed', reason: [error.message, error.remedy].filter(Boolean).join('\n') });
  }
  const workshop: Workshop = { emitted, bench, tools: toolchain.tools };
  const name = `${language.name}-${style.name}`;
  const built = await buildBench(name, workshop, options.keep);
  if ('failed' in built) return result({ state: 'failed', reason: built.failed });
  const temporary = temporaryFolder();
  try {
    const program = programOf(workshop, built, temporary);
    const answers = await exchange(program, payloads.map(lineOf), options.limits, options.progress);
    const judged = judgeAll(payloads, answers, {
      strict: options.strict,
      index: new ModelIndex(model),
      names: emitted.names,
    });
    return result({ state: 'checked', ...judged });
  } finally {
    removeTemporary(temporary);
  }
}

/** Runs a user's own program over the same protocol. */
export async function checkProgram(
  command: string,
  model: TypeModel | undefined,
  payloads: readonly Payload[],
  options: CheckOptions,
): Promise<LanguageResult> {
  const started = performance.now();
  const program: Program = {
    file: command,
    arguments: [],
    folder: process.cwd(),
    environment: process.env,
    shell: true,
  };
  const answers = await exchange(program, payloads.map(lineOf), options.limits, options.progress);
  const index = model === undefined ? undefined : new ModelIndex(model);
  const judged = judgeAll(payloads, answers, { strict: options.strict, index });
  return {
    language: 'program',
    style: command,
    state: 'checked',
    seconds: (performance.now() - started) / 1000,
    ...judged,
  };
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
