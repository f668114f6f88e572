import { SkevoError } from '../core/error.js';

/**
 * The text of bytes: UTF-8, or UTF-16 with a byte order mark.
 * @throws SkevoError for other encodings, with the line
 */
export function textOf(bytes: Uint8Array, name: string): string {
  try {
    return decoderOf(bytes).decode(bytes);
  } catch {
    throw notText(bytes, name);
  }
}

/** The text of bytes as they come, chunk by chunk. @throws SkevoError as `textOf` does */
export async function* inChunks(bytes: AsyncIterable<Uint8Array>, name: string): AsyncGenerator<string> {
  let decoder: InstanceType<typeof TextDecoder> | undefined;
  let lines = 0;
  for await (const chunk of bytes) {
    decoder ??= decoderOf(chunk);
    let text: string;
    try {
      text = decoder.decode(chunk, { stream: true });
    } catch {
      const { message, remedy, place } = notText(chunk, name);
      throw new SkevoError(message, remedy, { ...place!, line: place!.line + lines });
    }
    for (let i = text.indexOf('\n'); i >= 0; i = text.indexOf('\n', i + 1)) lines++;
    yield text;
  }
}

function decoderOf(bytes: Uint8Array): InstanceType<typeof TextDecoder> {
  const isLittle = bytes[0] === 0xff && bytes[1] === 0xfe;
  const isBig = bytes[0] === 0xfe && bytes[1] === 0xff;
  return new TextDecoder(isLittle ? 'utf-16le' : isBig ? 'utf-16be' : 'utf-8', { fatal: true });
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
