import { IsBoolean, IsIn, IsInt, IsOptional, IsString, Min } from 'class-validator';
import { counted } from '../../core/words.js';
import { join } from 'node:path';
import type { Argv } from 'yargs';
import { writeJson } from '../../core/json/write.js';
import { SkevoError } from '../../core/error.js';
import { usualVariantSize, type Variant } from '../../core/vary/vary.js';
import { endingOf, formatNames, type FormatName } from '../../formats/format.js';
import { writeAs, type Known } from '../../formats/write-as.js';
import { variantsOf } from '../../workbench/vary.js';
import { refuseInputs, writeBelow } from '../files.js';
import { readAnySchema } from '../schemas.js';
import { validated } from '../options.js';
import { give, say, talk } from '../print.js';

class VaryOptions {
  @IsString()
  schema!: string;

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsInt({ message: '--seed must be a whole number' })
  @Min(0, { message: '--seed must be 0 or more' })
  seed = 0;

  @IsInt({ message: '--size must be a whole number' })
  @Min(1, { message: '--size must be 1 or more' })
  size = usualVariantSize;

  @IsIn(formatNames, { message: `--to must be one of ${formatNames.join(', ')}` })
  to: FormatName = 'json';

  @IsBoolean()
  quiet = false;
}

export const options = (argv: Argv) =>
  argv
    .option('out', {
      type: 'string',
      describe: 'a folder for the payloads, one file each',
    })
    .option('to', {
      type: 'string',
      default: 'json',
      describe: `what the payloads are written in: ${formatNames.join(', ')}`,
    })
    .option('seed', {
      type: 'number',
      default: 0,
      describe: 'another seed gives other values',
    })
    .option('size', {
      type: 'number',
      default: usualVariantSize,
      describe: 'values that a payload may have',
    })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes' });

/** Makes payloads from a schema: one a line, or one a file. */
export async function run(given: object): Promise<void> {
  const chosen = validated(VaryOptions, given);
  const loaded = await readAnySchema(chosen.schema, chosen.quiet);
  const { schema } = loaded;
  const { variants, notes } = variantsOf(loaded, chosen.seed, chosen.size);
  if (!chosen.quiet) for (const note of notes) say(`${talk.colours.warn('note:')} ${note}`);
  const known = { schema, name: schema.title };
  const { held, left } = await heldBy(chosen.to, variants, known);
  if (left > 0 && !chosen.quiet)
    say(
      `${talk.colours.warn('note:')} ${left === 1 ? '1 payload holds' : `${left} payloads hold`} what ${chosen.to} cannot, and ${left === 1 ? 'is' : 'are'} left out`,
    );
  if (chosen.out === undefined) {
    const values = held.map(({ value }) => value);
    give(await writeAs(chosen.to, values, known), chosen.to);
    return;
  }
  const files = await Promise.all(
    held.map(async ({ name, value }) => ({
      path: `${name}.${endingOf(chosen.to)}`,
      text: chosen.to === 'json' ? `${writeJson(value, 2)}\n` : await writeAs(chosen.to, [value], known),
    })),
  );
  refuseInputs(
    files.map(({ path }) => ['--out', join(chosen.out!, path)]),
    [loaded.source.name],
  );
  const written = await writeBelow(chosen.out, files, false);
  if (!chosen.quiet) say(`wrote ${counted(written.length, 'payload')} to ${talk.colours.name(chosen.out)}`);
}

/** The payloads that a format can hold. @throws SkevoError when it can hold none of them */
async function heldBy(
  format: FormatName,
  variants: readonly Variant[],
  known: Known,
): Promise<{ held: readonly Variant[]; left: number }> {
  const held: Variant[] = [];
  let first: SkevoError | undefined;
  for (const each of variants) {
    try {
      await writeAs(format, [each.value], known);
      held.push(each);
    } catch (error) {
      if (!(error instanceof SkevoError)) throw error;
      first ??= error;
    }
  }
  if (held.length === 0 && first !== undefined) throw first;
  return { held, left: variants.length - held.length };
}
