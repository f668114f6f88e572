import { SkevoError } from '../error.js';
import { parseJson } from './parse.js';
import { formatPlace, type PlaceStep } from './pointer.js';
import { excerptOf, hasByteOrderMark, type Source } from './source.js';

/** A value cut out of a document that is too large to be held whole. */
export interface Piece {
  /** The value's own bytes; lines and columns are those of the document. */
  readonly source: Source;
  /** Whether the place leads to it; other pieces are only there to be looked at for errors. */
  readonly selected: boolean;
  /** Reference tokens from the document to the value. */
  readonly tokens: readonly string[];
}

/** A list or object that the place leads into, still open. */
interface Level {
  readonly kind: 'list' | 'object';
  /** What the step into this level looks for. */
  readonly step: PlaceStep;
  /** Elements begun so far. */
  index: number;
  key: string;
  found: boolean;
  /** The first keys, for the message when the one looked for is missing. */
  readonly keys: string[];
}

type State = 'value' | 'first-value' | 'first-key' | 'key' | 'colon' | 'comma' | 'end';

const mostKeysShown = 8;

/**
 * Cuts the values that a place leads to out of a document that comes in chunks, holding no more than one of them.
 * Every other value on the way is cut out too, to be checked by whoever takes the pieces, so that the whole
 * document is known to be JSON when `end` returns. Byte by byte, since it sees every byte of large files.
 */
export class Cutter {
  private bytes: Uint8Array = new Uint8Array(0);
  private position = 0;
  private state: State = 'value';
  private readonly levels: Level[] = [];

  // The value that is being cut, when there is one.
  private start = -1;
  private depth = 0;
  private inString = false;
  private escaped = false;

  // Where `counted` stands in the document.
  private counted = 0;
  private line = 1;
  private column = 1;
  private isFirst = true;

  /**
   * @param steps at least one: how the document leads to the values
   * @param missed told of every value on the way that lacks the next step
   */
  constructor(
    private readonly name: string,
    private readonly steps: readonly PlaceStep[],
    private readonly missed: (error: () => SkevoError) => void,
  ) {}

  /** @throws SkevoError where the document stops being JSON */
  *push(chunk: Uint8Array): Generator<Piece> {
    const kept = this.start >= 0 ? this.start : this.position;
    this.count(kept);
    this.bytes = joined(this.bytes.subarray(kept), chunk);
    this.position -= kept;
    this.counted = 0;
    if (this.start >= 0) this.start = 0;
    if (this.isFirst) {
      if (this.bytes.length < 3) return;
      if (hasByteOrderMark(this.bytes)) this.position = this.counted = 3;
      this.isFirst = false;
    }

    for (;;) {
      if (this.start >= 0) {
        if (!this.findEnd(false)) return;
        yield this.take();
      } else if (!this.step()) return;
    }
  }

  /** Says that no more chunks come. @throws SkevoError when the document is not complete */
  *end(): Generator<Piece> {
    if (this.start >= 0) {
      this.findEnd(true);
      yield this.take();
    }
    while (this.step());
    if (this.state !== 'end') this.fail('the document ends too early');
  }

  /** One piece of punctuation or the start of a value; false when more bytes are needed. */
  private step(): boolean {
    this.skipSpace();
    const byte = this.bytes[this.position];
    if (byte === undefined) return false;
    const level = this.levels.at(-1);
    switch (this.state) {
      case 'first-value':
        if (byte === 0x5d) return this.close();
        return this.value(byte);
      case 'value':
        return this.value(byte);
      case 'first-key':
        if (byte === 0x7d) return this.close();
        return this.key();
      case 'key':
        return this.key();
      case 'colon':
        if (byte !== 0x3a) this.fail('expected ":" after the key');
        this.position++;
        this.state = 'value';
        return true;
      case 'comma':
        if (byte === (level!.kind === 'list' ? 0x5d : 0x7d)) return this.close();
        if (byte !== 0x2c) this.fail(`expected "," or "${level!.kind === 'list' ? ']' : '}'}" here`);
        this.position++;
        this.state = level!.kind === 'list' ? 'value' : 'key';
        return true;
      case 'end':
        return this.fail('the JSON value has ended, but more follows');
    }
  }

  private value(byte: number): boolean {
    const level = this.levels.at(-1);
    if (level?.kind === 'list') level.key = String(level.index++);
    const onPath =
      level === undefined || level.step === 'every' || (level.step.key === level.key && !this.isAgain(level));
    if (level !== undefined && onPath) level.found = true;
    if (onPath && this.levels.length < this.steps.length && this.open(byte)) return true;
    this.start = this.position;
    this.depth = 0;
    this.inString = this.escaped = false;
    return true;
  }

  private isAgain(level: Level): boolean {
    if (level.found && level.kind === 'object') {
      this.fail(
        `the key ${JSON.stringify(level.key)} comes twice in one object, and a document as large as this is read only once`,
        'Take one of them out.',
      );
    }
    return level.found;
  }

