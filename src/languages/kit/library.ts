import { existsSync } from 'node:fs';
import type { Library } from '../language.js';

/** A library of one file, which stands in one of several places. */
export function fileLibrary(name: string, install: string, places: readonly string[]): Library {
  return {
    name,
    install,
    files: () => {
      const found = places.find((path) => existsSync(path));
      return found === undefined ? undefined : [found];
    },
  };
}
