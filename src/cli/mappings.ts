import { dirname, isAbsolute, join } from 'node:path';
import { mapped, readMapping, uncarried, type Mapping } from '../core/convert/mapping.js';
import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { placeOf, type Source } from '../core/json/source.js';
import { membersByKey, type JsonValue } from '../core/json/value.js';
import { SchemaValidator } from '../core/schema/apply.js';
import { documentsAt } from '../formats/format.js';
import type { Loaded } from '../schemas/load.js';
import { boundedPatterns } from '../workbench/pattern.js';
import { readSource } from '../formats/source.js';
import { readAnySchema } from './schemas.js';

/** A mapping with the schemas that it is between, ready to be followed. */
export interface ReadMapping {
  readonly from: Loaded;
  readonly to: Loaded;
  /** What it makes of a payload, or the reasons why it makes nothing that meets the target. */
  readonly follow: (payload: JsonValue) => Followed;
  /** Places of the source that nothing carries. */
  readonly uncarried: readonly string[];
}

export type Followed =
  | { readonly value: JsonValue }
  | { readonly reasons: readonly { pointer: string; message: string; offset: number }[] };

/**
 * The mapping of a file. The schemas that it names are beside it.
 * @throws SkevoError with the place in the file of what cannot be followed
 */
export async function mappingAt(path: string): Promise<ReadMapping> {
  const source = await documentAt(path);
  const { root } = parseJson(source);
  const said = (key: 'from' | 'to'): string => {
    const value = root.kind === 'object' ? membersByKey(root).get(key)?.value : undefined;
    if (value?.kind === 'string')
      return isAbsolute(value.value) ? value.value : join(dirname(path), value.value);
    throw new SkevoError(
      `a mapping says which schema it is ${key}`,
      `Begin it with ${key}: and the path of a schema; skevo mapping FROM TO writes one.`,
      placeOf(source, root.start),
    );
  };
  const [from, to] = [await readAnySchema(said('from'), true), await readAnySchema(said('to'), true)];
  const mapping = readMapping(root, source, from.schema, to.schema);
  const target = new SchemaValidator(to.validation, boundedPatterns);
  return {
    from,
    to,
    follow: (payload) => followed(mapping, target, payload),
    uncarried: uncarried(mapping),
  };
}

async function documentAt(path: string): Promise<Source> {
  const source = readSource(path);
  const [document] = await documentsAt('yaml', source.name, source.bytes);
  if (document !== undefined) return document;
  throw new SkevoError(`${source.name} is empty`, 'skevo mapping FROM TO writes a first mapping.');
}

function followed(mapping: Mapping, target: SchemaValidator, payload: JsonValue): Followed {
  const made = mapped(mapping, payload);
  if (!('kind' in made))
    return { reasons: [{ pointer: '', message: made.message, offset: made.value.start }] };
  const failures = target.failures(made);
  return failures.length === 0
    ? { value: made }
    : {
        reasons: failures.map(({ pointer, expected, found }) => ({
          pointer,
          message: `the target expects ${expected}, found ${found}`,
          offset: payload.start,
        })),
      };
}
