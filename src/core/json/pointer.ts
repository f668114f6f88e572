import { membersByKey, type JsonValue } from './value.js';

/** A JSON Pointer (RFC 6901) from its reference tokens. The whole document is the empty text. */
export function formatPointer(tokens: readonly (string | number)[]): string {
  return tokens.map((token) => `/${escapeToken(String(token))}`).join('');
}

/**
 * The reference tokens of a JSON Pointer, or undefined when the text is not one: it is neither empty nor
 * begins with `/`, or holds a `~` that is not `~0` or `~1`.
 */
export function parsePointer(text: string): string[] | undefined {
  if (text === '') return [];
  if (!text.startsWith('/') || /~(?![01])/.test(text)) return undefined;
  return text.slice(1).split('/').map(unescapeToken);
}

/** The value that reference tokens lead to, or undefined. */
export function resolvePointer(root: JsonValue, tokens: readonly string[]): JsonValue | undefined {
  let value: JsonValue | undefined = root;
  for (const token of tokens) {
    if (value?.kind === 'object') value = membersByKey(value).get(token)?.value;
    else if (value?.kind === 'list' && /^(0|[1-9]\d*)$/.test(token)) value = value.items[Number(token)];
    else return undefined;
  }
  return value;
}

/** One step of a place: a key, or every element or key. */
export type PlaceStep = { readonly key: string } | 'every';

/** Where payloads sit in a document: a place in which a step may stand for any number of steps. */
export type Selector = readonly (PlaceStep | 'any depth')[];

/**
 * A place is a JSON Pointer in which `*` stands for every element or key. The one key that is itself `*` is
 * written `~2`, an escape that RFC 6901 leaves unused.
 */
export function formatPlace(steps: Selector): string {
  return steps
    .map((step) =>
      step === 'any depth'
        ? '/**'
        : step === 'every'
          ? '/*'
          : step.key === '*'
            ? '/~2'
            : `/${escapeToken(step.key)}`,
    )
    .join('');
}

/** The steps of a place, or undefined when the text is not one. */
export function parsePlace(text: string): PlaceStep[] | undefined {
  if (text === '') return [];
  if (!text.startsWith('/') || /~(?![012])/.test(text)) return undefined;
  return text
    .slice(1)
    .split('/')
    .map((token) => (token === '*' ? 'every' : { key: unescapeToken(token) }));
}

/** The steps of a selector, in which `**` stands for any number of them; undefined when the text is none. */
export function parseSelector(text: string): Selector | undefined {
  return parsePlace(text)?.map((step) => (step !== 'every' && step.key === '**' ? 'any depth' : step));
}

function escapeToken(token: string): string {
  return token.replace(/~/g, '~0').replace(/\//g, '~1');
}

function unescapeToken(token: string): string {
  return token.replace(/~2/g, '*').replace(/~1/g, '/').replace(/~0/g, '~');
}
