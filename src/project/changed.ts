import { execa } from 'execa';
import { existsSync, statSync } from 'node:fs';
import { dirname, join, resolve, sep } from 'node:path';
import { SkevoError } from '../core/error.js';
import { pathOfSchema } from '../schemas/load.js';
import { parseProject, type Contract, type Project } from './file.js';

/**
 * The contracts of a project that what changed since a revision may matter to: their samples, schema and generated files, and
 * what the project file says of them. Since the revision is since this branch left it, and what is not committed counts.
 * @param path the project file, in the current folder
 * @returns their names
 * @throws SkevoError when git does not start, or does not know the revision
 */
export async function changedSince(
  revision: string,
  path: string,
  project: Project,
): Promise<ReadonlySet<string>> {
  const known = await git('rev-parse', '--verify', '--quiet', '--end-of-options', `${revision}^{commit}`);
  if (known === undefined)
    throw new SkevoError(
      `git knows no revision ${JSON.stringify(revision)} here`,
      'Fetch it first: CI often has a shallow clone.',
    );
  const since = (await git('merge-base', known.trim(), 'HEAD'))?.trim() ?? known.trim();
  const top = (await git('rev-parse', '--show-toplevel'))!.trim();
  const differ = await git('diff', '--name-only', '--no-renames', '-z', since, '--');
  const fresh = await git('ls-files', '--others', '--exclude-standard', '--full-name', '-z', ':/');
  const changed = `${differ ?? ''}${fresh ?? ''}`
    .split('\0')
    .filter((each) => each !== '')
    .map((each) => join(top, each));
  const before = changed.includes(resolve(path)) ? await projectAt(since, path) : project;
  const isChanged = (name: string, contract: Contract): boolean => {
    const old = before?.contracts.get(name);
    if (JSON.stringify(old) !== JSON.stringify(contract)) return true;
    const places = placesOf(contract);
    return changed.some((file) => places.some((place) => file === place || file.startsWith(place + sep)));
  };
  return new Set([...project.contracts].flatMap(([name, each]) => (isChanged(name, each) ? [name] : [])));
}

/** Files and folders that a contract reads and writes. */
function placesOf({ samples, schema, languages }: Contract): string[] {
  return [...samples.map(rootOf), pathOfSchema(schema), ...languages.map(({ out }) => out)].map((each) =>
    resolve(each),
  );
}

/** A file or folder of samples, or the folder in which a pattern begins. */
function rootOf(sample: string): string {
  const root = sample.replace(/[^/]*[*?[{(!].*$/, '') || '.';
  return existsSync(root) && statSync(root).isFile() ? root : root.endsWith('/') ? dirname(`${root}.`) : root;
}

/** The project as it was; undefined when there was none, or none that can be read. */
async function projectAt(revision: string, path: string): Promise<Project | undefined> {
  const text = await git('show', '--end-of-options', `${revision}:./${path}`);
  if (text === undefined) return undefined;
  try {
    return parseProject({ name: path, bytes: new TextEncoder().encode(text), firstLine: 1 });
  } catch (error) {
    if (error instanceof SkevoError) return undefined;
    throw error;
  }
}

/** What git prints; undefined when it ends with an error. @throws SkevoError when it does not start */
async function git(...args: readonly string[]): Promise<string | undefined> {
  const ran = await execa('git', args, { reject: false, stripFinalNewline: false });
  if (ran.exitCode === undefined)
    throw new SkevoError(
      'git does not start, and says what changed',
      'Install git, or leave out --changed-since.',
    );
  return ran.exitCode === 0 ? ran.stdout : undefined;
}
