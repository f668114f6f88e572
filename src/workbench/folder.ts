import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { GeneratedFile } from '../languages/language.js';
import { packageFolder } from './toolchain.js';

const temporary = new Set<string>();
process.on('exit', () => {
  for (const folder of temporary) rmSync(folder, { recursive: true, force: true });
});

/** A new folder that is gone when the process ends. */
export function temporaryFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'skevo-'));
  temporary.add(folder);
  return folder;
}

export function removeTemporary(folder: string): void {
  rmSync(folder, { recursive: true, force: true });
  temporary.delete(folder);
}

/** Writes files below a folder, making folders as needed. */
export function writeFiles(folder: string, files: readonly GeneratedFile[]): void {
  for (const { path, text } of files) {
    const target = join(folder, path);
    mkdirSync(dirname(target), { recursive: true });
    writeFileSync(target, text);
  }
}

/** Makes npm packages that Skevo depends on resolve from a folder. */
export function linkPackages(folder: string, packages: readonly string[]): void {
  if (packages.length === 0) return;
  mkdirSync(join(folder, 'node_modules'), { recursive: true });
  for (const name of packages) {
    const link = join(folder, 'node_modules', name);
    rmSync(link, { recursive: true, force: true });
    symlinkSync(packageFolder(name), link, 'junction');
  }
}
