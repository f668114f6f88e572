import { IsBoolean, IsString } from 'class-validator';
import type { Argv } from 'yargs';
import { compareSchemas, type ContractChange } from '../../core/contract/compare.js';
import { json, type JsonValue } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { findSchema } from '../../schemas/find.js';
import { loadSchema } from '../../schemas/load.js';
import { renderComparison } from '../../report/compare.js';
import { exitCode } from '../exit.js';
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
    .positional('old', { type: 'string', describe: 'a schema, or a version of one: schema.json@REVISION' })
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
  const found = await findSchema(given);
  const { schema, source } = await loadSchema(found);
  return { schema, source };
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
