import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { pipeline, Readable } from 'node:stream';
import { createGunzip } from 'node:zlib';
import { SkevoError } from '../core/error.js';
import { Misses } from '../core/json/misses.js';
import type { PlaceStep, Selector } from '../core/json/pointer.js';
import { Cutter, type Piece } from '../core/json/cut.js';
import { parseJson } from '../core/json/parse.js';
import type { JsonValue } from '../core/json/value.js';
import { readUnder } from '../core/schema/conform.js';
import type { Schema } from '../core/schema/schema.js';
import { sourceAgain } from './transcode.js';
import { selectPlace } from '../core/json/select.js';
import { hasByteOrderMark, type Source } from '../core/json/source.js';
import type { Notes } from '../core/note.js';
import { noteByteOrderMark, noteDuplicates, Observer } from '../core/observe/observe.js';
import { mergeObservation, type Observation } from '../core/observe/observation.js';
import { savedSign } from '../core/observe/save.js';
import type { Payload } from '../core/roundtrip/payload.js';
import { documentsIn } from '../core/json/batch.js';
import { wholeOf } from './decode.js';
import { formatOf, type Selection } from './format.js';
import { formatOfBytes, sizeOf, tooLarge, unreadable, type Input, type Packing } from './inputs.js';
import { maySplit, observeInParts } from './parallel.js';

const chunkSize = 1 << 20;

interface ByteRange {
  readonly start: number;
  readonly end: number;
}

const wholeFile: ByteRange = { start: 0, end: Infinity };

/** Told of how many bytes of the inputs have been read. */
export type Progress = (bytes: number) => void;

/** How inputs are read. */
export interface ReadOptions {
  /** Told of how many bytes more have been read. */
  readonly progress?: Progress | undefined;
  /** Whether there may be no payload. */
  readonly mayLack?: boolean | undefined;
  /** Ends the reading between two parts of an input, with its reason. */
  readonly signal?: AbortSignal | undefined;
}

export interface ObserveOptions extends ReadOptions {
  /** Threads for large files of lines, one when not given; the result is the same with any number. */
  readonly workers?: number | undefined;
}

export interface PayloadReadOptions extends ReadOptions {
  /** As which texts of files without types are read. */
  readonly schema?: (() => Schema) | undefined;
}

/** Progress that stops where somebody does not want to go on. @throws the reason of the signal */
function watched({ progress = () => {}, signal }: ReadOptions): Progress {
  signal?.throwIfAborted();
  return (bytes) => {
    signal?.throwIfAborted();
    progress(bytes);
  };
}

/**
 * Observes every payload of the inputs. Lines are streamed, and so are large documents when the payloads are inside
 * them; other documents are read whole.
 * @param at where the payloads sit inside each document
 * @throws SkevoError for what is not JSON, and when there is no payload at all
 */
export async function observeInputs(
  inputs: readonly Input[],
  at: Selector,
  notes: Notes,
  options: ObserveOptions = {},
): Promise<Observation> {
  const { workers = 1, mayLack = false } = options;
  const progress = watched(options);
  const observer = new Observer(at, notes);
  for (const given of inputs) {
    const input = await told(given);
    if (input.layout === 'observation') {
      const { readObservation } = await import('../core/observe/saved.js');
      // Each on a line of its own, where several were put together.
      for await (const chunk of wholeLines(input, progress))
        for (const [start, end] of linesOf(chunk))
          if (!isBlank(chunk, start, end))
            mergeObservation(
              observer.observation,
              readObservation(new TextDecoder().decode(chunk.subarray(start, end)), input.name),
            );
      continue;
    }
    if (at.length === 0 && maySplit(input, workers)) {
      const observation = await observeInParts(input, workers, progress);
      if (observation !== undefined) {
        mergeObservation(observer.observation, observation);
        continue;
      }
    }
    if (input.format !== 'json') {
      const format = await formatOf(input.format);
      const selection = { at, missed: observer.misses.add };
      for await (const batch of format.read(input, () => bytesIn(input, progress), notes, selection))
        observer.batch(batch);
    } else if (input.layout === 'lines') {
      let line = 1;
      for await (const chunk of wholeLines(input, progress))
        line = observeLines(observer, input.name, chunk, line);
    } else if (at.length > 0 && isLarge(input) && isStraight(at)) {
      for await (const piece of piecesOf(input, at, notes, observer.misses, progress)) {
        if (piece.selected) observer.piece(piece.source);
        else observer.passOver(piece.source);
      }
    } else {
      const source = await readDocument(input);
      progress(source.bytes.length);
      if (input.layout === 'either' && looksLikeLines(source))
        observeLines(observer, input.name, source.bytes, 1);
      else observer.document(source);
    }
  }
  const { payloads } = observer.observation;
  observer.misses.close(payloads > 0, notes);
  if (payloads === 0 && !mayLack) throw noPayloads(inputs, at);
  return observer.observation;
}

