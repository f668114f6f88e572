import { findingKinds, type Finding } from '../core/roundtrip/finding.js';
import { writeJson } from '../core/json/write.js';
import type { JsonValue } from '../core/json/value.js';
import type { Unproven } from '../core/roundtrip/unproven.js';
import type { LanguageResult } from '../workbench/check.js';
import { shorten, visible } from './text.js';
import { table } from './table.js';
import type { Terminal } from './terminal.js';

/** The outcome of a check. */
export interface CheckResult {
  readonly payloads: number;
  readonly languages: readonly LanguageResult[];
  readonly unproven: readonly Unproven[];
}

const unprovenShown = 12;
const examplesShown = 2;

/** A summary with the languages across, then the findings grouped by cause, then what no payload exercised. */
export function renderCheck(result: CheckResult, terminal: Terminal): string {
  const parts = [summary(result, terminal), ...result.languages.flatMap((each) => details(each, terminal))];
  if (result.unproven.length > 0) parts.push(unproven(result.unproven, terminal));
  return parts.join('\n\n');
}

export function lossesOf(result: LanguageResult): number {
  return result.findings.filter(({ severity }) => severity === 'loss').length;
}

function summary({ payloads, languages }: CheckResult, { width, colours }: Terminal): string {
  const count = (result: LanguageResult, kind: string): string => {
    const found = result.findings.filter((finding) => finding.kind === kind);
    if (found.length === 0) return colours.faint('·');
    return found.some(({ severity }) => severity === 'loss') ? colours.bad(String(found.length)) : colours.warn(String(found.length));
  };
  const kinds = findingKinds.filter((kind) => languages.some(({ findings }) => findings.some((finding) => finding.kind === kind)));
  const rows = [
    ['', ...languages.map(({ style }) => colours.faint(visible(shorten(style, 24))))],
    ['payloads back', ...languages.map((each) => (each.state === 'checked' ? `${each.returned} of ${payloads}` : colours.faint('·')))],
    ...kinds.map((kind) => [kind, ...languages.map((each) => count(each, kind))]),
    ['seconds', ...languages.map(({ seconds }) => colours.faint(seconds.toFixed(1)))],
    [colours.strong('result'), ...languages.map((each) => verdict(each, colours))],
  ];
  const columns = [{ title: '' }, ...languages.map(({ language }) => ({ title: language, align: 'right' as const }))];
  return table(columns, rows, width, colours.strong);
}

function verdict(result: LanguageResult, colours: Terminal['colours']): string {
  if (result.state === 'not-run') return colours.warn('not run');
  if (result.state === 'failed') return colours.bad('failed');
  const losses = lossesOf(result);
  return losses === 0 ? colours.good('nothing lost') : colours.bad(losses === 1 ? '1 loss' : `${losses} losses`);
}

function details(result: LanguageResult, terminal: Terminal): string[] {
  const { colours } = terminal;
  const who = `${result.language} ${visible(result.style)}`;
  if (result.state !== 'checked') {
    return [`${colours.strong(`${who}: ${result.state === 'failed' ? 'failed' : 'not run'}`)}\n  ${(result.reason ?? '').split('\n').join('\n  ')}`];
  }
  if (result.findings.length === 0) return [];
  const groups = new Map<string, Finding[]>();
  for (const finding of result.findings) {
    const key = `${finding.kind}\n${finding.place}\n${finding.cause}`;
    groups.set(key, [...(groups.get(key) ?? []), finding]);
  }
  return [
    [
      colours.strong(who),
      ...[...groups.values()].map((group) => renderGroup(group, terminal)),
    ].join('\n'),
  ];
}

function renderGroup(group: readonly Finding[], { width, colours }: Terminal): string {
  const [first] = group as [Finding];
  const paint = first.severity === 'loss' ? colours.bad : colours.warn;
  const inCode = first.type === undefined ? '' : `  ${colours.faint(first.field === undefined ? first.type : `${first.type}.${first.field}`)}`;
  const times = group.length === 1 ? '' : colours.faint(`  ${group.length} times`);
  const lines = [`  ${paint(first.kind.padEnd(9))} ${colours.name(visible(first.place) || 'the whole payload')}${inCode}${times}`, `            ${visible(shorten(first.cause, Math.max(40, width * 2)))}`];
  for (const finding of group.slice(0, examplesShown)) {
    const place = `${finding.payload}:${finding.line}:${finding.column}`;
    const room = Math.max(12, Math.floor((width - place.length - 26) / 2));
    const change = finding.before === undefined && finding.after === undefined ? '' : `  ${excerpt(finding.before, room)} ${colours.faint('->')} ${excerpt(finding.after, room)}`;
    lines.push(`            ${colours.faint(place)}${change}`);
  }
  return lines.join('\n');
}

function excerpt(value: JsonValue | undefined, width: number): string {
  return value === undefined ? '(nothing)' : visible(shorten(writeJson(value), width));
}

function unproven(states: readonly Unproven[], { width, colours }: Terminal): string {
  const shown = states.slice(0, unprovenShown);
  const rows = shown.map(({ pointer, state }) => [`  ${visible(pointer) || '(payload)'}`, state]);
  const more = states.length > shown.length ? `\n  and ${states.length - shown.length} more; --json lists them all` : '';
  return `${colours.strong('unproven')}: the types allow this, but no payload shows it\n${table([{ title: '' }, { title: '' }], rows, width, colours.strong)}${more}`;
}
