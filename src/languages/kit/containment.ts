import { typesWithin, type RecordType, type Type, type TypeModel } from '../../core/model/types.js';

/** Which records and unions hold a value of which others directly, not behind a list or a map. */
export class Containment {
  private readonly direct = new Map<string, ReadonlySet<string>>();

  constructor(model: TypeModel) {
    for (const { name, fields } of model.records)
      this.direct.set(name, new Set(fields.flatMap(({ type }) => heldBy(type))));
    for (const { name, arms } of model.unions)
      this.direct.set(name, new Set(arms.flatMap(({ type }) => heldBy(type))));
  }

  /** The types whose values a type holds itself. */
  heldBy(outer: string): ReadonlySet<string> {
    return this.direct.get(outer) ?? new Set();
  }

  /** Whether a value of one type may hold, at some depth, a value of another. */
  holds(outer: string, inner: string): boolean {
    const seen = new Set<string>([outer]);
    for (const name of seen) {
      if (name === inner) return true;
      for (const held of this.direct.get(name) ?? []) seen.add(held);
    }
    return false;
  }
}

/** Whether a type is made of others and has a name, so that it may be inside itself. */
export function isComposite(type: Type): type is Type & { readonly kind: 'record' | 'union' } {
  return type.kind === 'record' || type.kind === 'union';
}

function heldBy(type: Type): string[] {
  switch (type.kind) {
    case 'record':
    case 'union':
      return [type.name];
    case 'nullable':
      return heldBy(type.of);
    case 'tuple':
      return type.items.flatMap(heldBy);
    default:
      return [];
  }
}

/** The records and unions that a type names, at any depth of its own. */
export function namedIn(type: Type): string[] {
  return [...typesWithin(type)].flatMap((part) => (isComposite(part) ? [part.name] : []));
}

/** Those that the fields of a record name. */
export function namedByRecord({ fields, others }: RecordType): string[] {
  return [...fields.map(({ type }) => type), ...(others === undefined ? [] : [others])].flatMap(namedIn);
}
