import {
  armsOf,
  isOpenChoice,
  typesWithin,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionArm,
  type UnionType,
} from '../../core/model/types.js';
import { namedByRecord, namedIn } from '../kit/containment.js';
import { ModelNames } from '../kit/model-names.js';
import { allocate, namesOfPayloads, snakeCase } from '../kit/names.js';
import { unionsToldByWord, type ToldUnions } from '../kit/plan.js';
import { hasNullState } from '../kit/presence.js';
import { fill } from '../kit/template.js';
import { proseOf, proseWithMark } from '../kit/text.js';
import type { Emitted, EmitOptions, GeneratedFile, UnknownRule } from '../language.js';
import { signatures } from './signatures.js';
import { fileName, moduleName, reservedFields, reservedTypes, typeCase, wordCase } from './spelling.js';
import { comment, ruby } from './text.js';
import aliasSupport from './support/type_alias.rb';
import decimalSupport from './support/decimal.rb';
import invalidSupport from './support/invalid_payload.rb';
import othersSupport from './support/keeps_others.rb';
import recordSupport from './support/record.rb';
import shapesSupport from './support/shapes.rb';
import taggedSupport from './support/tagged.rb';
import typeSupport from './support/type.rb';

/** Frozen classes for the JSON of the standard library, Ruby 3.1 and later, with their signatures beside them. */
export function emitRuby(model: TypeModel, options: EmitOptions): Emitted {
  return new RubyEmitter(model, options).emit();
}

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  /** Whether it is an object of a class, which writes itself. */
  readonly isOwn: boolean;
  readonly record: boolean;
  /** Its fields, and the keys that they are under. */
  readonly fields: readonly string[];
  readonly keys: readonly string[];
}

export function rootOfRuby(
  model: TypeModel,
  options: Pick<EmitOptions, 'package' | 'unknown'>,
  root: number,
): RootOfBench {
  return new RubyEmitter(model, { origin: '', ...options }).rootOf(root);
}

/** Those that are no classes of Ruby. */
const constants = ['ANYTHING', 'BOOLEAN'] as const;

/** The longest line. */
const width = 120;

/** What declares types beside the classes of Ruby, by its name. */
const declarations = {
  any: '# Values of any of these types.\ndef any(*types) = Type.any(*types)',
  list: 'def list(*types) = Type::List.new(*types)',
  tuple: '# A list of a type for each position.\ndef tuple(*types) = Type::Tuple.new(types)',
  map: '# An object of any keys.\ndef map(*types) = Type::Map.new(*types)',
  words: 'def words(words) = Type::Words.new(words)',
  by_key: '# Records, by the key that only they have.\ndef by_key(records) = Type::ByKey.new(records)',
  by_tag: '# Records, by the word under a key.\ndef by_tag(key, records) = Type::ByTag.new(key, records)',
  later: '# A type that is declared further on.\ndef later(&type) = Type::Later.new(&type)',
} as const;

/** Types of Ruby and constants that stand for types, and the class that is behind each. */
const scalars = {
  nil: 'Null',
  BOOLEAN: 'Boolean',
  String: 'Text',
  Integer: 'Whole',
  Float: 'Real',
  Numeric: 'Exact',
  Time: 'Moment',
  Date: 'Day',
  ANYTHING: 'Anything',
} as const;

export class RubyEmitter {
  private readonly unknown: UnknownRule;
  readonly names: ModelNames;
  readonly tagged: ToldUnions['tagged'];
  readonly inUnion: ToldUnions['inUnion'];
  /** What a payload is called that is no object of a class. */
  readonly rootNames: readonly string[];
  private readonly aliased = new Map<string, boolean>();
  /** Names of types that stand above what is being written. */
  private readonly declared = new Set<string>();
  private readonly used = new Set<string>();
  /** Records and unions in whose JSON some number may need more digits than a Float has. */
  private readonly exact: ReadonlySet<string>;
  /** Records and unions in the order in which they are written. */
  readonly order: (RecordType | UnionType)[] = [];

  constructor(
    readonly model: TypeModel,
    readonly options: EmitOptions,
  ) {
    this.unknown = options.unknown ?? 'drop';
    ({ tagged: this.tagged, inUnion: this.inUnion } = unionsToldByWord(model, ({ arms }) => arms.length > 1));
    this.names = new ModelNames(
      model,
      { type: typeCase, field: snakeCase, reservedTypes, reservedFields, prefixesReserved: true },
      [...this.tagged.values()].map(({ arms }) => arms.map(({ record }) => record.name)),
    );
    this.exact = this.findExact();
    const taken = new Set([...reservedTypes, ...this.names.all()]);
    this.rootNames = model.roots.map(({ name, type }) => {
      if (this.hasName(type)) return this.names.type(type.name);
      const own = allocate([name], { ...typeCase, reservedSuffix: 'Payload' }, taken).get(name)!;
      taken.add(own);
      return own;
    });
  }

