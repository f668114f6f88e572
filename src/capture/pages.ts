import LinkHeader from 'http-link-header';
import { parsePointer, resolvePointer } from '../core/json/pointer.js';
import type { JsonValue } from '../core/json/value.js';
import type { Answered } from './request.js';

/**
 * The URL of the next page: what `Link: rel=next` says (RFC 8288), or what stands at a pointer in the body.
 * @param pointer JSON Pointer to the URL in the body; without it, the header is asked
 */
export function nextPage(answer: Answered, root: JsonValue, pointer: string | undefined): string | undefined {
  if (pointer !== undefined) {
    const found = resolvePointer(root, parsePointer(pointer) ?? []);
    return found?.kind === 'string' && found.value !== '' ? new URL(found.value, answer.url).href : undefined;
  }
  if (answer.link === undefined) return undefined;
  const [next] = LinkHeader.parse(answer.link).rel('next');
  return next === undefined ? undefined : new URL(next.uri, answer.url).href;
}
