import type { Finding } from './finding.js';

/** Findings that are alike of which each is kept; of more the last that is kept says how many there are. */
export const mostAlike = 100;

/** How often findings occurred, those counted that are left out. */
export function occurrencesOf(findings: readonly Finding[]): number {
  return findings.reduce((sum, { like = 0 }) => sum + 1 + like, 0);
}

/**
 * Findings in the order of their places in the payloads, of each kind at a place the first hundred: any number of payloads
 * gives a bounded number. What is condensed in parts and condensed again is what is condensed at once.
 */
export function condensed(findings: readonly Finding[]): Finding[] {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const group = groups.get(keyOf(finding));
    if (group === undefined) groups.set(keyOf(finding), [finding]);
    else group.push(finding);
  }
  const kept = [...groups.values()].flatMap((group) => {
    const count = occurrencesOf(group);
    if (count <= mostAlike) return group.map(alone);
    const first = group.toSorted(byPlace).slice(0, mostAlike).map(alone);
    return [...first.slice(0, -1), { ...first.at(-1)!, like: count - first.length }];
  });
  return kept.sort(byPlace);
}

function alone({ like: _like, ...finding }: Finding): Finding {
  return finding;
}

/** What is the same of findings that are alike: their causes but for the values in them. */
function keyOf({ kind, severity, place, way, cause }: Finding): string {
  return JSON.stringify([kind, severity, place, way, cause.replace(/"(?:[^"\\]|\\.)*"|-?\d[\d.]*/g, '')]);
}

/** The order of places in payloads. */
export function byPlace(a: Finding, b: Finding): number {
  if (a.payload !== b.payload) return a.payload < b.payload ? -1 : 1;
  return a.line - b.line || a.column - b.column;
}
