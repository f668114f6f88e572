import type {
  ChoiceType,
  RecordField,
  RecordType,
  Type,
  TypeModel,
  UnionType,
} from '../../core/model/types.js';
import { isComposite } from '../kit/containment.js';
import { lines, type Doc } from '../kit/layout.js';
import { camelCase, identifier } from '../kit/names.js';
import { payloadsFirst } from '../kit/order.js';
import type { ToldArm } from '../kit/plan.js';
import { hasNullState } from '../kit/presence.js';
import { fill } from '../kit/template.js';
import type { Emitted, EmitOptions, UnknownRule } from '../language.js';
import { assigned, entry, hugged, otherKeys, text, TypeScriptEmitter, type RootOfBench } from './emit.js';
import {
  annotated,
  braces,
  call,
  comment,
  documentation,
  indentLines,
  lineBreak,
  propertyName,
  quoted,
  width,
} from './source.js';
import jsonSupport from './support/json.ts.text';

/** Interfaces of the payload's own keys, and what checks values of JSON in place. */
export function emitInterfaces(model: TypeModel, options: EmitOptions): Emitted {
  return new Emitter(model, options).emit();
}

export function rootOfInterface(
  model: TypeModel,
  unknown: UnknownRule | undefined,
  root: number,
): RootOfBench {
  return new Emitter(model, { origin: '', unknown }).rootOf(root);
}

class Emitter extends TypeScriptEmitter {
  protected readonly forCallers = 'PayloadError list map object';

  protected get supportText(): string {
    return fill(jsonSupport, { classes: false, digits: this.digits });
  }

  protected typesInOrder(): readonly string[] {
    return payloadsFirst(this.model, {
      root: (root, i) => text([this.rootType(root, i)]),
      record: (record) => text(this.record(record)),
      choice: (choice) => text([this.choice(choice)]),
      union: (union) => text(this.union(union)),
      isNamed: (type): type is Type & { readonly name: string } =>
        isComposite(type) || type.kind === 'choice',
    });
  }

  protected laidOut(
    types: readonly string[],
    functions: string,
    support: readonly string[],
    readers: string,
  ): readonly string[] {
    return [...types, functions, ...support, readers];
  }

  protected base(union: UnionType): Doc[] {
    const base = this.bases.get(union.name);
    if (base === undefined) return [];
    const { shared } = this.tagged.get(union.name)!;
    return [
      lines(
        ...comment([`What every ${this.types.get(union.name)!} has.`]),
        braces(
          `export interface ${base} `,
          shared.map((field) => this.member(field, undefined)),
        ),
      ),
    ];
  }

  protected choiceReaders(): Doc[] {
    return this.model.choices
      .filter(({ open }) => !open)
      .map((choice) => {
        const name = this.types.get(choice.name)!;
        this.written.add(choice.name);
        return assigned(`export const read${name}: Read<${name}>`, [call('word', choice.values.map(quoted))]);
      });
  }

  protected choiceReader({ name, open }: ChoiceType): Doc {
    return open ? 'text' : `read${this.types.get(name)!}`;
  }

  protected readerOf(record: string): Doc {
    return this.late(record);
  }

  protected record(record: RecordType): Doc[] {
    const { inside, base, own } = this.placeOf(record);
    const members = own.map((field) => this.member(field, inside));
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
  protected index({ fields, others }: RecordType): string[] | undefined {
    if (others === undefined) return this.unknown === 'keep' ? ['unknown'] : undefined;
    const all = [...fields.map((field) => this.fieldType(field)), this.typeText(others)];
    const arms = new Set(all.flatMap((each) => each.split(' | ')));
    if (fields.some(({ required }) => !required)) arms.add('undefined');
    return arms.has('unknown') ? ['unknown'] : [...arms];
  }

  private member(field: RecordField, inside: ToldArm | undefined): Doc {
    const words = inside?.tagged.key === field.key ? inside.words : undefined;
    const type = words?.map(quoted) ?? this.fieldType(field).split(/ \| (?=null$)/);
    const key = field.key === '__proto__' ? field.key : propertyName(field.key);
    return lines(...documentation(field), [key, field.required ? ':' : '?:', annotated(type), ';']);
  }

  /** The readers of what all alternatives of a union have, before the first of them. */
  protected baseReader(record: RecordType): Doc[] {
    const { inside, base } = this.placeOf(record);
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

  protected recordReader(record: RecordType): Doc[] {
    const above = this.baseReader(record);
    const name = this.types.get(record.name)!;
    const place = this.placeOf(record);
    const { inside, base } = place;
    const entries = place.own.map((field) =>
      this.entry(
        field,
        field.key === inside?.tagged.key ? call('word', inside.words.map(quoted)) : this.fieldReader(field),
      ),
    );
    const own = base === undefined ? entries : [`...${identifier(base, camelCase)},`, ...entries];
    const head = `export const read${name}: Read<${name}>`;
    const known = `${this.unknown === 'reject' ? 'closed' : 'object'}<${name}>({`;
    if (record.others === undefined) return [...above, assigned(head, [known, ...hugged(own), '})'])];
    const others = text([this.reader(record.others)]);
    const flat = `open<${name}>(${others}, {`;
    if (head.length + 3 + flat.length <= width)
      return [...above, assigned(head, [flat, ...hugged(own), '})'])];
    const fields: Doc = own.length === 0 ? '{},' : ['{', ...hugged(own), '},'];
    return [
      ...above,
      assigned(head, [`open<${name}>(`, indentLines([`${others},`, fields]), lineBreak, ')']),
    ];
  }

  protected entry(field: RecordField, reader: Doc): Doc {
    return entry(propertyName(field.key), reader);
  }

  protected fieldReader(field: RecordField): Doc {
    const reader = hasNullState(field)
      ? call('nullable', [this.reader(field.type)])
      : this.reader(field.type);
    return field.required ? reader : call('optional', [reader]);
  }
}
