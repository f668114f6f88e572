import { Readable } from 'node:stream';
import { inflateRaw } from 'node:zlib';
import avro from 'avsc';
import { decompress } from 'fzstd';
import snappy from 'snappyjs';
import { SkevoError } from '../../core/error.js';
import { batchSize, placeIn, piecesOf, unread } from '../binary.js';
import type { Format } from '../format.js';
import { longs } from './long.js';
import { keysOfJson, Plan } from './plan.js';

/** Bytes with which a file, and each of its blocks, ends. */
const markLength = 16;

/** What a file begins with. */
interface Header {
  readonly sync: Buffer;
  readonly meta: Readonly<Record<string, Buffer | undefined>>;
}

type Decompress = (bytes: Buffer, done: (error: Error | null, bytes?: Buffer) => void) => void;

/** The codecs of the Avro specification that files have. @param limit bytes that a block may have */
const codecsUpTo = (limit: number): Readonly<Record<string, Decompress>> => ({
  null: (bytes, done) => done(null, bytes),
  deflate: (bytes, done) => inflateRaw(bytes, { maxOutputLength: limit }, done),
  zstandard: atOnce(decompress),
  // What follows is a checksum.
  snappy: atOnce((bytes) => snappy.uncompress(bytes.subarray(0, -4))),
});

function atOnce(decompressed: (bytes: Buffer) => Uint8Array): Decompress {
  return (bytes, done) => {
    let whole: Buffer;
    try {
      whole = Buffer.from(decompressed(bytes));
    } catch (error) {
      done(error as Error);
      return;
    }
    done(null, whole);
  };
}

/**
 * Avro object container files (1.11): each object is a payload. Numbers are as wide as the schema of the file says, logical
 * types are dates, times and decimal numbers as JSON writes them, bytes are text in base64.
 */
export const avroFiles: Format = {
  async *read(input, bytes) {
    const out = piecesOf(input.name, true);
    let plan: Plan | undefined;
    let mark: Buffer | undefined;
    let end: Buffer = Buffer.alloc(0);
    let payload = 0;
    const decoder = new avro.streams.BlockDecoder({
      codecs: codecsUpTo(input.limit) as never,
      parseHook: (schema) => {
        plan = new Plan(schema);
        return avro.Type.forSchema(plan.layout as avro.Schema, {
          registry: { long: longs },
          wrapUnions: true,
        });
      },
    });
    decoder.on('metadata', (_type: unknown, _codec: unknown, header: Header) => {
      mark = header.sync;
      plan!.rename(header.meta[keysOfJson]);
    });
    async function* watched() {
      for await (const chunk of bytes()) {
        end = Buffer.concat([end, chunk.subarray(-markLength)]).subarray(-markLength);
        yield chunk;
      }
    }
    const source = Readable.from(watched());
    source.on('error', (error) => decoder.destroy(error));
    source.pipe(decoder);
    const cut = () =>
      unread(input.name, payload + 1, 0, 'the file is cut off', 'Check that the download is complete.');
    try {
      for await (const value of decoder) {
        payload++;
        plan!.put(value, out, placeIn(payload), (message, remedy) => {
          throw unread(input.name, payload, 0, message, remedy);
        });
        out.end();
        if (out.characters > batchSize) yield out.take();
      }
    } catch (error) {
      if (error instanceof SkevoError) throw error;
      const { message } = error as Error;
      if (message === 'truncated block') throw cut();
      const [what, remedy] = /^unknown codec/.test(message)
        ? [
            `its ${message.replace('unknown ', '')} is not known`,
            'Write it with the codec deflate, snappy or none.',
          ]
        : [`this is not an Avro file: ${message}`, 'Check that the download is complete.'];
      throw unread(input.name, payload + 1, 0, what, remedy);
    }
    if (mark === undefined || !end.equals(mark)) throw cut();
    if (out.isDue) yield out.take();
  },
};
