import { statSync } from 'node:fs';
import { resolve, sep } from 'node:path';
import { SkevoError } from '../core/error.js';
import type { Contract, LanguageEntry, Project } from './file.js';
import type { Packages } from './packages.js';

/** Which contract of a project, or which of its languages, writes a file: no two may write one. */
export class Claims {
  private readonly owners = new Map<string, Contract | LanguageEntry>();

  constructor(
    private readonly project: Project,
    private readonly packages: Packages,
  ) {}

  /** @throws SkevoError with the places of both, when somebody else writes the file too */
  claim(path: string, claimant: Contract | LanguageEntry): void {
    const own = resolve(path);
    const owner = 'out' in claimant ? this.packages.owner(claimant) : claimant;
    const other = this.owners.get(own);
    if (other !== undefined && other !== owner) {
      const { places } = this.project;
      const first = places.get(other)!;
      throw new SkevoError(
        `${path} would be written twice: for ${first.file}:${first.line}:${first.column}, and for what stands here`,
        'Give one of them another "out", "schema", "name" or "package".',
        places.get(owner)!,
      );
    }
    this.owners.set(own, owner);
  }

  /** Claims what a contract wrote when it was run last. @param seen what it depended on and wrote */
  claimWritten(contract: Contract, seen: Iterable<string>): void {
    const known = [...seen];
    if (known.includes(resolve(contract.schema))) this.claim(contract.schema, contract);
    for (const entry of contract.languages) {
      const below = `${resolve(entry.out)}${sep}`;
      for (const path of known)
        if (
          path.startsWith(below) &&
          statSync(path, { throwIfNoEntry: false })?.isFile() &&
          !this.owners.has(path)
        )
          this.claim(path, entry);
    }
  }
}
