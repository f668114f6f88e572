import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { excerptOf, type Source } from '../core/json/source.js';
import { member, type JsonObject, type JsonValue } from '../core/json/value.js';
import type { FormatName } from '../formats/format.js';
import { parseAnswer, type Answer } from './answer.js';
import { isId, SampleFolder, stemOf } from './samples.js';
import { isSecret, isSecretHeader, Secrets, withoutSecrets } from './secrets.js';

/** A response of a HAR file, of a format that payloads come in. */
export interface Recorded {
  readonly url: string;
  readonly method: string;
  readonly status: number;
  readonly time: string;
  readonly type: string;
  readonly format: FormatName;
  readonly bytes: Uint8Array;
}

/** The responses of one endpoint. */
export interface Endpoint {
  /** Such as `GET /v1/berths/{id}`. */
  readonly name: string;
  /** What a folder for it may be called. */
  readonly stem: string;
  readonly responses: readonly Recorded[];
}

export interface HarContent {
  readonly endpoints: readonly Endpoint[];
  /** Responses of no format that payloads come in, or failures. */
  readonly passedOver: number;
  /** Responses that repeat a secret of the recording, by what the secret is called. */
  readonly secretive: ReadonlyMap<string, number>;
  /** What must not be written down of the recording. */
  readonly secrets: Secrets;
}

/**
 * Every response with payloads of a HAR file (version 1.2, as browsers write it), by endpoint: method and path, with `{id}` for
 * parts of the path that are ids. A response that repeats a secret of any request, such as its token, is none.
 * @param names of query values that are secrets beside those that are called so
 * @throws SkevoError with the place when the file is not as HAR says
 */
export async function readHar(source: Source, names: readonly string[] = []): Promise<HarContent> {
  const entries = entriesOf(source);
  const secrets = new Secrets(
    entries.flatMap((entry) => secretsOf(entry, names)),
    shortestRecorded,
  );
  const endpoints = new Map<string, Recorded[]>();
  const secretive = new Map<string, number>();
  let passedOver = 0;
  for (const entry of entries) {
    const found = await responseOf(entry, isSuccess);
    if (found === undefined) {
      passedOver++;
      continue;
    }
    const { recorded, body } = found;
    const secret = secrets.foundIn(body);
    if (secret !== undefined) {
      secretive.set(secret, (secretive.get(secret) ?? 0) + 1);
      continue;
    }
    const path = new URL(recorded.url).pathname
      .split('/')
      .map((part) => (isId(part) ? '{id}' : part))
      .join('/');
    const name = secrets.masked(`${recorded.method} ${path}`);
    const responses = endpoints.get(name);
    if (responses === undefined) endpoints.set(name, [recorded]);
    else responses.push(recorded);
  }
  const stems = new Set<string>();
  return {
    passedOver,
    secretive,
    secrets,
    endpoints: [...endpoints]
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, responses]) => {
        const base = `${stemOf(responses[0]!.url)}${name.endsWith('{id}') ? '-one' : ''}`;
        let stem = base;
        for (let i = 2; stems.has(stem); i++) stem = `${base}-${i}`;
        stems.add(stem);
        return { name, stem, responses };
      }),
  };
}

/** Cookies of a few letters are settings, and such letters are found everywhere. */
const shortestRecorded = 8;

/** What an entry sends or is given to be known by, by what it is called. */
function secretsOf(entry: JsonValue, names: readonly string[]): [string, string][] {
  const request = at(entry, 'request');
  const response = at(entry, 'response');
  const pairs = (owner: JsonValue | undefined, key: string): [string, string][] => {
    const list = owner && at(owner, key);
    return list?.kind !== 'list'
      ? []
      : list.items.flatMap((item): [string, string][] => {
          const name = text(item, 'name');
          const value = text(item, 'value');
          return name === undefined || value === undefined ? [] : [[name, value]];
        });
  };
  const headers = [...pairs(request, 'headers'), ...pairs(response, 'headers')].filter(([name]) =>
    isSecretHeader(name),
  );
  const cookies = [...pairs(request, 'cookies'), ...pairs(response, 'cookies')];
  const query = pairs(request, 'queryString').filter(([name]) => isSecret(name, names));
  const url = text(request, 'url') ?? '';
  const inUrl = URL.canParse(url)
    ? [...new URL(url).searchParams].filter(([name]) => isSecret(name, names))
    : [];
  return [
    ...headers.flatMap(([name, value]) =>
      /cookie$/i.test(name)
        ? cookiesIn(value).map((each): [string, string] => [name, each])
        : [[name, value] as [string, string]],
    ),
    ...cookies.map(([name, value]): [string, string] => [`the cookie ${name}`, value]),
    ...query,
    ...inUrl,
  ];
}

