import { basename } from 'node:path';
import { writeJson } from '../core/json/write.js';
import type { TypeModel } from '../core/model/types.js';
import type { ProvenDocuments } from '../core/roundtrip/document.js';
import type { SchemaChange } from '../core/update/update.js';
import type { Made, Unmade } from '../languages/make.js';
import { checkToJson } from '../report/check-json.js';
import { lossesOf, renderCheck } from '../report/check.js';
import { renderDocuments } from '../report/documents.js';
import { renderDrift } from '../report/drift.js';
import type { Loaded } from '../schemas/load.js';
import type { CheckResult } from '../workbench/check-all.js';
import type { CheckOptions } from './commands/check.js';
import { exitCode } from './exit.js';
import { out, print, say, talk } from './print.js';

/** What is told of a check, however it came about. */
export interface Concluded {
  readonly model: TypeModel;
  readonly made: readonly (Made | Unmade)[];
  readonly result: CheckResult;
  readonly changes: readonly SchemaChange[];
  readonly documents: ProvenDocuments | undefined;
  /** By the position of a language: whether it was asked for by its name. */
  readonly isNamed: readonly boolean[];
}

/** Writes the reports of a check, prints what it came to, and says by the exit code whether something was lost. */
export async function conclude(
  chosen: CheckOptions,
  loaded: Loaded,
  { model, made, result, changes, documents, isNamed }: Concluded,
): Promise<void> {
  if (chosen.report.length > 0)
    await (
      await import('./report.js')
    ).writeReports(
      chosen.report,
      [{ name: model.name, schema: basename(chosen.schema), model, made, result, drift: changes }],
      chosen.quiet,
    );
  if (chosen.json) print(writeJson(checkToJson(result, changes, documents), 2));
  else {
    print(renderCheck(result, out));
    if (documents !== undefined && documents.documents > 0) print(`\n${renderDocuments(documents, out)}`);
    if (changes.length > 0)
      print(`\n${renderDrift(changes, loaded.isMade ? undefined : acceptBy(chosen), out)}`);
  }
  const results = result.languages;
  const isRefused =
    results.length > 0 && results.every(({ state, returned }) => state === 'checked' && returned === 0);
  if (isRefused && chosen.at === undefined && !chosen.quiet)
    say(
      `${talk.colours.warn('hint:')} every payload was refused; if the records are inside each document, say where with --at (skevo outline shows it)`,
    );
  const isLost = results.some((each) => lossesOf(each) > 0) || (documents?.losses.length ?? 0) > 0;
  if (isLost) process.exitCode = exitCode.findings;
  else if (!allRan(result, isNamed)) process.exitCode = exitCode.notRun;
}

/** Whether all that was asked for could be run, and something was. */
export function allRan({ languages }: CheckResult, isNamed: readonly boolean[]): boolean {
  const isMissing = languages.some(
    ({ state }, i) => state === 'failed' || (state === 'not-run' && isNamed[i]),
  );
  return !isMissing && languages.some(({ state }) => state === 'checked');
}

/** The command that teaches the schema what the payloads say. */
function acceptBy({ schema, payload, at }: CheckOptions): string {
  const quoted = (word: string) => (/^[\w./,:@=-]+$/.test(word) ? word : `'${word}'`);
  const place = at === undefined ? [] : ['--at', at];
  return ['skevo', 'infer', ...payload, ...place, '--update', schema, '--out', schema].map(quoted).join(' ');
}