  /** Goes into a list or object on the way; false when what stands there has no such parts. */
  private open(byte: number): boolean {
    const step = this.steps[this.levels.length]!;
    const kind = byte === 0x5b ? 'list' : byte === 0x7b ? 'object' : undefined;
    const here = formatPlace(this.steps.slice(0, this.levels.length)) || 'the top';
    const fits = kind === 'object' || (kind === 'list' && (step === 'every' || /^\d+$/.test(step.key)));
    if (kind === undefined || !fits) {
      const expected =
        step === 'every' ? 'a list or an object' : `an object with the key ${JSON.stringify(step.key)}`;
      const found = kind === undefined ? 'a single value' : 'a list';
      this.lacks(`--at expects ${expected} at ${here}, found ${found}`);
      return false;
    }
    this.levels.push({ kind, step, index: 0, key: '', found: false, keys: [] });
    this.position++;
    this.state = kind === 'list' ? 'first-value' : 'first-key';
    return true;
  }

  private close(): true {
    const level = this.levels.pop()!;
    if (!level.found && level.step !== 'every' && level.kind === 'object') {
      const here = formatPlace(this.steps.slice(0, this.levels.length)) || 'the top';
      const keys = level.keys.map((key) => JSON.stringify(key)).join(', ') || 'no keys at all';
      const more = level.keys.length === mostKeysShown ? ' and perhaps more' : '';
      this.lacks(`--at finds no key ${JSON.stringify(level.step.key)} at ${here}; there is ${keys}${more}`);
    }
    this.position++;
    this.state = this.levels.length === 0 ? 'end' : 'comma';
    return true;
  }

  private key(): boolean {
    const { bytes, position } = this;
    if (bytes[position] !== 0x22) this.fail('expected a key in double quotes');
    let end = position + 1;
    while (end < bytes.length && bytes[end] !== 0x22) end += bytes[end] === 0x5c ? 2 : 1;
    if (end >= bytes.length) return false;
    this.count(position);
    const literal = { ...this.sourceFrom(), bytes: bytes.subarray(position, end + 1) };
    const { root } = parseJson(literal);
    const level = this.levels.at(-1)!;
    level.key = root.kind === 'string' ? root.value : '';
    if (level.keys.length < mostKeysShown) level.keys.push(level.key);
    this.position = end + 1;
    this.state = 'colon';
    return true;
  }

  /** Moves to the end of the value that is being cut; false when it is not there yet. */
  private findEnd(isLast: boolean): boolean {
    const { bytes } = this;
    const first = bytes[this.start]!;
    const isScalar = first !== 0x22 && first !== 0x5b && first !== 0x7b;
    let { position: p, depth, inString, escaped } = this;
    for (; p < bytes.length; p++) {
      const byte = bytes[p]!;
      if (inString) {
        if (escaped) escaped = false;
        else if (byte === 0x5c) escaped = true;
        else if (byte === 0x22) {
          inString = false;
          if (depth === 0) break;
        }
      } else if (isScalar) {
        if (byte === 0x2c || byte === 0x5d || byte === 0x7d || byte <= 0x20) break;
      } else if (byte === 0x22) inString = true;
      else if (byte === 0x5b || byte === 0x7b) depth++;
      else if ((byte === 0x5d || byte === 0x7d) && --depth === 0) break;
    }
    const found = p < bytes.length || isLast;
    // The last byte of a number belongs to it; that of the others ends them.
    this.position = found && !isScalar ? Math.min(p + 1, bytes.length) : p;
    this.depth = depth;
    this.inString = inString;
    this.escaped = escaped;
    return found;
  }

  private take(): Piece {
    const { start, position } = this;
    this.count(start);
    const source = { ...this.sourceFrom(), bytes: this.bytes.subarray(start, position) };
    this.start = -1;
    this.state = this.levels.length === 0 ? 'end' : 'comma';
    const level = this.levels.at(-1);
    const selected =
      this.levels.length === this.steps.length && (level?.step === 'every' || level?.step.key === level?.key);
    return { source, selected, tokens: this.levels.map(({ key }) => key) };
  }

  private skipSpace(): void {
    const { bytes } = this;
    let p = this.position;
    while (bytes[p] === 0x20 || bytes[p] === 0x0a || bytes[p] === 0x0d || bytes[p] === 0x09) p++;
    this.position = p;
  }

  /** Counts lines and columns up to an offset that has not been passed yet. */
  private count(to: number): void {
    for (let i = this.counted; i < to; i++) {
      const byte = this.bytes[i]!;
      if (byte === 0x0a) {
        this.line++;
        this.column = 1;
      } else if ((byte & 0xc0) !== 0x80) this.column++;
    }
    this.counted = Math.max(to, this.counted);
  }

  private sourceFrom(): { name: string; firstLine: number; firstColumn: number } {
    return { name: this.name, firstLine: this.line, firstColumn: this.column };
  }

  private fail(message: string, remedy?: string): never {
    throw this.error(message, remedy);
  }

  private lacks(message: string): void {
    this.missed(() => this.error(message, 'Run skevo outline on a part of this file to see its places.'));
  }

  private error(message: string, remedy: string | undefined): SkevoError {
    this.count(this.position);
    const { excerpt } = excerptOf({ name: this.name, bytes: this.bytes, firstLine: 1 }, this.position);
    return new SkevoError(message, remedy, {
      file: this.name,
      line: this.line,
      column: this.column,
      excerpt,
    });
  }
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  if (a.length === 0) return b;
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}
