import { resolve } from 'node:path';
import type { Contract, LanguageEntry, Project } from './file.js';

/** A contract of which a language writes types. */
export interface Member {
  readonly name: string;
  readonly contract: Contract;
  readonly entry: LanguageEntry;
}

/** Which contracts of a project write their types into one package: they come out together. */
export class Packages {
  private readonly groups = new Map<LanguageEntry, readonly Member[]>();

  constructor(project: Pick<Project, 'contracts'>) {
    const byPackage = new Map<string, Member[]>();
    for (const [name, contract] of project.contracts) {
      for (const entry of contract.languages) {
        const { language, style, out, package: named, unknown = contract.unknown, builders } = entry;
        const dates = entry.dates ?? contract.dates;
        // A package that nobody names is called after its payload, and is nobody else's.
        const own = named === undefined ? name : '';
        const key = JSON.stringify([language, style, resolve(out), named, own, unknown, dates, builders]);
        const group = byPackage.get(key) ?? [];
        byPackage.set(key, group);
        if (!group.some((each) => each.contract === contract)) group.push({ name, contract, entry });
        this.groups.set(entry, group);
      }
    }
  }

  /** All that share the package of an entry, itself among them, in the order of the project. */
  sharing(entry: LanguageEntry): readonly Member[] {
    return this.groups.get(entry)!;
  }

  /** Whose the files of a package are said to be. */
  owner(entry: LanguageEntry): LanguageEntry {
    return this.sharing(entry)[0]!.entry;
  }

  /** A contract and all that share a package with it, or with one of these. */
  together(contract: Contract): ReadonlySet<Contract> {
    const all = new Set([contract]);
    for (const each of all)
      for (const entry of each.languages) this.sharing(entry).forEach((member) => all.add(member.contract));
    return all;
  }
}
