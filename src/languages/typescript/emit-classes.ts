import type { RecordField, RecordType, RootType, Type, TypeModel } from '../../core/model/types.js';
import type { Emitted, EmitOptions } from '../language.js';
import { indent, join, lines, group, ifBreak, line, type Doc } from '../kit/layout.js';
import { Emitter, signature, unknownProse } from './emit.js';
import { camelCase } from '../kit/names.js';
import { aboutView, viewsOf } from '../kit/views.js';
import { fitsDouble, inherited, reservedFields } from './names.js';
import { braces, call, comment, documentation, property, quoted } from './source.js';

/** Classes that class-transformer converts and class-validator validates. */
export function emitClasses(model: TypeModel, options: EmitOptions): Emitted {
  return new ClassEmitter(model, options).emit();
}

/**
 * class-transformer converts scalars, records and lists of either by itself. Everything else (maps, unions,
 * lists of lists, wide numbers, anything) is read by a function of this file through `ReadBy`.
 */
class ClassEmitter extends Emitter {
  private readonly imports = new Map<string, Set<string>>();
  /** Records that are read by a function and not by class-transformer alone. */
  private readonly read = new Set<string>();
  /** Whether objects with any key, or with a key that class-transformer mistakes, may occur. */
  private readonly guarded: boolean;

  constructor(model: TypeModel, options: EmitOptions) {
    super(model, options);
    this.guarded =
      this.exact ||
      model.records.some((record) => record.fields.some(({ key, type }) => isFragile(key) || hasMap(type))) ||
      model.roots.some(({ type }) => hasMap(type)) ||
      model.unions.some(({ arms }) => arms.some((arm) => hasMap(arm.type)));
  }

  emit(): Emitted {
    const { model } = this;
    const body = [
      ...this.choices(),
      ...this.inOrder().map((record) => this.class(record)),
      ...this.unionTypes(),
      ...model.roots.flatMap((each) => this.functions(each)),
      ...this.unionReaders(['typeof value === "bigint"', 'typeof value === "symbol"']),
    ];
    // Reading one record may ask for the readers of others, but those are in its decorators, written above.
    for (const record of model.records) if (this.read.has(record.name)) body.push(this.readRecord(record));
    if (this.used.has('toInstance'))
      this.import('class-transformer', 'plainToInstance', 'ClassConstructor').import(
        'class-validator',
        'validateSync',
      );
    if (this.used.has('firstError')) this.import('class-validator', 'ValidationError');
    if (this.used.has('ReadBy') || this.used.has('Others')) this.import('class-transformer', 'Transform');
    if (this.used.has('IsConverted')) this.import('class-validator', 'ValidateBy');
    return this.file([this.header(), this.importLines()], body);
  }

  protected override use(name: string): string {
    super.use(this.unknown === 'keep' ? (withOthers[name] ?? name) : name);
    return name;
  }

  private readRecord(record: RecordType): Doc {
    const type = this.names.type(record.name);
    const value =
      this.unknown === 'reject'
        ? call(this.use(this.guarded ? 'onlyPlain' : 'only'), [
            `${this.use('asObject')}(value)`,
            ...this.knownKeys(record),
          ])
        : 'value';
    return braces(signature(`read${type}`, 'value: unknown', type), [
      ['return ', call(this.use('toInstance'), [type, value]), ';'],
    ]);
  }

  /** The keys of a record as they stand in what class-transformer reads. */
  private knownKeys(record: RecordType): string[] {
    return record.fields.map(({ key }) => quoted(guardedKey(key)));
  }

  private importLines(): Doc {
    const from = [...this.imports].sort(([a], [b]) => (a < b ? -1 : 1));
    return lines(
      'import "reflect-metadata";',
      ...from.map(([module, names]) => [
        'import {',
        group([indent([line, join([',', line], [...names].sort().map(importName)), ifBreak(',', '')]), line]),
        `} from ${quoted(module)};`,
      ]),
    );
  }

  private import(module: string, ...names: string[]): this {
    const set = this.imports.get(module) ?? new Set();
    names.forEach((name) => set.add(name));
    this.imports.set(module, set);
    return this;
  }

  /** The records, each behind those that its properties name: decorators may look at the types of properties. */
  private inOrder(): RecordType[] {
    const ordered = new Set<RecordType>();
    const begun = new Set<RecordType>();
    const visit = (record: RecordType) => {
      if (begun.has(record)) return;
      begun.add(record);
      for (const { type } of record.fields)
        if (type.kind === 'record') visit(this.model.records.find(({ name }) => name === type.name)!);
      ordered.add(record);
    };
    this.model.records.forEach(visit);
    return [...ordered];
  }

  /** The type of a property; a class that comes later is hidden from whoever looks at it while this one is made. */
  private propertyType(record: RecordType, field: RecordField): Doc {
    const type = this.fieldType(field);
    const { type: own } = field;
    const isLater = own.kind === 'record' && own.name !== record.name && !this.declared.has(own.name);
    return isLater && type === this.names.type(own.name) ? `${type} & {}` : type;
  }

