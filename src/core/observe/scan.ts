/**
 * The hot loop: profiles JSON bytes into an `Observation` without building objects, and key strings only for
 * keys not guessed. Measured by `npm run bench -- infer` against a loop of JSON.parse over the same lines;
 * a version that walked a parsed tree took 3 to 4 times as long.
 *
 * It guesses that the next key is the one that followed last time and compares bytes. It knows the grammar of
 * RFC 8259 but not how to explain a violation: it returns -1, and `parseJson` finds the error again for people.
 */
import { SkevoError } from '../error.js';
import { doubleCarries, widthToExpect, widerOf, type IntegerWidth } from '../json/number.js';
import { columnBetween, hasByteOrderMark, type Source } from '../json/source.js';
import {
  collapse,
  exampleLength,
  Field,
  fold,
  joinPositions,
  longestTuple,
  mostFields,
  noteForm,
  Place,
  type Sighting,
} from './observation.js';
import { formOfByte, formOfList, listForm, noForm, objectForm, type Form } from './form.js';
import { mostShapes, type Shape } from './shape.js';
import { readingOf } from './untyped.js';
import { formatsOf, formatsOfText } from './text-format.js';
import { hashStep, isTokenByte, longestToken, many, withIdentifier } from './token.js';
import type { Origin } from '../json/origin.js';
import type { Mark } from './mark.js';
import { placesBelow, widestIn } from './widest.js';

/** Nesting beyond which no types are inferred: generated decoders in every language must be able to follow. */
export const deepest = 200;

/** How many different keys of all objects together are observed; each takes about two kilobytes. */
export interface PlaceLimits {
  /** From so many on, keys over what looks alike are taken for data. */
  readonly many: number;
  /** From so many on, any. */
  readonly most: number;
}

export const placeLimits: PlaceLimits = { many: 32_000, most: 150_000 };

const lenient = new TextDecoder('utf-8', { ignoreBOM: true });

export class Scanner {
  /** Whether an object of the last scanned value had a key twice. */
  sawDuplicate = false;
  /** Whether the keys of objects were put together because there were too many. */
  hasFolded = false;
  /** Whether the last scan gave up because of nesting beyond `deepest`. */
  tooDeep = false;

  private bytes: Uint8Array = new Uint8Array(0);
  private file = '';
  private origin: Origin | undefined = undefined;
  private end = 0;
  private depth = 0;
  private serial = 0;
  private placesFound = 0;
  private relieveAt: number;
  /** Keys that mark the objects of trees, where there are many places. */
  private markers: readonly string[] = [];
  /** What the last scan counts into. */
  private top = new Place();
  /** Whether the last string had an escape. */
  private escaped = false;

  // Where the last mark was put, so that lines are counted once.
  private line = 1;
  private column = 1;
  private firstColumn = 1;
  private counted = 0;

  constructor(private readonly limits: PlaceLimits = placeLimits) {
    this.relieveAt = limits.many;
  }

  /** Says what the next scans read. */
  open(source: Source): void {
    this.bytes = source.bytes;
    this.file = source.name;
    this.origin = source.origin;
    this.line = source.firstLine;
    this.column = this.firstColumn = source.firstColumn ?? 1;
    this.counted = hasByteOrderMark(source.bytes) ? 3 : 0;
  }

  /**
   * Says that the next scans read part of a chunk of lines.
   * @param lineStart offset in `bytes` at which the line begins
   */
  openLine(file: string, bytes: Uint8Array, line: number, lineStart: number): void {
    this.bytes = bytes;
    this.file = file;
    this.origin = undefined;
    this.line = line;
    this.column = this.firstColumn = 1;
    this.counted = lineStart;
  }

  /**
   * Counts one JSON value and the space around it.
   * @returns whether bytes from `start` to `end` are exactly one JSON text that could be counted
   */
  scan(place: Place, start: number, end: number): boolean {
    this.end = end;
    this.top = place;
    this.depth = 0;
    this.sawDuplicate = false;
    this.tooDeep = false;
    const after = this.value(place, this.space(start));
    return after >= 0 && this.space(after) === end;
  }

  private space(p: number): number {
    const { bytes, end } = this;
    while (p < end) {
      const byte = bytes[p]!;
      if (byte !== 0x20 && byte !== 0x0a && byte !== 0x0d && byte !== 0x09) break;
      p++;
    }
    return p;
  }

