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
import { listedIntegers } from '../kit/listed.js';
import { blocks, indent, layOut, lines, type Doc } from '../kit/layout.js';
import { allocate, namesOfPayloads, pascalCasing } from '../kit/names.js';
import { unionsToldByWord, type ToldArm, type ToldUnions } from '../kit/plan.js';
import { hasNullState } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { proseOf } from '../kit/text.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import { fileOf } from './names.js';
import {
  aliased,
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

const keywords =
  'any array as async await bigint boolean break case catch class const constructor continue debugger declare default delete do else enum export extends false finally for from function get if implements import in instanceof interface let module namespace never new null number object of package private protected public readonly require return set static string super switch symbol this throw true try type typeof undefined unknown unique var void while with yield';

/** What no type may be called: words of the language, types that it has already, and those of the support code. */
export const reservedTypes = new Set(
  `${keywords} Array BigInt Boolean Date Error Function JSON Map Math Number Object Promise Record RegExp Set String Symbol JsonKind PayloadError Read Readers ReadonlySet WideNumber`.split(
    ' ',
  ),
);

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  /** Whether digits are kept that doubles have not, by `parse` and `stringify` of the file. */
  readonly digits: boolean;
  readonly keys: readonly string[];
  /** What its fields are called. */
  readonly fields: readonly string[];
  readonly record: boolean;
}

/** A file of types, of what reads them, and of the support code that these use. */
export abstract class TypeScriptEmitter {
  protected readonly unknown: UnknownRule;
  protected readonly types: ReadonlyMap<string, string>;
  protected readonly taken: Set<string>;
  protected readonly tagged: ToldUnions['tagged'];
  protected readonly bases = new Map<string, string>();
  protected readonly inUnion: ToldUnions['inUnion'];
  protected readonly rootNames: readonly string[];
  protected readonly digits: boolean;
  /** Readers that stand above what is written. */
  protected readonly written = new Set<string>();

  constructor(
    protected readonly model: TypeModel,
    protected readonly options: EmitOptions,
    /** What else no type may be called. */
    reserved: readonly string[] = [],
  ) {
    this.unknown = options.unknown ?? 'drop';
    this.types = allocate(
      [...model.records, ...model.choices, ...model.unions].map(({ name }) => name),
      pascalCasing,
      new Set([...reservedTypes, ...reserved]),
    );
    this.taken = new Set([...reservedTypes, ...reserved, ...this.types.values()]);
    ({ tagged: this.tagged, inUnion: this.inUnion } = unionsToldByWord(model, ({ arms }) => arms.length > 1));
    for (const union of model.unions) {
      const tagged = this.tagged.get(union.name);
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

  /** The class or interface of a record, and what stands before it. */
  protected abstract record(record: RecordType): Doc[];
  /** What all alternatives of a union have, as a type. */
  protected abstract base(union: UnionType): Doc[];
  /** The readers of choices that have one, and what is called to read a choice. */
  protected abstract choiceReaders(): Doc[];
  protected abstract choiceReader(choice: ChoiceType): Doc;
  /** What reads a record, where it is not the class itself that says how. */
  protected abstract recordReader(record: RecordType): Doc[];
  /** What is called to read a record, by whoever comes before or after its reader. */
  protected abstract readerOf(name: string): Doc;
  /** What callers need beside what the types use. */
  protected abstract readonly forCallers: string;
  protected field(_record: string, key: string): string {
    return key;
  }
  protected abstract readonly supportText: string;

  rootOf(root: number): RootOfBench {
    const { type } = this.model.roots[root]!;
    const record = type.kind === 'record' ? this.recordOf(type.name) : undefined;
    const fields = record?.fields ?? [];
    return {
      Root: this.rootNames[root]!,
      digits: this.digits,
      record: record !== undefined,
      keys: fields.map(({ key }) => key),
      fields: fields.map(({ key }) => this.field(record!.name, key)),
    };
  }

  emit(): Emitted {
    const { model } = this;
    const readers = text([...this.readers(), ...model.roots.flatMap((root, i) => this.rootReader(root, i))]);
    const types = this.typesInOrder();
    const functions = text(model.roots.map((_, i) => this.parseFunction(i)));
    const code = [...types, functions, readers].join('\n\n');
    const support = new Support(this.supportText, {
      between: /\n\n(?=\S)/,
      declares: /^(?:export )?(?:abstract )?(?:const|let|function|class|type) (\w+)/gm,
      notNames: /^ *\w+[!?]?:/gm,
      notCode: /\/\*\*[\s\S]*?\*\/|\/\/.*|"(?:[^"\\\n]|\\.)*"/g,
    }).usedBy([code, this.forCallers, ...(this.digits ? ['parse stringify'] : [])]);
    const head = text([
      lines(
        ...documentation(
          { ...model, description: proseOf(model) ?? `Types for ${namesOfPayloads(model)}.` },
          ['', `Generated by Skevo from ${this.options.origin}; edit that and generate again.`],
        ),
      ),
    ]);
    const all = this.laidOut(types, functions, support, readers);
    return {
      files: [
        { path: fileOf(model), text: `${[head, ...all].filter((part) => part !== '').join('\n\n')}\n` },
      ],
      names: new Map(
        [...model.records, ...model.choices, ...model.unions].map(({ name }) => [
          name,
          {
            type: this.types.get(name)!,
            fields: new Map(
              (this.recordOf(name)?.fields ?? []).map(({ key }) => [key, this.field(name, key)]),
            ),
          },
        ]),
      ),
    };
  }

