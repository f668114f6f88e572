import { availableParallelism } from 'node:os';
import pLimit from 'p-limit';
import type { TypeModel } from '../core/model/types.js';
import { byPlace, condensed } from '../core/roundtrip/condense.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { Coverage, type FieldCoverage, type Unproven } from '../core/roundtrip/unproven.js';
import type { Made, Unmade } from '../languages/make.js';
import {
  openProgram,
  openSession,
  type CheckOptions,
  type KnownLimit,
  type LanguageResult,
  type Session,
} from './check.js';

/** The outcome of a check. */
export interface CheckResult {
  readonly payloads: number;
  readonly languages: readonly LanguageResult[];
  readonly unproven: readonly Unproven[];
  /** What the payloads showed of each field. */
  readonly fields: readonly FieldCoverage[];
  /** What they showed of all types. */
  readonly coverage: Coverage;
}

export interface CheckAllOptions extends CheckOptions {
  /** A user's own program to check too. */
  readonly program?: string | undefined;
  /** What lets languages be worked on, a few at a time; as many as there are cores when not given. */
  readonly slots?: Slots | undefined;
  /** Given the payloads a few at a time, while the languages are at them. */
  readonly observe?: ((payloads: readonly Payload[]) => Promise<void>) | undefined;
  /** Told of how many payloads there are for each language so far, before they are answered. */
  readonly expect?: ((payloads: number) => void) | undefined;
  /** Told of how many payloads a language has answered, by its position among the targets; the program is last. */
  readonly answered?: ((position: number, payloads: number) => void) | undefined;
}

/** What lets work be done, no more of it at once than there is room for. */
export interface Slots {
  map<T, R>(items: readonly T[], work: (item: T, position: number) => Promise<R>): Promise<R[]>;
}

/** As many slots as there are cores. */
export function slotsHere(): Slots {
  const limit = pLimit(availableParallelism());
  return { map: (items, work) => limit.map(items, work) };
}

/** Bytes of payloads that are held at a time. */
const batchBytes = 4 << 20;

/**
 * The round trip of every payload through every language, languages side by side: each is built once, and its program
 * kept running. Payloads are held a few megabytes at a time, so that there may be any number of them.
 */
export async function checkAll(
  made: readonly (Made | Unmade)[],
  model: TypeModel,
  payloads: AsyncIterable<Payload> | Iterable<Payload>,
  options: CheckAllOptions,
): Promise<CheckResult> {
  const { program, slots = slotsHere(), observe, expect = () => {}, answered = () => {} } = options;
  const opening: (() => Promise<Session>)[] = made.map((each) => () => openSession(each, options));
  if (program !== undefined) opening.push(async () => openProgram(program, model, options));

  const coverage = new Coverage(model);
  const sessions: Session[] = [];
  const results: LanguageResult[] = [];
  let before = 0;
  try {
    for await (const { batch, isLast } of batches(payloads)) {
      expect(before + batch.length);
      const checking = slots.map(opening, async (open, i) => {
        const earlier = results[i];
        if (earlier !== undefined && earlier.state !== 'checked') return earlier;
        sessions[i] ??= await open();
        const result = await sessions[i].ask(batch, (count) => answered(i, before + count));
        answered(i, before + batch.length);
        // Programs of many languages need not wait for each other.
        if (isLast) await sessions[i].close();
        return earlier === undefined
          ? { ...result, findings: condensed(result.findings) }
          : joined(earlier, result);
      });
      for (const { root } of batch) coverage.add(root);
      // Whatever goes wrong while the languages are at it is told first.
      const [now] = await Promise.all([checking, observe?.(batch)]);
      results.splice(0, results.length, ...now);
      before += batch.length;
    }
  } finally {
    await Promise.all(sessions.map((session) => session?.close()));
  }
  return { payloads: before, languages: results, ...proven(coverage, made, model) };
}

/** What payloads showed of the types, and what they did not. */
export function proven(
  coverage: Coverage,
  made: readonly (Made | Unmade)[],
  model: TypeModel,
): Pick<CheckResult, 'fields' | 'unproven' | 'coverage'> {
  const known = made.flatMap((each) => ('emitted' in each ? [each] : []));
  const isRenamed = (record: string, key: string) =>
    known.some((each) => {
      const at = model.records.findIndex(({ name }) => name === record);
      return each.emitted.names.get(each.model.records[at]!.name)?.fields.get(key) !== key;
    });
  return { coverage, fields: coverage.coverage(), unproven: coverage.unproven(isRenamed) };
}

/** What became of a language in two parts of the payloads. */
export function joined(a: LanguageResult, b: LanguageResult): LanguageResult {
  return {
    ...b,
    returned: a.returned + b.returned,
    seconds: a.seconds + b.seconds,
    findings: condensed([...a.findings, ...b.findings]),
    limits: joinedLimits([...a.limits, ...b.limits]),
  };
}

function joinedLimits(limits: readonly KnownLimit[]): KnownLimit[] {
  const byLimit = new Map<string, KnownLimit>();
  for (const limit of limits) {
    const key = JSON.stringify([limit.way, limit.says]);
    const before = byLimit.get(key);
    if (before === undefined) {
      byLimit.set(key, limit);
      continue;
    }
    const first = byPlace(limit.first, before.first) < 0 ? limit.first : before.first;
    byLimit.set(key, { ...before, first, count: before.count + limit.count });
  }
  return [...byLimit.values()];
}

/** Payloads a few megabytes at a time, and whether more come after them. */
async function* batches(
  payloads: AsyncIterable<Payload> | Iterable<Payload>,
): AsyncGenerator<{ readonly batch: readonly Payload[]; readonly isLast: boolean }> {
  let batch: Payload[] = [];
  let bytes = 0;
  for await (const payload of payloads) {
    if (bytes >= batchBytes) {
      yield { batch, isLast: false };
      batch = [];
      bytes = 0;
    }
    batch.push(payload);
    bytes += payload.root.end - payload.root.start;
  }
  if (batch.length > 0) yield { batch, isLast: true };
}
