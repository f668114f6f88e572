import { SkevoError } from '../error.js';
import { datesOf, formOf } from './dates.js';
import { integerOf, integerWidthOf, widerOf, widthOfFormat } from '../json/number.js';
import { excerptOf, type Source } from '../json/source.js';
import { pascalCase, singular, wordsOf } from '../words.js';
import { resolveReference } from '../schema/resolve.js';
import { impliedTypes, schemaToJson, type Schema, type TypeName } from '../schema/schema.js';
import { sameValue } from '../json/same.js';
import {
  jsonTypeOf,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
  type ArmTest,
} from './types.js';

/** Keywords that change what a value may be in a way no generated class follows. */
const unsupported = [
  'allOf',
  'not',
  'if',
  'dependentSchemas',
  'patternProperties',

  '$dynamicRef',
  'unevaluatedProperties',
];

/** Lists inside lists are typed to this depth; what lies deeper is carried as it is. Compilers have limits too. */
const deepestLists = 5;

const longestUnionName = 36;

/**
 * The language-neutral types of a schema.
 *
 * @param source where the schema was read, for errors; missing for one just inferred
 * @throws SkevoError for a reference that leads nowhere and for keywords that generation does not follow
 */
export function buildModel(schema: Schema, source?: Source): TypeModel {
  return new Builder(schema, source).model();
}

class Builder {
  private readonly records = new Map<string, RecordType>();
  private readonly choices = new Map<string, ChoiceType>();
  private readonly unions = new Map<string, UnionType>();
  private readonly unionNames = new Map<string, string>();
  private readonly choiceNames = new Map<string, string>();
  private readonly unionsBegun = new Set<string>();
  private readonly schemaOf = new Map<string, Schema>();
  private readonly nameOf = new Map<Schema, string>();
  private readonly taken = new Set<string>();
  private readonly joined = new Map<string, Schema>();
  private readonly resolving = new Set<Schema>();
  private readonly rootName: string;

  constructor(
    private readonly schema: Schema,
    private readonly source: Source | undefined,
  ) {
    this.rootName = schema.title ?? 'Payload';
    this.taken.add(pascalCase(wordsOf(this.rootName)));
    for (const name of schema.$defs?.keys() ?? []) this.taken.add(pascalCase(wordsOf(name)));
  }

  model(): TypeModel {
    const { schema } = this;
    this.nameOf.set(schema, this.rootName);
    for (const [name, def] of schema.$defs ?? []) this.nameOf.set(def, name);
    const root = this.type(schema, [this.rootName]);
    const said = documentation(schema, true);
    if (this.joined.size > 0) this.dropUnused(root);
    return {
      name: this.rootName,
      root,
      roots: [{ name: this.rootName, type: root, ...said }],
      records: [...this.records.values()],
      choices: [...this.choices.values()],
      unions: [...this.unions.values()],
      ...said,
    };
  }

  /** Forgets the records of which another was made, and what only they have. */
  private dropUnused(root: Type): void {
    const used = new Set<string>();
    const waiting: Type[] = [root];
    const enter = (list: ReadonlyMap<string, unknown>, name: string, types: readonly Type[]): void => {
      if (used.has(name) || !list.has(name)) return;
      used.add(name);
      waiting.push(...types);
    };
    for (let type = waiting.pop(); type !== undefined; type = waiting.pop()) {
      if (type.kind === 'record') {
        const record = this.records.get(type.name);
        const others = record?.others === undefined ? [] : [record.others];
        enter(this.records, type.name, [...(record?.fields.map((field) => field.type) ?? []), ...others]);
      } else if (type.kind === 'union')
        enter(this.unions, type.name, this.unions.get(type.name)?.arms.map((arm) => arm.type) ?? []);
      else if (type.kind === 'choice') enter(this.choices, type.name, []);
      else if (type.kind === 'list') waiting.push(type.items);
      else if (type.kind === 'tuple') waiting.push(...type.items);
      else if (type.kind === 'map') waiting.push(type.values);
      else if (type.kind === 'nullable') waiting.push(type.of);
    }
    for (const list of [this.records, this.choices, this.unions])
      for (const name of [...list.keys()]) if (!used.has(name)) list.delete(name);
  }

