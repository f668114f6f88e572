import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unwritable } from '../formats/write.js';

const temporary = new Set<string>();
process.on('exit', () => {
  for (const folder of temporary) rmSync(folder, { recursive: true, force: true });
});

/** A new folder that is gone when the process ends. */
export function temporaryFolder(): string {
  try {
    const folder = mkdtempSync(join(tmpdir(), 'skevo-'));
    temporary.add(folder);
    return folder;
  } catch (error) {
    throw unwritable(join(tmpdir(), 'skevo-'), error);
  }
}

export function removeTemporary(folder: string): void {
  rmSync(folder, { recursive: true, force: true });
  temporary.delete(folder);
}