  rootOf(root: number): RootOfBench {
    const { type } = this.model.roots[root]!;
    const record = type.kind === 'record' ? this.recordOf(type.name) : undefined;
    const fields = record === undefined ? [] : this.fieldsOf(record);
    return {
      Root: this.rootNames[root]!,
      isOwn: type.kind === 'record' || (type.kind === 'union' && this.tagged.has(type.name)),
      record: record !== undefined,
      fields: [
        ...fields.map(({ key }) => this.names.field(record!.name, key)),
        ...(record !== undefined && this.keepsOthers(record) ? ['extra'] : []),
      ],
      keys: fields.map(({ key }) => key),
    };
  }

  emit(): Emitted {
    const { model, options } = this;
    const types = this.types();
    const prose = proseOf(model) ?? `Types for ${namesOfPayloads(model)}.`;
    const file = fileName(model, options);
    const module = moduleName(model, options);
    const support = this.support();
    const uses = (name: string) => this.used.has(name);
    const head = [
      '# frozen_string_literal: true',
      this.origin,
      [...(uses('Date') || uses('Time') ? ['date'] : []), 'json', ...(uses('Time') ? ['time'] : [])]
        .map((each) => `require "${each}"`)
        .join('\n'),
      support.map(([name]) => `require_relative "${file}/${name}"`).join('\n'),
    ];
    const text = [
      ...head,
      [...comment(prose), `module ${module}`, types.map(indented).join('\n\n'), 'end'].join('\n'),
    ].join('\n\n');
    return {
      files: [
        { path: `${file}.rb`, text: `${text}\n` },
        ...support.map(([name, own]): GeneratedFile => ({
          path: `${file}/${name}.rb`,
          text: `${own.replace('\n\n', () => `\n\n${this.origin}\n\n`)}\n`,
        })),
        ...this.signatures(file, uses('Decimal')),
      ],
      names: this.names.emitted(),
    };
  }

  /** What every file says of where it came from. */
  private get origin(): string {
    return comment(`Generated by Skevo from ${this.options.origin}; edit that and generate again.`).join(
      '\n',
    );
  }

  /** Signatures in RBS, which reads ASCII alone: none where something is called otherwise. */
  private signatures(file: string, hasDecimals: boolean): GeneratedFile[] {
    const text = signatures(this, hasDecimals);
    return /[^\x00-\x7f]/.test(text) ? [] : [{ path: `${file}.rbs`, text: `${this.origin}\n\n${text}` }];
  }

  /** The types, each behind those that it names, as far as that can be. */
  private types(): string[] {
    const { records, choices, unions, roots } = this.model;
    const texts = choices.map((each) => {
      this.declared.add(this.names.type(each.name));
      return this.choice(each);
    });
    const begun = new Set<string>();
    const write = (name: string) => {
      const union = unions.find((each) => each.name === name);
      const inside = this.inUnion.get(name);
      if (inside !== undefined) return write(inside.union.name);
      if (begun.has(name)) return;
      begun.add(name);
      if (union !== undefined && !this.hasName({ kind: 'union', name }))
        return unionParts(union).forEach(write);
      const tagged = this.tagged.get(name);
      const own = tagged?.arms.map(({ record }) => record) ?? records.filter((each) => each.name === name);
      own.flatMap(namedByRecord).forEach(write);
      if (union !== undefined && tagged === undefined) unionParts(union).forEach(write);
      if (union !== undefined) this.order.push(union);
      this.order.push(...own);
      if (union !== undefined)
        texts.push(
          tagged === undefined
            ? this.alias(this.names.type(name), union, this.alternatives(union), this.exact.has(name))
            : this.sealed(union),
        );
      for (const record of own) texts.push(this.record(record));
    };
    roots.forEach(({ type }) => namedIn(type).forEach(write));
    [...unions, ...records].forEach(({ name }) => write(name));
    roots.forEach((root, i) => {
      if (!this.hasName(root.type))
        texts.push(
          this.alias(this.rootNames[i]!, root, this.shapes(root.type), isExact(root.type, this.exact)),
        );
    });
    return texts;
  }

