import type {
  ChoiceType,
  RecordField,
  RecordType,
  Type,
  TypeModel,
  UnionType,
} from '../../core/model/types.js';
import { listedIntegers } from '../kit/listed.js';
import { group, ifBreak, indent, join, layOut, line, lines, softline, type Doc } from '../kit/layout.js';
import { ModelNames } from '../kit/model-names.js';
import { camelCase, pascalCasing } from '../kit/names.js';
import { hasNullState, presenceOf } from '../kit/presence.js';
import { fill } from '../kit/template.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import {
  assigned,
  isWide,
  otherKeys,
  reservedTypes,
  text,
  TypeScriptEmitter,
  type RootOfBench,
} from './emit.js';
import { aliased, braces, call, comment, documentation, quoted, width } from './source.js';
import classSupport from './support/class.ts.text';
import jsonSupport from './support/json.ts.text';

/** Classes that class-transformer converts and class-validator validates, as their users call them. */
export function emitClasses(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

export function rootOfClass(model: TypeModel, unknown: UnknownRule | undefined, root: number): RootOfBench {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

/** What every object has, and what classes have beside their fields. */
const inherited = Object.getOwnPropertyNames(Object.prototype);
const reservedFields = new Set([...inherited, 'then', 'toJSON']);

const words = (all: string) => all.split(' ');

/** What may be imported of each package; types are said to be types. */
const imports: readonly (readonly [string, readonly string[]])[] = [
  [
    'class-transformer',
    words('ClassConstructor Expose instanceToPlain plainToInstance Transform TransformFnParams Type'),
  ],
  [
    'class-validator',
    words(
      'Equals IsArray IsBoolean IsIn IsInt IsNumber IsObject IsOptional IsString ValidateBy ValidateIf ValidateNested validateSync ValidationArguments ValidationError ValidationOptions',
    ),
  ],
];

const onlyTypes = new Set(
  words('ClassConstructor TransformFnParams ValidationArguments ValidationError ValidationOptions'),
);

/** Names of a decorator and what is given to it. */
type Decorator = readonly [name: string, ...given: string[]];

class Emitter extends TypeScriptEmitter {
  protected readonly forCallers = 'As Payload PayloadError list map instance';
  private readonly names: ModelNames;
  /** Classes that stand above what is written. */
  private readonly declared = new Set<string>();

  constructor(model: TypeModel, options: EmitOptions) {
    super(model, options, [
      ...imports.flatMap(([, all]) => all),
      ...words('As Fields Key IsAbsentable IsNullable IsSafeInt Payload Ref Reflect'),
    ]);
    this.names = new ModelNames(
      model,
      { type: pascalCasing, field: camelCase, reservedTypes, reservedFields },
      [...this.tagged.values()].map(({ arms }) => arms.map(({ record }) => record.name)),
    );
  }

  protected override field(record: string, key: string): string {
    return this.names.field(record, key);
  }

  protected get supportText(): string {
    const flags = { classes: true, digits: this.digits, reject: this.unknown === 'reject' };
    const choices = this.model.choices.map(({ name, values }) => {
      const type = this.types.get(name)!;
      return text([assigned(`const read${type}: Read<${type}>`, [call('word', values.map(quoted))])]);
    });
    return [fill(classSupport, flags), fill(jsonSupport, flags), ...choices].join('\n\n');
  }

  /** Choices and unions, and classes, each behind those that its properties name: decorators look at their types. */
  protected typesInOrder(): readonly string[] {
    const { model } = this;
    const ordered: string[] = [];
    const begun = new Set<RecordType>();
    const visit = (record: RecordType) => {
      if (begun.has(record)) return;
      begun.add(record);
      for (const { type } of record.fields) if (type.kind === 'record') visit(this.recordOf(type.name)!);
      const union = this.inUnion.get(record.name)?.union;
      if (union !== undefined && !this.declared.has(union.name)) {
        this.declared.add(union.name);
        ordered.push(...this.base(union).map((base) => text([base])));
      }
      ordered.push(text(this.record(record)));
      this.declared.add(record.name);
    };
    model.records.forEach(visit);
    return [
      ...model.choices.map((choice) => text([this.choice(choice)])),
      ...ordered,
      ...model.unions.map((union) => text(this.union(union))),
      ...model.roots.flatMap((root, i) => ('name' in root.type ? [] : [text([this.rootType(root, i)])])),
    ];
  }

  protected laidOut(
    types: readonly string[],
    functions: string,
    support: readonly string[],
    readers: string,
  ): readonly string[] {
    const above = support.filter((piece) => /^export (?:type Fields|abstract class Payload)\b/m.test(piece));
    const rest = support.filter((piece) => !above.includes(piece));
    const all = [...above, ...types, functions, ...rest, readers];
    return [this.importLines(all.join('\n')), ...all];
  }

  private importLines(code: string): string {
    const bare = code.replace(/\/\*\*[\s\S]*?\*\/|"(?:[^"\\\n]|\\.)*"/g, '');
    const used = new Set(bare.match(/[\w$]+/g));
    const docs = imports.flatMap(([module, names]): Doc[] => {
      const own = names
        .filter((name) => used.has(name))
        .map((name) => (onlyTypes.has(name) ? `type ${name}` : name));
      return own.length === 0
        ? []
        : [
            [
              'import {',
              group([indent([line, join([',', line], own), ifBreak(',', '')]), line]),
              `} from ${quoted(module)};`,
            ],
          ];
    });
    return layOut(lines('import "reflect-metadata";', ...docs), width, 2).trim();
  }

  protected base(union: UnionType): Doc[] {
    const base = this.bases.get(union.name);
    if (base === undefined) return [];
    const { shared, arms } = this.tagged.get(union.name)!;
    const parts = shared.map((field) => this.property(arms[0]!.record, field));
    return [
      lines(
        ...comment([`What every ${this.types.get(union.name)!} has.`]),
        braces(`export abstract class ${base} extends Payload `, spaced(parts)),
      ),
    ];
  }

  protected override union(union: UnionType): Doc[] {
    return super.union(union).slice(0, 1);
  }

  protected record(record: RecordType): Doc[] {
    const { inside, base, own } = this.placeOf(record);
    const said = inside?.words;
    const name = this.types.get(record.name)!;
    const parts: Doc[] = own.map((field) =>
      field.key === inside?.tagged.key ? this.tag(record, field, said!) : this.property(record, field),
    );
    if (this.unknown === 'keep') parts.push(lines(...comment([otherKeys]), '[key: string]: unknown;'));
    const constant = said?.length === 1 ? `, ${quoted(this.field(record.name, inside!.tagged.key))}` : '';
    parts.push(
      braces(`constructor(init: Fields<${name}${constant}>) `, ['super();', 'Object.assign(this, init);']),
    );
    return [
      lines(
        ...documentation(record),
        braces(`export class ${name} extends ${base ?? 'Payload'} `, spaced(parts)),
      ),
    ];
  }

  /** The field whose word tells a class from the others of its union. */
  private tag(record: RecordType, field: RecordField, said: readonly string[]): Doc {
    const name = this.field(record.name, field.key);
    const only = said.length === 1 ? quoted(said[0]!) : undefined;
    return lines(
      ...documentation(field),
      ...this.keyOf(name, field.key),
      only === undefined
        ? this.oneOf(said.map(quoted), [], call('word', said.map(quoted)))
        : decorator(['Equals', only]),
      only === undefined ? [`${name}!:`, aliased(said.map(quoted)), ';'] : `readonly ${name} = ${only};`,
    );
  }

  private property(record: RecordType, field: RecordField): Doc {
    const name = this.field(record.name, field.key);
    const text = this.fieldType(field);
    const { type } = field;
    const isLater = type.kind === 'record' && type.name !== record.name && !this.declared.has(type.name);
    const own = isLater && !hasNullState(field) ? `Ref<${text}>` : text;
    return lines(
      ...documentation(field),
      ...this.keyOf(name, field.key),
      ...this.presence(field).map(decorator),
      ...this.checks(field),
      `${name}${field.required ? '!' : '?'}: ${own};`,
    );
  }

  private keyOf(name: string, key: string): Doc[] {
    return name === key ? [] : [hugging('Key', [quoted(key)])];
  }

  /** When a value is validated at all: what is absent and what is null pass where they may. */
  private presence(field: RecordField): Decorator[] {
    if (field.type.kind === 'anything') return field.required ? [] : [['IsOptional']];
    if (field.type.kind === 'null') return field.required ? [['IsNullable']] : [['IsOptional']];
    switch (presenceOf(field)) {
      case 'required':
        return [];
      case 'nullable':
        return [['IsNullable']];
      case 'optional':
        return [['IsAbsentable']];
      case 'both':
        return [['IsOptional']];
    }
  }

  /** What checks a value that is neither absent nor null. */
  private checks({ key, type }: RecordField): Doc[] {
    const items = type.kind === 'list' ? type.items : undefined;
    const one = items ?? type;
    const each = items === undefined ? [] : ['{ each: true }'];
    const list: Doc[] = items === undefined ? [] : ['@IsArray()'];
    // class-validator takes a class without fields for a mistake.
    const isNested = one.kind === 'record' && this.recordOf(one.name)!.fields.length > 0;
    if (isNested && !inherited.includes(key))
      return [
        hugging('Type', [`() => ${this.types.get(one.name)!}`]),
        ...list,
        decorator(['IsObject', ...each]),
        decorator(['ValidateNested', ...each]),
      ];
    // What every object has is taken for a value of such a key where there is none.
    const check = inherited.includes(key) ? undefined : this.check(one, each);
    return check === undefined ? [as(this.reader(type))] : [...list, check];
  }

  private check(type: Type, each: readonly string[]): Doc | undefined {
    switch (type.kind) {
      case 'null':
        return decorator(['Equals', 'null', ...each]);
      case 'string':
        return decorator(['IsString', ...each]);
      case 'boolean':
        return decorator(['IsBoolean', ...each]);
      case 'integer': {
        const listed = listedIntegers(type);
        if (listed !== undefined) return this.oneOf(listed, each, this.reader(type));
        if (isWide(type)) return undefined;
        return decorator([type.width === 'int32' ? 'IsInt' : 'IsSafeInt', ...each]);
      }
      case 'number':
        if (type.exact || this.digits) return undefined;
        return decorator(each.length === 0 ? ['IsNumber'] : ['IsNumber', '{}', ...each]);
      case 'literal':
        return decorator(['Equals', quoted(type.value), ...each]);
      case 'choice': {
        const { open, values } = this.model.choices.find(({ name }) => name === type.name)!;
        return open
          ? decorator(['IsString', ...each])
          : this.oneOf(values.map(quoted), each, this.late(type.name));
      }
      default:
        return undefined;
    }
  }

  /** @param values as they are written @param reader what reads them, where they are too many for a line */
  private oneOf(values: readonly string[], each: readonly string[], reader: Doc): Doc {
    const flat = `@IsIn([${values.join(', ')}]${each.map((one) => `, ${one}`).join('')})`;
    if (flat.length <= width - 2) return flat;
    return as(each.length === 0 ? reader : call('list', [reader]));
  }

  protected choiceReaders(): Doc[] {
    return [];
  }

  protected choiceReader({ name, open }: ChoiceType): Doc {
    return open ? 'text' : this.late(name);
  }

  protected recordReader(): Doc[] {
    return [];
  }

  protected readerOf(record: string): Doc {
    return call('instance', [`() => ${this.types.get(record)!}`]);
  }

  /** What is named in decorators is looked up when all is there. */
  protected override late(name: string): string {
    return `read${this.types.get(name)!}`;
  }
}

function decorator([name, ...given]: Decorator): Doc {
  return call(`@${name}`, given);
}

function as(reader: Doc): Doc {
  return ['@As(() =>', group([indent([line, reader, ifBreak(',', '')]), softline, ')'])];
}

/** A decorator whose last argument begins on its line. */
function hugging(name: string, given: readonly string[]): Doc {
  return [
    '@',
    name,
    group(['(', indent([softline, join([',', line], [...given]), ifBreak(',', '')]), softline, ')']),
  ];
}

function spaced(parts: readonly Doc[]): Doc[] {
  return parts.flatMap((part, i) => (i === 0 ? [part] : ['', part]));
}
