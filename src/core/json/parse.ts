import { SkevoError } from '../error.js';
import { excerptOf, hasByteOrderMark, type Source } from './source.js';
import type { JsonMember, JsonString, JsonValue } from './value.js';

/** Two members of one object with the same key; RFC 8259 section 4 leaves open which one counts. */
export interface DuplicateKey {
  readonly key: string;
  readonly firstStart: number;
  readonly againStart: number;
}

export interface JsonDocument {
  readonly root: JsonValue;
  readonly duplicates: readonly DuplicateKey[];
  readonly byteOrderMark: boolean;
}

/**
 * Reads one JSON text: RFC 8259, nothing more and nothing less, plus the byte order mark that it allows.
 * Nesting is bounded by memory only: the parser keeps its own stack.
 *
 * @throws SkevoError with file, line, column and excerpt where the text stops being JSON
 */
export function parseJson(source: Source): JsonDocument {
  return new Parser(source).document();
}

const strict = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true });

type Open =
  | { readonly kind: 'list'; readonly start: number; readonly items: JsonValue[] }
  | {
      readonly kind: 'object';
      readonly start: number;
      readonly members: JsonMember[];
      readonly seen: Map<string, number>;
      key: string;
      keyStart: number;
    };

class Parser {
  private readonly bytes: Uint8Array;
  private position = 0;
  private readonly duplicates: DuplicateKey[] = [];

  constructor(private readonly source: Source) {
    this.bytes = source.bytes;
  }

  document(): JsonDocument {
    const byteOrderMark = hasByteOrderMark(this.bytes);
    if (byteOrderMark) this.position = 3;
    else this.refuseOtherEncodings();
    this.skipSpace();
    if (this.position === this.bytes.length)
      this.fail('there is no JSON here, only an empty text', 'Was the response saved?');
    const root = this.value();
    this.skipSpace();
    if (this.position < this.bytes.length) {
      this.fail(
        `the JSON value has ended, but ${this.describeHere()} follows`,
        'If the file holds one payload a line, give it the ending .ndjson.',
      );
    }
    return { root, duplicates: this.duplicates, byteOrderMark };
  }

  private value(): JsonValue {
    const stack: Open[] = [];
    for (;;) {
      this.skipSpace();
      let done: JsonValue;
      const byte = this.bytes[this.position];
      const start = this.position;
      if (byte === 0x7b) {
        this.position++;
        this.skipSpace();
        if (this.bytes[this.position] === 0x7d) {
          this.position++;
          done = { kind: 'object', start, end: this.position, members: [] };
        } else {
          const open: Open = { kind: 'object', start, members: [], seen: new Map(), key: '', keyStart: 0 };
          this.key(open);
          stack.push(open);
          continue;
        }
      } else if (byte === 0x5b) {
        this.position++;
        this.skipSpace();
        if (this.bytes[this.position] === 0x5d) {
          this.position++;
          done = { kind: 'list', start, end: this.position, items: [] };
        } else {
          stack.push({ kind: 'list', start, items: [] });
          continue;
        }
      } else {
        done = this.scalar(byte);
      }

      // A value is complete: hand it to what is open, and close what ends here.
      for (;;) {
        const open = stack[stack.length - 1];
        if (open === undefined) return done;
        if (open.kind === 'list') open.items.push(done);
        else open.members.push({ key: open.key, keyStart: open.keyStart, value: done });
        this.skipSpace();
        const next = this.bytes[this.position];
        if (next === 0x2c) {
          this.position++;
          if (open.kind === 'object') {
            this.skipSpace();
            this.key(open);
          }
          break;
        }
        if (next !== (open.kind === 'list' ? 0x5d : 0x7d)) {
          this.fail(
            `expected "," or "${open.kind === 'list' ? ']' : '}'}" here, found ${this.describeHere()}`,
            this.remedyHere('Put a comma before it.'),
          );
        }
        this.position++;
        stack.pop();
        done =
          open.kind === 'list'
            ? { kind: 'list', start: open.start, end: this.position, items: open.items }
            : { kind: 'object', start: open.start, end: this.position, members: open.members };
      }
    }
  }

