import { Packr } from 'msgpackr';
import { doubleCarries, isIntegerText } from '../../core/json/number.js';
import { membersByKey, type JsonValue } from '../../core/json/value.js';
import { unheld, wholeText } from '../unheld.js';

/** Maps as they are, and not as records of the library's own. */
const packr = new Packr({ useRecords: false });

/**
 * A value in MessagePack.
 * @throws SkevoError with the place of the first part that it cannot hold
 */
export function writeMsgpack(value: JsonValue): Uint8Array {
  return packr.pack(plain(value, []));
}

function plain(value: JsonValue, tokens: readonly string[]): unknown {
  switch (value.kind) {
    case 'null':
      return null;
    case 'boolean':
      return value.value;
    case 'string':
      return wholeText(value.value, tokens);
    case 'number':
      return numberOf(value.text, tokens);
    case 'list':
      return value.items.map((each, i) => plain(each, [...tokens, String(i)]));
    case 'object':
      return new Map(
        [...membersByKey(value).values()].map(({ key, value: each }) => [
          wholeText(key, [...tokens, key]),
          plain(each, [...tokens, key]),
        ]),
      );
  }
}

function numberOf(text: string, tokens: readonly string[]): number | bigint {
  if (isIntegerText(text)) {
    const value = BigInt(text);
    if (BigInt.asIntN(64, value) !== value && BigInt.asUintN(64, value) !== value)
      throw unheld(tokens, `MessagePack has no whole number of the size of ${text}`, 'Send it as text.');
    // The library writes larger ones as floats unless they are told apart.
    return value >= -(2n ** 31n) && value < 2n ** 32n ? Number(value) : value;
  }
  if (!doubleCarries(text))
    throw unheld(tokens, `MessagePack has no number with the digits of ${text}`, 'Send it as text.');
  return Number(text);
}
