import LinkHeader from 'http-link-header';
import { SkevoError } from '../core/error.js';
import { parsePointer, resolvePointer } from '../core/json/pointer.js';
import type { JsonValue } from '../core/json/value.js';
import type { Answered } from './request.js';

/**
 * The link to the next page: what `Link: rel=next` says (RFC 8288), or what stands at a pointer in the body.
 * @param pointer JSON Pointer to the link in the body; without it, the header is asked
 * @throws SkevoError for a header that is none
 */
export function nextPage(
  answer: Answered,
  root: JsonValue,
  pointer: string | undefined,
  name: string,
): string | undefined {
  if (pointer !== undefined) {
    const found = resolvePointer(root, parsePointer(pointer) ?? []);
    return found?.kind === 'string' && found.value !== '' ? found.value : undefined;
  }
  if (answer.link === undefined) return undefined;
  try {
    return LinkHeader.parse(answer.link).rel('next')[0]?.uri;
  } catch {
    throw new SkevoError(
      `${name} answers with a Link header that is none`,
      'Name where the next page is in the body with --next, or tell the keepers of the server.',
    );
  }
}