  private key(open: Open & { kind: 'object' }): void {
    const start = this.position;
    if (this.bytes[start] !== 0x22) {
      this.fail(
        `expected a key in double quotes here, found ${this.describeHere()}`,
        this.remedyHere('Put the key in double quotes.'),
      );
    }
    const key = this.string().value;
    const first = open.seen.get(key);
    if (first === undefined) open.seen.set(key, start);
    else this.duplicates.push({ key, firstStart: first, againStart: start });
    this.skipSpace();
    if (this.bytes[this.position] !== 0x3a)
      this.fail(
        `expected ":" after the key, found ${this.describeHere()}`,
        this.remedyHere('Put a colon before it.'),
      );
    this.position++;
    open.key = key;
    open.keyStart = start;
  }

  private scalar(byte: number | undefined): JsonValue {
    const start = this.position;
    switch (byte) {
      case 0x22:
        return this.string();
      case 0x74:
        return { kind: 'boolean', value: true, start, end: this.word('true') };
      case 0x66:
        return { kind: 'boolean', value: false, start, end: this.word('false') };
      case 0x6e:
        return { kind: 'null', start, end: this.word('null') };
      default:
        if (byte === 0x2d || (byte !== undefined && byte >= 0x30 && byte <= 0x39)) return this.number();
        return this.fail(
          `expected a value here, found ${this.describeHere()}`,
          this.remedyHere('Put text in double quotes.'),
        );
    }
  }

  private word(word: 'true' | 'false' | 'null'): number {
    const start = this.position;
    for (let i = 0; i < word.length; i++) {
      if (this.bytes[start + i] !== word.charCodeAt(i))
        this.fail(
          `expected "${word}" here`,
          this.remedyHere('Write it whole, or put text in double quotes.'),
        );
    }
    this.position += word.length;
    return this.position;
  }

  /** RFC 8259 section 6: -? (0 | [1-9][0-9]*) (. [0-9]+)? ([eE] [+-]? [0-9]+)? */
  private number(): JsonValue {
    const start = this.position;
    if (this.bytes[this.position] === 0x2d) this.position++;
    if (this.bytes[this.position] === 0x30) {
      this.position++;
      if (isDigit(this.bytes[this.position]))
        this.fail('a number may not begin with 0 and another digit', 'Take the 0 out, or put it in quotes.');
    } else {
      this.digits();
    }
    if (this.bytes[this.position] === 0x2e) {
      this.position++;
      this.digits();
    }
    if ((this.bytes[this.position]! | 0x20) === 0x65) {
      this.position++;
      const sign = this.bytes[this.position];
      if (sign === 0x2b || sign === 0x2d) this.position++;
      this.digits();
    }
    return { kind: 'number', text: ascii(this.bytes, start, this.position), start, end: this.position };
  }

  private digits(): void {
    if (!isDigit(this.bytes[this.position]))
      this.fail(`expected a digit here, found ${this.describeHere()}`, this.remedyHere(numberForm));
    while (isDigit(this.bytes[this.position])) this.position++;
  }

  private string(): JsonString {
    const start = this.position++;
    const { bytes } = this;
    let text = '';
    let from = this.position;
    for (;;) {
      const byte = bytes[this.position];
      if (byte === 0x22) break;
      if (byte === 0x5c) {
        text += this.utf8(from, this.position) + this.escape();
        from = this.position;
      } else if (byte === undefined) {
        this.position = start;
        this.fail('this string is never closed', cutShort);
      } else if (byte < 0x20) {
        this.fail(
          `a string may not hold ${this.describeHere()} as it is`,
          `Write it as \\u${byte.toString(16).padStart(4, '0')}, or close the string before it.`,
        );
      } else {
        this.position++;
      }
    }
    text += this.utf8(from, this.position);
    this.position++;
    return { kind: 'string', value: text, start, end: this.position };
  }

  private escape(): string {
    const letter = this.bytes[this.position + 1];
    const plain = letter === undefined ? undefined : escapes[String.fromCharCode(letter)];
    if (plain !== undefined) {
      this.position += 2;
      return plain;
    }
    if (letter !== 0x75) this.fail('this is not an escape that JSON knows', knownEscapes);
    let unit = 0;
    for (let i = 2; i < 6; i++) {
      const digit = hexDigit(this.bytes[this.position + i]);
      if (digit === undefined)
        this.fail('\\u must be followed by four hexadecimal digits', 'Such as \\u00e9.');
      unit = unit * 16 + digit;
    }
    this.position += 6;
    return String.fromCharCode(unit);
  }

  private utf8(start: number, end: number): string {
    if (end - start < 32) {
      let text = '';
      for (let i = start; i < end; i++) {
        const byte = this.bytes[i]!;
        if (byte >= 0x80) return this.utf8Beyond(start, end);
        text += String.fromCharCode(byte);
      }
      return text;
    }
    return this.utf8Beyond(start, end);
  }