  private value(place: Place, p: number): number {
    const { bytes } = this;
    if (p >= this.end) return -1;
    switch (bytes[p]) {
      case 0x22: {
        this.escaped = false;
        const after = this.string(p + 1);
        if (after < 0) return -1;
        if (this.origin !== undefined && this.isUntyped(place, p, after)) return after;
        if (place.strings++ === 0) place.firstString = this.sighting(p, after);
        const length = after - p - 2;
        if (length < place.shortest) place.shortest = length;
        if (length > place.longest) place.longest = length;
        if (place.tokens !== undefined) this.token(place, p + 1, after - 1);
        if (place.ids !== undefined && place.ids !== many) this.identifier(place, p, after);
        if (place.formats !== 0) this.format(place, p + 1, after - 1);
        return after;
      }
      case 0x7b:
        return this.object(place, p);
      case 0x5b:
        return this.list(place, p);
      case 0x74:
        if (bytes[p + 1] !== 0x72 || bytes[p + 2] !== 0x75 || bytes[p + 3] !== 0x65 || p + 4 > this.end)
          return -1;
        place.trues++;
        place.firstBoolean ??= this.sighting(p, p + 4);
        return p + 4;
      case 0x66:
        if (bytes[p + 1] !== 0x61 || bytes[p + 2] !== 0x6c || bytes[p + 3] !== 0x73) return -1;
        if (bytes[p + 4] !== 0x65 || p + 5 > this.end) return -1;
        place.falses++;
        place.firstBoolean ??= this.sighting(p, p + 5);
        return p + 5;
      case 0x6e:
        if (bytes[p + 1] !== 0x75 || bytes[p + 2] !== 0x6c || bytes[p + 3] !== 0x6c || p + 4 > this.end)
          return -1;
        place.nulls++;
        if (this.origin?.hasNoLists) place.singles++;
        place.firstNull ??= this.mark(p);
        return p + 4;
      default:
        return this.number(place, p);
    }
  }

  private object(place: Place, start: number): number {
    const { bytes } = this;
    if (++this.depth > deepest) return this.giveUp();
    const serial = this.serial++;
    const isFirst = place.objects++ === 0;
    if (this.origin?.hasNoLists) place.singles++;
    place.firstObject ??= this.mark(start);
    let steady = 0;
    let shape = place.shapes;
    let p = this.space(start + 1);
    if (p < this.end && bytes[p] === 0x7d) {
      place.emptyObjects++;
      p++;
    } else {
      if (place.values !== undefined) return this.map(place, p, start, serial);
      let guess = place.opening;
      let previous: Field | undefined = undefined;
      for (;;) {
        if (p >= this.end || bytes[p] !== 0x22) return -1;

        // The key: as guessed, or looked up.
        let field: Field;
        let after = guess === undefined ? -1 : this.matches(guess.literal, p);
        if (after > 0) {
          field = guess!;
        } else {
          const second: Field | undefined = guess?.follower;
          after = second === undefined ? -1 : this.matches(second.literal, p);
          if (after > 0) {
            field = second!;
          } else {
            after = this.string(p + 1);
            if (after < 0) return -1;
            const found = this.lookUp(place, p, after, isFirst);
            if (found === undefined) return this.map(place, p, start, serial);
            field = found;
          }
          if (previous === undefined) place.opening = field;
          else previous.follower = field;
        }
        if (field.lastObject === serial) {
          this.sawDuplicate = true;
        } else {
          field.lastObject = serial;
          field.present++;
          if (field.firstAbsent === undefined) steady++;
          if (shape !== undefined) {
            shape =
              shape.lastField === field
                ? shape.lastStep
                : (shape.with(field) ?? this.newShape(place, shape, field));
          }
          if (field.place.tokens !== undefined) field.place.lastToken = undefined;
        }
        previous = field;
        guess = field.follower;

        p = after;
        if (bytes[p] !== 0x3a) p = this.space(p);
        if (p >= this.end || bytes[p] !== 0x3a) return -1;
        p++;
        if (bytes[p]! <= 0x20) p = this.space(p);
        let form: Form = formOfByte[bytes[p]!]!;
        if (form === objectForm || form === listForm) {
          // Keys may be put together while what is inside is read.
          place.current = field;
          p = this.value(field.place, p);
          form = field.place.lastForm;
        } else p = this.value(field.place, p);
        if (p < 0) return -1;
        if (this.hasFolded && place.values !== undefined) {
          // The other keys were put together while this one was read.
          place.current = undefined;
          if (!field.isKept) fold(place, field);
          p = this.space(p);
          if (p >= this.end) return -1;
          const byte = bytes[p++];
          if (byte === 0x7d) return this.endOfMap(place, p, start, serial);
          return byte === 0x2c ? this.map(place, this.space(p), start, serial) : -1;
        }
        if (form !== field.lastForm) {
          if (shape !== undefined) noteForm(place, field, form);
          field.lastForm = form;
        }
        if (bytes[p]! <= 0x20) p = this.space(p);
        if (p >= this.end) return -1;
        const byte = bytes[p];
        p++;
        if (byte === 0x7d) break;
        if (byte !== 0x2c) return -1;
        if (bytes[p]! <= 0x20) p = this.space(p);
      }
    }
    if (shape !== undefined) {
      shape.count++;
      if (place.candidates.length > 0) this.noteTokens(place, shape, serial);
      place.lastForm = -shape.serial;
    } else {
      place.lastForm = objectForm;
    }
    place.current = undefined;
    if (steady < place.steadyFields) this.noteAbsent(place, start, serial);
    this.depth--;
    return p;
  }

