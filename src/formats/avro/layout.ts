import { doubleCarries, integerOf } from '../../core/json/number.js';
import { membersByKey, type JsonObject, type JsonValue } from '../../core/json/value.js';
import {
  jsonTypeOf,
  type ChoiceType,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionArm,
} from '../../core/model/types.js';
import { capitalised, wordsOf } from '../../core/words.js';
import { unheld, wholeText } from '../unheld.js';

/** A value as the library takes it. @throws SkevoError with the place of what Avro cannot hold */
type Take = (value: JsonValue, tokens: readonly string[]) => unknown;

interface Part {
  /** The Avro schema. */
  readonly schema: unknown;
  /** What it is called as a branch of a union. */
  readonly branch: string;
  readonly take: Take;
}

/** A type model as an Avro schema, and its values as the library takes them. */
export class Layout {
  readonly schema: unknown;
  /** The keys in JSON of fields, by record, that Avro has no such names for. */
  readonly keys: Record<string, Record<string, string>> = {};
  private readonly root: Part;
  private readonly names = new Map<string, string>();
  private readonly taken = new Set<string>();
  private readonly begun = new Map<string, { take: Take }>();

  /** @throws SkevoError for a type that Avro has not */
  constructor(private readonly model: TypeModel) {
    this.root = this.part(model.root, []);
    this.schema = this.root.schema;
  }

  value(value: JsonValue): unknown {
    return this.root.take(value, []);
  }

  private part(type: Type, trail: readonly string[]): Part {
    switch (type.kind) {
      case 'anything':
        throw unheld(trail, 'what may be anything has no type in Avro', 'Say what it is, or write CBOR.');
      case 'null':
        return plain('null', 'null', () => null);
      case 'boolean':
        return plain('boolean', 'boolean', (value) => value.kind === 'boolean' && value.value);
      case 'string':
        return type.form === 'uuid'
          ? { schema: { type: 'string', logicalType: 'uuid' }, branch: 'string', take: takeText }
          : { schema: 'string', branch: 'string', take: takeText };
      case 'literal':
        return { schema: 'string', branch: 'string', take: takeText };
      case 'integer':
        return type.width === 'int32'
          ? plain('int', 'number', (value, tokens) => Number(takeInteger(value, tokens, 32)))
          : plain('long', 'number', (value, tokens) => takeInteger(value, tokens, 64));
      case 'number':
        return plain('double', 'number', takeDouble);
      case 'list': {
        const { schema, take } = this.part(type.items, [...trail, '*']);
        return {
          schema: { type: 'array', items: schema },
          branch: 'array',
          take: (value, tokens) => listOf(value, tokens).map((each, i) => take(each, [...tokens, String(i)])),
        };
      }
      case 'tuple':
        throw unheld(trail, 'a list of positions with types of their own has no type in Avro', 'Write CBOR.');
      case 'map': {
        const { schema, take } = this.part(type.values, [...trail, '*']);
        return {
          schema: { type: 'map', values: schema },
          branch: 'map',
          take: (value, tokens) =>
            Object.fromEntries(
              [...membersByKey(objectOf(value, tokens)).values()].map(({ key, value: each }) => [
                wholeText(key, tokens),
                take(each, [...tokens, key]),
              ]),
            ),
        };
      }
      case 'record':
        return this.record(
          this.model.records.find(({ name }) => name === type.name)!,
          trail,
        );
      case 'choice':
        return this.choice(this.model.choices.find(({ name }) => name === type.name)!);
      case 'union':
        return this.union(this.model.unions.find(({ name }) => name === type.name)!.arms, trail);
      case 'nullable':
        return this.orNull(this.part(type.of, trail));
    }
  }

  /** Null is a branch of its own, the first, so that it can be the default. */
  private orNull({ schema, branch, take }: Part): Part {
    if (branch === 'null') return { schema, branch, take };
    const isUnion = Array.isArray(schema);
    const others = isUnion ? (schema as unknown[]).filter((each) => each !== 'null') : [schema];
    return {
      schema: ['null', ...others],
      branch: '',
      take: (value, tokens) =>
        value.kind === 'null' ? null : isUnion ? take(value, tokens) : { [branch]: take(value, tokens) },
    };
  }

