import type { RecordField, RecordType, Type, TypeModel, UnionType } from '../../core/model/types.js';

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
  if (shared.length === 0) return undefined;
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

function alike(a: RecordField, b: RecordField): boolean {
  return JSON.stringify({ ...a, description: '' }) === JSON.stringify({ ...b, description: '' });
}

/** How many places of a model name a record. */
function timesUsed(model: TypeModel, record: RecordType): number {
  const types = [
    ...model.roots.map(({ type }) => type),
    ...model.records.flatMap(({ fields, others }) => [
      ...fields.map(({ type }) => type),
      ...(others === undefined ? [] : [others]),
    ]),
    ...model.unions.flatMap(({ arms }) => arms.map(({ type }) => type)),
  ];
  return types.reduce((sum, type) => sum + (mentions(type, record.name) ? 1 : 0), 0);
}

function mentions(type: Type, name: string): boolean {
  switch (type.kind) {
    case 'record':
      return type.name === name;
    case 'list':
      return mentions(type.items, name);
    case 'map':
      return mentions(type.values, name);
    case 'nullable':
      return mentions(type.of, name);
    case 'tuple':
      return type.items.some((item) => mentions(item, name));
    default:
      return false;
  }
}
