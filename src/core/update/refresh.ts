import { compareSchemas } from '../contract/compare.js';
import { inferSchema, type Inferred, type InferOptions } from '../infer/infer.js';
import type { Source } from '../json/source.js';
import { writeJson } from '../json/write.js';
import type { Mark } from '../observe/mark.js';
import type { Observation } from '../observe/observation.js';
import type { Payload } from '../roundtrip/payload.js';
import type { PatternEngine } from '../schema/pattern.js';
import { readSchema } from '../schema/read.js';
import { schemaToJson, type Schema } from '../schema/schema.js';
import { carryOver } from './carry-over.js';
import { Learner } from './learn.js';
import { updateSchema, type SchemaChange } from './update.js';

export interface Refreshed extends Inferred {
  /** As it is to be written. */
  readonly text: string;
  /** What it says otherwise than the one before, in the order of the new one. */
  readonly changes: readonly SchemaChange[];
}

/**
 * A schema decided anew from payloads, with the names, titles, descriptions and bounds of the one before.
 * @param payloads the same once more, as the schema reads them: where people's bounds are not met, they give way as in an update
 */
export async function refreshSchema(
  observation: Observation,
  old: { readonly schema: Schema; readonly source: Source },
  options: Omit<InferOptions, 'name'>,
  payloads: (schema: Schema) => AsyncIterable<Payload>,
  patterns: PatternEngine,
): Promise<Refreshed> {
  const name = old.schema.title ?? 'Payload';
  const inferred = inferSchema(observation, { ...options, name, nameIsGiven: true });
  const { schema: carried, hasBounds } = carryOver(inferred.schema, old.schema);
  let schema = carried;
  if (hasBounds) {
    const source = sourceOf(carried);
    const learner = new Learner(readSchema(source), source, patterns);
    for await (const payload of payloads(carried)) learner.learn(payload);
    ({ schema } = updateSchema(learner, options.choices ?? 'auto', options.decisions ?? []));
  }
  const source = sourceOf(schema);
  const now = readSchema(source);
  const marks = new Map<string, Mark>();
  for (const { place, first } of inferred.decisions)
    if (first !== undefined && !marks.has(place)) marks.set(place, first);
  const top = observation.root;
  const anywhere = top.firstObject ??
    top.firstList ??
    top.firstString ??
    top.firstInteger ?? { file: '', line: 1, column: 1 };
  const changes = compareSchemas(old, { schema: now, source }).map(({ kind, place, was, now: is }) => ({
    place,
    was,
    now: is,
    because: kind,
    first: marks.get(place) ?? anywhere,
  }));
  return { ...inferred, schema: now, text: `${new TextDecoder().decode(source.bytes)}\n`, changes };
}

function sourceOf(schema: Schema): Source {
  return {
    name: 'the new schema',
    bytes: new TextEncoder().encode(writeJson(schemaToJson(schema), 2)),
    firstLine: 1,
  };
}
