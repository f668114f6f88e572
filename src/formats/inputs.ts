import { readdirSync, statSync } from 'node:fs';
import { basename, dirname, relative, resolve, sep } from 'node:path';
import { glob, isDynamicPattern } from 'tinyglobby';
import { SkevoError } from '../core/error.js';
import { nearest } from '../core/nearest.js';

/** A file of payloads, or the standard input. */
export interface Input {
  /** What a person calls it: the path from where they stand, with forward slashes; `stdin` for the standard input. */
  readonly name: string;
  /** Missing for the standard input. */
  readonly path?: string;
  /** One payload, one a line, or a saved observation. The standard input tells by what it holds. */
  readonly layout: 'document' | 'lines' | 'either' | 'observation';
  readonly gzip: boolean;
}

const endings = /\.(json|ndjson|jsonl|observation)(\.gz)?$/i;

/**
 * The inputs that arguments stand for: files, folders (with all below them), globs, or `-`. Sorted by name and
 * without repetition, so that results do not depend on how the arguments were given.
 *
 * @throws SkevoError for a file that is not there, a folder or glob without payloads, an unknown ending
 */
export async function resolveInputs(args: readonly string[]): Promise<Input[]> {
  const inputs = new Map<string, Input>();
  for (const arg of args) {
    for (const input of await expand(arg)) inputs.set(input.name, input);
  }
  return [...inputs.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
}

async function expand(arg: string): Promise<Input[]> {
  if (arg === '-') return [{ name: 'stdin', layout: 'either', gzip: false }];
  const stat = statSync(arg, { throwIfNoEntry: false });
  if (stat?.isDirectory()) {
    const found = await glob('**/*.{json,ndjson,jsonl,json.gz,ndjson.gz,jsonl.gz}', {
      cwd: arg,
      absolute: true,
      dot: false,
    });
    if (found.length === 0) {
      throw new SkevoError(
        `the folder ${arg} holds no payloads`,
        'Payloads are files that end in .json, .ndjson or .jsonl, each also with .gz.',
      );
    }
    return found.map(fileInput);
  }
  if (stat !== undefined) return [fileInput(resolve(arg))];
  if (isDynamicPattern(arg)) {
    const found = (await glob(arg, { absolute: true })).filter((path) => endings.test(path));
    if (found.length === 0)
      throw new SkevoError(`no payload matches ${arg}`, 'Check the pattern, or name a folder.');
    return found.map(fileInput);
  }
  throw new SkevoError(`there is no file ${arg}`, nearestFile(arg));
}

const layouts: Readonly<Record<string, Input['layout']>> = {
  json: 'document',
  ndjson: 'lines',
  jsonl: 'lines',
  observation: 'observation',
};

function fileInput(path: string): Input {
  const match = endings.exec(path);
  const name = relative(process.cwd(), path).split(sep).join('/') || basename(path);
  if (match === null) {
    throw new SkevoError(
      `${name} does not end in .json, .ndjson or .jsonl`,
      'Rename it, or pipe it in and give - as the payload.',
    );
  }
  return {
    name,
    path,
    layout: layouts[match[1]!.toLowerCase()]!,
    gzip: match[2] !== undefined,
  };
}

/** What to do about a file that is not there: the nearest of its folder, when there is one. */
export function nearestFile(arg: string): string {
  const folder = dirname(arg);
  try {
    const near = nearest(basename(arg), readdirSync(folder));
    if (near !== undefined) return `Did you mean ${folder === '.' ? near : `${folder}/${near}`}?`;
  } catch {
    return `The folder ${folder} is not there either.`;
  }
  return 'Check the path.';
}
