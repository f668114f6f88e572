import type {
  ArmTest,
  ChoiceType,
  RecordField,
  RecordType,
  RootType,
  Type,
  TypeModel,
  UnionArm,
  UnionType,
} from '../../core/model/types.js';
import { typesIn, typesWithin } from '../../core/model/types.js';
import type { IntegerWidth } from '../../core/json/number.js';
import { byJsonType } from '../kit/by-json-type.js';
import { isComposite } from '../kit/containment.js';
import { blocks, indent, layOut, lines, type Doc } from '../kit/layout.js';
import { allocate, camelCase, identifier, namesOfPayloads, pascalCasing } from '../kit/names.js';
import { payloadsFirst } from '../kit/order.js';
import { toldByWord, type TaggedUnion } from '../kit/plan.js';
import { hasNullState } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { fill } from '../kit/template.js';
import { proseOf } from '../kit/text.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import { fileOf } from './names.js';
import {
  aliased,
  annotated,
  braces,
  call,
  comment,
  documentation,
  indentLines,
  lineBreak,
  property,
  propertyName,
  quoted,
  width,
} from './source.js';
import jsonSupport from './support/json.ts.text';

const keywords =
  'any array as async await bigint boolean break case catch class const constructor continue debugger declare default delete do else enum export extends false finally for from function get if implements import in instanceof interface let module namespace never new null number object of package private protected public readonly require return set static string super switch symbol this throw true try type typeof undefined unknown unique var void while with yield';

/** What no type may be called: words of the language, types that it has already, and those of the support code. */
const reservedTypes = new Set(
  `${keywords} Array BigInt Boolean Date Error Function JSON Map Math Number Object Promise Record RegExp Set String Symbol Fields Kind PayloadError Read ReadonlySet Step WideNumber`.split(
    ' ',
  ),
);

