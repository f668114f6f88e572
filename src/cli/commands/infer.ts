import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Min } from 'class-validator';
import { counted } from '../../core/words.js';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { inferSchema, type Decision } from '../../core/infer/infer.js';
import type { ChoicePolicy } from '../../core/infer/rule.js';
import { json, type JsonValue } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { saveObservation } from '../../core/observe/save.js';
import { schemaToJson, type Schema } from '../../core/schema/schema.js';
import { renderDecisions, renderDoubts } from '../../report/explain.js';
import { markToJson } from '../../report/mark-json.js';
import { writeWhole } from '../../formats/write.js';
import { refuseInputs } from '../files.js';
import { observe, suggestName } from '../inputs.js';
import { decisionsOf, SteeredOptions, steeringOptions } from '../decisions.js';
import { payloadOptions, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';

/** Whether sets of words are open, and what a schema is written in. */
export const choicePolicies = ['auto', 'open', 'closed', 'none'] as const satisfies readonly ChoicePolicy[];
export const schemaForms = ['json-schema', 'openapi', 'avro'] as const;

export class InferOptions extends SteeredOptions {
  @IsOptional()
  @IsString({ message: '--name is given more than once' })
  name?: string;

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsIn(choicePolicies, { message: `--choices must be one of ${choicePolicies.join(', ')}` })
  choices: ChoicePolicy = 'auto';

  @IsIn(schemaForms, { message: `--to must be one of ${schemaForms.join(', ')}` })
  to: (typeof schemaForms)[number] = 'json-schema';

  @IsOptional()
  @IsInt({ message: '--workers must be a whole number' })
  @Min(1, { message: '--workers must be at least 1' })
  workers?: number;

  @IsOptional()
  @IsString({ message: '--update is given more than once' })
  update?: string;

  @IsOptional()
  @IsString({ message: '--refresh is given more than once' })
  refresh?: string;

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
  steeringOptions(payloadOptions(argv))
    .option('name', { type: 'string', describe: 'what the payload is called' })
    .option('out', { type: 'string', describe: 'write the schema to this file' })
    .option('choices', {
      type: 'string',
      default: 'auto',
      describe: 'whether sets of repeated words are open to others: auto, open, closed, or none for no sets',
    })
    .option('to', {
      type: 'string',
      default: 'json-schema',
      describe: 'what the schema is written in: json-schema, openapi (components of a description), avro',
    })
    .option('workers', {
      type: 'number',
      describe: 'threads for large files of lines; one a core when not given',
    })
    .option('update', {
      type: 'string',
      describe: 'teach this schema what the payloads contradict or add, and keep all else of it',
    })
    .option('refresh', {
      type: 'string',
      describe: 'decide this schema anew from the payloads, and keep its names, descriptions and bounds',
    })
    .option('evidence', {
      type: 'boolean',
      default: false,
      describe: 'write counts and examples into the schema',
    })
    .option('save-observation', {
      type: 'string',
      describe:
        'write what was seen to this .observation file, to be read beside payloads later; - for one line on stdout and no schema',
    })
    .option('explain', {
      type: 'boolean',
      default: false,
      describe: 'print every decision with its reason instead of the schema',
    })
    .option('json', {
      type: 'boolean',
      default: false,
      describe: 'schema, decisions and notes as one document',
    });

/** Infers a JSON Schema and prints it, or the reasons for it; or teaches an existing one. */
export async function run(given: object): Promise<void> {
  const chosen = validated(InferOptions, given);
  if (chosen.update !== undefined && chosen.refresh !== undefined)
    throw new SkevoError(
      '--update and --refresh are given together',
      'Give one: --update keeps what the payloads do not contradict, --refresh decides it anew.',
    );
  if (chosen.refresh !== undefined)
    await (await import('../update.js')).refreshExisting(chosen, chosen.refresh);
  else if (chosen.update === undefined) await inferNew(chosen);
  else await (await import('../update.js')).updateExisting(chosen, chosen.update);
}

/** Options that say what becomes of a schema, where none is inferred. */
const ofSchemas = ['name', 'out', 'evidence', 'explain', 'json', 'decide', 'decisions'] as const;

/** One line of what was seen, for a pipe that puts together what was seen elsewhere; none where there was no payload. */
async function giveObservation(chosen: InferOptions): Promise<void> {
  const isGiven = (value: unknown) =>
    Array.isArray(value) ? value.length > 0 : value !== undefined && value !== false;
  const refused = ofSchemas.find((name) => isGiven(chosen[name]));
  if (refused !== undefined)
    throw new SkevoError(
      `--${refused} cannot be given with --save-observation -`,
      'Leave it out: no schema is inferred. Give it to the infer that reads the observations.',
    );
  const { observation } = await observe(chosen, chosen.workers, () => {}, false, true);
  if (observation.payloads > 0) print(saveObservation(observation));
  else if (!chosen.quiet) say(`${talk.colours.warn('note:')} there was no payload, and nothing is written`);
}

async function inferNew(chosen: InferOptions): Promise<void> {
  if (chosen['save-observation'] === '-') return giveObservation(chosen);
  const steers = await decisionsOf(chosen);
  const { observation, inputs } = await observe(chosen, chosen.workers, (found) =>
    refuseInputs(
      [
        ['--out', chosen.out],
        ['--save-observation', chosen['save-observation']],
      ],
      found.map(({ path }) => path),
    ),
  );
  if (chosen['save-observation'] !== undefined)
    await writeWhole(chosen['save-observation'], `${saveObservation(observation)}\n`);
  const {
    schema,
    decisions,
    notes: own,
    unmet,
  } = inferSchema(observation, {
    name: chosen.name ?? suggestName(inputs, chosen.at, observation),
    nameIsGiven: chosen.name !== undefined,
    choices: chosen.choices,
    evidence: chosen.evidence,
    decisions: steers,
  });
  const { document, renamed } = await writtenIn(chosen.to, schema);
  const notes = [...own, ...unmet, ...renamed];
  const text = `${writeJson(document, 2)}\n`;
  if (chosen.out !== undefined) await writeWhole(chosen.out, text);
  if (!chosen.quiet) {
    for (const note of notes) say(`${talk.colours.warn('note:')} ${note}`);
    if (!chosen.explain) for (const line of renderDoubts(decisions, talk)) say(line);
  }

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
    say(`wrote ${talk.colours.name(chosen.out)} from ${counted(observation.payloads, 'payload')}`);
}

/** A schema in its language, and notes on what is called otherwise in it. */
async function writtenIn(
  to: InferOptions['to'],
  schema: Schema,
): Promise<{ readonly document: JsonValue; readonly renamed: readonly string[] }> {
  if (to === 'avro') return (await import('../../schemas/avro/write.js')).asAvro(schema);
  if (to === 'json-schema') return { document: schemaToJson(schema), renamed: [] };
  const { describedAsOpenApi } = await import('../../schemas/openapi/write.js');
  return { document: describedAsOpenApi(schema), renamed: [] };
}

function decisionToJson({ place, rule, decision, because, first, doubt, otherwise }: Decision): JsonValue {
  return json.object([
    ['place', json.string(place)],
    ['rule', json.string(rule)],
    ['decision', json.string(decision)],
    ['because', json.string(because)],
    ['first', first && markToJson(first)],
    ['doubt', doubt === undefined ? undefined : json.number(Math.round(doubt * 1000) / 1000)],
    ['otherwise', otherwise === undefined ? undefined : json.string(otherwise)],
  ]);
}