  private readonly declared = new Set<string>();

  private class(record: RecordType): Doc {
    const doc = this.classOf(record);
    this.declared.add(record.name);
    return doc;
  }

  private classOf(record: RecordType): Doc {
    const renamed = record.fields.filter(({ key }) => this.names.field(record, key) !== key);
    const parts: Doc[] = [];
    if (renamed.length > 0) {
      parts.push(
        lines(
          ...comment(['The key in the JSON of each property that is called otherwise.']),
          braces(
            'static readonly keys: Readonly<Record<string, string>> = ',
            renamed.map(({ key }) => property(this.names.field(record, key), quoted(key))),
            ';',
          ),
        ),
      );
    }
    for (const field of record.fields) parts.push(this.property(record, field));
    if (this.unknown === 'keep') {
      this.import('class-transformer', 'Expose');
      parts.push(
        lines(
          ...comment([unknownProse]),
          `@Expose({ name: ${this.use('unknownFields')} })`,
          call(`@${this.use('Others')}`, this.knownKeys(record)),
          `${this.unknownField()}?: Record<string, unknown>;`,
        ),
      );
    }
    parts.push(...this.views(record));
    const spaced = parts.flatMap((part, i) => (i === 0 ? [part] : ['', part]));
    return lines(...documentation(record), braces(`export class ${this.names.type(record.name)} `, spaced));
  }

  /** Getters that give texts as values of the language. */
  private views(record: RecordType): Doc[] {
    const names = this.names.fields.get(record.name)!;
    const taken = new Set([...reservedFields, this.unknownField(), ...names.values()]);
    return viewsOf(record, ['date-time', 'base64'], camelCase, taken).map((view) => {
      const { field, form, name, mayLack } = view;
      const own = `this.${names.get(field.key)!}`;
      const native = form === 'base64' ? 'Uint8Array' : 'Date';
      const value: Doc = form === 'base64' ? call(this.use('bytesOf'), [own]) : call('new Date', [own]);
      return lines(
        ...comment([aboutView(view, own.slice(5), 'undefined')]),
        braces(`get ${name}(): ${native}${mayLack ? ' | undefined' : ''} `, [
          ...(mayLack ? [`if (typeof ${own} !== "string") return undefined;`] : []),
          ['return ', value, ';'],
        ]),
      );
    });
  }

  private property(record: RecordType, field: RecordField): Doc {
    const name = this.names.field(record, field.key);
    const wire = guardedKey(field.key);
    this.import('class-transformer', 'Expose');
    const expose =
      wire === name
        ? '@Expose()'
        : ['@Expose({', group([indent([line, 'name: ', quoted(wire), ifBreak(',', '')]), line]), '})'];
    const type = this.propertyType(record, field);
    const optional = field.required ? '!:' : '?:';
    return lines(
      ...documentation(field),
      expose,
      ...this.presence(field),
      ...this.decorators(field, wire),
      `${name}${optional} ${type};`,
    );
  }

  /** When a value is validated at all: absent and null pass where they are allowed. */
  private presence(field: RecordField): Doc[] {
    const nullable = field.nullable || field.type.kind === 'anything';
    if (field.type.kind === 'anything' && field.required) return [];
    if (!field.required && nullable) {
      this.import('class-validator', 'IsOptional');
      return ['@IsOptional()'];
    }
    if (field.required && !nullable) return [];
    this.import('class-validator', 'ValidateIf');
    return [`@ValidateIf((_, value) => value !== ${field.required ? 'null' : 'undefined'})`];
  }

  private decorators(field: RecordField, wire: string): Doc[] {
    const { type } = field;
    const items = type.kind === 'list' ? type.items : undefined;
    const scalar = items ?? type;
    const each = items === undefined ? '' : '{ each: true }';
    const list = items === undefined ? [] : ['@IsArray()'];
    // Other fields of a record are only seen by a reader of its own.
    if (scalar.kind === 'record' && this.unknown !== 'reject') {
      const shape = items === undefined ? 'IsObject' : 'IsArray';
      this.import('class-transformer', 'Type').import('class-validator', 'ValidateNested', shape);
      return [`@Type(() => ${this.names.type(scalar.name)})`, `@${shape}()`, `@ValidateNested(${each})`];
    }
    const check = this.scalarCheck(scalar, each);
    if (check !== undefined) {
      if (items !== undefined) this.import('class-validator', 'IsArray');
      return [...list, check];
    }
    const read =
      field.nullable && type.kind !== 'null'
        ? this.reader({ kind: 'nullable', of: type })
        : this.reader(type);
    return [
      call(`@${this.use('ReadBy')}`, [quoted(wire), read]),
      ...(this.needsToPlain(type) ? [`@${this.use('WrittenPlain')}()`] : []),
      `@${this.use('IsConverted')}()`,
    ];
  }

