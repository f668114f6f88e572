import type { Source } from './source.js';

/** Documents that were read at once: one after another in one JSON text. */
export interface Batch {
  readonly source: Source;
  /** Where each ends in the text; it begins where the one before it ended, or after a line feed that follows. */
  readonly ends: readonly number[];
  /** For payloads that were selected while their document was read: what leads to each. */
  readonly tokens?: readonly (readonly string[])[];
}

/** A batch of one document. */
export function batchOf(source: Source): Batch {
  return { source, ends: [source.bytes.length] };
}

/** The documents of a batch, each as a source of its own. */
export function* documentsIn({ source, ends, tokens }: Batch): Generator<Source> {
  if (ends.length === 1) {
    yield tokens === undefined ? source : { ...source, tokens: tokens[0]! };
    return;
  }
  const { bytes, origin } = source;
  let from = 0;
  for (const [i, end] of ends.entries()) {
    const start = from;
    const shifted = origin && { ...origin, at: (offset: number) => origin.at(start + offset) };
    yield {
      ...source,
      bytes: bytes.subarray(start, end),
      ...(shifted && { origin: shifted }),
      ...(tokens && { tokens: tokens[i]! }),
    };
    from = end + 1;
  }
}
