import {
  typesIn,
  valueTypeOf,
  type ChoiceType,
  type Documented,
  type RecordField,
  type RecordType,
  type Type,
  type TypeModel,
  type UnionType,
} from '../../core/model/types.js';
import { wordsOf } from '../../core/words.js';
import { byJsonType } from '../kit/by-json-type.js';
import { Containment, isComposite } from '../kit/containment.js';
import { armNames, ModelNames } from '../kit/model-names.js';
import { allocate, camelCase, identifier, packageWord, namesOfPayloads } from '../kit/names.js';
import { taggedUnion, type TaggedUnion } from '../kit/plan.js';
import { payloadsFirst } from '../kit/order.js';
import { presenceOf } from '../kit/presence.js';
import { spell } from '../kit/spell.js';
import { Support } from '../kit/support.js';
import { fill, type Scope } from '../kit/template.js';
import { deprecatedMark, lineComments, oneLine, proseLines, proseOf } from '../kit/text.js';
import type { Emitted, EmitOptions, NamesOfType, UnknownRule } from '../language.js';
import * as by from './spelling.js';
import { go } from './spelling.js';
import fieldSupport from './support/field.go';
import jsonSupport from './support/json.go';
import tupleSupport from './support/tuple.go';
import benchTemplate from './templates/bench.go';
import choiceTemplate from './templates/choice.go';
import constantTemplate from './templates/constant.go';
import recordTemplate from './templates/record.go';
import rootTemplate from './templates/root.go';
import taggedTemplate from './templates/tagged.go';
import unionTemplate from './templates/union.go';

const positions = 'First Second Third Fourth Fifth Sixth Seventh Eighth'.split(' ');

/** A function of one statement is broken by the formatter where both have as many characters. */
const longestFunction = 100;

/** Functions of one statement: those on one line that stand below each other have their bodies in a column. */
function functions(all: readonly (readonly [head: string, statement: string])[]): string {
  const isFlat = ([head, statement]: (typeof all)[number]) =>
    [...head].length + [...statement].length < longestFunction;
  const lines: string[] = [];
  for (const [i, [head, statement]] of all.entries()) {
    if (!isFlat(all[i]!)) {
      lines.push(`${head} {`, `\t${statement}`, '}');
      continue;
    }
    const from = all.slice(0, i).findLastIndex((each) => !isFlat(each)) + 1;
    const end = all.findIndex((each, k) => k > i && !isFlat(each));
    const beside = all.slice(from, end < 0 ? all.length : end).map(([each]) => [...each].length);
    lines.push(`${head}${' '.repeat(Math.max(...beside) - [...head].length)} { ${statement} }`);
  }
  return lines.join('\n');
}

/** A struct whose one field has a longer type is broken by the formatter. */
const longestShort = 29;

/** The name of a tuple's field. */
export const positionName = (index: number): string => positions[index]!;

/** Structs for encoding/json, Go 1.24 and later. */
export function emitGo(model: TypeModel, options: EmitOptions, isPlain = false): Emitted {
  return new Emitter(model, options, isPlain).emit();
}

/** The program of the bench. @param root the position of the payload among those of the model */
export function benchGo(
  model: TypeModel,
  root: number,
  unknown: UnknownRule | undefined,
  isPlain: boolean,
): { readonly text: string; readonly changes: string[] } {
  return new Emitter(model, { origin: '', unknown }, isPlain).bench(root);
}

class Emitter {
  private readonly names: ModelNames;
  private readonly tagged: ReadonlyMap<string, TaggedUnion>;
  /** Names of types and constants that are taken, those of the model among them. */
  private readonly taken: Set<string>;
  /** Types of single words, by the word. */
  private readonly constants = new Map<string, string>();
  private readonly armsIn: ReadonlyMap<string, readonly string[]>;
  private readonly rootNames: readonly string[];
  private readonly spelling = by.spelling(
    (name) => this.names.type(name),
    (value) => this.constant(value),
  );

  private readonly containment: Containment;

