import { SkevoError } from '../core/error.js';
import { parseAnswer } from './answer.js';
import { nextPage } from './pages.js';
import { followed } from './follow.js';
import { request, type RequestLimits, type RequestRules, type Wanted } from './request.js';
import { SampleFolder, stemOf, type Kept } from './samples.js';
import { withoutSecrets } from './secrets.js';

export interface CaptureOptions extends RequestRules {
  readonly limits: RequestLimits;
  /** Pages to follow at most, the first included. */
  readonly pages: number;
  /** JSON Pointer to the URL of the next page; without it, `Link: rel=next` is followed. */
  readonly next?: string | undefined;
  /** Told of each response that was kept. */
  readonly kept?: (name: string, kept: Kept, bytes: number) => void;
  /** Told of each wait for a busy server. */
  readonly waiting?: (seconds: number, why: string) => void;
}

/**
 * Asks for a URL and the pages after it, and keeps each response in a folder of samples. What was kept before a
 * page fails stays.
 * @returns whether there are more pages than were asked for
 * @throws SkevoError when a response cannot be had, or is of no format that payloads come in
 */
export async function capture(wanted: Wanted, folder: string, options: CaptureOptions): Promise<boolean> {
  const { secrets, hidden, hosts, next, kept = () => {} } = options;
  const seen = new Set<string>();
  const samples = new SampleFolder(folder);
  let asked: Wanted | undefined = wanted;
  // A server may say that a page comes after itself.
  while (asked !== undefined && !seen.has(asked.url)) {
    if (seen.size === options.pages) return true;
    seen.add(asked.url);
    const answer = await request(asked, options.limits, options, options.waiting);
    const name = withoutSecrets(asked.url, secrets, hidden);
    const { format, root } = await parseAnswer(name, answer.type, answer.bytes);
    const secret = hidden.foundIn(root);
    if (secret !== undefined)
      throw new SkevoError(
        `${name} answers with the value of ${secret} in it, which must not be written down`,
        'Ask for something that does not repeat it.',
      );
    const sample = await samples.keep(stemOf(wanted.url), format, answer.bytes, {
      url: withoutSecrets(answer.url, secrets, hidden),
      method: asked.method,
      status: answer.status,
      time: new Date().toISOString(),
      type: hidden.masked(answer.type),
    });
    kept(name, sample, answer.bytes.length);
    const link = nextPage(answer, root, next, name);
    asked = link === undefined ? undefined : after(wanted, await followed(link, answer.url, hosts, name));
  }
  return false;
}

/** The request for a page: what is sent is for the origin that it was given for. */
function after(wanted: Wanted, page: URL): Wanted {
  const isSame = page.origin === new URL(wanted.url).origin;
  return isSame ? { ...wanted, url: page.href } : { url: page.href, method: 'GET', headers: {} };
}
