import { SkevoError } from '../../core/error.js';
import { parseJson } from '../../core/json/parse.js';
import { excerptOf, type Source } from '../../core/json/source.js';
import { json, membersByKey, type JsonObject, type JsonValue } from '../../core/json/value.js';
import { referenceTo } from '../../core/schema/resolve.js';
import { dialect, type Schema } from '../../core/schema/schema.js';

const scalars: ReadonlyMap<string, Schema> = new Map<string, Schema>([
  ['null', { type: ['null'] }],
  ['boolean', { type: ['boolean'] }],
  ['int', { type: ['integer'], format: 'int32' }],
  ['long', { type: ['integer'], format: 'int64' }],
  ['float', { type: ['number'] }],
  ['double', { type: ['number'] }],
  ['bytes', base64()],
  ['string', { type: ['string'] }],
]);

const named: ReadonlySet<string> = new Set(['record', 'error', 'enum', 'fixed']);

/** Avro specification 1.11, "Names". */
const nameOfAvro = /^[A-Za-z_][A-Za-z0-9_]*$/;
const fullNameOfAvro = /^[A-Za-z_][A-Za-z0-9_]*(?:\.[A-Za-z_][A-Za-z0-9_]*)*$/;

function base64(): Schema {
  return { type: ['string'], other: new Map([['contentEncoding', json.string('base64')]]) };
}

/** Whether a JSON document is an Avro schema: a named type, or several. */
export function isAvro(root: JsonValue): boolean {
  if (root.kind === 'list') return root.items.length > 0 && root.items.every(isAvro);
  if (root.kind !== 'object') return false;
  const type = membersByKey(root).get('type')?.value;
  return type?.kind === 'string' && named.has(type.value) && membersByKey(root).has('name');
}

/**
 * The JSON Schema of what an Avro schema says, as Skevo reads Avro files: bytes in base64, dates and times as RFC 3339.
 * @throws SkevoError with the place of what Avro refuses
 */
export function schemaOfAvro(source: Source): Schema {
  const { root } = parseJson(source);
  const reader = new Reader(source);
  // Of several, the last is what the others are for.
  const all = root.kind === 'list' ? root.items : [root];
  let last: Schema = {};
  for (const each of all) last = reader.schema(each, '');
  return reader.rooted(last);
}

class Reader {
  private readonly definitions = new Map<string, { schema: Schema; key: string }>();

  constructor(private readonly source: Source) {}

  private fail(value: JsonValue, message: string, remedy: string): never {
    throw new SkevoError(message, remedy, excerptOf(this.source, value.start));
  }

  /** The schema of the last type as the whole, with the others beside it. */
  rooted(last: Schema): Schema {
    const defs = new Map([...this.definitions.values()].map(({ key, schema }) => [key, schema]));
    const own = [...this.definitions.values()].find(({ key }) => referenceTo(key) === last.$ref);
    if (own === undefined) return { $schema: dialect, ...last, $defs: defs };
    defs.delete(own.key);
    const moved = (schema: Schema): Schema => withReference(schema, referenceTo(own.key), '#');
    return {
      $schema: dialect,
      title: own.key,
      ...moved(own.schema),
      ...(defs.size > 0 && { $defs: new Map([...defs].map(([key, each]) => [key, moved(each)])) }),
    };
  }

  schema(value: JsonValue, namespace: string): Schema {
    if (value.kind === 'string') return this.byName(value, value.value, namespace);
    if (value.kind === 'list') return this.union(value.items, namespace);
    if (value.kind !== 'object')
      return this.fail(
        value,
        `a type is a name, an object or a list, found ${value.kind}`,
        'See the Avro specification.',
      );
    const members = membersByKey(value);
    const type = members.get('type')?.value;
    if (type === undefined) return this.fail(value, 'this type has no "type"', 'Say what it is.');
    const kind = type.kind === 'string' ? type.value : '';
    switch (kind) {
      case 'record':
      case 'error':
        return this.record(value, namespace);
      case 'enum': {
        const symbols = members.get('symbols')?.value;
        if (symbols?.kind !== 'list' || symbols.items.length === 0)
          return this.fail(value, 'an enum has a list of symbols', 'Give it "symbols".');
        for (const each of symbols.items)
          if (each.kind !== 'string' || !nameOfAvro.test(each.value))
            this.fail(
              each,
              'this symbol is no name in Avro',
              'A name has letters, digits and _, and begins with no digit.',
            );
        return this.define(value, namespace, () => ({
          type: ['string'],
          enum: symbols.items,
          ...said(value),
        }));
      }
      case 'fixed': {
        const size = members.get('size')?.value;
        if (size?.kind !== 'number' || !/^\d+$/.test(size.text))
          return this.fail(value, 'a fixed type has a size', 'Give it "size", in bytes.');
        return this.define(value, namespace, () => ({ ...(logical(value) ?? base64()), ...said(value) }));
      }
      case 'array': {
        const items = members.get('items')?.value;
        if (items === undefined) return this.fail(value, 'an array has items', 'Give it "items".');
        return { type: ['array'], items: this.schema(items, namespace) };
      }
      case 'map': {
        const values = members.get('values')?.value;
        if (values === undefined) return this.fail(value, 'a map has values', 'Give it "values".');
        return { type: ['object'], additionalProperties: this.schema(values, namespace) };
      }
      default:
        return logical(value) ?? this.schema(type, namespace);
    }
  }

