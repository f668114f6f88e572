import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';

/** The names under which a project file is looked for. */
export const projectFiles = ['skevo.yaml', 'skevo.yml', 'skevo.json'];

/** The project file that is named, or that of this folder or of one above it; undefined when there is none. */
export function findProjectFile(given: string | undefined): string | undefined {
  if (given !== undefined) return given;
  for (let folder = process.cwd(); ; folder = dirname(folder)) {
    for (const name of projectFiles)
      if (existsSync(join(folder, name))) return folder === process.cwd() ? name : join(folder, name);
    if (folder === dirname(folder)) return undefined;
  }
}
