import type { TypeModel } from '../../core/model/types.js';
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
  };
  readonly changes: readonly string[];
}

/** Fields of which a program has a piece for each, with all fields in it: more are not set one by one. */
const mostChanged = 64;

/**
 * @param buildsOpen whether a record that keeps what it does not know can be built from its fields alone
 */
export function benchScope(
  model: TypeModel,
  { names, unknown, root = 0 }: BenchOptions,
  buildsOpen = false,
): BenchScope {
  const { type } = model.roots[root]!;
  const record = type.kind === 'record' ? model.records.find(({ name }) => name === type.name) : undefined;
  const named = type.kind === 'record' || type.kind === 'union';
  const isBuilt = record !== undefined && (buildsOpen || unknown !== 'keep');
  const keys = isBuilt ? record.fields.map(({ key }) => key) : [];
  const own = keys.map((key) => names.get(record!.name)!.fields.get(key)!);
  const isChanged = keys.length <= mostChanged;
  return {
    scope: {
      named,
      Root: named ? names.get(type.name)!.type : '',
      record: isBuilt,
      fields: own.map((Field, i) => ({
        Field,
        i: String(i),
        comma: i < own.length - 1 ? ',' : '',
        ...(isChanged
          ? {
              each: own.map((Other, k) => ({
                Own: Other,
                from: k === i ? 'other' : 'value',
                comma: k < own.length - 1 ? ',' : '',
              })),
            }
          : { each: [] }),
      })),
    },
    changes: isChanged ? keys : [],
  };
}
