import type { TextForm } from '../model/types.js';

/**
 * What a text can be recognised as. Each has one bit, so that what all texts of a place have in common is the
 * bitwise and of what each of them is.
 */
export const textFormat = {
  'date-time': 1,
  date: 2,
  time: 4,
  duration: 8,
  uuid: 16,
  uri: 32,
  email: 64,
  ipv4: 128,
  ipv6: 256,
  base64: 512,
  /** A number in JSON's spelling. */
  number: 1024,
  /** RFC 6570; a URI without variables is one too. */
  'uri-template': 2048,
} as const;

export type TextFormat = keyof typeof textFormat;

/**
 * The bit of a date-time, a date, a UUID or base64 that comes back as it was, in instant and offset, from the types that
 * languages have for them.
 */
export const nativeBit = 4096;

export const everyFormat = 8191;

/** The formats of a mask. */
export function formatsIn(mask: number): TextFormat[] {
  return (Object.keys(textFormat) as TextFormat[]).filter((format) => (mask & textFormat[format]) !== 0);
}

/**
 * Which formats of a mask a text has.
 * @param bytes its UTF-8, from `start` to `end`, free of JSON escapes
 */
export function formatsOf(bytes: Uint8Array, start: number, end: number, mask: number): number {
  const length = end - start;
  if (length === 0 || length > 2048)
    return length === 0 ? 0 : mask & (isBase64(bytes, start, end) ? textFormat.base64 : 0);
  const first = bytes[start]!;
  let found = 0;
  const digit = isDigit(first);
  if (digit) {
    if (
      mask & 1 &&
      length >= 20 &&
      isDate(bytes, start) &&
      isTimeSeparator(bytes[start + 10]!) &&
      isTime(bytes, start + 11, end)
    )
      found |= 1;
    if (mask & 2 && length === 10 && isDate(bytes, start)) found |= 2;
    if (mask & 4 && length >= 8 && isTime(bytes, start, end)) found |= 4;
    if (mask & 128 && length <= 15 && isIpv4(bytes, start, end)) found |= 128;
  }
  if (mask & 8 && first === 0x50 && length >= 3 && duration.test(ascii(bytes, start, end))) found |= 8;
  if (mask & 16 && length === 36 && isUuid(bytes, start)) found |= 16;
  if (mask & 2080) found |= mask & uriFormats(bytes, start, end);
  if (mask & 64 && isEmail(bytes, start, end)) found |= 64;
  if (mask & 256 && length <= 45 && (isHex(first) || first === 0x3a) && ipv6.test(ascii(bytes, start, end)))
    found |= 256;
  if (mask & 512 && isBase64(bytes, start, end)) found |= 512;
  if (mask & nativeBit && found & nativeFormats && isNative(bytes, start, end, found)) found |= nativeBit;
  if (mask & 1024 && length <= 40 && (digit || first === 0x2d) && number.test(ascii(bytes, start, end)))
    found |= 1024;
  return found;
}

const utf8 = new TextEncoder();

const nativeFormats = textFormat['date-time'] | textFormat.date | textFormat.uuid | textFormat.base64;

/** Digits of a second that the native types of most languages hold. */
const mostDigits = 6;

/** Whether a text of one of the native formats is one that native types carry. */
function isNative(bytes: Uint8Array, start: number, end: number, found: number): boolean {
  if (found & textFormat.uuid) {
    for (let i = start; i < end; i++) if (isLetter(bytes[i]!) && bytes[i]! < 0x61) return false;
    return true;
  }
  // The bits of the last letter that stand for no byte.
  if (found & textFormat.base64) {
    const padding = bytes[end - 2] === 0x3d ? 2 : bytes[end - 1] === 0x3d ? 1 : 0;
    return padding === 0 || (sextet(bytes[end - padding - 1]!) & (padding === 2 ? 15 : 3)) === 0;
  }
  // No year 0, no second that is put in, no hour that no zone is ahead by.
  if (two(bytes, start) === 0 && two(bytes, start + 2) === 0) return false;
  if (found & textFormat.date) return true;
  if (bytes[start + 10] !== 0x54 || bytes[end - 1] === 0x7a || two(bytes, start + 17) === 60) return false;
  const offset = bytes[end - 1] === 0x5a ? end - 1 : end - 6;
  const isAhead = offset === end - 6 && two(bytes, offset + 1) * 60 + two(bytes, offset + 4) > 14 * 60;
  return !isAhead && offset - (start + 19) <= mostDigits + 1;
}

/** RFC 4648 section 4, with nothing in the bits that stand for no byte. */
const canonicalBase64 =
  /^(?:[A-Za-z0-9+/]{4})*(?:[A-Za-z0-9+/][AQgw]==|[A-Za-z0-9+/]{2}[AEIMQUYcgkosw048]=)?$/;

/** Whether a text of a form comes back as it was from the type that languages have for it. */
export function isCarriedNatively(text: string, form: TextForm): boolean {
  if (form === 'base64') return canonicalBase64.test(text);
  const bytes = utf8.encode(text);
  return (formatsOf(bytes, 0, bytes.length, textFormat[form] | nativeBit) & nativeBit) !== 0;
}

