import { basename } from 'node:path';
import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import { buildModel } from '../core/model/build.js';
import { Coverage } from '../core/roundtrip/unproven.js';
import { readSource } from '../formats/source.js';
import { writeWhole } from '../formats/write.js';
import { languages } from '../languages/index.js';
import { make } from '../languages/make.js';
import type { Loaded } from '../schemas/load.js';
import { proven } from '../workbench/check-all.js';
import { joinResults, readResult, saveResult, type PartOfCheck } from '../workbench/saved-result.js';
import type { CheckOptions } from './commands/check.js';
import { conclude } from './concluded.js';
import { print } from './print.js';

/** Options that say how payloads are checked, where results are put together. */
const ofChecking = ['language', 'with', 'keep', 'at', 'input', 'vary'] as const;

/**
 * The saved results that a command line names.
 * @throws SkevoError where it names payloads too
 */
function partsOf(chosen: CheckOptions, schema: Source): [named: string, part: PartOfCheck][] {
  const payload = chosen.payload.find((path) => !/\.result$/i.test(path));
  if (payload !== undefined)
    throw new SkevoError(
      `${payload} and results of checks are given together`,
      'Check it with --save-result first, then put the results together.',
    );
  const option = ofChecking.find((name) => chosen[name] !== undefined && chosen[name] !== false);
  if (option !== undefined)
    throw new SkevoError(
      `--${option} cannot be given with results of checks`,
      'They say how they were made; give it to the checks that make them.',
    );
  const parts = chosen.payload.flatMap((path) =>
    Buffer.from(readSource(path).bytes)
      .toString()
      .split('\n')
      .flatMap((line, i): [string, PartOfCheck][] =>
        line.trim() === '' ? [] : [[path, readResult(line, i === 0 ? path : `${path}:${i + 1}`, schema)]],
      ),
  );
  if (parts.length === 0)
    throw new SkevoError(
      `there is no result in ${chosen.payload.join(', ')}`,
      'Were they made by skevo check --save-result?',
    );
  return parts;
}

/** One report of several checks. */
export async function combine(chosen: CheckOptions, loaded: Loaded): Promise<void> {
  const { schema, source } = loaded;
  const joint = joinResults(partsOf(chosen, source));
  if (chosen['save-result'] !== undefined) {
    const line = saveResult(joint, source);
    if (chosen['save-result'] === '-') return print(line);
    await writeWhole(chosen['save-result'], `${line}\n`);
  }
  const model = buildModel(schema, source);
  const targets = joint.languages.flatMap((each) => {
    const language = languages.find(({ name }) => name === each.language);
    const style = language?.styles.find(({ name }) => name === each.style);
    return language === undefined || style === undefined ? [] : [{ language, style, ...joint.settings }];
  });
  const made = make(model, targets, { origin: basename(chosen.schema) });
  const coverage = new Coverage(model);
  try {
    coverage.load(joint.coverage);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new SkevoError(
      `a result is damaged: ${error.message}`,
      'Make it again with skevo check --save-result.',
    );
  }
  const result = {
    payloads: joint.payloads,
    languages: joint.languages,
    ...proven(coverage, made, model),
  };
  const isNamed = joint.languages.map(({ state }) => state === 'failed');
  await conclude(chosen, loaded, {
    model,
    made,
    result,
    changes: joint.drift,
    documents: joint.documents,
    isNamed,
  });
}
