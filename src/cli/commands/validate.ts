import { IsBoolean, IsString } from 'class-validator';
import type { Argv } from 'yargs';
import { formatPointer } from '../../core/json/pointer.js';
import { placeOf } from '../../core/json/source.js';
import { json, type JsonValue } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { SchemaValidator } from '../../core/schema/apply.js';
import { failureToJson, renderFailure, type PlacedFailure } from '../../report/validate.js';
import { exitCode } from '../exit.js';
import { readAnySchema, sayNotes } from '../schemas.js';
import { payloadsOf } from '../inputs.js';
import { payloadOptions, PayloadOptions, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';
import { boundedPatterns } from '../../workbench/pattern.js';

class ValidateOptions extends PayloadOptions {
  @IsString()
  schema!: string;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  payloadOptions(argv).option('json', {
    type: 'boolean',
    default: false,
    describe: 'one JSON document on stdout',
  });

/** Says which payloads do not meet a schema, where and why. */
export async function run(given: object): Promise<void> {
  const chosen = validated(ValidateOptions, given);
  const { schema, source, validation, notes } = await readAnySchema(chosen.schema, true);
  // Where a schema was made of one of another kind, what it does not say is not validated either.
  if (validation.source === source) sayNotes(notes, chosen.quiet);
  const validator = new SchemaValidator(validation, boundedPatterns);
  const collected: JsonValue[] = [];
  let payloads = 0;
  let failing = 0;
  for await (const { root, source: from, tokens } of payloadsOf(
    chosen,
    true,
    () => {},
    () => schema,
  )) {
    payloads++;
    const failures = validator.failures(root);
    if (failures.length > 0) failing++;
    for (const failure of failures) {
      const { file, line, column } = placeOf(from, failure.offset);
      const placed: PlacedFailure = {
        ...failure,
        pointer: formatPointer(tokens) + failure.pointer,
        payload: file,
        line,
        column,
      };
      if (chosen.json) collected.push(failureToJson(placed));
      else print(renderFailure(placed, out));
    }
  }
  if (chosen.json) {
    print(
      writeJson(
        json.object([
          ['payloads', json.number(payloads)],
          ['failing', json.number(failing)],
          ['failures', json.list(collected)],
        ]),
        2,
      ),
    );
  } else if (!chosen.quiet) {
    const { good, bad } = talk.colours;
    say(
      failing === 0
        ? good(payloads === 1 ? 'the payload meets the schema' : `all ${payloads} payloads meet the schema`)
        : bad(
            payloads === 1
              ? 'the payload does not meet the schema'
              : `${failing} of ${payloads} payloads ${failing === 1 ? 'does' : 'do'} not meet the schema`,
          ),
    );
  }
  if (failing > 0) process.exitCode = exitCode.findings;
}