  constructor(
    private readonly model: TypeModel,
    private readonly options: EmitOptions,
    /** Set for types that refuse nothing that the library takes. */
    private readonly plain: boolean,
  ) {
    this.tagged = new Map(
      model.unions.flatMap((union) => {
        const found = taggedUnion(model, union);
        return found === undefined ? [] : [[union.name, found]];
      }),
    );
    const { exported, supportNames, methods } = by;
    this.names = new ModelNames(
      model,
      { type: exported, field: exported, reservedTypes: supportNames, reservedFields: methods },
      // Shared fields and those of an arm stand in one object.
      [...this.tagged.values()].map(({ arms }) => arms.map(({ record }) => record.name)),
    );
    this.taken = new Set([...supportNames, ...this.names.all()]);
    this.rootNames = model.roots.map(({ name, type }) =>
      isNamed(type) ? this.names.type(type.name) : this.fresh(name),
    );
    this.containment = new Containment(model);
    this.armsIn = new Map(model.unions.map((union) => [union.name, this.armsOf(union)]));
  }

  emit(): Emitted {
    const { model, options } = this;
    const inUnion = new Set(
      [...this.tagged.values()].flatMap(({ arms }) => arms.map(({ record }) => record.name)),
    );
    const types = payloadsFirst(
      model,
      {
        root: (each, i) => this.root(each.type, i),
        record: (each) => this.record(each),
        choice: (each) => this.choice(each),
        union: (each) => this.union(each),
        isNamed,
      },
      model.records.filter(({ name }) => !inUnion.has(name)),
    );
    for (const [value, name] of this.constants)
      types.push(
        fill(constantTemplate, {
          Constant: name,
          word: go(value),
          string: functions([[`func (${name}) String() string`, `return ${go(value)}`]]),
          marshal: functions([
            [`func (${name}) MarshalText() ([]byte, error)`, `return []byte(${go(value)}), nil`],
          ]),
        }),
      );
    const support = this.support(types);
    const packageName = options.package ?? packageWord(model.name, by.reservedPackages);
    const head = `// Code generated by Skevo from ${oneLine(options.origin)}; DO NOT EDIT.`;
    const about = lineComments(
      '//',
      `Package ${packageName} has ${proseOf(model) ?? `${namesOfPayloads(model)}.`}`,
      88,
    );
    const file =
      wordsOf(model.name).join('') === 'support' ? 'supportpayload' : packageWord(model.name, new Set());
    return {
      files: [
        {
          path: `${file}.go`,
          text: source(head, [...about, `package ${packageName}`], types),
        },
        ...(support.length === 0
          ? []
          : [{ path: 'support.go', text: source(head, [`package ${packageName}`], support) }]),
      ],
      names: this.emittedNames(),
    };
  }

  /** The support code that the types use. */
  private support(types: readonly string[]): string[] {
    const digits = types.some((text) => text.includes('json.Number'));
    const forms = [...typesIn(this.model)].flatMap((type) => (type.kind === 'string' ? [type.form] : []));
    const natives = forms.some((form) => form !== undefined);
    const bytes = forms.includes('base64');
    const tuples = positions.map((_, i) => {
      const letters = [...'ABCDEFGH'.slice(0, i + 1)];
      const own = positions.slice(0, i + 1);
      return fill(tupleSupport, {
        Size: String(i + 1),
        Letters: letters.join(', '),
        elements: letters.map((Letter, k) => ({ Position: positions[k]!, Letter })),
        values: own.map((name) => `t.${name}`).join(', '),
        places: own.map((name) => `&read.${name}`).join(', '),
      });
    });
    const whole = fill(jsonSupport, {
      plain: this.plain,
      digits,
      natives,
      bytes,
      rejects: this.options.unknown === 'reject',
    });
    const all = [fieldSupport, ...tuples, whole].map((text) => text.trim()).join('\n\n');
    return new Support(all, by.supportSyntax).usedBy(types);
  }

