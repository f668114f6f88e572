import type { Form } from './form.js';
import type { Field } from './observation.js';
import type { Shape } from './shape.js';

/** A short text of plain words that came at a place, as long as there are few of them. */
export class Token {
  count = 0;
  /** The shapes of the objects around it. */
  readonly shapes = new Set<Shape>();
  /** The last of them. For the scanner. */
  lastShape: Shape | undefined = undefined;
  /** What stood under other keys beside it, for keys whose values have several forms. */
  forms: Map<Field, Set<Form>> | undefined = undefined;
  /** The next of the same hash. For the scanner. */
  next: Token | undefined = undefined;

  constructor(
    readonly text: string,
    readonly bytes: Uint8Array,
  ) {}

  /** Forgets what stood beside it. */
  forget(): void {
    this.shapes.clear();
    this.forms = undefined;
    this.lastShape = undefined;
  }

  addForm(field: Field, form: Form): void {
    // Most tokens stand beside nothing that varies.
    this.forms ??= new Map();
    const known = this.forms.get(field);
    if (known === undefined) this.forms.set(field, new Set([form]));
    else known.add(form);
  }
}

/** A place with more than so many different tokens holds no choice, and they are forgotten. */
export const mostTokens = 48;

/** A longer text is none. */
export const longestToken = 40;

/** The tokens of a place. */
export class Tokens {
  readonly byText = new Map<string, Token>();
  private readonly byHash = new Map<number, Token>();

  /** The token of some bytes; undefined when it would be one too many. */
  find(bytes: Uint8Array, start: number, end: number, hash: number): Token | undefined {
    const head = this.byHash.get(hash);
    next: for (let token = head; token !== undefined; token = token.next) {
      const known = token.bytes;
      if (known.length !== end - start) continue;
      for (let i = 0; i < known.length; i++) if (known[i] !== bytes[start + i]) continue next;
      return token;
    }
    if (this.byText.size === mostTokens) return undefined;
    let text = '';
    for (let i = start; i < end; i++) text += String.fromCharCode(bytes[i]!);
    const token = new Token(text, bytes.slice(start, end));
    token.next = head;
    this.byHash.set(hash, token);
    this.byText.set(text, token);
    return token;
  }

  /** The token of a text; undefined when it would be one too many. */
  of(text: string): Token | undefined {
    const bytes = new Uint8Array(text.length);
    let hash = 0;
    for (let i = 0; i < text.length; i++) {
      bytes[i] = text.charCodeAt(i);
      hash = hashStep(hash, bytes[i]!);
    }
    return this.find(bytes, 0, bytes.length, hash);
  }
}

export function hashStep(hash: number, byte: number): number {
  return (Math.imul(hash, 31) + byte) | 0;
}

/** Letters, digits and the signs that hold words of a name together, spaces among them. */
export function isTokenByte(byte: number): boolean {
  return (
    (byte >= 0x61 && byte <= 0x7a) ||
    (byte >= 0x41 && byte <= 0x5a) ||
    (byte >= 0x30 && byte <= 0x39) ||
    byte === 0x20 ||
    byte === 0x3a ||
    byte === 0x5f ||
    byte === 0x2d ||
    byte === 0x2e ||
    byte === 0x2f
  );
}

/** Keys whose values tell one record from another. */
const identifying = new Set(['id', 'uuid', 'guid', 'url', 'uri', 'href']);

/** Whether a key of a record tells it from others of its kind; `vesselId` tells another one. */
export function isIdentifying(key: string): boolean {
  return identifying.has(key.replace(/^[_@$]/, '').toLowerCase());
}

/** A place with more than so many different identifiers has enough of them. */
export const mostIdentifiers = 96;

/** Stands for more identifiers than were counted. */
export const many: ReadonlySet<string> = new Set();

/** A set of identifiers with one more. */
export function withIdentifier(ids: ReadonlySet<string>, text: string): ReadonlySet<string> {
  if (ids === many || ids.has(text)) return ids;
  return ids.size === mostIdentifiers ? many : (ids as Set<string>).add(text);
}
