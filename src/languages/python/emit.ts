import {
  typesWithin,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
  type RootType,
  type Type,
  type TypeModel,
  type UnionType,
} from '../../core/model/types.js';
import { recordOf } from '../kit/bench.js';
import { isComposite } from '../kit/containment.js';
import {
  blocks,
  group,
  ifBreak,
  indent,
  join,
  layOut,
  line,
  lines,
  softline,
  type Doc,
} from '../kit/layout.js';
import { ModelNames, typeNames } from '../kit/model-names.js';
import { allocate, identifier, namesOfPayloads, pascalCasing, snakeCase, type Casing } from '../kit/names.js';
import { unionsToldByWord, type ToldUnions } from '../kit/plan.js';
import { presenceOf, type Presence } from '../kit/presence.js';
import { spell, type TypeSpelling } from '../kit/spell.js';
import { saidByType } from '../kit/listed.js';
import { deprecatedMark, proseLines, proseOf, proseWithMark } from '../kit/text.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import { docstring, moduleName, python, width } from './text.js';

/** Names that types and fields of a style may not take, and how its fields are spelled. */
export interface Reserved {
  readonly types: Iterable<string>;
  readonly fields: Iterable<string>;
  readonly fieldCasing: Casing;
}

/** A module, and the names that are imported from it; none where it is imported itself. */
export type Import = readonly [module: string, ...names: string[]];

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  readonly record: boolean;
  readonly fields: readonly string[];
  readonly keys: readonly string[];
  /** What reads it and writes it where it has no class. */
  readonly from_json: string;
  readonly to_json: string;
}

/** A module of types: words as literal types, records as classes, unions with a base of what all alternatives have. */
export abstract class PythonEmitter {
  protected readonly unknown: UnknownRule;
  protected readonly names: ModelNames;
  protected readonly tagged: ToldUnions['tagged'];
  protected readonly rootNames: readonly string[];
  protected readonly spelling: TypeSpelling;
  private readonly taken: Set<string>;
  /** The class of what all alternatives of a union have, by the union. */
  protected readonly bases = new Map<string, string>();
  private readonly inUnion: ToldUnions['inUnion'];