/** Interfaces of the payload's own keys, and what checks values of JSON in place. */
export function emitInterfaces(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

/** What the program of the bench needs to know of a payload. */
export interface RootOfInterface {
  readonly Root: string;
  /** Whether digits are kept that doubles have not, by `parse` and `stringify` of the file. */
  readonly digits: boolean;
  readonly keys: readonly string[];
}

export function rootOfInterface(
  model: TypeModel,
  unknown: UnknownRule | undefined,
  root: number,
): RootOfInterface {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

class Emitter {
  private readonly unknown: UnknownRule;
  private readonly types: ReadonlyMap<string, string>;
  private readonly taken: Set<string>;
  private readonly tagged: ReadonlyMap<string, TaggedUnion>;
  private readonly bases = new Map<string, string>();
  private readonly inUnion = new Map<string, { readonly union: UnionType; readonly tagged: TaggedUnion }>();
  private readonly rootNames: readonly string[];
  private readonly digits: boolean;
  /** Readers that stand above what is written. */
  private readonly written = new Set<string>();

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
  ) {
    this.unknown = options.unknown ?? 'drop';
    this.types = allocate(
      [...model.records, ...model.choices, ...model.unions].map(({ name }) => name),
      pascalCasing,
      reservedTypes,
    );
    this.taken = new Set([...reservedTypes, ...this.types.values()]);
    this.tagged = new Map(
      model.unions.flatMap((union) => {
        const told = union.arms.length > 1 ? toldByWord(model, union) : undefined;
        return told === undefined ? [] : [[union.name, told]];
      }),
    );
    for (const union of model.unions) {
      const tagged = this.tagged.get(union.name);
      tagged?.arms.forEach(({ record }) => this.inUnion.set(record.name, { union, tagged }));
      if (tagged !== undefined && tagged.shared.length > 0)
        this.bases.set(union.name, this.fresh(`${union.name} base`));
    }
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) || type.kind === 'choice' ? this.types.get(type.name)! : this.fresh(name),
    );
    this.digits =
      [...typesIn(model)].some(
        (type) =>
          type.kind === 'anything' ||
          (type.kind === 'number' && type.exact) ||
          (type.kind === 'integer' && isWide(type)),
      ) ||
      (this.unknown === 'keep' && model.records.length > 0);
  }

  rootOf(root: number): RootOfInterface {
    const { type } = this.model.roots[root]!;
    const record = type.kind === 'record' ? this.recordOf(type.name) : undefined;
    return {
      Root: this.rootNames[root]!,
      digits: this.digits,
      keys: (record?.fields ?? []).map(({ key }) => key),
    };
  }

  emit(): Emitted {
    const { model } = this;
    const types = payloadsFirst(model, {
      root: (root, i) => text([this.rootType(root, i)]),
      record: (record) => text(this.interface(record)),
      choice: (choice) => text([this.choice(choice)]),
      union: (union) => text(this.union(union)),
      isNamed: (type): type is Type & { readonly name: string } =>
        isComposite(type) || type.kind === 'choice',
    });
    const readers = text([...this.readers(), ...model.roots.flatMap((root, i) => this.rootReader(root, i))]);
    const functions = text(model.roots.map((_, i) => this.parseFunction(i)));
    const support = new Support(fill(jsonSupport, { digits: this.digits }), {
      between: /\n\n(?=\S)/,
      declares: /^(?:export )?(?:const|function|class|type) (\w+)/gm,
      notNames: /^ *\w+:/gm,
      notCode: /\/\*\*[\s\S]*?\*\/|\/\/.*|"(?:[^"\\\n]|\\.)*"/g,
    }).usedBy([
      readers,
      functions,
      'PayloadError list map object',
      ...(this.digits ? ['parse stringify'] : []),
    ]);
    const head = text([
      lines(
        ...documentation(
          { ...model, description: proseOf(model) ?? `Types for ${namesOfPayloads(model)}.` },
          ['', `Generated by Skevo from ${this.options.origin}; edit that and generate again.`],
        ),
      ),
    ]);
    return {
      files: [
        { path: fileOf(model), text: `${[head, ...types, functions, ...support, readers].join('\n\n')}\n` },
      ],
      names: new Map(
        [...model.records, ...model.choices, ...model.unions].map(({ name }) => [
          name,
          {
            type: this.types.get(name)!,
            fields: new Map((this.recordOf(name)?.fields ?? []).map(({ key }) => [key, key])),
          },
        ]),
      ),
    };
  }

  private interface(record: RecordType): Doc[] {
    const inside = this.inUnion.get(record.name);
    const base = inside === undefined ? undefined : this.bases.get(inside.union.name);
    const shared = new Set(base === undefined ? [] : inside!.tagged.shared.map(({ key }) => key));
    const members = record.fields
      .filter(({ key }) => !shared.has(key))
      .map((field) => this.member(field, inside?.tagged, record));
    const index = this.index(record);
    if (index !== undefined)
      members.push(lines(...comment([otherKeys]), ['[key: string]:', annotated(index), ';']));
    const name = this.types.get(record.name)!;
    return [
      lines(
        ...documentation(record),
        braces(`export interface ${name} ${base === undefined ? '' : `extends ${base} `}`, members),
      ),
    ];
  }

  /** What the values of all keys are, where a record has others than its own. */
  private index({ fields, others }: RecordType): string[] | undefined {
    if (others === undefined) return this.unknown === 'keep' ? ['unknown'] : undefined;
    const all = [...fields.map((field) => this.fieldType(field)), this.typeText(others)];
    const arms = new Set(all.flatMap((each) => each.split(' | ')));
    if (fields.some(({ required }) => !required)) arms.add('undefined');
    return arms.has('unknown') ? ['unknown'] : [...arms];
  }

  private member(field: RecordField, tagged: TaggedUnion | undefined, record?: RecordType): Doc {
    const words =
      tagged?.key === field.key ? tagged.arms.find((arm) => arm.record === record)?.words : undefined;
    const type = words?.map(quoted) ?? this.fieldType(field).split(/ \| (?=null$)/);
    const key = field.key === '__proto__' ? field.key : propertyName(field.key);
    return lines(...documentation(field), [key, field.required ? ':' : '?:', annotated(type), ';']);
  }

  private choice(choice: ChoiceType): Doc {
    const words = choice.values.map(quoted);
    const prose = documentation(
      choice.open && proseOf(choice) === undefined
        ? { ...choice, description: 'Other words than these are values too.' }
        : choice,
    );
    return lines(...prose, [
      `export type ${this.types.get(choice.name)!} =`,
      aliased(choice.open ? [...words, '(string & {})'] : words),
      ';',
    ]);
  }

  private union(union: UnionType): Doc[] {
    const name = this.types.get(union.name)!;
    const tagged = this.tagged.get(union.name);
    const prose =
      tagged !== undefined && proseOf(union) === undefined
        ? { ...union, description: `Told apart by ${JSON.stringify(tagged.key)}.` }
        : union;
    const base = this.bases.get(union.name);
    return [
      lines(...documentation(prose), [
        `export type ${name} =`,
        aliased(union.arms.map(({ type }) => this.typeText(type))),
        ';',
      ]),
      ...(base === undefined
        ? []
        : [
            lines(
              ...comment([`What every ${name} has.`]),
              braces(
                `export interface ${base} `,
                tagged!.shared.map((field) => this.member(field, undefined)),
              ),
            ),
          ]),
    ];
  }

  private rootType(root: RootType, i: number): Doc {
    return lines(...documentation(root), [
      `export type ${this.rootNames[i]!} =`,
      aliased(this.typeText(root.type).split(/ \| (?=null$)/)),
      ';',
    ]);
  }

  private parseFunction(i: number): Doc {
    const Root = this.rootNames[i]!;
    const parse = this.digits ? 'parseMarked' : 'JSON.parse';
    return lines(
      ...(this.digits ? comment(['Keeps every digit; what is read so is written by `stringify`.']) : []),
      braces(signature(`export function parse${Root}`, 'json: string', Root), [
        ['return ', call(`read${Root}`, [`${parse}(json)`]), ';'],
      ]),
    );
  }

  /** What reads a payload whose type has no reader yet. */
  private rootReader({ type }: RootType, i: number): Doc[] {
    if ('name' in type && this.written.has(type.name)) return [];
    const Root = this.rootNames[i]!;
    return [assigned(`export const read${Root}: Read<${Root}>`, [this.reader(type)])];
  }

  /** What reads choices, records and unions, each behind what it is made of as far as that can be. */
  private readers(): Doc[] {
    const { choices, records, unions } = this.model;
    const docs: Doc[] = choices
      .filter(({ open }) => !open)
      .map((choice) => {
        const name = this.types.get(choice.name)!;
        this.written.add(choice.name);
        return assigned(`export const read${name}: Read<${name}>`, [call('word', choice.values.map(quoted))]);
      });
    const begun = new Set<string>();
    const visit = (name: string) => {
      if (begun.has(name)) return;
      begun.add(name);
      const record = this.recordOf(name);
      const union = unions.find((each) => each.name === name);
      const parts = [
        ...(record?.fields.map(({ type }) => type) ?? []),
        ...(record?.others === undefined ? [] : [record.others]),
        ...(union?.arms.map(({ type }) => type) ?? []),
      ];
      for (const part of parts) for (const each of namesWithin(part)) visit(each);
      if (record !== undefined) docs.push(...this.baseReader(record), this.recordReader(record));
      if (union !== undefined) docs.push(this.unionReader(union));
      this.written.add(name);
    };
    [...unions, ...records].forEach(({ name }) => visit(name));
    return docs;
  }

  /** The readers of what all alternatives of a union have, before the first of them. */
  private baseReader(record: RecordType): Doc[] {
    const inside = this.inUnion.get(record.name);
    const base = inside === undefined ? undefined : this.bases.get(inside.union.name);
    if (base === undefined || this.written.has(base)) return [];
    this.written.add(base);
    return [
      braces(
        `const ${identifier(base, camelCase)} = `,
        inside!.tagged.shared.map((field) => this.entry(field, this.fieldReader(field))),
        ';',
      ),
    ];
  }

  private recordReader(record: RecordType): Doc {
    const name = this.types.get(record.name)!;
    const inside = this.inUnion.get(record.name);
    const base = inside === undefined ? undefined : this.bases.get(inside.union.name);
    const shared = new Set(base === undefined ? [] : inside!.tagged.shared.map(({ key }) => key));
    const words = inside?.tagged.arms.find((arm) => arm.record === record)?.words;
    const entries = record.fields
      .filter(({ key }) => !shared.has(key))
      .map((field) =>
        this.entry(
          field,
          field.key === inside?.tagged.key ? call('word', words!.map(quoted)) : this.fieldReader(field),
        ),
      );
    const own = base === undefined ? entries : [`...${identifier(base, camelCase)},`, ...entries];
    const head = `export const read${name}: Read<${name}>`;
    const known = `${this.unknown === 'reject' ? 'closed' : 'object'}<${name}>({`;
    if (record.others === undefined) return assigned(head, [known, ...hugged(own), '})']);
    const others = text([this.reader(record.others)]);
    const flat = `open<${name}>(${others}, {`;
    if (head.length + 3 + flat.length <= width) return assigned(head, [flat, ...hugged(own), '})']);
    const fields: Doc = own.length === 0 ? '{},' : ['{', ...hugged(own), '},'];
    return assigned(head, [`open<${name}>(`, indentLines([`${others},`, fields]), lineBreak, ')']);
  }

  private unionReader(union: UnionType): Doc {
    const name = this.types.get(union.name)!;
    const objects = union.arms.filter(({ test }) => test.kind !== 'json');
    const others = union.arms.filter(({ test }) => test.kind === 'json');
    const head = `export const read${name}: Read<${name}>`;
    if (others.length === 0) return assigned(head, this.told(name, objects));
    const entries = others.map(({ type }) => {
      const kind = byJsonType(type, {
        boolean: 'boolean',
        string: 'text',
        number: 'number',
        list: 'list',
        object: 'object',
      });
      return entry(kind, this.reader(type));
    });
    const types = objects.map(({ type }) => this.typeText(type)).join(' | ');
    if (objects.length > 0) entries.push(['object: ', ...this.told(types, objects), ',']);
    return assigned(head, [`oneOf<${name}>({`, ...hugged(entries), '})']);
  }

  /** What reads one of several records. */
  private told(type: string, arms: readonly UnionArm[]): Doc[] {
    const tests = arms.map(({ test }) => test as Exclude<ArmTest, { kind: 'json' }>);
    const entries = arms.flatMap((arm, i) => {
      const test = tests[i]!;
      const words = test.kind === 'tag' ? test.values : [test.key];
      return words.map((word) => entry(propertyName(word), this.reader(arm.type)));
    });
    const by = tests[0]!.kind === 'tag' ? `tagged<${type}>(${quoted(tests[0]!.key)}, {` : `keyed<${type}>({`;
    return [by, ...hugged(entries), '})'];
  }

  private entry(field: RecordField, reader: Doc): Doc {
    return entry(propertyName(field.key), reader);
  }

  private fieldReader(field: RecordField): Doc {
    const reader = hasNullState(field)
      ? call('nullable', [this.reader(field.type)])
      : this.reader(field.type);
    return field.required ? reader : call('optional', [reader]);
  }

  private reader(type: Type): Doc {
    switch (type.kind) {
      case 'anything':
        return 'anything';
      case 'null':
        return 'nothing';
      case 'boolean':
        return 'flag';
      case 'string':
        return 'text';
      case 'integer':
        return isWide(type) ? 'wideInteger' : 'integer';
      case 'number':
        return type.exact ? 'decimal' : 'double';
      case 'literal':
        return call('word', [quoted(type.value)]);
      case 'list':
        return call('list', [this.reader(type.items)]);
      case 'map':
        return call('map', [this.reader(type.values)]);
      case 'tuple':
        return call(
          'tuple',
          type.items.map((item) => this.reader(item)),
        );
      case 'nullable':
        return type.of.kind === 'anything' ? 'anything' : call('nullable', [this.reader(type.of)]);
      case 'choice':
        return this.written.has(type.name) ? `read${this.types.get(type.name)!}` : 'text';
      case 'record':
      case 'union': {
        const reader = `read${this.types.get(type.name)!}`;
        return this.written.has(type.name) ? reader : `(value) => ${reader}(value)`;
      }
    }
  }

  private typeText(type: Type): string {
    return spell(type, {
      anything: () => 'unknown',
      null: () => 'null',
      boolean: () => 'boolean',
      string: () => 'string',
      integer: (width, isUnstated) => (isWide({ width, isUnstated }) ? 'bigint' : 'number'),
      number: (exact) => (exact ? 'number | WideNumber' : 'number'),
      literal: quoted,
      // A list of what is one of several, unless these are inside something else already.
      list: (items) => (/ \| (?![^([{<]*[)\]}>])/.test(items) ? `(${items})[]` : `${items}[]`),
      map: (values) => `Record<string, ${values}>`,
      tuple: (items) => `[${items.join(', ')}]`,
      named: (name) => this.types.get(name)!,
      nullable: (of) => `${of} | null`,
    });
  }

  private fieldType(field: RecordField): string {
    const type = this.typeText(field.type);
    return hasNullState(field) ? `${type} | null` : type;
  }

  private recordOf(name: string): RecordType | undefined {
    return this.model.records.find((record) => record.name === name);
  }

  private fresh(wanted: string): string {
    const name = allocate([wanted], pascalCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }
}

