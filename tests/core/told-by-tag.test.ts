import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { writeJson } from '../../src/core/json/write.js';
import { inferSchema } from '../../src/core/infer/infer.js';
import { mergeObservation } from '../../src/core/observe/observation.js';
import { loadObservation, saveObservation } from '../../src/core/observe/save.js';
import { schemaToJson, type Schema } from '../../src/core/schema/schema.js';
import { infer, observe } from '../payloads.js';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { knowFormats } from '../../src/core/schema/exact.js';
import { tries } from '../arbitraries.js';

interface Plain {
  readonly [keyword: string]: unknown;
  readonly oneOf?: readonly { $ref: string }[];
  readonly properties?: Record<string, Plain>;
  readonly $defs?: Record<string, Plain>;
}

const times = <T>(count: number, make: (i: number) => T): T[] =>
  Array.from({ length: count }, (_, i) => make(i));

const schemaOf = (payloads: readonly unknown[]): Plain =>
  JSON.parse(
    writeJson(
      schemaToJson(
        infer(
          payloads.map((each) => JSON.stringify(each)),
          'Payload',
        ).schema,
      ),
    ),
  ) as Plain;

/** What stands under a key in each arm of the union that payloads are; undefined when they are none. */
function armsOf(payloads: readonly unknown[], key: string): Record<string, unknown> | undefined {
  const { oneOf, $defs } = schemaOf(payloads);
  if (oneOf === undefined) return undefined;
  return Object.fromEntries(
    oneOf.map(({ $ref }) => {
      const name = $ref.slice('#/$defs/'.length);
      return [name, $defs![name]!.properties![key]];
    }),
  );
}

const list = (items: unknown) => ({ type: 'array', items });
const text = { type: 'string' };
const number = { type: 'number' };
const whole = { type: 'integer', format: 'int32' };
const point = [0.5, 54.5];

describe('a tag decides', () => {
  test('what kind of value stands beside it', () => {
    const values = [
      (i: number) => `no ${i}, twice`,
      (i: number) => i,
      (i: number) => i % 2 === 0,
      () => ['a b'],
    ];
    const payloads = times(12, (i) => ({
      type: ['text', 'count', 'flag', 'list'][i % 4],
      value: values[i % 4]!(i),
    }));
    expect(armsOf(payloads, 'value')).toEqual({
      CountPayload: whole,
      FlagPayload: { type: 'boolean' },
      ListPayload: list(text),
      TextPayload: text,
    });
  });

  test('how deep lists are', () => {
    const payloads = times(9, (i) => ({
      type: ['Point', 'LineString', 'Polygon'][i % 3],
      coordinates: [point, times(2 + (i % 2), () => point), [times(4, () => point)]][i % 3],
    }));
    expect(armsOf(payloads, 'coordinates')).toEqual({
      LineStringPayload: list(list(number)),
      PointPayload: list(number),
      PolygonPayload: list(list(list(number))),
    });
  });

  test('which record stands beside it, each with a name of its own', () => {
    const data = [
      (i: number) => ({ booking: `B${i}`, seats: i }),
      (i: number) => ({ booking: `B${i}`, reason: `no. ${i}, again` }),
    ];
    const payloads = times(12, (i) => ({
      event: ['booked', 'cancelled'][i % 2],
      data: i > 9 ? null : data[i % 2]!(i),
    }));
    const nullable = (name: string) => ({ anyOf: [{ $ref: `#/$defs/${name}` }, { type: 'null' }] });
    expect(armsOf(payloads, 'data')).toEqual({
      BookedPayload: nullable('BookedData'),
      CancelledPayload: nullable('CancelledData'),
    });
    expect(schemaOf(payloads).$defs).toMatchObject({
      BookedData: { required: ['booking', 'seats'], properties: { booking: text, seats: whole } },
      CancelledData: { required: ['booking', 'reason'], properties: { booking: text, reason: text } },
    });
    expect(schemaOf(payloads).$defs).not.toHaveProperty('Data');
  });

  test('for a type that is used in several places what was seen at any of them', () => {
    const at = (i: number) => ({
      type: ['Point', 'LineString'][i % 2],
      coordinates: [point, [point, point, point]][i % 2],
    });
    const { $defs } = schemaOf(times(8, (i) => ({ from: at(i), to: at(0), berths: [at(1), at(i)] })));
    const arms = Object.entries($defs!).filter(([name]) => /Point|LineString/.test(name));
    expect(arms.map(([, arm]) => arm.properties!['coordinates'])).toEqual([list(list(number)), list(number)]);
  });

  test('some values and leaves others together: those with the same record share one', () => {
    const payloads = times(18, (i) => ({
      event: ['booked', 'moved', 'renamed'][i % 3],
      data: i % 3 === 0 ? { booking: `B ${i}`, seats: i } : { vessel: `V ${i}`, berth: `N ${i}`, since: i },
    }));
    expect(Object.values(armsOf(payloads, 'data')!)).toHaveLength(2);
  });
});