/** The values of a header of cookies; what follows the first of a `Set-Cookie` says how long it lives, and where. */
function cookiesIn(header: string): string[] {
  const attributes = /^(expires|max-age|domain|path|samesite|priority|version)$/i;
  return header.split(/[;\n]/).flatMap((part) => {
    const [, name, value] = /^\s*([^=]+)=(.*)$/.exec(part) ?? [];
    return name === undefined || value === undefined || attributes.test(name)
      ? []
      : [value.replace(/^"|"$/g, '')];
  });
}

/**
 * Every answer of a HAR file that holds a payload, whatever its status, in the order of the file.
 * @throws SkevoError with the place when the file is not as HAR says
 */
export async function answersOf(source: Source): Promise<Recorded[]> {
  const found: Recorded[] = [];
  for (const entry of entriesOf(source)) {
    const answer = await responseOf(entry, () => true);
    if (answer !== undefined) found.push(answer.recorded);
  }
  return found;
}

function entriesOf(source: Source): readonly JsonValue[] {
  const root = parseJson(source).root;
  const log = at(root, 'log');
  const entries = log && at(log, 'entries');
  if (entries?.kind !== 'list')
    throw new SkevoError(
      `${source.name} is not a HAR file: it has no list /log/entries`,
      'Export it again from the network panel of a browser.',
      excerptOf(source, root.start),
    );
  return entries.items;
}

function isSuccess(status: number): boolean {
  return status >= 200 && status < 300;
}

async function responseOf(
  entry: JsonValue,
  isWanted: (status: number) => boolean,
): Promise<{ readonly recorded: Recorded; readonly body: JsonValue } | undefined> {
  const request = at(entry, 'request');
  const response = at(entry, 'response');
  const content = response && at(response, 'content');
  const url = text(request, 'url');
  const method = text(request, 'method');
  const body = text(content, 'text');
  const status = Number(number(response, 'status') ?? 0);
  if (url === undefined || method === undefined || body === undefined) return undefined;
  if (!/^https?:/i.test(url) || !URL.canParse(url) || !isWanted(status)) return undefined;
  const bytes =
    text(content, 'encoding') === 'base64'
      ? new Uint8Array(Buffer.from(body, 'base64'))
      : new TextEncoder().encode(body);
  const type = text(content, 'mimeType') ?? '';
  let answer: Answer;
  try {
    answer = await parseAnswer(url, type, bytes);
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    return undefined;
  }
  const recorded = {
    url,
    method,
    status,
    time: text(entry, 'startedDateTime') ?? '',
    type,
    format: answer.format,
    bytes,
  };
  return { recorded, body: answer.root };
}

function at(value: JsonValue, key: string): JsonValue | undefined {
  return value.kind === 'object' ? member(value as JsonObject, key) : undefined;
}

function text(value: JsonValue | undefined, key: string): string | undefined {
  const found = value && at(value, key);
  return found?.kind === 'string' ? found.value : undefined;
}

function number(value: JsonValue | undefined, key: string): string | undefined {
  const found = value && at(value, key);
  return found?.kind === 'number' ? found.text : undefined;
}

/** What is said of responses that were passed over because they repeat a secret. */
export function secretNotes({ secretive }: Pick<HarContent, 'secretive'>): string[] {
  return [...secretive].map(
    ([name, count]) =>
      `${count === 1 ? '1 response repeats' : `${count} responses repeat`} the value of ${name}, which must not be written down, and ${count === 1 ? 'was' : 'were'} passed over`,
  );
}

/**
 * Keeps the responses of an endpoint as samples.
 * @returns where the first of them is, and how many were not there before
 */
export async function keepEndpoint(
  { stem, responses }: Endpoint,
  folder: string,
  names: readonly string[],
  secrets: Secrets,
): Promise<{ readonly first: string; readonly fresh: number }> {
  const samples = new SampleFolder(folder);
  let first = '';
  let fresh = 0;
  for (const { bytes, url, method, status, time, type, format } of responses) {
    const kept = await samples.keep(stem, format, bytes, {
      url: withoutSecrets(url, names, secrets),
      method: secrets.masked(method),
      status,
      time,
      type: secrets.masked(type),
    });
    first ||= kept.path;
    if (kept.isNew) fresh++;
  }
  return { first, fresh };
}
