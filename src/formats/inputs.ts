import { closeSync, openSync, readdirSync, readSync, statSync, type Dirent, type Stats } from 'node:fs';
import { basename, dirname, join, relative, resolve, sep } from 'node:path';
import { glob, isDynamicPattern } from 'tinyglobby';
import { SkevoError } from '../core/error.js';
import { nearest } from '../core/nearest.js';
import { formatNames, type FormatName } from './format.js';
import { reasonOf } from './write.js';

/** How a file is packed: gzip (RFC 1952), Zstandard (RFC 8878). */
export type Packing = 'gzip' | 'zstd';

const packings: Readonly<Record<string, Packing>> = { '.gz': 'gzip', '.zst': 'zstd' };

/** The code of errors about what is not Zstandard, as those of zlib are. */
export const brokenZstd = 'Z_ZSTD';

/** A file of payloads, or the standard input. */
export interface Input {
  /** What a person calls it: the path from where they stand, with forward slashes; `stdin` for the standard input. */
  readonly name: string;
  /** Missing for the standard input. */
  readonly path?: string;
  /** One payload, one a line, or a saved observation. The standard input tells by what it holds. */
  readonly layout: 'document' | 'lines' | 'either' | 'observation';
  /** How it is packed, where it is. */
  readonly packing?: Packing | undefined;
  /** What it is written in. */
  readonly format: FormatName;
  /** Bytes that a document of it, or a line, may have when it is unpacked. */
  readonly limit: number;
  /** Its bytes, where they have been read already. */
  readonly held?: Uint8Array;
}

/** What inputs may be said to be written in: a format, or JSON with one payload a line. */
export const writings = [...formatNames, 'ndjson'] as const;
export type Writing = (typeof writings)[number];

/** What the standard input is called where nobody says it. */
export const usualStandardInput = 'stdin';

export const usualInputLimit = 512 << 20;

/** Files of Skevo's own that may stand beside payloads. */
const own = ['**/*.origin.yaml', '**/skevo.yaml'];

/** Endings of the files that payloads come in. */
export const endings =
  /\.(json|ndjson|jsonl|observation|yaml|yml|csv|tsv|xml|avro|cbor|msgpack)(\.(?:gz|zst))?$/i;

/**
 * The inputs that arguments stand for: files, folders (with all below them), globs, or `-`. Sorted by name and
 * without repetition, so that results do not depend on how the arguments were given.
 *
 * @param limit bytes that a document, or a line, may have
 * @param writing what the inputs are written in, whatever their endings
 * @param standardInput what the standard input is called
 * @throws SkevoError for a file that is not there, a folder or glob without payloads, an unknown ending
 */
export async function resolveInputs(
  args: readonly string[],
  limit = usualInputLimit,
  writing?: Writing,
  standardInput = usualStandardInput,
): Promise<Input[]> {
  const inputs = new Map<string, Input>();
  for (const arg of args) {
    const found: Found[] =
      arg === '-' ? [{ name: standardInput, layout: 'either', format: 'json' }] : await expand(arg);
    for (const input of found) inputs.set(input.name, { ...asSaid(input, writing), limit });
  }
  return [...inputs.values()].sort((a, b) => (a.name < b.name ? -1 : 1));
}

type Found = Omit<Input, 'limit'>;

function asSaid(input: Found, writing: Writing | undefined): Found {
  if (writing === undefined || input.layout === 'observation') return input;
  if (writing === 'ndjson') return { ...input, format: 'json', layout: 'lines' };
  const format = writing;
  if (format === input.format) return input;
  return { ...input, format, layout: format === 'json' && input.path === undefined ? 'either' : 'document' };
}

