import { existsSync, realpathSync } from 'node:fs';
import { relative, resolve, sep } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { excerptOf, placeOf, type Source } from '../core/json/source.js';
import { membersByKey, type JsonValue } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import type { Note } from '../core/note.js';
import { draftOf, type Validation } from '../core/schema/draft.js';
import { readSchema } from '../core/schema/read.js';
import { schemaToJson, type Schema } from '../core/schema/schema.js';
import { documentsAt } from '../formats/format.js';
import { Documents, type Document, type Found } from './json/document.js';
import type { AnswerPlace } from './openapi/places.js';
import { isPlain } from './json/plain.js';
import type { FoundSchema } from './find.js';
import { Reducer } from './json/reduce.js';

/** A schema of any kind as everything behind it takes it. */
export interface Loaded {
  /** The schema that types are made of, and its text: of another kind, or with parts that types are not made of, made anew. */
  readonly schema: Schema;
  readonly source: Source;
  /** Whether the text is not that of the file, which cannot be written back then. */
  readonly isMade: boolean;
  /** What payloads are validated against. */
  readonly validation: Validation;
  /** What of it classes do not express. */
  readonly notes: readonly Note[];
  /** Files and folders that it depends on. */
  readonly seen: readonly string[];
}

/**
 * Reads a schema of any kind: JSON Schema of any draft, a schema or an answer in an OpenAPI description, an Avro schema, an XML
 * Schema.
 * @throws SkevoError with the place of what cannot be read
 */
export async function loadSchema(found: FoundSchema): Promise<Loaded> {
  const read: string[] = [];
  const loaded = await loadAny({
    ...found,
    read: (path) => {
      read.push(path);
      return found.read(path);
    },
  });
  return { ...loaded, seen: [...found.seen, ...read] };
}

async function loadAny({ given, source, read }: FoundSchema): Promise<Omit<Loaded, 'seen'>> {
  const fragment = fragmentOf(given);
  const path = pathOfSchema(given);
  if (source.bytes[0] === 0x3c || /\.xsd$/i.test(path)) {
    const { schemaOfXsd } = await import('./xsd/read.js');
    return fromSchema(...schemaOfXsd(source, path, fragment));
  }
  const main = await documentOf(source, path);
  const { root } = main;
  if (isDescription(root)) {
    const { pointerIn } = await import('./openapi/places.js');
    const { pointer, name } = pointerIn(main, fragment, path);
    return reduced(main, pointer, name, read);
  }
  if (fragment !== undefined) return reduced(main, fragment, undefined, read);
  const { isAvro, schemaOfAvro } = await import('./avro/read.js');
  if (isAvro(root)) return fromSchema(schemaOfAvro(main.source), main.source, []);
  // Errors of what is no schema at all are the same whatever it holds.
  if (root.kind !== 'object' || isPlain(root) || !looksLikeSchema(root)) {
    const schema = readSchema(main.source);
    return {
      schema,
      source: main.source,
      isMade: main.source.origin !== undefined,
      validation: { source: main.source },
      notes: [],
    };
  }
  return reduced(main, '', undefined, read);
}

/** An OpenAPI description that is given whole, and the answers of its operations; undefined for any other file. */
export async function descriptionAt({
  given,
  source,
}: FoundSchema): Promise<{ readonly answers: readonly AnswerPlace[] } | undefined> {
  if (fragmentOf(given) !== undefined || source.bytes[0] === 0x3c) return undefined;
  const { root } = await documentOf(source, given);
  if (root.kind !== 'object' || !isDescription(root)) return undefined;
  const { answersIn } = await import('./openapi/places.js');
  return { answers: answersIn(root) };
}

/** The path of a file in what a person wrote for a schema. */
export function pathOfSchema(given: string): string {
  const fragment = fragmentOf(given);
  return fragment === undefined ? given : given.slice(0, -fragment.length - 1);
}

/** What stands behind `#`; undefined where the name of the file holds it. */
function fragmentOf(given: string): string | undefined {
  const at = given.indexOf('#');
  return at < 0 || existsSync(given) ? undefined : given.slice(at + 1);
}

function isDescription(root: JsonValue): boolean {
  return root.kind === 'object' && root.members.some(({ key }) => key === 'openapi' || key === 'swagger');
}

function looksLikeSchema(root: JsonValue): boolean {
  return (
    root.kind === 'object' &&
    root.members.some(({ key }) =>
      /^(?:\$.*|id|definitions|type|properties|items|allOf|anyOf|oneOf|not|if|enum|const|required|additionalProperties|patternProperties|dependencies|dependentSchemas|prefixItems|contains|format|pattern|minimum|maximum)$/.test(
        key,
      ),
    )
  );
}

async function documentOf(source: Source, path: string): Promise<Document> {
  const location = path === '-' ? pathToFileURL(resolve('stdin')) : pathToFileURL(resolve(path));
  const text = /\.ya?ml$/i.test(path) ? await asJson(source) : source;
  const { root } = parseJson(text);
  return { source: text, root, draft: dialectOf(root), location };
}

