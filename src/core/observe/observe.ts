import { SkevoError } from '../error.js';
import { parseJson, type JsonDocument } from '../json/parse.js';
import type { Selector } from '../json/pointer.js';
import { documentsIn, type Batch } from '../json/batch.js';
import { Misses } from '../json/misses.js';
import { selectPlace } from '../json/select.js';
import { excerptOf, hasByteOrderMark, placeOf, placesOf, type Source } from '../json/source.js';
import type { Notes } from '../note.js';
import { Observation, Place } from './observation.js';
import { deepest, Scanner, type PlaceLimits } from './scan.js';

/** Observes documents one after another. The sources should come in the order of their names. */
export class Observer {
  readonly observation = new Observation();
  /** What lacked the place that was asked for. */
  readonly misses = new Misses();
  private readonly scanner: Scanner;

  /** Whether there were too many places for each to be observed for itself. */
  get hasFolded(): boolean {
    return this.scanner.hasFolded;
  }

  /**
   * @param at where the payloads sit inside each document; empty when the document is the payload
   * @param notes is told of duplicate keys and byte order marks
   */
  constructor(
    private readonly at: Selector,
    private readonly notes: Notes,
    limits?: PlaceLimits,
  ) {
    this.scanner = new Scanner(limits);
  }

  /**
   * Observes one document.
   * @throws SkevoError when it is not JSON, or nested too deeply
   */
  document(source: Source): void {
    this.scanner.open(source);
    const begin = hasByteOrderMark(source.bytes) ? 3 : 0;
    if (begin > 0) noteByteOrderMark(source, this.notes);
    if (this.at.length > 0 && source.tokens === undefined) {
      this.selected(source);
    } else {
      this.observation.payloads++;
      if (!this.scanner.scan(this.observation.root, begin, source.bytes.length))
        explainRefusal(this.scanner, source);
      if (this.scanner.sawDuplicate) noteDuplicates(parseJson(source), source, this.notes);
    }
  }

  /** Observes documents that were read at once. @throws SkevoError as `document` does */
  batch(batch: Batch): void {
    const { source, ends, tokens } = batch;
    if ((this.at.length > 0 && tokens === undefined) || ends.length === 1) {
      for (const each of documentsIn(batch)) this.document(each);
      return;
    }
    this.scanner.open(source);
    let start = 0;
    for (const end of ends) {
      this.observation.payloads++;
      // What made the text knows no key twice.
      if (!this.scanner.scan(this.observation.root, start, end)) explainRefusal(this.scanner, source);
      start = end + 1;
    }
  }

  /**
   * Observes one line of a chunk of lines.
   * @param bytes the chunk; @param start where the line begins in it; @param end where it ends
   */
  line(file: string, bytes: Uint8Array, start: number, end: number, line: number): void {
    if (this.at.length > 0 || hasByteOrderMark(bytes, start)) {
      this.document({ name: file, bytes: bytes.subarray(start, end), firstLine: line });
      return;
    }
    this.observation.payloads++;
    this.scanner.openLine(file, bytes, line, start);
    const good = this.scanner.scan(this.observation.root, start, end);
    if (good && !this.scanner.sawDuplicate) return;
    const source = { name: file, bytes: bytes.subarray(start, end), firstLine: line };
    if (!good) explainRefusal(this.scanner, source);
    noteDuplicates(parseJson(source), source, this.notes);
  }

  /** Observes a payload that was cut out of a document; bytes are its own. @throws SkevoError as `document` does */
  piece(source: Source): void {
    this.scanner.open(source);
    this.observation.payloads++;
    if (!this.scanner.scan(this.observation.root, 0, source.bytes.length))
      explainRefusal(this.scanner, source);
    if (this.scanner.sawDuplicate) noteDuplicates(parseJson(source), source, this.notes);
  }

  /** Makes sure that a value beside the payloads is JSON. @throws SkevoError when it is not */
  passOver(source: Source): void {
    const scanner = new Scanner();
    scanner.open(source);
    try {
      if (scanner.scan(new Place(), 0, source.bytes.length)) return;
    } catch (error) {
      // Too many different places to be observed, which nobody asked for.
      if (!(error instanceof SkevoError)) throw error;
    }
    parseJson(source);
  }

  private selected(source: Source): void {
    const document = parseJson(source);
    noteDuplicates(document, source, this.notes);
    for (const { value } of selectPlace(document.root, this.at, source, this.misses.add)) {
      this.observation.payloads++;
      if (!this.scanner.scan(this.observation.root, value.start, value.end))
        explainRefusal(this.scanner, source);
    }
  }
}

/**
 * The scanner only says that it could not go on; the parser says why.
 * @throws SkevoError always
 */
export function explainRefusal({ tooDeep }: Scanner, source: Source): never {
  parseJson(source);
  if (tooDeep) throw nestedTooDeep(source);
  throw new Error(`the scanner refused what the parser accepts: ${source.name}:${source.firstLine}`);
}

/** Tells of every key that an object has twice, with both places. */
export function noteDuplicates(document: JsonDocument, source: Source, notes: Notes): void {
  const { duplicates } = document;
  const places = placesOf(
    source,
    duplicates.flatMap(({ firstStart, againStart }) => [firstStart, againStart]),
  );
  duplicates.forEach(({ key }, i) => {
    const first = places[2 * i]!;
    notes({
      message: `the key ${JSON.stringify(key)} comes twice in one object, first at ${first.line}:${first.column}; the last one counts`,
      place: places[2 * i + 1]!,
    });
  });
}

export function noteByteOrderMark(source: Source, notes: Notes): void {
  notes({
    message: 'a byte order mark stands here, which JSON does not need',
    place: placeOf(source, 0),
  });
}

function nestedTooDeep(source: Source): SkevoError {
  let depth = 0;
  let offset = 0;
  let inString = false;
  for (; offset < source.bytes.length && depth <= deepest; offset++) {
    const byte = source.bytes[offset]!;
    if (inString) {
      if (byte === 0x5c) offset++;
      else if (byte === 0x22) inString = false;
    } else if (byte === 0x22) inString = true;
    else if (byte === 0x5b || byte === 0x7b) depth++;
    else if (byte === 0x5d || byte === 0x7d) depth--;
  }
  return new SkevoError(
    `the payload is nested more than ${deepest} levels deep`,
    'Generated decoders in every language must be able to follow; use --at to select a part of it.',
    excerptOf(source, offset - 1),
  );
}
