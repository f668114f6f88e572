import { mkdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { unwritable } from '../formats/write.js';
import type { GeneratedFile } from '../languages/language.js';
import { packageFolder } from './toolchain.js';

/** Writes files below a folder, making folders as needed. */
export function writeFiles(folder: string, files: readonly GeneratedFile[]): void {
  for (const { path, text } of files) {
    const target = join(folder, path);
    try {
      mkdirSync(dirname(target), { recursive: true });
      writeFileSync(target, text);
    } catch (error) {
      throw unwritable(target, error);
    }
  }
}

/** Makes npm packages that Skevo depends on resolve from a folder. */
export function linkPackages(folder: string, packages: readonly string[]): void {
  if (packages.length === 0) return;
  mkdirSync(join(folder, 'node_modules'), { recursive: true });
  for (const name of packages) {
    const link = join(folder, 'node_modules', name);
    mkdirSync(dirname(link), { recursive: true });
    rmSync(link, { recursive: true, force: true });
    symlinkSync(packageFolder(name), link, 'junction');
  }
}
