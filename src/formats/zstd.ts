import { Decompress } from 'fzstd';
import { brokenZstd } from './inputs.js';

/** The bytes that were packed. @throws Error with the code `brokenZstd` for what is not Zstandard, or cut short */
export async function* unzstd(packed: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let ready: Uint8Array[] = [];
  let isWhole = false;
  const stream = new Decompress((bytes, isLast) => {
    ready.push(bytes);
    isWhole = isLast === true;
  });
  let held: Uint8Array | undefined;
  const push = (bytes: Uint8Array, isLast: boolean): void => {
    try {
      stream.push(bytes, isLast);
    } catch (error) {
      throw broken((error as Error).message);
    }
  };
  for await (const chunk of packed) {
    if (held !== undefined) push(held, false);
    held = chunk;
    yield* ready;
    ready = [];
  }
  push(held ?? new Uint8Array(), true);
  yield* ready;
  if (!isWhole) throw broken('it ends too early');
}

function broken(message: string): Error {
  return Object.assign(new Error(message), { code: brokenZstd });
}
