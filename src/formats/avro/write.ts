import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import avro from 'avsc';
import type { JsonValue } from '../../core/json/value.js';
import { buildModel } from '../../core/model/build.js';
import type { Schema } from '../../core/schema/schema.js';
import { Layout } from './layout.js';
import { longs } from './long.js';
import { keysOfJson } from './plan.js';

/**
 * Payloads as an Avro object container file, under the Avro schema that says what a schema says. The same payloads give the
 * same bytes.
 * @throws SkevoError with the place of the first part that Avro cannot hold
 */
export async function* writeAvro(
  values: Iterable<JsonValue> | AsyncIterable<JsonValue>,
  schema: Schema,
): AsyncGenerator<Uint8Array> {
  const layout = new Layout(buildModel(schema));
  const type = avro.Type.forSchema(layout.schema as avro.Schema, {
    registry: { long: longs },
    wrapUnions: true,
  });
  const syncMarker = createHash('md5').update(JSON.stringify(layout.schema)).digest();
  const hasKeys = Object.keys(layout.keys).length > 0;
  const metadata = hasKeys ? { [keysOfJson]: Buffer.from(JSON.stringify(layout.keys)) } : {};
  const encoder = new avro.streams.BlockEncoder(type, { codec: 'deflate', syncMarker, metadata } as never);
  async function* held() {
    for await (const value of values) yield layout.value(value);
  }
  const source = Readable.from(held());
  source.on('error', (error) => encoder.destroy(error));
  source.pipe(encoder);
  for await (const chunk of encoder) yield chunk as Uint8Array;
}
