import fc from 'fast-check';
import { isLong } from './effort.js';

/** Keys that break something somewhere: names, quotes, comments, templates, inherited properties, look-alikes. */
export const trickyKeys = [
  '',
  ' ',
  'a b',
  'class',
  'from',
  'self',
  'None',
  'import',
  'default',
  'constructor',
  '__proto__',
  'toString',
  'hasOwnProperty',
  'then',
  'keys',
  'decode',
  'encode',
  'str',
  'user_id',
  'userId',
  'UserID',
  'user-id',
  '2nd_call',
  '42',
  '$ref',
  '*',
  '~1',
  '/',
  '"',
  "'",
  '\\',
  '\n',
  '*/',
  '#{x}',
  '${x}',
  '`',
  '"""',
  '🌫',
  'größe',
  'Østhavn',
  'ключ',
  '\u202e',
  '\u2028',
  '\u0000',
  '\u0001',
  '\ud800',
];

export const key = fc.oneof(
  {
    weight: 3,
    arbitrary: fc.constantFrom('id', 'name', 'pier', 'legs', 'gate', 'fare', 'note', 'departs_at'),
  },
  { weight: 2, arbitrary: fc.constantFrom(...trickyKeys) },
  { weight: 1, arbitrary: fc.string({ unit: 'binary', maxLength: 6 }) },
);

const number = fc.oneof(
  fc.integer().map(String),
  fc.bigInt({ min: -(2n ** 70n), max: 2n ** 70n }).map(String),
  fc
    .double({ noNaN: true, noDefaultInfinity: true })
    .map((each) => (Object.is(each, -0) ? '-0.0' : String(each))),
  fc.constantFrom(
    '0',
    '-0',
    '1.0',
    '1E5',
    '9007199254740993',
    '3.14159265358979323846',
    '1e400',
    '12345678901234567890.5',
    '0.10',
  ),
);

const text = fc.oneof(
  fc.string({ unit: 'binary' }),
  fc.constantFrom(...trickyKeys, '2031-05-01T08:00:00+01:00', '\u000112', 'true'),
);

/** A JSON text. Written here and not by JSON.stringify, since numbers must keep odd spellings. */
export const jsonText: fc.Arbitrary<string> = fc.letrec<{ value: string }>((tie) => ({
  value: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.constantFrom('null', 'true', 'false'),
    number,
    text.map((each) => JSON.stringify(each)),
    fc.array(tie('value'), { maxLength: 4 }).map((items) => `[${items.join(',')}]`),
    fc
      .uniqueArray(fc.tuple(key, tie('value')), { maxLength: 5, selector: ([each]) => each })
      .map((members) => `{${members.map(([each, value]) => `${JSON.stringify(each)}:${value}`).join(',')}}`),
  ),
})).value;

/** Payloads of one kind: records of the same keys, each field in any of its four states, of one type or of many. */
export const payloadSet: fc.Arbitrary<string[]> = fc
  .uniqueArray(
    fc.record({
      key,
      values: fc.oneof(
        fc.array(jsonText, { minLength: 1, maxLength: 2 }),
        fc.array(number, { minLength: 1, maxLength: 3 }),
        fc.array(
          text.map((each) => JSON.stringify(each)),
          { minLength: 1, maxLength: 3 },
        ),
      ),
      absent: fc.boolean(),
      nulls: fc.boolean(),
    }),
    { minLength: 0, maxLength: 6, selector: (field) => field.key },
  )
  .chain((fields) =>
    fc.array(
      fc.tuple(
        ...fields.map(({ key: name, values, absent, nulls }) =>
          fc.constantFrom(
            ...values.map((value) => `${JSON.stringify(name)}:${value}`),
            ...(absent ? [''] : []),
            ...(nulls ? [`${JSON.stringify(name)}:null`] : []),
          ),
        ),
      ),
      { minLength: 1, maxLength: 5 },
    ),
  )
  .map((payloads) => payloads.map((members) => `{${members.filter((member) => member !== '').join(',')}}`));

const pool = ['name', 'email', 'user', 'sku', 'qty', 'line', 'next', 'kind', 'total', 'to'];

/** A value that looks like others: words that repeat, records of a few keys, one of them or a list of them. */
const alike: fc.Arbitrary<unknown> = fc.letrec<{ value: unknown; record: unknown }>((tie) => ({
  value: fc.oneof(
    { depthSize: 'small', withCrossShrink: true },
    fc.constantFrom<unknown>('Office', 'Bridge', 'Quay Desk', 'a', 'b', null, 1, 2.5, true),
    tie('record'),
    fc.array(tie('record'), { maxLength: 2 }),
  ),
  record: fc
    .uniqueArray(fc.tuple(fc.constantFrom(...pool), tie('value')), {
      minLength: 1,
      maxLength: 5,
      selector: ([name]) => name,
    })
    .map((entries) => Object.fromEntries(entries)),
})).record;

/** Payloads whose parts look like each other, at one place and at others: shared types, unions, one or many, circles. */
export const alikeSet: fc.Arbitrary<string[]> = fc
  .array(alike, { minLength: 1, maxLength: 6 })
  .chain((parts) =>
    fc.array(
      fc
        .tuple(fc.constantFrom(...parts), fc.constantFrom(...parts), fc.boolean())
        .map(([from, to, isList]) => JSON.stringify({ from, to, line: isList ? [from, to] : from })),
      { minLength: 1, maxLength: 6 },
    ),
  );

/** How often a law is tried: a few times where each test is run for each small change of meaning. */
export const tries = (all: number): number => (process.env['SKEVO_FEW'] === undefined ? all : 5);

/** The same for a law that takes long: a sixth of it, unless all is asked for. */
export const runsOf = (all: number): number => tries(isLong ? all : Math.ceil(all / 6));
