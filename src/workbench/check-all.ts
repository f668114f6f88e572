import { availableParallelism } from 'node:os';
import pMap from 'p-map';
import type { TypeModel } from '../core/model/types.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { Coverage, type FieldCoverage, type Unproven } from '../core/roundtrip/unproven.js';
import type { Language, Style, UnknownRule } from '../languages/language.js';
import { checkProgram, checkStyle, type CheckOptions, type LanguageResult } from './check.js';

/** A language in one style. */
export interface Target {
  readonly language: Language;
  readonly style: Style;
  /** What its code does with fields that the schema does not know, when that is not as for the others. */
  readonly unknown?: UnknownRule | undefined;
}

/** The outcome of a check. */
export interface CheckResult {
  readonly payloads: number;
  readonly languages: readonly LanguageResult[];
  readonly unproven: readonly Unproven[];
  /** What the payloads showed of each field. */
  readonly fields: readonly FieldCoverage[];
}

export interface CheckAllOptions extends Omit<CheckOptions, 'progress'> {
  /** What the schema is called in generated sources. */
  readonly origin: string;
  /** A user's own program to check too. */
  readonly program?: string | undefined;
  /** Given the payloads a few at a time, while the languages are at them. */
  readonly observe?: ((payloads: readonly Payload[]) => Promise<void>) | undefined;
  /** Told of how many payloads there are for each language so far, before they are answered. */
  readonly expect?: ((payloads: number) => void) | undefined;
  /** Told of how many payloads a language has answered, by its position among the targets; the program is last. */
  readonly answered?: ((position: number, payloads: number) => void) | undefined;
}

/** Bytes of payloads that are held at a time. */
const batchBytes = 4 << 20;

/**
 * The round trip of every payload through every language, languages side by side. Payloads are held a few
 * megabytes at a time, so that there may be any number of them.
 */
export async function checkAll(
  targets: readonly Target[],
  model: TypeModel,
  payloads: AsyncIterable<Payload> | Iterable<Payload>,
  options: CheckAllOptions,
): Promise<CheckResult> {
  const { program, observe, expect = () => {}, answered = () => {} } = options;
  const jobs: ((batch: readonly Payload[], progress: (count: number) => void) => Promise<LanguageResult>)[] =
    targets.map(
      ({ language, style, unknown = options.unknown }) =>
        (batch, progress) =>
          checkStyle(language, style, model, options.origin, batch, { ...options, unknown, progress }),
    );
  if (program !== undefined)
    jobs.push((batch, progress) => checkProgram(program, model, batch, { ...options, progress }));

  const coverage = new Coverage(model);
  const results: LanguageResult[] = [];
  let before = 0;
  for await (const batch of batches(payloads)) {
    expect(before + batch.length);
    const checking = pMap(
      jobs,
      async (job, i) => {
        const earlier = results[i];
        if (earlier !== undefined && earlier.state !== 'checked') return earlier;
        const result = await job(batch, (count) => answered(i, before + count));
        answered(i, before + batch.length);
        return earlier === undefined ? result : joined(earlier, result);
      },
      { concurrency: availableParallelism() },
    );
    for (const { root } of batch) coverage.add(root);
    await observe?.(batch);
    results.splice(0, results.length, ...(await checking));
    before += batch.length;
  }
  // A style that cannot write the types has no names for them.
  const names = targets.flatMap(({ style }, i) =>
    results[i]?.state === 'failed' ? [] : [style.emit(model, options).names],
  );
  return {
    payloads: before,
    languages: results,
    fields: coverage.coverage(),
    unproven: coverage.unproven((record, key) =>
      names.some((each) => each.get(record)?.fields.get(key) !== key),
    ),
  };
}

function joined(a: LanguageResult, b: LanguageResult): LanguageResult {
  return {
    ...b,
    returned: a.returned + b.returned,
    seconds: a.seconds + b.seconds,
    findings: [...a.findings, ...b.findings],
  };
}

async function* batches(
  payloads: AsyncIterable<Payload> | Iterable<Payload>,
): AsyncGenerator<readonly Payload[]> {
  let batch: Payload[] = [];
  let bytes = 0;
  for await (const payload of payloads) {
    batch.push(payload);
    bytes += payload.root.end - payload.root.start;
    if (bytes < batchBytes) continue;
    yield batch;
    batch = [];
    bytes = 0;
  }
  if (batch.length > 0) yield batch;
}
