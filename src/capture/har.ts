import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { excerptOf, type Source } from '../core/json/source.js';
import { member, type JsonObject, type JsonValue } from '../core/json/value.js';
import { isId, keepSample, stemOf } from './samples.js';
import { withoutSecrets } from './secrets.js';

/** A JSON response of a HAR file. */
export interface Recorded {
  readonly url: string;
  readonly method: string;
  readonly status: number;
  readonly time: string;
  readonly type: string;
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
  /** Responses that are no JSON, or failures. */
  readonly passedOver: number;
}

/**
 * Every JSON response of a HAR file (version 1.2, as browsers write it), by endpoint: method and path, with `{id}` for
 * parts of the path that are ids.
 * @throws SkevoError with the place when the file is not as HAR says
 */
export function readHar(source: Source): HarContent {
  const root = parseJson(source).root;
  const log = at(root, 'log');
  const entries = log && at(log, 'entries');
  if (entries?.kind !== 'list')
    throw new SkevoError(
      `${source.name} is not a HAR file: it has no list /log/entries`,
      'Export it again from the network panel of a browser.',
      excerptOf(source, root.start),
    );
  const endpoints = new Map<string, Recorded[]>();
  let passedOver = 0;
  for (const entry of entries.items) {
    const recorded = responseOf(entry);
    if (recorded === undefined) {
      passedOver++;
      continue;
    }
    const path = new URL(recorded.url).pathname
      .split('/')
      .map((part) => (isId(part) ? '{id}' : part))
      .join('/');
    const name = `${recorded.method} ${path}`;
    endpoints.set(name, [...(endpoints.get(name) ?? []), recorded]);
  }
  const stems = new Set<string>();
  return {
    passedOver,
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

function responseOf(entry: JsonValue): Recorded | undefined {
  const request = at(entry, 'request');
  const response = at(entry, 'response');
  const content = response && at(response, 'content');
  const url = text(request, 'url');
  const method = text(request, 'method');
  const body = text(content, 'text');
  const status = Number(number(response, 'status') ?? 0);
  if (url === undefined || method === undefined || body === undefined) return undefined;
  if (!URL.canParse(url) || status < 200 || status >= 300) return undefined;
  const bytes =
    text(content, 'encoding') === 'base64'
      ? new Uint8Array(Buffer.from(body, 'base64'))
      : new TextEncoder().encode(body);
  try {
    parseJson({ name: url, bytes, firstLine: 1 });
  } catch {
    return undefined;
  }
  return {
    url,
    method,
    status,
    time: text(entry, 'startedDateTime') ?? '',
    type: text(content, 'mimeType') ?? '',
    bytes,
  };
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

/**
 * Keeps the responses of an endpoint as samples.
 * @returns where the first of them is, and how many were not there before
 */
export async function keepEndpoint(
  { stem, responses }: Endpoint,
  folder: string,
  secrets: readonly string[],
): Promise<{ readonly first: string; readonly fresh: number }> {
  let first = '';
  let fresh = 0;
  for (const { bytes, url, ...origin } of responses) {
    const kept = await keepSample(folder, stem, bytes, { url: withoutSecrets(url, secrets), ...origin });
    first ||= kept.path;
    if (kept.isNew) fresh++;
  }
  return { first, fresh };
}
