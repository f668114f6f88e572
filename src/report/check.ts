import { occurrencesOf } from '../core/roundtrip/condense.js';
import { findingKinds, type Finding } from '../core/roundtrip/finding.js';
import { parsePointer } from '../core/json/pointer.js';
import { quote, writeJson } from '../core/json/write.js';
import type { JsonValue } from '../core/json/value.js';
import type { Unproven } from '../core/roundtrip/unproven.js';
import type { LanguageResult } from '../workbench/check.js';
import type { CheckResult } from '../workbench/check-all.js';
import { hanging, shorten } from './text.js';
import { visible } from './visible.js';
import { table } from './table.js';
import type { Terminal } from './terminal.js';

const unprovenShown = 12;
const examplesShown = 2;

/** A summary, language by language, then the losses grouped by cause, the notes, and what no payload exercised. */
export function renderCheck(result: CheckResult, terminal: Terminal): string {
  const parts = [
    summary(result, terminal),
    ...result.languages.flatMap((each) => details(each, terminal)),
    ...notes(result.languages, terminal),
    ...limits(result.languages, terminal),
  ];
  if (result.unproven.length > 0) parts.push(unproven(result.unproven, terminal));
  return parts.join('\n\n');
}

export function lossesOf(result: LanguageResult): number {
  return occurrencesOf(result.findings.filter(({ severity }) => severity === 'loss'));
}

function summary({ payloads, languages }: CheckResult, { width, colours }: Terminal): string {
  const count = (result: LanguageResult, kind: string): string => {
    const found = result.findings.filter((finding) => finding.kind === kind);
    if (found.length === 0) return colours.faint('·');
    return found.some(({ severity }) => severity === 'loss')
      ? colours.bad(String(occurrencesOf(found)))
      : colours.warn(String(occurrencesOf(found)));
  };
  const kinds = findingKinds.filter((kind) =>
    languages.some(({ findings }) => findings.some((finding) => finding.kind === kind)),
  );
  const rows = languages.map((each) => [
    colours.name(each.language),
    colours.faint(visible(shorten(each.style, 24))),
    each.state === 'checked' ? `${each.returned} of ${payloads}` : colours.faint('·'),
    ...kinds.map((kind) => count(each, kind)),
    colours.faint(each.seconds.toFixed(1)),
    verdict(each, colours),
  ]);
  const columns = [
    { title: 'language' },
    { title: 'style' },
    { title: 'payloads back', align: 'right' as const },
    // What was found stands below, kind by kind.
    ...kinds.map((kind) => ({ title: kind, align: 'right' as const, spare: 1 })),
    { title: 'seconds', align: 'right' as const, spare: 2 },
    { title: 'result' },
  ];
  return table(columns, rows, width, colours.strong);
}

function verdict(result: LanguageResult, colours: Terminal['colours']): string {
  if (result.state === 'not-run') return colours.warn('not run');
  if (result.state === 'failed') return colours.bad('failed');
  const losses = lossesOf(result);
  const { length } = result.limits;
  const known = length === 0 ? '' : colours.faint(length === 1 ? ', 1 limit' : `, ${length} limits`);
  return losses === 0
    ? `${colours.good('nothing lost')}${known}`
    : colours.bad(losses === 1 ? '1 loss' : `${losses} losses`);
}

function details(result: LanguageResult, terminal: Terminal): string[] {
  const { colours } = terminal;
  const who = `${result.language} ${visible(result.style)}`;
  if (result.state !== 'checked') {
    return [
      `${colours.strong(`${who}: ${result.state === 'failed' ? 'failed' : 'not run'}`)}\n  ${(result.reason ?? '').split('\n').join('\n  ')}`,
    ];
  }
  const losses = grouped(
    result.findings.filter(({ severity }) => severity === 'loss'),
    ({ kind, place, cause, way = '' }) => `${kind}\n${place}\n${cause}\n${way}`,
  ).sort(([a], [b]) => findingKinds.indexOf(a.kind) - findingKinds.indexOf(b.kind));
  if (losses.length === 0) return [];
  return [[colours.strong(who), ...losses.map((group) => renderGroup(group, terminal))].join('\n')];
}

