import { IsBoolean, IsOptional, IsString } from 'class-validator';
import { existsSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import type { Argv } from 'yargs';
import { keepEndpoint, readHar, secretNotes } from '../../capture/har.js';
import { SkevoError } from '../../core/error.js';
import {
  discoverContracts,
  discoverLanguages,
  projectText,
  suggestion,
  type Suggested,
} from '../../project/discover.js';
import { projectFiles } from '../../project/find.js';
import { chooseLanguages } from '../languages.js';
import { readSource } from '../../formats/source.js';
import { writeWhole } from '../../formats/write.js';
import { validated } from '../options.js';
import { out, print, say, talk } from '../print.js';

class InitOptions {
  @IsString()
  from = '.';

  @IsOptional()
  @IsString({ message: '--language is given more than once: separate languages by commas' })
  language?: string;

  @IsBoolean()
  quiet = false;
}

export const options = (argv: Argv) =>
  argv
    .positional('from', {
      type: 'string',
      default: '.',
      describe: 'a folder of payloads, or a .har file',
    })
    .option('language', {
      type: 'string',
      describe: 'languages to generate; those of the folder when not given',
    })
    .option('quiet', { type: 'boolean', default: false, describe: 'no notes' });

/** Writes a first project file for the payloads that it finds. Asks nothing. */
export async function run(given: object): Promise<void> {
  const chosen = validated(InitOptions, given);
  const there = projectFiles.find((name) => existsSync(name));
  if (there !== undefined)
    throw new SkevoError(`there is a ${there} already`, 'Edit it, or remove it first.');
  const stat = statSync(chosen.from, { throwIfNoEntry: false });
  if (stat === undefined)
    throw new SkevoError(`there is no file or folder ${chosen.from}`, 'Name a folder, or a .har file.');
  const isRecording = stat.isFile() && /\.har$/i.test(chosen.from);
  if (stat.isFile() && !isRecording)
    throw new SkevoError(
      `${chosen.from} is neither a folder nor a .har file`,
      'Name the folder that it is in.',
    );
  const contracts = isRecording
    ? await fromRecording(chosen.from, chosen.quiet)
    : discoverContracts(relative('.', chosen.from) || '.');
  if (contracts.length === 0)
    throw new SkevoError(
      `there are no payloads in ${chosen.from}`,
      'Save some as .json or .ndjson, or capture them: skevo capture URL --out samples/NAME.',
    );
  const languages =
    chosen.language === undefined
      ? discoverLanguages('.')
      : chooseLanguages(chosen.language).map(({ language }) => language.name);
  await writeWhole('skevo.yaml', projectText(contracts, languages));
  for (const { key, samples, at } of contracts)
    print(`${out.colours.name(key)}  ${out.colours.faint(`${samples}${at === '' ? '' : ` at ${at}`}`)}`);
  if (!chosen.quiet)
    say(`wrote ${talk.colours.name('skevo.yaml')}; next: ${talk.colours.strong('skevo run')}`);
}

/** Samples of every endpoint of a recording, each below `samples`. */
async function fromRecording(path: string, quiet: boolean): Promise<Suggested[]> {
  const contracts: Suggested[] = [];
  const { endpoints, secrets, secretive } = await readHar(readSource(path));
  if (!quiet) for (const note of secretNotes({ secretive })) say(`${talk.colours.warn('note:')} ${note}`);
  for (const endpoint of endpoints) {
    const folder = join('samples', endpoint.stem);
    const { first } = await keepEndpoint(endpoint, folder, [], secrets);
    contracts.push({ ...suggestion(folder, endpoint.stem, first), endpoint: endpoint.name });
  }
  return contracts;
}
