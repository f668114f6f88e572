import { once } from 'node:events';
import { extname } from 'node:path';
import { PassThrough } from 'node:stream';
import { IsBoolean, IsIn, IsOptional, IsString } from 'class-validator';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { inferSchema } from '../../core/infer/infer.js';
import { formatPointer } from '../../core/json/pointer.js';
import { excerptOf, placeOf } from '../../core/json/source.js';
import { compareValues } from '../../core/roundtrip/compare.js';
import type { JsonValue } from '../../core/json/value.js';
import type { Payload } from '../../core/roundtrip/payload.js';
import type { SchemaValidator } from '../../core/schema/apply.js';
import { readUnder } from '../../core/schema/conform.js';
import { resolveReference } from '../../core/schema/resolve.js';
import type { Schema } from '../../core/schema/schema.js';
import type { Loaded } from '../../schemas/load.js';
import { wordsOf, counted } from '../../core/words.js';
import { isText } from '../../formats/write-as.js';
import { convert, rejectedLine, type Changed, type Reason, type TargetName } from '../../formats/convert.js';
import { formatNames } from '../../formats/format.js';
import type { Input } from '../../formats/inputs.js';
import { writeWhole } from '../../formats/write.js';
import { exitCode } from '../exit.js';
import { refuseInputs } from '../files.js';
import { namedInputs, observe, payloadsOf, placeName, suggestName } from '../inputs.js';
import { PayloadOptions, payloadOptions, validated } from '../options.js';
import type { ReadMapping } from '../mappings.js';
import { giveAll, noteTaker, say, talk } from '../print.js';

export const targets: readonly TargetName[] = [...formatNames, 'ndjson'];

class ConvertOptions extends PayloadOptions {
  @IsOptional()
  @IsIn(targets, { message: `--to must be one of ${targets.join(', ')}` })
  to?: TargetName;

  @IsOptional()
  @IsString({ message: '--schema is given more than once' })
  schema?: string;

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsOptional()
  @IsString({ message: '--rejects is given more than once' })
  rejects?: string;

  @IsOptional()
  @IsString({ message: '--mapping is given more than once' })
  mapping?: string;

  @IsOptional()
  @IsString({ message: '--back is given more than once' })
  back?: string;

  @IsBoolean()
  strict = false;

  @IsOptional()
  @IsString({ message: '--name is given more than once' })
  name?: string;
}

export const options = (argv: Argv) =>
  payloadOptions(argv)
    .option('to', {
      type: 'string',
      describe: `what they are written in, where the name of --out does not say it: ${targets.join(', ')}`,
    })
    .option('schema', {
      type: 'string',
      describe: 'what the payloads must meet, and how texts without types are read',
    })
    .option('out', { type: 'string', describe: 'write to this file' })
    .option('rejects', {
      type: 'string',
      describe: 'write payloads that do not go on to this file, with the reasons, and go on with the others',
    })
    .option('mapping', {
      type: 'string',
      describe: 'make payloads of another schema, as this file says',
    })
    .option('back', {
      type: 'string',
      describe: 'a mapping the other way: prove that both together lose nothing of the payloads',
    })
    .option('strict', {
      type: 'boolean',
      default: false,
      describe: 'refuse a mapping that leaves something of the source behind',
    })
    .option('name', {
      type: 'string',
      describe: 'what a payload is called: its element in XML',
    });

