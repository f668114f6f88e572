import { addExtension, Unpackr } from 'msgpackr';
import { batchSize, deepest, instantText, numberText, placeIn, piecesOf, unread } from '../binary.js';
import { wholeOf } from '../decode.js';
import type { Format } from '../format.js';
import { tooLarge } from '../inputs.js';
import { quoted, type JsonPieces } from '../json-pieces.js';

/** A point in time, to the nanosecond that the library's own does not keep. */
class Instant {
  constructor(readonly text: string | undefined) {}
}

/** The type of the extension for points in time, -1, as a byte. */
const timestamp = 0xff;

addExtension({
  type: timestamp,
  unpack: (bytes) => {
    const data = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length);
    if (data.length === 4) return new Instant(instantText(BigInt(data.readUInt32BE()), 0));
    if (data.length === 12) return new Instant(instantText(data.readBigInt64BE(4), data.readUInt32BE()));
    const both = data.readBigUInt64BE();
    return new Instant(instantText(both & ((1n << 34n) - 1n), Number(both >> 34n)));
  },
});

/**
 * MessagePack: values one after another, each a payload. Bytes are text in base64, times are RFC 3339. It does not tell where
 * the parts of a payload stand.
 */
export const msgpack: Format = {
  async *read(input, bytes, notes) {
    const held = await wholeOf(bytes(), input.limit, () => tooLarge(input));
    if (held.length === 0) return;
    const out = piecesOf(input.name);
    const unpackr = new Unpackr({ mapsAsObjects: false, useRecords: false, int64AsType: 'bigint' });
    const values: unknown[] = [];
    try {
      unpackr.unpackMultiple(held, (value: unknown) => void values.push(value));
    } catch (error) {
      const why = (error as Error).message;
      throw unread(
        input.name,
        values.length + 1,
        0,
        why.startsWith('Unexpected end') ? 'the payload is cut off' : `this is not MessagePack: ${why}`,
        'Check that the download is complete.',
      );
    }
    for (const [i, value] of values.entries()) {
      const place = placeIn(i + 1);
      const told = (message: string) =>
        notes({ message, place: { file: input.name, line: i + 1, column: 1 } });
      const refuse = (message: string, remedy: string): never => {
        throw unread(input.name, i + 1, 0, message, remedy);
      };
      put(out, value, place, told, refuse, 1);
      out.end();
      if (out.characters > batchSize) yield out.take();
    }
    if (out.isDue) yield out.take();
  },
};

function put(
  out: JsonPieces,
  value: unknown,
  place: number,
  note: (message: string) => void,
  refuse: (message: string, remedy: string) => never,
  depth: number,
): void {
  if (depth > deepest) refuse(`values are nested more than ${deepest} deep`, 'Send a part of the document.');
  const each = (inner: unknown) => put(out, inner, place, note, refuse, depth + 1);
  if (value === null || typeof value === 'boolean' || typeof value === 'bigint')
    out.put(String(value), place);
  // Whole numbers and floats without a fraction are the same to the library, as to most who send them.
  else if (typeof value === 'number')
    out.put(
      Number.isInteger(value) && !Object.is(value, -0) ? String(value) : numberText(value, refuse),
      place,
    );
  else if (typeof value === 'string') out.put(quoted(value), place);
  else if (value instanceof Uint8Array) out.put(quoted(Buffer.from(value).toString('base64')), place);
  else if (value instanceof Instant && value.text !== undefined) out.put(quoted(value.text), place);
  else if (Array.isArray(value)) {
    out.put('[', place);
    value.forEach((item, i) => {
      if (i > 0) out.put(',');
      each(item);
    });
    out.put(']');
  } else if (value instanceof Map) {
    out.put('{', place);
    let isFirst = true;
    for (const [key, inner] of value as Map<unknown, unknown>) {
      if (typeof key === 'number' || typeof key === 'bigint')
        note('keys that are whole numbers are read as text');
      else if (typeof key !== 'string')
        refuse('a key here is no text', 'Send text as keys: JSON has no others.');
      out.put(`${isFirst ? '' : ','}${quoted(String(key))}:`, place);
      isFirst = false;
      each(inner);
    }
    out.put('}');
  } else refuse('an extension here stands for what JSON has not', 'Send it as text or numbers.');
}
