import {
  typesWithin,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
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
import { ModelNames } from '../kit/model-names.js';
import { allocate, namesOfPayloads, pascalCasing, snakeCase, type Casing } from '../kit/names.js';
import { toldByWord, type TaggedUnion } from '../kit/plan.js';
import { presenceOf } from '../kit/presence.js';
import { spell, type TypeSpelling } from '../kit/spell.js';
import { deprecatedMark, proseLines, proseOf, proseWithMark } from '../kit/text.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import { docstring, moduleName, python, width } from './text.js';
import { reservedFields, reservedTypes } from './spelling.js';
import modelSupport from './support/model.py';
import timesSupport from './support/times.py';

const words = (text: string) => text.split(' ');

/** What every model of pydantic has, beside what begins with `model_`. */
const modelMembers = words(
  'copy dict json schema schema_json construct validate parse_obj parse_raw parse_file from_orm update_forward_refs register mro',
);

const ownTypes = words(
  'Annotated BaseModel ConfigDict Field GetPydanticSchema MISSING Model Moment Day Identifier Strict TypeAliasType UUID Host',
);

/** A word more, where a name is taken: an underscore before a name would hide a field. */
const fieldCasing: Casing = {
  ...snakeCase,
  join: (all) => snakeCase.join(all[0] === 'model' && all.length > 1 ? ['the', ...all] : all),
};

/** Models that pydantic 2.14 decodes and encodes, Python 3.11 and later. */
export function emitPydantic(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

/** What the program of the bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  readonly record: boolean;
  readonly fields: readonly string[];
  readonly keys: readonly string[];
}

export function rootOf(model: TypeModel, unknown: UnknownRule | undefined, root: number): RootOfBench {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

class Emitter {
  private readonly unknown: UnknownRule;
  private readonly names: ModelNames;
  private readonly taken: Set<string>;
  private readonly tagged: ReadonlyMap<string, TaggedUnion>;
  /** The class of what all alternatives of a union have, by the union. */
  private readonly bases = new Map<string, string>();
  private readonly inUnion = new Map<string, { readonly union: UnionType; readonly tagged: TaggedUnion }>();
  private readonly rootNames: readonly string[];
  private readonly spelling: TypeSpelling;

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
  ) {
    this.unknown = options.unknown ?? 'drop';
    const types = new Set([...reservedTypes, ...ownTypes]);
    this.tagged = new Map(
      model.unions.flatMap((union) => {
        const told = toldByWord(model, union);
        return told === undefined ? [] : [[union.name, told]];
      }),
    );
    for (const union of model.unions) {
      const tagged = this.tagged.get(union.name);
      tagged?.arms.forEach(({ record }) => this.inUnion.set(record.name, { union, tagged }));
    }
    const named = [...model.records, ...model.choices, ...model.unions].map(({ name }) => name);
    this.names = new ModelNames(
      model,
      {
        type: pascalCasing,
        field: fieldCasing,
        reservedTypes: types,
        // The types that annotations name are looked for among the fields first.
        reservedFields: new Set([
          ...reservedFields,
          ...modelMembers,
          ...allocate(named, pascalCasing, types).values(),
        ]),
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
      string: (form) =>
        form === 'date-time' ? 'Moment' : form === 'date' ? 'Day' : form === 'uuid' ? 'Identifier' : 'str',
      literal: (value) => `Literal[${python(value)}]`,
      integer: () => 'int',
      number: () => 'float',
      list: (items) => `list[${items}]`,
      map: (values) => `dict[str, ${values}]`,
      tuple: (items) => `Annotated[tuple[${items.join(', ')}], Strict(False)]`,
      named: (name) => this.names.type(name),
      nullable: (of) => `${of} | None`,
    };
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
    ];
    const about = proseOf(model) ?? `Types for ${namesOfPayloads(model)}.`;
    const head = docstring(
      `${about}\n\nGenerated by Skevo from ${options.origin}; edit that and generate again.`,
      0,
    );
    const text = layOut(blocks(body, 2), width, 4);
    const support = this.support(text);
    const all = [...support, text.trim()].join('\n\n\n');
    const parts = [layOut(head, width, 4).trim(), 'from __future__ import annotations', ...this.imports(all)];
    return {
      files: [
        {
          path: `${moduleName(model)}.py`,
          text: `${parts.join('\n\n')}\n${'\n'.repeat(/^(?:class|def) /.test(all) ? 2 : 1)}${all}\n`,
        },
      ],
      names: this.names.emitted(),
    };
  }

  rootOf(root: number): RootOfBench {
    const record = recordOf(this.model, root);
    const fields = record?.fields ?? [];
    return {
      Root: this.rootNames[root]!,
      record: record !== undefined,
      fields: fields.map(({ key }) => this.names.field(record!.name, key)),
      keys: fields.map(({ key }) => key),
    };
  }

  private support(text: string): string[] {
    const used = (name: string) => new RegExp(`\\b${name}\\b`).test(text);
    const extra =
      this.unknown === 'keep' ? 'extra="allow",' : this.unknown === 'reject' ? 'extra="forbid",' : '';
    const times = timesSupport.trim().split(/\n{2,}(?=\w)/);
    const natives = times.filter((part) => used(/^(\w+) =/.exec(part)?.[1] ?? 'none of them'));
    const helper = natives.length === 0 ? [] : [times[0]!];
    return [
      ...(used('Model')
        ? [modelSupport.trim().replace(/ *__extra__\n/, extra === '' ? '' : `        ${extra}\n`)]
        : []),
      ...helper,
      ...natives,
    ];
  }

  private imports(text: string): string[] {
    const used = new Set(text.replace(/"""[\s\S]*?"""|"(?:[^"\\\n]|\\.)*"/g, '""').match(/[A-Za-z_]\w*/g));
    const from = (module: string, names: readonly string[]) => {
      const own = names.filter((name) => used.has(name));
      return own.length === 0 ? [] : [`from ${module} import ${own.join(', ')}`];
    };
    const standard = [
      ...from('datetime', ['date', 'datetime']),
      ...from('typing', ['Annotated', 'Any', 'Literal']),
      ...from('uuid', ['UUID']),
    ];
    const pydantic = from('pydantic', [
      'MISSING',
      'BaseModel',
      'ConfigDict',
      'Field',
      'GetPydanticSchema',
      'Strict',
    ]);
    const flat = pydantic[0] ?? '';
    const own = [
      ...(flat.length <= width
        ? pydantic
        : [
            flat.replace(
              /import (.*)$/,
              (_, names: string) => `import (\n    ${names.replaceAll(', ', ',\n    ')},\n)`,
            ),
          ]),
      ...from('pydantic_core', ['CoreSchema', 'core_schema']),
      ...from('typing_extensions', ['TypeAliasType']),
    ];
    return [standard, own].filter((part) => part.length > 0).map((part) => part.join('\n'));
  }

  private record(record: RecordType): Doc {
    const inside = this.inUnion.get(record.name);
    const arm = inside?.tagged.arms.find((each) => each.record === record);
    const base = inside === undefined ? undefined : this.bases.get(inside.union.name);
    const shared = new Set(base === undefined ? [] : inside!.tagged.shared.map(({ key }) => key));
    const fields = record.fields.filter(({ key }) => !shared.has(key));
    const rows = fields.map((field) =>
      field.key === inside?.tagged.key ? this.tag(record, field, arm!.words) : this.field(record, field),
    );
    if (record.others !== undefined)
      rows.push(`__pydantic_extra__: dict[str, ${this.typeText(record.others)}]  # pyright: ignore`);
    const extra = record.others !== undefined && this.unknown !== 'keep' ? ', extra="allow"' : '';
    return classOf(
      `class ${this.names.type(record.name)}(${base ?? 'Model'}${extra}):`,
      documentation(record),
      rows,
    );
  }

  private base(union: string): Doc {
    const { shared, arms } = this.tagged.get(union)!;
    const first = arms[0]!.record;
    return classOf(
      `class ${this.bases.get(union)!}(Model):`,
      [docstring(`What every ${this.names.type(union)} has.`, 4)],
      shared.map((field) => this.field(first, field)),
    );
  }

  private tag(record: RecordType, field: RecordField, said: readonly string[]): Doc {
    const type = [`Literal[`, listed(said.map(python)), ']'];
    const initial = said.length === 1 ? ` = ${python(said[0]!)}` : '';
    return this.declared(record, field, type, initial);
  }

  private field(record: RecordType, field: RecordField): Doc {
    const type = this.typeText(field.type);
    const isNull = type === 'None' || type === 'Any';
    switch (presenceOf(field)) {
      case 'required':
        return this.declared(record, field, type, '');
      case 'nullable':
        return this.declared(record, field, isNull ? type : `${type} | None`, '');
      case 'optional':
        return this.declared(record, field, `${type} | MISSING`, ' = MISSING');
      case 'both':
        return this.declared(record, field, `${type} | None | MISSING`, ' = MISSING');
    }
  }

  private declared(record: RecordType, field: RecordField, type: Doc, initial: string): Doc {
    const name = this.names.field(record.name, field.key);
    const annotation: Doc =
      name === field.key
        ? typeof type === 'string' && initial !== '' && / \| /.test(type)
          ? group(
              ['(', indent([softline, type]), softline, ')'].map((part, i) =>
                i === 0 || i === 3 ? ifBreak(part as string, '') : part,
              ),
            )
          : type
        : annotated(type, [
            group(['Field(', indent([softline, `alias=${python(field.key)}`]), softline, ')']),
          ]);
    return lines(...comment(field), [`${name}: `, annotation, initial]);
  }

  private choice(choice: ChoiceType): Doc {
    const name = this.names.type(choice.name);
    const literal: Doc = ['Literal[', listed(choice.values.map(python)), ']'];
    const prose =
      proseWithMark(choice, deprecatedMark) || (choice.open ? 'Other words than these are values too.' : '');
    const flat = `Literal[${choice.values.map(python).join(', ')}]`;
    const isWhole = flat.length + 8 <= width;
    const value: Doc = !choice.open
      ? literal
      : group([
          ifBreak('(', ''),
          indent([softline, isWhole ? flat : literal, line, '| str']),
          softline,
          ifBreak(')', ''),
        ]);
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
      const either = group(join([line, '| '], arms));
      return lines(
        [`${name} = `, annotated(either, [`Field(discriminator=${python(field)})`])],
        ...(doc.length > 0 ? doc : [docstring(`Told apart by its ${tagged.key}.`, 0)]),
      );
    }
    if (this.isInsideItself(union))
      return lines(`${name} = TypeAliasType(${python(name)}, ${python(arms.join(' | '))})`, ...doc);
    return lines(
      [
        `${name} = `,
        group([ifBreak('(', ''), indent([softline, join([line, '| '], arms)]), softline, ifBreak(')', '')]),
      ],
      ...doc,
    );
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

  /** Whether a union is among what it is made of, records left out, whose annotations are read late. */
  private isInsideItself(union: UnionType): boolean {
    const seen = new Set<string>();
    const look = (name: string): boolean => {
      if (seen.has(name)) return false;
      seen.add(name);
      const inside = unionsOf(this.model.unions.find((each) => each.name === name)!);
      return inside.includes(union.name) || inside.some(look);
    };
    return look(union.name);
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

function unionsOf({ arms }: UnionType): string[] {
  return arms.flatMap(({ type }) =>
    [...typesWithin(type)].flatMap((each) => (each.kind === 'union' ? [each.name] : [])),
  );
}

/** Items between brackets: on one line, or one a line with a comma behind each. */
function listed(items: readonly Doc[]): Doc {
  return group([
    indent([softline, join([',', line], [...items]), ifBreak(items.length > 1 ? ',' : '')]),
    softline,
  ]);
}

function annotated(type: Doc, more: readonly Doc[]): Doc {
  return ['Annotated[', listed([type, ...more]), ']'];
}

function classOf(head: string, documentation: readonly Doc[], rows: readonly Doc[]): Doc {
  const body = [...documentation, ...(documentation.length > 0 && rows.length > 0 ? [''] : []), ...rows];
  return [head, indent([lines('', ''), lines(...(body.length === 0 ? ['pass'] : body))])];
}

function documentation(documented: Documented): Doc[] {
  const prose = proseWithMark(documented, deprecatedMark);
  return prose === '' ? [] : [docstring(prose, 4)];
}

function comment(documented: Documented): Doc[] {
  const text = proseWithMark(documented, deprecatedMark);
  return text === '' ? [] : proseLines(text, width - 6).map((each) => (each === '' ? '#' : `# ${each}`));
}
