import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import { nearestFile } from '../formats/inputs.js';
import type { GeneratedFile } from '../languages/language.js';

/** Writes a whole file or none. @throws SkevoError when the place cannot be written */
export async function writeWhole(path: string, text: string): Promise<void> {
  const folder = dirname(path);
  if (!existsSync(folder))
    throw new SkevoError(
      `cannot write ${path}: there is no folder ${folder}`,
      'Make the folder first, or choose another.',
    );
  try {
    await writeFileAtomic(path, text);
  } catch (error) {
    throw unwritable(path, error);
  }
}

/** Writes files below a folder, making it when needed. */
export async function writeBelow(folder: string, files: readonly GeneratedFile[]): Promise<string[]> {
  const written: string[] = [];
  for (const { path, text } of files) {
    const target = join(folder, path);
    try {
      mkdirSync(dirname(target), { recursive: true });
    } catch (error) {
      throw unwritable(folder, error);
    }
    await writeWhole(target, text);
    written.push(target);
  }
  return written;
}

/** The bytes of a file given by name on the command line. */
export function readSource(path: string): Source {
  try {
    return { name: path, bytes: readFileSync(path), firstLine: 1 };
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') throw new SkevoError(`there is no file ${path}`, nearestFile(path));
    if (code === 'EISDIR')
      throw new SkevoError(`${path} is a folder, and a schema is a file`, 'Name the file.');
    if (code === 'EACCES') throw new SkevoError(`${path} may not be read`, 'Check its permissions.');
    throw error;
  }
}

function unwritable(path: string, error: unknown): unknown {
  const { code } = error as NodeJS.ErrnoException;
  const reasons: Record<string, string> = {
    EACCES: 'permission is denied',
    EPERM: 'permission is denied',
    EROFS: 'the file system is read-only',
    EISDIR: 'it is a folder',
    ENOTDIR: 'a part of the path is a file',
    EEXIST: 'a part of the path is a file',
    ENOSPC: 'the disk is full',
  };
  const reason = reasons[code ?? ''];
  return reason === undefined
    ? error
    : new SkevoError(`cannot write ${path}: ${reason}`, 'Choose another place with --out.');
}
