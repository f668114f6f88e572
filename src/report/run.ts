import type { Outcome } from '../project/run.js';
import { counted } from '../core/words.js';
import { lossesOf, renderCheck } from './check.js';
import { renderDocuments } from './documents.js';
import { renderChanges } from './changes.js';
import type { Terminal } from './terminal.js';
import { shellArgument, unshown } from './text.js';

const filesShown = 8;

/** What a run did, or would do; nothing of contracts in which nothing happened. */
export function renderRun(outcomes: readonly Outcome[], locked: boolean, terminal: Terminal): string {
  return outcomes.flatMap((outcome) => contract(outcome, locked, terminal)).join('\n\n');
}

function contract(outcome: Outcome, locked: boolean, terminal: Terminal): string[] {
  const { name, changes, isGiven, files, stale, check, documents } = outcome;
  const { colours } = terminal;
  const troubled = check?.languages.some((each) => each.state === 'failed' || lossesOf(each) > 0) ?? false;
  const isLost = documents !== undefined && documents.losses.length > 0;
  const differs = isGiven && changes !== undefined && changes.length > 0;
  if (files.length === 0 && stale.length === 0 && !troubled && !isLost && !differs) return [];
  const parts: string[] = [];
  if (changes !== undefined && changes.length > 0) {
    const says = locked || isGiven ? 'the samples say what the schema does not' : 'learned from the samples';
    parts.push(`${says}:\n${indented(renderChanges(changes, terminal))}`);
  }
  if (files.length > 0) {
    const verb = locked ? 'would write' : 'wrote';
    const more = files.length > filesShown ? [`${verb} ${files.length - filesShown} more`] : [];
    parts.push(
      [...files.slice(0, filesShown).map((path) => `${verb} ${colours.name(path)}`), ...more].join('\n'),
    );
  }
  if (stale.length > 0)
    parts.push(stale.map((path) => `${colours.warn('made no more:')} ${path}; remove it`).join('\n'));
  if (troubled) parts.push(renderCheck(check!, terminal));
  else if (check !== undefined) parts.push(verdict(outcome, terminal));
  if (documents !== undefined) parts.push(renderDocuments(documents, terminal));
  if (locked && files.length > 0)
    parts.push(
      `accept it with: ${colours.strong(`skevo run ${/^\w[\w.-]*$/.test(name) ? name : shellArgument(name)}`)}`,
    );
  return [`${colours.strong(name)}\n${indented(parts.join('\n'))}`];
}

function verdict({ check, contract }: Outcome, { colours }: Terminal): string {
  const { payloads, languages, unproven } = check!;
  const checked = languages.filter(({ state }) => state === 'checked').map(({ language }) => language);
  const missing = languages.filter(({ state }) => state === 'not-run').map(({ language }) => language);
  if (contract.languages.length === 0) return colours.faint(`${counted(payloads, 'payload')}, no languages`);
  return [
    ...(checked.length > 0
      ? [
          `${colours.good('nothing lost')} of ${counted(payloads, 'payload')} in ${[...new Set(checked)].join(', ')}`,
        ]
      : []),
    ...(missing.length > 0
      ? [`${colours.warn('not run:')} ${[...new Set(missing)].join(', ')} (skevo languages says why)`]
      : []),
    ...(unproven.length > 0 ? [colours.faint(unshown(unproven.length))] : []),
  ].join('\n');
}

function indented(text: string): string {
  return text.replace(/^(?=.)/gm, '  ');
}
