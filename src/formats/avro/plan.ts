import { SkevoError } from '../../core/error.js';
import { instantText, numberText, scaledText } from '../binary.js';
import { quoted, type JsonPieces } from '../json-pieces.js';

/** Tells what a value has that JSON has not. */
type Refuse = (message: string, remedy: string) => never;

/** Puts a value, as the library gives it, as JSON. */
type Put = (value: unknown, out: JsonPieces, place: number, refuse: Refuse) => void;

interface Planned {
  /** The schema for the library. */
  readonly layout: unknown;
  /** What the library calls it as a branch of a union. */
  readonly branch: string;
  readonly put: Put;
}

/** Metadata of a file that Skevo wrote: the keys in JSON of fields that Avro has no such names for. */
export const keysOfJson = 'json.keys';

type Parts = Readonly<Record<string, unknown>>;

const scalars: Readonly<Record<string, Put>> = {
  null: (_, out, place) => out.put('null', place),
  boolean: (value, out, place) => out.put(String(value), place),
  int: (value, out, place) => out.put(String(value), place),
  long: (value, out, place) => out.put(String(value), place),
  float: (value, out, place, refuse) => out.put(floatText(value as number, refuse), place),
  double: (value, out, place, refuse) => out.put(numberText(value as number, refuse), place),
  bytes: (value, out, place) => out.put(quoted((value as Buffer).toString('base64')), place),
  string: (value, out, place) => out.put(quoted(value as string), place),
};

/**
 * How the objects of a file become JSON. The library gets the schema with names of its own, and maps as records of a list of keys and
 * values, which are the same bytes: so no name and no key means anything to it.
 */
export class Plan {
  readonly layout: unknown;
  readonly put: Put;
  private readonly named = new Map<string, { branch: string; put: Put }>();
  private count = 0;
  private keys = new Map<string, Map<string, string>>();

  /** @param schema as it stands in the file @throws SkevoError for what is no Avro schema */
  constructor(schema: unknown) {
    const planned = this.planned(schema, '');
    this.layout = planned.layout;
    this.put = planned.put;
  }

  /** @param keys what the file says that fields are called in JSON */
  rename(keys: Buffer | undefined): void {
    if (keys === undefined) return;
    const given = JSON.parse(keys.toString()) as Readonly<Record<string, Readonly<Record<string, string>>>>;
    this.keys = new Map(Object.entries(given).map(([name, own]) => [name, new Map(Object.entries(own))]));
  }

  private planned(schema: unknown, namespace: string): Planned {
    if (Array.isArray(schema)) return this.union(schema, namespace);
    if (typeof schema === 'string') return this.byName(schema, namespace);
    if (typeof schema !== 'object' || schema === null)
      throw notSchema(`${JSON.stringify(schema)} is no type`);
    const parts = schema as Parts;
    switch (parts['type']) {
      case 'record':
      case 'error':
        return this.record(parts, namespace);
      case 'enum': {
        const symbols = parts['symbols'] as readonly string[];
        if (!Array.isArray(symbols)) throw notSchema('an enum has no symbols');
        // To the library they are numbers.
        const put: Put = (value, out, place) =>
          out.put(quoted(symbols[Number((value as string).slice(1))]!), place);
        const { branch } = this.name(parts, namespace, put);
        return {
          layout: { type: 'enum', name: branch, symbols: symbols.map((_, i) => `s${i}`) },
          branch,
          put,
        };
      }
      case 'fixed': {
        const put = logical(parts) ?? scalars['bytes']!;
        const { branch } = this.name(parts, namespace, put);
        return { layout: { type: 'fixed', name: branch, size: parts['size'] }, branch, put };
      }
      case 'array': {
        const { layout, put } = this.planned(parts['items'], namespace);
        return { layout: { type: 'array', items: layout }, branch: 'array', put: list(put) };
      }
      case 'map': {
        const { layout, put } = this.planned(parts['values'], namespace);
        const entry = {
          type: 'record',
          name: `T${this.count++}`,
          fields: [
            { name: 'key', type: 'string' },
            { name: 'value', type: layout },
          ],
        };
        // Around the list, so that a union tells it from one.
        const branch = `T${this.count++}`;
        const fields = [{ name: 'entries', type: { type: 'array', items: entry } }];
        return { layout: { type: 'record', name: branch, fields }, branch, put: map(put) };
      }
      default: {
        const inner = this.planned(parts['type'], namespace);
        return { ...inner, put: logical(parts) ?? inner.put };
      }
    }
  }

  private byName(name: string, namespace: string): Planned {
    const scalar = Object.hasOwn(scalars, name) ? scalars[name] : undefined;
    if (scalar !== undefined) return { layout: name, branch: name, put: scalar };
    const known =
      this.named.get(name.includes('.') || namespace === '' ? name : `${namespace}.${name}`) ??
      this.named.get(name);
    if (known === undefined) throw notSchema(`${name} is no type`);
    return { layout: known.branch, branch: known.branch, put: (...given) => known.put(...given) };
  }

  private fullName({ name, namespace }: Parts, around: string): string {
    const own = String(name);
    const space = own.includes('.') ? '' : String(namespace ?? around);
    return space === '' ? own : `${space}.${own}`;
  }

  private name(parts: Parts, namespace: string, put: Put): { branch: string; put: Put } {
    const named = { branch: `T${this.count++}`, put };
    this.named.set(this.fullName(parts, namespace), named);
    return named;
  }