  constructor(
    protected readonly model: TypeModel,
    protected readonly options: EmitOptions,
    reserved: Reserved,
  ) {
    this.unknown = options.unknown ?? 'drop';
    const types = new Set(reserved.types);
    ({ tagged: this.tagged, inUnion: this.inUnion } = unionsToldByWord(model));
    this.names = new ModelNames(
      model,
      {
        type: pascalCasing,
        field: reserved.fieldCasing,
        reservedTypes: types,
        // The types that annotations name are looked for among the fields first.
        reservedFields: new Set([...reserved.fields, ...typeNames(model, pascalCasing, types).values()]),
      },
      [...this.tagged.values()].map(({ arms }) => arms.map(({ record }) => record.name)),
    );
    this.taken = new Set([...types, ...this.names.all()]);
    for (const [name, { shared }] of this.tagged)
      if (shared.length > 0) this.bases.set(name, this.fresh(`${name} base`));
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) || type.kind === 'choice' ? this.names.type(type.name) : this.fresh(name),
    );
    this.spelling = {
      anything: () => 'Any',
      null: () => 'None',
      boolean: () => 'bool',
      string: () => 'str',
      literal: (value) => `Literal[${python(value)}]`,
      integer: () => 'int',
      listed: (values) => `Literal[${values.join(', ')}]`,
      number: () => 'float',
      list: (items) => `list[${items}]`,
      map: (values) => `dict[str, ${values}]`,
      tuple: (items) => `tuple[${items.join(', ')}]`,
      named: (name) => this.names.type(name),
      nullable: (of) => `${of} | None`,
      ...this.ownSpelling(),
    };
  }

  /** How the style spells types, where it is otherwise. */
  protected abstract ownSpelling(): Partial<TypeSpelling>;
  /** What stands between the imports and the types, for a text of types. */
  protected abstract support(text: string): readonly string[];
  /** What stands behind the types. */
  protected behind(_text: string): readonly string[] {
    return [];
  }
  /** What may be imported, in groups. */
  protected abstract readonly imported: readonly (readonly Import[])[];
  /** The lines that open the class of a record. @param record undefined for a base of alternatives */
  protected abstract opening(name: string, base: string | undefined, record: RecordType | undefined): Doc;
  /** What a record has beside its fields. */
  protected abstract others(record: RecordType): readonly Doc[];
  /** The type and the default of a field. */
  protected abstract fieldType(
    type: string,
    presence: Presence,
  ): { readonly type: string; readonly initial?: string };
  protected abstract declared(name: string, key: string, type: Doc, initial: Doc | undefined): Doc;
  /** A union of records that a field of theirs tells apart. */
  protected abstract taggedType(arms: readonly string[], field: string): Doc;
  /** A union that is among what it is made of. */
  protected recursive(name: string, type: string): Doc {
    return `${name}: TypeAlias = ${python(type)}`;
  }
  /** What a payload of no class of its own has beside its name. */
  protected functions(_root: number): readonly Doc[] {
    return [];
  }
  /** Whether a key is a field, and not what the library writes by itself. */
  protected isField(_record: RecordType, _field: RecordField): boolean {
    return true;
  }

  emit(): Emitted {
    const { model, options } = this;
    const inUnion = (record: RecordType) => this.inUnion.has(record.name);
    const body: Doc[] = [
      ...model.choices.map((choice) => this.choice(choice)),
      ...model.records.filter((record) => !inUnion(record)).map((record) => this.record(record)),
      ...[...this.tagged].flatMap(([name, { arms, shared }]) => [
        ...(shared.length > 0 ? [this.base(name)] : []),
        ...arms.map(({ record }) => this.record(record)),
      ]),
      ...this.unionsInOrder().map((union) => this.union(union)),
      ...model.roots.flatMap((root, i) => ('name' in root.type ? [] : [this.root(root, i)])),
      ...model.roots.flatMap((_, i) => this.functions(i)),
    ];
    const about = proseOf(model) ?? `Types for ${namesOfPayloads(model)}.`;
    const head = docstring(
      `${about}\n\nGenerated by Skevo from ${options.origin}; edit that and generate again.`,
      0,
    );
    const text = layOut(blocks(body, 2), width, 4).trim();
    const all = [...this.support(text), text, ...this.behind(text)].join('\n\n\n');
    const parts = [
      layOut(head, width, 4).trim(),
      'from __future__ import annotations',
      ...this.importsOf(all),
    ];
    return {
      files: [
        {
          path: `${moduleName(model)}.py`,
          text: `${parts.join('\n\n')}\n${'\n'.repeat(/^(?:@|class |def )/.test(all) ? 2 : 1)}${all}\n`,
        },
      ],
      names: this.names.emitted(),
    };
  }

  rootOf(root: number): RootOfBench {
    const record = recordOf(this.model, root);
    const fields = record?.fields.filter((field) => this.isField(record, field)) ?? [];
    return {
      Root: this.rootNames[root]!,
      record: record !== undefined,
      fields: fields.map(({ key }) => this.names.field(record!.name, key)),
      keys: fields.map(({ key }) => key),
      ...functionNames(this.model.roots[root]!),
    };
  }

  private importsOf(text: string): string[] {
    const code = text.replace(/"""[\s\S]*?"""|'(?:[^'\\\n]|\\.)*'|"(?:[^"\\\n]|\\.)*"|#.*/g, "''");
    const used = new Set(code.match(/[A-Za-z_]\w*/g));
    const line = ([module, ...names]: Import): string[] => {
      if (names.length === 0) return used.has(module.split(' ').at(-1)!) ? [`import ${module}`] : [];
      const own = names.filter((name) => used.has(name));
      if (own.length === 0) return [];
      const flat = `from ${module} import ${own.join(', ')}`;
      return [flat.length <= width ? flat : `from ${module} import (\n    ${own.join(',\n    ')},\n)`];
    };
    return this.imported.map((group) => group.flatMap(line).join('\n')).filter((group) => group !== '');
  }

  private record(record: RecordType): Doc {
    const inside = this.inUnion.get(record.name);
    const base = inside === undefined ? undefined : this.bases.get(inside.union.name);
    const shared = new Set(base === undefined ? [] : inside!.tagged.shared.map(({ key }) => key));
    const fields = record.fields.filter((field) => !shared.has(field.key) && this.isField(record, field));
    const rows = fields.map((field) =>
      field.key === inside?.tagged.key ? this.tag(record, field, inside.words) : this.field(record, field),
    );
    return classOf(this.opening(this.names.type(record.name), base, record), documentation(record), [
      ...rows,
      ...this.others(record),
    ]);
  }

  private base(union: string): Doc {
    const { shared, arms } = this.tagged.get(union)!;
    const first = arms[0]!.record;
    return classOf(
      this.opening(this.bases.get(union)!, undefined, undefined),
      [docstring(`What every ${this.names.type(union)} has.`, 4)],
      shared.map((field) => this.field(first, field)),
    );
  }

  private tag(record: RecordType, field: RecordField, said: readonly string[]): Doc {
    const type: Doc = ['Literal[', listed(said.map(python)), ']'];
    if (said.length > 1) return this.row(record, field, type, undefined);
    const [word, name] = [python(said[0]!), this.names.field(record.name, field.key)];
    // The formatter breaks behind the sign where what stands before it is short enough.
    const isApart = name === field.key && `    ${name}: Literal[${word}] = (`.length <= width;
    return isApart
      ? this.row(record, field, `Literal[${word}]`, parenthesised(word))
      : this.row(record, field, type, word);
  }

  private field(record: RecordType, field: RecordField): Doc {
    const { type, initial } = this.fieldType(this.typeText(field.type), presenceOf(field));
    return this.row(record, field, type, initial);
  }

  private row(record: RecordType, field: RecordField, type: Doc, initial: Doc | undefined): Doc {
    const name = this.names.field(record.name, field.key);
    return lines(...comment(saidByType(field)), this.declared(name, field.key, type, initial));
  }

  private choice(choice: ChoiceType): Doc {
    const name = this.names.type(choice.name);
    const literal: Doc = ['Literal[', listed(choice.values.map(python)), ']'];
    const prose =
      proseWithMark(choice, deprecatedMark) || (choice.open ? 'Other words than these are values too.' : '');
    const flat = `Literal[${choice.values.map(python).join(', ')}]`;
    const isWhole = flat.length + 8 <= width;
    const value: Doc = choice.open ? either([isWhole ? flat : literal, 'str']) : literal;
    return lines([`${name} = `, value], ...(prose === '' ? [] : [docstring(prose, 0)]));
  }

  private union(union: UnionType): Doc {
    const name = this.names.type(union.name);
    const tagged = this.tagged.get(union.name);
    const arms = union.arms.map(({ type }) => this.typeText(type));
    const prose = proseWithMark(union, deprecatedMark);
    const doc = prose === '' ? [] : [docstring(prose, 0)];
    if (tagged !== undefined && arms.length > 1) {
      const field = this.names.field(tagged.arms[0]!.record.name, tagged.key);
      return lines(
        [`${name} = `, this.taggedType(arms, field)],
        ...(doc.length > 0 ? doc : [docstring(`Told apart by its ${tagged.key}.`, 0)]),
      );
    }
    if (isInsideItself(this.model, union)) return lines(this.recursive(name, arms.join(' | ')), ...doc);
    return lines([`${name} = `, either(arms)], ...doc);
  }

  private root({ type, ...documented }: TypeModel['roots'][number], i: number): Doc {
    const prose = proseWithMark(documented, deprecatedMark) || 'The payload.';
    return lines(`${this.rootNames[i]!} = ${this.typeText(type)}`, docstring(prose, 0));
  }

  /** Unions so that each comes after those that it is made of. */
  private unionsInOrder(): UnionType[] {
    const done: UnionType[] = [];
    const visit = (union: UnionType, around: ReadonlySet<string>) => {
      if (done.includes(union) || around.has(union.name)) return;
      for (const name of unionsOf(union))
        visit(
          this.model.unions.find((each) => each.name === name)!,
          new Set([...around, union.name]),
        );
      done.push(union);
    };
    this.model.unions.forEach((union) => visit(union, new Set()));
    return done;
  }

  private fresh(wanted: string): string {
    const name = allocate([wanted], pascalCasing, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  private typeText(type: Type): string {
    return spell(type, this.spelling);
  }
}

/** What reads and writes a payload that has no class. */
export function functionNames({ name }: Pick<RootType, 'name'>): { from_json: string; to_json: string } {
  const word = identifier(name, snakeCase);
  return { from_json: `${word}_from_json`, to_json: `${word}_to_json` };
}

/** Whether a union is among what it is made of, records left out, whose annotations are read late. */
export function isInsideItself({ unions }: TypeModel, union: UnionType): boolean {
  const seen = new Set<string>();
  const look = (name: string): boolean => {
    if (seen.has(name)) return false;
    seen.add(name);
    const inside = unionsOf(unions.find((each) => each.name === name)!);
    return inside.includes(union.name) || inside.some(look);
  };
  return look(union.name);
}

function unionsOf({ arms }: UnionType): string[] {
  return arms.flatMap(({ type }) =>
    [...typesWithin(type)].flatMap((each) => (each.kind === 'union' ? [each.name] : [])),
  );
}

/** Items between brackets: on one line, or one a line with a comma behind each. */
export function listed(items: readonly Doc[]): Doc {
  return group([
    indent([softline, join([',', line], [...items]), ifBreak(items.length > 1 ? ',' : '')]),
    softline,
  ]);
}

/** A call, on one line or with what is given on lines of their own. */
export function call(name: string, given: readonly Doc[]): Doc {
  const inside = given.flatMap((each, i) => (i === 0 ? [each] : [',', line, each]));
  const end = given.length > 1 ? [ifBreak(',', '')] : [];
  return [name, group(['(', indent([softline, group([...inside, ...end])]), softline, ')'])];
}

/** The type and the default of a field whose absence a marker stands for. */
export function marked(
  type: string,
  presence: Presence,
  markerType: string,
  marker: string,
): { type: string; initial?: string } {
  const isNull = type === 'None' || type === 'Any';
  switch (presence) {
    case 'required':
      return { type };
    case 'nullable':
      return { type: isNull ? type : `${type} | None` };
    case 'optional':
      return { type: `${type} | ${markerType}`, initial: marker };
    case 'both':
      return { type: `${type} | None | ${markerType}`, initial: marker };
  }
}

/** The type of a field, in parentheses where it is one of several, has a default behind it and takes more than a line. */
export function beforeDefault(type: Doc, initial: Doc | undefined): Doc {
  return typeof type === 'string' && initial !== undefined && / \| /.test(type) ? parenthesised(type) : type;
}

/** A type or a value, in parentheses where its line is full. */
function parenthesised(value: Doc): Doc {
  return group([ifBreak('(', ''), indent([softline, value]), softline, ifBreak(')', '')]);
}

/** One type of several, in parentheses where it takes more than a line. */
export function either(types: readonly Doc[]): Doc {
  return parenthesised(group(join([line, '| '], [...types])));
}

function classOf(opening: Doc, documentation: readonly Doc[], rows: readonly Doc[]): Doc {
  const body = [...documentation, ...(documentation.length > 0 && rows.length > 0 ? [''] : []), ...rows];
  return [opening, indent([lines('', ''), lines(...(body.length === 0 ? ['pass'] : body))])];
}

function documentation(documented: Documented): Doc[] {
  const prose = proseWithMark(documented, deprecatedMark);
  return prose === '' ? [] : [docstring(prose, 4)];
}

function comment(documented: Documented & { readonly type?: Type }): Doc[] {
  const text = proseWithMark(documented, deprecatedMark);
  return text === '' ? [] : proseLines(text, width - 6).map((each) => (each === '' ? '#' : `# ${each}`));
}