  /** Whether values of a type are told by a name of the module. */
  hasName(type: Type): type is Type & { readonly kind: 'record' | 'union'; readonly name: string } {
    if (type.kind === 'record') return true;
    if (type.kind !== 'union') return false;
    if (this.tagged.has(type.name)) return true;
    let known = this.aliased.get(type.name);
    if (known === undefined) {
      const union = this.model.unions.find(({ name }) => name === type.name)!;
      known =
        union.arms.filter((arm) => arm.type.kind === 'record').length > 1 ||
        this.isInItself(type.name) ||
        this.model.roots.some(({ type: root }) => root.kind === 'union' && root.name === type.name);
      this.aliased.set(type.name, known);
    }
    return known;
  }

  private findExact(): Set<string> {
    const exact = new Set<string>();
    const parts = [
      ...this.model.records.map((record) => ({
        name: record.name,
        types: [
          ...record.fields.map(({ type }) => type),
          ...(this.keepsOthers(record) ? [record.others ?? { kind: 'anything' as const }] : []),
        ],
      })),
      ...this.model.unions.map(({ name, arms }) => ({ name, types: arms.map(({ type }) => type) })),
    ];
    for (let before = -1; before < exact.size;) {
      before = exact.size;
      for (const { name, types } of parts) if (types.some((type) => isExact(type, exact))) exact.add(name);
    }
    return exact;
  }

  /** Whether all payloads want all digits, so that no class says so by itself. */
  private get allExact(): boolean {
    const all = [...this.model.records, ...this.model.unions];
    return all.length > 0 && all.every(({ name }) => this.exact.has(name));
  }

  private isInItself(union: string): boolean {
    const seen = new Set<string>();
    const visit = (name: string): boolean =>
      armsOf(this.model, name).some((arm) =>
        [...typesWithin(arm.type)].some((type) => {
          if (type.kind !== 'union' || seen.has(type.name)) return false;
          seen.add(type.name);
          return type.name === union || visit(type.name);
        }),
      );
    return visit(union);
  }

  private support(): [string, string][] {
    const uses = (name: string) => this.used.has(name);
    const digits = uses('Numeric') || uses('ANYTHING');
    if (digits) this.used.add('Decimal');
    const shapes = Object.entries(declarations).filter(([name]) => uses(name));
    const scope = {
      module: moduleName(this.model, this.options),
      digits,
      allExact: this.allExact,
      reject: this.unknown === 'reject',
      shapes: shapes.map(([, declaration]) => declaration).join('\n\n'),
      others: uses('keeps_others'),
      any: uses('Any'),
      anything: uses('ANYTHING'),
      null: uses('nil'),
      boolean: uses('BOOLEAN'),
      text: uses('String'),
      words: uses('words'),
      integer: uses('Integer'),
      float: uses('Float'),
      exact: uses('Numeric'),
      time: uses('Time'),
      date: uses('Date'),
      list: uses('list'),
      tuple: uses('tuple'),
      map: uses('map') || uses('keeps_others'),
      byKey: uses('by_key') || uses('by_tag'),
      byTag: uses('by_tag'),
      later: uses('later'),
      constants: constants.filter(uses).map((name) => ({ name, type: scalars[name] })),
      hasConstants: constants.some(uses),
      scalars: constant(
        'SCALARS',
        Object.entries(scalars)
          .filter(([name]) => uses(name) && !constants.some((each) => each === name))
          .map(([name, type]) => `${name} => ${type}.new`),
      ),
    };
    const made = (name: string, text: string): [string, string] => [
      name,
      fill(text, { ...scope, send: '__send__' }, '#'),
    ];
    return [
      made('invalid_payload', invalidSupport),
      ...(digits ? [made('decimal', decimalSupport)] : []),
      made('type', typeSupport),
      ...(shapes.length > 0 ? [made('shapes', shapesSupport)] : []),
      ...(this.model.records.length > 0 ? [made('record', recordSupport)] : []),
      ...(this.tagged.size > 0 ? [made('tagged', taggedSupport)] : []),
      ...(scope.others ? [made('keeps_others', othersSupport)] : []),
      ...(uses('TypeAlias') ? [made('type_alias', aliasSupport)] : []),
    ];
  }

  /** The fields of a record's JSON, without the word that its class says itself. */
  fieldsOf(record: RecordType): readonly RecordField[] {
    const inside = this.inUnion.get(record.name);
    return inside?.words.length === 1
      ? record.fields.filter(({ key }) => key !== inside.tagged.key)
      : record.fields;
  }

