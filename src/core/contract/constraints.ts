import { formatPlace, type PlaceStep } from '../json/pointer.js';
import type { Source } from '../json/source.js';
import type { JsonValue } from '../json/value.js';
import { writeJson } from '../json/write.js';
import { resolveReference } from '../schema/resolve.js';
import type { Schema } from '../schema/schema.js';

/** A bound, pattern or other constraint that is no longer what it was. */
export interface ConstraintChange {
  readonly place: string;
  readonly was: string;
  readonly now: string;
}

interface Side {
  readonly schema: Schema;
  readonly source: Source;
}

/** Constraints that differ at places that both schemas have. */
export function constraintChanges(old: Side, now: Side): ConstraintChange[] {
  const changes: ConstraintChange[] = [];
  const done = new Map<Schema, Set<Schema>>();
  const visit = (a: Schema, b: Schema, steps: readonly PlaceStep[]): void => {
    const before = settled(a, old);
    const after = settled(b, now);
    const met = done.get(before) ?? new Set();
    if (met.has(after)) return;
    done.set(before, met.add(after));
    const was = constraints(before);
    const is = constraints(after);
    for (const keyword of new Set([...was.keys(), ...is.keys()])) {
      const [x, y] = [was.get(keyword), is.get(keyword)];
      if (x !== y)
        changes.push({
          place: formatPlace(steps),
          was: x === undefined ? `no ${keyword}` : `${keyword} ${x}`,
          now: y === undefined ? `no ${keyword}` : `${keyword} ${y}`,
        });
    }
    const [arms, others] = [alternatives(before, old), alternatives(after, now)];
    if (arms.length === others.length) arms.forEach((arm, i) => visit(arm, others[i]!, steps));
    for (const [key, inner] of before.properties ?? []) {
      const other = after.properties?.get(key);
      if (other !== undefined) visit(inner, other, [...steps, { key }]);
    }
    for (const part of ['items', 'additionalProperties'] as const) {
      const [x, y] = [before[part], after[part]];
      if (typeof x === 'object' && typeof y === 'object') visit(x, y, [...steps, 'every']);
    }
    before.prefixItems?.forEach((inner, i) => {
      const other = after.prefixItems?.[i];
      if (other !== undefined) visit(inner, other, [...steps, { key: String(i) }]);
    });
  };
  visit(old.schema, now.schema, []);
  return changes;
}

/** A schema behind its references, and what is left of one that only says that null is allowed too: no model has itself there. */
function settled(schema: Schema, side: Side): Schema {
  const target = behind(schema, side);
  const arms = alternatives(target, side);
  return arms.length === 1 ? settled(arms[0]!, side) : target;
}

/** What references lead to; those that lead nowhere but to each other are refused when a model is built. */
function behind(schema: Schema, side: Side): Schema {
  let target = schema;
  while (target.$ref !== undefined) target = resolveReference(side.schema, target.$ref, target, side.source);
  return target;
}

/** Alternatives of a schema, but for null. */
function alternatives({ anyOf, oneOf }: Schema, side: Side): readonly Schema[] {
  const isNull = (each: Schema): boolean => {
    const { type } = behind(each, side);
    return type?.length === 1 && type[0] === 'null';
  };
  return (anyOf ?? oneOf ?? []).filter((each) => !isNull(each));
}

/** By keyword, as JSON writes them. */
function constraints(schema: Schema): Map<string, string> {
  const found = new Map<string, JsonValue>(
    [...(schema.other ?? [])].filter(
      ([keyword]) => !/^(x-|examples?$|\$|default$|readOnly$|writeOnly$)/.test(keyword),
    ),
  );
  found.delete('contentEncoding');
  return new Map([...found].map(([keyword, value]) => [keyword, writeJson(value)]));
}
