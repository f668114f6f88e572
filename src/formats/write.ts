import { randomBytes } from 'node:crypto';
import { existsSync, lstatSync, mkdirSync, realpathSync, rmSync, statSync, writeSync } from 'node:fs';
import { open, rename } from 'node:fs/promises';
import { basename, dirname, join, relative, sep } from 'node:path';
import { SkevoError } from '../core/error.js';

/** What a file is to hold: all of it, or as it comes. */
export type Content = string | Uint8Array | AsyncIterable<string | Uint8Array>;

/**
 * Writes a whole file or none. A pipe or a device, such as what a shell's `>(...)` names, is written through.
 * @throws SkevoError when the place cannot be written
 */
export async function writeWhole(path: string, content: Content): Promise<void> {
  const folder = dirname(path);
  if (!existsSync(folder))
    throw new SkevoError(
      `cannot write ${path}: there is no folder ${folder}`,
      'Make the folder first, or choose another.',
    );
  try {
    // What stands behind them may be a socket, which cannot be opened by its name.
    const own = /^\/dev\/(?:stdout|fd\/1)$/.test(path)
      ? 1
      : /^\/dev\/(?:stderr|fd\/2)$/.test(path)
        ? 2
        : undefined;
    if (own !== undefined) {
      for await (const part of partsOf(content)) writeToEnd(own, part);
      return;
    }
    const there = statSync(path, { throwIfNoEntry: false });
    if (there?.isFIFO() || there?.isCharacterDevice()) return await writeThrough(path, content);
    if (there !== undefined && !there.isFile() && !there.isDirectory())
      throw new SkevoError(
        `cannot write ${path}: it is a ${there.isSocket() ? 'socket' : 'disk'}`,
        'Choose another place.',
      );
    await replaceFile(path, content);
  } catch (error) {
    throw unwritable(path, error);
  }
}

/** Files that are being written, to be removed when this process ends before they are whole. */
const drafts = new Set<string>();
process.on('exit', () => {
  for (const draft of drafts) rmSync(draft, { force: true });
});

/**
 * Puts a whole file in the place of another, or of none: it is written beside it and moved there, so that nobody sees
 * half of it. A link is followed, and the permissions of what was there stay.
 */
export async function replaceFile(path: string, content: Content): Promise<void> {
  const there = statSync(path, { throwIfNoEntry: false });
  const target = there === undefined ? path : realpathSync(path);
  if (there?.isDirectory()) throw Object.assign(new Error(path), { code: 'EISDIR' });
  const draft = join(dirname(target), `.${basename(target).slice(0, 100)}-${randomBytes(6).toString('hex')}`);
  drafts.add(draft);
  try {
    const file = await open(draft, 'wx', there === undefined ? 0o666 : there.mode & 0o777);
    try {
      // All of it: a single write to a full disk may write a part, and say nothing.
      await file.writeFile(content as string);
      if (there !== undefined) await file.chmod(there.mode & 0o777);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(draft, target);
  } catch (error) {
    rmSync(draft, { force: true });
    throw error;
  } finally {
    drafts.delete(draft);
  }
}

async function* partsOf(content: Content): AsyncGenerator<string | Uint8Array> {
  if (typeof content === 'string' || content instanceof Uint8Array) yield content;
  else yield* content;
}

function writeToEnd(file: number, content: string | Uint8Array): void {
  const bytes = typeof content === 'string' ? Buffer.from(content) : content;
  for (let at = 0; at < bytes.length;) {
    try {
      at += writeSync(file, bytes, at);
    } catch (error) {
      // A pipe that is full for now.
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 5);
    }
  }
}

async function writeThrough(path: string, content: Content): Promise<void> {
  const file = await open(path, 'w');
  try {
    await file.writeFile(content as string);
  } finally {
    await file.close();
  }
}

/** Makes a folder and those above it. @throws SkevoError when it cannot be made */
export function makeFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true });
  } catch (error) {
    throw unwritable(folder, error);
  }
}

/**
 * Makes the folder of a file that belongs below another folder.
 * @throws SkevoError when a link on the way leads out of that folder, or the file is a link itself
 */
export function makeFolderBelow(root: string, path: string): void {
  makeFolder(root);
  const own = realpathSync(root);
  let here = root;
  for (const part of relative(root, dirname(path)).split(sep)) {
    here = join(here, part);
    if (lstatSync(here, { throwIfNoEntry: false })?.isSymbolicLink() && !isBelow(own, here))
      throw new SkevoError(
        `${here} is a link that leads out of ${root}`,
        'Remove the link, or choose another folder.',
      );
  }
  makeFolder(dirname(path));
  if (lstatSync(path, { throwIfNoEntry: false })?.isSymbolicLink())
    throw new SkevoError(`${path} is a link, and would be written through`, 'Remove the link first.');
}

function isBelow(root: string, link: string): boolean {
  try {
    const target = realpathSync(link);
    return target === root || target.startsWith(root.endsWith(sep) ? root : root + sep);
  } catch {
    return false; // It leads nowhere.
  }
}

/** What the system says of what it cannot do, in words. */
const reasons: Readonly<Record<string, string>> = {
  EACCES: 'permission is denied',
  EPERM: 'permission is denied',
  EROFS: 'the file system is read-only',
  EISDIR: 'it is a folder',
  ENOTDIR: 'a part of the path is a file',
  EEXIST: 'a part of the path is a file',
  ENOSPC: 'the disk is full',
  EDQUOT: 'the disk is full',
  EFBIG: 'the file would be too large',
  ENAMETOOLONG: 'the name is too long',
  ELOOP: 'its links go round in a circle',
  EMFILE: 'too many files are open',
  ENFILE: 'too many files are open',
  EIO: 'the disk does not answer',
  ENXIO: 'nobody is at its other end',
  EPIPE: 'nobody is at its other end',
  ENOENT: 'a part of the path is not there',
  ERR_INVALID_ARG_VALUE: 'no path may hold a null character',
};

/** The words for an error of the system; undefined for any other. */
export function reasonOf(error: unknown): string | undefined {
  return reasons[(error as NodeJS.ErrnoException | undefined)?.code ?? ''];
}

export function isFull(error: unknown): boolean {
  return ['ENOSPC', 'EDQUOT'].includes((error as NodeJS.ErrnoException | undefined)?.code ?? '');
}

/** What cannot be written, as an error of the trade; other errors as they are. */
export function unwritable(path: string, error: unknown): unknown {
  const reason = reasonOf(error);
  if (reason === undefined) return error;
  return new SkevoError(
    `cannot write ${path}: ${reason}`,
    isFull(error) ? 'Make room, or choose another place.' : 'Choose another place.',
  );
}
