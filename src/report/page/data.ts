import type { Finding } from '../../core/roundtrip/finding.js';
import type { JsonValue } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { occurrencesOf } from '../../core/roundtrip/condense.js';
import { lossesOf } from '../check.js';
import { driftKind } from '../drift.js';
import type { ReportPart } from '../files/report.js';

/** What the page shows, as it stands in it. Names are short: there may be thousands of each. */
export interface PageData {
  readonly parts: readonly PagePart[];
}

export interface PagePart {
  readonly name: string;
  readonly schema: string;
  readonly payloads: number;
  readonly languages: readonly {
    readonly language: string;
    readonly style: string;
    readonly state: string;
    readonly reason: string;
    readonly returned: number;
    readonly losses: number;
    readonly notes: number;
  }[];
  readonly fields: readonly PageField[];
  readonly findings: readonly PageFinding[];
  readonly drift: readonly { kind: string; place: string; was: string; now: string; because: string }[];
  readonly unproven: readonly { pointer: string; state: string }[];
}

export interface PageField {
  readonly place: string;
  /** The record of the model. */
  readonly record: string;
  readonly state: string;
  readonly present: number;
  readonly absent: number;
  readonly nulls: number;
  readonly unproven: readonly string[];
}

/** Findings of one language that are alike. */
export interface PageFinding {
  /** The position of the language. */
  readonly language: number;
  /** The position of the field; -1 for the whole payload. */
  readonly field: number;
  readonly kind: string;
  readonly severity: string;
  readonly place: string;
  readonly cause: string;
  readonly count: number;
  readonly examples: readonly PageExample[];
  /** The generated lines of the field. */
  readonly code?: { readonly path: string; readonly line: number; readonly lines: readonly string[] };
}

export interface PageExample {
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly pointer: string;
  readonly before?: string;
  readonly after?: string;
  /** Lines of the payload around the place, the first being of this number. */
  readonly from?: number;
  readonly lines?: readonly string[];
}

const examplesShown = 3;
const longestValue = 240;
const longestLine = 160;

export function pageData(parts: readonly ReportPart[]): PageData {
  return { parts: parts.map(pagePart) };
}

function pagePart(part: ReportPart): PagePart {
  const { result } = part;
  const fields = result.fields.map(({ record, field, place, present, absent, nulls }): PageField => ({
    place,
    record,
    state: `${field.required ? 'always there' : 'optional'}${field.nullable ? ', nullable' : ''}`,
    present,
    absent,
    nulls,
    unproven: result.unproven.filter(({ pointer }) => pointer === place).map(({ state }) => state),
  }));
  const byKey = new Map(
    result.fields.map(({ record, field }, i) => [JSON.stringify([record, field.key]), i]),
  );
  const byPlace = new Map(fields.map(({ place }, i) => [place, i]));
  /** The field of a finding: its own, or that which holds its place. */
  const fieldOf = ({ record, key, place }: Finding): number => {
    const own = byKey.get(JSON.stringify([record, key]));
    if (own !== undefined && key !== undefined) return own;
    for (let here = place; here !== ''; here = here.slice(0, here.lastIndexOf('/'))) {
      const found = byPlace.get(here);
      if (found !== undefined) return found;
    }
    return -1;
  };
  return {
    name: part.name,
    schema: part.schema,
    payloads: result.payloads,
    languages: result.languages.map((each) => ({
      language: each.language,
      style: each.style,
      state: each.state,
      reason: each.reason ?? '',
      returned: each.returned,
      losses: lossesOf(each),
      notes: occurrencesOf(each.findings) - lossesOf(each),
    })),
    fields,
    findings: result.languages.flatMap(({ findings }, language) =>
      grouped(findings).map((group): PageFinding => {
        const [first] = group;
        return {
          language,
          field: fieldOf(first!),
          kind: first!.kind,
          severity: first!.severity,
          place: first!.place,
          cause: first!.cause,
          count: occurrencesOf(group),
          examples: group.slice(0, examplesShown).map((each) => example(each, part)),
          ...code(part, language, first!),
        };
      }),
    ),
    drift: part.drift.map((each) => ({
      kind: driftKind(each),
      place: each.place,
      was: each.was,
      now: each.now,
      because: each.because,
    })),
    unproven: result.unproven.map(({ pointer, state }) => ({ pointer, state })),
  };
}

function grouped(findings: readonly Finding[]): Finding[][] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = JSON.stringify([finding.kind, finding.severity, finding.place, finding.cause]);
    const group = groups.get(key);
    if (group === undefined) groups.set(key, [finding]);
    else group.push(finding);
  }
  return [...groups.values()];
}

function example(finding: Finding, { linesOf }: ReportPart): PageExample {
  const { payload, line, column, pointer } = finding;
  const all = linesOf(payload);
  const from = Math.max(1, line - 2);
  const lines = all?.slice(from - 1, line + 2).map((each) => clip(each, longestLine));
  return {
    file: payload,
    line,
    column,
    pointer,
    ...valueText('before', finding.before),
    ...valueText('after', finding.after),
    ...(lines === undefined ? {} : { from, lines }),
  };
}

function valueText(name: 'before' | 'after', value: JsonValue | undefined) {
  return value === undefined ? {} : { [name]: clip(writeJson(value), longestValue) };
}

function clip(text: string, width: number): string {
  return text.length <= width ? text : `${text.slice(0, width - 1)}…`;
}

/** The lines of generated code that declare the field of a finding. */
function code(part: ReportPart, language: number, { type, field }: Finding): Pick<PageFinding, 'code'> {
  const made = part.made[language];
  if (made === undefined || 'trouble' in made || type === undefined || field === undefined) return {};
  const word = (name: string) =>
    new RegExp(`(?<![\\p{L}\\p{N}_])${name.replace(/[^\p{L}\p{N}_]/gu, '\\$&')}(?![\\p{L}\\p{N}_])`, 'u');
  const isDeclaration = new RegExp(`(class|struct|record|interface|type)\\s+${word(type).source}`, 'u');
  for (const { path, text } of made.emitted.files) {
    const lines = text.split('\n');
    const start = lines.findIndex((each) => isDeclaration.test(each) && !each.trim().endsWith(';'));
    if (start < 0) continue;
    const at = lines.findIndex((each, i) => i > start && word(field).test(each));
    if (at < 0) continue;
    const from = Math.max(start, at - 2);
    return {
      code: {
        path,
        line: at + 1,
        lines: [...(from > start ? [lines[start]!, '…'] : []), ...lines.slice(from, at + 2)].map((each) =>
          clip(each, longestLine),
        ),
      },
    };
  }
  return {};
}
