import { decimalOf, doubleCarries, isIntegerText, sameNumber } from '../json/number.js';
import { quote } from '../json/write.js';
import { membersByKey, type JsonList, type JsonObject, type JsonValue } from '../json/value.js';
import { wordsOf } from '../words.js';
import type { FindingKind } from './finding.js';
import { isSameTime } from './instant.js';
import { extend } from '../extend.js';

/** One difference between a payload and what came back. */
export interface Difference {
  readonly kind: Exclude<FindingKind, 'refused' | 'crashed'>;
  /** Reference tokens of the place in the payload; numbers are positions in lists. */
  readonly tokens: readonly (string | number)[];
  /** Byte offset in the payload's source of the key or value, or of what is around it when it has none. */
  readonly offset: number;
  readonly before?: JsonValue;
  readonly after?: JsonValue;
  /** For a renamed field: the other key. */
  readonly otherKey?: string;
}

/** The way to a place, from its end: shared by all that is below it, so that depth costs nothing at each level. */
type Path = { readonly token: string | number; readonly around: Path } | undefined;

function tokensOf(path: Path): (string | number)[] {
  const tokens: (string | number)[] = [];
  for (let each = path; each !== undefined; each = each.around) tokens.push(each.token);
  return tokens.reverse();
}

/** Elements of lists of different length are aligned exactly up to this many comparisons. */
const alignmentLimit = 4_000_000;

/**
 * Every difference between a payload and what came back, in document order. Values are compared without loss:
 * numbers by all their digits, objects without regard to order.
 */
export function compareValues(before: JsonValue, after: JsonValue): Difference[] {
  if (identical(before, after)) return [];
  const found: Difference[] = [];
  const pending: { before: JsonValue; after: JsonValue; path: Path }[] = [{ before, after, path: undefined }];
  for (let pair = pending.pop(); pair !== undefined; pair = pending.pop()) {
    const { before: a, after: b, path } = pair;
    if (a.kind === 'object' && b.kind === 'object') {
      extend(pending, compareObjects(a, b, path, found).reverse());
    } else if (a.kind === 'list' && b.kind === 'list') {
      extend(pending, compareLists(a, b, path, found).reverse());
    } else {
      const kind = scalarDifference(a, b);
      if (kind !== undefined)
        found.push({ kind, tokens: tokensOf(path), offset: a.start, before: a, after: b });
    }
  }
  return found.sort((a, b) => a.offset - b.offset);
}

type Pending = { before: JsonValue; after: JsonValue; path: Path }[];

function scalarDifference(a: JsonValue, b: JsonValue): Difference['kind'] | undefined {
  if (a.kind === 'null') return b.kind === 'null' ? undefined : 'filled';
  if (b.kind === 'null') return 'emptied';
  if (a.kind === 'number' && b.kind === 'number') {
    if (a.text === b.text) return undefined;
    return sameNumber(a.text, b.text) || sameDouble(a.text, b.text) ? 'respelled' : 'altered';
  }
  if (a.kind === 'string' && b.kind === 'string') {
    if (a.value === b.value) return undefined;
    return isSameTime(a.value, b.value) ? 'respelled' : 'altered';
  }
  if (a.kind === 'boolean' && b.kind === 'boolean') return a.value === b.value ? undefined : 'altered';
  return 'retyped';
}

/**
 * Whether a number with a fraction or an exponent, which a double carries, comes back as the same double in another
 * spelling: not every runtime writes the shortest one (`4.9E-324` for `5e-324`).
 */
function sameDouble(before: string, after: string): boolean {
  return !isIntegerText(before) && doubleCarries(before) && Number(before) === Number(after);
}