  private list(place: Place, start: number): number {
    const { bytes } = this;
    if (++this.depth > deepest) return this.giveUp();
    place.lists++;
    place.firstList ??= this.mark(start);
    let forms: Form = noForm;
    let p = this.space(start + 1);
    if (p < this.end && bytes[p] === 0x5d) {
      place.emptyLists++;
      p++;
    } else {
      for (let i = 0; ; i++) {
        let element = place.items;
        const { positions } = place;
        if (positions !== undefined) {
          if (i < positions.length) element = positions[i]!;
          else if (place.lists - place.emptyLists === 1 && i < longestTuple)
            element = positions[i] = new Place();
          else joinPositions(place);
        }
        element ??= place.items ??= new Place();
        const form: Form = formOfByte[bytes[p]!]!;
        p = this.value(element, p);
        if (p < 0) return -1;
        forms |= form === listForm ? element.lastForm : form;
        if (bytes[p]! <= 0x20) p = this.space(p);
        if (p >= this.end) return -1;
        const byte = bytes[p];
        p++;
        if (byte === 0x5d) {
          if (place.positions !== undefined && place.positions.length !== i + 1) joinPositions(place);
          break;
        }
        if (byte !== 0x2c) return -1;
        if (bytes[p]! <= 0x20) p = this.space(p);
      }
    }
    place.lastForm = formOfList(forms);
    this.depth--;
    return p;
  }

  /** The members from `p` on of an object most of whose keys are not fields. */
  private map(place: Place, p: number, start: number, serial: number): number {
    const { bytes } = this;
    for (;;) {
      if (p >= this.end || bytes[p] !== 0x22) return -1;
      this.escaped = false;
      const after = this.string(p + 1);
      if (after < 0) return -1;
      const kept = place.fields.size === 0 ? undefined : place.fields.get(this.keyBetween(p, after));
      if (kept !== undefined) {
        if (kept.lastObject === serial) this.sawDuplicate = true;
        else kept.present++;
        kept.lastObject = serial;
      }
      p = this.space(after);
      if (p >= this.end || bytes[p] !== 0x3a) return -1;
      p = this.value(kept?.place ?? place.values!, this.space(p + 1));
      if (p < 0) return -1;
      p = this.space(p);
      if (p >= this.end) return -1;
      const byte = bytes[p++];
      if (byte === 0x7d) return this.endOfMap(place, p, start, serial);
      if (byte !== 0x2c) return -1;
      p = this.space(p);
    }
  }

  private endOfMap(place: Place, p: number, start: number, serial: number): number {
    this.noteAbsent(place, start, serial);
    place.lastForm = objectForm;
    this.depth--;
    return p;
  }

