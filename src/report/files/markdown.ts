import type { Finding } from '../../core/roundtrip/finding.js';
import { counted } from '../../core/words.js';
import { lossesOf } from '../check.js';
import { driftKind } from '../drift.js';
import { unshown } from '../text.js';
import type { ReportPart } from './report.js';

const placesShown = 20;

/** A summary that fits the comment of a pull request. */
export function markdownReport(parts: readonly ReportPart[]): string {
  return `${parts.map(part).join('\n\n')}\n`;
}

function part({ name, result, drift, pending = [] }: ReportPart): string {
  const losses = result.languages.reduce((sum, each) => sum + lossesOf(each), 0);
  const failed = result.languages.filter(({ state }) => state === 'failed').length;
  const verdict =
    pending.length > 0
      ? '❌ not up to date'
      : losses > 0
        ? `❌ ${losses} ${losses === 1 ? 'loss' : 'losses'}`
        : failed > 0
          ? `❌ ${failed} not built`
          : '✅ nothing lost';
  const rows = result.languages.map((each) => {
    const outcome =
      each.state === 'checked'
        ? lossesOf(each) === 0
          ? `✅${each.limits.length === 0 ? '' : ` (known limits: ${each.limits.length})`}`
          : `❌ ${lossesOf(each)}`
        : each.state === 'failed'
          ? '❌ not built'
          : '➖ not run';
    const back = each.state === 'checked' ? `${each.returned} of ${result.payloads}` : '';
    return `| ${cell(each.language)} | ${cell(each.style)} | ${back} | ${outcome} |`;
  });
  const blocks = [`### ${text(name)}: ${verdict}`];
  if (rows.length > 0)
    blocks.push(
      ['| language | style | payloads back | result |', '| --- | --- | ---: | --- |', ...rows].join('\n'),
    );
  if (pending.length > 0)
    blocks.push(
      [
        'These would be written by `skevo run`, and nothing is proven before:',
        '',
        ...pending.slice(0, placesShown).map((path) => `- ${code(path)}`),
        ...(pending.length > placesShown ? [`- and ${pending.length - placesShown} more`] : []),
      ].join('\n'),
    );
  const places = byPlace(
    result.languages.flatMap(({ language, findings }) => findings.map((each) => ({ language, each }))),
  );
  if (places.length > 0) {
    const shown = places.slice(0, placesShown);
    blocks.push(
      [
        '| place | finding | languages | first |',
        '| --- | --- | --- | --- |',
        ...shown.map(
          ({ place, kind, cause, languages, first }) =>
            `| ${code(place === '' ? '(payload)' : place)} | **${kind}**: ${cell(cause.slice(0, 160))} | ${[...languages].join(', ')} | ${code(`${first.payload}:${first.line}`)} |`,
        ),
        ...(places.length > shown.length
          ? [`\n… and ${counted(places.length - shown.length, 'more place')}`]
          : []),
      ].join('\n'),
    );
  }
  if (drift.length > 0)
    blocks.push(
      [
        '**Drift**: the payloads say what the schema does not.',
        '',
        ...drift
          .slice(0, placesShown)
          .map(
            (each) =>
              `- ${driftKind(each)} ${code(each.place)}: ${text(each.was)} → ${text(each.now)} (${text(each.because)})`,
          ),
        ...(drift.length > placesShown ? [`- and ${drift.length - placesShown} more`] : []),
      ].join('\n'),
    );
  if (result.unproven.length > 0) blocks.push(`${unshown(result.unproven.length)}.`);
  return blocks.join('\n\n');
}

interface Grouped {
  readonly place: string;
  readonly kind: string;
  readonly cause: string;
  readonly languages: Set<string>;
  readonly first: Finding;
}

/** Losses by place, kind and cause. */
function byPlace(found: readonly { language: string; each: Finding }[]): Grouped[] {
  const groups = new Map<string, Grouped>();
  for (const { language, each } of found) {
    if (each.severity !== 'loss') continue;
    const key = JSON.stringify([each.place, each.kind, each.cause]);
    const group = groups.get(key) ?? {
      place: each.place,
      kind: each.kind,
      cause: each.cause,
      languages: new Set<string>(),
      first: each,
    };
    group.languages.add(language);
    groups.set(key, group);
  }
  return [...groups.values()];
}

/** Text in which nothing is markup, nothing becomes a link, and nobody is mentioned. */
function text(value: string): string {
  return value
    .replace(/[\p{C}\s]+/gu, ' ')
    .replace(/[<>&|\\]/g, (sign) => `&#${sign.charCodeAt(0)};`)
    .replace(/:(?=\/)|(?<=www)\./gi, (sign) => `&#${sign.charCodeAt(0)};`)
    .replace(/(?<!&)#|[`*_{}[\]()+~$!]/g, '\\$&')
    .replace(/(?<!&)[@#!]/g, (sign) => `${sign}\u200b`);
}

const cell = text;

/** Text as code. A bar ends a cell even inside code, and no backslash helps after another one. */
function code(value: string): string {
  if (value.includes('|')) return `<code>${text(value)}</code>`;
  const flat = value.replace(/[\p{C}\s]+/gu, ' ');
  if (flat === '') return '(payload)';
  const fence = '`'.repeat(Math.max(0, ...(flat.match(/`+/g) ?? []).map((run) => run.length)) + 1);
  const gap = fence.length > 1 || flat.trim() !== flat ? ' ' : '';
  return `${fence}${gap}${flat}${gap}${fence}`;
}