  /** @param trail names and keys around the place, the nearest last: what a type without a name is called by */
  private type(schema: Schema, trail: readonly string[]): Type {
    for (const keyword of unsupported) {
      if (schema.other?.has(keyword)) {
        this.fail(
          schema,
          `classes cannot be generated for the keyword "${keyword}"`,
          'Write the shape out with properties, items or anyOf.',
        );
      }
    }
    if (schema.$ref !== undefined) return this.reference(schema, schema.$ref);

    const arms = schema.anyOf ?? schema.oneOf;
    if (arms !== undefined) return this.union(schema, arms, trail);
    const values = schema.const === undefined ? schema.enum : [schema.const];
    if (values !== undefined) {
      const texts = values.flatMap((value) => (value.kind === 'string' ? [value.value] : []));
      const nullable = values.some((value) => value.kind === 'null');
      if (texts.length > 0 && texts.length + (nullable ? 1 : 0) === values.length) {
        const choice: Type =
          schema.const !== undefined
            ? { kind: 'literal', value: texts[0]! }
            : this.choice(schema, [...new Set(texts)], trail);
        return nullable ? { kind: 'nullable', of: choice } : choice;
      }
      const numbers = values.flatMap((value) => (value.kind === 'number' ? [value.text] : []));
      const integers = numbers.flatMap((text) => integerOf(text) ?? []);
      const isOfIntegers = numbers.length > 0 && integers.length === numbers.length;
      // What is listed says how wide they are, better than any format.
      const format = isOfIntegers ? integers.map(integerWidthOf).reduce(widerOf) : schema.format;
      const listed = values.map((value): TypeName => {
        if (value.kind === 'number') return isOfIntegers ? 'integer' : 'number';
        return value.kind === 'list' ? 'array' : value.kind;
      });
      const type = schema.type ?? [...new Set(listed)];
      if (schema.type === undefined || format !== schema.format)
        return this.type({ ...schema, type, format }, trail);
    }
    const types = schema.type ?? impliedTypes(schema);
    if (types.length === 0) return { kind: 'anything' };
    if (types.length === 1) return this.single(schema, types[0]!, trail);
    return this.combine(
      types.map((type) => this.single(schema, type, trail)),
      schema,
      trail,
    );
  }

  private single(schema: Schema, type: TypeName, trail: readonly string[]): Type {
    switch (type) {
      case 'null':
      case 'boolean':
        return { kind: type };
      case 'string': {
        const form = formOf(schema);
        if (form === undefined) return { kind: 'string' };
        const dates = datesOf(schema);
        return { kind: 'string', form, ...(dates === undefined ? {} : { dates }) };
      }
      case 'integer':
        return {
          kind: 'integer',
          width: widthOfFormat(schema.format),
          ...(schema.format === undefined ? { isUnstated: true } : {}),
          ...listedIn(schema),
        };
      case 'number':
        return { kind: 'number', exact: schema.format === 'decimal' };
      case 'array':
        if (schema.prefixItems !== undefined) return this.tuple(schema, schema.prefixItems, trail);
        return {
          kind: 'list',
          items:
            typeof schema.items === 'object' && trail.slice(-deepestLists).some((step) => step !== '*')
              ? this.type(schema.items, [...trail, '*'])
              : { kind: 'anything' },
        };
      case 'object': {
        const { additionalProperties } = schema;
        if (schema.properties === undefined) {
          return {
            kind: 'map',
            values:
              typeof additionalProperties === 'object'
                ? this.type(additionalProperties, [...trail, '*'])
                : { kind: 'anything' },
          };
        }
        return this.record(schema, trail);
      }
    }
  }