  /** Notes the fields that the object which begins at `start` lacks. */
  private noteAbsent(place: Place, start: number, serial: number): void {
    for (const field of place.fields.values()) {
      if (field.lastObject !== serial && field.firstAbsent === undefined) {
        field.firstAbsent = this.mark(start);
        place.steadyFields--;
      }
    }
  }

  private newShape(place: Place, shape: Shape, field: Field): Shape | undefined {
    if (++place.shapeCount <= mostShapes) return shape.add(field, place.shapeCount);
    place.shapes = undefined;
    return undefined;
  }

  /** Notes which tokens stood in an object of a shape. */
  private noteTokens(place: Place, shape: Shape, serial: number): void {
    const { candidates } = place;
    for (let i = candidates.length - 1; i >= 0; i--) {
      const field = candidates[i]!;
      if (field.place.tokens === undefined) {
        candidates.splice(i, 1);
        continue;
      }
      const token = field.place.lastToken;
      if (field.lastObject !== serial || token === undefined) continue;
      if (token.lastShape !== shape) {
        token.lastShape = shape;
        token.shapes.add(shape);
      }
      for (const varied of place.varied) {
        if (varied.lastObject === serial && varied !== field) token.addForm(varied, varied.lastForm);
      }
    }
  }

  /** Notes what a string of a file without types may stand for. @returns whether it is empty, and is all noted */
  private isUntyped(place: Place, p: number, after: number): boolean {
    if (this.origin!.hasNoLists) place.singles++;
    if (!this.origin!.hasNoTypes) return false;
    if (after - p === 2) {
      place.blanks++;
      place.firstBlank ??= this.mark(p);
      return true;
    }
    if (place.strings > 0 && place.read === undefined) return false;
    const reading = this.escaped ? undefined : readingOf(this.text(p + 1, after - 1));
    if (reading === undefined) place.read = undefined;
    else if (reading === 'boolean') this.value((place.read ??= new Place()), p + 1);
    else this.number((place.read ??= new Place()), p + 1);
    return false;
  }

  private token(place: Place, start: number, end: number): void {
    const { bytes } = this;
    let hash = 0;
    let p = start;
    if (end - start <= longestToken && end > start) {
      for (; p < end; p++) {
        const byte = bytes[p]!;
        if (!isTokenByte(byte)) break;
        hash = hashStep(hash, byte);
      }
    }
    const token = p === end && end > start ? place.tokens!.find(bytes, start, end, hash) : undefined;
    if (token === undefined) {
      place.tokens = undefined;
    } else {
      token.count++;
      place.lastToken = token;
    }
  }

  private identifier(place: Place, start: number, end: number): void {
    if (place.ids !== many)
      place.ids = withIdentifier(place.ids!, this.text(start, Math.min(end, start + 200)));
  }

  private format(place: Place, start: number, end: number): void {
    place.formats &= this.formatsBetween(start, end, place.formats);
  }

  private formatsBetween(start: number, end: number, mask: number): number {
    if (this.escaped) return mask & formatsOfText(JSON.parse(this.text(start - 1, end + 1)) as string);
    return formatsOf(this.bytes, start, end, mask);
  }

  /** The offset after the literal when it stands at `p`, or -1. */
  private matches(literal: Uint8Array, p: number): number {
    const { bytes } = this;
    const { length } = literal;
    if (p + length > this.end) return -1;
    for (let i = 1; i < length; i++) if (bytes[p + i] !== literal[i]) return -1;
    return p + length;
  }

  /** The field of a key; undefined when the keys of the place are too many to be fields. */
  private lookUp(place: Place, p: number, after: number, isFirst: boolean): Field | undefined {
    const key = this.keyBetween(p, after);
    const known = place.fields.get(key);
    if (known !== undefined) return known;
    place.current = undefined;
    if (place.fields.size === mostFields) {
      collapse(place);
    } else if (++this.placesFound > this.relieveAt) this.relieve(p);
    if (place.values !== undefined) return undefined;
    const field = new Field(key, this.mark(p), this.bytes.slice(p, after));
    place.candidates.push(field);
    if (isFirst) place.steadyFields++;
    else field.firstAbsent = place.firstObject;
    place.fields.set(key, field);
    if (this.markers.includes(key)) {
      collapse(place, new Set([key]));
      this.hasFolded = true;
    }
    return field;
  }

