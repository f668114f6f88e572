import { json, type JsonValue } from '../json/value.js';
import { writeJson } from '../json/write.js';
import { resolveReference } from '../schema/resolve.js';
import type { Schema, TypeName } from '../schema/schema.js';
import { SkevoError } from '../error.js';
import { excerptOf, type Source } from '../json/source.js';
import { textsOf } from './texts.js';
import { numbersOf } from './numbers.js';

/** A payload made from a schema. */
export interface Variant {
  /** `full`, `minimal`, or `cover-1` and so on. */
  readonly name: string;
  readonly value: JsonValue;
}

/** Values that a payload may have, each line of a long text counted as one. */
export const usualVariantSize = 100_000;
/** Values of all payloads together, in such sizes, after which no more are made. */
const mostSizes = 10;
const line = 80;

/** Levels of nesting after which everything that may be left out is. */
const deepest = 6;
/** Levels after which a schema that requires itself without end is given up. */
const endless = 700;
const mostCovering = 400;

/**
 * Payloads made from a schema: one with everything, one with as little as possible, and a small set in which every
 * optional field is there and not, every nullable one null and not, every word and alternative used, lists empty and
 * with one and several elements, numbers at their bounds, and texts of several kinds.
 *
 * @param seed another seed begins each round of values elsewhere
 * @param size values that a payload may have
 * @throws SkevoError when a payload would have more, at the place of the schema that wants them
 * @throws Error when a schema requires itself without end
 */
export function vary(schema: Schema, source: Source, seed: number, size = usualVariantSize): Variant[] {
  const maker = new Maker(schema, source, seed, size);
  const variants: Variant[] = [
    { name: 'full', value: maker.make('full') },
    { name: 'minimal', value: maker.make('minimal') },
  ];
  // Every visit to a place takes its next variant, until no place has one that was never taken.
  for (let i = 1; i <= mostCovering && (i === 1 || maker.isOpen()) && maker.made < mostSizes * size; i++) {
    const before = maker.taken;
    variants.push({ name: `cover-${i}`, value: maker.make('cover') });
    if (maker.taken === before && i > 20) break;
  }
  return variants;
}

/** Keys of maps, which no name of a field need be like. */
const usualKeys = ['first', 'zweite-Überfahrt', '3'];
/** So often another value is tried for each of those that are to differ. */
const triesForOther = 8;

type Mode = 'full' | 'minimal' | 'cover';

/** A way in which a place may be filled; undefined leaves it out. */
type Way = (depth: number) => JsonValue | undefined;

/** A key for the ways of one field. */
type Slot = Schema | string;

class Maker {
  /** How many variants were taken for the first time. */
  taken = 0;
  /** Values that were made. */
  made = 0;
  private left = 0;
  private mode: Mode = 'full';
  private readonly visits = new Map<Slot, number>();
  private readonly sizes = new Map<Slot, number>();
  private readonly ids = new Map<Schema, number>();

  constructor(
    private readonly root: Schema,
    private readonly source: Source,
    private readonly seed: number,
    private readonly size: number,
  ) {}

  make(mode: Mode): JsonValue {
    this.mode = mode;
    this.left = this.size;
    return this.value(this.root, 0) ?? json.null();
  }

  /** @throws SkevoError when a payload has more values than it may */
  private spend(values: number, schema: Schema): void {
    this.made += values;
    this.left -= values;
    if (this.left >= 0) return;
    throw new SkevoError(
      `a payload of this schema has more than ${this.size} values`,
      'Lower the least sizes that the schema wants, or raise the limit with skevo vary --size.',
      schema.span === undefined ? undefined : excerptOf(this.source, schema.span.start),
    );
  }

  isOpen(): boolean {
    return [...this.sizes].some(([slot, size]) => (this.visits.get(slot) ?? 0) < size);
  }

  /** One of several ways: the first in a full payload, the last in a minimal one, else the next. */
  private choose(slot: Slot, ways: readonly Way[], depth: number): JsonValue | undefined {
    if (ways.length === 0) return undefined;
    if (this.mode === 'minimal' || depth > deepest) return ways.at(-1)!(depth);
    if (this.mode === 'full') return ways[0]!(depth);
    const visit = this.visits.get(slot) ?? 0;
    this.visits.set(slot, visit + 1);
    this.sizes.set(slot, ways.length);
    if (visit < ways.length) this.taken++;
    return ways[(visit + this.seed) % ways.length]!(depth);
  }

  private value(given: Schema, depth: number): JsonValue | undefined {
    if (depth > endless) throw new Error('the schema requires itself without end');
    const schema = this.resolved(given);
    this.spend(1, schema);
    const arms = schema.anyOf ?? schema.oneOf;
    if (arms !== undefined) return this.choose(schema, this.armWays(arms), depth);
    if (schema.const !== undefined) return schema.const;
    if (schema.enum !== undefined)
      return this.choose(
        schema,
        schema.enum.map((value) => () => value),
        depth,
      );
    const examples = schema.other?.get('examples');
    const shown = examples?.kind === 'list' ? examples.items : [];
    const types = schema.type ?? (schema.properties === undefined ? ['string'] : ['object']);
    // Null last: a minimal payload has it.
    const inOrder = [...types].sort((a, b) => Number(a === 'null') - Number(b === 'null'));
    const ways = inOrder.flatMap((type) => this.typeWays(schema, type, shown));
    return this.choose(schema, ways, depth);
  }