  private root(type: Type, i: number): string {
    const name = this.rootNames[i]!;
    return fill(rootTemplate, {
      ...this.own(name),
      plain: this.plain,
      Root: name,
      Type: this.typeText(type),
      short: this.typeText(type).length <= longestShort,
      wrapped: type.kind !== 'list' && type.kind !== 'map',
      doc: prose(this.model.roots[i]!, `${name} is `, `${name} is the payload.`),
    });
  }

  private record(record: RecordType): string {
    const name = this.names.type(record.name);
    const isPayload = this.rootNames.includes(name);
    const extra = this.extraOf(
      record.fields.map(({ key }) => this.names.field(record.name, key)),
      record.others,
    );
    const swaps = swapsOf(record.fields);
    const { local, r } = this.own(name);
    const holds = record.fields.some(({ type }) => this.holdsLists(type, new Set([record.name])));
    const reads = (isPayload && !this.plain) || extra !== '' || swaps.length > 0;
    return fill(recordTemplate, {
      Record: name,
      local,
      r,
      doc: prose(record, `${name} is `),
      fields: this.rows(record.name, record.fields),
      extra,
      know: record.others === undefined ? 'know' : 'name',
      Other: record.others === undefined ? 'json.RawMessage' : this.typeText(record.others),
      swaps,
      reads,
      writes: extra !== '' || swaps.length > 0 || (isPayload && holds && !this.plain),
      parts: extra === '' ? `${local}(${r})` : `${local}(${r}), ${r}.${extra}`,
    });
  }

  /**
   * @param record whose names the fields have
   * @param among all fields of the object
   */
  private rows(record: string, fields: readonly RecordField[], among = fields): Scope[] {
    return fields.map((field) => ({
      doc: prose(field),
      Field: this.names.field(record, field.key),
      Type: this.fieldText(record, field),
      tag: `\`json:"${tagOf(field.key, among)}${field.required ? '' : ',omitzero'}"\``,
    }));
  }

  private choice(choice: ChoiceType): string {
    const type = this.names.type(choice.name);
    const after = [...this.taken].flatMap((name) => (name.startsWith(type) ? [name.slice(type.length)] : []));
    const words = allocate(choice.values, by.exported, new Set([...after, '']));
    for (const word of words.values()) this.taken.add(`${type}${word}`);
    const named = choice.values.map((value) => `${type}${words.get(value)!}`);
    return fill(choiceTemplate, {
      Choice: type,
      c: this.own(type).r,
      doc: prose(
        choice,
        `${type} is `,
        `${type} may hold ${choice.open || this.plain ? 'other words than' : 'no words but'} these.`,
      ),
      words: named.map((Word, i) => ({ Word, Choice: type, word: go(choice.values[i]!) })),
      Words: named.join(', '),
      closed: !choice.open && !this.plain,
    });
  }

  private union(union: UnionType): string {
    const tagged = this.tagged.get(union.name);
    return tagged === undefined ? this.valueUnion(union) : this.sharingUnion(union, tagged);
  }

  /** A union as a struct that holds one of several types. */
  private valueUnion(union: UnionType): string {
    const name = this.names.type(union.name);
    const names = this.armsIn.get(union.name)!;
    const arms = union.arms.map(({ type, test }, i) => ({
      test,
      type,
      scope: this.valueArm(type, names[i]!),
    }));
    const value = this.fresh(`${union.name} value`);
    const held = listed(arms.map(({ scope }) => scope.Held));
    const key = arms.flatMap(({ test }) => (test.kind === 'tag' ? [test.key] : []))[0] ?? '';
    return fill(unionTemplate, {
      Union: name,
      Value: value,
      short: value.length <= longestShort,
      u: this.own(name).r,
      marker: lower(value),
      doc: prose(union, `${name} is `, `${name} holds ${held}.`),
      held,
      defined: arms.filter(({ type }) => !isNamed(type) && type.kind !== 'literal').map(({ scope }) => scope),
      arms: arms.map(({ scope }) => scope),
      key: go(key),
      tagged: arms.flatMap(({ test, scope }) =>
        test.kind === 'tag' ? [{ ...scope, words: test.values.map(go).join(', ') }] : [],
      ),
      keyed: arms.flatMap(({ test, scope }) =>
        test.kind === 'key' ? [{ ...scope, key: go(test.key) }] : [],
      ),
      kinds: arms.flatMap(({ test, scope }) => (test.kind === 'json' ? [scope] : [])),
    });
  }

