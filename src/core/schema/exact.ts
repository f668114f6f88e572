import { _, type Ajv as Validator, type SchemaValidateFunction, type ValidateFunction } from 'ajv';
import { operators } from 'ajv/dist/compile/codegen/index.js';
import type { DataValidationCxt } from 'ajv/dist/types/index.js';
import addFormats from 'ajv-formats';
import {
  compareNumbers,
  decimalOf,
  doubleCarries,
  integerOf,
  isMultipleOf,
  rangesOfFormats,
} from '../json/number.js';
import { json, membersByKey, type JsonNumber, type JsonValue } from '../json/value.js';

/**
 * The library compares doubles. Numbers that no double carries are kept beside what it is given, by the list or object that
 * holds them and their key there, and comparisons ask for them.
 */
const spellings = new WeakMap<object, Map<string, string>>();

/**
 * A value as plain data without any inherited property. A number that no double carries becomes one of its kind: of an integer the
 * greatest that is not above it, of a fraction one that is none.
 */
export function plainOf(value: JsonValue): unknown {
  switch (value.kind) {
    case 'null':
      return null;
    case 'boolean':
      return value.value;
    case 'string':
      return wellFormed(value.value);
    case 'number':
      return doubleCarries(value.text) ? Number(value.text) : doubleFor(value.text);
    case 'list': {
      const plain = value.items.map(plainOf);
      for (const [i, each] of value.items.entries())
        if (isBeyondDoubles(each)) keepSpelling(plain, String(i), each.text);
      return plain;
    }
    case 'object': {
      const plain = Object.create(null) as Record<string, unknown>;
      for (const [key, each] of membersByKey(value)) {
        const own = wellFormed(key);
        plain[own] = plainOf(each.value);
        if (isBeyondDoubles(each.value)) keepSpelling(plain, own, each.value.text);
      }
      return plain;
    }
  }
}

function isBeyondDoubles(value: JsonValue): value is JsonNumber {
  return value.kind === 'number' && !doubleCarries(value.text);
}

/** Most payloads have none, which is known without asking for each number. */
const beyondDoubles = { areKept: false };

function keepSpelling(holder: object, key: string, text: string): void {
  beyondDoubles.areKept = true;
  const kept = spellings.get(holder);
  if (kept === undefined) spellings.set(holder, new Map([[key, text]]));
  else kept.set(key, text);
}

function doubleFor(text: string): number {
  const double = Number(text);
  if (decimalOf(text).exponent < 0n)
    return Number.isFinite(double) && !Number.isInteger(double) ? double : text.startsWith('-') ? -0.5 : 0.5;
  if (!Number.isFinite(double)) return Math.sign(double) * Number.MAX_VALUE;
  return BigInt(integerOf(text)!) < BigInt(double) ? below(double) : double;
}

/** The double before a double that is not 0. */
function below(double: number): number {
  const view = new DataView(new ArrayBuffer(8));
  view.setFloat64(0, double);
  view.setBigInt64(0, view.getBigInt64(0) + (double > 0 ? -1n : 1n));
  return view.getFloat64(0);
}

/** A schema that has the keywords of another, and its numbers. @returns it */
export function standsFor<T extends object>(other: object, schema: T): T {
  const kept = spellings.get(other);
  if (kept !== undefined) spellings.set(schema, kept);
  return schema;
}

/** Whether a value meets a schema that `compareExactly` has prepared. */
export function meets(validate: ValidateFunction, value: JsonValue): boolean {
  // It too is held by something.
  const holder = plainOf(json.list([value])) as [object];
  const [root] = holder;
  return validate(root, {
    instancePath: '',
    parentData: holder,
    parentDataProperty: 0,
    rootData: root,
    dynamicAnchors: {},
  });
}

/** What holds a value, and its key there. */
type Held = readonly [holder: object, key: string | number];

function valueAt([holder, key]: Held): unknown {
  return (holder as Readonly<Record<string, unknown>>)[key];
}

/** The spelling of a number that no double carries. */
function kept([holder, key]: Held): string | undefined {
  return beyondDoubles.areKept ? spellings.get(holder)?.get(String(key)) : undefined;
}

/** A number in JSON's spelling. */
function numberAt(held: Held): string {
  return kept(held) ?? String(valueAt(held));
}

function isScalar(value: unknown): boolean {
  return typeof value !== 'object' || value === null;
}

/** A value as JSON writes it. */
export function spelledAt(holder: object, key: string | number): string {
  const value = valueAt([holder, key]);
  if (typeof value === 'number') return numberAt([holder, key]);
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  if (Array.isArray(value)) return `[${value.map((_, i) => spelledAt(value, i)).join(',')}]`;
  const members = Object.keys(value).map((own) => `${JSON.stringify(own)}:${spelledAt(value, own)}`);
  return `{${members.join(',')}}`;
}

/**
 * A comparison of a value with that of a keyword.
 * @param quick says at once what holds where all numbers are doubles; undefined where it cannot
 */
function comparison<Expected = unknown>(
  keyword: string,
  holds: (value: Held, expected: Held) => boolean,
  quick: (value: unknown, expected: Expected) => boolean | undefined = () => undefined,
): SchemaValidateFunction {
  return (expected: Expected, data: unknown, schema?: object, place?: DataValidationCxt) => {
    const known = beyondDoubles.areKept ? undefined : quick(data, expected);
    if (known !== undefined) return known;
    const value: Held = [place?.parentData as object, place?.parentDataProperty as string];
    // Nothing holds the name of a key, nor what the library is given by itself, such as a schema.
    const isHeld = place?.parentData !== undefined && valueAt(value) === data;
    return holds(isHeld ? value : [[data], 0], [schema!, keyword]);
  };
}

