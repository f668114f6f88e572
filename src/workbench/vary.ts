import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import type { JsonValue } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { SchemaValidator } from '../core/schema/apply.js';
import type { Loaded } from '../schemas/load.js';
import { vary, type Variant } from '../core/vary/vary.js';
import { boundedPatterns } from './pattern.js';

/**
 * Payloads made from a schema, those that do not meet it left out: what patterns and other intricate keywords want
 * cannot be made up.
 */
export function variantsOf(
  { schema, source, validation }: Pick<Loaded, 'schema' | 'source' | 'validation'>,
  seed: number,
  size?: number,
): { readonly variants: readonly Variant[]; readonly notes: readonly string[] } {
  let made: Variant[];
  try {
    made = vary(schema, source, seed, size);
  } catch (error) {
    if (error instanceof SkevoError) throw error;
    throw new SkevoError(
      `no payload can be made from ${source.name}: ${(error as Error).message}`,
      'Make one of the fields on the way optional or nullable.',
    );
  }
  const seen = new Set<string>();
  const variants = made.filter(({ value }) => {
    const text = writeJson(value);
    if (seen.has(text)) return false;
    seen.add(text);
    return true;
  });
  const validator = new SchemaValidator(validation, boundedPatterns);
  const fitting = variants.filter(({ value }) => validator.failures(parsed(value)).length === 0);
  const left = variants.length - fitting.length;
  return {
    variants: fitting,
    notes:
      left === 0
        ? []
        : [
            `${left === 1 ? '1 payload that was made does' : `${left} payloads that were made do`} not meet the schema and ${left === 1 ? 'is' : 'are'} left out: examples in it help where a pattern wants something special`,
          ],
  };
}

function parsed(value: JsonValue): JsonValue {
  return parseJson({ name: 'vary', bytes: new TextEncoder().encode(writeJson(value)), firstLine: 1 }).root;
}

/** The same as payloads of a check, each in a file that is not there. */
export function* payloadsFrom(variants: readonly Variant[]): Generator<Payload> {
  for (const { name, value } of variants) {
    const source = {
      name: `vary/${name}.json`,
      bytes: new TextEncoder().encode(writeJson(value, 2)),
      firstLine: 1,
    };
    yield { root: parseJson(source).root, source, tokens: [] };
  }
}