  keepsOthers({ others }: RecordType): boolean {
    return this.unknown === 'keep' || others !== undefined;
  }

  private record(record: RecordType): string {
    const type = this.names.type(record.name);
    this.declared.add(type);
    const inside = this.inUnion.get(record.name);
    const shared = new Set(inside?.tagged.shared.map(({ key }) => key));
    const own = this.fieldsOf(record).filter(({ key }) => !shared.has(key));
    if (this.keepsOthers(record)) this.used.add('keeps_others');
    return this.classOf(record, type, inside === undefined ? 'Record' : this.names.type(inside.union.name), [
      ...(inside === undefined && this.exact.has(record.name) && !this.allExact ? [`${keepsDigits}\n`] : []),
      ...(inside === undefined ? [] : [`tag ${inside.words.map(ruby).join(', ')}`]),
      ...this.declarationsOf(record.name, own),
      ...(this.keepsOthers(record)
        ? [call('keeps_others', this.shapes(record.others ?? { kind: 'anything' }))]
        : []),
    ]);
  }

  /** The class of what is told by a word. */
  private sealed(union: UnionType): string {
    const { key, shared, arms } = this.tagged.get(union.name)!;
    const type = this.names.type(union.name);
    this.declared.add(type);
    const [first] = arms;
    const name = this.names.field(first!.record.name, key);
    const told = [`:${name}`, ...(name === key ? [] : [`key: ${ruby(key)}`])];
    return this.classOf(union, type, 'Record', [
      'extend Tagged\n',
      ...(this.exact.has(union.name) && !this.allExact ? [`${keepsDigits}\n`] : []),
      call('tagged_by', told),
      ...this.declarationsOf(first!.record.name, shared),
    ]);
  }

  private classOf(about: Documented, type: string, base: string, body: readonly string[]): string {
    return [
      ...comment(proseWithMark(about, '@deprecated no longer to be used')),
      `class ${type} < ${base}`,
      ...(body.length === 0 ? [] : [indented(body.join('\n'))]),
      'end',
    ].join('\n');
  }

  private declarationsOf(record: string, fields: readonly RecordField[]): string[] {
    return fields.map((field, i) => {
      const name = this.names.field(record, field.key);
      const shapes = this.shapes(hasNullState(field) ? { kind: 'nullable', of: field.type } : field.type);
      const line = call('field', [
        `:${name}`,
        ...shapes,
        ...(name === field.key ? [] : [`key: ${ruby(field.key)}`]),
        ...(field.required ? [] : ['optional: true']),
      ]);
      const prose = comment(proseWithMark(field, '@deprecated no longer to be used'));
      return [...(i > 0 && prose.length > 0 ? [''] : []), ...prose, line].join('\n');
    });
  }

  private choice(choice: ChoiceType): string {
    const names = this.wordsOf(choice);
    const about =
      proseWithMark(choice, '@deprecated no longer to be used') ||
      (choice.open ? 'The words that are known; others are values too.' : '');
    const words = choice.values.map((value) => names.get(value)!);
    const all = `ALL = [${words.join(', ')}].freeze`;
    const fits = all.length + 4 <= width;
    return [
      ...comment(about),
      `module ${this.names.type(choice.name)}`,
      ...choice.values.map((value, i) => `  ${words[i]!} = ${ruby(value)}`),
      ...(choice.open
        ? []
        : fits
          ? [`  ${all}`]
          : [
              '  ALL = [',
              ...words.map((word, i) => `    ${word}${i < words.length - 1 ? ',' : ''}`),
              '  ].freeze',
            ]),
      'end',
    ].join('\n');
  }

  wordsOf({ values }: ChoiceType): Map<string, string> {
    return allocate(values, wordCase, new Set(['ALL', 'BEGIN', 'END']));
  }

  private alias(name: string, about: Documented, shapes: readonly string[], isExactToo: boolean): string {
    this.declared.add(name);
    this.used.add('TypeAlias');
    return [
      ...comment(proseWithMark(about, '@deprecated no longer to be used')),
      `module ${name}`,
      '  extend TypeAlias',
      '',
      ...(isExactToo && !this.allExact ? [`  ${keepsDigits}`, ''] : []),
      indented(call('stands_for', shapes)),
      'end',
    ].join('\n');
  }