  /** Alternatives that do not nest come last, so that deep payloads end. */
  private armWays(arms: readonly Schema[]): Way[] {
    const nests = (arm: Schema) => Number(this.resolved(arm).properties !== undefined);
    return [...arms].sort((a, b) => nests(b) - nests(a)).map((arm) => (depth) => this.value(arm, depth));
  }

  private typeWays(schema: Schema, type: TypeName, examples: readonly JsonValue[]): Way[] {
    switch (type) {
      case 'null':
        return [() => json.null()];
      case 'boolean':
        return [() => json.boolean(true), () => json.boolean(false)];
      case 'integer':
      case 'number': {
        const shown = examples.filter(({ kind }) => kind === 'number');
        return [...shown, ...numbersOf(schema, type).map(json.number)].map((each) => () => each);
      }
      case 'string': {
        const shown = examples.filter(({ kind }) => kind === 'string');
        this.spend(Math.floor((bound(schema, 'minLength') ?? 0) / line), schema);
        return [...shown, ...textsOf(schema).map(json.string)].map((each) => () => each);
      }
      case 'array':
        return this.listWays(schema);
      case 'object':
        return [
          (depth) => (schema.properties === undefined ? this.map(schema, depth) : this.record(schema, depth)),
        ];
    }
  }

  private listWays(schema: Schema): Way[] {
    const { prefixItems, items } = schema;
    if (prefixItems !== undefined)
      return [(depth) => json.list(prefixItems.map((each) => this.value(each, depth + 1) ?? json.null()))];
    const least = Math.max(schema.minItems ?? 0, 0);
    const most = bound(schema, 'maxItems') ?? Infinity;
    const element = typeof items === 'object' ? items : {};
    const sizes = [...new Set([1, 3, least, Math.min(most, 5), 0])].filter((n) => n >= least && n <= most);
    // Nothing, or the least, comes last.
    sizes.sort((a, b) => Number(a === least) - Number(b === least));
    return sizes.map((size) => (depth) => {
      if (size > this.left) this.spend(size, schema);
      const count = depth > deepest ? least : size;
      const unique = schema.other?.get('uniqueItems');
      return json.list(
        unique?.kind === 'boolean' && unique.value
          ? this.different(element, count, depth + 1)
          : Array.from({ length: count }, () => this.value(element, depth + 1) ?? json.null()),
      );
    });
  }

  /** So many values of which no two are the same, or as many as there are. */
  private different(element: Schema, count: number, depth: number): JsonValue[] {
    const { mode } = this;
    const found = new Map<string, JsonValue>();
    for (let tries = 0; found.size < count && tries < count * triesForOther; tries++) {
      const value = this.value(element, depth) ?? json.null();
      const text = writeJson(value);
      if (!found.has(text)) found.set(text, value);
      // A payload of one kind has one value for all.
      this.mode = 'cover';
    }
    this.mode = mode;
    return [...found.values()];
  }

  private map(schema: Schema, depth: number): JsonValue {
    const { additionalProperties } = schema;
    const values = typeof additionalProperties === 'object' ? additionalProperties : {};
    const least = bound(schema, 'minProperties') ?? 0;
    const most = Math.max(least, Math.min(bound(schema, 'maxProperties') ?? Infinity, usualKeys.length));
    const isSmall = this.mode === 'minimal' || depth > deepest;
    const size = isSmall
      ? least
      : this.mode === 'cover'
        ? least + this.count(`${this.id(schema)} keys`, most - least + 1)
        : most;
    const entries: [string, JsonValue][] = [];
    for (let i = 0; i < size; i++)
      entries.push([usualKeys[i] ?? `key-${i + 1}`, this.value(values, depth + 1) ?? json.null()]);
    return json.object(entries);
  }

  private record(schema: Schema, depth: number): JsonValue {
    const required = new Set(schema.required);
    const entries: [string, JsonValue][] = [];
    for (const [key, property] of schema.properties!) {
      if (!required.has(key) && !this.includes(schema, key, depth)) continue;
      const value = this.value(property, depth + 1);
      if (value !== undefined) entries.push([key, value]);
    }
    for (const key of required)
      if (!schema.properties!.has(key)) entries.push([key, json.string('anything')]);
    return json.object(entries);
  }

  private includes(schema: Schema, key: string, depth: number): boolean {
    if (this.mode === 'minimal' || depth > deepest) return false;
    if (this.mode === 'full') return true;
    return this.count(`${this.id(schema)} ${key}`, 2) === 0;
  }

  /** The next of so many, round and round. */
  private count(slot: string, size: number): number {
    const visit = this.visits.get(slot) ?? 0;
    this.visits.set(slot, visit + 1);
    this.sizes.set(slot, size);
    if (visit < size) this.taken++;
    return (visit + this.seed) % size;
  }

  private id(schema: Schema): number {
    const known = this.ids.get(schema) ?? this.ids.size;
    this.ids.set(schema, known);
    return known;
  }

  private resolved(schema: Schema): Schema {
    let target = schema;
    for (let i = 0; target.$ref !== undefined && i < 64; i++)
      target = resolveReference(this.root, target.$ref, target, this.source);
    if (target.$ref !== undefined)
      throw new SkevoError(
        `the reference ${JSON.stringify(schema.$ref)} leads to nothing but itself`,
        'Put an object between it and itself.',
        schema.span === undefined ? undefined : excerptOf(this.source, schema.span.start),
      );
    return target;
  }
}

/** A bound of a schema, as a number. */
export function bound(schema: Schema, keyword: string): number | undefined {
  const value = schema.other?.get(keyword);
  return value?.kind === 'number' ? Number(value.text) : undefined;
}
