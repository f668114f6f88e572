import { IsBoolean, IsOptional, IsString } from 'class-validator';
import { counted } from '../../core/words.js';
import type { Argv } from 'yargs';
import { parsePlace } from '../../core/json/pointer.js';
import { json } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { SkevoError } from '../../core/error.js';
import { analyse, writeSchema } from '../../core/infer/infer.js';
import { outlineOf, placeOfType, recordsIn } from '../../core/infer/outline.js';
import { nearest } from '../../core/nearest.js';
import { renderDecisions } from '../../report/explain.js';
import { renderOutline } from '../../report/outline.js';
import { shellArgument } from '../../report/text.js';
import { observe, suggestName } from '../inputs.js';
import { decisionsOf, SteeredOptions, steeringOptions } from '../decisions.js';
import { payloadOptions, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';

class OutlineOptions extends SteeredOptions {
  @IsOptional()
  @IsString({ message: '--why is given more than once' })
  why?: string;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  steeringOptions(payloadOptions(argv))
    .option('why', {
      type: 'string',
      describe: 'print what was decided about one place, such as /results/*/id, and why',
    })
    .option('json', {
      type: 'boolean',
      default: false,
      describe: 'one JSON document on stdout',
    });

/** Prints what is in the payloads, place by place. */
export async function run(given: object): Promise<void> {
  const chosen = validated(OutlineOptions, given);
  const steers = await decisionsOf(chosen);
  const { observation, inputs } = await observe(chosen);
  const name = suggestName(inputs, chosen.at, observation);
  const analysis = analyse(observation, { decisions: steers, name });
  if (chosen.why !== undefined) {
    const { decisions } = writeSchema(analysis);
    const place = chosen.why === '/' ? '' : chosen.why;
    const steps = parsePlace(place);
    const type = steps && placeOfType(analysis, steps);
    const found = decisions.filter((decision) => decision.place === place || decision.place === type);
    if (found.length === 0)
      throw unknownPlace(
        place,
        decisions.map((decision) => decision.place),
      );
    print(renderDecisions(found, out, true));
    return;
  }
  const rows = outlineOf(analysis);
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
  say(talk.colours.faint(`${counted(observation.payloads, 'payload')} in ${files}`));
  const records = recordsIn(observation);
  if (records !== undefined && chosen.at === undefined) {
    say(
      `${talk.colours.warn('hint:')} the records are at ${talk.colours.name(records)}; read each as a payload with --at ${shellArgument(records)}`,
    );
  }
}

function unknownPlace(place: string, places: readonly string[]): SkevoError {
  const near = nearest(place, places);
  return new SkevoError(
    `there is no place ${place}`,
    near === undefined
      ? 'skevo outline prints the places.'
      : `Did you mean ${near || '/ for the payload itself'}? A type that stands at several places is explained at its first.`,
  );
}
