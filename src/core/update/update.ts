import type { ChoicePolicy } from '../infer/rule.js';
import type { Steer } from '../infer/said.js';
import { steerAt } from '../infer/steering.js';
import { formatPlace, type PlaceStep } from '../json/pointer.js';
import { formatOfWidth, widerOf, widthOfFormat } from '../json/number.js';
import { json, type JsonValue } from '../json/value.js';
import { writeJson } from '../json/write.js';
import { datesKeyword, formOf } from '../model/dates.js';
import { compareMarks, type Mark } from '../observe/mark.js';
import { totalAt } from '../observe/observation.js';
import { definitionOf, resolveReference } from '../schema/resolve.js';
import { definitionsSection, type Schema } from '../schema/schema.js';
import { tagOf, typeOf, typesOf } from './admit.js';
import { withAlternatives, withNull } from './alternatives.js';
import { describeSchema } from './describe.js';
import type { Learner } from './learn.js';
import { mapSchemas } from './map-schemas.js';
import type { Site } from './site.js';
import { lastKey, recordName, StrangerTypes } from './stranger-types.js';

/** One thing that payloads taught a schema. */
export interface SchemaChange {
  /** As `formatPlace` writes it; empty for the payload itself. */
  readonly place: string;
  readonly was: string;
  readonly now: string;
  readonly because: string;
  /** The first value that shows it. */
  readonly first: Mark;
}

export interface Updated {
  /** The very schema that was given when nothing changed. */
  readonly schema: Schema;
  /** In the order of their first places. */
  readonly changes: readonly SchemaChange[];
}

/** A choice that would get more words than these becomes text. */
const mostWords = 48;
/** A choice that gets so many new words at once, and more than half of those it has, is open from then on. */
const manyFresh = 3;

/**
 * The schema with what payloads contradict widened and what it did not know added. Names, titles, descriptions,
 * formats and bounds that hold stay. Learning the same payloads again changes nothing.
 */
export function updateSchema(
  { root, sites }: Learner,
  choices: ChoicePolicy,
  decisions: readonly Steer[] = [],
): Updated {
  return new Update(root, sites, choices, decisions).run();
}

class Update {
  private readonly changes: SchemaChange[] = [];
  private readonly types: StrangerTypes;
  private readonly nameOf = new Map<Schema, string>();
  private readonly title: string;

  constructor(
    private readonly root: Schema,
    private readonly sites: ReadonlyMap<Schema, Site>,
    private readonly choices: ChoicePolicy,
    private readonly decisions: readonly Steer[],
  ) {
    this.title = root.title ?? 'Payload';
    this.types = new StrangerTypes(root, definitionsSection(root), choices, decisions);
    this.nameOf.set(root, this.title);
    for (const [name, schema] of root.$defs ?? []) this.nameOf.set(schema, name);
  }

  run(): Updated {
    const changed = mapSchemas(this.root, (part, original) => {
      const site = this.sites.get(original);
      return site === undefined ? part : this.widened(part, original, site);
    });
    const fresh = [...this.types.used(changed)].sort(([a], [b]) => (a < b ? -1 : 1));
    const grown =
      fresh.length === 0 ? changed : { ...changed, $defs: new Map([...(changed.$defs ?? []), ...fresh]) };
    const schema = grown === this.root ? grown : mapSchemas(grown, (part) => withoutOverlap(part, grown));
    const changes = this.changes.sort(
      (a, b) => compareMarks(a.first, b.first) || (a.place < b.place ? -1 : a.place > b.place ? 1 : 0),
    );
    return { schema, changes };
  }

  private widened(part: Schema, original: Schema, site: Site): Schema {
    let next = part;
    for (const [keyword, first] of site.keywords) next = this.without(next, keyword, site, first);
    next = this.withDates(next, site);
    next = this.withWords(next, site);
    next = this.withNumbers(next, original, site);
    next = this.withFields(next, original, site);
    next = this.asList(next, site);
    next = this.withArms(next, site);
    if (site.others !== undefined) {
      const { others } = site;
      // Objects of which nothing was said become one record, as the earlier ones were of one type too.
      if (next.type?.includes('object') && next.properties === undefined) others.place.shapes = undefined;
      const key = lastKey(others.steps).key ?? this.title;
      const around = this.nameOf.get(original) ?? this.title;
      const wider = this.with(next, [this.types.schemasOf(new Map([[key, others]]), around).get(key)!]);
      next = this.note(site.steps, next, wider, 'a value of another type', others.first);
    }
    if (site.nulls !== undefined) next = this.note(site.steps, next, withNull(next), 'null', site.nulls);
    return next;
  }

