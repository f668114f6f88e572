import { SkevoError } from '../core/error.js';
import { parseAnswer } from './not-json.js';
import { nextPage } from './pages.js';
import { request, type RequestLimits, type Wanted } from './request.js';
import { keepSample, stemOf, type Kept } from './samples.js';
import { withoutSecrets } from './secrets.js';

export interface CaptureOptions {
  readonly limits: RequestLimits;
  /** Pages to follow at most, the first included. */
  readonly pages: number;
  /** JSON Pointer to the URL of the next page; without it, `Link: rel=next` is followed. */
  readonly next?: string | undefined;
  /** Names of query values that are secret beside the usual ones. */
  readonly secrets: readonly string[];
  /** Values that must not be written down, by what they are called. */
  readonly hidden: ReadonlyMap<string, string>;
  /** Told of each response that was kept. */
  readonly kept?: (name: string, kept: Kept, bytes: number) => void;
  /** Told of each wait for a busy server. */
  readonly waiting?: (seconds: number, why: string) => void;
}

/**
 * Asks for a URL and the pages after it, and keeps each response in a folder of samples. What was kept before a
 * page fails stays.
 * @returns whether there are more pages than were asked for
 * @throws SkevoError when a response cannot be had, or is no JSON
 */
export async function capture(wanted: Wanted, folder: string, options: CaptureOptions): Promise<boolean> {
  const { secrets, next, kept = () => {} } = options;
  const seen = new Set<string>();
  let url: string | undefined = wanted.url;
  // A server may say that a page comes after itself.
  while (url !== undefined && !seen.has(url)) {
    if (seen.size === options.pages) return true;
    seen.add(url);
    // Headers may hold secrets, which are for the host that they were given for.
    const headers = new URL(url).origin === new URL(wanted.url).origin ? wanted.headers : {};
    const answer = await request({ ...wanted, url, headers }, options.limits, secrets, options.waiting);
    const name = withoutSecrets(url, secrets);
    const root = parseAnswer(name, answer.type, answer.bytes);
    for (const [secret, value] of options.hidden)
      if (value.length > 3 && Buffer.from(answer.bytes).includes(value))
        throw new SkevoError(
          `${name} answers with the value of ${secret} in it, which must not be written down`,
          'Ask for something that does not repeat it.',
        );
    const sample = await keepSample(folder, stemOf(wanted.url), answer.bytes, {
      url: withoutSecrets(answer.url, secrets),
      method: wanted.method,
      status: answer.status,
      time: new Date().toISOString(),
      type: answer.type,
    });
    kept(name, sample, answer.bytes.length);
    url = nextPage(answer, root, next);
  }
  return false;
}