  /** Puts keys together that seem to be data until there are far fewer places. */
  private relieve(p: number): void {
    const { many, most } = this.limits;
    const isFull = this.placesFound >= most;
    const aim = (isFull ? most : many) / 2;
    let left = placesBelow(this.top);
    // What is not below here is not to be put together here.
    if (isFull && left < aim) throw this.tooMany(p);
    while (left > aim) {
      const before = left;
      const { widest, markers } = widestIn(this.top, isFull);
      this.markers = markers;
      for (const { place, kept, size } of widest) {
        collapse(place, kept);
        this.hasFolded = true;
        left -= size - placesBelow(place);
        if (left <= aim) break;
      }
      if (left < before) continue;
      if (isFull) throw this.tooMany(p);
      break;
    }
    this.placesFound = left;
    // Where nothing looked alike, it is tried again when there is much more.
    this.relieveAt = Math.max(many, Math.min(most, 2 * left));
  }

  private keyBetween(start: number, end: number): string {
    const literal = lenient.decode(this.bytes.subarray(start, end));
    return literal.includes('\\') ? (JSON.parse(literal) as string) : literal.slice(1, -1);
  }

  /** @param p the offset after the opening quote; @returns the offset after the closing one, or -1 */
  private string(p: number): number {
    const { bytes, end } = this;
    while (p < end) {
      const byte = bytes[p]!;
      if (byte === 0x22) return p + 1;
      if (byte >= 0x80) {
        p = this.utf8Sequence(p, byte);
        if (p < 0) return -1;
      } else if (byte === 0x5c) {
        this.escaped = true;
        const letter = bytes[p + 1]!;
        if (letter === 0x75) {
          if (p + 6 > end || !isHex(bytes[p + 2]!) || !isHex(bytes[p + 3]!)) return -1;
          if (!isHex(bytes[p + 4]!) || !isHex(bytes[p + 5]!)) return -1;
          p += 6;
        } else {
          if (p + 2 > end || !isEscape(letter)) return -1;
          p += 2;
        }
      } else if (byte < 0x20) {
        return -1;
      } else {
        p++;
      }
    }
    return -1;
  }

  /** RFC 3629 section 4: no overlong forms, no surrogates, nothing above U+10FFFF. */
  private utf8Sequence(p: number, lead: number): number {
    const { bytes } = this;
    const second = bytes[p + 1]!;
    if (lead >= 0xc2 && lead <= 0xdf) return (second & 0xc0) === 0x80 && p + 2 <= this.end ? p + 2 : -1;
    const third = bytes[p + 2]!;
    if (lead >= 0xe0 && lead <= 0xef) {
      const low = lead === 0xe0 ? 0xa0 : 0x80;
      const high = lead === 0xed ? 0x9f : 0xbf;
      return second >= low && second <= high && (third & 0xc0) === 0x80 && p + 3 <= this.end ? p + 3 : -1;
    }
    if (lead < 0xf0 || lead > 0xf4) return -1;
    const low = lead === 0xf0 ? 0x90 : 0x80;
    const high = lead === 0xf4 ? 0x8f : 0xbf;
    if (second < low || second > high || (third & 0xc0) !== 0x80) return -1;
    return (bytes[p + 3]! & 0xc0) === 0x80 && p + 4 <= this.end ? p + 4 : -1;
  }

