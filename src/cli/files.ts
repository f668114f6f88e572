import { existsSync, readFileSync, readSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import { nearestFile } from '../formats/inputs.js';
import { makeFolderBelow, reasonOf, writeWhole } from '../formats/write.js';
import { refuseForeign, refuseOtherOrigin } from '../languages/kit/head.js';
import type { GeneratedFile } from '../languages/language.js';

/**
 * Writes files below a folder, making it when needed.
 * @param isGenerated whether they are sources, which take the place of nothing but earlier ones
 */
export async function writeBelow(
  folder: string,
  files: readonly (Omit<GeneratedFile, 'text'> & { readonly text: string | Uint8Array })[],
  isGenerated: boolean,
): Promise<string[]> {
  const targets = files.map(({ path, text }) => ({ target: join(folder, path), text }));
  // Nothing is written when one of them cannot be.
  for (const { target, text } of targets) {
    makeFolderBelow(folder, target);
    if (!isGenerated || !existsSync(target)) continue;
    const there = readFileSync(target, 'utf8');
    refuseForeign(target, there);
    refuseOtherOrigin(target, there, String(text));
  }
  for (const { target, text } of targets) await writeWhole(target, text);
  return targets.map(({ target }) => target);
}

/**
 * @param outputs files that will be written, by the option that names each
 * @throws SkevoError when one of them is an input
 */
export function refuseInputs(
  outputs: readonly (readonly [option: string, path: string | undefined])[],
  inputs: readonly (string | undefined)[],
): void {
  const known = new Map<string, string>();
  for (const input of inputs) {
    const identity = identityOf(input);
    if (identity !== undefined) known.set(identity, input!);
  }
  for (const [option, path] of outputs) {
    const input = known.get(identityOf(path) ?? '');
    if (input !== undefined)
      throw new SkevoError(
        `${option} names ${path}, which is an input${input === path ? '' : `: ${input}`}`,
        'Choose another file for what is written.',
      );
  }
}

/** What a regular file is known by, whatever it is called; undefined when there is none. */
function identityOf(path: string | undefined): string | undefined {
  if (path === undefined || path.includes('\0')) return undefined;
  const stat = statSync(path, { throwIfNoEntry: false });
  return stat?.isFile() ? `${stat.dev} ${stat.ino}` : undefined;
}

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