  private valueArm(type: Type, name: string) {
    const Type = this.typeText(type);
    const kind = byJsonType(type, {
      boolean: 'bool',
      string: 'string',
      number: 'number',
      list: 'array',
      object: 'object',
    });
    return {
      Arm: name,
      Held: `${type.kind === 'record' ? '*' : ''}${name}`,
      Type: type.kind === 'tuple' ? `struct{ ${Type} }` : Type,
      kind: go(kind),
      digits: Type === 'json.Number',
    };
  }

  /** A union as a struct of the fields that all of its arms have, and what differs. */
  private sharingUnion(union: UnionType, { key, shared, arms }: TaggedUnion): string {
    const name = this.names.type(union.name);
    const [first] = arms;
    const owner = first!.record.name;
    const fieldNames = shared.map((field) => this.names.field(owner, field.key));
    const detail = this.detailOf(union);
    const extra = this.extraOf([...fieldNames, detail]);
    const value = this.fresh(`${union.name} detail`);
    const all = [...shared, ...arms.flatMap(({ own }) => own)];
    const swaps = swapsOf(all);
    const { local, r } = this.own(name);
    const marker = lower(`${name}${identifier(key, by.exported)}`);
    const doc = prose(
      union,
      `${name} is `,
      `${name} is told apart by its ${detail}, which is the ${JSON.stringify(key)} in JSON.`,
    );
    return fill(taggedTemplate, {
      Union: name,
      Value: value,
      Detail: detail,
      u: r,
      local,
      marker,
      key: go(key),
      // Its field has the tag for a name, where a tag can hold that.
      direct: this.plain && by.mayBeTag(key) && key !== '-',
      doc,
      held: listed(arms.map(({ record }) => `*${this.names.type(record.name)}`)),
      fields: [...this.rows(owner, shared, all), { doc: '', Field: detail, Type: value, tag: '`json:"-"`' }],
      extra,
      swaps,
      parts: [`${local}(${r})`, `${r}.${detail}`, ...(extra === '' ? [] : [`${r}.${extra}`])].join(', '),
      markers: functions(
        arms.map(({ record, words }) => [
          `func (*${this.names.type(record.name)}) ${marker}() string`,
          `return ${words.length === 1 ? go(words[0]!) : '""'}`,
        ]),
      ),
      arms: arms.map(({ record, words, own }) => ({
        Arm: this.names.type(record.name),
        doc: prose(record, `${this.names.type(record.name)} is `),
        fields: this.rows(record.name, own, all),
        // A field beside the embedded arm, under a name of its own.
        Implied:
          words.length !== 1 || (this.plain && extra === '')
            ? ''
            : this.names.type(record.name) === 'Word'
              ? 'TagWord'
              : 'Word',
        words: words.map(go).join(', '),
      })),
    });
  }

  /** The field of a union that holds what differs. */
  private detailOf(union: UnionType): string {
    const { shared, arms } = this.tagged.get(union.name)!;
    const taken = shared.map(({ key }) => this.names.field(arms[0]!.record.name, key));
    return allocate(['detail'], by.exported, new Set([...taken, ...by.methods])).get('detail')!;
  }

  /** The field for what the schema does not know; empty where it is not kept. */
  private extraOf(taken: readonly string[], others?: Type): string {
    if (this.options.unknown !== 'keep' && others === undefined) return '';
    return allocate(['extra'], by.exported, new Set([...taken, ...by.methods])).get('extra')!;
  }

