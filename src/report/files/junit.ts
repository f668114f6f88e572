import { create } from 'xmlbuilder2';
import { counted } from '../../core/words.js';
import type { Finding } from '../../core/roundtrip/finding.js';
import type { LanguageResult } from '../../workbench/check.js';
import type { ReportPart } from './report.js';

/** JUnit XML: a suite for each language of each schema, a case for each place at which something was lost. */
export function junitReport(parts: readonly ReportPart[]): string {
  const root = create({ version: '1.0', encoding: 'UTF-8' }).ele('testsuites', { name: 'skevo' });
  for (const part of parts) {
    const suites = [
      ...pendingSuites(part),
      ...part.result.languages.map((each) => ({
        name: `${part.name} ${each.language} ${each.style}`,
        classname: `${part.name}.${each.language}`,
        seconds: each.seconds,
        cases: casesOf(part, each),
      })),
    ];
    for (const { name: called, classname, seconds, cases } of suites) {
      const count = (kind: 'failure' | 'error' | 'skipped') =>
        String(cases.filter((one) => one.outcome === kind).length);
      const suite = root.ele('testsuite', {
        name: safe(called),
        tests: String(cases.length),
        failures: count('failure'),
        errors: count('error'),
        skipped: count('skipped'),
        time: seconds.toFixed(3),
      });
      for (const { name, outcome, message, text } of cases) {
        const testcase = suite.ele('testcase', {
          classname: safe(classname),
          name: safe(name),
          time: '0',
        });
        if (outcome !== undefined)
          testcase.ele(outcome, { message: safe(inOneLine(message)) }).txt(safe(text));
      }
    }
  }
  return `${root.end({ prettyPrint: true })}\n`;
}

interface Case {
  readonly name: string;
  readonly outcome?: 'failure' | 'error' | 'skipped';
  readonly message: string;
  readonly text: string;
}

/** That the files of a contract are not up to date, where a run may not change them. */
function pendingSuites({ name, pending = [] }: ReportPart) {
  if (pending.length === 0) return [];
  const message = 'skevo run would write files, and nothing is proven before';
  const failed: Case = {
    name: 'files are up to date',
    outcome: 'failure',
    message,
    text: pending.join('\n'),
  };
  return [{ name: `${name} files`, classname: `${name}.files`, seconds: 0, cases: [failed] }];
}

function casesOf({ result }: ReportPart, each: LanguageResult): Case[] {
  const reason = each.reason ?? '';
  if (each.state === 'not-run')
    return [{ name: 'round trip', outcome: 'skipped', message: reason, text: '' }];
  if (each.state === 'failed')
    return [{ name: 'build', outcome: 'error', message: reason.split('\n')[0]!, text: reason }];
  const losses = new Map<string, Finding[]>();
  for (const finding of each.findings)
    if (finding.severity === 'loss')
      losses.set(finding.place, [...(losses.get(finding.place) ?? []), finding]);
  if (losses.size === 0)
    return [
      {
        name: `${counted(result.payloads, 'payload')} ${result.payloads === 1 ? 'comes' : 'come'} back whole`,
        message: '',
        text: '',
      },
    ];
  return [...losses].map(([place, findings]) => ({
    name: place === '' ? 'the payload' : place,
    outcome: 'failure',
    message: `${findings[0]!.kind}: ${findings[0]!.cause}`,
    text: findings
      .slice(0, 20)
      .map(({ payload, line, column, kind, cause }) => `${payload}:${line}:${column}: ${kind}: ${cause}`)
      .join('\n'),
  }));
}

/** What readers of XML make of an attribute themselves (section 3.3.3), said as it is meant. */
function inOneLine(text: string): string {
  return text.replace(/\s*[\r\n]+\s*/g, '; ');
}

/** Text with nothing that XML 1.0 has no place for (section 2.2). */
function safe(text: string): string {
  return text.replace(/[^\u0009\u000a\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu, '\ufffd');
}