describe('a word decides nothing', () => {
  const differing = (i: number) => ({ type: ['text', 'count'][i % 2], value: i % 2 === 0 ? `no ${i}` : i });

  test('where one of its words comes with a value of the other kind', () => {
    expect(armsOf(times(12, differing), 'value')).toBeDefined();
    expect(armsOf([...times(12, differing), { type: 'text', value: 4 }], 'value')).toBeUndefined();
  });

  test('with fewer than three objects a word', () => {
    expect(armsOf(times(6, differing), 'value')).toBeDefined();
    expect(armsOf(times(5, differing), 'value')).toBeUndefined();
  });

  test('with a single object of a word', () => {
    const rare = (count: number) => [
      ...times(20, () => ({ type: 'count', value: 4 })),
      ...times(count, () => ({ type: 'text', value: 'a, b' })),
    ];
    expect(armsOf(rare(2), 'value')).toBeDefined();
    expect(armsOf(rare(1), 'value')).toBeUndefined();
  });

  test('where the key is what people or places are called', () => {
    expect(
      armsOf(
        times(12, (i) => ({ ...differing(i), name: differing(i).type, type: 'x' })),
        'value',
      ),
    ).toBeUndefined();
  });

  test('where only one of the records has a key that the other has not', () => {
    const payloads = times(20, (i) => ({
      state: ['open', 'shut'][i % 2],
      data: { pier: `N ${i}`, ...(i % 2 === 0 ? { note: `no ${i}` } : {}) },
    }));
    expect(armsOf(payloads, 'data')).toBeUndefined();
  });

  test('where lists are empty beside one of its words', () => {
    const payloads = times(12, (i) => ({
      state: ['open', 'shut'][i % 2],
      gates: i % 2 === 0 ? [] : ['a b', 'c'],
    }));
    expect(armsOf(payloads, 'gates')).toBeUndefined();
  });

  test('where it is null that stands beside one of them', () => {
    const payloads = times(12, (i) => ({
      state: ['open', 'shut'][i % 2],
      until: i % 2 === 0 ? null : `no ${i}`,
    }));
    expect(armsOf(payloads, 'until')).toBeUndefined();
  });
});

/** Of payloads those that do not meet a schema. */
function refusals(schema: Schema, payloads: readonly string[]): string[] {
  const validator = new Ajv2020({ strict: false, logger: false });
  knowFormats(validator);
  const meets = validator.compile(JSON.parse(writeJson(schemaToJson(schema))) as object);
  return payloads.filter((payload) => !meets(JSON.parse(payload)));
}

const value = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    true,
    1,
    1.5,
    'a, b',
    [],
    [1],
    ['a b'],
    [[1]],
    [null],
    [[]],
    {},
    { a: 1 },
    { a: 1, b: 2 },
    { c: 'x y' },
    { c: 'x y', d: [1] },
  ),
);
const envelope = fc
  .record(
    { type: fc.constantFrom('one', 'two', 'three'), data: value, more: value },
    { requiredKeys: ['type'] },
  )
  .map((each) => JSON.stringify(each));
/** Objects in which a word always comes with the same values, but for a few. */
const ruled = fc
  .tuple(
    fc.dictionary(fc.constantFrom('one', 'two', 'three'), value, { minKeys: 2 }),
    fc.array(envelope, { maxLength: 2 }),
    fc.nat(12),
  )
  .map(([rule, others, count]) => [
    ...times(count, (i) => {
      const words = Object.keys(rule).sort();
      const type = words[i % words.length]!;
      return JSON.stringify({ type, data: rule[type] });
    }),
    ...others,
  ]);

test('whatever stands beside a word, the schema is met by all, and the same for parts in any order', () => {
  fc.assert(
    fc.property(fc.oneof(ruled, fc.array(envelope, { minLength: 1 })), fc.nat(12), (payloads, cut) => {
      fc.pre(payloads.length > 0);
      const whole = observe(payloads);
      const { schema } = inferSchema(whole, { name: 'Payload' });
      expect(refusals(schema, payloads)).toEqual([]);
      const parts = [observe(payloads.slice(cut), () => {}, cut + 1), observe(payloads.slice(0, cut))];
      const [first, second] = parts.map((part) => loadObservation(saveObservation(part), 'part'));
      mergeObservation(first!, second!);
      expect(saveObservation(first!)).toBe(saveObservation(whole));
      expect(inferSchema(first!, { name: 'Payload' }).schema).toEqual(schema);
    }),
    { numRuns: tries(150) },
  );
});
