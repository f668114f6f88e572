import { IsArray, IsBoolean, IsIn, IsNumber, IsOptional, IsPositive, IsString } from 'class-validator';
import { basename } from 'node:path';
import type { Argv } from 'yargs';
import { buildModel } from '../../core/model/build.js';
import { datesRules, type DatesRule } from '../../core/model/dates.js';
import {
  buildersRules,
  unknownRules,
  type BuildersRule,
  type UnknownRule,
} from '../../languages/language.js';
import { writeWhole } from '../../formats/write.js';
import { make } from '../../languages/make.js';
import type { Input } from '../../formats/inputs.js';
import type { Payload } from '../../core/roundtrip/payload.js';
import { checkAll } from '../../workbench/check-all.js';
import { usualLimits } from '../../workbench/exchange.js';
import { allRan, conclude } from '../concluded.js';
import { exitCode, exitOnInterrupt } from '../exit.js';
import type { Loaded } from '../../schemas/load.js';
import { refuseInputs } from '../files.js';
import { readAnySchema } from '../schemas.js';
import { payloadsOf } from '../inputs.js';
import { chooseLanguages, toolsOption } from '../languages.js';
import { payloadOptions, PayloadOptions, validated } from '../options.js';
import { reportOption, toolOption, buildersOption, datesOption, unknownOption } from '../shared-options.js';
import { print, say, talk } from '../print.js';
import { meters } from '../progress.js';
import { sayCacheTrouble, sayToolchains } from '../toolchains.js';

export class CheckOptions extends PayloadOptions {
  @IsString()
  schema!: string;

  @IsOptional()
  @IsString({ message: '--language is given more than once: separate languages by commas' })
  language?: string;

  @IsOptional()
  @IsString({ message: '--with is given more than once' })
  with?: string;

  @IsOptional()
  @IsString({ message: '--keep is given more than once' })
  keep?: string;

  @IsIn(unknownRules, { message: `--unknown must be one of ${unknownRules.join(', ')}` })
  unknown: UnknownRule = 'drop';

  @IsOptional()
  @IsIn(datesRules, { message: `--dates must be one of ${datesRules.join(', ')}` })
  dates?: DatesRule;

  @IsIn(buildersRules, { message: `--builders must be one of ${buildersRules.join(', ')}` })
  builders: BuildersRule = 'on';

  @IsNumber({}, { message: '--timeout must be a number of seconds' })
  @IsPositive({ message: '--timeout must be more than 0 seconds' })
  timeout = usualLimits.seconds;

  @IsNumber({}, { message: '--memory must be a number of megabytes' })
  @IsPositive({ message: '--memory must be more than 0 megabytes' })
  memory = usualLimits.memory / (1 << 20);

  @IsBoolean()
  strict = false;

  @IsBoolean()
  vary = false;

  @IsArray()
  @IsString({ each: true })
  tool: string[] = [];

  @IsArray()
  @IsString({ each: true })
  report: string[] = [];

  @IsOptional()
  @IsString({ message: '--save-result is given more than once' })
  'save-result'?: string;