  private record(schema: Schema, trail: readonly string[]): Type {
    const known = this.nameOf.get(schema);
    if (known !== undefined && this.records.has(known)) return { kind: 'record', name: known };
    const name = known ?? this.freshName(schema.title, trail);
    this.nameOf.set(schema, name);
    const fields: RecordField[] = [];
    const { additionalProperties } = schema;
    const record: { -readonly [K in keyof RecordType]: RecordType[K] } = {
      name,
      fields,
      ...documentation(schema, schema === this.schema || known === undefined),
    };
    this.records.set(name, record);
    this.schemaOf.set(name, schema);
    const required = new Set(schema.required);
    for (const [key, property] of schema.properties!) {
      const type = this.type(property, [...trail.slice(0, -1), name, key]);
      const nullable = type.kind === 'nullable' || type.kind === 'null';
      fields.push({
        key,
        type: type.kind === 'nullable' ? type.of : type,
        required: required.has(key),
        nullable,
        ...documentation(property, this.nameOf.get(property) !== undefined),
      });
      required.delete(key);
    }
    for (const key of required)
      fields.push({ key, type: { kind: 'anything' }, required: true, nullable: false });
    if (typeof additionalProperties === 'object')
      record.others = this.type(additionalProperties, [...trail.slice(0, -1), name, 'other']);
    return { kind: 'record', name };
  }

  private choice(schema: Schema, values: readonly string[], trail: readonly string[], open = false): Type {
    const known = this.nameOf.get(schema);
    // The same words under the same key are the same choice wherever they stand.
    const key = trail.findLast((step) => step !== '*');
    const signature = JSON.stringify([open, key, values, schema.title, schema.description]);
    const name = known ?? this.choiceNames.get(signature) ?? this.freshName(schema.title, trail);
    this.nameOf.set(schema, name);
    this.choiceNames.set(signature, name);
    if (!this.choices.has(name))
      this.choices.set(name, { name, values, open, ...documentation(schema, known === undefined) });
    return { kind: 'choice', name };
  }

  private reference(schema: Schema, reference: string): Type {
    const target = resolveReference(this.schema, reference, schema, this.source);
    const name = this.nameOf.get(target);
    const orNull = (type: Type): Type => (this.isNullable(target) ? { kind: 'nullable', of: type } : type);
    if (name !== undefined && this.records.has(name)) return orNull({ kind: 'record', name });
    if (name !== undefined && this.unionsBegun.has(name)) return orNull({ kind: 'union', name });
    // A list or a map of itself, which no language names.
    if (this.resolving.has(target)) {
      if (!this.isSomething(target, new Set()))
        this.fail(
          schema,
          `the type ${reference} contains nothing but itself`,
          'Put an object between it and itself.',
        );
      return { kind: 'anything' };
    }
    this.resolving.add(target);
    const type = this.type(target, [name ?? this.rootName]);
    this.resolving.delete(target);
    return type;
  }

  /** Whether a schema itself takes null too. */
  private isNullable({ type, anyOf, oneOf }: Schema): boolean {
    return (
      type?.includes('null') ??
      (anyOf ?? oneOf ?? []).some((arm) => arm.type?.length === 1 && arm.type[0] === 'null')
    );
  }

  /** Whether a schema says more than that it is another. */
  private isSomething(schema: Schema, seen: Set<Schema>): boolean {
    if (seen.has(schema)) return false;
    seen.add(schema);
    if (schema.$ref !== undefined)
      return this.isSomething(resolveReference(this.schema, schema.$ref, schema, this.source), seen);
    const arms = schema.anyOf ?? schema.oneOf;
    return arms === undefined || arms.some((arm) => this.isSomething(arm, seen));
  }

  private tuple(schema: Schema, items: readonly Schema[], trail: readonly string[]): Type {
    const isFixed = schema.items === false && schema.minItems === items.length;
    if (!isFixed) return { kind: 'list', items: { kind: 'anything' } };
    return { kind: 'tuple', items: items.map((item, i) => this.type(item, [...trail, String(i)])) };
  }

