/**
 * How wide an integer must be held. The names are those of the OpenAPI format registry; `double-int` is an
 * integer that an IEEE 754 double carries (RFC 8259 section 6: up to 2^53 - 1).
 */
export type IntegerWidth = 'int32' | 'double-int' | 'int64' | 'unbounded';

const widthOrder: readonly IntegerWidth[] = ['int32', 'double-int', 'int64', 'unbounded'];

const widthByFormat: ReadonlyMap<string | undefined, IntegerWidth> = new Map([
  ...(['int8', 'uint8', 'int16', 'uint16', 'int32'] as const).map((format) => [format, 'int32'] as const),
  ...(['uint32', 'double-int'] as const).map((format) => [format, 'double-int'] as const),
  ...(['uint64', 'decimal'] as const).map((format) => [format, 'unbounded'] as const),
]);

/**
 * The width that a format of an integer promises. Who writes no format means what languages call an integer, of 64
 * bits; `decimal` has any number of digits.
 */
export function widthOfFormat(format: string | undefined): IntegerWidth {
  return widthByFormat.get(format) ?? 'int64';
}

/** By format of integers: the least and the greatest that it has, as the OpenAPI format registry says. */
export const rangesOfFormats: ReadonlyMap<string, readonly [least: bigint, most: bigint]> = new Map([
  ...[8n, 16n, 32n, 64n].flatMap((bits) => [
    [`int${bits}`, [-(2n ** (bits - 1n)), 2n ** (bits - 1n) - 1n]] as const,
    [`uint${bits}`, [0n, 2n ** bits - 1n]] as const,
  ]),
  ['double-int', [1n - 2n ** 53n, 2n ** 53n - 1n]] as const,
]);

/** The format that promises a width. */
export function formatOfWidth(width: IntegerWidth): string {
  return width === 'unbounded' ? 'decimal' : width;
}

/** The width that holds both. */
export function widerOf(a: IntegerWidth, b: IntegerWidth): IntegerWidth {
  return widthOrder[Math.max(widthOrder.indexOf(a), widthOrder.indexOf(b))]!;
}

/** Whether a number in JSON's spelling is an integer's: neither fraction nor exponent, and no negative zero. */
export function isIntegerText(text: string): boolean {
  return /^-?\d+$/.test(text) && text !== '-0';
}

/** The digits of a number that is an integer, however it is spelled (`1.0`, `1e2`); undefined for a fraction. */
export function integerOf(text: string): string | undefined {
  if (isIntegerText(text)) return text;
  const { negative, digits, exponent } = decimalOf(text);
  if (digits === '') return '0';
  if (exponent < 0n || exponent > 400n) return undefined;
  return `${negative ? '-' : ''}${digits}${'0'.repeat(Number(exponent))}`;
}

/** The narrowest width that holds an integer in JSON's spelling. */
export function integerWidthOf(text: string): IntegerWidth {
  if (text.length <= 9) return 'int32';
  if (text.length <= 15)
    return Math.abs(Number(text)) <= 2147483647 || text === '-2147483648' ? 'int32' : 'double-int';
  if (text.length > 20) return 'unbounded';
  const value = BigInt(text);
  if (value >= -(2n ** 53n - 1n) && value <= 2n ** 53n - 1n) return 'double-int';
  return value >= -(2n ** 63n) && value < 2n ** 63n ? 'int64' : 'unbounded';
}

/** Integers beyond this were seen to grow, or are no counts: 32 bits may not hold the next. */
const mostOf32 = 2 ** 27;

/** The width to expect of integers where one was seen: the narrowest that holds it, with room to grow. */
export function widthToExpect(text: string): IntegerWidth {
  const width = integerWidthOf(text);
  return width === 'int32' && Math.abs(Number(text)) > mostOf32 ? 'double-int' : width;
}

/** A number as sign, significant digits without zeros at either end, and the power of ten of the last digit. */
export interface Decimal {
  readonly negative: boolean;
  /** Empty for zero. */
  readonly digits: string;
  readonly exponent: bigint;
}

/** The exact value of a number in JSON's spelling. */
export function decimalOf(text: string): Decimal {
  const match = /^(-?)(\d+)(?:\.(\d+))?(?:[eE]([+-]?\d+))?$/.exec(text);
  if (match === null) throw new RangeError(`not a JSON number: ${text}`);
  const [, sign, whole = '', fraction = '', power = '0'] = match;
  const all = (whole + fraction).replace(/^0+/, '');
  const digits = all.replace(/0+$/, '');
  if (digits === '') return { negative: false, digits: '', exponent: 0n };
  return {
    negative: sign === '-',
    digits,
    exponent: BigInt(power) - BigInt(fraction.length) + BigInt(all.length - digits.length),
  };
}

/** Whether two numbers in JSON's spelling have the same mathematical value. */
export function sameNumber(a: string, b: string): boolean {
  if (a === b) return true;
  const left = decimalOf(a);
  const right = decimalOf(b);
  return left.negative === right.negative && left.digits === right.digits && left.exponent === right.exponent;
}

