import type { RecordType, TypeModel } from '../../core/model/types.js';
import type { BenchOptions } from '../language.js';
import type { Scope } from './template.js';

/** What the programs of benches are filled with, and the keys that they can set. */
export interface BenchScope {
  readonly scope: {
    /** Whether the payload has a type of its own, and what it is called. */
    readonly named: boolean;
    readonly Root: string;
    /** Whether it is a record, which can be built from its fields and changed. */
    readonly record: boolean;
    readonly fields: readonly (Scope & { readonly Field: string })[];
    /** The fields that are set one by one, each with all fields and whose value each has then. */
    readonly setters: readonly (Scope & { readonly Field: string; readonly each: readonly Scope[] })[];
  };
  readonly changes: readonly string[];
}

/**
 * For each field that can be set a program may name all fields of its record; of wide records only some are set, since
 * methods of some machines have an end.
 */
const mostNamed = 2048;

/** Those of the fields of a record that are set, where each time all of them are named. */
export function settable<T>(fields: readonly T[]): readonly T[] {
  return fields.slice(0, Math.floor(mostNamed / Math.max(1, fields.length)));
}

/**
 * What programs are filled with that build a payload by the names of its parts, and the keys that they can set.
 * @param members all that its constructor takes @param keys those of its fields, which come first among them
 */
export function constructorScope(
  members: readonly string[],
  keys: readonly string[],
): { readonly members: Scope[]; readonly setters: Scope[]; readonly changes: readonly string[] } {
  const changes = settable(keys);
  return {
    members: members.map((name, i) => ({ name, comma: i < members.length - 1 ? ',' : '' })),
    setters: changes.map((_, i) => ({ i: String(i), name: members[i]! })),
    changes,
  };
}

/** The record that a payload is; undefined where it is something else. */
export function recordOf(model: TypeModel, root: number): RecordType | undefined {
  const { type } = model.roots[root]!;
  return type.kind === 'record' ? model.records.find(({ name }) => name === type.name) : undefined;
}

/**
 * @param buildsOpen whether a record that keeps what it does not know can be built from its fields alone
 */
export function benchScope(
  model: TypeModel,
  { names, unknown, root = 0 }: BenchOptions,
  buildsOpen = false,
): BenchScope {
  const { type } = model.roots[root]!;
  const record = recordOf(model, root);
  const named = type.kind === 'record' || type.kind === 'union';
  const isBuilt = record !== undefined && (buildsOpen || unknown !== 'keep');
  const keys = isBuilt ? record.fields.map(({ key }) => key) : [];
  const own = keys.map((key) => names.get(record!.name)!.fields.get(key)!);
  const comma = (i: number) => (i < own.length - 1 ? ',' : '');
  return {
    scope: {
      named,
      Root: named ? names.get(type.name)!.type : '',
      record: isBuilt,
      fields: own.map((Field, i) => ({ Field, comma: comma(i) })),
      setters: settable(own).map((Field, i) => ({
        Field,
        i: String(i),
        each: own.map((Own, k) => ({ Own, from: k === i ? 'other' : 'value', comma: comma(k) })),
      })),
    },
    changes: settable(keys),
  };
}
