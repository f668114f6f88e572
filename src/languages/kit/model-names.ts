import {
  typesWithin,
  type RecordType,
  type TextForm,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
} from '../../core/model/types.js';
import type { Emitted } from '../language.js';
import { byJsonType } from './by-json-type.js';
import { allocate, identifier, type Casing } from './names.js';
import { viewsOf, type View } from './views.js';

/** How a language spells names, and those that it or the generated helpers already use. */
export interface Spelling {
  readonly type: Casing;
  readonly field: Casing;
  readonly reservedTypes: ReadonlySet<string>;
  readonly reservedFields: ReadonlySet<string>;
  /** Set where a key that is called as something reserved gets the name of its record in front: `sailing_class`. */
  readonly prefixesReserved?: true;
}

/**
 * What the types of a model are called. One that is called as something reserved gets the name of its record in front, and
 * a payload `data` behind.
 */
export function typeNames(
  { name: payload, records, choices, unions }: TypeModel,
  casing: Casing,
  reserved: ReadonlySet<string>,
): Map<string, string> {
  const fold = (name: string) => (casing.caseless ? name.toLowerCase() : name);
  const refused = new Set([...reserved].map(fold));
  const isNamedBy = ({ fields }: RecordType, name: string) =>
    fields.some(({ type }) => [...typesWithin(type)].some((part) => 'name' in part && part.name === name));
  const all = [...records, ...choices, ...unions].map(({ name }) => name);
  const words = all.map((name) => {
    if (!refused.has(fold(identifier(name, casing)))) return name;
    const owner = records.find((record) => isNamedBy(record, name))?.name ?? payload;
    const owned = owner === name ? `${name} data` : `${owner} ${name}`;
    return all.includes(owned) ? name : owned;
  });
  const names = allocate(words, casing, reserved);
  return new Map(all.map((name, i) => [name, names.get(words[i]!)!]));
}

/** What the types, fields, words and alternatives of a model are called in a language. */
export class ModelNames {
  private readonly types: ReadonlyMap<string, string>;
  private readonly fields = new Map<string, ReadonlyMap<string, string>>();

  /** @param together names of records whose fields stand in one object, each key under one name */
  constructor(
    private readonly model: TypeModel,
    private readonly spelling: Spelling,
    together: readonly (readonly string[])[] = [],
  ) {
    this.types = typeNames(model, spelling.type, spelling.reservedTypes);
    for (const group of [...together, ...model.records.map(({ name }) => [name])]) {
      const names = group.filter((name) => !this.fields.has(name));
      const records = model.records.filter(({ name }) => names.includes(name));
      const keys = new Set(records.flatMap(({ fields }) => fields.map(({ key }) => key)));
      // No field is called as the type around it: many languages take that for its constructor.
      const reserved = new Set([...spelling.reservedFields, ...names.map((name) => this.types.get(name)!)]);
      const prefix = spelling.prefixesReserved ? `${this.ownerOf(names)} ` : undefined;
      const words = new Map(
        [...keys].map((key) => {
          const isReserved = reserved.has(identifier(key, spelling.field));
          const isFree = prefix !== undefined && !keys.has(prefix + key);
          return [key, isReserved && isFree ? prefix + key : key];
        }),
      );
      const own = allocate([...words.values()], spelling.field, reserved);
      for (const { name, fields } of records)
        this.fields.set(name, new Map(fields.map(({ key }) => [key, own.get(words.get(key)!)!])));
    }
  }

  /** What records that share an object are called: as the union of them, if there are several. */
  private ownerOf(records: readonly string[]): string {
    const [first] = records;
    if (records.length < 2) return first!;
    const isOf = ({ arms }: UnionType) =>
      arms.some(({ type }) => type.kind === 'record' && type.name === first);
    return this.model.unions.find(isOf)?.name ?? first!;
  }

  /** The name of a record, choice or union. */
  type(name: string): string {
    return this.types.get(name)!;
  }

