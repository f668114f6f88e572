import type { SkevoError } from '../core/error.js';
import type { Selector } from '../core/json/pointer.js';
import type { Notes } from '../core/note.js';
import { documentsIn, type Batch } from '../core/json/batch.js';
import type { Source } from '../core/json/source.js';
import type { Input } from './inputs.js';

/** The formats in which payloads come. */
export const formatNames = [
  'json',
  'yaml',
  'csv',
  'nested-csv',
  'tsv',
  'xml',
  'avro',
  'cbor',
  'msgpack',
] as const;
export type FormatName = (typeof formatNames)[number];

/** The ending of files of a format. */
export function endingOf(format: FormatName): string {
  return format === 'nested-csv' ? 'csv' : format;
}

/** How files of a format become JSON texts that know where their parts stand in the file. */
export interface Format {
  /**
   * The documents of an input: each a payload, or what payloads are in.
   * @throws SkevoError with the place for what is not of the format
   */
  read(
    input: Input,
    bytes: () => AsyncIterable<Uint8Array>,
    notes: Notes,
    selection?: Selection,
  ): AsyncIterable<Batch>;
}

/** Where the payloads sit in each document: a format that finds them while it reads gives them alone, with their tokens. */
export interface Selection {
  readonly at: Selector;
  /** Told of what lacks the place. */
  readonly missed: (error: () => SkevoError) => void;
}

/** The documents of bytes that are at hand. @throws SkevoError with the place for what is not of the format */
export async function documentsAt(
  format: Exclude<FormatName, 'json'>,
  name: string,
  bytes: Uint8Array,
  notes: Notes = () => {},
): Promise<Source[]> {
  const reader = await formatOf(format);
  const input = { name, layout: 'document' as const, format, limit: bytes.length };
  async function* whole() {
    yield bytes;
  }
  const found: Source[] = [];
  for await (const batch of reader.read(input, whole, notes)) found.push(...documentsIn(batch));
  return found;
}

/** The format of a name; each is loaded when it is met. */
export async function formatOf(name: Exclude<FormatName, 'json'>): Promise<Format> {
  switch (name) {
    case 'yaml':
      return (await import('./yaml/read.js')).yaml;
    case 'csv':
      return (await import('./csv/read.js')).csv(undefined);
    case 'nested-csv':
      return (await import('./csv/read.js')).csv(undefined, true);
    case 'tsv':
      return (await import('./csv/read.js')).csv('\t');
    case 'xml':
      return (await import('./xml/read.js')).xml;
    case 'avro':
      return (await import('./avro/read.js')).avroFiles;
    case 'cbor':
      return (await import('./cbor/read.js')).cbor;
    case 'msgpack':
      return (await import('./msgpack/read.js')).msgpack;
  }
}