  /** The decorator that checks a scalar which class-transformer may convert by itself. */
  private scalarCheck(type: Type, each: string): Doc | undefined {
    const decorator = (name: string, ...args: string[]): Doc => {
      this.import('class-validator', name);
      return call(`@${name}`, [...args, ...(each ? [each] : [])]);
    };
    switch (type.kind) {
      case 'string':
        return decorator('IsString');
      case 'boolean':
        return decorator('IsBoolean');
      case 'integer':
        return fitsDouble(type) ? decorator('IsInt') : undefined;
      case 'number':
        return fitsDouble(type) && !this.exact
          ? each
            ? decorator('IsNumber', '{}')
            : decorator('IsNumber')
          : undefined;
      case 'choice':
        return this.isOpen(type.name)
          ? decorator('IsString')
          : decorator('IsIn', this.names.choices(type.name));
      case 'literal':
        return decorator('IsIn', `[${quoted(type.value)}]`);
      default:
        return undefined;
    }
  }

  /** Whether class-transformer would damage a value of the type on the way out. */
  private needsToPlain(type: Type): boolean {
    switch (type.kind) {
      case 'anything':
      case 'map':
        return true;
      case 'number':
        return type.exact;
      case 'list':
        return this.needsToPlain(type.items);
      case 'tuple':
        return type.items.some((item) => this.needsToPlain(item));
      case 'nullable':
        return this.needsToPlain(type.of);
      case 'union':
        return this.model.unions
          .find(({ name }) => name === type.name)!
          .arms.some((arm) => this.needsToPlain(arm.type));
      default:
        return false;
    }
  }

  private functions(root: RootType): Doc[] {
    const parse = this.guarded ? this.use('parsePlain') : 'JSON.parse';
    const write = this.guarded ? this.use('writePlain') : 'JSON.stringify';
    this.import('class-transformer', 'instanceToPlain');
    const options = '{ excludeExtraneousValues: true, exposeUnsetFields: false }';
    const payload = this.needsToPlain(root.type) ? `${this.use('toPlain')}(payload)` : 'payload';
    return this.entryPoints(root, parse, [
      `const options = ${options};`,
      ['return ', call(write, [`instanceToPlain(${payload}, options)`]), ';'],
    ]);
  }

  protected override wireKey(key: string): string {
    return guardedKey(key);
  }

  protected override reader(type: Type): string {
    switch (type.kind) {
      case 'anything':
        return this.use('fromPlain');
      case 'null':
        return this.use('asNull');
      case 'boolean':
        return this.use('asBoolean');
      case 'string':
        return this.use('asString');
      case 'integer':
        return this.use(fitsDouble(type) ? 'asInteger' : 'asBigInt');
      case 'number':
        if (type.exact) return this.use('asPlainDecimal');
        return this.use(this.exact ? 'asPlainNumber' : 'asNumber');
      case 'literal':
        return `${this.use('oneOf')}([${quoted(type.value)}])`;
      case 'tuple':
        return `${this.use('tupleOf')}(${type.items.map((item) => this.reader(item)).join(', ')})`;
      case 'list':
        return `${this.use('listOf')}(${this.reader(type.items)})`;
      case 'map':
        return `${this.use('plainMapOf')}(${this.reader(type.values)})`;
      case 'choice':
        return this.isOpen(type.name)
          ? this.use('asString')
          : `${this.use('oneOf')}(${this.names.choices(type.name)})`;
      case 'record':
        this.read.add(type.name);
        return `read${this.names.type(type.name)}`;
      case 'union':
        return `read${this.names.type(type.name)}`;
      case 'nullable':
        return type.of.kind === 'anything'
          ? this.use('fromPlain')
          : `${this.use('orNull')}(${this.reader(type.of)})`;
    }
  }
}

/** Helpers that know of the key under which class-transformer sees what the schema does not know. */
const withOthers: Readonly<Record<string, string>> = {
  isFragile: 'isFragileWithOthers',
  writePlain: 'writePlainWithOthers',
};

/** Names that are only types must say so, or a compiler that looks at one file at a time keeps the import. */
function importName(name: string): string {
  return ['ClassConstructor', 'ValidationError'].includes(name) ? `type ${name}` : name;
}

/** As in the generated file. */
function isFragile(key: string): boolean {
  const bare = key.replace(/^\0+/, '');
  return bare === '' || inherited.includes(bare);
}

/** The key as `guardKey` of the generated file makes it. */
function guardedKey(key: string): string {
  return isFragile(key) ? `\0${key}` : key;
}

function hasMap(type: Type): boolean {
  switch (type.kind) {
    case 'map':
    case 'anything':
      return true;
    case 'list':
      return hasMap(type.items);
    case 'tuple':
      return type.items.some(hasMap);
    case 'nullable':
      return hasMap(type.of);
    default:
      return false;
  }
}