/** Writes payloads in another format, and says what it cannot hold before anything is written. */
export async function run(given: object): Promise<void> {
  const chosen = validated(ConvertOptions, given);
  const to = targetOf(chosen);
  const found = (all: readonly Input[]): void => {
    refuseInputs(
      [
        ['--out', chosen.out],
        ['--rejects', chosen.rejects],
      ],
      [chosen.schema, ...all.map(({ path }) => path)],
    );
  };
  const map = await mappingsOf(chosen);
  const loaded =
    map?.there.from ??
    (chosen.schema === undefined
      ? undefined
      : await (await import('../schemas.js')).readAnySchema(chosen.schema, true));
  const validator = loaded && (await validatorOf(loaded));
  let { schema, name } = { schema: loaded?.schema, name: chosen.name ?? loaded?.schema.title };
  let held: readonly Input[] | undefined;
  if (schema === undefined && (await needsSchema(chosen, to))) {
    const seen = await observe({ ...chosen, quiet: true }, undefined, found, true);
    name ??= suggestName(seen.inputs, chosen.at, seen.observation);
    ({ schema } = inferSchema(seen.observation, { name }));
    held = seen.inputs;
  }
  name ??= placeName(held ?? (await namedInputs(chosen)));
  const rejects = chosen.rejects === undefined ? undefined : new Rejects(chosen.rejects);
  const change = (payload: Payload): Changed => {
    const { origin } = payload.source;
    const value =
      schema === undefined || origin === undefined ? payload.root : readUnder(payload.root, schema, origin);
    const reasons = validator === undefined ? [] : reasonsOf(validator, value);
    if (reasons.length > 0) return { reasons };
    return map === undefined ? { value } : through(map, value);
  };
  const { notes, finish } = noteTaker(chosen.quiet);
  const reject = async (payload: Payload, reasons: readonly Reason[]): Promise<void> => {
    if (rejects === undefined) throw unwanted(payload, reasons[0]!, map !== undefined);
    for (const { pointer, message, offset } of reasons)
      notes({
        message: `${formatPointer(payload.tokens) + pointer || 'the payload'}, ${message}`,
        place: placeOf(payload.source, offset),
      });
    await rejects.add(rejectedLine(payload, reasons));
  };
  const written = map?.there.to.schema ?? schema;
  const known = {
    schema: written,
    name: elementName(chosen.name ?? map?.there.to.schema.title ?? name),
    columns: to === 'csv' || to === 'tsv' ? columnsOf(written) : undefined,
    isExact: true,
  };
  try {
    const { written: count, rejected } = await convert(
      payloadsOf(chosen, true, found, undefined, held),
      { to, known, change, reject, finish: async () => rejects?.close() },
      chosen.out,
      (parts) => giveAll(parts, to === 'ndjson' || isText(to), to),
    );
    finish();
    if (rejected > 0) process.exitCode = exitCode.findings;
    if (chosen.quiet) return;
    const where = chosen.out === undefined ? '' : ` to ${talk.colours.name(chosen.out)}`;
    say(`${counted(count, 'payload')} written${where}`);
    if (map?.back !== undefined) say(talk.colours.good('there and back, nothing is lost'));
    if (rejected > 0) say(talk.colours.bad(`${counted(rejected, 'payload')} rejected to ${chosen.rejects!}`));
  } catch (error) {
    await rejects?.discard();
    throw error;
  }
}

/** A mapping, and one that leads back. */
interface Mappings {
  readonly there: ReadMapping;
  readonly back: ReadMapping | undefined;
}

async function mappingsOf(chosen: ConvertOptions): Promise<Mappings | undefined> {
  const { mapping, back, schema, strict } = chosen;
  if (mapping === undefined) {
    for (const [option, value] of [
      ['--back', back],
      ['--strict', strict || undefined],
    ])
      if (value !== undefined)
        throw new SkevoError(
          `${option!} says something of a mapping, and there is none`,
          'Give one by --mapping.',
        );
    return undefined;
  }
  if (schema !== undefined)
    throw new SkevoError('--schema and --mapping are given together', 'A mapping names its schemas itself.');
  const { mappingAt } = await import('../mappings.js');
  const there = await mappingAt(mapping);
  if (there.uncarried.length > 0) {
    const shown = `${there.uncarried.slice(0, 6).join(', ')}${there.uncarried.length > 6 ? ` and ${there.uncarried.length - 6} more` : ''}`;
    if (strict)
      throw new SkevoError(`${mapping} leaves ${shown} behind`, 'Carry them, or leave --strict out.');
    if (!chosen.quiet) say(`${talk.colours.warn('note:')} ${mapping} leaves ${shown} behind`);
  }
  return { there, back: back === undefined ? undefined : await mappingAt(back) };
}

