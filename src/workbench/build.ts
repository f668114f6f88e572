import { existsSync, lstatSync, mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { SkevoError } from '../core/error.js';
import { unwritable } from '../formats/write.js';
import type { Bench, BenchCommand, Emitted } from '../languages/language.js';
import { cached, cacheKey } from './cache.js';
import type { Compilers } from './compilers.js';
import type { Program } from './exchange.js';
import { linkPackages, writeFiles } from './folder.js';
import { cleanEnvironment, startGroup, whenAborted } from './processes.js';
import { removeTemporary, temporaryFolder } from './temporary.js';
import { homeOf, packageFolder, type FoundTool } from './toolchain.js';

/** Sources are put here in a bench, so that their names cannot hide a module of the language. */
export const sourceFolder = 'classes';

/** Seconds for one command of a build. */
const longestCommand = 300;

/** Everything that a bench is built from. */
export interface Workshop {
  readonly emitted: Emitted;
  readonly bench: Bench;
  readonly tools: ReadonlyMap<string, FoundTool>;
}

export interface Built {
  readonly folder: string;
  /** Where what does not depend on the schema was built. */
  readonly prepared?: string;
}

export interface BuildOptions {
  /** Build below this folder instead, for people to read. */
  readonly keep?: string | undefined;
  /** Ends the compiler, and throws its reason. */
  readonly signal?: AbortSignal | undefined;
  /** Those that are kept running, where there are many builds. */
  readonly compilers?: Compilers | undefined;
}

/**
 * Builds a bench, or finds it built: builds are kept by the content of all that goes into them.
 * @returns the folder, the words of the compiler that refused it, or what is not here and how to get it
 */
export async function buildBench(
  name: string,
  workshop: Workshop,
  { keep, ...options }: BuildOptions,
): Promise<Built | { readonly failed: string } | { readonly missing: string }> {
  const { emitted, bench, tools } = workshop;
  const versions = [...tools].map(([tool, { file, version }]) => `${tool} ${file} ${version}`);
  let prepared: string | undefined;
  if (bench.prepared !== undefined) {
    const { files, build } = bench.prepared;
    const key = cacheKey(`${name}-prepared`, [...versions, JSON.stringify({ files, build })]);
    const made = await cached(key, async (folder) => {
      writeFiles(folder, files);
      return runAll(folder, build, tools, undefined, options);
    });
    if ('failed' in made) {
      const { unavailable } = bench.prepared;
      return unavailable?.pattern.test(made.failed)
        ? { missing: `${unavailable.what}; get it with: ${unavailable.install}` }
        : made;
    }
    prepared = made.folder;
  }
  const make = async (folder: string) => {
    const sources = emitted.files.map(({ path, text }) => ({ path: `${sourceFolder}/${path}`, text }));
    writeFiles(folder, [...sources, ...bench.files]);
    linkPackages(folder, bench.packages ?? []);
    return runAll(folder, bench.build, tools, prepared, options);
  };
  if (keep === undefined) {
    // A build resolves its packages where this Skevo has them: another checkout, or one that is gone, has others.
    const packages = (bench.packages ?? []).map(packageFolder);
    const parts = [...versions, JSON.stringify({ files: emitted.files, bench, packages }), prepared ?? ''];
    const made = await cached(cacheKey(name, parts), make);
    return 'failed' in made ? made : { ...made, prepared };
  }
  const folder = resolve(keep, name);
  emptyBench(folder);
  const failed = await make(folder);
  return failed === undefined ? { folder, prepared } : { failed };
}

/** In a folder that Skevo made for a bench, and may empty. */
const benchMark = '.skevo-bench';

/** A folder for a bench with nothing in it. @throws SkevoError when there is one that Skevo did not make */
function emptyBench(folder: string): void {
  const there = lstatSync(folder, { throwIfNoEntry: false });
  const isOwn =
    there?.isDirectory() && (existsSync(join(folder, benchMark)) || readdirSync(folder).length === 0);
  if (there !== undefined && !isOwn)
    throw new SkevoError(
      `${folder} is there already, and was not made by --keep`,
      'Move it, or keep the programs in another folder.',
    );
  try {
    rmSync(folder, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, benchMark), '');
  } catch (error) {
    throw unwritable(folder, error);
  }
}

/** The program of a bench that was built. @param temporary a folder for what it may write */
export function programOf({ bench, tools }: Workshop, built: Built, temporary: string): Program {
  const { run } = bench;
  const rest = { folder: built.folder, environment: cleanEnvironment(temporary) };
  const own = run.arguments.map((each) => each.replace('{prepared}', built.prepared ?? ''));
  if ('program' in run) return { file: join(built.folder, run.program), arguments: own, ...rest };
  const tool = tools.get(run.tool)!;
  return { file: tool.file, arguments: [...tool.prefix, ...own], ...rest };
}

async function runAll(
  folder: string,
  commands: readonly BenchCommand[],
  tools: ReadonlyMap<string, FoundTool>,
  prepared: string | undefined,
  { signal, compilers }: BuildOptions,
): Promise<string | undefined> {
  const temporary = temporaryFolder();
  try {
    for (const { tool: name, arguments: given } of commands) {
      const tool = tools.get(name)!;
      const own = given.map((each) =>
        each.replace('{prepared}', prepared ?? '').replace('{home}', () => homeOf(tool.file)),
      );
      if (await compilers?.build(tool, { folder, arguments: own, longest: longestCommand, signal })) continue;
      const { child, kill, reason } = startGroup(tool.file, [...tool.prefix, ...own], {
        cwd: folder,
        env: cleanEnvironment(temporary),
        extendEnv: false,
        reject: false,
        all: true,
      });
      const forget = whenAborted(signal, () => kill('it was cancelled'));
      const clock = setTimeout(() => kill(`it takes more than ${longestCommand} s`), longestCommand * 1000);
      const run = await child;
      clearTimeout(clock);
      forget();
      signal?.throwIfAborted();
      const killed = reason();
      if (killed !== undefined) return `${name} was ended: ${killed}`;
      if (run.exitCode !== 0 && /No space left on device|ENOSPC/i.test(run.all ?? ''))
        throw new SkevoError(
          `${name} cannot build: the disk is full`,
          `Make room in ${folder} or ${temporary}; TMPDIR and SKEVO_CACHE name other places.`,
        );
      if (run.exitCode !== 0)
        return `${name} refuses the generated source:\n${(run.all || run.shortMessage || '').slice(0, 4000)}`;
    }
    return undefined;
  } finally {
    removeTemporary(temporary);
  }
}
