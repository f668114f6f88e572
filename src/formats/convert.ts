import { mkdtempSync, rmSync, createReadStream } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SkevoError } from '../core/error.js';
import { parsePointer, resolvePointer } from '../core/json/pointer.js';
import { excerptOf, placeOf } from '../core/json/source.js';
import { json, type JsonValue } from '../core/json/value.js';
import { writeJson } from '../core/json/write.js';
import type { Payload } from '../core/roundtrip/payload.js';
import type { FormatName } from './format.js';
import { writing, type Known } from './write-as.js';
import { writeWhole } from './write.js';

/** What payloads are converted to: a format, or JSON texts line by line. */
export type TargetName = FormatName | 'ndjson';

/** One reason why a payload does not go on. */
export interface Reason {
  /** JSON Pointer of the value. */
  readonly pointer: string;
  readonly message: string;
  /** Byte offset of the value in the payload's source. */
  readonly offset: number;
}

/** What becomes of a payload: another, or the reasons why there is none. */
export type Changed = { readonly value: JsonValue } | { readonly reasons: readonly Reason[] };

export interface Conversion {
  readonly to: TargetName;
  readonly known: Known;
  /** What becomes of a payload before it is written. */
  readonly change: (payload: Payload) => Changed;
  /** Called when all payloads have been gone through, before what was written takes its place. */
  readonly finish: () => Promise<void>;
  /** Takes the payloads that do not go on. @throws SkevoError where they are not wanted */
  readonly reject: (payload: Payload, reasons: readonly Reason[]) => Promise<void>;
}

/** What was converted. */
export interface Converted {
  readonly written: number;
  readonly rejected: number;
}

/**
 * Writes payloads in another format as they come: to a file, as a whole or not at all, or to the standard output, where nothing
 * of it stands before all can be held.
 * @param print takes what goes to the standard output
 * @throws SkevoError with the place in its file of the first part that the format cannot hold
 */
export async function convert(
  payloads: AsyncIterable<Payload>,
  conversion: Conversion,
  out: string | undefined,
  print: (bytes: AsyncIterable<Uint8Array>) => Promise<void>,
): Promise<Converted> {
  const state: { written: number; rejected: number; last: Payload | undefined } = {
    written: 0,
    rejected: 0,
    last: undefined,
  };
  async function* values(): AsyncGenerator<JsonValue> {
    for await (const payload of payloads) {
      const changed = conversion.change(payload);
      if ('reasons' in changed) {
        state.rejected++;
        await conversion.reject(payload, changed.reasons);
        continue;
      }
      state.written++;
      state.last = payload;
      yield changed.value;
    }
    await conversion.finish();
  }
  async function* parts(): AsyncGenerator<string | Uint8Array> {
    try {
      yield* conversion.to === 'json'
        ? asDocument(values())
        : writing(conversion.to === 'ndjson' ? 'json' : conversion.to, values(), conversion.known);
    } catch (error) {
      throw state.last === undefined ? error : placed(error, state.last);
    }
  }
  if (out !== undefined) await writeWhole(out, joined(parts()));
  else if (conversion.to === 'json' || conversion.to === 'ndjson') await print(joined(parts()));
  else {
    const folder = mkdtempSync(join(tmpdir(), 'skevo-convert-'));
    try {
      const draft = join(folder, 'draft');
      await writeWhole(draft, joined(parts()));
      await print(createReadStream(draft) as AsyncIterable<Uint8Array>);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  }
  return { written: state.written, rejected: state.rejected };
}

/** One JSON document: the payload, or a list of several. */
async function* asDocument(values: AsyncIterable<JsonValue>): AsyncGenerator<string> {
  let first: JsonValue | undefined;
  let count = 0;
  const indented = (value: JsonValue) => writeJson(value, 2).replace(/\n/g, '\n  ');
  for await (const value of values) {
    count++;
    if (count === 1) {
      first = value;
      continue;
    }
    if (count === 2) yield `[\n  ${indented(first!)}`;
    yield `,\n  ${indented(value)}`;
  }
  if (count > 1) yield '\n]\n';
  else if (first !== undefined) yield `${writeJson(first, 2)}\n`;
}

/** Small parts together: each write to a file costs. */
async function* joined(parts: AsyncIterable<string | Uint8Array>): AsyncGenerator<Uint8Array> {
  let held: Buffer[] = [];
  let size = 0;
  let text = '';
  const take = (): void => {
    if (text === '') return;
    held.push(Buffer.from(text));
    size += text.length;
    text = '';
  };
  for await (const part of parts) {
    if (typeof part === 'string') text += part;
    else {
      take();
      held.push(Buffer.from(part.buffer, part.byteOffset, part.length));
      size += part.length;
    }
    if (size + text.length < 1 << 16) continue;
    take();
    yield Buffer.concat(held);
    held = [];
    size = 0;
  }
  take();
  if (held.length > 0) yield Buffer.concat(held);
}

/** An error of a writer, which knows the place in the payload, with the place in the file. */
function placed(error: unknown, { root, source }: Payload): unknown {
  if (!(error instanceof SkevoError) || error.place !== undefined) return error;
  const pointer = /^(\/[^:]*|the payload): /.exec(error.message)?.[1];
  if (pointer === undefined) return error;
  const value = resolvePointer(root, parsePointer(pointer) ?? []) ?? root;
  return new SkevoError(error.message, error.remedy, excerptOf(source, value.start));
}

/** A payload that does not go on, as it was, with the reasons and where they stand; one JSON text a line. */
export function rejectedLine({ root, source, tokens }: Payload, reasons: readonly Reason[]): string {
  const { line, column } = placeOf(source, root.start);
  return `${writeJson(
    json.object([
      ['payload', root],
      ['file', json.string(source.name)],
      ['line', json.number(line)],
      ['column', json.number(column)],
      ['at', tokens.length === 0 ? undefined : json.list(tokens.map(json.string))],
      [
        'reasons',
        json.list(
          reasons.map(({ pointer, message, offset }) => {
            const at = placeOf(source, offset);
            return json.object([
              ['pointer', json.string(pointer)],
              ['message', json.string(message)],
              ['line', json.number(at.line)],
              ['column', json.number(at.column)],
            ]);
          }),
        ),
      ],
    ]),
  )}\n`;
}
