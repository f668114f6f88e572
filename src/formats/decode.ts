import { isAscii, isUtf8 } from 'node:buffer';
import { SkevoError } from '../core/error.js';

/**
 * The text of bytes: UTF-8, or UTF-16 with a byte order mark.
 * @throws SkevoError for other encodings, with the line
 */
export function textOf(bytes: Uint8Array, name: string): string {
  const decoder = new Decoder(bytes, name);
  return decoder.push(bytes) + decoder.end();
}

/** The text of bytes as they come, chunk by chunk. @throws SkevoError as `textOf` does */
export async function* inChunks(bytes: AsyncIterable<Uint8Array>, name: string): AsyncGenerator<string> {
  let decoder: Decoder | undefined;
  for await (const chunk of bytes) {
    decoder ??= new Decoder(chunk, name);
    yield decoder.push(chunk);
  }
  if (decoder !== undefined) yield decoder.end();
}

/** Text of one byte a character where that suffices, which is half as large and read faster than what `TextDecoder` makes. */
class Decoder {
  private readonly utf16: InstanceType<typeof TextDecoder> | undefined;
  private rest: Buffer = Buffer.alloc(0);
  private isFirst = true;
  private lines = 0;

  constructor(
    first: Uint8Array,
    private readonly name: string,
  ) {
    const isLittle = first[0] === 0xff && first[1] === 0xfe;
    const isBig = first[0] === 0xfe && first[1] === 0xff;
    if (isLittle || isBig) this.utf16 = new TextDecoder(isLittle ? 'utf-16le' : 'utf-16be', { fatal: true });
  }

  push(chunk: Uint8Array): string {
    let text: string;
    if (this.utf16 === undefined) {
      const all =
        this.rest.length === 0
          ? Buffer.from(chunk.buffer, chunk.byteOffset, chunk.length)
          : Buffer.concat([this.rest, chunk]);
      const end = endOfCharacters(all);
      this.rest = all.subarray(end);
      const whole = all.subarray(0, end);
      if (!isUtf8(whole)) throw this.refusal(whole);
      text = isAscii(whole) ? whole.toString('latin1') : whole.toString('utf8');
      if (this.isFirst && text.startsWith('\ufeff')) text = text.slice(1);
    } else {
      try {
        text = this.utf16.decode(chunk, { stream: true });
      } catch {
        throw this.refusal(chunk);
      }
    }
    this.isFirst = false;
    for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) this.lines++;
    return text;
  }

  /** The end: a character that is cut off is none. */
  end(): string {
    if (this.rest.length > 0) throw this.refusal(this.rest);
    try {
      return this.utf16?.decode() ?? '';
    } catch {
      throw this.refusal(this.rest);
    }
  }

  private refusal(bytes: Uint8Array): SkevoError {
    const { message, remedy, place } = notText(bytes, this.name);
    return new SkevoError(message, remedy, { ...place!, line: place!.line + this.lines });
  }
}

/** The length of bytes without the first ones of a character of which more must follow. */
function endOfCharacters(bytes: Buffer): number {
  for (let i = bytes.length - 1; i >= Math.max(0, bytes.length - 3); i--) {
    const byte = bytes[i]!;
    if (byte < 0x80) break;
    if (byte >= 0xc0) {
      const length = byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2;
      return i + length > bytes.length ? i : bytes.length;
    }
  }
  return bytes.length;
}

function notText(bytes: Uint8Array, name: string): SkevoError {
  const lenient = new TextDecoder('utf-8').decode(bytes);
  const before = lenient.slice(0, lenient.indexOf('\ufffd'));
  const line = before.split('\n').length;
  const column = [...before.slice(before.lastIndexOf('\n') + 1)].length + 1;
  return new SkevoError(
    `${name} is neither UTF-8 nor UTF-16`,
    'Convert it to UTF-8, for instance by iconv.',
    {
      file: name,
      line,
      column,
    },
  );
}

/** All bytes of a stream, as far as they may be held. @throws SkevoError when there are more */
export async function wholeOf(
  bytes: AsyncIterable<Uint8Array>,
  limit: number,
  tooLarge: () => SkevoError,
): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of bytes) {
    size += chunk.length;
    if (size > limit) throw tooLarge();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}