  /** What the arms of a union are called: types of their own, but for records and choices. */
  private armsOf(union: UnionType): string[] {
    const words = armNames(union, by.exported, new Set());
    return union.arms.map(({ type }, i) => {
      if (type.kind === 'record' || type.kind === 'choice') return this.names.type(type.name);
      if (type.kind === 'literal') return this.constant(type.value);
      return this.fresh(`${union.name} ${words[i]!}`);
    });
  }

  private constant(value: string): string {
    const known = this.constants.get(value) ?? this.fresh(`${value} word`);
    this.constants.set(value, known);
    return known;
  }

  /** A name for a type that the model has not, different from all others. */
  private fresh(wanted: string): string {
    const name = allocate([wanted], by.exported, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  /** The receiver of a type's methods, and what the type without its methods is called in them. */
  private own(name: string): { readonly r: string; readonly local: string } {
    const local = lower(name);
    return {
      r: /^[A-Z]/.test(name) ? name[0]!.toLowerCase() : 'x',
      local: by.usedLocally.has(local) || local.length === 1 || local === name ? 'plain' : local,
    };
  }

  private fieldText(record: string, field: RecordField): string {
    const type = this.typeText(field.type);
    switch (presenceOf(field)) {
      case 'required':
        return type;
      case 'nullable':
        return this.typeText(valueTypeOf(field));
      case 'both':
        // A struct has no size that holds itself.
        return isComposite(field.type) && this.containment.holds(field.type.name, record)
          ? `Field[*${type}]`
          : `Field[${type}]`;
      case 'optional':
        if (field.type.kind === 'null') return 'Field[Null]';
        // Lists, maps and raw JSON have a value that is nothing already.
        return /^(\[\]|map\[|json\.RawMessage$)/.test(type) ? type : `*${type}`;
    }
  }

  private typeText(type: Type): string {
    return spell(type, this.spelling);
  }

  /** Whether a list or a map, which may be nil, is somewhere in values of a type. */
  private holdsLists(type: Type, seen: Set<string>): boolean {
    switch (type.kind) {
      case 'string':
        return type.form === 'base64';
      case 'list':
      case 'map':
        return true;
      case 'tuple':
        return type.items.some((item) => this.holdsLists(item, seen));
      case 'nullable':
        return this.holdsLists(type.of, seen);
      case 'record': {
        if (seen.has(type.name)) return false;
        seen.add(type.name);
        const { fields } = this.model.records.find(({ name }) => name === type.name)!;
        return fields.some((field) => this.holdsLists(field.type, seen));
      }
      default:
        return false;
    }
  }

  /** Whether a value of a type is a slice or a map, which nil is one of. */
  private mayBeNil(type: Type): boolean {
    return /^(\[\]|map\[)/.test(this.typeText(type));
  }

  private emittedNames(): Emitted['names'] {
    const names = new Map<string, NamesOfType>(this.names.emitted());
    for (const union of this.model.unions) {
      const tagged = this.tagged.get(union.name);
      const heldBy = tagged === undefined ? 'Value' : this.detailOf(union);
      const shared = new Set(tagged?.shared.map(({ key }) => key));
      names.set(union.name, {
        type: this.names.type(union.name),
        fields: new Map(),
        union: { heldBy, shared, arms: this.armsIn.get(union.name)! },
      });
    }
    return names;
  }

  bench(root: number): { readonly text: string; readonly changes: string[] } {
    const { type } = this.model.roots[root]!;
    const record =
      type.kind === 'record' ? this.model.records.find(({ name }) => name === type.name)! : undefined;
    const tagged = type.kind === 'union' ? this.tagged.get(type.name) : undefined;
    const owner = record?.name ?? tagged?.arms[0]!.record.name ?? '';
    const fields = record?.fields ?? tagged?.shared ?? [];
    const rows = fields.map(({ key }, i) => ({ i: String(i), Field: this.names.field(owner, key) }));
    const taken = rows.map(({ Field }) => Field);
    const held =
      type.kind !== 'union'
        ? []
        : tagged === undefined
          ? ['Value']
          : [this.detailOf(this.unionOf(type.name))];
    const extra =
      record === undefined && tagged === undefined ? '' : this.extraOf([...taken, ...held], record?.others);
    const whole = [...taken, ...held, ...(extra === '' ? [] : [extra])];
    return {
      text: `${fill(benchTemplate, {
        Root: this.rootNames[root]!,
        literal: record !== undefined || held.length > 0,
        lists: fields
          .filter((field) => presenceOf(field) === 'required' && this.mayBeNil(field.type))
          .map(({ key }) => ({ Field: this.names.field(owner, key) })),
        Detail: held[0] ?? '',
        arms: (tagged?.arms ?? []).map(({ record: arm, own }) => ({
          Arm: this.names.type(arm.name),
          fields: own.map(({ key }) => ({ Field: this.names.field(arm.name, key) })),
        })),
        all: whole.map((Field) => ({ Field })),
        fields: rows,
      })}\n`,
      changes: fields.map(({ key }) => key),
    };
  }

  private unionOf(name: string): UnionType {
    return this.model.unions.find((union) => union.name === name)!;
  }
}

function isNamed(type: Type): type is Type & { readonly kind: 'record' | 'choice' | 'union' } {
  return type.kind === 'record' || type.kind === 'choice' || type.kind === 'union';
}

/** Keys that no tag can hold, and those that stand for them. */
function swapsOf(fields: readonly RecordField[]): Scope[] {
  return standIns(fields).map(([key, standIn]) => ({ key: go(key), standIn: go(standIn) }));
}

function standIns(fields: readonly RecordField[]): [key: string, standIn: string][] {
  const keys = new Set(fields.map(({ key }) => key));
  return [...keys]
    .filter((key) => !by.mayBeTag(key))
    .map((key, i) => {
      let standIn = `key_${i + 1}`;
      while (keys.has(standIn)) standIn += '_';
      return [key, standIn];
    });
}

/** What stands in a tag for a key. @param among all fields of the same object */
function tagOf(key: string, among: readonly RecordField[]): string {
  if (by.mayBeTag(key)) return key === '-' ? '-,' : key;
  return standIns(among).find(([own]) => own === key)![1];
}

function lower(name: string): string {
  return identifier(name, camelCase);
}

function listed(names: readonly string[]): string {
  const withArticle = names.map((name) => `${/^\*?[AEIOU]/.test(name) ? 'an' : 'a'} ${name}`);
  return withArticle.length < 2
    ? withArticle.join('')
    : `${withArticle.slice(0, -1).join(', ')} or ${withArticle.at(-1)!}`;
}

/** Text for a comment, without its signs; empty where there is nothing to say. */
function prose(documented: Documented, opening = '', otherwise = ''): string {
  const said = proseOf(documented);
  const parts = [
    said === undefined ? otherwise : `${opening}${opening === '' ? said : continued(said)}`,
    documented.deprecated ? deprecatedMark : '',
  ].filter((part) => part !== '');
  return proseLines(parts.join('\n\n'), 88).join('\n');
}

/** A sentence as it goes on behind "Leg is". */
function continued(sentence: string): string {
  return sentence.replace(/^(An?|The|One|Each|Every|All|Some|What|Where|When|Whether)\b/, (word) =>
    word.toLowerCase(),
  );
}

/** A file: its head, its package and what it imports before the declarations. */
function source(head: string, clause: readonly string[], declarations: readonly string[]): string {
  const code = declarations.join('\n').replace(by.supportSyntax.notCode, '');
  const used = by.packages
    .filter((path) => new RegExp(`\\b${path.split('/').at(-1)!}\\.`).test(code))
    .map(go);
  const imports =
    used.length === 0
      ? []
      : [used.length === 1 ? `import ${used[0]!}` : `import (\n\t${used.join('\n\t')}\n)`];
  return `${[head, clause.join('\n'), ...imports, ...declarations].join('\n\n')}\n`;
}