/** How a number stands to each bound that it keeps. */
const signs = {
  minimum: operators.GTE,
  maximum: operators.LTE,
  exclusiveMinimum: operators.GT,
  exclusiveMaximum: operators.LT,
} as const;

/** The keyword that says, up to draft 4, that a bound itself is none of the values. */
export const exclusives = { minimum: 'exclusiveMinimum', maximum: 'exclusiveMaximum' } as const;

/**
 * Gives a validator comparisons of our own: the library's know doubles only, divide by fractions that no double has (19.99 is a
 * multiple of 0.01), and ask values for methods, which keys of a payload may be called as.
 *
 * @param hasFlags whether `exclusiveMinimum` and `exclusiveMaximum` are flags beside a bound, as up to draft 4
 */
export function compareExactly(validator: Validator, hasFlags = false): void {
  const limits = hasFlags
    ? (['minimum', 'maximum'] as const)
    : (Object.keys(signs) as (keyof typeof signs)[]);
  for (const keyword of ['const', 'enum', 'uniqueItems', 'multipleOf', ...limits])
    validator.removeKeyword(keyword);
  for (const keyword of limits)
    validator.addKeyword({
      keyword,
      type: 'number',
      schemaType: 'number',
      code: (cxt) => {
        const { gen, data, schema: limit, parentSchema, it } = cxt;
        const isFlagged =
          hasFlags &&
          (keyword === 'minimum' || keyword === 'maximum') &&
          (parentSchema as object as Record<string, unknown>)[exclusives[keyword]] === true;
        const sign = signs[isFlagged ? exclusives[keyword] : keyword];
        const numbers = gen.scopeValue('obj', { ref: beyondDoubles });
        const exact = gen.scopeValue('func', { ref: order });
        const schema = gen.scopeValue('schema', { ref: parentSchema });
        // A comparison of doubles in the code of the library is by far the fastest.
        cxt.fail(
          _`!(${numbers}.areKept ? ${exact}([${it.parentData}, ${it.parentDataProperty}], [${schema}, ${keyword}]) ${sign} 0 : ${data} ${sign} ${limit as number})`,
        );
      },
    });
  validator.addKeyword({
    keyword: 'const',
    validate: comparison('const', isSame, (value, expected: unknown) =>
      isScalar(value) ? value === expected : undefined,
    ),
  });
  validator.addKeyword({
    keyword: 'enum',
    schemaType: 'array',
    validate: comparison(
      'enum',
      (value, held) => {
        const expected = valueAt(held) as readonly unknown[];
        return expected.some((_, i) => isSame(value, [expected, i]));
      },
      (value, expected: readonly unknown[]) => (isScalar(value) ? expected.includes(value) : undefined),
    ),
  });
  validator.addKeyword({
    keyword: 'multipleOf',
    type: 'number',
    schemaType: 'number',
    validate: comparison('multipleOf', (value, step) => isMultipleOf(numberAt(value), numberAt(step))),
  });
  validator.addKeyword({
    keyword: 'uniqueItems',
    type: 'array',
    schemaType: 'boolean',
    validate: (expected: boolean, data: readonly unknown[]) => !expected || areDistinct(data),
  });
}

/** How two numbers stand to each other: below 0, 0 or above. */
function order(a: Held, b: Held): number {
  const [own, other] = [kept(a), kept(b)];
  return own === undefined && other === undefined
    ? (valueAt(a) as number) - (valueAt(b) as number)
    : compareNumbers(own ?? String(valueAt(a)), other ?? String(valueAt(b)));
}

function areDistinct(list: readonly unknown[]): boolean {
  const scalars = new Set<unknown>();
  const others: number[] = [];
  for (const [i, each] of list.entries()) {
    if (typeof each === 'object' && each !== null) {
      if (others.some((other) => isSame([list, other], [list, i]))) return false;
      others.push(i);
      continue;
    }
    const text = kept([list, i]);
    // What no double carries is the same as another of its kind alone.
    const scalar = text === undefined ? each : `\0${valueOf(text)}`;
    if (scalars.has(scalar)) return false;
    scalars.add(scalar);
  }
  return true;
}

/** What numbers of one value have in common. */
function valueOf(text: string): string {
  const { negative, digits, exponent } = decimalOf(text);
  return `${negative ? '-' : ''}${digits}e${exponent}`;
}

function isSame(one: Held, other: Held): boolean {
  const [a, b] = [valueAt(one), valueAt(other)];
  if (typeof a === 'number' && typeof b === 'number') return order(one, other) === 0;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return a === b;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => Object.hasOwn(b, key) && isSame([a, key], [b, key]))
  );
}

/** Teaches a validator the formats of JSON Schema, and those of numbers. */
export function knowFormats(validator: Validator): void {
  addFormats.default(validator);
  // An integer beyond them is beyond its type; what a double is for it is below what comes after the greatest.
  for (const [name, [least, most]] of rangesOfFormats)
    validator.addFormat(name, {
      type: 'number',
      validate: (value: number) =>
        Number.isInteger(value) && value >= Number(least) && value < Number(most + 1n),
    });
  validator.addFormat('decimal', true);
}

/** The validator builds URIs from keys, which cannot hold half a surrogate pair: its code stands for it. */
function wellFormed(text: string): string {
  // Most texts have none, and this says so in a tenth of the time.
  if (!/[\ud800-\udfff]/.test(text)) return text;
  return text.replace(/\p{Surrogate}/gu, (half) => `\ufffd${half.charCodeAt(0).toString(16)}`);
}
