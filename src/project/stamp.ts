import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { delimiter, dirname, join, resolve } from 'node:path';
import { replaceFile } from '../formats/write.js';
import { cacheFolder } from '../workbench/cache.js';

/**
 * What a clean run of a project, or of one contract of it, depended on, so that the next one can tell at once that
 * nothing is to be done. This file loads nothing but Node: it decides before anything else is read.
 */
export interface Stamp {
  readonly version: string;
  /** What the environment says of programs. */
  readonly environment: string;
  /** Files, and folders of samples, with what tells that they are the same; null for what must not be there. */
  readonly seen: Readonly<Record<string, string | null>>;
  /** Whether nothing has been found wrong since. */
  readonly isClean: boolean;
  /** Programs that were missing: as long as they are, their languages cannot be run. */
  readonly missing: readonly string[];
}

/** Size and times of a file; of a folder, its own time, which changes when something in it comes or goes. */
export function stampOf(path: string): string | null {
  const stat = statSync(path, { throwIfNoEntry: false });
  if (stat === undefined) return null;
  return stat.isDirectory() ? `folder ${stat.mtimeMs}` : `${stat.size} ${stat.mtimeMs} ${stat.ctimeMs}`;
}

/** A folder and all folders below it. */
export function foldersBelow(folder: string): string[] {
  const below = readdirSync(folder, { withFileTypes: true }).filter((entry) => entry.isDirectory());
  return [folder, ...below.flatMap(({ name }) => foldersBelow(join(folder, name)))];
}

/**
 * Whether the last run of a project or contract was clean and nothing that it depended on has changed.
 * @param mayMiss whether languages may have been left out because their programs were missing
 */
export function isCurrent(project: string, version: string, mayMiss: boolean): boolean {
  const stamp = lastRun(project, version);
  return (
    stamp !== undefined &&
    (mayMiss || stamp.missing.length === 0) &&
    !stamp.missing.some(isInPath) &&
    Object.entries(stamp.seen).every(([file, was]) => stampOf(file) === was)
  );
}

/** Those of some files that are as they were at the last clean run. */
export function unchangedSince(project: string, version: string, files: readonly string[]): string[] {
  const stamp = lastRun(project, version);
  if (stamp === undefined) return [];
  return files.filter((file) => {
    const was = stamp.seen[resolve(file)];
    return was !== undefined && was !== null && was === stampOf(file);
  });
}

/** What the last clean run of a project or contract depended on; undefined when there is none of this version. */
export function lastRun(project: string, version: string): Stamp | undefined {
  const stamp = anyRun(project);
  return stamp?.isClean && stamp.version === version && stamp.environment === environment()
    ? stamp
    : undefined;
}

/** What a project or contract depended on and wrote when it was clean for the last time. */
export function lastSeen(project: string): readonly string[] {
  return Object.keys(anyRun(project)?.seen ?? {});
}

function anyRun(project: string): Stamp | undefined {
  const path = stampPath(project);
  if (!existsSync(path)) return undefined;
  try {
    const stamp = JSON.parse(readFileSync(path, 'utf8')) as Stamp | null;
    return typeof stamp?.seen === 'object' && stamp.seen !== null ? stamp : undefined;
  } catch {
    return undefined; // It is no stamp; a whole run makes a new one.
  }
}

/** Notes that a run was clean. @param seen paths that it depended on or wrote */
export async function keepStamp(
  project: string,
  version: string,
  seen: Iterable<string>,
  missing: readonly string[],
): Promise<void> {
  await write(project, {
    version,
    environment: environment(),
    isClean: true,
    seen: Object.fromEntries([...new Set(seen)].sort().map((path) => [path, stampOf(path)])),
    missing,
  });
}

/** Notes that something is wrong since the last clean run; what it wrote is still known. */
export async function dropStamp(project: string): Promise<void> {
  const stamp = anyRun(project);
  if (stamp?.isClean) await write(project, { ...stamp, isClean: false });
}

async function write(project: string, stamp: Stamp): Promise<void> {
  const path = stampPath(project);
  try {
    mkdirSync(dirname(path), { recursive: true });
    await replaceFile(path, JSON.stringify(stamp));
  } catch {
    // It cannot be remembered, and the next run does all again: the cache says so where builds are kept.
  }
}

function stampPath(project: string): string {
  const key = createHash('sha256').update(resolve(project)).digest('hex').slice(0, 24);
  return join(cacheFolder(), `.run-${key}.json`);
}

function environment(): string {
  const own = Object.entries(process.env).filter(([name]) => /^(PATH|SKEVO_.*)$/.test(name));
  return createHash('sha256').update(JSON.stringify(own.sort())).digest('hex');
}

function isInPath(program: string): boolean {
  return (process.env['PATH'] ?? '').split(delimiter).some((folder) => existsSync(join(folder, program)));
}
