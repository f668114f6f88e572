import { SkevoError } from '../core/error.js';
import { followed } from './follow.js';
import { withoutSecrets, type Secrets } from './secrets.js';

/** One request, as a person asks for it. */
export interface Wanted {
  readonly url: string;
  readonly method: 'GET' | 'POST';
  readonly headers: Readonly<Record<string, string>>;
  /** JSON text to send. */
  readonly body?: Uint8Array | undefined;
}

/** What a request may tell, and to whom. */
export interface RequestRules {
  /** Names of query values that are secret beside the usual ones. */
  readonly secrets: readonly string[];
  /** Values that must not be written down. */
  readonly hidden: Secrets;
  /** Hosts that links may lead to though they are of this machine. */
  readonly hosts: readonly string[];
}

export interface RequestLimits {
  /** Seconds for one attempt, its body included. */
  readonly seconds: number;
  /** Bytes of a body. */
  readonly bytes: number;
  /** Further attempts after 429, 5xx and broken connections. */
  readonly retries: number;
}

export const usualRequestLimits: RequestLimits = { seconds: 30, bytes: 64 << 20, retries: 4 };

export interface Answered {
  /** Where the answer came from, after redirects. */
  readonly url: string;
  readonly status: number;
  readonly type: string;
  /** The `Link` header, where there is one. */
  readonly link: string | undefined;
  /** The body, decompressed and otherwise as it came. */
  readonly bytes: Uint8Array;
}

/** Seconds that a server may ask to wait. */
const longestWait = 120;

/**
 * Sends a request, again when the server is busy or broken: after what `Retry-After` says (RFC 9110, section 10.2.3),
 * else after 0.5, 1, 2 .. seconds.
 * @param waiting told of each wait
 * @throws SkevoError that says what went wrong, without secrets
 */
export async function request(
  wanted: Wanted,
  limits: RequestLimits,
  rules: RequestRules,
  waiting: (seconds: number, why: string) => void = () => {},
): Promise<Answered> {
  const name = withoutSecrets(wanted.url, rules.secrets, rules.hidden);
  for (let attempt = 0; ; attempt++) {
    const outcome = await once(wanted, limits, rules, name);
    if (!('again' in outcome)) return outcome;
    if (attempt >= limits.retries) throw outcome.error;
    const seconds = Math.min(outcome.after ?? 0.5 * 2 ** attempt, longestWait);
    waiting(seconds, outcome.again);
    await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
  }
}

interface Failed {
  /** Why it is worth another try. */
  readonly again: string;
  readonly after?: number | undefined;
  readonly error: SkevoError;
}

async function once(
  wanted: Wanted,
  limits: RequestLimits,
  rules: RequestRules,
  name: string,
): Promise<Answered | Failed> {
  const signal = AbortSignal.timeout(limits.seconds * 1000);
  let response: Response;
  let asked = wanted;
  for (let hops = 0; ; hops++) {
    try {
      response = await fetch(asked.url, {
        method: asked.method,
        headers: { accept: 'application/json', ...asked.headers },
        ...(asked.body === undefined ? {} : { body: Buffer.from(asked.body) }),
        redirect: 'manual',
        signal,
      });
    } catch (error) {
      return unreachable(error, name, limits);
    }
    const location = response.headers.get('location');
    if (!redirects.has(response.status) || location === null) break;
    await response.body?.cancel();
    if (hops === mostRedirects)
      throw new SkevoError(
        `${name} redirects round and round`,
        'Check the URL: http or https, with or without a slash?',
      );
    const to = await followed(location, asked.url, rules.hosts, name);
    asked = redirected(asked, to, response.status, name);
  }
  const { status } = response;
  if (status === 429 || status >= 500) {
    const after = retryAfter(response.headers.get('retry-after'));
    await response.body?.cancel();
    const again = `${name} answered ${status}`;
    return {
      again,
      after,
      error: new SkevoError(
        `${again} ${limits.retries + 1} times`,
        status === 429
          ? 'Wait a while, or give more --retries.'
          : 'The server is out of order; try again later.',
      ),
    };
  }
  if (status >= 400)
    throw new SkevoError(
      `${name} answered ${status}${response.statusText === '' ? '' : ` ${response.statusText}`}`,
      status === 401 || status === 403
        ? 'It wants to know who asks: give a header by --header-from NAME=VARIABLE.'
        : 'Check the URL.',
    );
  const announced = Number(response.headers.get('content-length') ?? 0);
  if (announced > limits.bytes) {
    await response.body?.cancel();
    throw tooLarge(name, announced, limits);
  }
  try {
    const bytes = await bodyOf(response, name, limits);
    return {
      url: asked.url,
      status,
      type: response.headers.get('content-type') ?? '',
      link: response.headers.get('link') ?? undefined,
      bytes,
    };
  } catch (error) {
    if (error instanceof SkevoError) throw error;
    return unreachable(error, name, limits);
  }
}

