import {
  typesIn,
  type RecordField,
  type RecordType,
  type TypeModel,
  type UnionType,
} from '../../core/model/types.js';

/** A union of records, told apart by a word under one key, with the fields that all of them have. */
export interface TaggedUnion {
  readonly key: string;
  readonly shared: readonly RecordField[];
  readonly arms: readonly {
    readonly record: RecordType;
    readonly words: readonly string[];
    /** What no other arm has, and the word itself where there are several. */
    readonly own: readonly RecordField[];
  }[];
}

/**
 * A union as its shared fields and what differs; undefined where its arms are not all records told by a word, share
 * nothing, or are used by themselves too.
 */
export function taggedUnion(model: TypeModel, union: UnionType): TaggedUnion | undefined {
  const told = toldByWord(model, union);
  return told === undefined || told.shared.length === 0 ? undefined : told;
}

/** The same where the arms may share nothing. */
export function toldByWord(model: TypeModel, union: UnionType): TaggedUnion | undefined {
  const arms = union.arms.flatMap(({ type, test }) => {
    const record = type.kind === 'record' ? model.records.find(({ name }) => name === type.name) : undefined;
    return record === undefined || test.kind !== 'tag' ? [] : [{ record, test }];
  });
  const [first] = arms;
  if (first === undefined || arms.length < union.arms.length) return undefined;
  if (arms.some(({ record }) => record.others !== undefined || timesUsed(model, record) > 1))
    return undefined;
  const { key } = first.test;
  const shared = first.record.fields.filter(
    (field) =>
      field.key !== key && arms.every(({ record }) => record.fields.some((each) => alike(each, field))),
  );
  const keys = new Set(shared.map((field) => field.key));
  return {
    key,
    shared,
    arms: arms.map(({ record, test: { values } }) => ({
      record,
      words: values,
      own: record.fields.filter((field) => !keys.has(field.key) && (field.key !== key || values.length > 1)),
    })),
  };
}

/** What a record is in a union whose alternatives a word tells apart. */
export interface ToldArm {
  readonly union: UnionType;
  readonly tagged: TaggedUnion;
  readonly words: readonly string[];
}

/** The unions of a model whose alternatives a word tells apart, by their names, and what their records are in them. */
export interface ToldUnions {
  readonly tagged: ReadonlyMap<string, TaggedUnion>;
  readonly inUnion: ReadonlyMap<string, ToldArm>;
}

/** @param isTold which of them a language tells so; all when not given */
export function unionsToldByWord(
  model: TypeModel,
  isTold: (union: TaggedUnion) => boolean = () => true,
): ToldUnions {
  const told = model.unions.flatMap((union) => {
    const tagged = toldByWord(model, union);
    return tagged === undefined || !isTold(tagged) ? [] : [{ union, tagged }];
  });
  return {
    tagged: new Map(told.map(({ union, tagged }) => [union.name, tagged])),
    inUnion: new Map(
      told.flatMap((each) =>
        each.tagged.arms.map(({ record, words }) => [record.name, { ...each, words }] as const),
      ),
    ),
  };
}

function alike(a: RecordField, b: RecordField): boolean {
  return JSON.stringify({ ...a, description: '' }) === JSON.stringify({ ...b, description: '' });
}

/** How many places of a model name a record. */
function timesUsed(model: TypeModel, { name }: RecordType): number {
  return [...typesIn(model)].filter((type) => type.kind === 'record' && type.name === name).length;
}