const otherKeys = 'The keys that the schema does not name.';

/** Whether a double does not carry every integer of a width; where the schema says none, what it has is refused. */
function isWide({
  width,
  isUnstated,
}: {
  readonly width: IntegerWidth;
  readonly isUnstated?: boolean;
}): boolean {
  return isUnstated !== true && (width === 'int64' || width === 'unbounded');
}

function namesWithin(type: Type): string[] {
  return [...typesWithin(type)].flatMap((each) => (isComposite(each) ? [each.name] : []));
}

/** A constant: its value on the line of the name, as far as the first part fits there. */
function assigned(head: string, value: readonly Doc[]): Doc {
  const [first] = value;
  const fits = typeof first !== 'string' || head.length + 3 + first.length <= width;
  return fits ? [`${head} = `, ...value, ';'] : [`${head} =`, indent([lineBreak, ...value, ';'])];
}

/** Entries of an object that begins and ends on the lines of what is around it. */
function hugged(entries: readonly Doc[]): Doc[] {
  return entries.length === 0 ? [] : [indentLines(entries), lineBreak];
}

function entry(name: string, value: Doc): Doc {
  return name === value ? `${name},` : property(name, value);
}

function signature(head: string, parameter: string, result: string): string {
  return `${head}(${parameter}): ${result} `;
}

function text(docs: readonly Doc[]): string {
  return layOut(blocks(docs), width, 2).trim();
}
