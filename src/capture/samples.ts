import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { stringify } from 'yaml';
import { makeFolder, writeWhole } from '../formats/write.js';
import { kebabCase } from '../languages/kit/names.js';
import { wordsOf } from '../core/words.js';

/** Where a sample came from, for the file beside it. */
export interface Origin {
  readonly url: string;
  readonly method: string;
  readonly status: number;
  /** As ISO 8601 writes it. */
  readonly time: string;
  readonly type: string;
}

/** What became of a response: a new file, or one that was already there with the same bytes. */
export interface Kept {
  readonly path: string;
  readonly isNew: boolean;
}

/**
 * Keeps a response in a folder of samples exactly as it came, with a small file beside it that says where from.
 * @param stem what the file is called, without number and ending
 */
export async function keepSample(
  folder: string,
  stem: string,
  bytes: Uint8Array,
  origin: Origin,
): Promise<Kept> {
  makeFolder(folder);
  const digest = (content: Uint8Array) => createHash('sha256').update(content).digest('hex');
  const own = digest(bytes);
  const known = readdirSync(folder).filter((name) => name.endsWith('.json'));
  const same = known.find((name) => digest(readFileSync(join(folder, name))) === own);
  if (same !== undefined) return { path: join(folder, same), isNew: false };
  let number = 1;
  // Of one length, so that they sort as they came.
  const named = () => `${stem}-${String(number).padStart(3, '0')}`;
  while (existsSync(join(folder, `${named()}.json`))) number++;
  const path = join(folder, `${named()}.json`);
  // The origin goes first: a sample without one would be worse than an origin without a sample.
  await writeWhole(join(folder, `${named()}.origin.yaml`), stringify(origin));
  await writeWhole(path, Buffer.from(bytes));
  return { path, isNew: true };
}

/** What samples of a URL are called: by the last part of its path that is no id. */
export function stemOf(address: string): string {
  const parts = new URL(address).pathname.split('/').filter((part) => part !== '');
  const word = parts.findLast((part) => !isId(part)) ?? 'response';
  return kebabCase.join(wordsOf(decodeURIComponent(word))).toLowerCase() || 'response';
}

/** Whether a part of a path is the id of something: a number, a UUID, or letters and digits mixed. */
export function isId(part: string): boolean {
  return (
    /^\d+$/.test(part) ||
    /^[0-9a-f]{8}-[0-9a-f-]{27}$/i.test(part) ||
    /^[0-9a-f]{16,}$/i.test(part) ||
    (/\d/.test(part) && /^(?!v\d+$)[A-Za-z]{0,6}[-_]?\d[\w-]*$/.test(part))
  );
}