  /** The shapes of a union's alternatives. */
  private alternatives(union: UnionType): string[] {
    const records = union.arms.filter(({ type, test }) => type.kind === 'record' && test.kind !== 'json');
    const others = union.arms
      .filter((arm) => !records.includes(arm))
      .flatMap(({ type }) => this.shapes(type));
    if (records.length === 0) return others;
    const typeOf = ({ type }: UnionArm) => this.shapes(type)[0]!;
    const [first] = records;
    const pairs =
      first!.test.kind === 'tag'
        ? records.flatMap((arm) =>
            (arm.test as { values: readonly string[] }).values.map(
              (word) => `${ruby(word)} => ${typeOf(arm)}`,
            ),
          )
        : records.map((arm) => `${ruby((arm.test as { key: string }).key)} => ${typeOf(arm)}`);
    const told =
      first!.test.kind === 'tag'
        ? inBrackets(this.use('by_tag'), [ruby(first!.test.key), ...pairs])
        : inBrackets(this.use('by_key'), pairs);
    return [told, ...others];
  }

  /** What declares values of a type: several where they are of several types. */
  private shapes(type: Type): string[] {
    const shapes = this.shapesOf(type);
    if (shapes.length > 1) this.used.add('Any');
    return shapes;
  }

  private shapesOf(type: Type): string[] {
    const of = (name: keyof typeof declarations, ...given: readonly string[]) => [
      `${this.use(name)}(${given.join(', ')})`,
    ];
    const single = (part: Type) => {
      const shapes = this.shapes(part);
      return shapes.length === 1 ? shapes[0]! : of('any', ...shapes)[0]!;
    };
    switch (type.kind) {
      case 'anything':
        return [this.use('ANYTHING')];
      case 'null':
        return [this.use('nil')];
      case 'boolean':
        return [this.use('BOOLEAN')];
      case 'string':
        return [this.use(type.form === 'date-time' ? 'Time' : type.form === 'date' ? 'Date' : 'String')];
      case 'literal':
        return of('words', `[${ruby(type.value)}]`);
      case 'integer':
        return [this.use('Integer')];
      case 'number':
        return [this.use(type.exact ? 'Numeric' : 'Float')];
      case 'choice':
        return isOpenChoice(this.model, type.name)
          ? [this.use('String')]
          : of('words', `${this.names.type(type.name)}::ALL`);
      case 'list':
        return of('list', ...this.shapes(type.items));
      case 'map':
        return of('map', ...this.shapes(type.values));
      case 'tuple':
        return of('tuple', ...type.items.map(single));
      case 'record':
      case 'union': {
        const { name: own } = type;
        if (!this.hasName(type))
          return this.alternatives(this.model.unions.find(({ name }) => name === own)!);
        const name = this.names.type(own);
        return [this.declared.has(name) ? name : `${this.use('later')} { ${name} }`];
      }
      case 'nullable':
        return [
          ...new Set([...this.shapes(type.of), ...(type.of.kind === 'anything' ? [] : [this.use('nil')])]),
        ];
    }
  }

  private use<T extends string>(name: T): T {
    this.used.add(name);
    return name;
  }

  recordOf(name: string): RecordType {
    return this.model.records.find((record) => record.name === name)!;
  }
}

function isExact(type: Type, named: ReadonlySet<string>): boolean {
  return [...typesWithin(type)].some(
    (part) =>
      part.kind === 'anything' ||
      (part.kind === 'number' && part.exact) ||
      ('name' in part && named.has(part.name)),
  );
}

/** What makes a class or a module read all digits. */
const keepsDigits = 'def self.from_json(text, **options) = super(text, decimal_class: Decimal, **options)';

/** A call of a declaration, what it is given below each other where the line is too long. */
function call(name: string, given: readonly string[]): string {
  const line = `${name} ${given.join(', ')}`;
  return line.length + 4 <= width || line.includes('\n')
    ? line
    : `${name} ${given.join(`,\n${' '.repeat(name.length + 1)}`)}`;
}

/** A constant that is a hash, within a class. */
function constant(name: string, pairs: readonly string[]): string {
  if (pairs.length === 0) return `${name} = {}.freeze`;
  const line = `${name} = { ${pairs.join(', ')} }.freeze`;
  return line.length + 4 <= width ? line : `${name} = {\n${indented(pairs.join(',\n'))}\n}.freeze`;
}

function inBrackets(name: string, given: readonly string[]): string {
  const line = `${name}(${given.join(', ')})`;
  return line.length + 20 <= width ? line : `${name}(\n  ${given.join(',\n  ')}\n)`;
}

function unionParts({ arms }: UnionType): string[] {
  return arms.flatMap(({ type }) => namedIn(type));
}

function indented(text: string): string {
  return text.replace(/^(?=.)/gm, '  ');
}
