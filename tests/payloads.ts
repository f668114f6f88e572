import { inferSchema, type Inferred } from '../src/core/infer/infer.js';
import { parseJson } from '../src/core/json/parse.js';
import type { JsonValue } from '../src/core/json/value.js';
import type { Note } from '../src/core/note.js';
import type { Observation } from '../src/core/observe/observation.js';
import { Observer } from '../src/core/observe/observe.js';
import type { Payload } from '../src/core/roundtrip/payload.js';

export const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

export function parse(text: string): JsonValue {
  return parseJson({ name: 'test.json', bytes: bytes(text), firstLine: 1 }).root;
}

export function payloadsOf(texts: readonly string[]): Payload[] {
  return texts.map((text, i) => {
    const source = { name: `${String(i + 1).padStart(4, '0')}.json`, bytes: bytes(text), firstLine: 1 };
    return { root: parseJson(source).root, source, tokens: [] };
  });
}

/** What is seen in payloads, each in a file of its own: `0001.json` and so on. */
export function observe(
  texts: readonly string[],
  notes: (note: Note) => void = () => {},
  first = 1,
): Observation {
  const observer = new Observer([], notes);
  texts.forEach((text, i) => {
    observer.document({
      name: `${String(first + i).padStart(4, '0')}.json`,
      bytes: bytes(text),
      firstLine: 1,
    });
  });
  return observer.observation;
}

export function infer(texts: readonly string[], name = 'Sailing'): Inferred {
  return inferSchema(observe(texts), { name, nameIsGiven: true });
}
