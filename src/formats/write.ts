import { existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import writeFileAtomic from 'write-file-atomic';
import { SkevoError } from '../core/error.js';

/** Writes a whole file or none. @throws SkevoError when the place cannot be written */
export async function writeWhole(path: string, content: string | Buffer): Promise<void> {
  const folder = dirname(path);
  if (!existsSync(folder))
    throw new SkevoError(
      `cannot write ${path}: there is no folder ${folder}`,
      'Make the folder first, or choose another.',
    );
  try {
    await writeFileAtomic(path, content);
  } catch (error) {
    throw unwritable(path, error);
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
