import fc from 'fast-check';
import sliceAnsi from 'slice-ansi';
import stringWidth from 'string-width';
import { expect, test } from 'vitest';
import { widthOf, firstColumns } from '../../src/report/width.js';

const pieces = fc.constantFrom(
  ...['pier', ' ', 'é', 'e\u0301', '…', '\u00ad', '埠頭', '한', '⛴', '👩‍👩‍👧', '1️⃣', 'रि', '\u200b'],
  ...['\u001b[31m', '\u001b[39m', '\u001b[1m', '\u001b[22m'],
);
const text = fc.array(pieces, { maxLength: 12 }).map((parts) => parts.join(''));

test('a character takes as many columns as it does where the tables of Unicode are asked', () => {
  const differing = Array.from({ length: 0x3000 }, (_, code) => String.fromCharCode(code)).filter(
    (character) => widthOf(`a${character}b`) !== stringWidth(`a${character}b`),
  );
  expect(differing).toEqual([]);
});

test('so does a text, whatever stands beside each other, and its first columns are the same', () => {
  fc.assert(
    fc.property(text, fc.nat(20), (given, count) => {
      expect(widthOf(given)).toBe(stringWidth(given));
      expect(firstColumns(given, count)).toBe(sliceAnsi(given, 0, count));
    }),
  );
});

test.for([
  ['埠頭 7', 6],
  ['\u001b[31mé\u001b[39m…', 2],
  ['soft\u00adhyphen', 10],
  ['', 0],
] as const)('%j takes %i columns', ([given, columns]) => {
  expect(widthOf(given)).toBe(columns);
});
