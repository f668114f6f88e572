import { SkevoError } from '../error.js';
import { parseJson } from '../json/parse.js';
import { formatPointer } from '../json/pointer.js';
import { placeOf } from '../json/source.js';
import type { JsonValue } from '../json/value.js';
import { causeOf } from './cause.js';
import { writeJson } from '../json/write.js';
import { compareValues, identical } from './compare.js';
import { severityOf, type Finding } from './finding.js';
import type { Payload } from './payload.js';
import { trace, type ModelIndex } from './trace.js';

/** What a program made of one payload, through the first of its ways in and through the others. */
export type Answers = Answer & {
  /** By the position of the way among the others; `same` where it is what the first gave. */
  readonly others?: readonly (Answer | 'same')[];
};

/** What one way in made of one payload. */
export type Answer =
  /** The payload, encoded again. */
  | { readonly kind: 'returned'; readonly text: Uint8Array }
  /** The decoder's error, in its own words. */
  | { readonly kind: 'refused'; readonly message: string }
  /** The program ended or ran out of time. */
  | { readonly kind: 'crashed'; readonly message: string }
  /** The program ended well, without a word about this payload. */
  | { readonly kind: 'silent' };

/** The names of generated types and fields, by those of the model. */
export type NamesInCode = ReadonlyMap<
  string,
  { readonly type: string; readonly fields: ReadonlyMap<string, string> }
>;

export interface JudgeOptions {
  readonly strict: boolean;
  /** The types, when the program was generated from them. */
  readonly index?: ModelIndex;
  readonly names?: NamesInCode;
}

/**
 * What ways in beside the first did to a payload that the first did not.
 * @param ways what the others are called, in the order of their answers
 */
export function judgeOthers(
  payload: Payload,
  answers: Answers,
  first: readonly Finding[],
  ways: readonly string[],
  options: JudgeOptions,
): Finding[] {
  const known = new Set(first.map(signature));
  return (answers.others ?? []).flatMap((answer, i) => {
    if (answer === 'same') return [];
    return judge(payload, answer, options)
      .filter((finding) => !known.has(signature(finding)))
      .map((finding) => ({ ...finding, way: ways[i]! }));
  });
}

/** What two findings on a payload share when they are the same; what a decoder says differs from way to way. */
function signature({ kind, pointer, after, otherKey }: Finding): string {
  return JSON.stringify([kind, pointer, otherKey, after === undefined ? '' : writeJson(after)]);
}

/**
 * What one field of a payload set to its value in another came to: everything beyond that change is a finding.
 * @param before what the program made of the payload
 * @param from what it made of the other payload
 * @param key the field that was set
 */
export function judgeChange(
  payload: Payload,
  { before, from, key, answer }: { before: Answer; from: Answer; key: string; answer: Answer },
  options: JudgeOptions,
): Finding[] {
  if (before.kind !== 'returned' || from.kind !== 'returned') return [];
  const [old, other] = [parsed(before.text), parsed(from.text)];
  if (old?.kind !== 'object' || other?.kind !== 'object') return [];
  const set = other.members.find((each) => each.key === key);
  const members = old.members.filter((each) => each.key !== key);
  const root = { ...payload.root, ...old, members: set === undefined ? members : [...members, set] };
  return judge({ ...payload, root }, answer, options).map((finding) => ({
    ...finding,
    way: 'changed',
    cause: `when ${JSON.stringify(key)} is set: ${finding.cause}`,
  }));
}

/** Every finding on one payload and its answer. */
export function judge(payload: Payload, answer: Answer, options: JudgeOptions): Finding[] {
  switch (answer.kind) {
    case 'returned': {
      const after = parsed(answer.text);
      if (after === undefined)
        return [whole(payload, 'crashed', `the answer is not JSON: ${excerpt(answer.text)}`, options)];
      return judgeReturned(payload, after, options);
    }
    case 'refused':
    case 'crashed':
      return [whole(payload, answer.kind, answer.message, options)];
    case 'silent':
      return [whole(payload, 'lost', 'the program ended without an answer to this payload', options)];
  }
}

function judgeReturned(payload: Payload, after: JsonValue, options: JudgeOptions): Finding[] {
  return compareValues(payload.root, after).map((difference) => {
    const traced = trace(options.index, payload.root, difference.tokens);
    const inCode = traced.record === undefined ? undefined : options.names?.get(traced.record);
    const { file, line, column } = placeOf(payload.source, difference.offset);
    return {
      kind: difference.kind,
      severity: severityOf(difference.kind, options.strict),
      pointer: formatPointer([...payload.tokens, ...difference.tokens]),
      place: traced.place,
      payload: file,
      line,
      column,
      before: difference.before,
      after: difference.after,
      otherKey: difference.otherKey,
      record: traced.record,
      key: traced.key,
      type: inCode?.type,
      field: traced.key === undefined ? undefined : inCode?.fields.get(traced.key),
      cause: causeOf(difference),
    };
  });
}

function whole(
  payload: Payload,
  kind: 'lost' | 'refused' | 'crashed',
  cause: string,
  options: JudgeOptions,
): Finding {
  const { file, line, column } = placeOf(payload.source, payload.root.start);
  const severity = severityOf(kind, options.strict);
  const before = kind === 'lost' ? payload.root : undefined;
  return {
    kind,
    severity,
    pointer: formatPointer(payload.tokens),
    place: '',
    payload: file,
    line,
    column,
    before,
    cause,
  };
}

/**
 * Gives answers to the payloads they belong to when a program that ended well left some out: an answer that is
 * a later payload, unchanged, belongs to that one.
 */
export function alignAnswers(payloads: readonly Payload[], answers: readonly Answers[]): Answers[] {
  let spare = payloads.length - answers.length;
  if (spare <= 0) return [...answers];
  const aligned: Answers[] = [];
  for (const answer of answers) {
    if (spare > 0 && answer.kind === 'returned') {
      const value = parsed(answer.text);
      const here = aligned.length;
      for (let skip = 0; value !== undefined && skip <= spare; skip++) {
        if (!identical(payloads[here + skip]!.root, value)) continue;
        for (let i = 0; i < skip; i++) aligned.push({ kind: 'silent' });
        spare -= skip;
        break;
      }
    }
    aligned.push(answer);
  }
  while (aligned.length < payloads.length) aligned.push({ kind: 'silent' });
  return aligned;
}

function parsed(text: Uint8Array): JsonValue | undefined {
  try {
    return parseJson({ name: 'answer', bytes: text, firstLine: 1 }).root;
  } catch (error) {
    if (error instanceof SkevoError) return undefined;
    throw error;
  }
}

function excerpt(text: Uint8Array): string {
  const start = new TextDecoder().decode(text.subarray(0, 120)).replace(/[\p{C}\s]+/gu, ' ');
  return JSON.stringify(text.length > 120 ? `${start}…` : start);
}
