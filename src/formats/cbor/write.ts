import { encode, Token, Type } from 'cborg';
import { decimalOf, doubleCarries, isIntegerText } from '../../core/json/number.js';
import { membersByKey, type JsonValue } from '../../core/json/value.js';
import { wholeText } from '../unheld.js';

/** Tags of RFC 8949, section 3.4. */
const [natural, negative, decimal] = [2, 3, 4];

/**
 * A value as a CBOR item (RFC 8949): numbers as whole numbers or floats of the least size that carries them, those that no
 * float carries as decimal fractions.
 * @throws SkevoError with the place of the first part that CBOR cannot hold
 */
export function writeCbor(value: JsonValue): Uint8Array {
  // The library encodes what it is given as tokens.
  return encode(value, { typeEncoders: { Object: () => tokensOf(value, []) } });
}

function tokensOf(value: JsonValue, tokens: readonly string[]): Token[] {
  switch (value.kind) {
    case 'null':
      return [new Token(Type.null, null)];
    case 'boolean':
      return [new Token(value.value ? Type.true : Type.false, value.value)];
    case 'string':
      return [textOf(value.value, tokens)];
    case 'number':
      return numberOf(value.text);
    case 'list':
      return [
        new Token(Type.array, value.items.length),
        ...value.items.flatMap((each, i) => tokensOf(each, [...tokens, String(i)])),
      ];
    case 'object': {
      const members = [...membersByKey(value).values()];
      return [
        new Token(Type.map, members.length),
        ...members.flatMap(({ key, value: each }) => [
          textOf(key, [...tokens, key]),
          ...tokensOf(each, [...tokens, key]),
        ]),
      ];
    }
  }
}

function textOf(text: string, tokens: readonly string[]): Token {
  return new Token(Type.string, wholeText(text, tokens));
}

function numberOf(text: string): Token[] {
  if (isIntegerText(text)) return integerOf(BigInt(text));
  if (doubleCarries(text)) return [new Token(Type.float, Number(text))];
  const { negative: isNegative, digits, exponent } = decimalOf(text);
  return [
    new Token(Type.tag, decimal),
    new Token(Type.array, 2),
    ...integerOf(exponent),
    ...integerOf(BigInt(isNegative ? `-${digits}` : digits)),
  ];
}

function integerOf(value: bigint): Token[] {
  const size = value < 0n ? -1n - value : value;
  if (size < 1n << 64n) {
    const isSafe = value >= BigInt(Number.MIN_SAFE_INTEGER) && value <= BigInt(Number.MAX_SAFE_INTEGER);
    return [new Token(value < 0n ? Type.negint : Type.uint, isSafe ? Number(value) : value)];
  }
  const hex = size.toString(16);
  const bytes = Buffer.from(hex.padStart(hex.length + (hex.length % 2), '0'), 'hex');
  return [new Token(Type.tag, value < 0n ? negative : natural), new Token(Type.bytes, new Uint8Array(bytes))];
}
