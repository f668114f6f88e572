import { IsBoolean, IsOptional, IsString } from 'class-validator';
import { dirname, relative, resolve, sep } from 'node:path';
import type { Argv } from 'yargs';
import { draftMapping, type Draft } from '../../core/convert/draft.js';
import { writeJson } from '../../core/json/write.js';
import { json } from '../../core/json/value.js';
import { writeWhole } from '../../formats/write.js';
import { pathOfSchema } from '../../schemas/load.js';
import { refuseInputs } from '../files.js';
import { validated } from '../options.js';
import { print, say, talk } from '../print.js';
import { readAnySchema } from '../schemas.js';

class MappingOptions {
  @IsString()
  from!: string;

  @IsString()
  to!: string;

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsBoolean()
  quiet = false;
}

export const options = (argv: Argv) =>
  argv
    .positional('from', { type: 'string', describe: 'the schema of what there is' })
    .positional('to', { type: 'string', describe: 'the schema of what is wanted' })
    .option('out', { type: 'string', describe: 'write the mapping to this file' })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes' });

/** Drafts a mapping between two schemas: equal names are joined, the rest is left to whoever knows. */
export async function run(given: object): Promise<void> {
  const chosen = validated(MappingOptions, given);
  const { schema: from, source: fromSource } = await readAnySchema(chosen.from, true);
  const { schema: to, source: toSource } = await readAnySchema(chosen.to, true);
  const draft = draftMapping(from, to);
  // The file finds its schemas from where it stands.
  const folder = resolve(chosen.out === undefined ? '.' : dirname(chosen.out));
  const named = (schema: string) => {
    const path = pathOfSchema(schema);
    const shown = relative(folder, resolve(path)).split(sep).join('/');
    return `${shown}${schema.slice(path.length)}`;
  };
  const text = textOf(draft, named(chosen.from), named(chosen.to));
  if (chosen.out === undefined) print(text);
  else {
    refuseInputs([['--out', chosen.out]], [fromSource.name, toSource.name]);
    await writeWhole(chosen.out, text);
  }
  if (chosen.quiet) return;
  const missing = draft.open.filter(({ isRequired }) => isRequired).length;
  say(
    `${draft.lines.length} joined, ${draft.open.length} to fill${missing > 0 ? talk.colours.warn(`, ${missing} of them required`) : ''}, ${draft.left.length} left over`,
  );
}

function textOf({ lines, open, left }: Draft, from: string, to: string): string {
  const out = [`from: ${scalar(from)}`, `to: ${scalar(to)}`, 'fields:'];
  for (const { target, source, steps } of lines)
    out.push(
      steps.length === 0
        ? `  ${scalar(target)}: ${scalar(source)}`
        : `  ${scalar(target)}: { from: ${scalar(source)}, steps: [${steps.join(', ')}] }`,
    );
  if (lines.length === 0) out[out.length - 1] = 'fields: {}';
  if (open.length > 0) {
    out.push('', '  # to fill, and what is most alike:');
    for (const { target, isRequired, candidates } of open)
      out.push(
        `  # ${scalar(target)}:${candidates.length === 0 ? '' : ` ${candidates.map(scalar).join(' or ')}`}${isRequired ? '  (required)' : ''}`,
      );
  }
  if (left.length > 0) {
    out.push('', '  # left over:');
    for (const place of left) out.push(`  # ${scalar(place)}`);
  }
  return `${out.join('\n')}\n`;
}

/** A place as YAML has it: plain where it may be. */
function scalar(text: string): string {
  return /^[\w/.~@#*-][\w/.~@#* -]*$/.test(text) && !/^[@#*-]|[ ]#| $/.test(text)
    ? text
    : writeJson(json.string(text));
}
