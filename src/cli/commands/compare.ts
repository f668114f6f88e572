import { IsBoolean, IsString } from 'class-validator';
import { execa } from 'execa';
import { existsSync } from 'node:fs';
import { basename, dirname } from 'node:path';
import type { Argv } from 'yargs';
import { compareSchemas, type ContractChange } from '../../core/contract/compare.js';
import { SkevoError } from '../../core/error.js';
import { json, type JsonValue } from '../../core/json/value.js';
import type { Source } from '../../core/json/source.js';
import { writeJson } from '../../core/json/write.js';
import { loadSchema, pathOfSchema } from '../../schemas/load.js';
import { renderComparison } from '../../report/compare.js';
import { exitCode } from '../exit.js';
import { readSource } from '../files.js';
import { validated } from '../options.js';
import { out, print } from '../print.js';

class CompareOptions {
  @IsString()
  old!: string;

  @IsString()
  new!: string;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  argv
    .positional('old', { type: 'string', describe: 'a schema, or one of git: schema.json@REVISION' })
    .positional('new', { type: 'string', describe: 'the schema that came after it' })
    .option('json', { type: 'boolean', default: false, describe: 'one JSON document on stdout' });

/** Every difference between two schemas with its effect on those who read and those who write. */
export async function run(given: object): Promise<void> {
  const chosen = validated(CompareOptions, given);
  const [old, now] = await Promise.all([schemaAt(chosen.old), schemaAt(chosen.new)]);
  const changes = compareSchemas(old, now);
  print(
    chosen.json
      ? writeJson(json.object([['changes', json.list(changes.map(changeToJson))]]), 2)
      : renderComparison(changes, out),
  );
  if (changes.some(({ readers, writers }) => readers === 'breaking' || writers === 'breaking'))
    process.exitCode = exitCode.findings;
}

async function schemaAt(given: string) {
  const source = await sourceAt(given);
  const { schema, source: read } = await loadSchema(given.replace(/@[^@/]*$/, ''), source);
  return { schema, source: read };
}

/** A file, or what `git` has of it at a revision. */
async function sourceAt(given: string): Promise<Source> {
  const at = given.lastIndexOf('@');
  if (at <= 0 || existsSync(given)) return readSource(pathOfSchema(given));
  const [path, revision] = [given.slice(0, at), given.slice(at + 1)];
  const folder = dirname(path);
  if (!existsSync(folder)) throw new SkevoError(`there is no folder ${folder}`, 'Check the path.');
  const shown = await execa('git', ['show', '--end-of-options', `${revision}:./${basename(path)}`], {
    cwd: folder,
    reject: false,
    encoding: 'buffer',
    stripFinalNewline: false,
  });
  if (shown.exitCode === undefined)
    throw new SkevoError(`${given} asks for a revision, and git does not start`, 'Install git.');
  if (shown.exitCode !== 0) {
    const words = new TextDecoder().decode(shown.stderr).trim().split('\n')[0]!;
    throw new SkevoError(
      `git has no ${basename(path)} at ${revision}: ${words.replace(/^fatal: /, '')}`,
      'Check the revision and the path; git log -- PATH shows its revisions.',
    );
  }
  return { name: given, bytes: shown.stdout, firstLine: 1 };
}

function changeToJson(change: ContractChange): JsonValue {
  return json.object([
    ['kind', json.string(change.kind)],
    ['place', json.string(change.place)],
    ['was', json.string(change.was)],
    ['now', json.string(change.now)],
    ['readers', json.string(change.readers)],
    ['writers', json.string(change.writers)],
    ['types', json.list(change.types.map(json.string))],
    ['perhaps', change.perhaps === undefined ? undefined : json.string(change.perhaps)],
  ]);
}
