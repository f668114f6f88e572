import { IsBoolean } from 'class-validator';
import type { Argv } from 'yargs';
import { json } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { outlineOf, recordsIn } from '../../core/observe/outline.js';
import { renderOutline } from '../../report/outline.js';
import { observe } from '../inputs.js';
import { payloadOptions, PayloadOptions, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';

class OutlineOptions extends PayloadOptions {
  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  payloadOptions(argv).option('json', {
    type: 'boolean',
    default: false,
    describe: 'one JSON document on stdout',
  });

/** Prints what is in the payloads, place by place. */
export async function run(given: object): Promise<void> {
  const chosen = validated(OutlineOptions, given);
  const { observation, inputs } = await observe(chosen);
  const rows = outlineOf(observation);
  if (chosen.json) {
    const places = rows.map((row) =>
      json.object([
        ['place', json.string(row.place)],
        ['types', json.list(row.types.map(json.string))],
        ['count', json.number(row.count)],
        ['of', json.number(row.of)],
        ['nulls', json.number(row.nulls)],
        ['example', json.string(row.example)],
      ]),
    );
    print(
      writeJson(
        json.object([
          ['payloads', json.number(observation.payloads)],
          ['places', json.list(places)],
        ]),
        2,
      ),
    );
    return;
  }
  print(renderOutline(rows, out));
  if (chosen.quiet) return;
  const files = inputs.length === 1 ? inputs[0]!.name : `${inputs.length} files`;
  say(
    talk.colours.faint(
      `${observation.payloads} ${observation.payloads === 1 ? 'payload' : 'payloads'} in ${files}`,
    ),
  );
  const records = recordsIn(observation);
  if (records !== undefined && chosen.at === undefined) {
    say(
      `${talk.colours.warn('hint:')} the records are at ${talk.colours.name(records)}; read each as a payload with --at '${records}'`,
    );
  }
}
