import { createHash, randomBytes } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import envPaths from 'env-paths';
import writeFileAtomic from 'write-file-atomic';

/** Bytes that kept builds may take together. */
const mostBytes = 1 << 30;
/** In a folder whose build came to its end. */
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
  const root = cacheFolder();
  const folder = join(root, key);
  if (existsSync(join(folder, complete))) {
    const now = new Date();
    utimesSync(folder, now, now);
    return { folder };
  }
  mkdirSync(root, { recursive: true });
  const draft = join(root, `.${key}-${randomBytes(6).toString('hex')}`);
  mkdirSync(draft);
  drafts.add(draft);
  try {
    const failed = await make(draft);
    if (failed !== undefined) return { failed };
    writeFileSync(join(draft, complete), '');
    try {
      renameSync(draft, folder);
    } catch (error) {
      // Another check was faster: what it built is the same.
      if (!existsSync(join(folder, complete))) throw error;
    }
    grown.add(root);
    return { folder };
  } finally {
    rmSync(draft, { recursive: true, force: true });
    drafts.delete(draft);
  }
}

/** A short text that is found out once and kept under a key; nothing is kept when there is none. */
export async function remembered(
  key: string,
  find: () => Promise<string | undefined>,
): Promise<string | undefined> {
  const known = join(cacheFolder(), `${key}.txt`);
  if (existsSync(known)) return readFileSync(known, 'utf8');
  const found = await find();
  if (found !== undefined) {
    mkdirSync(cacheFolder(), { recursive: true });
    await writeFileAtomic(known, found);
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

/** Removes what has not been used for longest until the rest is small enough. */
function sweep(root: string): void {
  if (!existsSync(root)) return;
  const kept = readdirSync(root, { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
    .map(({ name }) => ({ path: join(root, name), used: statSync(join(root, name)).mtimeMs }))
    .sort((a, b) => b.used - a.used);
  let sum = 0;
  for (const { path } of kept) {
    sum += sizeOf(path);
    if (sum > mostBytes) rmSync(path, { recursive: true, force: true });
  }
}

function sizeOf(folder: string): number {
  return readdirSync(folder, { withFileTypes: true }).reduce((sum, entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return sum + sizeOf(path);
    return sum + (statSync(path, { throwIfNoEntry: false })?.size ?? 0);
  }, 0);
}

/** Removes all builds that are kept; returns how many bytes they took. */
export function clearCache(): number {
  const root = cacheFolder();
  if (!existsSync(root)) return 0;
  const bytes = sizeOf(root);
  rmSync(root, { recursive: true, force: true });
  return bytes;
}