function compareObjects(a: JsonObject, b: JsonObject, path: Path, found: Difference[]): Pending {
  const next: Pending = [];
  const ours = membersByKey(a);
  const theirs = membersByKey(b);
  const missing = [];
  for (const [key, { keyStart, value }] of ours) {
    const other = theirs.get(key);
    if (other === undefined) missing.push({ key, keyStart, value });
    else next.push({ before: value, after: other.value, path: { token: key, around: path } });
  }
  const extra = new Map([...theirs].filter(([key]) => !ours.has(key)));
  for (const { key, keyStart, value } of missing) {
    const otherKey = renamedTo(key, value, extra);
    if (otherKey === undefined) {
      found.push({
        kind: 'lost',
        tokens: tokensOf({ token: key, around: path }),
        offset: keyStart,
        before: value,
      });
      continue;
    }
    const after = extra.get(otherKey)!.value;
    extra.delete(otherKey);
    found.push({
      kind: 'renamed',
      tokens: tokensOf({ token: key, around: path }),
      offset: keyStart,
      before: value,
      after,
      otherKey,
    });
    next.push({ before: value, after, path: { token: key, around: path } });
  }
  for (const [key, { value }] of extra)
    found.push({
      kind: 'added',
      tokens: tokensOf({ token: key, around: path }),
      offset: a.start,
      after: value,
    });
  return next;
}

/** The key under which a missing field came back: of the same words, or else with the same telling value. */
function renamedTo(
  key: string,
  value: JsonValue,
  extra: ReadonlyMap<string, { readonly value: JsonValue }>,
): string | undefined {
  const words = wordsOf(key).join('');
  for (const other of extra.keys()) if (words !== '' && wordsOf(other).join('') === words) return other;
  const telling =
    value.kind === 'number' ||
    (value.kind === 'string' && value.value !== '') ||
    (value.kind !== 'null' && value.kind !== 'boolean' && value.end - value.start > 2);
  if (!telling) return undefined;
  const text = canonical(value);
  for (const [other, { value: theirs }] of extra) if (canonical(theirs) === text) return other;
  return undefined;
}

function compareLists(a: JsonList, b: JsonList, path: Path, found: Difference[]): Pending {
  const ours = a.items;
  const theirs = b.items;
  if (ours.length === theirs.length) {
    if (isShuffled(ours, theirs)) {
      found.push({ kind: 'shuffled', tokens: tokensOf(path), offset: a.start, before: a, after: b });
      return [];
    }
    return ours.map((item, i) => ({ before: item, after: theirs[i]!, path: { token: i, around: path } }));
  }
  const next: Pending = [];
  for (const gap of alignment(ours.map(canonical), theirs.map(canonical))) {
    const shared = Math.min(gap.ours.length, gap.theirs.length);
    for (let i = 0; i < shared; i++) {
      next.push({
        before: ours[gap.ours[i]!]!,
        after: theirs[gap.theirs[i]!]!,
        path: { token: gap.ours[i]!, around: path },
      });
    }
    for (const i of gap.ours.slice(shared)) {
      found.push({
        kind: 'lost',
        tokens: tokensOf({ token: i, around: path }),
        offset: ours[i]!.start,
        before: ours[i],
      });
    }
    for (const i of gap.theirs.slice(shared)) {
      found.push({
        kind: 'added',
        tokens: tokensOf({ token: i, around: path }),
        offset: a.start,
        after: theirs[i],
      });
    }
  }
  return next;
}

function isShuffled(ours: readonly JsonValue[], theirs: readonly JsonValue[]): boolean {
  if (ours.length < 2) return false;
  // Only a list that differs somewhere is worth the sorting.
  let differs = false;
  const left: string[] = [];
  const right: string[] = [];
  for (let i = 0; i < ours.length; i++) {
    left.push(canonical(ours[i]!));
    right.push(canonical(theirs[i]!));
    differs ||= left[i] !== right[i];
  }
  if (!differs) return false;
  left.sort();
  right.sort();
  return left.every((text, i) => text === right[i]);
}

interface Gap {
  readonly ours: number[];
  readonly theirs: number[];
}

