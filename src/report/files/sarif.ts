import type { Log, ReportingDescriptor, Result } from 'sarif';
import type { Finding, FindingKind } from '../../core/roundtrip/finding.js';
import type { ReportPart } from './report.js';

const meanings: Readonly<Record<FindingKind, string>> = {
  lost: 'A field or element is gone after the round trip.',
  added: 'A field or element is there after the round trip that was not before.',
  renamed: 'A field comes back under another key.',
  emptied: 'A value comes back as null.',
  filled: 'Null comes back as a value.',
  retyped: 'A value comes back as another JSON type.',
  altered: 'A value comes back as another value of the same type.',
  shuffled: 'Elements come back in another order.',
  refused: 'The decoder refuses a payload.',
  crashed: 'The program ends or runs out of time.',
  respelled: 'The same value comes back in another spelling.',
};

/** SARIF 2.1.0 (OASIS Standard): a result for each finding, at its place in the payload. */
export function sarifReport(parts: readonly ReportPart[], version: string): string {
  const kinds = Object.keys(meanings) as FindingKind[];
  const rules = kinds.map((kind): ReportingDescriptor => ({
    id: kind,
    shortDescription: { text: meanings[kind] },
    defaultConfiguration: { level: kind === 'respelled' ? 'note' : 'error' },
  }));
  rules.push({
    id: outdated,
    shortDescription: { text: 'A schema or class is not what the samples make of it.' },
    defaultConfiguration: { level: 'error' },
  });
  const results = parts.flatMap((part) => [
    ...(part.pending ?? []).map((path) => pendingOf(part.name, path, kinds.length)),
    ...part.result.languages.flatMap((each) =>
      each.findings.map((finding) => resultOf(part.name, each.language, each.style, finding, kinds)),
    ),
  ]);
  const notRun = parts.flatMap(({ result }) => result.languages.filter(({ state }) => state !== 'checked'));
  const log: Log = {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Skevo', semanticVersion: version, rules } },
        columnKind: 'unicodeCodePoints',
        invocations: [
          {
            executionSuccessful: notRun.every(({ state }) => state !== 'failed'),
            toolExecutionNotifications: notRun.map(({ language, style, state, reason }) => ({
              level: state === 'failed' ? 'error' : 'warning',
              message: { text: `${language} ${style}: ${state}${reason === undefined ? '' : `: ${reason}`}` },
            })),
          },
        ],
        results,
      },
    ],
  };
  return `${JSON.stringify(log, null, 2)}\n`;
}

/** The rule of files that a run would write. */
const outdated = 'outdated';

function pendingOf(contract: string, path: string, ruleIndex: number): Result {
  return {
    ruleId: outdated,
    ruleIndex,
    level: 'error',
    message: { text: `skevo run would write ${path}, and nothing is proven before` },
    locations: [
      {
        physicalLocation: {
          artifactLocation: { uri: uriOf(path) },
          region: { startLine: 1, startColumn: 1 },
        },
      },
    ],
    properties: { contract },
  };
}

const uriOf = (path: string): string => encodeURI(path).replace(/[?#]/g, encodeURIComponent);

function resultOf(
  part: string,
  language: string,
  style: string,
  finding: Finding,
  kinds: readonly FindingKind[],
): Result {
  const place = finding.place === '' ? 'the payload' : finding.place;
  return {
    ruleId: finding.kind,
    ruleIndex: kinds.indexOf(finding.kind),
    level: finding.severity === 'loss' ? 'error' : 'note',
    message: { text: `${language}: ${finding.kind} ${place}: ${finding.cause}` },
    locations: [
      {
        physicalLocation: {
          artifactLocation: { uri: uriOf(finding.payload) },
          region: { startLine: finding.line, startColumn: finding.column },
        },
        logicalLocations: [
          { fullyQualifiedName: finding.pointer === '' ? '/' : finding.pointer, kind: 'member' },
        ],
      },
    ],
    ...(finding.like === undefined ? {} : { occurrenceCount: 1 + finding.like }),
    properties: { contract: part, language, style },
  };
}