/**
 * Every payload of the inputs as a value, one after another.
 * @throws SkevoError for what is not of its format, and when there is no payload
 */
export async function* readPayloads(
  inputs: readonly Input[],
  at: Selector,
  notes: Notes,
  options: PayloadReadOptions = {},
): AsyncGenerator<Payload> {
  const { schema, mayLack = false } = options;
  const progress = watched(options);
  let any = false;
  const misses = new Misses();
  for (const given of inputs) {
    const input = await told(given);
    if (input.layout === 'observation') {
      throw new SkevoError(
        `${input.name} holds what was seen in payloads, and not the payloads`,
        'Give the payloads themselves.',
      );
    }
    if (at.length > 0 && isLarge(input) && isStraight(at)) {
      for await (const { source, selected, tokens } of piecesOf(input, at, notes, misses, progress)) {
        const document = parseJson(source);
        if (!selected) continue;
        noteDuplicates(document, source, notes);
        any = true;
        yield { root: document.root, source, tokens };
      }
      continue;
    }
    for await (const source of documentsOf(input, notes, progress, { at, missed: misses.add })) {
      if (hasByteOrderMark(source.bytes)) noteByteOrderMark(source, notes);
      const document = parseJson(source);
      noteDuplicates(document, source, notes);
      const selected =
        source.tokens === undefined
          ? selectPlace(document.root, at, source, misses.add)
          : [{ value: document.root, tokens: source.tokens }];
      for (const { value, tokens } of selected) {
        any = true;
        yield schema !== undefined && (source.origin?.hasNoTypes || source.origin?.hasNoAbsence)
          ? { ...conformed(value, source, schema()), tokens }
          : { root: value, source, tokens };
      }
    }
  }
  misses.close(any, notes);
  if (!any && !mayLack) throw noPayloads(inputs, at);
}

/** A payload of a file that cannot say all that JSON says as its schema reads it. */
function conformed(value: JsonValue, source: Source, schema: Schema): { root: JsonValue; source: Source } {
  const typed = sourceAgain(readUnder(value, schema, source.origin!), source);
  return { root: parseJson(typed).root, source: typed };
}

/** Whether every step of a selector is one step in the document, so that it can be followed while that is read. */
function isStraight(at: Selector): at is readonly PlaceStep[] {
  return !at.includes('any depth');
}

/** Documents from this size on are not held whole when only values inside them are asked for. */
const large = 32 << 20;
/** Compressed, they are about a tenth as large. */
const largeCompressed = large / 10;

function isLarge(input: Input): boolean {
  const { layout, path, packing, format } = input;
  return (
    format === 'json' &&
    layout === 'document' &&
    path !== undefined &&
    sizeOf(input) >= (packing === undefined ? large : largeCompressed)
  );
}

/** The values at a place of a large document, and those passed on the way. */
async function* piecesOf(
  input: Input,
  at: readonly PlaceStep[],
  notes: Notes,
  misses: Misses,
  progress: Progress,
): AsyncGenerator<Piece> {
  const cutter = new Cutter(input.name, at, misses.add);
  let isFirst = true;
  for await (const chunk of byteStream(input, progress, wholeFile)) {
    if (isFirst && hasByteOrderMark(chunk))
      noteByteOrderMark({ name: input.name, bytes: chunk, firstLine: 1 }, notes);
    isFirst = false;
    yield* cutter.push(chunk);
  }
  yield* cutter.end();
}

