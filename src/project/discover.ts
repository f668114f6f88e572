import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { stringify } from 'yaml';
import { SkevoError } from '../core/error.js';
import { isEnvelope } from '../core/infer/naming.js';
import { parseJson } from '../core/json/parse.js';
import { formatPlace } from '../core/json/pointer.js';
import type { JsonValue } from '../core/json/value.js';
import { pascalCase, singular, wordsOf } from '../core/words.js';
import { kebabCase } from '../languages/kit/names.js';

/** A contract that a folder suggests. */
export interface Suggested {
  readonly key: string;
  readonly samples: string;
  readonly at: string;
  readonly name: string;
  /** Where its samples came from, when that is known. */
  readonly endpoint?: string;
}

const passedOver = /^(node_modules|dist|build|target|vendor|schemas|generated|clients|coverage|__pycache__)$/;
const notPayloads =
  /(^|\.)(package|package-lock|tsconfig.*|composer|manifest|skevo|launch|settings|tasks)\.json$|\.schema\.json$/;
const payloadFile = /\.(json|ndjson|jsonl|csv|tsv|xml|yaml|yml)(\.gz)?$/;
/** Files of these endings are settings as often as payloads where nobody named the folder. */
const perhapsSettings = /\.(xml|yaml|yml)$/;
const ownNotes = /\.origin\.yaml$/;

/**
 * Contracts for the payloads below a folder: one for each folder that has nothing else, and one for each file of the
 * others. @param root as a person named it
 */
export function discoverContracts(root: string): Suggested[] {
  const found: Suggested[] = [];
  const visit = (folder: string, depth: number): void => {
    const entries = readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
    const at = (name: string) => (folder === '.' ? name : join(folder, name));
    const paths = entries
      .filter((each) => each.isFile() && payloadFile.test(each.name) && !notPayloads.test(each.name))
      .filter(({ name }) => !ownNotes.test(name) && !(root === '.' && perhapsSettings.test(name)))
      .map(({ name }) => at(name));
    const mark = found.length;
    for (const entry of entries) {
      if (entry.isDirectory() && !entry.name.startsWith('.') && !passedOver.test(entry.name) && depth < 6)
        visit(at(entry.name), depth + 1);
    }
    // A folder stands for its files only when it has no more than them: all below it would be samples too.
    const endings = new Set(
      paths.map((path) => payloadFile.exec(path)![1]!.replace(/^(nd)?json.?$/, 'json')),
    );
    if (paths.length > 0 && depth > 0 && found.length === mark && endings.size === 1)
      found.push(suggestion(folder, basename(folder), paths[0]!));
    else
      for (const path of paths) found.push(suggestion(path, basename(path).replace(payloadFile, ''), path));
  };
  visit(root, 0);
  const taken = new Set<string>();
  return found.map((each) => {
    let key = each.key;
    for (let i = 2; taken.has(key); i++) key = `${each.key}-${i}`;
    taken.add(key);
    return { ...each, key };
  });
}

/** A contract for samples of one kind. @param first a file of them, which tells where the records are */
export function suggestion(samples: string, called: string, first: string): Suggested {
  const words = singular(wordsOf(called));
  return {
    key: kebabCase.join(words).toLowerCase() || 'payload',
    samples,
    at: placeOfRecords(first),
    name: pascalCase(words) || 'Payload',
  };
}

/** Where the records are inside a document: in the only list of its envelope, or at the top. */
function placeOfRecords(path: string): string {
  if (!path.endsWith('.json')) return '';
  let root: JsonValue;
  try {
    root = parseJson({ name: path, bytes: readFileSync(path), firstLine: 1 }).root;
  } catch (error) {
    if (error instanceof SkevoError) return '';
    throw error;
  }
  if (root.kind !== 'object') return '';
  const lists = root.members.filter(
    ({ key, value }) =>
      isEnvelope(key) && value.kind === 'list' && value.items.some((item) => item.kind === 'object'),
  );
  return lists.length === 1 ? formatPlace([{ key: lists[0]!.key }, 'every']) : '';
}

/** What tells that a folder is a project in a language. */
const signs: readonly (readonly [file: RegExp, language: string])[] = [
  [/^(pyproject\.toml|requirements\.txt|setup\.py)$/, 'python'],
  [/^package\.json$/, 'typescript'],
  [/^go\.mod$/, 'go'],
  [/^Cargo\.toml$/, 'rust'],
  [/^build\.gradle\.kts$/, 'kotlin'],
  [/^(pom\.xml|build\.gradle)$/, 'java'],
  [/\.(csproj|sln)$/, 'csharp'],
  [/^composer\.json$/, 'php'],
  [/^Gemfile$/, 'ruby'],
  [/^(DESCRIPTION|.+\.Rproj)$/, 'r'],
  [/^CMakeLists\.txt$/, 'cpp'],
  [/^build\.sbt$/, 'scala'],
  [/^Package\.swift$/, 'swift'],
];

/** Languages that a folder is written in; TypeScript when nothing tells. */
export function discoverLanguages(folder: string): string[] {
  const names = existsSync(folder) ? readdirSync(folder) : [];
  const found = signs
    .filter(([sign]) => names.some((name) => sign.test(name)))
    .map(([, language]) => language);
  return found.length > 0 ? found : ['typescript'];
}

/** A first project file, with comments that say what else may stand there. */
export function projectText(contracts: readonly Suggested[], languages: readonly string[]): string {
  const scalar = (value: string) => stringify(value).trim();
  const parts = contracts.map(({ key, samples, at, name, endpoint }) =>
    [
      ...(endpoint === undefined ? [] : [`  # ${endpoint.replace(/[\p{C}]/gu, '')}`]),
      `  ${scalar(key)}:`,
      `    samples: ${scalar(samples)}`,
      ...(at === '' ? [] : [`    at: ${scalar(at)}`]),
      `    name: ${scalar(name)}`,
      `    schema: ${scalar(`schemas/${key}.schema.json`)}`,
      '    languages:',
      ...languages.flatMap((language) => [
        `      - language: ${language}`,
        `        out: ${scalar(`generated/${language}/${key}`)}`,
      ]),
    ].join('\n'),
  );
  return `# What skevo run keeps in step: samples -> schema -> classes -> proof.
# Every path is from the folder of this file.

contracts:
${parts.join('\n\n')}

# Beside samples, schema and languages, a contract may have:
#   unknown: drop       fields that the schema does not know: keep, drop or reject
#   dates: native       dates, UUIDs and bytes: text or native; as the schema says of each when not given
#   choices: auto       sets of words: auto, open, closed or none
#   decisions:          what you know of places of the payloads
#     /state: { choice: open }
#   strict: false       whether another spelling of the same value is a loss too
#   capture:            where new samples come from, for skevo capture
#     - url: https://api.example.org/v1/sailings
#       headers-from: { Authorization: FERRY_TOKEN }
#       pages: 10
# and a language may have style, package, unknown and dates of its own, and builders: off in Java.
#
# secrets: [ticket]     query values that are never written down, beside the usual ones
`;
}