  private union(schema: Schema, arms: readonly Schema[], trail: readonly string[]): Type {
    const name = schema === this.schema ? undefined : this.nameOf.get(schema);
    if (this.isAmong(schema, arms))
      this.fail(
        schema,
        `the union ${name ?? this.rootName} is an alternative of itself`,
        'Name its alternatives one by one.',
      );
    // A union that is called something may contain itself: it is known before its arms are.
    const isCalled =
      name !== undefined &&
      arms.length > 1 &&
      (arms.every((arm) => arm.$ref !== undefined) || this.isInItself(schema, arms));
    if (isCalled) {
      if (this.unionsBegun.has(name)) return { kind: 'union', name };
      this.unionsBegun.add(name);
    }
    const type = this.combine(
      this.joinedChoice(arms, trail) ?? arms.map((arm) => this.type(arm, this.trailOf(arm, arms, trail))),
      schema,
      trail,
      isCalled ? name : undefined,
    );
    if (isCalled && !this.unions.has(name))
      this.unions.set(name, { name, arms: [{ type, test: { kind: 'json' } }] });
    return type;
  }

  /** Whether a schema is one of some alternatives, or of theirs. */
  private isAmong(schema: Schema, arms: readonly Schema[]): boolean {
    const seen = new Set<Schema>();
    const waiting = [...arms];
    for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
      if (each === schema) return true;
      if (seen.has(each)) continue;
      seen.add(each);
      if (each.$ref === undefined) waiting.push(...(each.anyOf ?? each.oneOf ?? []));
      else waiting.push(resolveReference(this.schema, each.$ref, each, this.source));
    }
    return false;
  }

  /** Whether an alternative is a list or a map of the union: a record with a name comes to an end by it. */
  private isInItself(schema: Schema, arms: readonly Schema[]): boolean {
    const waiting = [...arms];
    for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
      if (each.$ref !== undefined) {
        if (resolveReference(this.schema, each.$ref, each, this.source) === schema) return true;
        continue;
      }
      if (typeof each.items === 'object') waiting.push(each.items);
      if (each.properties === undefined && typeof each.additionalProperties === 'object')
        waiting.push(each.additionalProperties);
      waiting.push(...(each.anyOf ?? each.oneOf ?? []));
    }
    return false;
  }

  /**
   * What an alternative is called by: as its place when it is the only record of them, else by the word that tells it
   * apart too, or its position.
   */
  private trailOf(arm: Schema, arms: readonly Schema[], trail: readonly string[]): readonly string[] {
    const inline = arms.filter(({ $ref, properties }) => $ref === undefined && properties !== undefined);
    if (inline.length < 2 || !inline.includes(arm)) return trail;
    const texts = (each: Schema): [string, string][] =>
      [...each.properties!].flatMap(([key, { const: value }]) =>
        value?.kind === 'string' && each.required?.includes(key) ? [[key, value.value]] : [],
      );
    const others = inline.filter((each) => each !== arm).map((each) => new Map(texts(each)));
    const word = texts(arm).find(([key, value]) => others.every((other) => other.get(key) !== value))?.[1];
    const named = word === undefined || wordsOf(word).length === 0 ? String(inline.indexOf(arm) + 1) : word;
    const at = trail.findLastIndex((step) => step !== '*');
    const key = trail[at] ?? this.rootName;
    const own = at < trail.length - 1 && at > 0 ? singular(wordsOf(key)).join(' ') : key;
    return [...trail.slice(0, at + 1), `${own} ${named}`];
  }

  /** The types of alternatives of which some are choices: together these have all words, and are open where one is any text. */
  private joinedChoice(arms: readonly Schema[], trail: readonly string[]): Type[] | undefined {
    const isText = (arm: Schema) =>
      arm.type?.length === 1 && arm.type[0] === 'string' && arm.const === undefined;
    const texts = arms.filter(isText);
    const choices = texts.filter((arm) => arm.enum !== undefined);
    const [choice] = choices;
    const isOpen = texts.length > choices.length;
    if (choice === undefined || texts.length < 2 || texts.length > choices.length + 1) return undefined;
    const words = choices.flatMap(({ enum: all }) =>
      all!.flatMap((value) => (value.kind === 'string' ? [value.value] : [])),
    );
    return arms.flatMap((arm) => {
      if (!isText(arm)) return [this.type(arm, trail)];
      return arm === choice ? [this.choice(choice, [...new Set(words)], trail, isOpen)] : [];
    });
  }

  /** One type for values of several: null aside, by the JSON type, numbers of both kinds together. */
  private combine(types: readonly Type[], schema: Schema, trail: readonly string[], called?: string): Type {
    let nullable = false;
    const arms: Type[] = [];
    const add = (type: Type): void => {
      if (type.kind === 'null') nullable = true;
      else if (type.kind === 'nullable') {
        nullable = true;
        add(type.of);
      } else arms.push(type);
    };
    types.forEach(add);
    if (arms.some((arm) => arm.kind === 'anything')) return { kind: 'anything' };

    // A union beside nothing but null stays itself; beside others its arms join theirs.
    const flat =
      arms.length === 1
        ? arms
        : arms.flatMap((arm) => (arm.kind === 'union' ? this.armsOf(arm.name) : [arm]));
    const byJsonType = new Map<string, Type>();
    const objects: Type[] = [];
    for (const arm of flat) {
      const key = jsonTypeOf(arm) ?? arm.kind;
      if (key === 'object') {
        if (!objects.some((other) => JSON.stringify(other) === JSON.stringify(arm))) objects.push(arm);
        continue;
      }
      const before = byJsonType.get(key);
      byJsonType.set(key, before === undefined ? arm : joined(before, arm));
    }
    const tests = objects.length < 2 ? [] : this.testsFor(objects);
    const told = tests === undefined ? [this.together(objects, schema, trail)] : objects;
    const distinct = [...told, ...byJsonType.values()];
    if (distinct.length === 0) return { kind: 'null' };
    const type: Type =
      distinct.length === 1
        ? distinct[0]!
        : {
            kind: 'union',
            name: this.unionOf(
              distinct.map((each, i) => ({ type: each, test: tests?.[i] ?? { kind: 'json' } })),
              schema,
              trail,
              called,
            ),
          };
    return nullable ? { kind: 'nullable', of: type } : type;
  }

  private armsOf(name: string): Type[] {
    return this.unions.get(name)!.arms.map(({ type }) => type);
  }

  /** What tells several records apart: a property with values of its own in each, or a required key of its own. */
  private testsFor(objects: readonly Type[]): ArmTest[] | undefined {
    const records = objects.flatMap((type) =>
      type.kind === 'record' ? [this.schemaOf.get(type.name)!] : [],
    );
    if (records.length < objects.length) return undefined;
    for (const [key] of records[0]!.properties ?? []) {
      const values = records.map((each) => this.tagValues(each, key));
      if (values.some((own) => own === undefined)) continue;
      const all = values.flatMap((own) => own!);
      if (new Set(all).size === all.length) return values.map((own) => ({ kind: 'tag', key, values: own! }));
    }
    const tests = records.map((each): ArmTest | undefined => {
      const own = (each.required ?? []).find((key) =>
        records.every((other) => other === each || !other.properties?.has(key)),
      );
      return own === undefined ? undefined : { kind: 'key', key: own };
    });
    return tests.every((test) => test !== undefined) ? tests : undefined;
  }

  /** One record for alternatives that nothing tells apart: what all of them must have is required, all else may be absent. */
  private together(objects: readonly Type[], schema: Schema, trail: readonly string[]): Type {
    const records = objects.flatMap((type) =>
      type.kind === 'record' ? [this.schemaOf.get(type.name)!] : [],
    );
    if (records.length < objects.length) return { kind: 'map', values: { kind: 'anything' } };
    const signature = objects.map((type) => (type.kind === 'record' ? type.name : '')).join('\n');
    const known = this.joined.get(signature);
    if (known !== undefined) return this.record(known, trail);
    const properties = new Map<string, Schema>();
    for (const key of new Set(records.flatMap((each) => [...each.properties!.keys()]))) {
      const all = records.flatMap((each) => each.properties!.get(key) ?? []);
      const distinct = all.filter((each, i) => all.findIndex((other) => isAlike(other, each)) === i);
      properties.set(key, distinct.length === 1 ? distinct[0]! : { anyOf: distinct });
    }
    const others = records.flatMap(({ additionalProperties }) =>
      typeof additionalProperties === 'object' ? [additionalProperties] : [],
    );
    const joined: Schema = {
      type: ['object'],
      properties,
      required: [...properties.keys()].filter((key) => records.every((each) => each.required?.includes(key))),
      ...(others.length > 0 && {
        additionalProperties: others.length === 1 ? others[0]! : { anyOf: others },
      }),
      ...(schema.description !== undefined && { description: schema.description }),
      ...(schema.span !== undefined && { span: schema.span }),
    };
    this.joined.set(signature, joined);
    const name = schema === this.schema ? this.rootName : this.nameOf.get(schema);
    if (name !== undefined && !this.records.has(name)) this.nameOf.set(joined, name);
    return this.record(joined, trail);
  }

  private tagValues(record: Schema, key: string): string[] | undefined {
    const property = record.properties?.get(key);
    if (property === undefined || !record.required?.includes(key)) return undefined;
    const target =
      property.$ref === undefined
        ? property
        : resolveReference(this.schema, property.$ref, property, this.source);
    const values = target.const === undefined ? target.enum : [target.const];
    const texts = values?.flatMap((value) => (value.kind === 'string' ? [value.value] : []));
    return texts !== undefined && texts.length === values!.length ? texts : undefined;
  }

  /** Unions of the same arms are one type, named after the arms or, when that is too long, after the first place. */
  private unionOf(
    arms: readonly UnionArm[],
    schema: Schema,
    trail: readonly string[],
    called: string | undefined,
  ): string {
    const signature = JSON.stringify(arms);
    const known = this.unionNames.get(signature);
    if (known !== undefined && called === undefined) return known;
    const name = called ?? this.freshUnionName(arms, schema, trail);
    this.taken.add(name);
    this.unionNames.set(signature, name);
    this.unions.set(name, { name, arms, ...documentation(schema, true) });
    return name;
  }

  private freshUnionName(arms: readonly UnionArm[], schema: Schema, trail: readonly string[]): string {
    const isOfRecords = arms.every(({ type }) => type.kind === 'record');
    if (schema === this.schema && isOfRecords) return this.rootName;
    const own = this.nameOf.get(schema);
    if (own !== undefined && isOfRecords && !this.records.has(own) && !this.unions.has(own)) return own;
    const wanted = arms.map(({ type }) => armName(type)).join('Or');
    if (wanted.length > longestUnionName || isOfRecords) {
      const key = trail.findLast((step) => step !== '*') ?? '';
      // What is in a list is called as one of it.
      const behind = isOfRecords && trail.at(-1) === '*' && trail.length > 2 ? ['*'] : [];
      return this.freshName(undefined, [...trail, isOfRecords ? key : `${key} value`, ...behind]);
    }
    let name = wanted;
    for (let i = 2; this.taken.has(name); i++) name = `${wanted}${i}`;
    return name;
  }

  private freshName(title: string | undefined, trail: readonly string[]): string {
    // A record that is one of several things at the top takes the payload's name, which nothing else has then.
    if (trail.length === 1 && title === undefined && !this.records.has(this.rootName)) return this.rootName;
    const keys = [...trail];
    const inList = keys[keys.length - 1] === '*';
    while (keys.length > 1 && keys[keys.length - 1] === '*') keys.pop();
    const own = wordsOf(title ?? keys[keys.length - 1]!);
    const words = inList && title === undefined ? singular(own) : own;
    const around = wordsOf(keys[keys.length - 2] ?? '');
    let name = pascalCase(words);
    if (this.taken.has(name)) name = pascalCase([...around, ...words]);
    const base = name;
    for (let i = 2; this.taken.has(name); i++) name = `${base}${i}`;
    this.taken.add(name);
    return name;
  }

  private fail(schema: Schema, message: string, remedy: string): never {
    const at = schema.span?.start;
    throw new SkevoError(
      message,
      remedy,
      this.source === undefined || at === undefined ? undefined : excerptOf(this.source, at),
    );
  }
}