/** A whole input as one source. */
export async function readDocument(input: Input): Promise<Source> {
  if (sizeOf(input) > input.limit) throw tooLarge(input);
  const bytes = input.held ?? (await bytesOf(input));
  return {
    name: input.name,
    bytes: input.packing === undefined ? bytes : await unpacked(input, bytes),
    firstLine: 1,
  };
}

function bytesOf(input: Input): Promise<Uint8Array> {
  return input.path === undefined ? standardInput(input) : readable(input, () => readFile(input.path!));
}

/** An input that knows what it is in: the standard input tells it by what it holds. */
async function told(input: Input): Promise<Input> {
  if (input.layout !== 'either') return input;
  const held = input.held ?? (await bytesOf(input));
  if (isObservation(held)) return { ...input, held, layout: 'observation' };
  return { ...input, held, format: formatOfBytes(held) };
}

function isObservation(bytes: Uint8Array): boolean {
  return new TextDecoder().decode(bytes.subarray(0, savedSign.length)) === savedSign;
}

/** Bytes of inputs that are held while they are gone through more than once. */
const mostHeld = 64 << 20;

/**
 * Inputs that are read now and held, so that whoever goes through them twice sees the same both times; as they are
 * where there is more of them than is held.
 */
export async function holdInputs(inputs: readonly Input[]): Promise<readonly Input[]> {
  const sizes = inputs.map((input) => (input.path === undefined ? Infinity : sizeOf(input)));
  if (sizes.reduce((sum, size) => sum + size, 0) > mostHeld) return inputs;
  const held: Input[] = [];
  for (const input of inputs) held.push({ ...input, held: await bytesOf(input) });
  return held;
}

/** Inputs of which standard input is read now and held, since it can be read once. */
export async function holdStandardInput(inputs: readonly Input[]): Promise<readonly Input[]> {
  const held: Input[] = [];
  for (const input of inputs)
    held.push(input.path === undefined ? { ...input, held: await bytesOf(input) } : input);
  return held;
}

