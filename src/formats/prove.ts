import { SkevoError } from '../core/error.js';
import { parseJson } from '../core/json/parse.js';
import { placeOf, type Source } from '../core/json/source.js';
import type { JsonValue } from '../core/json/value.js';
import type { DocumentLoss, ProvenDocuments } from '../core/roundtrip/document.js';
import { readUnder } from '../core/schema/conform.js';
import type { Schema } from '../core/schema/schema.js';
import { textOf } from './decode.js';
import { sameValue } from '../core/json/same.js';
import { documentsIn } from '../core/json/batch.js';
import { formatOf, type FormatName } from './format.js';
import type { Input } from './inputs.js';
import { readDocument } from './read.js';
import { isText, writeAs } from './write-as.js';

/** Rows that are written and read again at a time. */
const batch = 1_000;

/**
 * Writes every document that is not JSON from what was read of it, and compares it with what it was: XML as canonical XML, CSV
 * cell by cell, the others value by value. JSON is compared value by value as it is.
 * @param schema as which the texts of a document are read; missing where the payloads are inside documents
 */
export async function proveDocuments(
  inputs: readonly Input[],
  schema: Schema | undefined,
): Promise<ProvenDocuments> {
  let documents = 0;
  const losses: DocumentLoss[] = [];
  for (const input of inputs) {
    const { format } = input;
    // It is written under a schema, and that of payloads inside is none of the document.
    if (format === 'avro' && schema === undefined) continue;
    // The standard input is gone.
    if (format === 'json' || input.path === undefined) continue;
    const reader = await formatOf(format);
    let held: { source: Source; value: JsonValue }[] = [];
    const prove = async (): Promise<void> => {
      const loss = await lossOf(format, input, held, schema);
      if (loss !== undefined) losses.push(loss);
      held = [];
    };
    async function* bytes() {
      yield (await readDocument(input)).bytes;
    }
    for await (const each of reader.read(input, bytes, () => {})) {
      for (const source of documentsIn(each)) {
        const { root } = parseJson(source);
        held.push({
          source,
          value: schema === undefined ? root : readUnder(root, schema, source.origin!),
        });
        if (format !== 'yaml' && held.length === batch) await prove();
      }
    }
    if (held.length > 0) await prove();
    documents++;
  }
  return { documents, losses };
}

async function lossOf(
  format: Exclude<FormatName, 'json'>,
  input: Input,
  held: readonly { readonly source: Source; readonly value: JsonValue }[],
  schema: Schema | undefined,
): Promise<DocumentLoss | undefined> {
  let written: string | Uint8Array;
  try {
    written = await writeAs(
      format,
      held.map(({ value }) => value),
      { schema },
    );
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    return { place: placeOf(held[0]!.source, 0), message: `it cannot be written again: ${error.message}` };
  }
  if (format === 'xml') {
    const { partsOf } = await import('./xml/canonical.js');
    const original = partsOf(textOf((await readDocument(input)).bytes, input.name));
    const again = partsOf(written as string);
    const at = original.findIndex(({ text }, i) => text !== again[i]?.text);
    if (at < 0 && again.length === original.length) return undefined;
    const { line, column, text } = original[Math.max(0, at)]!;
    return {
      place: { file: input.name, line, column },
      message: `${text} comes back as ${again[at]?.text ?? 'nothing'}`,
    };
  }
  const reader = await formatOf(format);
  async function* bytes() {
    yield typeof written === 'string' ? new TextEncoder().encode(written) : written;
  }
  // Null that stands for what is absent comes back as such.
  const rootOf = (each: Source): JsonValue => {
    const { root } = parseJson(each);
    return schema === undefined ? root : readUnder(root, schema, each.origin!);
  };
  let i = 0;
  const again: Source[] = [];
  for await (const each of reader.read(input, bytes, () => {})) again.push(...documentsIn(each));
  for (const source of again) {
    const was = held[i++]?.source;
    const [before, after] = [was, source].map((each) => each && new TextDecoder().decode(each.bytes));
    const isSame =
      before === after || (!isText(format) && was !== undefined && sameValue(rootOf(was), rootOf(source)));
    if (!isSame)
      return {
        place: placeOf(was ?? held[0]!.source, 0),
        message: `${before ?? 'nothing'} comes back as ${after}`,
      };
  }
  return i === held.length
    ? undefined
    : { place: placeOf(held[i]!.source, 0), message: 'it does not come back' };
}
