import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js';
import { createHash } from 'node:crypto';
import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import type { Source } from '../core/json/source.js';
import type { JsonValue } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import type { DatesRule } from '../core/model/dates.js';
import type { DocumentLoss, ProvenDocuments } from '../core/roundtrip/document.js';
import { findingKinds, type Finding } from '../core/roundtrip/finding.js';
import type { SavedCoverage } from '../core/roundtrip/unproven.js';
import type { SchemaChange } from '../core/update/update.js';
import type { BuildersRule, UnknownRule } from '../languages/language.js';
import type { LanguageResult } from './check.js';
import { joined } from './check-all.js';

/** What every saved result begins with. */
export const savedResultSign = '{"skevoResult":';

/** Changes when an older reader would misread. */
const version = 1;

/** How a check was made; results of other checks cannot be put together with its own. */
export interface CheckSettings {
  readonly unknown: UnknownRule;
  readonly dates?: DatesRule | undefined;
  readonly builders: BuildersRule;
  readonly strict: boolean;
}

/** What a check of one part of the payloads came to. */
export interface PartOfCheck {
  readonly settings: CheckSettings;
  readonly payloads: number;
  readonly languages: readonly LanguageResult[];
  readonly coverage: SavedCoverage;
  readonly drift: readonly SchemaChange[];
  readonly documents?: ProvenDocuments | undefined;
}

interface Saved extends PartOfCheck {
  readonly skevoResult: number;
  /** SHA-256 of the text of the schema. */
  readonly schema: string;
}

/** A value of a finding is saved as its JSON text, so that no digit of it is read as a double. */
const isValue = (key: string) => key === 'before' || key === 'after';

/** What a check of some of the payloads came to, as one line of JSON, to be put together elsewhere. */
export function saveResult(part: PartOfCheck, schema: Source): string {
  const saved: Saved = { skevoResult: version, schema: digestOf(schema), ...part };
  return JSON.stringify(saved, (key, value: unknown) =>
    isValue(key) && typeof value === 'object' ? writeJson(value as JsonValue) : value,
  );
}

const digestOf = ({ bytes }: Source) => createHash('sha256').update(bytes).digest('hex');

const count = { type: 'integer', minimum: 0, maximum: Number.MAX_SAFE_INTEGER };
const text = { type: 'string' };
const listOf = (items: object) => ({ type: 'array', items });
const tuple = (...items: readonly object[]) => ({
  type: 'array',
  prefixItems: items,
  items: false,
  minItems: items.length,
});
const record = (properties: Record<string, object>, optional: readonly string[] = []) => ({
  type: 'object',
  properties,
  required: Object.keys(properties).filter((key) => !optional.includes(key)),
  additionalProperties: false,
});
const place = record({ file: text, line: count, column: count });
const optionalOfFinding = ['before', 'after', 'otherKey', 'record', 'key', 'type', 'field', 'way', 'like'];
const finding = record(
  {
    kind: { enum: findingKinds },
    severity: { enum: ['loss', 'note'] },
    pointer: text,
    place: text,
    payload: text,
    line: count,
    column: count,
    cause: text,
    ...Object.fromEntries(optionalOfFinding.map((key) => [key, key === 'like' ? count : text])),
  },
  optionalOfFinding,
);

/** What `saveResult` writes, as a schema. */
const savedSchema = record(
  {
    skevoResult: count,
    schema: text,
    settings: record(
      {
        unknown: { enum: ['keep', 'drop', 'reject'] },
        dates: { enum: ['text', 'native'] },
        builders: { enum: ['on', 'off'] },
        strict: { type: 'boolean' },
      },
      ['dates'],
    ),
    payloads: { ...count, minimum: 1 },
    languages: listOf(
      record(
        {
          language: text,
          style: text,
          state: { enum: ['checked', 'not-run', 'failed'] },
          reason: text,
          returned: count,
          seconds: { type: 'number', minimum: 0 },
          findings: listOf(finding),
          limits: listOf(record({ way: text, says: text, count, first: finding })),
        },
        ['reason'],
      ),
    ),
    coverage: record({
      fields: listOf(tuple(count, count, count, count)),
      nulls: listOf(count),
      arms: listOf(count),
      words: listOf(tuple(count, listOf(text))),
    }),
    drift: listOf(
      record({
        place: text,
        was: text,
        now: text,
        because: text,
        first: { ...place, additionalProperties: true },
      }),
    ),
    documents: record({ documents: count, losses: listOf({ type: 'object' }) }),
  },
  ['documents'],
);

/** Compiled when the first is read: there may be thousands. */
let check: ValidateFunction | undefined;

