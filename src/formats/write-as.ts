import { SkevoError } from '../core/error.js';
import { membersByKey, type JsonValue } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import type { Schema } from '../core/schema/schema.js';
import { plural, wordsOf } from '../core/words.js';
import type { FormatName } from './format.js';

/** What is known of payloads before they are written. */
export interface Known {
  /** What they meet: Avro is written under it. */
  readonly schema?: Schema | undefined;
  /** The columns of CSV. When they are left out, they are the keys of all payloads, which are held for it. */
  readonly columns?: readonly string[] | undefined;
  /** What one is called: the name of its element in XML. */
  readonly name?: string | undefined;
  /** Whether what reads the same as something else is refused: null and an empty text in one column. */
  readonly isExact?: boolean | undefined;
}

type Values = Iterable<JsonValue> | AsyncIterable<JsonValue>;

/**
 * Payloads in a format, one after another, as they come.
 * @throws SkevoError with the place in the payload of the first part that the format cannot hold
 */
export async function* writing(
  format: FormatName,
  values: Values,
  known: Known = {},
): AsyncGenerator<string | Uint8Array> {
  switch (format) {
    case 'json':
      for await (const value of values) yield `${writeJson(value)}\n`;
      return;
    case 'yaml': {
      const { writeYaml } = await import('./yaml/write.js');
      let isFirst = true;
      for await (const value of values) {
        yield `${isFirst ? '' : '---\n'}${writeYaml([value])}`;
        isFirst = false;
      }
      return;
    }
    case 'csv':
    case 'nested-csv':
    case 'tsv': {
      const { columnsOf, writeCsv } = await import('./csv/write.js');
      const delimiter = format === 'tsv' ? '\t' : ',';
      let { columns } = known;
      let all: Values = format === 'nested-csv' ? flattened(values) : values;
      if (columns === undefined) {
        const held = await heldOf(all);
        columns = columnsOf(held);
        all = held;
      }
      yield* writeCsv(all, columns, delimiter, known.isExact);
      return;
    }
    case 'xml':
      yield* writingXml(values, known.name ?? 'payload');
      return;
    case 'avro': {
      if (known.schema === undefined)
        throw new SkevoError('Avro is written under a schema', 'Give one by --schema.');
      yield* (await import('./avro/write.js')).writeAvro(values, known.schema);
      return;
    }
    case 'cbor': {
      const { writeCbor } = await import('./cbor/write.js');
      for await (const value of values) yield writeCbor(value);
      return;
    }
    case 'msgpack': {
      const { writeMsgpack } = await import('./msgpack/write.js');
      for await (const value of values) yield writeMsgpack(value);
    }
  }
}

/** The same at once: a text, or bytes where the format is none. */
export async function writeAs(
  format: FormatName,
  values: Values,
  known?: Known,
): Promise<string | Uint8Array> {
  const parts: (string | Uint8Array)[] = [];
  for await (const part of writing(format, values, known)) parts.push(part);
  return isText(format) ? parts.join('') : Buffer.concat(parts as Uint8Array[]);
}

export function isText(format: FormatName): boolean {
  return format !== 'avro' && format !== 'cbor' && format !== 'msgpack';
}

async function* flattened(values: Values): AsyncGenerator<JsonValue> {
  const { flat } = await import('./csv/nested.js');
  for await (const each of values) yield flat(each);
}

async function heldOf(values: Values): Promise<JsonValue[]> {
  const held: JsonValue[] = [];
  for await (const each of values) held.push(each);
  return held;
}

/** One payload that is an object with one key is a document; all others are elements of one. */
async function* writingXml(values: Values, name: string): AsyncGenerator<string> {
  const { documentOf, elementOf, endOf, headOf } = await import('./xml/write.js');
  let first: JsonValue | undefined;
  let count = 0;
  const around = plural(wordsOf(name)).join('') || 'payloads';
  for await (const value of values) {
    count++;
    if (count === 1) {
      first = value;
      continue;
    }
    if (count === 2) {
      yield headOf(around);
      yield elementOf(name, first!, [], '  ');
    }
    yield elementOf(name, value, [], '  ');
  }
  if (count > 1) yield endOf(around);
  else if (first !== undefined) {
    if (first.kind === 'object' && membersByKey(first).size === 1) yield documentOf(first);
    else {
      yield headOf(around);
      yield elementOf(name, first, [], '  ');
      yield endOf(around);
    }
  }
}
