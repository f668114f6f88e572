import fc from 'fast-check';
import { expect, test } from 'vitest';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { writeJson } from '../../src/core/json/write.js';
import { inferSchema } from '../../src/core/infer/infer.js';
import { Observer } from '../../src/core/observe/observe.js';
import { knowFormats } from '../../src/core/schema/exact.js';
import { schemaToJson } from '../../src/core/schema/schema.js';
import { runsOf } from '../arbitraries.js';
import { bytes } from '../payloads.js';

interface Area {
  readonly __depth: { readonly metres: number };
  readonly [name: string]: Area | { readonly metres: number };
}

let serial = 0;
function area(levels: number, width: number): Area {
  const own: Record<string, Area> = {};
  if (levels > 0)
    for (let i = 0; i < width; i++)
      own[`area${'abcdefghij'[++serial % 10]}${serial}`] = area(levels - 1, width);
  return { __depth: { metres: serial }, ...own } as Area;
}

function schemaOf(payloads: readonly unknown[], limits: { many: number; most: number }) {
  const observer = new Observer([], () => {}, limits);
  payloads.forEach((payload, i) =>
    observer.document({ name: `${i}.json`, bytes: bytes(JSON.stringify(payload)), firstLine: 1 }),
  );
  const { schema } = inferSchema(observer.observation, { name: 'Chart' });
  return JSON.parse(writeJson(schemaToJson(schema))) as {
    $defs: Record<string, unknown>;
    properties: Record<string, unknown>;
  };
}

const isArea = {
  type: 'object',
  properties: { __depth: { $ref: '#/$defs/Depth' } },
  required: ['__depth'],
  additionalProperties: { $ref: '#/$defs/ChartItem' },
};

test.each([
  [1_000_000, 1_000_000],
  [200, 1000],
  [100, 200],
  [100, 300],
])('a tree is one type, whether or not it is put together while it is read (%i, %i)', (many, most) => {
  serial = 0;
  const { $defs, properties } = schemaOf([{ north: area(4, 3), south: area(3, 4) }], { many, most });
  expect(properties).toEqual({ north: { $ref: '#/$defs/ChartItem' }, south: { $ref: '#/$defs/ChartItem' } });
  expect(Object.keys($defs)).toEqual(['ChartItem', 'Depth']);
  expect($defs['ChartItem']).toEqual(isArea);
});

test('a tree is called by the key that it stands under, and by none of its own where it stands under several', () => {
  serial = 0;
  const limits = { many: 1_000_000, most: 1_000_000 };
  expect(Object.keys(schemaOf([{ area: area(4, 3) }], limits).$defs)).toEqual(['Area', 'Depth']);
  const sounds = { upperSound: area(4, 3), lowerSound: area(3, 4) };
  expect(Object.keys(schemaOf([sounds], limits).$defs)).toEqual(['Depth', 'Sound']);
});

test('keys over what looks alike are taken for data, others stay fields', () => {
  const berths = Object.fromEntries(
    Array.from({ length: 40 }, (_, i) => [`berth ${i}x`, { pier: 'N', depth: i, steps: i }]),
  );
  const { $defs, properties } = schemaOf([{ berths, harbour: { name: 'Saltmere', light: true } }], {
    many: 60,
    most: 1000,
  });
  expect(properties['berths']).toEqual({ type: 'object', additionalProperties: { $ref: '#/$defs/Berth' } });
  expect($defs['Harbour']).toMatchObject({
    properties: { name: { type: 'string' }, light: { type: 'boolean' } },
  });
});

test('where nothing looks alike, keys are put together all the same', () => {
  const odd = Object.fromEntries(
    Array.from({ length: 60 }, (_, i) => [`k${i}`, [i, `n ${i}`, { a: i }, [i]][i % 4]]),
  );
  const { properties } = schemaOf([{ odd }], { many: 20, most: 40 });
  expect(properties['odd']).toMatchObject({
    type: 'object',
    additionalProperties: { anyOf: expect.any(Array) as unknown },
  });
});

const leaf = fc.oneof(fc.integer(), fc.constant(null), fc.string({ maxLength: 3 }));
const { tree } = fc.letrec<{ tree: unknown }>((tie) => ({
  tree: fc.oneof(
    { depthSize: 'small' },
    leaf,
    fc.array(tie('tree'), { maxLength: 4 }),
    fc.dictionary(fc.constantFrom(...'abcdefghijklm', '__mark', '2031-05-01', '__proto__'), tie('tree')),
  ),
}));

test('whatever is put together when, the schema is met by all', () => {
  fc.assert(
    fc.property(
      fc.array(fc.dictionary(fc.constantFrom(...'abcdefghijkl'), tree), { minLength: 1 }),
      fc.integer({ min: 2, max: 30 }),
      (payloads, many) => {
        let schema: object;
        try {
          schema = schemaOf(payloads, { many, most: 4 * many });
        } catch (error) {
          // So few places may be too few whatever is put together.
          expect(String(error)).toContain('different places');
          return;
        }
        const validator = new Ajv2020({ strict: false, logger: false });
        knowFormats(validator);
        const meets = validator.compile(schema);
        for (const payload of payloads) expect(meets(JSON.parse(JSON.stringify(payload)))).toBe(true);
      },
    ),
    { numRuns: runsOf(300) },
  );
});