async function standardInput(input: Input): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of process.stdin as AsyncIterable<Buffer>) {
    size += chunk.length;
    if (size > input.limit) throw tooLarge(input);
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

async function* documentsOf(
  input: Input,
  notes: Notes,
  progress: Progress,
  selection: Selection,
): AsyncGenerator<Source> {
  if (input.format !== 'json') {
    const format = await formatOf(input.format);
    for await (const each of format.read(input, () => bytesIn(input, progress), notes, selection))
      yield* documentsIn(each);
    return;
  }
  if (input.layout === 'lines') {
    let line = 1;
    for await (const chunk of wholeLines(input, progress)) {
      for (const [start, end] of linesOf(chunk)) {
        if (!isBlank(chunk, start, end))
          yield { name: input.name, bytes: chunk.subarray(start, end), firstLine: line };
        line++;
      }
    }
    return;
  }
  const source = await readDocument(input);
  progress(source.bytes.length);
  if (input.layout === 'either' && looksLikeLines(source)) {
    let line = 1;
    for (const [start, end] of linesOf(source.bytes)) {
      if (!isBlank(source.bytes, start, end))
        yield { name: input.name, bytes: source.bytes.subarray(start, end), firstLine: line };
      line++;
    }
    return;
  }
  yield source;
}

/** Observes the lines of a chunk; returns the number of the line after them. */
export function observeLines(observer: Observer, name: string, chunk: Uint8Array, firstLine: number): number {
  let line = firstLine;
  for (const [start, end] of linesOf(chunk)) {
    if (!isBlank(chunk, start, end)) observer.line(name, chunk, start, end, line);
    line++;
  }
  return line;
}

/** Chunks that end at a line's end, in buffers of their own; the last one may lack the line feed. */
export async function* wholeLines(
  input: Input,
  progress: Progress,
  range: ByteRange = wholeFile,
): AsyncGenerator<Uint8Array> {
  let rest: Buffer[] = [];
  let held = 0;
  for await (const chunk of byteStream(input, progress, range)) {
    const end = chunk.lastIndexOf(0x0a);
    if (end < 0) {
      held += chunk.length;
      if (held > input.limit) throw tooLarge(input);
      rest.push(chunk);
      continue;
    }
    yield held === 0 ? chunk.subarray(0, end + 1) : Buffer.concat([...rest, chunk.subarray(0, end + 1)]);
    rest = [Buffer.from(chunk.subarray(end + 1))];
    held = rest[0]!.length;
  }
  if (held > 0) yield Buffer.concat(rest);
}

/** The bytes of an input as they come, unpacked. */
async function* bytesIn(input: Input, progress: Progress): AsyncGenerator<Uint8Array> {
  if (input.path !== undefined || input.held !== undefined) yield* byteStream(input, progress, wholeFile);
  else yield await standardInput(input);
}

async function* byteStream(
  input: Input,
  progress: Progress,
  { start, end }: ByteRange,
): AsyncGenerator<Buffer> {
  const { held } = input;
  if (held === undefined && input.path === undefined) {
    yield* process.stdin as AsyncIterable<Buffer>;
    return;
  }
  // The end of a read stream is the last byte it reads.
  const file =
    held === undefined
      ? createReadStream(input.path!, { highWaterMark: chunkSize, start, end: end - 1 })
      : Readable.from([Buffer.from(held.buffer, held.byteOffset, held.length).subarray(start, end)]);
  const stream = input.packing === undefined ? file : await unpacking(input.packing, file);
  let reported = 0;
  try {
    for await (const chunk of stream) {
      const read = 'bytesRead' in file ? file.bytesRead : held!.length;
      progress(read - reported);
      reported = read;
      yield chunk as Buffer;
    }
  } catch (error) {
    throw unreadable(input.name, error);
  }
}

function* linesOf(bytes: Uint8Array): Generator<[start: number, end: number]> {
  let start = 0;
  while (start < bytes.length) {
    const found = bytes.indexOf(0x0a, start);
    const end = found < 0 ? bytes.length : found;
    yield [start, end];
    start = end + 1;
  }
}

function isBlank(bytes: Uint8Array, start: number, end: number): boolean {
  for (let i = start; i < end; i++) {
    const byte = bytes[i];
    if (byte !== 0x20 && byte !== 0x09 && byte !== 0x0d) return false;
  }
  return true;
}

/** Whether the first line with anything on it is a whole JSON text and more lines follow. */
function looksLikeLines(source: Source): boolean {
  let complete = false;
  for (const [start, end] of linesOf(source.bytes)) {
    if (isBlank(source.bytes, start, end)) continue;
    if (complete) return true;
    try {
      parseJson({ ...source, bytes: source.bytes.subarray(start, end) });
      complete = true;
    } catch (error) {
      if (error instanceof SkevoError) return false;
      throw error;
    }
  }
  return false;
}

async function readable<T>(input: Input, read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    throw unreadable(input.name, error);
  }
}

async function unpacked(input: Input, bytes: Uint8Array): Promise<Uint8Array> {
  const whole = Readable.from([bytes]);
  try {
    return await wholeOf(await unpacking(input.packing!, whole), input.limit, () => tooLarge(input));
  } catch (error) {
    throw unreadable(input.name, error);
  }
}

async function unpacking(packing: Packing, bytes: Readable): Promise<AsyncIterable<Uint8Array>> {
  if (packing === 'gzip') return pipeline(bytes, createGunzip({ chunkSize }), () => {});
  return (await import('./zstd.js')).unzstd(bytes);
}

function noPayloads(inputs: readonly Input[], at: Selector): SkevoError {
  const where = inputs.map(({ name }) => name).join(', ');
  return at.length === 0
    ? new SkevoError(`there is no payload in ${where}`, 'Every line is blank: was the response saved?')
    : new SkevoError(
        `--at matches nothing in ${where}: every list or object there is empty`,
        'Give samples that hold some.',
      );
}
