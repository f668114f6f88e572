import { formatNames, type FormatName } from '../formats/format.js';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { stringify } from 'yaml';
import { makeFolder, unwritable, writeWhole } from '../formats/write.js';
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

/** Endings of samples. */
const sample = new RegExp(`(?<!\\.origin)\\.(?:${formatNames.join('|')})$`);

/** A folder of samples. Several processes may keep samples in one folder at a time. */
export class SampleFolder {
  /** Files by their content, as far as this process has seen. */
  private readonly known = new Map<string, string>();
  /** By stem: the first number that may be free. */
  private readonly next = new Map<string, number>();

  constructor(readonly folder: string) {
    makeFolder(folder);
    for (const name of readdirSync(folder))
      if (sample.test(name)) this.known.set(digestOf(readFileSync(join(folder, name))), name);
  }

  /**
   * Keeps a response exactly as it came, with a small file beside it that says where from.
   * @param stem what the file is called, without number and ending
   * @param format what it is in, which its ending says
   */
  async keep(stem: string, format: FormatName, bytes: Uint8Array, origin: Origin): Promise<Kept> {
    const digest = digestOf(bytes);
    const same = this.known.get(digest);
    if (same !== undefined && existsSync(join(this.folder, same)))
      return { path: join(this.folder, same), isNew: false };
    const name = this.take(stem, stringify(origin));
    const path = join(this.folder, `${name}.${format}`);
    try {
      await writeWhole(path, Buffer.from(bytes));
    } catch (error) {
      rmSync(join(this.folder, `${name}.origin.yaml`), { force: true });
      throw error;
    }
    this.known.set(digest, `${name}.${format}`);
    return { path, isNew: true };
  }

  /**
   * Takes a name that nobody else has, by making the file of its origin, which can be made but once. The origin goes
   * first: a sample without one would be worse than an origin without a sample.
   */
  private take(stem: string, origin: string): string {
    for (let number = this.next.get(stem) ?? 1; ; number++) {
      // Of one length, so that they sort as they came.
      const name = `${stem}-${String(number).padStart(3, '0')}`;
      if (formatNames.some((format) => existsSync(join(this.folder, `${name}.${format}`)))) continue;
      const path = join(this.folder, `${name}.origin.yaml`);
      try {
        writeFileSync(path, origin, { flag: 'wx' });
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code === 'EEXIST') continue;
        rmSync(path, { force: true });
        throw unwritable(path, error);
      }
      this.next.set(stem, number + 1);
      return name;
    }
  }
}

function digestOf(content: Uint8Array): string {
  return createHash('sha256').update(content).digest('hex');
}

/** What samples of a URL are called: by the last part of its path that is no id. */
export function stemOf(address: string): string {
  const parts = new URL(address).pathname.split('/').filter((part) => part !== '');
  const word = parts.findLast((part) => !isId(part)) ?? 'response';
  return (
    kebabCase
      .join(wordsOf(spelledOut(word)))
      .toLowerCase()
      .slice(0, 80) || 'response'
  );
}

/** A part of a path without its escapes; as it is where they are none. */
function spelledOut(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
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