/** What a payload becomes, proven to come back where a mapping leads back. */
function through({ there, back }: Mappings, payload: JsonValue): Changed {
  const made = there.follow(payload);
  if ('reasons' in made || back === undefined) return made;
  const again = back.follow(made.value);
  if ('reasons' in again)
    return {
      reasons: again.reasons.map((each) => ({
        ...each,
        message: `on the way back, ${each.message}`,
        offset: payload.start,
      })),
    };
  const differences = compareValues(payload, again.value).filter(({ kind }) => kind !== 'respelled');
  return differences.length === 0
    ? made
    : {
        reasons: differences.map(({ kind, tokens, offset }) => ({
          pointer: formatPointer(tokens),
          message: `there and back, it is ${kind}`,
          offset,
        })),
      };
}

function targetOf({ to, out }: ConvertOptions): TargetName {
  if (to !== undefined) return to;
  const ending = out === undefined ? '' : extname(out).slice(1).toLowerCase();
  const known: Readonly<Record<string, TargetName>> = { yml: 'yaml', jsonl: 'ndjson' };
  const target = known[ending] ?? targets.find((each) => each === ending);
  if (target === undefined)
    throw new SkevoError(
      'convert needs to know what to write',
      `Give --to with one of ${targets.join(', ')}, or an ending of --out that says it.`,
    );
  return target;
}

/** Whether something must be known of all payloads before the first can be written. */
async function needsSchema(chosen: ConvertOptions, to: TargetName): Promise<boolean> {
  if (to === 'avro' || to === 'csv' || to === 'tsv') return true;
  const hasNoTypes = (await namedInputs(chosen)).some(({ format }) => /csv|xml|tsv/.test(format));
  return hasNoTypes && to !== 'xml' && to !== 'nested-csv';
}

async function validatorOf({ validation }: Loaded): Promise<SchemaValidator> {
  const { SchemaValidator } = await import('../../core/schema/apply.js');
  const { boundedPatterns } = await import('../../workbench/pattern.js');
  return new SchemaValidator(validation, boundedPatterns);
}

function reasonsOf(validator: SchemaValidator, value: Payload['root']): Reason[] {
  return validator.failures(value).map(({ pointer, expected, found, offset }) => ({
    pointer,
    message: `expected ${expected}, found ${found}`,
    offset,
  }));
}

function unwanted(
  { source, tokens }: Payload,
  { pointer, message, offset }: Reason,
  isMapped: boolean,
): SkevoError {
  return new SkevoError(
    `a payload ${isMapped ? 'does not go through the mapping' : 'does not meet the schema'}: ${formatPointer(tokens) + pointer || 'the payload'}, ${message}`,
    'Mend it, or let such payloads go to a file of their own by --rejects.',
    excerptOf(source, offset),
  );
}

/** The columns of a schema of records; undefined for what is none. */
function columnsOf(schema: Schema | undefined): readonly string[] | undefined {
  let here = schema;
  for (let i = 0; here?.$ref !== undefined && i < 10; i++)
    here = resolveReference(schema!, here.$ref, here, undefined);
  if (
    here?.properties === undefined ||
    here.anyOf !== undefined ||
    typeof here.additionalProperties === 'object'
  )
    return undefined;
  return [...here.properties.keys()];
}

/** What an element is called. */
function elementName(name: string | undefined): string | undefined {
  const words = wordsOf(name ?? '');
  return words.length === 0
    ? undefined
    : words.map((word, i) => (i === 0 ? word.toLowerCase() : word)).join('');
}

/** The file of payloads that do not go on, which is there when all is done. */
class Rejects {
  private readonly lines = new PassThrough();
  private readonly done: Promise<void>;
  private failure: unknown = undefined;

  constructor(path: string) {
    this.done = writeWhole(path, this.lines as AsyncIterable<Uint8Array>);
    this.done.catch((error: unknown) => {
      this.failure = error;
      this.lines.destroy();
    });
  }

  /** @throws SkevoError when what was written before could not be */
  async add(line: string): Promise<void> {
    if (this.failure !== undefined) throw this.failure as Error;
    if (this.lines.write(line)) return;
    await once(this.lines, 'drain').catch(() => this.done);
  }

  async close(): Promise<void> {
    this.lines.end();
    await this.done;
  }

  async discard(): Promise<void> {
    this.lines.destroy();
    await this.done.catch(() => {});
  }
}