  private record({ name, fields, others, description }: RecordType, trail: readonly string[]): Part {
    const known = this.begun.get(name);
    const own = this.nameOf(name);
    if (known !== undefined)
      return { schema: own, branch: own, take: (value, tokens) => known.take(value, tokens) };
    if (others !== undefined)
      throw unheld(trail, 'keys that are data beside fields have no type in Avro', 'Write CBOR.');
    const begun: { take: Take } = { take: () => undefined };
    this.begun.set(name, begun);
    const taken = new Set<string>();
    const planned = fields.map((field) => {
      const part = this.part(field.type, [...trail, field.key]);
      const isOpen = !field.required || field.nullable;
      return {
        key: field.key,
        name: fresh(field.key, taken),
        part: isOpen ? this.orNull(part) : part,
        isOpen,
        description: field.description,
      };
    });
    const keys = new Set(fields.map(({ key }) => key));
    begun.take = (value, tokens) => {
      const members = membersByKey(objectOf(value, tokens));
      for (const key of members.keys())
        if (!keys.has(key))
          throw unheld([...tokens, key], 'the schema has no such field', 'Add it to the schema.');
      const held: Record<string, unknown> = {};
      for (const { key, name: field, part, isOpen } of planned) {
        const each = members.get(key)?.value;
        if (each === undefined && !isOpen)
          throw unheld([...tokens, key], 'it is required and missing', 'Give it, or make it optional.');
        held[field] = each === undefined ? null : part.take(each, [...tokens, key]);
      }
      return held;
    };
    const renamed = planned.filter((each) => each.key !== each.name);
    if (renamed.length > 0) this.keys[own] = Object.fromEntries(renamed.map((each) => [each.name, each.key]));
    return {
      schema: {
        type: 'record',
        name: own,
        ...(description !== undefined && { doc: description }),
        fields: planned.map(({ name: field, part, isOpen, description: doc }) => ({
          name: field,
          type: part.schema,
          ...(doc !== undefined && { doc }),
          ...(isOpen && Array.isArray(part.schema) && { default: null }),
        })),
      },
      branch: own,
      take: begun.take,
    };
  }

  private choice({ name, values, open }: ChoiceType): Part {
    if (open || values.some((each) => !nameOfAvro.test(each))) return plain('string', 'string', takeText);
    const isFirst = !this.begun.has(name);
    const own = this.nameOf(name);
    const take: Take = (value, tokens) => {
      const text = takeText(value, tokens) as string;
      if (!values.includes(text))
        throw unheld(tokens, `${JSON.stringify(text)} is none of its words`, 'Add it to the schema.');
      return text;
    };
    this.begun.set(name, { take });
    return { schema: isFirst ? { type: 'enum', name: own, symbols: values } : own, branch: own, take };
  }

  private union(arms: readonly UnionArm[], trail: readonly string[]): Part {
    const parts = arms.map((arm) => ({ arm, part: this.part(arm.type, trail) }));
    return {
      schema: parts.map(({ part }) => part.schema),
      branch: '',
      take: (value, tokens) => {
        const found = parts.find(({ arm }) => isOf(value, arm));
        if (found === undefined)
          throw unheld(tokens, 'it is none of the alternatives', 'Add it to the schema.');
        return { [found.part.branch]: found.part.take(value, tokens) };
      },
    };
  }

  private nameOf(name: string): string {
    let own = this.names.get(name);
    if (own === undefined)
      this.names.set(name, (own = fresh(wordsOf(name).map(capitalised).join(''), this.taken)));
    return own;
  }
}

const nameOfAvro = /^[A-Za-z_][A-Za-z0-9_]*$/;

/** A name that Avro has, and that is not taken; `__proto__` is one, but not to the library. */
function fresh(name: string, taken: Set<string>): string {
  const letters = name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(?=\d|$)/, '_');
  const base = letters === '__proto__' ? '_proto' : letters;
  let own = base;
  for (let i = 2; taken.has(own); i++) own = `${base}_${i}`;
  taken.add(own);
  return own;
}

function plain(schema: string, kind: JsonValue['kind'], take: Take): Part {
  return {
    schema,
    branch: schema,
    take: (value, tokens) => {
      if (value.kind !== kind) throw wrong(tokens, kind, value);
      return take(value, tokens);
    },
  };
}

const takeText: Take = (value, tokens) => {
  if (value.kind !== 'string') throw wrong(tokens, 'string', value);
  return wholeText(value.value, tokens);
};

function takeInteger(value: JsonValue, tokens: readonly string[], bits: number): bigint {
  const digits = value.kind === 'number' ? integerOf(value.text) : undefined;
  if (digits === undefined) throw wrong(tokens, 'whole number', value);
  const whole = BigInt(digits);
  if (BigInt.asIntN(bits, whole) !== whole)
    throw unheld(
      tokens,
      `${digits} needs more than ${bits} bits`,
      'Say in the schema how wide it is, or send it as text.',
    );
  return whole;
}

const takeDouble: Take = (value, tokens) => {
  if (value.kind !== 'number') throw wrong(tokens, 'number', value);
  if (!doubleCarries(value.text))
    throw unheld(
      tokens,
      `a double does not hold all digits of ${value.text}`,
      'Send it as text, or write CBOR.',
    );
  return Number(value.text);
};

function listOf(value: JsonValue, tokens: readonly string[]): readonly JsonValue[] {
  if (value.kind !== 'list') throw wrong(tokens, 'list', value);
  return value.items;
}

function objectOf(value: JsonValue, tokens: readonly string[]): JsonObject {
  if (value.kind !== 'object') throw wrong(tokens, 'object', value);
  return value;
}

function wrong(tokens: readonly string[], expected: string, { kind }: JsonValue) {
  return unheld(tokens, `the schema says ${expected}, found ${kind}`, 'Convert only what meets the schema.');
}

/** Whether a value is of an arm of a union. */
function isOf(value: JsonValue, { type, test }: UnionArm): boolean {
  if (jsonTypeOf(type) !== value.kind) return false;
  if (value.kind !== 'object' || test.kind === 'json') return true;
  const own = membersByKey(value).get(test.key)?.value;
  return test.kind === 'key' ? own !== undefined : own?.kind === 'string' && test.values.includes(own.value);
}
