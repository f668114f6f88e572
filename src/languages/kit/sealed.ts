import type { RecordField, RecordType, TypeModel, UnionType } from '../../core/model/types.js';
import type { Emitted, EmitOptions, NamesOfType, UnknownRule } from '../language.js';
import { isComposite } from './containment.js';
import { ModelNames, type Spelling } from './model-names.js';
import { allocate } from './names.js';
import { unionsToldByWord, type ToldUnions } from './plan.js';

/** What the emitters of languages with sealed types share: names, and unions whose word the library writes itself. */
export abstract class SealedEmitter {
  protected readonly unknown: UnknownRule;
  /** The unions that a word under one key tells, by their names, where each alternative has a word of its own. */
  protected readonly tagged: ToldUnions['tagged'];
  /** Of which of them a record is an alternative. */
  protected readonly inUnion: ToldUnions['inUnion'];
  protected readonly names: ModelNames;
  protected readonly rootNames: readonly string[];
  /** Types of single words, by the word. */
  protected readonly constants = new Map<string, string>();
  /** What no type may be called any more. */
  protected readonly taken: Set<string>;

  constructor(
    protected readonly model: TypeModel,
    protected readonly options: EmitOptions,
    private readonly casings: Spelling,
  ) {
    this.unknown = options.unknown ?? 'drop';
    ({ tagged: this.tagged, inUnion: this.inUnion } = unionsToldByWord(model, ({ arms }) =>
      arms.every(({ words }) => words.length === 1),
    ));
    const together = [...this.tagged.values()].map(({ arms }) => arms.map(({ record }) => record.name));
    this.names = new ModelNames(model, casings, together);
    this.taken = new Set([...casings.reservedTypes, ...this.names.all()]);
    this.rootNames = model.roots.map(({ name, type }) =>
      isComposite(type) || type.kind === 'choice' ? this.names.type(type.name) : this.fresh(name),
    );
  }

  private readonly arms = new Map<string, readonly string[]>();

  /** Names for the alternatives of a union. */
  protected abstract nameArms(union: UnionType): readonly string[];

  /** What the alternatives of a union are called, whatever names are taken after it was asked first. */
  protected armsOf(union: UnionType): readonly string[] {
    const known = this.arms.get(union.name) ?? this.nameArms(union);
    this.arms.set(union.name, known);
    return known;
  }

  /** The fields of a record without the word that tells it, which its type says. */
  protected own(record: RecordType): readonly RecordField[] {
    const key = this.inUnion.get(record.name)?.tagged.key;
    return record.fields.filter((field) => field.key !== key);
  }

  /** The fields that the union of a record has, by their keys. */
  protected shared(record: RecordType): ReadonlySet<string> {
    return new Set(this.inUnion.get(record.name)?.tagged.shared.map(({ key }) => key));
  }

  /** The field for keys that a record has beside its fields; empty where it keeps none. */
  protected extraOf(record: RecordType): string {
    if (this.unknown !== 'keep' && record.others === undefined) return '';
    const taken = record.fields.map(({ key }) => this.names.field(record.name, key));
    const { field, reservedFields } = this.casings;
    return allocate(['extra'], field, new Set([...reservedFields, ...taken])).get('extra')!;
  }

  /** The type of a single word. */
  protected constant(value: string): string {
    const known = this.constants.get(value) ?? this.fresh(`${value} word`);
    this.constants.set(value, known);
    return known;
  }

  /** A name for a type that the model has not, different from all others. */
  protected fresh(wanted: string): string {
    const name = allocate([wanted], this.casings.type, this.taken).get(wanted)!;
    this.taken.add(name);
    return name;
  }

  protected emittedNames(): Emitted['names'] {
    const names = new Map<string, NamesOfType>(this.names.emitted());
    for (const union of this.model.unions) {
      const tagged = this.tagged.get(union.name);
      const owner = tagged?.arms[0]!.record.name;
      const fields = new Map(tagged?.shared.map(({ key }) => [key, this.names.field(owner!, key)]));
      names.set(union.name, {
        type: this.names.type(union.name),
        fields,
        union: { heldBy: '', arms: this.armsOf(union), shared: new Set(fields.keys()) },
      });
    }
    return names;
  }
}

/** What the program of a bench needs to know of a payload. */
export interface RootOfBench {
  readonly Root: string;
  readonly isRecord: boolean;
  /** All that its constructor takes, in order. */
  readonly members: readonly string[];
  readonly keys: readonly string[];
}

/** What is said of the keys that a record keeps beside its fields. */
export function aboutExtra({ others }: RecordType): string {
  return `the keys that the schema does not ${others === undefined ? 'know' : 'name'}`;
}