  private with(schema: Schema, others: readonly Schema[]): Schema {
    return withAlternatives(schema, others, (reference) =>
      this.types.added.get(definitionOf(reference) ?? ''),
    );
  }

  private note(steps: readonly PlaceStep[], was: Schema, now: Schema, because: string, first: Mark): Schema {
    this.change(steps, describeSchema(was, this.title), describeSchema(now, this.title), because, first);
    return now;
  }

  private change(steps: readonly PlaceStep[], was: string, now: string, because: string, first: Mark): void {
    this.changes.push({ place: formatPlace(steps), was, now, because, first });
  }

  private without(schema: Schema, keyword: string, site: Site, first: Mark): Schema {
    const because = whyWithout(keyword, schema);
    if (keyword === 'format' || keyword === 'enum' || keyword === 'const')
      return this.note(
        site.steps,
        schema,
        typed({ ...schema, [keyword]: undefined }, schema, site),
        because,
        first,
      );
    if (keyword === 'minItems') {
      this.change(site.steps, `minItems ${schema.minItems}`, 'no minItems', because, first);
      return { ...schema, minItems: undefined };
    }
    const other = new Map(schema.other);
    const value = other.get(keyword)!;
    other.delete(keyword);
    this.change(site.steps, `${keyword} ${writeJson(value)}`, `no ${keyword}`, because, first);
    return { ...schema, other };
  }

  /** What native types would change stays text, unless somebody decided otherwise. */
  private withDates(schema: Schema, { steps, text }: Site): Schema {
    if (text === undefined || formOf(schema) === undefined) return schema;
    const rule = steerAt(this.decisions, 'dates', steps)?.value ?? 'text';
    const other = new Map(schema.other).set(datesKeyword, json.string(rule));
    return this.note(steps, schema, { ...schema, other }, 'a text that native types change', text);
  }

  private withWords(schema: Schema, site: Site): Schema {
    const [first] = site.words.values();
    if (first === undefined) return schema;
    const known = schema.const === undefined ? schema.enum! : [schema.const];
    const fresh = [...site.words.keys()].sort().map(json.string);
    const values = isSorted(known) ? sorted([...known, ...fresh]) : [...known, ...fresh];
    const shown = fresh.map((word) => writeJson(word)).join(', ');
    const policy = steerAt(this.decisions, 'choice', site.steps)?.value ?? this.choices;
    const isText = policy === 'none' || values.length > mostWords;
    // Words that come in numbers, or to a place that is to be open, are not the last.
    const isOpen =
      policy === 'open' ||
      (policy !== 'closed' && fresh.length >= manyFresh && fresh.length > known.length / 2);
    const grown: Schema = { ...schema, const: undefined, enum: values };
    const wider: Schema = isText
      ? { ...schema, type: schema.type ?? (['string'] as const), const: undefined, enum: undefined }
      : isOpen
        ? withAlternatives(grown, [{ type: ['string'] }], () => undefined)
        : grown;
    return this.note(site.steps, schema, wider, shown, first);
  }

  private withNumbers(schema: Schema, original: Schema, { steps, width, decimal, exact }: Site): Schema {
    // Where values are listed and no type is named, what they are is said as they go.
    if (original.type === undefined || schema.type === undefined) return schema;
    if (decimal !== undefined) {
      const types = [...new Set(schema.type.map((type) => (type === 'integer' ? 'number' : type)))];
      // Integers that a double does not carry were seen, or may have been.
      const widest = widerOf(widthOfFormat(schema.format), width?.needed ?? 'int32');
      const needsDigits = exact !== undefined || widerOf(widest, 'double-int') !== 'double-int';
      const wider = { ...schema, type: types, format: needsDigits ? 'decimal' : undefined };
      return this.note(steps, schema, wider, 'a number with a fraction or an exponent', decimal);
    }
    if (exact !== undefined)
      return this.note(
        steps,
        schema,
        { ...schema, format: 'decimal' },
        'more digits than a double has',
        exact,
      );
    if (width === undefined) return schema;
    const beyond = `an integer beyond ${schema.format ?? '64 bits'}`;
    return this.note(steps, schema, { ...schema, format: formatOfWidth(width.needed) }, beyond, width.first);
  }