function isAlike(a: Schema, b: Schema): boolean {
  return a === b || sameValue(schemaToJson(bare(a)), schemaToJson(bare(b)));
}

/** A schema without what it is called and what is said of it. */
function bare(schema: Schema): Schema {
  return Object.fromEntries(
    Object.entries(schema).filter(([key]) => !['title', 'description', 'span'].includes(key)),
  );
}

/** The integers that a schema lists, where it lists nothing else but null. */
function listedIn(schema: Schema): { listed?: readonly string[] } {
  const values = schema.const === undefined ? schema.enum : [schema.const];
  const numbers = values?.filter(({ kind }) => kind !== 'null') ?? [];
  const integers = numbers.flatMap((value) => (value.kind === 'number' ? (integerOf(value.text) ?? []) : []));
  if (integers.length === 0 || integers.length < numbers.length) return {};
  return { listed: [...new Set(integers)] };
}

function documentation(schema: Schema, titleIsName: boolean): Documented {
  return {
    ...(schema.title !== undefined && !titleIsName ? { title: schema.title } : {}),
    ...(schema.description !== undefined ? { description: schema.description } : {}),
    ...(schema.deprecated !== undefined ? { deprecated: schema.deprecated } : {}),
  };
}

function armName(type: Type): string {
  switch (type.kind) {
    case 'boolean':
      return 'Flag';
    case 'string':
      return 'Text';
    case 'integer':
      return { int32: 'Integer', 'double-int': 'Integer', int64: 'Long', unbounded: 'BigInteger' }[
        type.width
      ];
    case 'number':
      return type.exact ? 'Decimal' : 'Number';
    case 'literal':
      return pascalCase(wordsOf(type.value));
    case 'tuple':
      return 'Tuple';
    case 'list':
      return `${armName(type.items)}List`;
    case 'map':
      return `${armName(type.values)}Map`;
    case 'record':
    case 'choice':
    case 'union':
      return pascalCase(wordsOf(type.name));
    case 'nullable':
      return `Nullable${armName(type.of)}`;
    case 'null':
      return 'Null';
    case 'anything':
      return 'Anything';
  }
}

/** One type for values of two that have the same JSON type. */
function joined(a: Type, b: Type): Type {
  if (a.kind === 'integer' && b.kind === 'integer')
    return {
      kind: 'integer',
      width: widerOf(a.width, b.width),
      ...(a.listed && b.listed && { listed: [...new Set([...a.listed, ...b.listed])] }),
    };
  const numeric = (type: Type) => type.kind === 'integer' || type.kind === 'number';
  if (numeric(a) && numeric(b)) {
    const exact = [a, b].some(
      (type) =>
        (type.kind === 'number' && type.exact) ||
        (type.kind === 'integer' && (type.width === 'int64' || type.width === 'unbounded')),
    );
    return { kind: 'number', exact };
  }
  if (jsonTypeOf(a) === 'string') return { kind: 'string' };
  if (JSON.stringify(a) === JSON.stringify(b)) return a;
  return { kind: 'list', items: { kind: 'anything' } };
}
