import { SkevoError } from '../core/error.js';
import { counted } from '../core/words.js';
import { parseJson } from '../core/json/parse.js';
import { json } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import { readSchema } from '../core/schema/read.js';
import { schemaToJson, type Schema } from '../core/schema/schema.js';
import type { Source } from '../core/json/source.js';
import { refreshSchema } from '../core/update/refresh.js';
import { Learner } from '../core/update/learn.js';
import { updateSchema, type SchemaChange } from '../core/update/update.js';
import { renderChanges } from '../report/changes.js';
import { changeToJson } from '../report/changes-json.js';
import type { InferOptions } from './commands/infer.js';
import { decisionsOf } from './decisions.js';
import { readSource } from '../formats/source.js';
import { refuseInputs } from './files.js';
import { writeWhole } from '../formats/write.js';
import { observe, payloadsOf } from './inputs.js';
import { placeOption } from './options.js';
import { readPayloads } from '../formats/read.js';
import { renderDecisions, renderDoubts } from '../report/explain.js';
import { out, print, say, talk } from './print.js';
import { boundedPatterns } from '../workbench/pattern.js';

/** Options that say what only a new schema can follow. */
const onlyForNew = ['name', 'save-observation', 'evidence'] as const;

/** Infers an existing schema anew, keeping what people wrote into it, and prints or writes it with the changes. */
export async function refreshExisting(chosen: InferOptions, path: string): Promise<void> {
  refuseForNew(chosen, '--refresh');
  const steers = await decisionsOf(chosen);
  const source = readSource(path);
  const old = { schema: readSchema(source), source };
  const { observation, inputs } = await observe(
    chosen,
    chosen.workers,
    (found) => refuseOutputs(chosen, found),
    true,
  );
  const { schema, text, changes, decisions, unmet } = await refreshSchema(
    observation,
    old,
    { choices: chosen.choices, decisions: steers },
    (schema) => readPayloads(inputs, placeOption(chosen.at), () => {}, { schema: () => schema }),
    boundedPatterns,
  );
  if (!chosen.quiet) {
    for (const note of unmet) say(`${talk.colours.warn('note:')} ${note}`);
    if (!chosen.explain) for (const line of renderDoubts(decisions, talk)) say(line);
  }
  // What is written otherwise and says the same stays as it is, to the byte.
  const outcome = {
    text: changes.length === 0 ? new TextDecoder().decode(source.bytes) : text,
    schema,
    changes,
  };
  await tell(chosen, path, source, outcome, observation.payloads, () => renderDecisions(decisions, out));
}

function refuseOutputs({ out: file }: InferOptions, inputs: readonly { path?: string }[]): void {
  refuseInputs(
    [['--out', file]],
    inputs.map((input) => input.path),
  );
}

function refuseForNew(chosen: InferOptions, option: '--update' | '--refresh'): void {
  if (chosen.to !== 'json-schema')
    throw new SkevoError(
      `--to ${chosen.to} cannot be given with ${option}`,
      'Leave it out: the schema stays what it is.',
    );
  const refused = onlyForNew.find((each) => chosen[each] !== undefined && chosen[each] !== false);
  if (refused === undefined) return;
  throw new SkevoError(
    `--${refused} cannot be given with ${option}`,
    'Leave it out: the schema keeps its name, and what changes is listed with its reason.',
  );
}

/** Teaches an existing schema what payloads contradict or add, and prints or writes it with the changes. */
export async function updateExisting(chosen: InferOptions, path: string): Promise<void> {
  refuseForNew(chosen, '--update');
  if (chosen.workers !== undefined)
    throw new SkevoError(
      '--workers cannot be given with --update',
      'Leave it out: payloads are learned one by one.',
    );
  const steers = await decisionsOf(chosen);
  const source = readSource(path);
  const known = readSchema(source);
  const learner = new Learner(known, source, boundedPatterns);
  const refuse = (inputs: readonly { path?: string }[]) => refuseOutputs(chosen, inputs);
  for await (const payload of payloadsOf(chosen, true, refuse, () => known)) learner.learn(payload);
  if (!learner.isFamiliar) {
    throw new SkevoError(
      `no payload has any of the keys that ${path} knows`,
      chosen.at === undefined
        ? 'If the records are inside each document, say where with --at; skevo outline shows it.'
        : 'Check --at and the schema; without --update, skevo infer makes a new one.',
    );
  }
  const { schema, changes } = updateSchema(learner, chosen.choices, steers);
  // A schema that nothing contradicts stays as it is written, to the byte.
  const text =
    changes.length === 0 ? new TextDecoder().decode(source.bytes) : `${writeJson(schemaToJson(schema), 2)}\n`;
  await tell(chosen, path, source, { text, schema, changes }, learner.payloads, () =>
    renderChanges(changes, out),
  );
}

interface ToldOutcome {
  readonly text: string;
  readonly schema: Schema;
  readonly changes: readonly SchemaChange[];
}

/** Writes or prints what became of a schema, and says how it changed. */
async function tell(
  chosen: InferOptions,
  path: string,
  source: Source,
  { text, schema, changes }: ToldOutcome,
  count: number,
  explanation: () => string,
): Promise<void> {
  if (chosen.out !== undefined && (changes.length > 0 || chosen.out !== path))
    await writeWhole(chosen.out, text);

  if (chosen.json) {
    const all = json.object([
      ['schema', changes.length === 0 ? parseJson(source).root : schemaToJson(schema)],
      ['changes', json.list(changes.map(changeToJson))],
    ]);
    print(writeJson(all, 2));
  } else if (chosen.explain) {
    print(explanation());
  } else if (chosen.out === undefined) {
    print(text);
  }
  if (chosen.quiet) return;
  if (changes.length > 0 && !chosen.json && !chosen.explain) say(renderChanges(changes, talk));
  const { good, name } = talk.colours;
  const what = counted(changes.length, 'change');
  const payloads = count === 1 ? '1 payload says' : `${count} payloads say`;
  if (changes.length === 0) say(good(`${payloads} nothing new to ${path}`));
  else if (chosen.out !== undefined) say(`wrote ${name(chosen.out)} with ${what}`);
}
