import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import { nearestFile } from '../formats/inputs.js';
import { makeFolder, writeWhole } from '../formats/write.js';
import type { GeneratedFile } from '../languages/language.js';

/** Writes files below a folder, making it when needed. */
export async function writeBelow(folder: string, files: readonly GeneratedFile[]): Promise<string[]> {
  const written: string[] = [];
  for (const { path, text } of files) {
    const target = join(folder, path);
    makeFolder(dirname(target));
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