/** How two numbers in JSON's spelling stand to each other, exactly: below 0, 0 or above. */
export function compareNumbers(a: string, b: string): number {
  const [left, right] = [decimalOf(a), decimalOf(b)];
  const sign = signOf(left);
  if (sign !== signOf(right)) return sign - signOf(right);
  // The power of ten above the first digit.
  const [high, other] = [left, right].map(({ digits, exponent }) => exponent + BigInt(digits.length)) as [
    bigint,
    bigint,
  ];
  if (high !== other) return high < other ? -sign : sign;
  // Neither ends in zeros: where one begins with all of the other, it is the larger.
  return left.digits === right.digits ? 0 : left.digits < right.digits ? -sign : sign;
}

function signOf({ negative, digits }: Decimal): number {
  return digits === '' ? 0 : negative ? -1 : 1;
}

/**
 * Whether an IEEE 754 double carries a number: reading it and writing its shortest form gives the same value
 * again. Every decimal of up to 15 significant digits and moderate size does (DBL_DIG of ISO C).
 */
export function doubleCarries(text: string): boolean {
  if (text.length <= 15 && !/[eE]/.test(text)) return true;
  const double = Number(text);
  const shortest = String(double);
  return shortest === text || (Number.isFinite(double) && sameNumber(text, shortest));
}

/** Whether a number is a whole multiple of another that is not 0, both in JSON's spelling; exactly, however large they are. */
export function isMultipleOf(text: string, of: string): boolean {
  const [value, step] = [decimalOf(text), decimalOf(of)];
  if (value.digits === '') return true;
  // Its last digit is no zero.
  if (step.digits === '' || value.exponent < step.exponent) return false;
  const divisor = BigInt(step.digits);
  return (BigInt(value.digits) * powerOfTen(value.exponent - step.exponent, divisor)) % divisor === 0n;
}

/** A power of ten, modulo a number. */
function powerOfTen(exponent: bigint, modulus: bigint): bigint {
  let power = 1n;
  let square = 10n % modulus;
  for (let left = exponent; left > 0n; left >>= 1n) {
    if (left & 1n) power = (power * square) % modulus;
    square = (square * square) % modulus;
  }
  return power;
}

/** Digits beyond which a multiple is not worth writing down. */
const mostDigits = 400n;

/**
 * The multiple of a number that is not above another, and the one that is not below it, both in JSON's spelling; none
 * where they are too far apart.
 */
export function multiplesAround(text: string, step: string): readonly string[] {
  const { counts: [whole, part] = [], least } = inUnits(text, step);
  if (whole === undefined || !part) return [];
  const size = part < 0n ? -part : part;
  const rest = ((whole % size) + size) % size;
  const below = whole - rest;
  return (rest === 0n ? [below] : [below, below + size]).map((each) => spelled(each, least));
}

/** The sum of two numbers, all in JSON's spelling; none where it has too many digits to be worth writing down. */
export function sumOf(a: string, b: string): string | undefined {
  const { counts, least } = inUnits(a, b);
  return counts && spelled(counts[0] + counts[1], least);
}

/** What is halfway between two numbers, as `sumOf` has it. */
export function middleOf(a: string, b: string): string | undefined {
  const { counts, least } = inUnits(a, b);
  return counts && spelled((counts[0] + counts[1]) * 5n, least - 1n);
}

/** How many of a power of ten, 10 to the `least`, two numbers are; no counts where they would have too many digits. */
function inUnits(
  a: string,
  b: string,
): { readonly counts?: readonly [bigint, bigint]; readonly least: bigint } {
  const [left, right] = [decimalOf(a), decimalOf(b)];
  const least =
    left.digits === '' || (right.digits !== '' && left.exponent > right.exponent)
      ? right.exponent
      : left.exponent;
  if ([left, right].some(({ digits, exponent }) => digits !== '' && exponent - least > mostDigits))
    return { least };
  const count = ({ negative, digits, exponent }: Decimal): bigint =>
    digits === '' ? 0n : BigInt(digits) * 10n ** (exponent - least) * (negative ? -1n : 1n);
  return { counts: [count(left), count(right)], least };
}

/** An integer of a power of ten, as JSON spells it. */
function spelled(value: bigint, exponent: bigint): string {
  if (value === 0n) return '0';
  const sign = value < 0n ? '-' : '';
  const digits = String(value < 0n ? -value : value);
  if (exponent >= 0n)
    return exponent > mostDigits
      ? `${sign}${digits}e${exponent}`
      : `${sign}${digits}${'0'.repeat(Number(exponent))}`;
  if (exponent < -mostDigits) return `${sign}${digits}e${exponent}`;
  const places = Number(-exponent);
  const padded = digits.padStart(places + 1, '0');
  const fraction = padded.slice(-places).replace(/0+$/, '');
  return `${sign}${padded.slice(0, -places)}${fraction === '' ? '' : `.${fraction}`}`;
}
