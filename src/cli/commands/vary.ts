import { IsBoolean, IsInt, IsOptional, IsString, Min } from 'class-validator';
import { join } from 'node:path';
import type { Argv } from 'yargs';
import { writeJson } from '../../core/json/write.js';
import { readSchema } from '../../core/schema/read.js';
import { usualVariantSize } from '../../core/vary/vary.js';
import { variantsOf } from '../vary.js';
import { readSource, refuseInputs, writeBelow } from '../files.js';
import { validated } from '../options.js';
import { print, say, talk } from '../print.js';

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

  @IsBoolean()
  quiet = false;
}

export const options = (argv: Argv) =>
  argv
    .option('out', {
      type: 'string',
      requiresArg: true,
      describe: 'a folder for the payloads, one file each',
    })
    .option('seed', {
      type: 'number',
      requiresArg: true,
      default: 0,
      describe: 'another seed gives other values',
    })
    .option('size', {
      type: 'number',
      requiresArg: true,
      default: usualVariantSize,
      describe: 'values that a payload may have',
    })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes' });

/** Makes payloads from a schema: one a line, or one a file. */
export async function run(given: object): Promise<void> {
  const chosen = validated(VaryOptions, given);
  const source = readSource(chosen.schema);
  const { variants, notes } = variantsOf(readSchema(source), source, chosen.seed, chosen.size);
  if (!chosen.quiet) for (const note of notes) say(`${talk.colours.warn('note:')} ${note}`);
  if (chosen.out === undefined) {
    print(variants.map(({ value }) => writeJson(value)).join('\n'));
    return;
  }
  const files = variants.map(({ name, value }) => ({
    path: `${name}.json`,
    text: `${writeJson(value, 2)}\n`,
  }));
  refuseInputs(
    files.map(({ path }) => ['--out', join(chosen.out!, path)]),
    [chosen.schema],
  );
  const written = await writeBelow(chosen.out, files, false);
  if (!chosen.quiet) say(`wrote ${written.length} payloads to ${talk.colours.name(chosen.out)}`);
}