/**
 * A saved result that somebody hands in, which may be damaged.
 * @param name what the text is called, for errors
 * @param schema what the payloads were checked against
 * @throws SkevoError when it is no saved result of this version, or is of another schema
 */
export function readResult(line: string, name: string, schema: Source): PartOfCheck {
  const damaged = (why: string): SkevoError =>
    new SkevoError(`${name} is a damaged result: ${why}`, 'Make it again with skevo check --save-result.');
  let saved: Saved;
  try {
    saved = JSON.parse(line) as Saved;
  } catch {
    throw damaged('it is not whole');
  }
  if (saved.skevoResult !== version)
    throw new SkevoError(
      `${name} is no result of this version of Skevo`,
      'Make it again with skevo check --save-result.',
    );
  check ??= new Ajv2020({ strict: false, logger: false }).compile(savedSchema);
  if (!check(saved)) {
    const [error] = check.errors!;
    throw damaged(`${error!.instancePath || 'the document'} ${error!.message}`);
  }
  if (saved.schema !== digestOf(schema))
    throw new SkevoError(
      `${name} is of a check against another schema than ${schema.name}`,
      'Give the schema as it was, to the byte.',
    );
  const findingOf = (each: Finding): Finding => ({
    ...each,
    ...valueOf('before', each.before, damaged),
    ...valueOf('after', each.after, damaged),
  });
  return {
    ...saved,
    languages: saved.languages.map((each) => ({
      ...each,
      findings: each.findings.map(findingOf),
      limits: each.limits.map((limit) => ({ ...limit, first: findingOf(limit.first) })),
    })),
  };
}

/** The value of a finding from its saved text. */
function valueOf(key: 'before' | 'after', value: unknown, damaged: (why: string) => SkevoError) {
  if (typeof value !== 'string') return {};
  try {
    const source = { name: key, bytes: new TextEncoder().encode(value), firstLine: 1 };
    return { [key]: parseJson(source).root };
  } catch (error) {
    if (error instanceof SkevoError) throw damaged(`a value in it is no JSON`);
    throw error;
  }
}

/**
 * What the parts of a check came to together, in whatever order they come.
 * @throws SkevoError when they are of checks that were made in other ways
 */
export function joinResults(parts: readonly [named: string, part: PartOfCheck][]): PartOfCheck {
  const [[first, start], ...others] = parts as [(typeof parts)[0], ...typeof parts];
  const targets = ({ languages }: PartOfCheck) => languages.map((each) => `${each.language} ${each.style}`);
  const how = (part: PartOfCheck) => JSON.stringify([part.settings, targets(part)]);
  const stranger = others.find(([, part]) => how(part) !== how(start));
  if (stranger !== undefined)
    throw new SkevoError(
      `${stranger[0]} and ${first} are of checks of other languages, or by other options`,
      'Check every part in the same way.',
    );
  const coverages = parts.map(([, { coverage }]) => coverage);
  const drift = new Map<string, SchemaChange>();
  for (const change of parts.flatMap(([, part]) => part.drift)) {
    const key = JSON.stringify([change.place, change.was, change.now]);
    const known = drift.get(key);
    if (known === undefined || isBefore(change, known)) drift.set(key, change);
  }
  const documents = parts.flatMap(([, part]) => part.documents ?? []);
  return {
    settings: start.settings,
    payloads: parts.reduce((sum, [, { payloads }]) => sum + payloads, 0),
    languages: start.languages.map((_, i) =>
      parts.map(([, { languages }]) => languages[i]!).reduce(together),
    ),
    coverage: {
      fields: coverages.flatMap(({ fields }) => fields),
      nulls: coverages.flatMap(({ nulls }) => nulls),
      arms: coverages.flatMap(({ arms }) => arms),
      words: coverages.flatMap(({ words }) => words),
    },
    drift: [...drift.values()].sort((a, b) => (isBefore(a, b) ? -1 : 1)),
    documents:
      documents.length === 0
        ? undefined
        : {
            documents: documents.reduce((sum, each) => sum + each.documents, 0),
            losses: documents.flatMap(({ losses }): readonly DocumentLoss[] => losses),
          },
  };
}

/** What became of a language in two parts: where one could not be run, that is what is said. */
function together(a: LanguageResult, b: LanguageResult): LanguageResult {
  if (a.state === 'checked' && b.state === 'checked') return joined(a, b);
  const worst = a.state === 'failed' || b.state === 'checked' ? a : b;
  return { ...worst, seconds: a.seconds + b.seconds };
}

function isBefore({ first: a }: SchemaChange, { first: b }: SchemaChange): boolean {
  if (a.file !== b.file) return a.file < b.file;
  return a.line !== b.line ? a.line < b.line : a.column < b.column;
}