/** What lies between the elements of a longest common subsequence (Wagner and Fischer 1974). */
function alignment(ours: readonly string[], theirs: readonly string[]): Gap[] {
  let start = 0;
  while (start < ours.length && start < theirs.length && ours[start] === theirs[start]) start++;
  let tail = 0;
  while (
    tail < Math.min(ours.length, theirs.length) - start &&
    ours[ours.length - 1 - tail] === theirs[theirs.length - 1 - tail]
  )
    tail++;
  const n = ours.length - tail - start;
  const m = theirs.length - tail - start;
  const gap = (): Gap => ({ ours: [], theirs: [] });
  if (n * m > alignmentLimit) {
    return [
      {
        ours: Array.from({ length: n }, (_, i) => start + i),
        theirs: Array.from({ length: m }, (_, i) => start + i),
      },
    ];
  }
  const lengths = Array.from({ length: n + 1 }, () => new Uint32Array(m + 1));
  for (let i = n - 1; i >= 0; i--) {
    for (let j = m - 1; j >= 0; j--) {
      lengths[i]![j] =
        ours[start + i] === theirs[start + j]
          ? lengths[i + 1]![j + 1]! + 1
          : Math.max(lengths[i + 1]![j]!, lengths[i]![j + 1]!);
    }
  }
  const gaps: Gap[] = [];
  let open = gap();
  let i = 0;
  let j = 0;
  while (i < n || j < m) {
    if (i < n && j < m && ours[start + i] === theirs[start + j]) {
      gaps.push(open);
      open = gap();
      i++;
      j++;
    } else if (j === m || (i < n && lengths[i + 1]![j]! >= lengths[i]![j + 1]!)) {
      open.ours.push(start + i++);
    } else {
      open.theirs.push(start + j++);
    }
  }
  return [...gaps, open];
}

/** Text that is equal for values which differ only in spelling and in the order of members. Keeps its own stack. */
export function canonical(value: JsonValue): string {
  const done: string[] = [];
  const pending: (JsonValue | { readonly close: JsonList | JsonObject })[] = [value];
  for (let next = pending.pop(); next !== undefined; next = pending.pop()) {
    if ('close' in next) {
      const { close } = next;
      if (close.kind === 'list') {
        done.push(`[${done.splice(done.length - close.items.length).join(',')}]`);
      } else {
        const keys = [...membersByKey(close).keys()];
        const texts = done.splice(done.length - keys.length);
        const members = keys.map((key, i) => `${quote(key)}:${texts[i]}`);
        done.push(`{${members.sort().join(',')}}`);
      }
    } else if (next.kind === 'list') {
      pending.push({ close: next }, ...[...next.items].reverse());
    } else if (next.kind === 'object') {
      pending.push({ close: next }, ...[...membersByKey(next).values()].map((each) => each.value).reverse());
    } else {
      done.push(canonicalScalar(next));
    }
  }
  return done[0]!;
}

function canonicalScalar(value: Exclude<JsonValue, JsonList | JsonObject>): string {
  switch (value.kind) {
    case 'null':
      return 'null';
    case 'boolean':
      return String(value.value);
    case 'number': {
      const { negative, digits, exponent } = decimalOf(value.text);
      return `${negative ? '-' : ''}${digits}e${exponent}`;
    }
    case 'string':
      return quote(value.value);
  }
}

/** Whether two values are the same in every digit and character; members may stand in another order. */
export function identical(before: JsonValue, after: JsonValue): boolean {
  const pending: [JsonValue, JsonValue][] = [[before, after]];
  for (let pair = pending.pop(); pair !== undefined; pair = pending.pop()) {
    const [a, b] = pair;
    switch (a.kind) {
      case 'null':
        if (b.kind !== 'null') return false;
        break;
      case 'boolean':
        if (b.kind !== 'boolean' || a.value !== b.value) return false;
        break;
      case 'number':
        if (b.kind !== 'number' || a.text !== b.text) return false;
        break;
      case 'string':
        if (b.kind !== 'string' || a.value !== b.value) return false;
        break;
      case 'list':
        if (b.kind !== 'list' || a.items.length !== b.items.length) return false;
        for (let i = 0; i < a.items.length; i++) pending.push([a.items[i]!, b.items[i]!]);
        break;
      case 'object': {
        if (b.kind !== 'object') return false;
        const ours = membersByKey(a);
        const theirs = membersByKey(b);
        if (ours.size !== theirs.size) return false;
        for (const [key, { value }] of ours) {
          const other = theirs.get(key);
          if (other === undefined) return false;
          pending.push([value, other.value]);
        }
      }
    }
  }
  return true;
}