  private withFields(schema: Schema, original: Schema, { steps, absent, fields }: Site): Schema {
    let next = schema;
    if (absent.size > 0) {
      next = { ...next, required: next.required!.filter((key) => !absent.has(key)) };
      for (const [key, first] of absent)
        this.change([...steps, { key }], 'required', 'optional', 'absent', first);
    }
    if (fields.size > 0) {
      const around = this.nameOf.get(original) ?? recordName(steps, this.title);
      const found = this.types.schemasOf(fields, around);
      next = { ...next, properties: new Map([...(next.properties ?? []), ...found]) };
      for (const [key, { first }] of fields) {
        const now = `${describeSchema(found.get(key)!, this.title)}, optional`;
        this.change([...steps, { key }], 'not known', now, 'a new key', first);
      }
    }
    return next;
  }

  /** A list of anything that stood at some position, in place of a tuple that some list is not. */
  private asList(schema: Schema, { steps, tuple }: Site): Schema {
    if (tuple === undefined) return schema;
    const key = lastKey(steps).key ?? this.title;
    const { place, first } = tuple;
    const beyond =
      totalAt(place) === 0 ? [] : [this.types.schemasOf(new Map([[key, tuple]]), this.title).get(key)!];
    const [head, ...others] = schema.prefixItems ?? [];
    const items = this.with(head ?? {}, [...others, ...beyond]);
    const wider = { ...schema, prefixItems: undefined, minItems: undefined, items };
    return this.note(steps, schema, wider, 'a list of another length', first);
  }

  private withArms(schema: Schema, { steps, tag, arms }: Site): Schema {
    if (tag === undefined) return schema;
    const base = recordName(steps, this.title);
    const words = [...arms].sort(([a], [b]) => (a < b ? -1 : 1));
    let next = schema;
    for (const [word, strangers] of words) {
      const key = `${word} ${base}`;
      const found = this.types.schemasOf(new Map([[key, strangers]]), this.title).get(key)!;
      const name = found.$ref === undefined ? undefined : definitionOf(found.$ref);
      const record = name === undefined ? undefined : this.types.added.get(name);
      if (record?.properties?.has(tag))
        this.types.added.set(name!, {
          ...record,
          properties: new Map([...record.properties, [tag, { const: json.string(word) }]]),
        });
      next = this.with(next, [found]);
    }
    const [first] = words.map(([, strangers]) => strangers.first).sort(compareMarks);
    if (first === undefined) return schema;
    const fresh = words.map(([word]) => JSON.stringify(word)).join(', ');
    return this.note(steps, schema, next, `${tag} is ${fresh}`, first);
  }
}

/** Why a schema asks for something no more. */
function whyWithout(keyword: string, { format }: Schema): string {
  switch (keyword) {
    case 'enum':
    case 'const':
      return 'a value that is not listed';
    case 'format':
      return `a text that is no ${format}`;
    case 'contentEncoding':
      return 'a text that is no base64';
    default:
      return `a value does not meet ${keyword}`;
  }
}

/** A schema that lost its values still says of which type they were, with those that it did not list. */
function typed(schema: Schema, before: Schema, { decimal, exact, width }: Site): Schema {
  if (schema.type !== undefined) return schema;
  const values = before.const === undefined ? before.enum : [before.const];
  if (values === undefined) return schema;
  const types = new Set(values.map(typeOf));
  if (decimal !== undefined) types.add('number');
  if (types.has('number')) types.delete('integer');
  const format = exact !== undefined ? 'decimal' : width && formatOfWidth(width.needed);
  return { ...schema, type: [...types], format: schema.format ?? format };
}

function isSorted(values: readonly JsonValue[]): boolean {
  return values.every((value, i) => i === 0 || compare(values[i - 1]!, value) <= 0);
}

function sorted(values: readonly JsonValue[]): JsonValue[] {
  return [...values].sort(compare);
}

/** Texts in their order, null after them, as inference writes them. */
function compare(a: JsonValue, b: JsonValue): number {
  if (a.kind !== 'string' || b.kind !== 'string')
    return Number(a.kind !== 'string') - Number(b.kind !== 'string');
  return a.value < b.value ? -1 : a.value > b.value ? 1 : 0;
}

/**
 * Alternatives that grew may overlap: a value that meets two is then no longer exactly one of them. Records with a
 * tag cannot overlap.
 */
function withoutOverlap(part: Schema, root: Schema): Schema {
  if (part.oneOf === undefined) return part;
  const targets = part.oneOf.map((arm) =>
    arm.$ref === undefined ? arm : resolveReference(root, arm.$ref, arm, undefined),
  );
  const objects = targets.filter((each) => typesOf(each).includes('object') || typesOf(each).length === 0);
  const isTold = objects.length < 2 || (objects.length === targets.length && tagOf(targets) !== undefined);
  return isTold ? part : { ...part, anyOf: part.oneOf, oneOf: undefined };
}