  /** The names of all records, choices and unions. */
  all(): Iterable<string> {
    return this.types.values();
  }

  field(record: string, key: string): string {
    return this.fields.get(record)!.get(key)!;
  }

  /** The field that holds what a record has beside its fields. */
  unknown(record: string): string {
    const { field, reservedFields } = this.spelling;
    const taken = new Set([...reservedFields, this.type(record), ...this.fields.get(record)!.values()]);
    return allocate(['unknown'], field, taken).get('unknown')!;
  }

  /** The methods of a record that give texts as values of the language. */
  views(record: RecordType, forms: readonly TextForm[]): View[] {
    const { field, reservedFields } = this.spelling;
    const taken = new Set([
      ...reservedFields,
      this.type(record.name),
      this.unknown(record.name),
      ...this.fields.get(record.name)!.values(),
    ]);
    return viewsOf(record, forms, field, taken);
  }

  /** For whoever relates findings to generated code, and for the program of the bench. */
  emitted(): Emitted['names'] {
    const { records, choices, unions } = this.model;
    return new Map(
      [...records, ...choices, ...unions].map(({ name }) => [
        name,
        { type: this.type(name), fields: this.fields.get(name) ?? new Map<string, string>() },
      ]),
    );
  }
}

/**
 * What the alternatives of a union are called beside each other.
 * @param reserved what no alternative may be called: where alternatives stand inside the union, the types of the model
 *   too, which one of their names would hide
 */
export function armNames(union: UnionType, casing: Casing, reserved: ReadonlySet<string>): string[] {
  const words = union.arms.map(({ type }) => {
    if (type.kind === 'record') return type.name;
    if (type.kind === 'choice')
      return reserved.has(identifier(type.name, casing)) ? `${type.name} word` : type.name;
    if (type.kind === 'literal') return type.value;
    return byJsonType(type, {
      boolean: 'flag',
      string: 'text',
      number: 'number',
      list: 'list',
      object: 'map',
    });
  });
  // Two maps or texts may stand beside each other; a key must not be asked for twice.
  const keys = words.map((word, i) => (words.indexOf(word) === i ? word : `${word} ${i + 1}`));
  const names = allocate(keys, casing, reserved);
  return keys.map((key) => names.get(key)!);
}

/** A type as words of a name: what lists and maps are of comes before them. */
export function wordsOfType(type: Type): string {
  switch (type.kind) {
    case 'list':
      return `${wordsOfType(type.items)} list`;
    case 'map':
      return `${wordsOfType(type.values)} map`;
    case 'tuple':
      return `${type.items.map(wordsOfType).join(' ')} tuple`;
    case 'nullable':
      return `nullable ${wordsOfType(type.of)}`;
    case 'record':
    case 'choice':
    case 'union':
      return type.name;
    case 'literal':
      return `${type.value} word`;
    case 'anything':
      return 'json';
    case 'string':
      return type.form ?? 'string';
    case 'integer':
      return type.width === 'unbounded' ? 'big integer' : type.width === 'int32' ? 'int' : 'long';
    case 'number':
      return type.exact ? 'decimal' : 'double';
    case 'null':
    case 'boolean':
      return type.kind;
  }
}

/** What a decoder says it expected of the value of a union. */
export function expectedOf(union: UnionType): string {
  return [...new Set(union.arms.map(expectedOfArm))].join(' or ');
}

function expectedOfArm({ type, test }: UnionArm): string {
  if (test.kind === 'tag')
    return `an object whose ${JSON.stringify(test.key)} is ${test.values.map((value) => JSON.stringify(value)).join(' or ')}`;
  if (test.kind === 'key') return `an object with ${JSON.stringify(test.key)}`;
  if (type.kind === 'integer') return 'an integer';
  return byJsonType(type, {
    boolean: 'true or false',
    string: 'a string',
    number: 'a number',
    list: 'a list',
    object: 'an object',
  });
}
