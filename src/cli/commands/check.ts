import { IsBoolean, IsIn, IsNumber, IsOptional, IsPositive, IsString } from 'class-validator';
import { availableParallelism } from 'node:os';
import { basename } from 'node:path';
import pMap from 'p-map';
import type { Argv } from 'yargs';
import { writeJson } from '../../core/json/write.js';
import { buildModel } from '../../core/model/build.js';
import type { TypeModel } from '../../core/model/types.js';
import { Coverage, type Unproven } from '../../core/roundtrip/unproven.js';
import type { Payload } from '../../core/roundtrip/payload.js';
import { readSchema } from '../../core/schema/read.js';
import { unknownRules, type UnknownRule } from '../../languages/language.js';
import { lossesOf, renderCheck, type CheckResult } from '../../report/check.js';
import { checkToJson } from '../../report/check-json.js';
import { checkProgram, checkStyle, type LanguageResult } from '../../workbench/check.js';
import { usualLimits } from '../../workbench/exchange.js';
import { exitCode, exitOnInterrupt } from '../exit.js';
import { readSource } from '../files.js';
import { collect } from '../inputs.js';
import { chooseLanguages, type Chosen } from '../languages.js';
import { payloadOptions, PayloadOptions, unknownOption, validated } from '../options.js';
import { out, print, say, talk } from '../print.js';
import { meter } from '../progress.js';

class CheckOptions extends PayloadOptions {
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

  @IsNumber({}, { message: '--timeout must be a number of seconds' })
  @IsPositive({ message: '--timeout must be more than 0 seconds' })
  timeout = usualLimits.seconds;

  @IsNumber({}, { message: '--memory must be a number of megabytes' })
  @IsPositive({ message: '--memory must be more than 0 megabytes' })
  memory = usualLimits.memory / (1 << 20);

  @IsBoolean()
  strict = false;

  @IsBoolean()
  json = false;
}

export const options = (argv: Argv) =>
  payloadOptions(argv)
    .option('language', {
      type: 'string',
      requiresArg: true,
      describe: 'languages, such as python,typescript:interface; all when not given',
    })
    .option('with', {
      type: 'string',
      requiresArg: true,
      describe: 'a program of your own that decodes and encodes payloads line by line',
    })
    .option('keep', {
      type: 'string',
      requiresArg: true,
      describe: 'keep the generated programs in this folder',
    })
    .option('unknown', unknownOption)
    .option('timeout', {
      type: 'number',
      requiresArg: true,
      default: usualLimits.seconds,
      describe: 'seconds a program may take for one payload',
    })
    .option('memory', {
      type: 'number',
      requiresArg: true,
      default: usualLimits.memory / (1 << 20),
      describe: 'megabytes of memory a program may take',
    })
    .option('strict', {
      type: 'boolean',
      default: false,
      describe: 'another spelling of the same value is a loss too',
    })
    .option('json', { type: 'boolean', default: false, describe: 'one JSON document on stdout' });

/** The round trip of every payload through every language, and what did not come back. */
export async function run(given: object): Promise<void> {
  const chosen = validated(CheckOptions, given);
  const targets =
    chosen.with !== undefined && chosen.language === undefined
      ? []
      : chooseLanguages(chosen.language ?? 'all');
  const source = readSource(chosen.schema);
  const model = buildModel(readSchema(source), source);
  const payloads = await collect(chosen);

  exitOnInterrupt();
  const results = await checkAll(targets, model, payloads, chosen);
  const result: CheckResult = {
    payloads: payloads.length,
    languages: results,
    unproven: unprovenIn(model, targets, payloads, chosen.schema),
  };
  print(chosen.json ? writeJson(checkToJson(result), 2) : renderCheck(result, out));

  const isRefused =
    results.length > 0 && results.every(({ state, returned }) => state === 'checked' && returned === 0);
  if (isRefused && chosen.at === undefined && !chosen.quiet)
    say(
      `${talk.colours.warn('hint:')} every payload was refused; if the records are inside each document, say where with --at (skevo outline shows it)`,
    );
  const failed = results.some(({ state }) => state === 'failed');
  const missing = results.some(({ state }, i) => state === 'not-run' && targets[i]?.named);
  const nothingRan = results.every(({ state }) => state !== 'checked');
  if (results.some((each) => lossesOf(each) > 0)) process.exitCode = exitCode.findings;
  else if (failed || missing || nothingRan) process.exitCode = exitCode.notRun;
}

async function checkAll(
  targets: readonly Chosen[],
  model: TypeModel,
  payloads: readonly Payload[],
  chosen: CheckOptions,
): Promise<LanguageResult[]> {
  const settings = {
    strict: chosen.strict,
    limits: { seconds: chosen.timeout, memory: chosen.memory * (1 << 20) },
    keep: chosen.keep,
    unknown: chosen.unknown,
  };
  const jobs = targets.map(
    ({ language, style }) =>
      (progress: (answered: number) => void) =>
        checkStyle(language, style, model, basename(chosen.schema), payloads, { ...settings, progress }),
  );
  const { with: command } = chosen;
  if (command !== undefined)
    jobs.push((progress) => checkProgram(command, model, payloads, { ...settings, progress }));

  const label = jobs.length === 1 ? 'checking' : `checking ${jobs.length} languages`;
  const bar = meter(label, payloads.length * jobs.length, 'payloads', chosen.quiet);
  const results = await pMap(
    jobs,
    async (job) => {
      let before = 0;
      const result = await job((answered) => {
        bar.advance(answered - before);
        before = answered;
      });
      bar.advance(payloads.length - before);
      return result;
    },
    { concurrency: availableParallelism() },
  );
  bar.finish();
  return results;
}

function unprovenIn(
  model: TypeModel,
  targets: readonly Chosen[],
  payloads: readonly Payload[],
  schema: string,
): readonly Unproven[] {
  const coverage = new Coverage(model);
  for (const { root } of payloads) coverage.add(root);
  const names = targets.map(({ style }) => style.emit(model, { origin: schema }).names);
  return coverage.unproven((record, key) => names.some((each) => each.get(record)?.fields.get(key) !== key));
}
