import { IsBoolean, IsIn, IsOptional, IsString } from 'class-validator';
import { basename, join } from 'node:path';
import type { Argv } from 'yargs';
import { SkevoError } from '../../core/error.js';
import { buildModel } from '../../core/model/build.js';
import { datesRules, type DatesRule } from '../../core/model/dates.js';
import { inWords } from '../../core/words.js';
import { languages } from '../../languages/index.js';
import { allMade, makeAll, makeTogether } from '../../languages/make.js';
import {
  buildersRules,
  unknownRules,
  type BuildersRule,
  type UnknownRule,
} from '../../languages/language.js';
import { packageTrouble } from '../../languages/kit/packages.js';
import type { TypeModel } from '../../core/model/types.js';
import { writeBelow } from '../files.js';
import { readAnySchema } from '../schemas.js';
import { chooseLanguages } from '../languages.js';
import { validated } from '../options.js';
import { buildersOption, datesOption, unknownOption } from '../shared-options.js';
import { print, say, talk } from '../print.js';

class GenerateOptions {
  @IsString({ each: true })
  schema!: string[];

  @IsOptional()
  @IsString({ message: '--language is given more than once: separate languages by commas' })
  language?: string;

  @IsOptional()
  @IsString({ message: '--out is given more than once' })
  out?: string;

  @IsOptional()
  @IsString({ message: '--package is given more than once' })
  package?: string;

  @IsIn(unknownRules, { message: `--unknown must be one of ${unknownRules.join(', ')}` })
  unknown: UnknownRule = 'drop';

  @IsOptional()
  @IsIn(datesRules, { message: `--dates must be one of ${datesRules.join(', ')}` })
  dates?: DatesRule;

  @IsIn(buildersRules, { message: `--builders must be one of ${buildersRules.join(', ')}` })
  builders: BuildersRule = 'on';

  @IsBoolean()
  quiet = false;
}

export const options = (argv: Argv) =>
  argv
    .option('language', {
      type: 'string',
      describe: 'languages, such as python,typescript:interface',
    })
    .option('out', { type: 'string', describe: 'write the files below this folder' })
    .option('package', {
      type: 'string',
      describe: 'the package, namespace or module of the types, as the language writes it',
    })
    .option('unknown', unknownOption)
    .option('dates', datesOption)
    .option('builders', buildersOption)
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes' });

/** Generates typed classes: to a folder, or to the standard output when it is one file. */
export async function run(given: object): Promise<void> {
  const chosen = validated(GenerateOptions, given);
  if (chosen.language === undefined) {
    throw new SkevoError(
      'generate needs to know the language',
      `Give --language with one or more of ${languages.map(({ name }) => name).join(', ')}.`,
    );
  }
  const targets = chooseLanguages(chosen.language);
  if (chosen.package !== undefined)
    for (const { language } of targets) {
      const trouble = packageTrouble(language, chosen.package);
      if (trouble !== undefined) throw new SkevoError(`--${trouble.message}`, trouble.remedy);
    }
  const models: TypeModel[] = [];
  for (const path of chosen.schema) {
    const { schema, source } = await readAnySchema(path, chosen.quiet);
    models.push(buildModel(schema, source));
  }
  const [model, ...others] = models;
  if (others.length > 0 && chosen.package === undefined)
    throw new SkevoError(
      'several schemas come out as one package, which has no name yet',
      'Name it with --package, or generate one schema at a time.',
    );
  const wanted = targets.map((target) => ({
    ...target,
    package: chosen.package,
    unknown: chosen.unknown,
    dates: chosen.dates,
    builders: chosen.builders,
  }));
  if (chosen.builders === 'off' && !chosen.quiet && targets.every(({ style }) => style.hasBuilders !== true))
    say(`${talk.colours.warn('note:')} --builders off changes nothing here: Java alone has builders`);
  const textual = targets.filter(({ style }) => style.natives === undefined);
  if (chosen.dates === 'native' && textual.length > 0 && !chosen.quiet)
    say(
      `${talk.colours.warn('note:')} ${inWords(textual.map(({ language, style }) => `${language.name} ${style.name}`))}: dates, UUIDs and bytes stay text, for which there are no types`,
    );
  const origin = inWords(chosen.schema.map((path) => basename(path)));
  const made =
    others.length === 0
      ? makeAll(model!, wanted, { origin })
      : allMade(makeTogether([model!, ...others], wanted, { origin })[0]!);
  if (chosen.out === undefined) {
    const files = made.flatMap(({ emitted }) => emitted.files);
    if (files.length > 1)
      throw new SkevoError(
        `these are ${files.length} files, and the standard output takes one`,
        'Name a folder with --out.',
      );
    print(files[0]!.text);
    return;
  }
  for (const { target, emitted } of made) {
    const { language, style } = target;
    // One language goes straight into the folder; several would mix their files.
    const folder =
      made.length === 1
        ? chosen.out
        : join(chosen.out, style === language.styles[0] ? language.name : `${language.name}-${style.name}`);
    for (const path of await writeBelow(folder, emitted.files, true))
      if (!chosen.quiet) say(`wrote ${talk.colours.name(path)}`);
  }
}
