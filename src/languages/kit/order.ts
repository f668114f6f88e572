import type { ChoiceType, RecordType, RootType, Type, TypeModel, UnionType } from '../../core/model/types.js';

/** What writes the types of a model. */
export interface Writers {
  /** A payload whose type has no name. */
  root(each: RootType, position: number): string;
  record(each: RecordType): string;
  choice(each: ChoiceType): string;
  union(each: UnionType): string;
  /** Whether a payload of a type is that type itself; where it has a name when not given. */
  isNamed?(type: Type): type is Type & { readonly name: string };
}

/** The texts of a model's types, those of its payloads first, which readers look for. @param records those that are written */
export function payloadsFirst(
  { roots, choices, unions, records: all }: TypeModel,
  write: Writers,
  records: readonly RecordType[] = all,
): string[] {
  const { isNamed = (type: Type): type is Type & { readonly name: string } => 'name' in type } = write;
  const named = [
    ...records.map((each) => ({ name: each.name, text: write.record(each) })),
    ...choices.map((each) => ({ name: each.name, text: write.choice(each) })),
    ...unions.map((each) => ({ name: each.name, text: write.union(each) })),
  ];
  const payloads = new Set(roots.flatMap(({ type }) => (isNamed(type) ? [type.name] : [])));
  return [
    ...roots.flatMap((root, i) => (isNamed(root.type) ? [] : [write.root(root, i)])),
    ...named.filter(({ name }) => payloads.has(name)).map(({ text }) => text),
    ...named.filter(({ name }) => !payloads.has(name)).map(({ text }) => text),
  ];
}