/** What is no loss: each cause once, with the languages that share it. */
function notes(languages: readonly LanguageResult[], terminal: Terminal): string[] {
  const byCause = new Map<string, { group: Group; who: string[]; counts: Set<number> }>();
  for (const { language, style, findings } of languages) {
    const own = grouped(
      findings.filter(({ severity }) => severity === 'note'),
      ({ cause }) => cause,
    );
    for (const group of own) {
      const known = byCause.get(group[0].cause);
      const who = `${language} ${visible(style)}`;
      if (known === undefined)
        byCause.set(group[0].cause, { group, who: [who], counts: new Set([occurrencesOf(group)]) });
      else {
        known.who.push(who);
        known.counts.add(occurrencesOf(group));
      }
    }
  }
  if (byCause.size === 0) return [];
  const { colours } = terminal;
  const lines = [...byCause.values()].map(({ group, who, counts }) => {
    const where = who.length === 1 ? who[0]! : `${who.length} languages`;
    const most = Math.max(...counts);
    const values = most === 1 ? '1 value' : `${most} values`;
    return renderNotes(group, counts.size === 1 ? values : `up to ${values}`, where, terminal);
  });
  return [[colours.strong('notes'), ...lines].join('\n')];
}

/** What ways in are known not to carry, a line each. */
function limits(languages: readonly LanguageResult[], { width, colours }: Terminal): string[] {
  const lines = languages.flatMap(({ language, style, limits: own }) =>
    own.map(({ way, says, count }) =>
      hanging(
        `  ${colours.warn('limit')}     `,
        `${language} ${visible(style)}, ${way}: ${says} (${count === 1 ? 'once' : `${count} times`})`,
        width,
      ),
    ),
  );
  return lines.length === 0
    ? []
    : [
        [
          `${colours.strong('known limits')}: calls that do not carry everything; all else of these came back`,
          ...lines,
        ].join('\n'),
      ];
}

type Group = readonly [Finding, ...Finding[]];

function grouped(findings: readonly Finding[], key: (finding: Finding) => string): Group[] {
  const groups = new Map<string, [Finding, ...Finding[]]>();
  for (const finding of findings) {
    const group = groups.get(key(finding));
    if (group === undefined) groups.set(key(finding), [finding]);
    else group.push(finding);
  }
  return [...groups.values()];
}

/** Notes of one cause in one line, with the first of them. */
function renderNotes(group: Group, times: string, where: string, { width, colours }: Terminal): string {
  const [first] = group;
  const at = `${first.payload}:${first.line}:${first.column}`;
  const change = `${excerpt(first.before, 24)} ${colours.faint('->')} ${excerpt(first.after, 24)}`;
  return hanging(
    `  ${colours.warn(first.kind.padEnd(9))} `,
    `${times} in ${where}, as in ${change} at ${colours.faint(at)}: ${first.cause}`,
    width,
  );
}

function renderGroup(group: Group, { width, colours }: Terminal): string {
  const [first] = group;
  const paint = first.severity === 'loss' ? colours.bad : colours.warn;
  const inCode =
    first.type === undefined
      ? ''
      : `  ${colours.faint(first.field === undefined ? first.type : `${first.type}.${first.field}`)}`;
  const way = first.way === undefined ? '' : `  through ${first.way}`;
  const count = occurrencesOf(group);
  const times = count === 1 ? '' : colours.faint(`  ${count} times`);
  const lines = [
    `  ${paint(first.kind.padEnd(9))} ${colours.name(visible(first.place) || 'the whole payload')}${inCode}${visible(way)}${times}`,
    hanging(' '.repeat(12), visible(first.cause), width),
  ];
  for (const finding of group.slice(0, examplesShown)) {
    const place = `${finding.payload}:${finding.line}:${finding.column}`;
    const room = Math.max(12, Math.floor((width - place.length - 26) / 2));
    const change =
      finding.before === undefined && finding.after === undefined
        ? ''
        : `  ${changeOf(finding, room, colours.faint('->'))}`;
    lines.push(`            ${colours.faint(place)}${change}`);
  }
  return lines.join('\n');
}

/** Before and after; for a renamed field the keys, since the value is the same. */
function changeOf({ kind, pointer, before, after, otherKey }: Finding, width: number, arrow: string): string {
  if (kind !== 'renamed') return `${excerpt(before, width)} ${arrow} ${excerpt(after, width)}`;
  const key = parsePointer(pointer)?.at(-1) ?? '';
  return `${visible(shorten(quote(key), width))} ${arrow} ${visible(shorten(quote(otherKey ?? ''), width))}`;
}

function excerpt(value: JsonValue | undefined, width: number): string {
  return value === undefined ? '(nothing)' : visible(shorten(writeJson(value), width));
}

function unproven(states: readonly Unproven[], { width, colours }: Terminal): string {
  const shown = states.slice(0, unprovenShown);
  const rows = shown.map(({ pointer, state }) => [`  ${visible(pointer) || '(payload)'}`, state]);
  const more =
    states.length > shown.length ? `\n  and ${states.length - shown.length} more; --json lists them all` : '';
  return `${colours.strong('unproven')}: the types allow this, but no payload shows it\n${table([{ title: '' }, { title: '' }], rows, width, colours.strong)}${more}`;
}
