import { IsBoolean, IsOptional, IsString } from 'class-validator';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { inferSchema } from '../../core/infer/infer.js';
import { formatPointer, parsePlace } from '../../core/json/pointer.js';
import { placeOf } from '../../core/json/source.js';
import { json } from '../../core/json/value.js';
import { writeJson } from '../../core/json/write.js';
import { buildModel } from '../../core/model/build.js';
import { plainReach, reach } from '../../core/model/reach.js';
import { occurrencesIn, type Occurrence, type Sought } from '../../core/roundtrip/occurrences.js';
import type { Payload } from '../../core/roundtrip/payload.js';
import { ModelIndex, trace } from '../../core/roundtrip/trace.js';
import { shorten } from '../../report/text.js';
import { visible } from '../../report/visible.js';
import { exitCode } from '../exit.js';
import { observe, payloadsOf, suggestName } from '../inputs.js';
import { payloadOptions, PayloadOptions, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';

class LocateOptions extends PayloadOptions {
  @IsOptional()
  @IsString({ message: '--key is given more than once' })
  key?: string;

  @IsOptional()
  @IsString({ message: '--value is given more than once' })
  value?: string;

  @IsOptional()
  @IsString({ message: '--language is given more than once: separate languages by commas' })
  language?: string;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  payloadOptions(argv)
    .option('key', { type: 'string', describe: 'a key, in any spelling of its words' })
    .option('value', {
      type: 'string',
      describe: 'a part of a string, or a number, true, false or null',
    })
    .option('language', {
      type: 'string',
      describe: 'show the code that reaches each place, such as python,typescript:interface',
    })
    .option('json', { type: 'boolean', default: false, describe: 'one JSON document on stdout' });

interface Found {
  readonly place: string;
  readonly first: Occurrence;
  readonly payload: Payload;
  count: number;
}

/** Every place where a key or value occurs, and how to reach it. */
export async function run(given: object): Promise<void> {
  const chosen = validated(LocateOptions, given);
  if ((chosen.key === undefined) === (chosen.value === undefined)) {
    throw new SkevoError(
      'locate needs either --key or --value',
      'Say what to look for: --key NAME or --value TEXT.',
    );
  }
  if (chosen.payload.includes('-'))
    throw new SkevoError(
      'locate reads its payloads twice and cannot take them from the standard input',
      'Name a file.',
    );
  const targets =
    chosen.language === undefined ? [] : (await import('../languages.js')).chooseLanguages(chosen.language);
  const { observation, inputs } = await observe({ ...chosen, quiet: true });
  const name = suggestName(inputs, chosen.at, observation);
  const { schema } = inferSchema(observation, { name });
  const model = buildModel(schema);
  const index = new ModelIndex(model);
  const sought: Sought =
    chosen.key === undefined ? { kind: 'value', text: chosen.value! } : { kind: 'key', text: chosen.key };

  const places = new Map<string, Found>();
  for await (const payload of payloadsOf(
    chosen,
    true,
    () => {},
    () => schema,
  )) {
    for (const occurrence of occurrencesIn(payload.root, sought)) {
      const { place } = trace(index, payload.root, occurrence.tokens);
      const known = places.get(place);
      if (known === undefined) places.set(place, { place, first: occurrence, payload, count: 1 });
      else known.count++;
    }
  }
  const made =
    targets.length === 0
      ? []
      : (await import('../../languages/make.js')).makeAll(model, targets, { origin: name });
  const emitted = made.map(({ target, emitted: { names } }) => ({
    language: target.language,
    style: target.style,
    names,
  }));
  const ways = ({ payload, first, place }: Found) =>
    emitted.map(({ language, style, names }) => ({
      language: language.name,
      style: style.name,
      typed: style.reach(model.name, reach(model, payload.root, first.tokens), names),
      plain: style.plain(model.name, plainReach(payload.root, parsePlace(place)!, model.name)),
    }));
  const placed = ({ payload, first }: Found) => {
    const { file, line, column } = placeOf(payload.source, first.offset);
    return { file, line, column, pointer: formatPointer([...payload.tokens, ...first.tokens]) };
  };

  if (chosen.json) {
    const entries = [...places.values()].map((found) => {
      const { file, line, column, pointer } = placed(found);
      return json.object([
        ['place', json.string(found.place)],
        ['count', json.number(found.count)],
        ['pointer', json.string(pointer)],
        ['payload', json.string(file)],
        ['line', json.number(line)],
        ['column', json.number(column)],
        ['value', found.first.value],
        [
          'code',
          json.list(
            ways(found).map((way) =>
              json.object(Object.entries(way).map(([key, text]) => [key, json.string(text)])),
            ),
          ),
        ],
      ]);
    });
    print(writeJson(json.object([['places', json.list(entries)]]), 2));
  } else {
    const { colours, width } = out;
    for (const found of places.values()) {
      const { file, line, column, pointer } = placed(found);
      const value = visible(shorten(writeJson(found.first.value), Math.max(20, width - 40)));
      print(
        `${colours.name(visible(found.place) || '(payload)')}  ${colours.faint(`${found.count} ${found.count === 1 ? 'time' : 'times'}`)}`,
      );
      print(
        `    ${colours.faint('first')} ${visible(pointer)} ${colours.faint(`at ${file}:${line}:${column}`)}  ${value}`,
      );
      for (const { language, style, typed, plain } of ways(found)) {
        print(
          `    ${colours.strong(`${language} ${style}`)}\n${indented(typed)}\n    ${colours.strong(`${language}, plain JSON`)}\n${indented(plain)}`,
        );
      }
    }
  }
  if (places.size === 0) {
    if (!chosen.quiet)
      say(
        talk.colours.warn(
          `${sought.kind === 'key' ? 'no key' : 'no value'} ${JSON.stringify(sought.text)} in the payloads`,
        ),
      );
    process.exitCode = exitCode.findings;
  }
}

function indented(text: string): string {
  return text
    .split('\n')
    .map((line) => `        ${line}`)
    .join('\n');
}
