import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { basename, dirname, join, relative, resolve } from 'node:path';
import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import { readSource } from '../formats/source.js';
import { pathOfSchema } from './load.js';

/** Where the schema stands that a person named, and how to read what lies beside it. */
export interface FoundSchema {
  /** The file, with `#` and a place in it where one was given. */
  readonly given: string;
  readonly source: Source;
  /** The bytes of another file of the same version; undefined when there is none. */
  readonly read: (path: string) => Promise<Uint8Array | undefined>;
  /** Files and folders of which one is other than it was when another schema may be found. */
  readonly seen: readonly string[];
}

const ending = /(?:\.schema)?\.(?:json|ya?ml|avsc|xsd)$/i;

/**
 * Finds a schema by what a person wrote: a file, `-`, or `NAME@VERSION`: a file of that version in the folder of the name, or
 * what git has of the name at the version, a revision or a tag.
 * @throws SkevoError when there is none, or more than one
 */
export async function findSchema(given: string): Promise<FoundSchema> {
  const path = pathOfSchema(given);
  const fragment = given.slice(path.length);
  const version = versionIn(path);
  if (version === undefined || existsSync(path)) return onDisk(path, fragment);
  const name = path.slice(0, -version.length - 1);
  const files = versionsBeside(name, version);
  if (files.length > 1)
    throw new SkevoError(
      `version ${version} of ${name} may be any of ${files.join(', ')}`,
      'Name the file itself.',
    );
  if (files[0] === undefined) return inGit(name, version, fragment);
  return { ...onDisk(files[0], fragment), seen: [files[0], dirname(files[0]), dirname(name)] };
}

/** The version in `NAME@VERSION`; undefined where there is no name before it: folders may begin with the sign. */
export function versionIn(path: string): string | undefined {
  const at = path.lastIndexOf('@');
  return at <= 0 || path[at - 1] === '/' ? undefined : path.slice(at + 1);
}

function onDisk(path: string, fragment: string): FoundSchema {
  return {
    seen: [path],
    given: path + fragment,
    source: readSource(path),
    read: (other) => Promise.resolve(existsSync(other) ? readFileSync(other) : undefined),
  };
}

/** Files of a folder that are called after a name and a version: `sailing@2.json`, `sailing-v2.avsc`, `2/sailing.xsd`. */
function versionsBeside(name: string, version: string): string[] {
  const folder = dirname(name);
  const stem = basename(name).replace(ending, '');
  const own = ending.exec(basename(name))?.[0];
  const bare = version.replace(/^v(?=\d)/i, '');
  const spellings = [version, bare, `v${bare}`];
  const stems = spellings.flatMap((each) => [
    ...['@', '-', '_', '.'].map((between) => join(`${stem}${between}${each}`)),
    join(stem, each),
    join(each, stem),
  ]);
  const found = stems.flatMap((each) => {
    const beside = join(folder, dirname(each));
    if (!existsSync(beside)) return [];
    return readdirSync(beside)
      .filter((file) => file.replace(ending, '') === basename(each) && ending.test(file))
      .filter((file) => own === undefined || file.endsWith(own))
      .map((file) => join(beside, file));
  });
  return [...new Set(found)].sort();
}

async function inGit(name: string, version: string, fragment: string): Promise<FoundSchema> {
  const folder = dirname(name);
  if (!existsSync(folder)) throw new SkevoError(`there is no folder ${folder}`, 'Check the path.');
  const { execa } = await import('execa');
  const git = async (...args: string[]) => {
    const ran = await execa('git', args, {
      cwd: folder,
      reject: false,
      encoding: 'buffer',
      stripFinalNewline: false,
    });
    if (ran.exitCode === undefined)
      throw new SkevoError(
        `there is no file of version ${version} beside ${name}, and git does not start`,
        'Check the name and the version, or install git.',
      );
    return { isFound: ran.exitCode === 0, out: ran.stdout, words: wordsOf(ran.stderr) };
  };
  const stem = basename(name).replace(ending, '');
  const bare = version.replace(/^v(?=\d)/i, '');
  const tags = [
    version,
    `v${bare}`,
    ...['@', '-', '/'].flatMap((t) => [bare, `v${bare}`].map((v) => stem + t + v)),
  ];
  let trouble = '';
  for (const revision of [...new Set(tags)]) {
    const listed = await git('ls-tree', '-z', '--name-only', '--end-of-options', revision, './');
    if (!listed.isFound) {
      trouble ||= listed.words;
      continue;
    }
    const files = new TextDecoder()
      .decode(listed.out)
      .split('\0')
      .map((file) => basename(file))
      .filter(
        (file) =>
          file === basename(name) || (ending.test(file) && file.replace(ending, '') === basename(name)),
      );
    const [file, other] = files;
    if (file === undefined) {
      trouble = `no file of the folder has this name at ${revision}`;
      continue;
    }
    if (other !== undefined)
      throw new SkevoError(
        `${name} may be any of ${files.join(', ')} at ${revision}`,
        'Give the name with its ending.',
      );
    const show = (path: string) => git('show', '--end-of-options', `${revision}:./${path}`);
    const shown = await show(file);
    if (shown.isFound) {
      const own = ['logs/HEAD', 'packed-refs', 'refs/tags', 'refs/heads'].flatMap((each) => [
        '--git-path',
        each,
      ]);
      const places = new TextDecoder()
        .decode((await git('rev-parse', ...own)).out)
        .trim()
        .split('\n');
      return {
        seen: places.map((each) => resolve(folder, each)),
        given: join(folder, file) + fragment,
        source: { name: `${join(folder, file)}@${version}`, bytes: shown.out, firstLine: 1 },
        read: async (path) => {
          const beside = await show(relative(resolve(folder), resolve(path)));
          return beside.isFound ? beside.out : undefined;
        },
      };
    }
    trouble = shown.words;
  }
  throw new SkevoError(
    `there is no version ${version} of ${name}: no file of it lies beside, and git has no ${basename(name)} at ${version}: ${trouble}`,
    'Check the name and the version; git tag lists the tags, git log -- PATH the revisions of a file.',
  );
}

function wordsOf(bytes: Uint8Array): string {
  return new TextDecoder()
    .decode(bytes)
    .trim()
    .split('\n')[0]!
    .replace(/^fatal: /, '');
}