function dialectOf(root: JsonValue): Document['draft'] {
  const said = (key: string) => {
    const value = root.kind === 'object' ? membersByKey(root).get(key)?.value : undefined;
    return value?.kind === 'string' ? value.value : undefined;
  };
  return said('openapi')?.startsWith('3.0') ? 'openapi-3.0' : draftOf(said('$schema'));
}

async function asJson(source: Source): Promise<Source> {
  const found = await documentsAt('yaml', source.name, source.bytes);
  const [only, other] = found;
  if (only === undefined) throw new SkevoError(`${source.name} is empty`, 'Give a schema.');
  if (other !== undefined)
    throw new SkevoError(
      `${source.name} holds several documents, and a schema is one`,
      'Give each a file of its own.',
      placeOf(other, 0),
    );
  return only;
}

/** A schema that refers to others, or is not as types are made of, made anew. */
async function reduced(
  main: Document,
  fragment: string,
  name: string | undefined,
  read: FoundSchema['read'],
): Promise<Omit<Loaded, 'seen'>> {
  const files = new Map<string, Document>();
  const folder = realpathOf(fileURLToPath(new URL('.', main.location)));
  await readReferred(main, folder, files, read);
  const documents = new Documents((location) => files.get(location.href));
  documents.add(main);
  const from = { kind: 'object' as const, members: [], start: 0, end: 0 };
  const resolved: Found =
    fragment === ''
      ? { node: main.root, document: main, name: documents.resolve(main.location.href, from, main).name }
      : documents.resolve(`#${encodeURI(fragment)}`, from, main);
  const reducer = new Reducer(documents);
  const schema = reducer.reduce(name === undefined ? resolved : { ...resolved, name });
  const notes = [...reducer.unexpressed.values()].map(({ count, note }) =>
    count === 1
      ? note
      : { ...note, message: `${note.message}, here and ${count - 1} more ${count === 2 ? 'time' : 'times'}` },
  );
  const all = documents.all();
  const whole = all.length > 1 ? documents.located(main) : main.root;
  const isPart = isDescription(main.root) && fragment !== '';
  const validation: Validation = {
    source: main.source,
    draft: main.draft,
    location: main.location.href,
    ...(fragment !== '' && { pointer: fragment }),
    ...((isPart || all.length > 1) && {
      root: isPart ? (await import('./openapi/part.js')).partOf(whole, fragment) : whole,
    }),
    ...(all.length > 1 && {
      others: all
        .filter((each) => each !== main)
        .map((each) => [each.location.href, documents.located(each)] as const),
    }),
  };
  return { ...made(schema, main.source), isMade: true, validation, notes };
}

/** A schema that was made of one of another kind. */
function fromSchema(schema: Schema, original: Source, notes: readonly Note[]): Omit<Loaded, 'seen'> {
  const both = made(schema, original);
  return {
    ...both,
    isMade: true,
    validation: { source: both.source },
    notes,
  };
}

/** The text of a schema that was made, which stands where the file begins that it was made of. */
function made(schema: Schema, original: Source): { schema: Schema; source: Source } {
  const bytes = new TextEncoder().encode(writeJson(schemaToJson(schema), 2));
  const at = () => placeOf(original, 0);
  const source: Source = {
    name: original.name,
    bytes,
    firstLine: 1,
    origin: { hasNoTypes: false, hasNoLists: false, hasNoAbsence: false, at, excerpt: () => undefined },
  };
  return { schema: readSchema(source), source };
}

/** Reads all files that a document refers to, and those that they do. @throws SkevoError for those outside of its folder */
async function readReferred(
  document: Document,
  folder: string,
  files: Map<string, Document>,
  read: FoundSchema['read'],
): Promise<void> {
  const waiting: JsonValue[] = [document.root];
  for (let value = waiting.pop(); value !== undefined; value = waiting.pop()) {
    if (value.kind === 'list') waiting.push(...value.items);
    if (value.kind !== 'object') continue;
    for (const { key, value: inner } of value.members) {
      waiting.push(inner);
      if (key !== '$ref' || inner.kind !== 'string' || inner.value.startsWith('#')) continue;
      // A reference to an identifier of another document leads to no file; who resolves it says so.
      const url = URL.canParse(inner.value, document.location.href)
        ? new URL(inner.value, document.location)
        : undefined;
      if (url?.protocol !== 'file:') continue;
      url.hash = '';
      if (files.has(url.href) || url.href === document.location.href) continue;
      const path = fileURLToPath(url);
      if (!realpathOf(path).startsWith(folder.endsWith(sep) ? folder : folder + sep)) {
        if (!existsSync(path)) continue;
        throw new SkevoError(
          `the reference ${JSON.stringify(inner.value)} leads out of the folder of the schema`,
          'Put a copy of the file beside the schema, or below.',
          excerptOf(document.source, inner.start),
        );
      }
      const name = relative(process.cwd(), path).split(sep).join('/');
      const bytes = await read(path);
      if (bytes === undefined) continue;
      const other = await documentOf({ name, bytes, firstLine: 1 }, path);
      // What is in a description is in its dialect.
      const own = { ...other, draft: other.draft === '2020-12' ? document.draft : other.draft };
      files.set(url.href, own);
      await readReferred(own, folder, files, read);
    }
  }
}

function realpathOf(path: string): string {
  return existsSync(path) ? realpathSync(path) : path;
}
