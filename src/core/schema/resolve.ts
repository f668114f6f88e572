import { SkevoError } from '../error.js';
import { excerptOf, type Source } from '../json/source.js';
import { nearest } from '../nearest.js';
import type { Schema } from './schema.js';

/** The name of a definition that a reference points to; undefined for the root, or another reference. */
export function definitionOf(reference: string): string | undefined {
  const key = /^#\/(?:\$defs|definitions)\/([^/]+)$/.exec(reference)?.[1];
  return key === undefined ? undefined : decoded(key).replace(/~1/g, '/').replace(/~0/g, '~');
}

/** A reference to a definition. @param section `$defs`, or `definitions` as older drafts have it */
export function referenceTo(name: string, section = '$defs'): string {
  return `#/${section}/${name.replace(/~/g, '~0').replace(/\//g, '~1')}`;
}

/**
 * The schema that a reference points to.
 * @param from the schema that refers, for the error's place
 * @param source where the schemas were read; missing for ones just inferred
 * @throws SkevoError for a reference that leads nowhere
 */
export function resolveReference(
  root: Schema,
  reference: string,
  from: Schema,
  source: Source | undefined,
): Schema {
  if (reference === '#') return root;
  const name = definitionOf(reference);
  const found = name === undefined ? undefined : root.$defs?.get(name);
  if (found !== undefined) return found;
  const near = nearest(name ?? reference, [...(root.$defs?.keys() ?? [])]);
  throw new SkevoError(
    `the reference ${JSON.stringify(reference)} leads nowhere in this schema`,
    near === undefined
      ? 'References must point into "$defs" of the same file.'
      : `Did you mean "#/$defs/${near}"?`,
    source === undefined || from.span === undefined ? undefined : excerptOf(source, from.span.start),
  );
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
