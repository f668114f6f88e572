import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { json } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import { readSchema } from '../core/schema/read.js';
import { schemaToJson } from '../core/schema/schema.js';
import { Learner } from '../core/update/learn.js';
import { updateSchema } from '../core/update/update.js';
import { renderChanges } from '../report/changes.js';
import { changeToJson } from '../report/changes-json.js';
import type { InferOptions } from './commands/infer.js';
import { decisionsOf } from './decisions.js';
import { readSource, refuseInputs } from './files.js';
import { writeWhole } from '../formats/write.js';
import { payloadsOf } from './inputs.js';
import { out, print, say, talk } from './print.js';
import { boundedPatterns } from '../workbench/pattern.js';

/** Options that say what only a new schema can follow. */
const onlyForNew = ['name', 'workers', 'save-observation', 'evidence'] as const;

/** Teaches an existing schema what payloads contradict or add, and prints or writes it with the changes. */
export async function updateExisting(chosen: InferOptions, path: string): Promise<void> {
  const refused = onlyForNew.find((option) => chosen[option] !== undefined && chosen[option] !== false);
  if (refused !== undefined) {
    throw new SkevoError(
      `--${refused} cannot be given with --update`,
      'Leave it out: the schema keeps its name, and what changes is listed with its reason.',
    );
  }
  const steers = await decisionsOf(chosen);
  const source = readSource(path);
  const learner = new Learner(readSchema(source), source, boundedPatterns);
  const refuse = (inputs: readonly { path?: string }[]) =>
    refuseInputs(
      [['--out', chosen.out]],
      inputs.map((input) => input.path),
    );
  for await (const payload of payloadsOf(chosen, true, refuse)) learner.learn(payload);
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
  if (chosen.out !== undefined && (changes.length > 0 || chosen.out !== path))
    await writeWhole(chosen.out, text);

  if (chosen.json) {
    const all = json.object([
      ['schema', changes.length === 0 ? parseJson(source).root : schemaToJson(schema)],
      ['changes', json.list(changes.map(changeToJson))],
    ]);
    print(writeJson(all, 2));
  } else if (chosen.explain) {
    print(renderChanges(changes, out));
  } else if (chosen.out === undefined) {
    print(text);
  }
  if (chosen.quiet) return;
  if (changes.length > 0 && !chosen.json && !chosen.explain) say(renderChanges(changes, talk));
  const { good, name } = talk.colours;
  const what = changes.length === 1 ? '1 change' : `${changes.length} changes`;
  const payloads = learner.payloads === 1 ? '1 payload says' : `${learner.payloads} payloads say`;
  if (changes.length === 0) say(good(`${payloads} nothing new to ${path}`));
  else if (chosen.out !== undefined) say(`wrote ${name(chosen.out)} with ${what}`);
}
