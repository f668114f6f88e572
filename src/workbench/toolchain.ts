import { execa } from 'execa';
import { existsSync, readFileSync, realpathSync, statSync } from 'node:fs';
import { createRequire } from 'node:module';
import { delimiter, dirname, join } from 'node:path';
import { cacheKey, remembered } from './cache.js';
import type { Language, Resident, Style, Tool } from '../languages/language.js';

/** A program that was found, with what must stand before its own arguments. */
export interface FoundTool {
  readonly file: string;
  readonly prefix: readonly string[];
  readonly version: string;
  /** What keeps it running for many builds. */
  readonly resident?: Resident | undefined;
}

type Place = Pick<FoundTool, 'file' | 'prefix'>;

export type Toolchain =
  | {
      readonly state: 'ready';
      readonly tools: ReadonlyMap<string, FoundTool>;
      /** The files of each library. */
      readonly libraries: ReadonlyMap<string, readonly string[]>;
    }
  | { readonly state: 'missing'; readonly reason: string; readonly install: string };

const known = new Map<string, Promise<Toolchain>>();

/**
 * Looks for the programs that a language's bench needs; once per process.
 * @param named programs to use, by the names of tools, before what the environment names
 * @param style which may need more than the language; the first when not given
 */
export function findToolchain(
  language: Language,
  named: ReadonlyMap<string, string> = new Map(),
  style: Style = language.styles[0],
): Promise<Toolchain> {
  const key = JSON.stringify([language.name, (style.tools ?? style.libraries) ? style.name : '', ...named]);
  let found = known.get(key);
  if (found === undefined) {
    found = findTools(language, style, named);
    known.set(key, found);
  }
  return found;
}

async function findTools(
  language: Language,
  style: Style,
  named: ReadonlyMap<string, string>,
): Promise<Toolchain> {
  const tools = new Map<string, FoundTool>();
  for (const tool of [...language.tools, ...(style.tools ?? [])]) {
    const byOption = named.get(tool.name);
    const chosen = byOption ?? (process.env[tool.variable] || undefined);
    const place = locate(tool, chosen);
    if (place === undefined) {
      const who = byOption === undefined ? tool.variable : '--tool';
      const reason =
        chosen === undefined ? `${tool.name} is not installed` : `${who} names ${chosen}, which is not there`;
      return { state: 'missing', reason, install: tool.install };
    }
    const version = await versionOf(tool, place);
    if (version === undefined) {
      return {
        state: 'missing',
        reason: tool.name.startsWith(tool.programs?.[0] ?? tool.name)
          ? `${place.file} does not tell its version`
          : `${place.file} has no ${tool.name}`,
        install: tool.install,
      };
    }
    if (isOlder(version, tool.minimum)) {
      return {
        state: 'missing',
        reason: `${tool.name} ${version} is older than ${tool.minimum}`,
        install: tool.install,
      };
    }
    tools.set(tool.name, { ...place, version, resident: tool.resident?.(homeOf(place.file)) });
  }
  const libraries = new Map<string, readonly string[]>();
  for (const { name, files, install } of [...(language.libraries ?? []), ...(style.libraries ?? [])]) {
    const found = files();
    if (found === undefined)
      return { state: 'missing', reason: `the library ${name} is not installed`, install };
    libraries.set(name, found);
  }
  return { state: 'ready', tools, libraries };
}

function locate(tool: Tool, chosen: string | undefined): Place | undefined {
  if (chosen !== undefined) {
    const file = isFile(chosen) ? chosen : inPath(chosen);
    return file === undefined ? undefined : runnable(file);
  }
  if (tool.bundled !== undefined) {
    const file = join(packageFolder(tool.bundled.package), tool.bundled.path);
    return existsSync(file) ? runnable(file) : undefined;
  }
  for (const program of tool.programs ?? []) {
    const file = inPath(program);
    if (file !== undefined) return { file, prefix: [] };
  }
  return undefined;
}

/** The folder of an npm package that Skevo depends on. */
export function packageFolder(name: string): string {
  const { resolve } = createRequire(import.meta.url);
  try {
    return dirname(resolve(`${name}/package.json`));
  } catch {
    // Some packages export no more than their code.
    const main = resolve(name);
    return main.slice(0, main.lastIndexOf(join('node_modules', name)) + join('node_modules', name).length);
  }
}

/** Where the distribution of a program is, which has it in its folder `bin`. */
export function homeOf(file: string): string {
  return dirname(dirname(realpathSync(file)));
}

/** A script for Node is run by this Node. */
function runnable(file: string): Place {
  const isScript =
    /\.[cm]?js$/.test(file) ||
    readFileSync(file).subarray(0, 64).toString('latin1').startsWith('#!/usr/bin/env node');
  return isScript ? { file: process.execPath, prefix: [file] } : { file, prefix: [] };
}

function inPath(program: string): string | undefined {
  const suffixes = process.platform === 'win32' ? ['.exe', '.cmd', ''] : [''];
  for (const folder of (process.env['PATH'] ?? '').split(delimiter)) {
    for (const suffix of suffixes) {
      const file = join(folder, program + suffix);
      if (folder !== '' && isFile(file)) return file;
    }
  }
  return undefined;
}

function isFile(path: string): boolean {
  try {
    return statSync(path, { throwIfNoEntry: false })?.isFile() ?? false;
  } catch {
    return false; // A folder of PATH that may not be read holds nothing for us.
  }
}

/** Asking for a version takes a second of some compilers, so what a file said is kept while the file is the same. */
async function versionOf(tool: Tool, place: Place): Promise<string | undefined> {
  const script = place.prefix[0] ?? place.file;
  const { size, mtimeMs } = statSync(script);
  const key = cacheKey('version', [script, String(size), String(mtimeMs), JSON.stringify(tool)]);
  return remembered(key, /^\d+(\.\d+)*$/, async () => {
    const run = await execa(place.file, [...place.prefix, ...tool.versionArguments], {
      reject: false,
      timeout: 20_000,
      all: true,
    });
    return tool.versionPattern.exec(run.all ?? '')?.[1];
  });
}

function isOlder(version: string, minimum: string): boolean {
  const have = version.split('.').map(Number);
  const need = minimum.split('.').map(Number);
  for (let i = 0; i < need.length; i++) {
    if ((have[i] ?? 0) !== need[i]) return (have[i] ?? 0) < need[i]!;
  }
  return false;
}
