import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Min } from 'class-validator';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { inferSchema, type Decision } from '../../core/infer/infer.js';
import type { ChoicePolicy } from '../../core/infer/rule.js';
import { parseJson } from '../../core/json/parse.js';
import { json, type JsonValue } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import type { Mark } from '../../core/observe/mark.js';
import { saveObservation } from '../../core/observe/save.js';
import { readSchema } from '../../core/schema/read.js';
import { schemaToJson } from '../../core/schema/schema.js';
import { Learner } from '../../core/update/learn.js';
import { updateSchema, type SchemaChange } from '../../core/update/update.js';
import { renderChanges } from '../../report/changes.js';
import { renderDecisions } from '../../report/explain.js';
import { readSource, writeWhole } from '../files.js';
import { observe, payloadsOf, suggestName } from '../inputs.js';
import { payloadOptions, PayloadOptions, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';

class InferOptions extends PayloadOptions {
  @IsOptional()
  @IsString({ message: '--name is given more than once' })
  name?: string;

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsIn(['auto', 'open', 'closed', 'none'], { message: '--choices must be one of auto, open, closed, none' })
  choices: ChoicePolicy = 'auto';

  @IsOptional()
  @IsInt({ message: '--workers must be a whole number' })
  @Min(1, { message: '--workers must be at least 1' })
  workers?: number;

  @IsOptional()
  @IsString({ message: '--update is given more than once' })
  update?: string;

  @IsBoolean()
  evidence = false;

  @IsOptional()
  @IsString({ message: '--save-observation is given more than once' })
  'save-observation'?: string;

  @IsBoolean()
  explain = false;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  payloadOptions(argv)
    .option('name', { type: 'string', requiresArg: true, describe: 'what the payload is called' })
    .option('out', { type: 'string', requiresArg: true, describe: 'write the schema to this file' })
    .option('choices', {
      type: 'string',
      requiresArg: true,
      default: 'auto',
      describe: 'whether sets of repeated words are open to others: auto, open, closed, or none for no sets',
    })
    .option('workers', {
      type: 'number',
      requiresArg: true,
      describe: 'threads for large files of lines; one for each core when not given',
    })
    .option('update', {
      type: 'string',
      requiresArg: true,
      describe: 'teach this schema what the payloads contradict or add, and keep all else of it',
    })
    .option('evidence', {
      type: 'boolean',
      default: false,
      describe: 'write counts and examples into the schema',
    })
    .option('save-observation', {
      type: 'string',
      requiresArg: true,
      describe: 'write what was seen to this .observation file, to be read beside payloads later',
    })
    .option('explain', {
      type: 'boolean',
      default: false,
      describe: 'print every decision with its reason instead of the schema',
    })
    .option('json', {
      type: 'boolean',
      default: false,
      describe: 'schema, decisions and notes as one JSON document',
    });

/** Infers a JSON Schema and prints it, or the reasons for it; or teaches an existing one. */
export async function run(given: object): Promise<void> {
  const chosen = validated(InferOptions, given);
  if (chosen.update === undefined) await inferNew(chosen);
  else await updateExisting(chosen, chosen.update);
}

async function inferNew(chosen: InferOptions): Promise<void> {
  const { observation, inputs } = await observe(chosen, chosen.workers);
  if (chosen['save-observation'] !== undefined)
    await writeWhole(chosen['save-observation'], saveObservation(observation));
  const { schema, decisions, notes } = inferSchema(observation, {
    name: chosen.name ?? suggestName(inputs, chosen.at, observation),
    nameIsGiven: chosen.name !== undefined,
    choices: chosen.choices,
    evidence: chosen.evidence,
  });
  const document = schemaToJson(schema);
  const text = `${writeJson(document, 2)}\n`;
  if (chosen.out !== undefined) await writeWhole(chosen.out, text);
  if (!chosen.quiet) for (const note of notes) say(`${talk.colours.warn('note:')} ${note}`);

  if (chosen.json) {
    const all = json.object([
      ['schema', document],
      ['decisions', json.list(decisions.map(decisionToJson))],
      ['notes', json.list(notes.map(json.string))],
    ]);
    print(writeJson(all, 2));
  } else if (chosen.explain) {
    print(renderDecisions(decisions, out));
  } else if (chosen.out === undefined) {
    print(text);
  }
  if (chosen.out !== undefined && !chosen.quiet)
    say(`wrote ${talk.colours.name(chosen.out)} from ${observation.payloads} payloads`);
}

/** Options that say what only a new schema can follow. */
const onlyForNew = ['name', 'workers', 'save-observation', 'evidence', 'explain'] as const;

async function updateExisting(chosen: InferOptions, path: string): Promise<void> {
  const refused = onlyForNew.find((option) => chosen[option] !== undefined && chosen[option] !== false);
  if (refused !== undefined) {
    throw new SkevoError(
      `--${refused} cannot be given with --update`,
      'Leave it out: the schema keeps its name, and what changes is listed with its reason.',
    );
  }
  const source = readSource(path);
  const learner = new Learner(readSchema(source), source);
  for await (const payload of payloadsOf(chosen)) learner.learn(payload);
  const { schema, changes } = updateSchema(learner, chosen.choices);
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
  } else if (chosen.out === undefined) {
    print(text);
  }
  if (chosen.quiet) return;
  if (changes.length > 0 && !chosen.json) say(renderChanges(changes, talk));
  const { good, name } = talk.colours;
  const what = changes.length === 1 ? '1 change' : `${changes.length} changes`;
  const payloads = learner.payloads === 1 ? '1 payload says' : `${learner.payloads} payloads say`;
  if (changes.length === 0) say(good(`${payloads} nothing new to ${path}`));
  else if (chosen.out !== undefined) say(`wrote ${name(chosen.out)} with ${what}`);
}

function changeToJson({ place, was, now, because, first }: SchemaChange): JsonValue {
  return json.object([
    ['place', json.string(place)],
    ['was', json.string(was)],
    ['now', json.string(now)],
    ['because', json.string(because)],
    ['first', markToJson(first)],
  ]);
}

function markToJson({ file, line, column }: Mark): JsonValue {
  return json.object([
    ['file', json.string(file)],
    ['line', json.number(line)],
    ['column', json.number(column)],
  ]);
}

function decisionToJson({ place, rule, decision, because, first }: Decision): JsonValue {
  return json.object([
    ['place', json.string(place)],
    ['rule', json.string(rule)],
    ['decision', json.string(decision)],
    ['because', json.string(because)],
    ['first', first && markToJson(first)],
  ]);
}
