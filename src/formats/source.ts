import { readFileSync, readSync } from 'node:fs';
import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import { nearestFile } from './inputs.js';
import { reasonOf } from './write.js';

/** All that a file descriptor gives. A terminal or a pipe may have nothing yet. */
function readToEnd(file: number): Uint8Array {
  const chunks: Buffer[] = [];
  const chunk = Buffer.alloc(1 << 16);
  for (;;) {
    try {
      const count = readSync(file, chunk);
      if (count === 0) return Buffer.concat(chunks);
      chunks.push(Buffer.from(chunk.subarray(0, count)));
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      if (code === 'EOF') return Buffer.concat(chunks);
      if (code !== 'EAGAIN') throw error;
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 10);
    }
  }
}

let isTaken = false;

/** @throws SkevoError when the standard input is asked for a second time */
export function takeStandardInput(): void {
  if (isTaken)
    throw new SkevoError('the standard input is given twice', 'Give - once, and the rest by name.');
  isTaken = true;
}

/** The bytes of a file given by name on the command line, or of the standard input for `-`. */
export function readSource(path: string): Source {
  if (path === '-') {
    takeStandardInput();
    return { name: 'stdin', bytes: readToEnd(0), firstLine: 1 };
  }
  try {
    return { name: path, bytes: readFileSync(path), firstLine: 1 };
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') throw new SkevoError(`there is no file ${path}`, nearestFile(path));
    if (code === 'EISDIR')
      throw new SkevoError(`${path} is a folder, and a schema is a file`, 'Name the file.');
    if (code === 'EACCES') throw new SkevoError(`${path} may not be read`, 'Check its permissions.');
    const reason = reasonOf(error);
    if (reason !== undefined) throw new SkevoError(`${path} cannot be read: ${reason}`, 'Check the path.');
    throw error;
  }
}