  private byName(at: JsonValue, name: string, namespace: string): Schema {
    const scalar = scalars.get(name);
    if (scalar !== undefined) return scalar;
    const full = name.includes('.') || namespace === '' ? name : `${namespace}.${name}`;
    const found = this.definitions.get(full) ?? this.definitions.get(name);
    if (found === undefined)
      return this.fail(
        at,
        `there is no type ${JSON.stringify(name)} before this`,
        'Define it where it is used first.',
      );
    return { $ref: referenceTo(found.key) };
  }

  private union(items: readonly JsonValue[], namespace: string): Schema {
    const arms = items.map((each) => {
      if (each.kind === 'list')
        this.fail(each, 'a union holds no union', 'Write its types beside the others.');
      return this.schema(each, namespace);
    });
    return arms.length === 1 ? arms[0]! : { anyOf: arms };
  }

  private record(value: JsonObject, namespace: string): Schema {
    const fields = membersByKey(value).get('fields')?.value;
    if (fields?.kind !== 'list')
      return this.fail(value, 'a record has a list of fields', 'Give it "fields".');
    return this.define(value, namespace, (inside) => {
      const properties = new Map<string, Schema>();
      const required: string[] = [];
      for (const field of fields.items) {
        if (field.kind !== 'object')
          return this.fail(field, 'a field is an object', 'Give it "name" and "type".');
        const members = membersByKey(field);
        const name = members.get('name')?.value;
        const type = members.get('type')?.value;
        if (name?.kind !== 'string' || !nameOfAvro.test(name.value))
          return this.fail(
            name ?? field,
            name?.kind === 'string'
              ? `${JSON.stringify(name.value)} is no name in Avro`
              : 'a field has a name',
            'A name has letters, digits and _, and begins with no digit.',
          );
        if (properties.has(name.value))
          return this.fail(
            name,
            `the record has two fields ${JSON.stringify(name.value)}`,
            'Name them apart.',
          );
        if (type === undefined) return this.fail(field, 'a field has a type', 'Give it "type".');
        properties.set(name.value, { ...this.schema(type, inside), ...said(field) });
        // Every object of a file has all fields.
        required.push(name.value);
      }
      return { type: ['object'], properties, required, ...said(value) };
    });
  }

  /** @param make given the namespace inside of the type */
  private define(value: JsonObject, namespace: string, make: (inside: string) => Schema): Schema {
    const members = membersByKey(value);
    const name = members.get('name')?.value;
    if (name?.kind !== 'string' || !fullNameOfAvro.test(name.value))
      return this.fail(
        name ?? value,
        name?.kind === 'string'
          ? `${JSON.stringify(name.value)} is no name in Avro`
          : 'a named type has a name',
        'A name has letters, digits and _, and begins with no digit.',
      );
    const own = members.get('namespace')?.value;
    const dot = name.value.lastIndexOf('.');
    const space = dot >= 0 ? name.value.slice(0, dot) : own?.kind === 'string' ? own.value : namespace;
    const simple = name.value.slice(dot + 1);
    const full = space === '' ? simple : `${space}.${simple}`;
    if (this.definitions.has(full))
      return this.fail(name, `the type ${full} is defined twice`, 'Refer to it by its name.');
    const keys = new Set([...this.definitions.values()].map(({ key }) => key));
    const key = keys.has(simple) ? full : simple;
    const entry = { key, schema: {} as Schema };
    this.definitions.set(full, entry);
    for (const alias of aliasesOf(value)) {
      const other = alias.includes('.') || space === '' ? alias : `${space}.${alias}`;
      if (!this.definitions.has(other)) this.definitions.set(other, entry);
    }
    entry.schema = make(space);
    return { $ref: referenceTo(key) };
  }
}

function aliasesOf(value: JsonObject): string[] {
  const aliases = membersByKey(value).get('aliases')?.value;
  return aliases?.kind === 'list'
    ? aliases.items.flatMap((each) => (each.kind === 'string' ? [each.value] : []))
    : [];
}

function said(value: JsonObject): Schema {
  const doc = membersByKey(value).get('doc')?.value;
  return doc?.kind === 'string' && doc.value !== '' ? { description: doc.value } : {};
}

/** What a logical type is read as. */
function logical(value: JsonObject): Schema | undefined {
  const type = membersByKey(value).get('logicalType')?.value;
  if (type?.kind !== 'string') return undefined;
  switch (type.value) {
    case 'date':
      return { type: ['string'], format: 'date' };
    case 'time-millis':
    case 'time-micros':
      return { type: ['string'] };
    case 'timestamp-millis':
    case 'timestamp-micros':
    case 'timestamp-nanos':
      return { type: ['string'], format: 'date-time' };
    case 'local-timestamp-millis':
    case 'local-timestamp-micros':
    case 'local-timestamp-nanos':
      return { type: ['string'] };
    case 'uuid':
      return { type: ['string'], format: 'uuid' };
    case 'decimal':
      return { type: ['number'], format: 'decimal' };
    default:
      return undefined;
  }
}

function withReference(schema: Schema, from: string, to: string): Schema {
  const each = (inner: Schema) => withReference(inner, from, to);
  const { $ref, properties, items, anyOf, additionalProperties } = schema;
  return {
    ...schema,
    ...($ref === from && { $ref: to }),
    ...(properties && { properties: new Map([...properties].map(([key, value]) => [key, each(value)])) }),
    ...(typeof items === 'object' && { items: each(items) }),
    ...(typeof additionalProperties === 'object' && { additionalProperties: each(additionalProperties) }),
    ...(anyOf && { anyOf: anyOf.map(each) }),
  };
}