/** Which formats a text has. */
export function formatsOfText(text: string): number {
  const bytes = utf8.encode(text);
  return formatsOf(bytes, 0, bytes.length, everyFormat);
}

/** RFC 3339 appendix A. */
const duration =
  /^P(?:\d+W|(?=\d|T\d)(?:\d+Y)?(?:\d+M)?(?:\d+D)?(?:T(?=\d)(?:\d+H)?(?:\d+M)?(?:\d+(?:\.\d+)?S)?)?)$/;
const number = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;
/** RFC 4291 section 2.2, dotted quads aside. */
const ipv6 =
  /^(?=.*:.*:)(?!.*::.*::)(?!.*:::)(?:(?:[0-9a-fA-F]{1,4}:){7}[0-9a-fA-F]{1,4}|(?=(?:[^:]*:){2,7}[^:]*$)(?:[0-9a-fA-F]{1,4}(?::[0-9a-fA-F]{1,4})*)?::(?:[0-9a-fA-F]{1,4}(?::[0-9a-fA-F]{1,4})*)?)$/;

function isDigit(byte: number): boolean {
  return byte >= 0x30 && byte <= 0x39;
}

function isHex(byte: number): boolean {
  return isDigit(byte) || ((byte | 0x20) >= 0x61 && (byte | 0x20) <= 0x66);
}

function isLetter(byte: number): boolean {
  return (byte | 0x20) >= 0x61 && (byte | 0x20) <= 0x7a;
}

function isTimeSeparator(byte: number): boolean {
  return byte === 0x54 || byte === 0x74 || byte === 0x20;
}

function two(bytes: Uint8Array, at: number): number {
  const a = bytes[at]! - 0x30;
  const b = bytes[at + 1]! - 0x30;
  return a >= 0 && a <= 9 && b >= 0 && b <= 9 ? a * 10 + b : -1;
}

/** RFC 3339 full-date. */
function isDate(bytes: Uint8Array, at: number): boolean {
  if (bytes[at + 4] !== 0x2d || bytes[at + 7] !== 0x2d) return false;
  const century = two(bytes, at);
  const year = two(bytes, at + 2);
  const month = two(bytes, at + 5);
  const day = two(bytes, at + 8);
  if (century < 0 || year < 0 || month < 1 || month > 12 || day < 1 || day > 31) return false;
  if (day <= 28) return true;
  if (month === 2) {
    const full = century * 100 + year;
    return day === 29 && ((full % 4 === 0 && full % 100 !== 0) || full % 400 === 0);
  }
  return day <= (month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31);
}

/** RFC 3339 partial-time, with the offset that a date-time must have and a time of JSON Schema too. */
function isTime(bytes: Uint8Array, at: number, end: number): boolean {
  if (bytes[at + 2] !== 0x3a || bytes[at + 5] !== 0x3a) return false;
  const hour = two(bytes, at);
  const minute = two(bytes, at + 3);
  const second = two(bytes, at + 6);
  if (hour < 0 || hour > 23 || minute < 0 || minute > 59 || second < 0 || second > 60) return false;
  let p = at + 8;
  if (bytes[p] === 0x2e && p < end) {
    const from = ++p;
    while (p < end && isDigit(bytes[p]!)) p++;
    if (p === from) return false;
  }
  if (p >= end) return false;
  // A second that is put in is the last of a day in UTC.
  const isLast = (behind: number) =>
    second < 60 || (((hour * 60 + minute - behind) % 1440) + 1440) % 1440 === 1439;
  if ((bytes[p]! | 0x20) === 0x7a) return p + 1 === end && isLast(0);
  if (bytes[p] !== 0x2b && bytes[p] !== 0x2d) return false;
  const offsetHour = two(bytes, p + 1);
  const offsetMinute = two(bytes, p + 4);
  return (
    p + 6 === end &&
    bytes[p + 3] === 0x3a &&
    offsetHour >= 0 &&
    offsetHour <= 23 &&
    offsetMinute >= 0 &&
    offsetMinute <= 59 &&
    isLast((bytes[p] === 0x2d ? -1 : 1) * (offsetHour * 60 + offsetMinute))
  );
}

/** RFC 9562 section 4. */
function isUuid(bytes: Uint8Array, start: number): boolean {
  for (let i = 0; i < 36; i++) {
    const byte = bytes[start + i]!;
    if (i === 8 || i === 13 || i === 18 || i === 23) {
      if (byte !== 0x2d) return false;
    } else if (!isHex(byte)) return false;
  }
  return true;
}

/**
 * RFC 3986: a scheme and an authority or, for the few schemes without one, a path; with variables in braces after the
 * scheme (RFC 6570 section 2.2) a template.
 */
