import { parseJson } from '../../core/json/parse.js';
import type { JsonValue } from '../../core/json/value.js';
import { buildModel } from '../../core/model/build.js';
import type { Schema } from '../../core/schema/schema.js';
import { Layout } from '../../formats/avro/layout.js';

/**
 * The Avro schema of what a schema says, and the fields that are called otherwise, since Avro has not such names.
 * @throws SkevoError for a type that Avro has not
 */
export function asAvro(schema: Schema): {
  readonly document: JsonValue;
  readonly renamed: readonly string[];
} {
  const layout = new Layout(buildModel(schema));
  const text = JSON.stringify(layout.schema);
  const { root } = parseJson({ name: 'avro', bytes: new TextEncoder().encode(text), firstLine: 1 });
  const renamed = Object.entries(layout.keys).flatMap(([record, fields]) =>
    Object.entries(fields).map(([own, key]) => `${JSON.stringify(key)} is called ${own} in ${record}`),
  );
  return { document: root, renamed };
}