  private number(place: Place, start: number): number {
    const { bytes, end } = this;
    let p = start;
    if (bytes[p] === 0x2d) p++;
    const first = p < end ? bytes[p]! : 0;
    if (first === 0x30) {
      p++;
    } else {
      if (first < 0x31 || first > 0x39) return -1;
      do p++;
      while (p < end && bytes[p]! >= 0x30 && bytes[p]! <= 0x39);
    }
    const byte = p < end ? bytes[p]! : 0;
    // Integers have no negative zero: it is a number of the other kind.
    const isNegativeZero = first === 0x30 && p - start === 2;
    if (byte !== 0x2e && (byte | 0x20) !== 0x65 && !isNegativeZero) {
      if (byte >= 0x30 && byte <= 0x39) return -1;
      if (place.integers++ === 0) {
        place.firstInteger = this.sighting(start, p);
        place.firstWide = place.firstInteger;
      }
      if (place.ids !== undefined && place.ids !== many) this.identifier(place, start, p);
      if (p - start > 8 && p - start > carried[place.width]) this.widen(place, start, p);
      return p;
    }
    if (byte >= 0x30 && byte <= 0x39) return -1;
    let plain = true;
    if (byte === 0x2e) {
      const fraction = ++p;
      while (p < end && bytes[p]! >= 0x30 && bytes[p]! <= 0x39) p++;
      if (p === fraction) return -1;
    }
    if (p < end && (bytes[p]! | 0x20) === 0x65) {
      plain = false;
      p++;
      if (p < end && (bytes[p] === 0x2b || bytes[p] === 0x2d)) p++;
      const exponent = p;
      while (p < end && bytes[p]! >= 0x30 && bytes[p]! <= 0x39) p++;
      if (p === exponent) return -1;
    }
    if (place.decimals++ === 0) place.firstDecimal = this.sighting(start, p);
    if ((!plain || p - start > 15) && !doubleCarries(this.text(start, p))) {
      if (place.exact++ === 0) place.firstExact = this.sighting(start, p);
    }
    return p;
  }

  private widen(place: Place, start: number, end: number): void {
    const width = widerOf(place.width, widthToExpect(this.text(start, end)));
    if (width === place.width) return;
    place.width = width;
    place.firstWide = this.sighting(start, end);
  }

  private tooMany(p: number): SkevoError {
    const { file, line, column } = this.mark(p);
    return new SkevoError(
      `the payloads have more than ${this.limits.most} different places`,
      'Keys at several levels seem to be data; use --at to select the records below them.',
      { file, line, column },
    );
  }

  private giveUp(): number {
    this.tooDeep = true;
    return -1;
  }

  private text(start: number, end: number): string {
    if (end - start < 24) {
      let text = '';
      let p = start;
      while (p < end && this.bytes[p]! < 0x80) text += String.fromCharCode(this.bytes[p++]!);
      if (p === end) return text;
    }
    return lenient.decode(this.bytes.subarray(start, end));
  }

  private sighting(start: number, end: number): Sighting {
    const text = this.text(start, Math.min(end, start + 4 * exampleLength));
    const cut = [...text];
    return {
      ...this.mark(start),
      example: cut.length > exampleLength ? `${cut.slice(0, exampleLength - 1).join('')}…` : text,
    };
  }

  private mark(offset: number): Mark {
    if (this.origin !== undefined) return { file: this.file, ...this.origin.at(offset) };
    if (offset < this.counted) return this.markBack(offset);
    for (let i = this.counted; i < offset; i++) {
      const byte = this.bytes[i]!;
      if (byte === 0x0a) {
        this.line++;
        this.column = 1;
      } else if ((byte & 0xc0) !== 0x80) {
        this.column++;
      }
    }
    this.counted = offset;
    return { file: this.file, line: this.line, column: this.column };
  }

  /** The mark of an offset before the last one; costs the distance, or that and its line. */
  private markBack(offset: number): Mark {
    let { line } = this;
    let back = 0;
    for (let i = offset; i < this.counted; i++) {
      const byte = this.bytes[i]!;
      if (byte === 0x0a) line--;
      if ((byte & 0xc0) !== 0x80) back++;
    }
    if (line === this.line) return { file: this.file, line, column: this.column - back };
    let lineStart = offset;
    while (lineStart > 0 && this.bytes[lineStart - 1] !== 0x0a) lineStart--;
    const before = lineStart === 0 ? this.firstColumn - 1 : 0;
    return { file: this.file, line, column: before + columnBetween(this.bytes, lineStart, offset) };
  }
}

/** Characters that an integer of a width may have without a closer look. */
const carried: Readonly<Record<IntegerWidth, number>> = {
  int32: 8,
  'double-int': 15,
  int64: 18,
  unbounded: Infinity,
};

function isHex(byte: number): boolean {
  return (byte >= 0x30 && byte <= 0x39) || ((byte | 0x20) >= 0x61 && (byte | 0x20) <= 0x66);
}

function isEscape(byte: number): boolean {
  switch (byte) {
    case 0x22:
    case 0x5c:
    case 0x2f:
    case 0x62:
    case 0x66:
    case 0x6e:
    case 0x72:
    case 0x74:
      return true;
    default:
      return false;
  }
}