/** Statuses that send a request on (RFC 9110, section 15.4). */
const redirects = new Set([301, 302, 303, 307, 308]);
const mostRedirects = 20;

/**
 * The request that a redirect makes of one: a POST becomes a GET unless the server says that it must not. Headers and
 * a body are for the origin that they were given for.
 */
function redirected(wanted: Wanted, to: URL, status: number, name: string): Wanted {
  const keepsMethod = wanted.method === 'GET' || status === 307 || status === 308;
  const isSame = to.origin === new URL(wanted.url).origin;
  if (!isSame && keepsMethod && wanted.body !== undefined)
    throw new SkevoError(
      `${name} redirects what is sent to ${to.origin}, which it is not for`,
      'Ask there yourself if that is meant.',
    );
  const { body, headers } = wanted;
  const { 'content-type': _, ...rest } = headers;
  return {
    url: to.href,
    method: keepsMethod ? wanted.method : 'GET',
    headers: isSame ? (keepsMethod ? headers : rest) : {},
    ...(isSame && keepsMethod && body !== undefined ? { body } : {}),
  };
}

async function bodyOf(response: Response, name: string, limits: RequestLimits): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of (response.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > limits.bytes) throw tooLarge(name, size, limits);
    chunks.push(chunk);
  }
  return new Uint8Array(Buffer.concat(chunks));
}

function tooLarge(name: string, bytes: number, limits: RequestLimits): SkevoError {
  const megabytes = (count: number) => (count / 1e6).toFixed(count < 1e7 ? 1 : 0);
  return new SkevoError(
    `${name} answers with ${megabytes(bytes)} MB or more, and at most ${megabytes(limits.bytes)} MB are read`,
    'Ask for less, or give a larger --limit.',
  );
}

/** Seconds, from a number of them or from a date. */
function retryAfter(header: string | null): number | undefined {
  if (header === null) return undefined;
  if (/^\d+$/.test(header.trim())) return Number(header);
  const until = Date.parse(header);
  return Number.isNaN(until) ? undefined : Math.max(0, (until - Date.now()) / 1000);
}

/** By the code of what went wrong: in words, what to do, and whether another try may help. */
const troubles: Readonly<Record<string, readonly [words: string, remedy: string, again: boolean]>> = {
  ECONNREFUSED: ['refuses the connection', 'Is the server running, and is the port right?', false],
  ENOTFOUND: ['has a host that is not known', 'Check the name of the host.', false],
  EAI_AGAIN: ['has a host whose name cannot be looked up now', 'Is there a network?', true],
  ECONNRESET: ['cut the connection', 'The server may be out of order; try again later.', true],
  UND_ERR_SOCKET: ['cut the connection before all had come', 'Try again later.', true],
  UND_ERR_RES_CONTENT_LENGTH_MISMATCH: [
    'sent another length than it announced',
    'The server is at fault; tell its keepers.',
    true,
  ],
  UND_ERR_CONNECT_TIMEOUT: ['does not take the connection', 'Is there a network, or a proxy?', true],
  DEPTH_ZERO_SELF_SIGNED_CERT: [
    'has a certificate that nobody vouches for',
    'Name its authority by NODE_EXTRA_CA_CERTS.',
    false,
  ],
  CERT_HAS_EXPIRED: ['has a certificate that has expired', 'Tell its keepers.', false],
};

function unreachable(error: unknown, name: string, limits: RequestLimits): Failed {
  const { name: kind, cause } = error as Error & { cause?: { code?: string; message?: string } };
  if (kind === 'TimeoutError')
    throw new SkevoError(
      `${name} gave no whole answer within ${limits.seconds} s`,
      'Give it a longer --timeout.',
    );
  const known = troubles[cause?.code ?? (error as { code?: string }).code ?? ''];
  const [words, remedy, again] = known ?? [
    `cannot be asked: ${cause?.message ?? (error as Error).message}`,
    'Check the URL and the network.',
    false,
  ];
  const failure = new SkevoError(`${name} ${words}`, remedy);
  if (!again) throw failure;
  return { again: failure.message, error: failure };
}
