import { SkevoError } from '../core/error.js';
import { pack, JsonPieces } from './json-pieces.js';

/** Values inside values; what types are made for ends before. */
export const deepest = 1_000;

/** So much JSON text is handed on at once. */
export const batchSize = 1 << 17;

/**
 * JSON texts of a file without lines: the line of a place is the number of its payload, the column the byte in it, both from 1.
 * @param hasNoAbsence whether null may stand for what is absent
 */
export function piecesOf(name: string, hasNoAbsence = false): JsonPieces {
  return new JsonPieces({ name, line: () => undefined, hasNoTypes: false, hasNoLists: false, hasNoAbsence });
}

/** @param payload its number, from 1; @param byte in it, from 0 */
export function placeIn(payload: number, byte = 0): number {
  return pack(payload, byte + 1);
}

/** The error for a part of a payload that cannot be read. */
export function unread(
  name: string,
  payload: number,
  byte: number,
  message: string,
  remedy: string,
): SkevoError {
  return new SkevoError(message, remedy, { file: name, line: payload, column: byte + 1 });
}

/** A double as a JSON number with a fraction or an exponent, so that it stays one. @throws SkevoError for what is no number */
export function numberText(value: number, refuse: (message: string, remedy: string) => never): string {
  if (!Number.isFinite(value))
    return refuse(`${value} is a number that JSON has not`, 'Leave it out, or send null.');
  if (Object.is(value, -0)) return '-0.0';
  const text = String(value);
  return /[.e]/.test(text) ? text : `${text}.0`;
}

/** A whole number with so many of its digits after the point. */
export function scaledText(value: bigint, scale: number): string {
  if (scale === 0) return String(value);
  const digits = String(value < 0n ? -value : value).padStart(scale + 1, '0');
  return `${value < 0n ? '-' : ''}${digits.slice(0, -scale)}.${digits.slice(-scale)}`;
}

/** Seconds, and billionths of them, since 1970 as RFC 3339 has them; undefined outside of the years that it has. */
export function instantText(seconds: bigint, nanoseconds: number): string | undefined {
  if (seconds < -62167219200n || seconds > 253402300799n) return undefined;
  const [day] = new Date(Number(seconds) * 1000).toISOString().split('.');
  const fraction = String(nanoseconds)
    .padStart(9, '0')
    .replace(/(?:000)+$/, '');
  return `${day}${fraction === '' ? '' : `.${fraction}`}Z`;
}