  protected abstract typesInOrder(): readonly string[];
  protected abstract laidOut(
    types: readonly string[],
    functions: string,
    support: readonly string[],
    readers: string,
  ): readonly string[];

  protected choice(choice: ChoiceType): Doc {
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

  protected union(union: UnionType): Doc[] {
    const name = this.types.get(union.name)!;
    const tagged = this.tagged.get(union.name);
    const prose =
      tagged !== undefined && proseOf(union) === undefined
        ? { ...union, description: `Told apart by ${JSON.stringify(tagged.key)}.` }
        : union;
    return [
      lines(...documentation(prose), [
        `export type ${name} =`,
        aliased(union.arms.map(({ type }) => this.typeText(type))),
        ';',
      ]),
      ...this.base(union),
    ];
  }

  protected rootType(root: RootType, i: number): Doc {
    return lines(...documentation(root), [
      `export type ${this.rootNames[i]!} =`,
      aliased(this.typeText(root.type).split(/ \| (?=null$)/)),
      ';',
    ]);
  }

  protected parseFunction(i: number): Doc {
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
  protected rootReader({ type }: RootType, i: number): Doc[] {
    if ('name' in type && this.written.has(type.name)) return [];
    const Root = this.rootNames[i]!;
    return [assigned(`export const read${Root}: Read<${Root}>`, [this.reader(type)])];
  }

  /** What reads choices, records and unions, each behind what it is made of as far as that can be. */
  protected readers(): Doc[] {
    const { records, unions } = this.model;
    const docs = this.choiceReaders();
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
      const own = record === undefined ? [this.unionReader(union!)] : this.recordReader(record);
      docs.push(...own);
      if (own.length > 0) this.written.add(name);
    };
    [...unions, ...records].forEach(({ name }) => visit(name));
    return docs;
  }

  protected unionReader(union: UnionType): Doc {
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
  protected told(type: string, arms: readonly UnionArm[]): Doc[] {
    const tests = arms.map(({ test }) => test as Exclude<ArmTest, { kind: 'json' }>);
    const entries = arms.flatMap((arm, i) => {
      const test = tests[i]!;
      const words = test.kind === 'tag' ? test.values : [test.key];
      return words.map((word) => entry(propertyName(word), this.reader(arm.type)));
    });
    const by = tests[0]!.kind === 'tag' ? `tagged<${type}>(${quoted(tests[0]!.key)}, {` : `keyed<${type}>({`;
    return [by, ...hugged(entries), '})'];
  }

  protected reader(type: Type): Doc {
    switch (type.kind) {
      case 'anything':
        return 'anything';
      case 'null':
        return 'nothing';
      case 'boolean':
        return 'flag';
      case 'string':
        return 'text';
      case 'integer': {
        const listed = listedIntegers(type);
        if (listed !== undefined) return call('word', listed);
        return isWide(type) ? 'wideInteger' : 'integer';
      }
      case 'number':
        return type.exact ? 'decimal' : 'double';
      case 'literal':
        return call('word', [quoted(type.value)]);
      case 'list':
        return call('list', [this.reader(type.items)]);
      case 'map':
        return call('map', [this.reader(type.values)]);
      case 'tuple':
        return tupleOf(type.items.map((item) => this.reader(item)));
      case 'nullable':
        return type.of.kind === 'anything' ? 'anything' : call('nullable', [this.reader(type.of)]);
      case 'choice':
        return this.choiceReader(this.model.choices.find(({ name }) => name === type.name)!);
      case 'record':
        return this.readerOf(type.name);
      case 'union':
        return this.late(type.name);
    }
  }

  /** The reader of a type, which may stand below whoever names it. */
  protected late(name: string): string {
    const reader = `read${this.types.get(name)!}`;
    return this.written.has(name) ? reader : `(value) => ${reader}(value)`;
  }

  protected typeText(type: Type): string {
    return spell(type, {
      anything: () => 'unknown',
      null: () => 'null',
      boolean: () => 'boolean',
      string: () => 'string',
      integer: (width, isUnstated) => (isWide({ width, isUnstated }) ? 'bigint' : 'number'),
      listed: (values) => values.join(' | '),
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

  protected fieldType(field: RecordField): string {
    const type = this.typeText(field.type);
    return hasNullState(field) ? `${type} | null` : type;
  }

  /** What a record is in a union, the base that it has there, and the fields that are not the base's. */
  protected placeOf(record: RecordType): {
    readonly inside: ToldArm | undefined;
    readonly base: string | undefined;
    readonly own: readonly RecordField[];
  } {
    const inside = this.inUnion.get(record.name);
    const base = inside === undefined ? undefined : this.bases.get(inside.union.name);
    const shared = new Set(base === undefined ? [] : inside!.tagged.shared.map(({ key }) => key));
    return { inside, base, own: record.fields.filter(({ key }) => !shared.has(key)) };
  }

  protected recordOf(name: string): RecordType | undefined {
    return this.model.records.find((record) => record.name === name);
  }

  protected fresh(wanted: string): string {
    const name = allocate([wanted], pascalCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }
}

export const otherKeys = 'The keys that the schema does not name.';

/** Whether a double does not carry every integer of a width; where the schema says none, what it has is refused. */
export function isWide({
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

/** What a value begins with: all of a text, and the callee of a call. */
function startOf(value: Doc): string {
  if (typeof value === 'string') return value;
  const [callee, open] = Array.isArray(value) ? value : [];
  return typeof callee === 'string' && open === '(' ? `${callee}(` : '';
}

/** A constant: its value on the line of the name, as far as the first part fits there. */
export function assigned(head: string, value: readonly Doc[]): Doc {
  const [first] = value;
  const start = startOf(first!);
  const fits = head.length + 3 + start.length <= width;
  return fits ? [`${head} = `, ...value, ';'] : [`${head} =`, indent([lineBreak, ...value, ';'])];
}

/** Entries of an object that begins and ends on the lines of what is around it. */
export function hugged(entries: readonly Doc[]): Doc[] {
  return entries.length === 0 ? [] : [indentLines(entries), lineBreak];
}

export function entry(name: string, value: Doc): Doc {
  return name === value ? `${name},` : property(name, value);
}

/** The usual formatter gives each argument a line where one of several is a call of a function that is given a function. */
function tupleOf(items: readonly Doc[]): Doc {
  const flat = items.map((item) => text([item]));
  const functions = flat.filter((item) => item.startsWith('(value) =>')).length;
  const isComposed = flat.length > 1 && (functions > 1 || flat.some((item) => /^\w+\(\(.*\) =>/.test(item)));
  return isComposed
    ? ['tuple(', indentLines(items.map((item) => [item, ','])), lineBreak, ')']
    : call('tuple', items);
}

export function signature(head: string, parameter: string, result: string): string {
  return `${head}(${parameter}): ${result} `;
}

export function text(docs: readonly Doc[]): string {
  return layOut(blocks(docs), width, 2).trim();
}
