import { existsSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { SkevoError } from '../core/error.js';
import { makeFolderBelow, writeWhole } from '../formats/write.js';
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