  private record(parts: Parts, namespace: string): Planned {
    const full = this.fullName(parts, namespace);
    const named = this.name(parts, namespace, scalars['null']!);
    const inside = full.includes('.') ? full.slice(0, full.lastIndexOf('.')) : '';
    const given = parts['fields'];
    if (!Array.isArray(given)) throw notSchema(`the record ${full} has no fields`);
    const fields = (given as readonly Parts[]).map((field, i) => {
      const { layout, put } = this.planned(field['type'], inside);
      return { name: `f${i}`, layout, put, own: String(field['name']) };
    });
    // Keys are known when the first object is read.
    let keys: readonly string[] | undefined;
    named.put = (value, out, place, refuse) => {
      const object = value as Parts;
      if (fields.length === 0) out.put('{', place);
      keys ??= fields.map(
        ({ own }, i) => `${i === 0 ? '{' : ','}${quoted(this.keys.get(full)?.get(own) ?? own)}:`,
      );
      for (const [i, { name, put }] of fields.entries()) {
        out.put(keys[i]!, place);
        put(object[name], out, place, refuse);
      }
      out.put('}');
    };
    return {
      layout: {
        type: 'record',
        name: named.branch,
        fields: fields.map(({ name, layout }) => ({ name, type: layout })),
      },
      branch: named.branch,
      put: named.put,
    };
  }

  private union(schemas: readonly unknown[], namespace: string): Planned {
    const arms = schemas.map((schema) => this.planned(schema, namespace));
    const byBranch = new Map(arms.map(({ branch, put }) => [branch, put]));
    return {
      layout: arms.map(({ layout }) => layout),
      branch: '',
      put: (value, out, place, refuse) => {
        if (value === null) out.put('null', place);
        else
          for (const [branch, inner] of Object.entries(value as object))
            byBranch.get(branch)!(inner, out, place, refuse);
      },
    };
  }
}

function notSchema(message: string): SkevoError {
  return new SkevoError(
    `its schema is not one of Avro: ${message}`,
    'See the Avro specification for schemas.',
  );
}

function list(each: Put): Put {
  return (value, out, place, refuse) => {
    out.put('[', place);
    (value as readonly unknown[]).forEach((item, i) => {
      if (i > 0) out.put(',');
      each(item, out, place, refuse);
    });
    out.put(']');
  };
}

function map(each: Put): Put {
  return (value, out, place, refuse) => {
    out.put('{', place);
    const { entries } = value as { readonly entries: readonly { key: string; value: unknown }[] };
    entries.forEach((entry, i) => {
      out.put(`${i === 0 ? '' : ','}${quoted(entry.key)}:`, place);
      each(entry.value, out, place, refuse);
    });
    out.put('}');
  };
}

/** The shortest number that is the same float of 32 bits. */
function floatText(value: number, refuse: Refuse): string {
  if (!Number.isFinite(value)) return numberText(value, refuse);
  for (let digits = 6; digits < 9; digits++) {
    const text = value.toPrecision(digits);
    if (Math.fround(Number(text)) === value) return numberText(Number(text), refuse);
  }
  return numberText(Number(value.toPrecision(9)), refuse);
}

/** What a logical type says that a value is; undefined for what it does not say. */
function logical({ logicalType, type, scale }: Parts): Put | undefined {
  switch (logicalType) {
    case 'date':
      return asText((days) => dateText(Number(days)));
    case 'time-millis':
      return asText((value) => timeText(BigInt(value) * 1000n));
    case 'time-micros':
      return asText((value) => timeText(BigInt(value)));
    case 'timestamp-millis':
      return asText((value) => pointText(BigInt(value), 1_000n));
    case 'timestamp-micros':
      return asText((value) => pointText(BigInt(value), 1_000_000n));
    case 'timestamp-nanos':
      return asText((value) => pointText(BigInt(value), 1_000_000_000n));
    case 'local-timestamp-millis':
      return asText((value) => pointText(BigInt(value), 1_000n)?.slice(0, -1));
    case 'local-timestamp-micros':
      return asText((value) => pointText(BigInt(value), 1_000_000n)?.slice(0, -1));
    case 'local-timestamp-nanos':
      return asText((value) => pointText(BigInt(value), 1_000_000_000n)?.slice(0, -1));
    case 'decimal':
      return type === 'bytes' || type === 'fixed'
        ? (value, out, place) => out.put(decimalText(value as Buffer, Number(scale ?? 0)), place)
        : undefined;
    default:
      return undefined;
  }
}

function asText(textOf: (value: number | bigint) => string | undefined): Put {
  return (value, out, place, refuse) => {
    const text = textOf(value as number | bigint);
    if (text === undefined)
      refuse(`${String(value)} is outside of the years 0 to 9999`, 'Send it as a number.');
    out.put(`"${text}"`, place);
  };
}

function dateText(days: number): string | undefined {
  return instantText(BigInt(days) * 86_400n, 0)?.slice(0, 10);
}

function timeText(microseconds: bigint): string | undefined {
  return pointText(microseconds, 1_000_000n)?.slice(11, -1);
}

/** @param unit how many of them a second has */
function pointText(value: bigint, unit: bigint): string | undefined {
  const fraction = ((value % unit) + unit) % unit;
  return instantText((value - fraction) / unit, Number(fraction * (1_000_000_000n / unit)));
}

/** A whole number in two's complement, high byte first, with so many digits after the point. */
function decimalText(bytes: Buffer, scale: number): string {
  const value =
    bytes.length === 0 ? 0n : BigInt.asIntN(8 * bytes.length, BigInt(`0x${bytes.toString('hex')}`));
  return scaledText(value, scale);
}
