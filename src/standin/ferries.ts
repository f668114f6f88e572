import { readdirSync, readFileSync } from 'node:fs';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';

/** A running stand-in for the ferry operator's API. */
export interface Standin {
  /** Such as `http://127.0.0.1:4181`, without a slash at the end. */
  readonly url: string;
  close(): Promise<void>;
}

interface Call {
  readonly url: URL;
  readonly request: IncomingMessage;
  readonly response: ServerResponse;
  readonly body: Buffer;
}

/** How often a place that answers badly at first has been asked. */
type Attempts = Map<string, number>;

/**
 * Serves the demo payloads on the loopback interface, with paging, two versions, and every way in which an answer can
 * go wrong. `GET /` lists the places.
 * @param payloads the folder of the demo payloads
 * @param port 0 for any that is free
 */
export async function serveFerries(payloads: string, port = 0): Promise<Standin> {
  const attempts: Attempts = new Map();
  const server = createServer((request, response) => {
    const chunks: Buffer[] = [];
    request.on('data', (chunk: Buffer) => chunks.push(chunk));
    request.on('end', () => {
      const url = new URL(request.url ?? '/', 'http://127.0.0.1');
      answer({ url, request, response, body: Buffer.concat(chunks) }, payloads, attempts);
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const { port: bound } = server.address() as AddressInfo;
  return {
    url: `http://127.0.0.1:${bound}`,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

const kinds = ['berths', 'fares', 'notices', 'tides', 'vessels'];

/** Files of partners, by the media types of their formats. */
const types: Readonly<Record<string, string>> = {
  'fares.xml': 'application/fares+xml; charset=utf-8',
  'timetable.csv': 'text/csv; header=present',
  'berths.yaml': 'application/yaml',
};

/** What `GET /` says of each place. */
export const places: Readonly<Record<string, string>> = {
  '/v1/sailings?page=1': 'eight pages; Link: rel=next, and /next in the body',
  '/v2/sailings?page=1': 'the same API a year later',
  '/v1/berths/1': 'one payload each; also fares, notices, tides and vessels',
  '/partners/fares.xml': 'a file as a partner has it; also timetable.csv and berths.yaml',
  '/echo': 'what was sent to it, as JSON',
  '/slow?seconds=2': 'an answer that takes its time',
  '/busy?times=2': '429 with Retry-After at first',
  '/broken?times=2': '500 at first',
  '/html': 'a page for people',
  '/empty': 'nothing at all',
  '/half': 'half an answer, then the line is cut',
  '/short': 'less than its Content-Length says',
  '/gzip': 'compressed',
  '/brotli': 'compressed',
  '/loop': 'a redirect to itself',
  '/huge': 'ten gigabytes, or so it says',
};

function answer(call: Call, payloads: string, attempts: Attempts): void {
  const { url, request, response, body } = call;
  const number = (name: string, otherwise: number) => Number(url.searchParams.get(name) ?? otherwise);
  const [, first = '', kind = '', id = ''] = url.pathname.split('/');
  const sample = () => readFileSync(join(payloads, 'vessels', readdirSync(join(payloads, 'vessels'))[0]!));
  const failsAtFirst = (times: number): boolean => {
    const key = request.url ?? '';
    const before = attempts.get(key) ?? 0;
    attempts.set(key, before + 1);
    return before < times;
  };
  if ((first === 'v1' || first === 'v2') && kind === 'sailings') return sailings(call, payloads, first);
  if (first === 'v1' && kinds.includes(kind)) {
    const folder = join(payloads, kind);
    const file = readdirSync(folder).sort()[Number(id || 1) - 1];
    if (file !== undefined) return send(response, 200, readFileSync(join(folder, file)));
  }
  if (first === 'partners' && types[kind] !== undefined)
    return send(response, 200, readFileSync(join(payloads, '..', 'partners', kind)), types[kind]);
  switch (first) {
    case '':
      return json(response, 200, places);
    case 'echo':
      return json(response, 200, {
        method: request.method,
        query: Object.fromEntries(url.searchParams),
        headers: request.headers,
        body: body.toString('utf8'),
      });
    case 'slow':
      setTimeout(() => send(response, 200, sample()), number('seconds', 2) * 1000);
      return;
    case 'busy':
      if (!failsAtFirst(number('times', 2))) return send(response, 200, sample());
      response.setHeader('Retry-After', String(number('wait', 1)));
      return json(response, 429, { error: 'too many requests' });
    case 'broken':
      if (!failsAtFirst(number('times', 2))) return send(response, 200, sample());
      return json(response, 500, { error: 'the tide is out' });
    case 'html':
      return send(response, 200, '<!doctype html><title>Saltmere Ferries</title><p>Back soon', 'text/html');
    case 'empty':
      return send(response, 200, '');
    case 'half':
      response.writeHead(200, { 'Content-Type': 'application/json' });
      response.write(sample().subarray(0, 20));
      setTimeout(() => response.destroy(), 50);
      return;
    case 'short':
      response.writeHead(200, { 'Content-Type': 'application/json', 'Content-Length': 100_000 });
      response.write(sample());
      setTimeout(() => response.destroy(), 50);
      return;
    case 'gzip':
      response.setHeader('Content-Encoding', 'gzip');
      return send(response, 200, gzipSync(sample()));
    case 'brotli':
      response.setHeader('Content-Encoding', 'br');
      return send(response, 200, brotliCompressSync(sample()));
    case 'loop':
      response.writeHead(302, { Location: '/loop' }).end();
      return;
    case 'huge':
      response.writeHead(200, { 'Content-Type': 'application/json', 'Content-Length': 10 * 2 ** 30 });
      response.write('{"results":[');
      return;
    default:
      return json(response, 404, { error: `there is nothing at ${url.pathname}` });
  }
}

function sailings({ url, response }: Call, payloads: string, version: string): void {
  const folder = join(payloads, 'sailings');
  const pages = readdirSync(folder).length;
  const page = Number(url.searchParams.get('page') ?? 1);
  const file = join(folder, `page-${page}.json`);
  if (!Number.isInteger(page) || page < 1 || page > pages)
    return json(response, 404, { error: `there is no page ${url.searchParams.get('page')}` });
  let text = readFileSync(file, 'utf8');
  if (version === 'v2') text = aYearLater(text);
  if (page < pages) response.setHeader('Link', `</${version}/sailings?page=${page + 1}>; rel="next"`);
  send(response, 200, text);
}

/** What changed in a year: a field has another name, one is new, and one may be null. */
function aYearLater(text: string): string {
  let count = 0;
  return text
    .replaceAll('"/v1/', '"/v2/')
    .replaceAll('"seats_free":', '"seats_left":')
    .replace(/^( *)"load": /gm, (line, indent: string) =>
      count++ % 2 === 0 ? `${indent}"pets_allowed": ${count % 3 === 0},\n${line}` : line,
    )
    .replace(/"booked_by": \d+/, '"booked_by": null');
}

function json(response: ServerResponse, status: number, value: unknown): void {
  send(response, status, `${JSON.stringify(value)}\n`);
}

function send(
  response: ServerResponse,
  status: number,
  body: Buffer | string,
  type = 'application/json',
): void {
  response.writeHead(status, { 'Content-Type': type });
  response.end(body);
}