  @IsBoolean()
  verbose = false;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  payloadOptions(argv)
    .option('language', {
      type: 'string',
      describe: 'languages, such as python,typescript:interface; all when not given',
    })
    .option('with', {
      type: 'string',
      describe: 'a program of your own that decodes and encodes payloads line by line',
    })
    .option('keep', {
      type: 'string',
      describe: 'keep the generated programs in this folder',
    })
    .option('unknown', unknownOption)
    .option('dates', datesOption)
    .option('builders', buildersOption)
    .option('vary', {
      type: 'boolean',
      default: false,
      describe: 'check payloads made from the schema too, so that less is unproven',
    })
    .option('tool', toolOption)
    .option('timeout', {
      type: 'number',
      default: usualLimits.seconds,
      describe:
        'seconds a program may take for one payload, three times as long for the first after its start',
    })
    .option('memory', {
      type: 'number',
      default: usualLimits.memory / (1 << 20),
      describe: 'megabytes of memory a program may take',
    })
    .option('strict', {
      type: 'boolean',
      default: false,
      describe: 'another spelling of the same value is a loss too',
    })
    .option('report', reportOption)
    .option('save-result', {
      type: 'string',
      describe:
        'write what came of these payloads to this .result file, to be put together with others; - for one line on stdout alone',
    })
    .option('verbose', {
      type: 'boolean',
      default: false,
      describe: 'say which programs and libraries were used',
    })
    .option('json', { type: 'boolean', default: false, describe: 'one JSON document on stdout' });

/** The round trip of every payload through every language, and what did not come back. */
export async function run(given: object): Promise<void> {
  const chosen = validated(CheckOptions, given);
  const targets =
    chosen.with !== undefined && chosen.language === undefined
      ? []
      : chooseLanguages(chosen.language ?? 'all');
  if (chosen.report.length > 0) (await import('../report.js')).refuseReports(chosen.report);
  if (chosen.payload.length > 0 && chosen.payload.every((each) => /\.har$/i.test(each))) {
    const { checkRecordings } = await import('../recordings.js');
    if (await checkRecordings(chosen, targets)) return;
  }
  const loaded = await readAnySchema(chosen.schema, chosen.quiet);
  if (chosen.payload.some((path) => /\.result$/i.test(path))) {
    await (await import('../results.js')).combine(chosen, loaded);
    return;
  }
  const { schema, source } = loaded;
  const isForPipe = chosen['save-result'] === '-';
  let read: readonly Input[] = [];
  const refuse = (inputs: readonly Input[]) => {
    read = inputs;
    refuseInputs(
      [
        ...chosen.report.map((path): [string, string] => ['--report', path]),
        ['--save-result', isForPipe ? undefined : chosen['save-result']],
      ],
      [source.name, ...inputs.map(({ path }) => path)],
    );
  };
  const model = buildModel(schema, source);

  exitOnInterrupt();
  const labels = targets.map(({ language, style }) =>
    style === language.styles[0] ? language.name : `${language.name}:${style.name}`,
  );
  const bars = meters(chosen.with === undefined ? labels : [...labels, 'program'], 'payloads', chosen.quiet);
  const drifting = import('../../workbench/drift.js').then(({ Drift }) => new Drift(schema, source));
  const varied = chosen.vary ? await madeFrom(loaded, chosen.quiet) : [];
  const isMade = new Set(varied);
  const made = make(
    model,
    targets.map((target) => ({
      ...target,
      unknown: chosen.unknown,
      dates: chosen.dates,
      builders: chosen.builders,
    })),
    { origin: basename(chosen.schema) },
  );
  const result = await checkAll(
    made,
    model,
    followedBy(
      payloadsOf(chosen, false, refuse, () => schema, undefined, isForPipe),
      varied,
    ),
    {
      program: chosen.with,
      strict: chosen.strict,
      limits: { seconds: chosen.timeout, memory: chosen.memory * (1 << 20) },
      keep: chosen.keep,
      tools: toolsOption(chosen.tool),
      // Those that were made say nothing of what drifted.
      observe: async (payloads) => {
        const drift = await drifting;
        for (const payload of payloads) if (!isMade.has(payload)) drift.add(payload);
      },
      expect: bars.expect,
      answered: bars.reach,
    },
  );
  bars.finish();
  sayCacheTrouble(chosen.quiet);
  if (chosen.verbose) await sayToolchains(targets, toolsOption(chosen.tool));
  const drift = await drifting;
  const changes = drift.changes();
  if (drift.trouble !== undefined && !chosen.quiet)
    say(`${talk.colours.warn('note:')} drift cannot be told: ${drift.trouble.message}`);
  const others = read.filter(({ format }) => format !== 'json');
  const documents =
    others.length === 0
      ? undefined
      : await (
          await import('../../formats/prove.js')
        ).proveDocuments(others, chosen.at === undefined ? schema : undefined);
  if (chosen['save-result'] !== undefined && result.payloads > 0) {
    const { saveResult } = await import('../../workbench/saved-result.js');
    const { unknown, dates, builders, strict } = chosen;
    const line = saveResult(
      {
        settings: { unknown, dates, builders, strict },
        payloads: result.payloads,
        languages: result.languages,
        coverage: result.coverage.save(),
        drift: changes,
        documents,
      },
      source,
    );
    if (isForPipe) print(line);
    else await writeWhole(chosen['save-result'], `${line}\n`);
  }
  const isNamed = targets.map(({ named }) => named);
  if (isForPipe) {
    // What was lost is in the line, and said by whoever puts the lines together.
    if (result.payloads > 0 && !allRan(result, isNamed)) process.exitCode = exitCode.notRun;
    return;
  }
  await conclude(chosen, loaded, { model, made, result, changes, documents, isNamed });
}

/** Payloads made from the schema, with notes on those that are left out. */
async function madeFrom(loaded: Loaded, quiet: boolean): Promise<readonly Payload[]> {
  const { payloadsFrom, variantsOf } = await import('../../workbench/vary.js');
  const { variants, notes } = variantsOf(loaded, 0);
  if (!quiet) for (const note of notes) say(`${talk.colours.warn('note:')} ${note}`);
  return [...payloadsFrom(variants)];
}

async function* followedBy(
  payloads: AsyncIterable<Payload>,
  made: readonly Payload[],
): AsyncGenerator<Payload> {
  yield* payloads;
  yield* made;
}