async function expand(arg: string): Promise<Found[]> {
  const stat = statOf(arg);
  if (stat?.isDirectory()) {
    refuseUnreadable(arg);
    const found = await glob(`**/*.{json,ndjson,jsonl,yaml,yml,csv,tsv,xml,avro,cbor,msgpack}{,.gz,.zst}`, {
      cwd: arg,
      absolute: true,
      dot: false,
      ignore: own,
    });
    if (found.length === 0) {
      throw new SkevoError(
        `the folder ${arg} holds no payloads`,
        'Payloads are files that end in .json, .ndjson, .jsonl, .yaml, .csv, .tsv, .xml, .avro, .cbor or .msgpack, each also with .gz or .zst.',
      );
    }
    return found.map(fileInput);
  }
  if (stat !== undefined) return [fileInput(resolve(arg))];
  if (isDynamicPattern(arg)) {
    if (arg.includes('**')) refuseUnreadable(arg.replace(/[^/]*[*?[{(!].*$/, '') || '.');
    const found = (await glob(arg, { absolute: true, ignore: own })).filter((path) => endings.test(path));
    if (found.length === 0)
      throw new SkevoError(`no payload matches ${arg}`, 'Check the pattern, or name a folder.');
    return found.map(fileInput);
  }
  throw new SkevoError(`there is no file ${arg}`, nearestFile(arg));
}

function statOf(path: string): Stats | undefined {
  try {
    return statSync(path, { throwIfNoEntry: false });
  } catch (error) {
    throw unreadable(path, error);
  }
}

/** Bytes of the file of an input; 0 for the standard input. @throws SkevoError when it is there no more */
export function sizeOf({ name, path, held }: Pick<Input, 'name' | 'path' | 'held'>): number {
  if (held !== undefined) return held.length;
  if (path === undefined) return 0;
  const stat = statOf(path);
  if (stat === undefined) throw gone(name);
  return stat.size;
}

/** What cannot be read, as an error of the trade; other errors as they are. */
export function unreadable(name: string, error: unknown): unknown {
  if (error instanceof SkevoError) return error;
  const { code } = error as NodeJS.ErrnoException;
  if (code === 'EACCES' || code === 'EPERM')
    return new SkevoError(`${name} may not be read`, 'Check its permissions.');
  if (code === 'ENOENT') return gone(name);
  if (code?.startsWith('Z_'))
    return new SkevoError(
      `${name} is not ${code === brokenZstd ? 'Zstandard' : 'gzip'}, or cut short`,
      'Check that the download is complete.',
    );
  const reason = reasonOf(error);
  return reason === undefined
    ? error
    : new SkevoError(`${name} cannot be read: ${reason}`, 'Check the path.');
}

function gone(name: string): SkevoError {
  return name.includes('\ufffd')
    ? new SkevoError(`the name ${name} is not UTF-8`, 'Rename the file.')
    : new SkevoError(`${name} is gone: it was there a moment ago`, 'Run it again.');
}

/** What a search would pass over in silence. @throws SkevoError for a folder below another that may not be read */
function refuseUnreadable(folder: string): void {
  const waiting = [folder];
  for (let here = waiting.pop(); here !== undefined; here = waiting.pop()) {
    let entries: Dirent[];
    try {
      entries = readdirSync(here, { withFileTypes: true });
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      // A pattern may begin in what is no folder; the search says that nothing matches.
      if (here === folder && (code === 'ENOENT' || code === 'ENOTDIR')) return;
      throw unreadable(here, error);
    }
    for (const entry of entries)
      if (entry.isDirectory() && !entry.name.startsWith('.')) waiting.push(join(here, entry.name));
  }
}

const layouts: Readonly<Record<string, Input['layout']>> = {
  json: 'document',
  ndjson: 'lines',
  jsonl: 'lines',
  observation: 'observation',
};

const formats: Readonly<Record<string, FormatName>> = {
  yaml: 'yaml',
  yml: 'yaml',
  csv: 'csv',
  tsv: 'tsv',
  xml: 'xml',
  avro: 'avro',
  cbor: 'cbor',
  msgpack: 'msgpack',
};

/** Endings of files in which there are surely no payloads. */
const otherFormats = /\.(?:txt|md|toml|html?|pdf|zip|xlsx?)(?:\.(?:gz|zst))?$/i;

function fileInput(path: string): Found {
  const match = endings.exec(path);
  const name = relative(process.cwd(), path).split(sep).join('/') || basename(path);
  if (otherFormats.test(path)) {
    throw new SkevoError(
      `${name} is not called as payloads are`,
      'Rename it to .json, .ndjson, .yaml, .csv or .xml, or pipe it in and give - as the payload.',
    );
  }
  // Somebody who names a file knows what it is, whatever its ending: .geojson, .map, .har.
  if (match === null) {
    const packing = packings[/\.[^.]*$/.exec(path)?.[0] ?? ''];
    return {
      name,
      path,
      layout: 'document',
      packing,
      format: packing === undefined ? formatOfFile(path) : 'json',
    };
  }
  const ending = match[1]!.toLowerCase();
  return {
    name,
    path,
    layout: layouts[ending] ?? 'document',
    packing: packings[match[2]?.toLowerCase() ?? ''],
    format: formats[ending] ?? 'json',
  };
}

export function tooLarge({ name, limit }: Pick<Input, 'name' | 'limit'>): SkevoError {
  return new SkevoError(
    `${name} has more than ${Math.floor(limit / (1 << 20))} MB in one document or line`,
    'Select a part of it by --at, write one payload a line, or raise the limit with --limit.',
  );
}

/** What bytes that begin so are in: XML and Avro begin with what no JSON has. */
export function formatOfBytes(bytes: Uint8Array): FormatName {
  if (bytes[0] === 0x4f && bytes[1] === 0x62 && bytes[2] === 0x6a && bytes[3] === 0x01) return 'avro';
  const text = new TextDecoder().decode(bytes.subarray(0, 1_000));
  return /^\ufeff?\s*</.test(text) ? 'xml' : 'json';
}

function formatOfFile(path: string): FormatName {
  try {
    const file = openSync(path, 'r');
    try {
      const buffer = Buffer.alloc(1_000);
      return formatOfBytes(buffer.subarray(0, readSync(file, buffer)));
    } finally {
      closeSync(file);
    }
  } catch {
    // Whoever reads it says why it cannot be read.
    return 'json';
  }
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