function uriFormats(bytes: Uint8Array, start: number, end: number): number {
  let p = start;
  if (!isLetter(bytes[p]!)) return 0;
  while (
    p < end &&
    p - start < 20 &&
    (isLetter(bytes[p]!) || isDigit(bytes[p]!) || bytes[p] === 0x2b || bytes[p] === 0x2d || bytes[p] === 0x2e)
  )
    p++;
  if (bytes[p] !== 0x3a || p >= end) return 0;
  const scheme = ascii(bytes, start, p).toLowerCase();
  const hierarchical = bytes[p + 1] === 0x2f && bytes[p + 2] === 0x2f && end > p + 3;
  if (!hierarchical && !['mailto', 'urn', 'tel', 'data', 'geo'].includes(scheme)) return 0;
  let variable = -1;
  let hasVariables = false;
  for (let i = p + 1; i < end; i++) {
    const byte = bytes[i]!;
    if (byte === 0x7b && variable < 0) variable = i;
    else if (byte === 0x7d && variable >= 0 && i > variable + 1) {
      hasVariables = true;
      variable = -1;
    } else if (
      byte <= 0x20 ||
      byte >= 0x7f ||
      byte === 0x22 ||
      byte === 0x3c ||
      byte === 0x3e ||
      byte === 0x5c ||
      byte === 0x5e ||
      byte === 0x60 ||
      byte === 0x7b ||
      byte === 0x7c ||
      byte === 0x7d
    ) {
      return 0;
    }
  }
  if (end <= p + 1 || variable >= 0) return 0;
  return hasVariables ? textFormat['uri-template'] : textFormat.uri | textFormat['uri-template'];
}

/** The dot-atom of RFC 5322 section 3.2.3, an at sign, and a host name with a dot. */
function isEmail(bytes: Uint8Array, start: number, end: number): boolean {
  let at = -1;
  let dot = -1;
  for (let i = start; i < end; i++) {
    const byte = bytes[i]!;
    if (byte === 0x40) {
      if (at >= 0) return false;
      at = i;
    } else if (byte === 0x2e) {
      if (
        i === start ||
        i === end - 1 ||
        bytes[i - 1] === 0x2e ||
        bytes[i - 1] === 0x40 ||
        bytes[i + 1] === 0x40
      )
        return false;
      if (at >= 0) dot = i;
    } else if (
      !isLetter(byte) &&
      !isDigit(byte) &&
      byte !== 0x2d &&
      (at >= 0 || (byte !== 0x5f && byte !== 0x2b && byte !== 0x27))
    ) {
      return false;
    }
  }
  return at > start && dot > at + 1 && end - dot > 2;
}

function isIpv4(bytes: Uint8Array, start: number, end: number): boolean {
  let parts = 0;
  let value = -1;
  for (let i = start; i <= end; i++) {
    const byte = i === end ? 0x2e : bytes[i]!;
    if (byte === 0x2e) {
      if (value < 0 || value > 255) return false;
      parts++;
      value = -1;
    } else if (isDigit(byte)) {
      if (value === 0) return false;
      value = (value < 0 ? 0 : value) * 10 + byte - 0x30;
    } else return false;
  }
  return parts === 4;
}

/** RFC 4648 section 4, padding included. */
function isBase64(bytes: Uint8Array, start: number, end: number): boolean {
  const length = end - start;
  if (length % 4 !== 0 || length < 16) return false;
  let last = end;
  if (bytes[last - 1] === 0x3d) last--;
  if (bytes[last - 1] === 0x3d) last--;
  // What has no capital, no small letter or nothing but hexadecimal digits is rather a word, a name or a hash.
  let capital = false;
  let small = false;
  let beyondHex = false;
  for (let i = start; i < last; i++) {
    const byte = bytes[i]!;
    if (!isLetter(byte) && !isDigit(byte) && byte !== 0x2b && byte !== 0x2f) return false;
    if (byte >= 0x61) small = true;
    else if (byte >= 0x41) capital = true;
    if (!isHex(byte)) beyondHex = true;
  }
  return capital && small && beyondHex && (length >= longEnough || isNoRandom(bytes, start, last));
}

/** From this length on, nothing else is written in the letters of base64 alone. */
const longEnough = 256;
/** Half of random bytes have their highest bit set; of text in most languages, and of small numbers, hardly any. */
const mostHigh = 0.2;

/** Whether the bytes that base64 stands for say something, as those of tokens and digests do not. */
function isNoRandom(bytes: Uint8Array, start: number, last: number): boolean {
  let bits = 0;
  let held = 0;
  let count = 0;
  let high = 0;
  for (let i = start; i < last; i++) {
    bits = ((bits << 6) | sextet(bytes[i]!)) & 0xfff;
    held += 6;
    if (held < 8) continue;
    held -= 8;
    count++;
    high += (bits >> (held + 7)) & 1;
  }
  return high <= mostHigh * count;
}

function sextet(byte: number): number {
  if (byte >= 0x61) return byte - 0x61 + 26;
  if (byte >= 0x41) return byte - 0x41;
  return byte >= 0x30 ? byte - 0x30 + 52 : byte === 0x2b ? 62 : 63;
}

function ascii(bytes: Uint8Array, start: number, end: number): string {
  let text = '';
  for (let i = start; i < end; i++) text += String.fromCharCode(bytes[i]!);
  return text;
}
