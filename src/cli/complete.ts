import { SkevoError } from '../core/error.js';
import { analyse } from '../core/infer/infer.js';
import { outlineOf } from '../core/infer/outline.js';
import { datesRules } from '../core/model/dates.js';
import { formatNames } from '../formats/format.js';
import { resolveInputs, sizeOf, writings } from '../formats/inputs.js';
import { observeInputs } from '../formats/read.js';
import { languages } from '../languages/index.js';
import { buildersRules, unknownRules } from '../languages/language.js';
import { readProject } from '../project/file.js';
import { findProjectFile } from '../project/find.js';
import { commands } from './commands.js';
import { targets as convertTargets } from './commands/convert.js';
import { choicePolicies, schemaForms } from './commands/infer.js';
import { describedOptions, nameOf, type DescribedOption } from './described.js';

/** What may stand where somebody is typing. */
export interface Candidate {
  readonly text: string;
  readonly describe: string;
}

/** Bytes of payloads that are read while somebody waits for the places in them. */
const mostRead = 4 << 20;

const plain = (texts: readonly string[]): Candidate[] => texts.map((text) => ({ text, describe: '' }));

/** What the options take that take one of several words. */
const words: Readonly<Record<string, () => readonly Candidate[]>> = {
  unknown: () => plain(unknownRules),
  dates: () => plain(datesRules),
  builders: () => plain(buildersRules),
  input: () => plain(writings),
  choices: () => plain(choicePolicies),
  tool: () => plain([...new Set(languages.flatMap(({ tools }) => tools.map(({ name }) => `${name}=`)))]),
};

/** What `--to` takes, by the command. */
const targets: Readonly<Record<string, readonly string[]>> = {
  infer: schemaForms,
  vary: formatNames,
  convert: convertTargets,
};

/**
 * What may stand at the end of a command line.
 * @param line all that was typed before, as a shell has it, the name of the program first
 * @returns nothing where a file is what may stand there
 */
export async function candidates(line: string): Promise<readonly Candidate[]> {
  const [, ...typed] = wordsOf(line);
  const current = typed.pop() ?? '';
  const [name, ...given] = typed;
  const beginning = (found: readonly Candidate[]) => found.filter(({ text }) => text.startsWith(current));
  if (name === undefined)
    return beginning(commands.map((each) => ({ text: nameOf(each), describe: each.summary })));
  const command = commands.find((each) => nameOf(each) === name);
  if (command === undefined) return [];
  const options = await describedOptions(command);
  if (/^--[\w-]+=/.test(current)) {
    const [option, ...rest] = current.split('=') as [string, ...string[]];
    const found = await valuesOf(option.slice(2), name, given, rest.join('='));
    return found.map((each) => ({ ...each, text: `${option}=${each.text}` }));
  }
  const before = given.at(-1) ?? '';
  if (isOption(before, options)) return valuesOf(before.slice(2), name, given, current);
  if (current.startsWith('-'))
    return beginning(options.map((each) => ({ text: `--${each.name}`, describe: each.describe })));
  return name === 'run' ? beginning(contracts(given)) : [];
}

const isOption = (word: string, options: readonly DescribedOption[]): boolean =>
  options.some(({ name, takesValue }) => takesValue && word === `--${name}`);

async function valuesOf(
  option: string,
  command: string,
  given: readonly string[],
  current: string,
): Promise<readonly Candidate[]> {
  if (option === 'language') return ofLanguages(current);
  const found =
    option === 'at' || option === 'why' || option === 'decide'
      ? await places(given)
      : option === 'to'
        ? plain(targets[command] ?? [])
        : (words[option]?.() ?? []);
  return found.filter(({ text }) => text.startsWith(current));
}

/** Languages and their styles, behind those that are there already. */
function ofLanguages(current: string): readonly Candidate[] {
  const before = /^.*,|/.exec(current)![0];
  const all = languages.flatMap(({ name, title, styles }) => [
    { text: name, describe: title },
    ...styles.map((style) => ({ text: `${name}:${style.name}`, describe: style.summary })),
  ]);
  const own = [
    ...(before === '' ? [{ text: 'all', describe: 'every one that can be run here' }] : []),
    ...all,
  ];
  return own
    .map((each) => ({ ...each, text: before + each.text }))
    .filter(({ text }) => text.startsWith(current));
}

function contracts(given: readonly string[]): Candidate[] {
  const at = given.indexOf('--project');
  const path = findProjectFile(at < 0 ? undefined : given[at + 1]);
  if (path === undefined) return [];
  return quietly([], () =>
    [...readProject(path).contracts].map(([text, { schema }]) => ({ text, describe: schema })),
  );
}

/** The places of the payloads that a command line names, if they are soon read. */
async function places(given: readonly string[]): Promise<Candidate[]> {
  const files = given.filter((word, i) => !word.startsWith('-') && !given[i - 1]?.startsWith('--'));
  try {
    const inputs = (await resolveInputs(files)).filter(({ path }) => path !== undefined);
    if (inputs.length === 0 || inputs.reduce((sum, each) => sum + sizeOf(each), 0) > mostRead) return [];
    const observation = await observeInputs(inputs, [], () => {});
    return outlineOf(analyse(observation, { name: 'Payload' })).flatMap(({ place, types }) =>
      place === '' ? [] : [{ text: place, describe: types.join(' or ') }],
    );
  } catch (error) {
    if (error instanceof SkevoError) return [];
    throw error;
  }
}

function quietly<T>(otherwise: T, read: () => T): T {
  try {
    return read();
  } catch (error) {
    if (error instanceof SkevoError) return otherwise;
    throw error;
  }
}

/** The words of a command line as a shell reads them; the last is what is being typed, and may be empty. */
export function wordsOf(line: string): string[] {
  const found: string[] = [];
  let word: string | undefined;
  for (const [part] of line.matchAll(/\s+|'[^']*'?|"(?:\\[\s\S]|[^"\\])*"?|\\[\s\S]?|[^\s'"\\]+/g)) {
    if (/^\s/.test(part)) {
      if (word !== undefined) found.push(word);
      word = undefined;
    } else if (part.startsWith("'")) word = (word ?? '') + part.replaceAll("'", '');
    else if (part.startsWith('"'))
      word =
        (word ?? '') +
        part
          .slice(1)
          .replace(/"$/, '')
          .replace(/\\(["\\$`])/g, '$1');
    else word = (word ?? '') + part.replace(/^\\/, '');
  }
  return [...found, word ?? ''];
}
