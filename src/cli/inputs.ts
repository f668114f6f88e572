import { basename, dirname } from 'node:path';
import { parsePlace, type PlaceStep } from '../core/json/pointer.js';
import { isEnvelope } from '../core/infer/naming.js';
import type { Observation } from '../core/observe/observation.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { plural, pascalCase, singular, wordsOf } from '../core/words.js';
import type { Schema } from '../core/schema/schema.js';
import { endings, resolveInputs, sizeOf, type Input } from '../formats/inputs.js';
import { defaultWorkers } from '../formats/parallel.js';
import { holdStandardInput, observeInputs, readPayloads } from '../formats/read.js';
import { placeOption, type PayloadOptions } from './options.js';
import { noteTaker } from './print.js';
import { meter } from './progress.js';
import { takeStandardInput } from '../formats/source.js';

/**
 * Observes the payloads of a command line, with notes and progress.
 * @param found told of the inputs before they are read
 * @param isHeld whether they are read once more
 * @param mayLack whether there may be none
 */
export async function observe(
  options: PayloadOptions,
  workers = defaultWorkers(),
  found: (inputs: readonly Input[]) => void = () => {},
  isHeld = false,
  mayLack = false,
): Promise<{ observation: Observation; inputs: readonly Input[] }> {
  const at = placeOption(options.at);
  const given = await inputsOf(options);
  found(given);
  const inputs = isHeld ? await holdStandardInput(given) : given;
  const { notes, finish } = noteTaker(options.quiet);
  const bar = meter('reading', bytesOf(inputs), 'MB', options.quiet);
  try {
    const options = { progress: bar.advance, workers, mayLack };
    return { observation: await observeInputs(inputs, at, notes, options), inputs };
  } finally {
    bar.finish();
    finish();
  }
}

/**
 * Every payload of a command line as a value, one after another, with notes and progress.
 * @param schema as which texts of files without types are read
 * @param held the inputs, where they have been found already
 * @param mayLack whether there may be none
 */
export async function* payloadsOf(
  options: PayloadOptions,
  showsProgress = true,
  found: (inputs: readonly Input[]) => void = () => {},
  schema?: () => Schema,
  held?: readonly Input[],
  mayLack = false,
): AsyncGenerator<Payload> {
  const at = placeOption(options.at);
  const inputs = held ?? (await inputsOf(options));
  if (held === undefined) found(inputs);
  const { notes, finish } = noteTaker(options.quiet);
  const bar = meter('reading', bytesOf(inputs), 'MB', options.quiet || !showsProgress);
  try {
    yield* readPayloads(inputs, at, notes, { progress: bar.advance, schema, mayLack });
  } finally {
    bar.finish();
    finish();
  }
}

/** The inputs that a command line names, of which the standard input is not taken yet. */
export function namedInputs({ payload, limit, input, ...others }: PayloadOptions): Promise<Input[]> {
  return resolveInputs(payload, limit * (1 << 20), input, others['stdin-name']);
}

async function inputsOf(options: PayloadOptions): Promise<Input[]> {
  const inputs = await namedInputs(options);
  if (inputs.some(({ path }) => path === undefined)) takeStandardInput();
  return inputs;
}

function bytesOf(inputs: readonly Input[]): number {
  return inputs.reduce((sum, input) => sum + sizeOf(input), 0);
}

/**
 * What the payload is called when nobody says: by the last key of `--at` that says something, the folder that all files are
 * in, or the only file; in the singular, unless the payload is a list.
 */
export function suggestName(
  inputs: readonly Input[],
  at: string | undefined,
  observation: Observation,
): string {
  const steps: readonly PlaceStep[] = parsePlace(at ?? '') ?? [];
  const keys = steps.flatMap((step) => (step === 'every' ? [] : [step.key]));
  const key = keys.findLast((each) => !isEnvelope(each));
  const words = key === undefined ? wordsOfFile(placeName(inputs)) : wordsOf(key);
  if (words.length === 0) return 'Payload';
  return pascalCase(
    observation.root.lists > 0 && observation.root.objects === 0 ? plural(singular(words)) : singular(words),
  );
}

/** Files that are called so say nothing about what is in them, and their folder may. */
const passing = new Set('page response request sample example payload data result results body'.split(' '));

/** The words of a file's name, without the number that tells it from others beside it. */
function wordsOfFile(name: string): string[] {
  const words = wordsOf(name);
  while (/^\d+$/.test(words.at(-1) ?? '')) words.pop();
  return words;
}

/** What the files of inputs are called: their folder, or the only one; empty when nothing says it. */
export function placeName(inputs: readonly Input[]): string {
  const paths = inputs.flatMap(({ path }) => (path === undefined ? [] : [path]));
  if (paths.length === 0) return '';
  const stem = (path: string) => basename(path).replace(endings, '');
  if (paths.length === 1) {
    const [path] = paths as [string];
    // As it was named: a folder that nobody named says nothing either.
    const folder = basename(dirname(inputs.find((each) => each.path === path)!.name));
    const isTelling = wordsOfFile(stem(path)).some((word) => !passing.has(word));
    return isTelling || /^\.*$/.test(folder) ? stem(path) : folder;
  }
  const folders = new Set(paths.map(dirname));
  return folders.size === 1 ? basename([...folders][0]!) : '';
}
