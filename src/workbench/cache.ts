import { createHash, randomBytes } from 'node:crypto';
import {
  accessSync,
  constants,
  existsSync,
  lstatSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmdirSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import envPaths from 'env-paths';
import { isFull, reasonOf, replaceFile, unwritable } from '../formats/write.js';
import { temporaryFolder } from './temporary.js';

/** Bytes that kept builds may take together. */
const mostBytes = 1 << 30;
/** In a folder whose build came to its end: the files that it made, with their sizes. */
const complete = '.complete';

/** Where builds are kept between checks: below the user's cache folder, or where SKEVO_CACHE says. */
export function cacheFolder(): string {
  return process.env['SKEVO_CACHE'] || join(envPaths('skevo', { suffix: '' }).cache, 'builds');
}

/** A name for what is built from parts, the same for the same parts. */
export function cacheKey(name: string, parts: readonly string[]): string {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(`${Buffer.byteLength(part)}:`).update(part);
  return `${name}-${hash.digest('hex').slice(0, 24)}`;
}

/**
 * The folder of what was built under a key, built now when it was not yet. It is built beside its place and then
 * moved there, so that nobody sees half of it and two checks at once do not harm each other.
 *
 * @param make builds into a new folder; what it returns instead of undefined is the reason why it failed
 * @returns the folder, or the reason
 */
export async function cached(
  key: string,
  make: (folder: string) => Promise<string | undefined>,
): Promise<{ readonly folder: string } | { readonly failed: string }> {
  const root = usableRoot();
  const folder = join(root, key);
  if (isWhole(folder)) {
    const now = new Date();
    utimesSync(folder, now, now);
    return { folder };
  }
  const draft = join(root, `.${key}-${randomBytes(6).toString('hex')}`);
  drafts.add(draft);
  try {
    mkdirSync(draft);
    const failed = await make(draft);
    if (failed !== undefined) return { failed };
    writeFileSync(join(draft, complete), JSON.stringify(Object.fromEntries(sizesBelow(draft))));
    take(draft, folder);
    grown.add(root);
    return { folder };
  } catch (error) {
    throw unwritable(root, error);
  } finally {
    rmSync(draft, { recursive: true, force: true });
    drafts.delete(draft);
  }
}

/** Moves a draft to its place, from which what is damaged is moved away first. */
function take(draft: string, folder: string): void {
  for (let attempt = 0; ; attempt++) {
    try {
      renameSync(draft, folder);
      return;
    } catch (error) {
      // Another check was faster: what it built is the same.
      if (isWhole(folder)) return;
      if (attempt === 3 || !existsSync(folder)) throw error;
      const damaged = `${draft}-damaged-${attempt}`;
      drafts.add(damaged);
      try {
        renameSync(folder, damaged);
      } catch {
        // Somebody else has moved it away.
      }
      rmSync(damaged, { recursive: true, force: true });
      drafts.delete(damaged);
    }
  }
}

/** Whether a folder holds all that its build made, as long as it was then. */
function isWhole(folder: string): boolean {
  let sizes: Record<string, number>;
  try {
    sizes = JSON.parse(readFileSync(join(folder, complete), 'utf8')) as Record<string, number>;
  } catch {
    return false;
  }
  return (
    typeof sizes === 'object' &&
    sizes !== null &&
    Object.entries(sizes).every(
      ([path, size]) => statSync(join(folder, path), { throwIfNoEntry: false })?.size === size,
    )
  );
}

function* sizesBelow(folder: string, path = ''): Generator<[path: string, size: number]> {
  for (const entry of readdirSync(join(folder, path), { withFileTypes: true })) {
    const own = join(path, entry.name);
    if (entry.isDirectory()) yield* sizesBelow(folder, own);
    else if (entry.isFile()) yield [own, statSync(join(folder, own)).size];
  }
}

let trouble: string | undefined;
let substitute: string | undefined;

/** Why builds cannot be kept where they should be; undefined when they can, or none was to be kept yet. */
export function cacheTrouble(): string | undefined {
  return trouble;
}

/** The folder of builds, made when needed; one that is gone with this process where it cannot be written. */
function usableRoot(): string {
  if (substitute !== undefined) return substitute;
  const root = cacheFolder();
  try {
    mkdirSync(root, { recursive: true });
    accessSync(root, constants.W_OK | constants.X_OK);
    return root;
  } catch (error) {
    const reason = reasonOf(error);
    if (reason === undefined || isFull(error)) throw unwritable(root, error);
    trouble = `builds cannot be kept in ${root}: ${reason}`;
    substitute = temporaryFolder();
    return substitute;
  }
}

/** A short text that is found out once and kept under a key; nothing is kept when there is none. */
export async function remembered(
  key: string,
  pattern: RegExp,
  find: () => Promise<string | undefined>,
): Promise<string | undefined> {
  const root = usableRoot();
  const known = join(root, `${key}.txt`);
  try {
    const text = readFileSync(known, 'utf8');
    // What is damaged is found out again.
    if (pattern.test(text)) return text;
  } catch {
    // It was not found out yet.
  }
  const found = await find();
  if (found !== undefined) {
    try {
      await replaceFile(known, found);
    } catch (error) {
      throw unwritable(root, error);
    }
  }
  return found;
}

const drafts = new Set<string>();
/** Folders in which builds were kept by this process. */
const grown = new Set<string>();
process.on('exit', () => {
  for (const draft of drafts) rmSync(draft, { recursive: true, force: true });
  for (const root of grown) sweep(root);
});

/** Hours after which nobody is still building in a draft. */
const longestBuild = 6;

interface OwnEntry {
  readonly path: string;
  readonly kind: 'build' | 'draft' | 'note';
}

/** What Skevo put into a folder of builds; whatever else lies there is not ours to count, or to remove. */
function ownEntries(root: string): OwnEntry[] {
  return readdirSync(root, { withFileTypes: true }).flatMap((entry): OwnEntry[] => {
    const path = join(root, entry.name);
    if (entry.isDirectory()) {
      if (/^\..+-[0-9a-f]{24}-[0-9a-f]{12}(-damaged-\d)?$/.test(entry.name)) return [{ path, kind: 'draft' }];
      return existsSync(join(path, complete)) ? [{ path, kind: 'build' }] : [];
    }
    const isNote = /^(version-[0-9a-f]{24}\.txt|\.run-[0-9a-f]{24}\.json)$/.test(entry.name);
    return entry.isFile() && isNote ? [{ path, kind: 'note' }] : [];
  });
}

/** Removes what has not been used for longest until the rest is small enough, and drafts of those who died. */
function sweep(root: string): void {
  if (!existsSync(root)) return;
  const used = (path: string) => statSync(path, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  const own = ownEntries(root).map((each) => ({ ...each, used: used(each.path) }));
  for (const { path, kind, used } of own)
    if (kind === 'draft' && used < Date.now() - longestBuild * 3_600_000)
      rmSync(path, { recursive: true, force: true });
  let sum = 0;
  for (const { path } of own.filter(({ kind }) => kind === 'build').sort((a, b) => b.used - a.used)) {
    sum += sizeOf(path);
    if (sum > mostBytes) rmSync(path, { recursive: true, force: true });
  }
}

function sizeOf(path: string): number {
  const stat = lstatSync(path, { throwIfNoEntry: false });
  if (stat?.isDirectory() !== true) return stat?.size ?? 0;
  try {
    return readdirSync(path).reduce((sum, name) => sum + sizeOf(join(path, name)), 0);
  } catch {
    return 0; // Somebody else has just removed it.
  }
}

/** Removes all builds that are kept, and what is remembered beside them; returns how many bytes they took. */
export function clearCache(): number {
  const root = cacheFolder();
  if (!existsSync(root)) return 0;
  let bytes = 0;
  for (const { path } of ownEntries(root)) {
    bytes += sizeOf(path);
    rmSync(path, { recursive: true, force: true });
  }
  if (readdirSync(root).length === 0) rmdirSync(root);
  return bytes;
}