  private utf8Beyond(start: number, end: number): string {
    try {
      return strict.decode(this.bytes.subarray(start, end));
    } catch {
      // Find the first character that does not decode, to point at it.
      let good = start;
      while (good < end) {
        const length = sequenceLength(this.bytes[good]!);
        try {
          strict.decode(this.bytes.subarray(good, Math.min(end, good + length)));
        } catch {
          break;
        }
        good += length;
      }
      this.position = good;
      return this.fail(
        'these bytes are not UTF-8',
        'JSON is UTF-8 (RFC 8259 section 8.1): save the file in that encoding.',
      );
    }
  }

  private refuseOtherEncodings(): void {
    const [a, b] = this.bytes;
    if ((a === 0xfe && b === 0xff) || (a === 0xff && b === 0xfe) || a === 0 || (b === 0 && a !== undefined)) {
      this.fail(
        'this looks like UTF-16 or UTF-32 text',
        'JSON is UTF-8 (RFC 8259 section 8.1): save the file in that encoding.',
      );
    }
  }

  private skipSpace(): void {
    for (;;) {
      const byte = this.bytes[this.position];
      if (byte !== 0x20 && byte !== 0x0a && byte !== 0x0d && byte !== 0x09) return;
      this.position++;
    }
  }

  private describeHere(): string {
    const byte = this.bytes[this.position];
    if (byte === undefined) return 'the end of the text';
    if (byte === 0x22) return 'a double quote';
    if (byte === 0x0a || byte === 0x0d) return 'a line break';
    if (byte === 0x09) return 'a tab';
    if (byte > 0x20 && byte < 0x7f) return `"${String.fromCharCode(byte)}"`;
    return `the byte 0x${byte.toString(16).padStart(2, '0')}`;
  }

  /** What to do about what stands here and is no JSON. @param otherwise where nothing of it says more */
  private remedyHere(otherwise: string): string {
    const rest = ascii(this.bytes, this.position, Math.min(this.bytes.length, this.position + 12));
    if (rest === '') return cutShort;
    const before = /,\s*$/.test(ascii(this.bytes, Math.max(0, this.position - 80), this.position));
    if (before && /^[\]}]/.test(rest)) return 'Take out the comma before it.';
    if (rest.startsWith("'")) return 'JSON has double quotes alone.';
    if (/^(?:\/[/*]|#)/.test(rest)) return 'JSON has no comments: take it out.';
    const [, word] = /^[-+]?(NaN|Infinity|undefined)\b/.exec(rest) ?? [];
    if (word !== undefined) return `JSON has no ${word}: write null, or put it in quotes.`;
    if (/^(?:None|True|False|nil|NULL)\b/.test(rest)) return 'JSON writes null, true and false.';
    if (/^[+.]/.test(rest)) return numberForm;
    if (/^<[!?/\w]/.test(rest))
      return 'This looks like XML or HTML: --input says what else a file is written in.';
    return otherwise;
  }

  private fail(message: string, remedy?: string): never {
    throw new SkevoError(message, remedy, excerptOf(this.source, this.position));
  }
}

const numberForm = 'A number is such as 0, -1.5 or 2e10.';
const knownEscapes =
  'Those are \\" \\\\ \\/ \\b \\f \\n \\r \\t and \\u with four digits; a backslash itself is \\\\.';
const cutShort = 'The text seems cut short: was the whole response saved?';

const escapes: Readonly<Record<string, string | undefined>> = Object.assign(Object.create(null), {
  '"': '"',
  '\\': '\\',
  '/': '/',
  b: '\b',
  f: '\f',
  n: '\n',
  r: '\r',
  t: '\t',
});

function isDigit(byte: number | undefined): boolean {
  return byte !== undefined && byte >= 0x30 && byte <= 0x39;
}

function hexDigit(byte: number | undefined): number | undefined {
  if (byte === undefined) return undefined;
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30;
  const lower = byte | 0x20;
  return lower >= 0x61 && lower <= 0x66 ? lower - 0x61 + 10 : undefined;
}

function sequenceLength(byte: number): number {
  if (byte < 0x80) return 1;
  if (byte < 0xe0) return 2;
  return byte < 0xf0 ? 3 : 4;
}

function ascii(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let i = start; i < end; i++) text += String.fromCharCode(bytes[i]!);
  return text;
}
