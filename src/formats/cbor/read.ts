import type { Type } from 'cborg';
import { Tokenizer, type Token } from 'cborg';
import {
  batchSize,
  deepest,
  instantText,
  numberText,
  placeIn,
  scaledText,
  piecesOf,
  unread,
} from '../binary.js';
import { wholeOf } from '../decode.js';
import type { Format } from '../format.js';
import { tooLarge } from '../inputs.js';
import { quoted, type JsonPieces } from '../json-pieces.js';

/** Tags of RFC 8949, section 3.4, that say how their content is read. */
const tags = { epoch: 1, natural: 2, negative: 3, decimal: 4, uuid: 37 };
/** Tags of which the content says all that JSON can hold. */
const plainTags = new Set([0, 21, 22, 23, 24, 32, 33, 34, 35, 36, 55799]);

/**
 * CBOR (RFC 8949): a sequence of items (RFC 8742), each a payload. Bytes are text in base64, tagged numbers and times are
 * numbers and RFC 3339; a column is a byte of the payload.
 */
export const cbor: Format = {
  async *read(input, bytes, notes) {
    const held = await wholeOf(bytes(), input.limit, () => tooLarge(input));
    const out = piecesOf(input.name);
    const tokens = new Tokenizer(held, { allowBigInt: true });
    for (let payload = 1; !tokens.done(); payload++) {
      const reader = new Reader(tokens, out, input.name, payload, (message) =>
        notes({ message, place: { file: input.name, line: payload, column: 1 } }),
      );
      reader.value();
      out.end();
      if (out.characters > batchSize) yield out.take();
    }
    if (out.isDue) yield out.take();
  },
};

class Reader {
  private readonly start: number;
  private depth = 0;

  constructor(
    private readonly tokens: Tokenizer,
    private readonly out: JsonPieces,
    private readonly name: string,
    private readonly payload: number,
    private readonly note: (message: string) => void,
  ) {
    this.start = tokens.pos();
  }

  private refuse(at: number, message: string, remedy: string): never {
    throw unread(this.name, this.payload, at - this.start, message, remedy);
  }

  private next(): Token {
    const at = this.tokens.pos();
    if (this.tokens.done()) this.refuse(at, 'the payload is cut off', 'Check that the download is complete.');
    try {
      return this.tokens.next();
    } catch (error) {
      const why = (error as Error).message.replace(/^CBOR decode error: /, '');
      return this.refuse(at, `this is not CBOR: ${why}`, 'Check that the download is complete.');
    }
  }

  value(token = this.next(), at = this.tokens.pos() - token.encodedLength!): void {
    const { out } = this;
    const place = placeIn(this.payload, at - this.start);
    const { type, value } = token as { readonly type: Type; readonly value: unknown };
    if (++this.depth > deepest)
      this.refuse(at, `values are nested more than ${deepest} deep`, 'Send a part of the document.');
    switch (type.name) {
      case 'uint':
      case 'negint':
        out.put(String(value), place);
        break;
      case 'float':
        out.put(
          numberText(value as number, (message, remedy) => this.refuse(at, message, remedy)),
          place,
        );
        break;
      case 'string':
        out.put(quoted(value as string), place);
        break;
      case 'bytes':
        out.put(quoted(Buffer.from(value as Uint8Array).toString('base64')), place);
        break;
      case 'true':
      case 'false':
      case 'null':
        out.put(type.name, place);
        break;
      case 'undefined':
        this.note('undefined is read as null');
        out.put('null', place);
        break;
      case 'array':
        out.put('[', place);
        this.items(value as number, false);
        out.put(']');
        break;
      case 'map':
        out.put('{', place);
        this.items(value as number, true);
        out.put('}');
        break;
      case 'tag':
        this.tagged(Number(value), at, place);
        break;
      default:
        this.refuse(
          at,
          `this is not CBOR: a ${type.name} stands alone`,
          'Check that the download is complete.',
        );
    }
    this.depth--;
  }

  /** @param count Infinity for what ends with a break */
  private items(count: number, hasKeys: boolean): void {
    for (let i = 0; i < count; i++) {
      const at = this.tokens.pos();
      const token = this.next();
      if (token.type.name === 'break' && count === Infinity) return;
      if (i > 0) this.out.put(',');
      if (hasKeys) {
        this.out.put(`${quoted(this.key(token, at))}:`, placeIn(this.payload, at - this.start));
        this.value();
      } else this.value(token, at);
    }
  }

  private key({ type, value }: Token, at: number): string {
    if (type.name === 'string') return value as string;
    if (type.name === 'uint' || type.name === 'negint') {
      this.note('keys that are whole numbers are read as text');
      return String(value);
    }
    return this.refuse(at, 'a key here is no text', 'Send text as keys: JSON has no others.');
  }

  private tagged(tag: number, at: number, place: number): void {
    const { out } = this;
    if (plainTags.has(tag)) {
      this.value();
      return;
    }
    if (tag === tags.natural || tag === tags.negative) {
      out.put(String(this.wide(tag, at)), place);
      return;
    }
    if (tag === tags.uuid) {
      const { type, value } = this.next();
      if (type.name !== 'bytes' || (value as Uint8Array).length !== 16)
        this.refuse(at, 'a UUID is 16 bytes', 'See RFC 9562.');
      const hex = Buffer.from(value as Uint8Array).toString('hex');
      out.put(`"${hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, '$1-$2-$3-$4-')}"`, place);
      return;
    }
    if (tag === tags.decimal) {
      const list = this.next();
      const parts =
        list.type.name === 'array' && list.value === 2 ? [this.integer(at), this.integer(at)] : [];
      const [exponent, digits] = parts;
      if (exponent === undefined || digits === undefined)
        this.refuse(at, 'a decimal fraction is a list of two whole numbers', 'See RFC 8949, section 3.4.4.');
      const isShort = exponent <= 0n && exponent > -40n;
      out.put(isShort ? scaledText(digits, Number(-exponent)) : `${digits}e${exponent}`, place);
      return;
    }
    if (tag === tags.epoch) {
      const token = this.next();
      const seconds = Number(token.value);
      const whole = Math.floor(seconds);
      const text =
        /int|float/.test(token.type.name) && Number.isFinite(seconds)
          ? instantText(BigInt(whole), Math.round((seconds - whole) * 1e6) * 1000)
          : undefined;
      if (text === undefined) this.refuse(at, 'this is no time since 1970', 'See RFC 8949, section 3.4.2.');
      out.put(quoted(text), place);
      return;
    }
    this.note(`the tag ${tag} is not kept, only what it is on`);
    this.value();
  }

  private integer(at: number): bigint {
    const { type, value } = this.next();
    if (type.name === 'uint' || type.name === 'negint') return BigInt(value as number | bigint);
    const tag = Number(value);
    if (type.name === 'tag' && (tag === tags.natural || tag === tags.negative)) return this.wide(tag, at);
    return this.refuse(at, 'this is no whole number', 'See RFC 8949, section 3.4.4.');
  }

  private wide(tag: number, at: number): bigint {
    const { type, value } = this.next();
    if (type.name !== 'bytes') this.refuse(at, 'a wide number is bytes', 'See RFC 8949, section 3.4.3.');
    const hex = Buffer.from(value as Uint8Array).toString('hex');
    const number = BigInt(`0x${hex === '' ? '0' : hex}`);
    return tag === tags.natural ? number : -1n - number;
  }
}
