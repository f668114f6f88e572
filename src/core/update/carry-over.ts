import { definitionOf, referenceTo } from '../schema/resolve.js';
import { definitionsSection, type Schema } from '../schema/schema.js';
import { mapSchemas } from './map-schemas.js';
import { writeJson } from '../json/write.js';

/** What people write beside a type and payloads say nothing of. */
const annotations = ['$comment', 'default', 'readOnly', 'writeOnly', 'contentMediaType', 'externalDocs'];

/** What people ask of values, which payloads may contradict. */
const bounds = [
  'minimum',
  'maximum',
  'exclusiveMinimum',
  'exclusiveMaximum',
  'multipleOf',
  'minLength',
  'maxLength',
  'pattern',
  'maxItems',
  'uniqueItems',
  'minProperties',
  'maxProperties',
];

export interface CarriedOver {
  readonly schema: Schema;
  /** Whether a bound came with it, which payloads may not meet. */
  readonly hasBounds: boolean;
}

/**
 * A schema that was just inferred with what people wrote into the one before it: names of types, titles, descriptions,
 * annotations, bounds, and the order of fields. The two are gone through side by side, place by place.
 */
export function carryOver(fresh: Schema, old: Schema): CarriedOver {
  const names = new Map<string, string>();
  const carried = new Map<Schema, Schema>();
  const seen = new Map<Schema, Set<Schema>>();
  let hasBounds = false;

  const target = (root: Schema, schema: Schema): Schema => {
    const { $ref } = schema;
    if ($ref === undefined) return schema;
    const name = definitionOf($ref);
    return $ref === '#' || name === undefined ? root : (root.$defs?.get(name) ?? schema);
  };
  const pair = (ours: Schema, theirs: Schema): void => {
    if (seen.get(ours)?.has(theirs)) return;
    seen.set(ours, (seen.get(ours) ?? new Set()).add(theirs));
    if (!carried.has(ours)) carried.set(ours, theirs);
    const [own, other] = [definitionOf(ours.$ref ?? ''), definitionOf(theirs.$ref ?? '')];
    if (own !== undefined && other !== undefined && !names.has(own) && ![...names.values()].includes(other))
      names.set(own, other);
    const [a, b] = [target(fresh, ours), target(old, theirs)];
    if (a !== ours || b !== theirs) {
      pair(a, b);
      return;
    }
    for (const [key, each] of a.properties ?? []) {
      const same = b.properties?.get(key);
      if (same !== undefined) pair(each, same);
    }
    const inside = (schema: Schema | boolean | undefined) =>
      typeof schema === 'object' ? schema : undefined;
    for (const part of ['additionalProperties', 'items'] as const) {
      const [x, y] = [inside(a[part]), inside(b[part])];
      if (x !== undefined && y !== undefined) pair(x, y);
    }
    a.prefixItems?.forEach((each, i) => {
      const same = b.prefixItems?.[i];
      if (same !== undefined) pair(each, same);
    });
    pairAlternatives(alternativesOf(a), alternativesOf(b));
  };
  const pairAlternatives = (ours: readonly Schema[], theirs: readonly Schema[]): void => {
    if (ours.length < 2 && theirs.length < 2) return;
    const left = [...theirs];
    for (const each of ours) {
      const kind = (schema: Schema, root: Schema) => kindOf(target(root, schema));
      const alike = left.filter((other) => kind(other, old) === kind(each, fresh));
      const best = alike.sort(
        (x, y) =>
          likeness(target(fresh, each), target(old, y)) - likeness(target(fresh, each), target(old, x)),
      )[0];
      if (best === undefined) continue;
      left.splice(left.indexOf(best), 1);
      pair(each, best);
    }
  };
  pair(fresh, old);

  const unique = new Map<string, string>();
  const taken = new Set(names.values());
  for (const name of fresh.$defs?.keys() ?? []) {
    let own = names.get(name) ?? name;
    if (!names.has(name)) for (let i = 2; taken.has(own); i++) own = `${name}${i}`;
    taken.add(own);
    unique.set(name, own);
  }
  const section = definitionsSection(old);
  const written = mapSchemas(fresh, (part, original) => {
    const name = definitionOf(part.$ref ?? '');
    const renamed =
      name === undefined ? part : { ...part, $ref: referenceTo(unique.get(name) ?? name, section) };
    const from = carried.get(original);
    if (from === undefined) return renamed;
    const kept = (from.other === undefined ? [] : [...from.other]).filter(([keyword]) => {
      if (bounds.includes(keyword)) hasBounds = true;
      return bounds.includes(keyword) || annotations.includes(keyword) || isOwn(keyword);
    });
    const other = new Map([...kept, ...(renamed.other ?? [])]);
    return {
      ...renamed,
      ...(from.title === undefined ? {} : { title: from.title }),
      ...(from.description === undefined ? {} : { description: from.description }),
      ...(from.deprecated === undefined ? {} : { deprecated: from.deprecated }),
      ...(renamed.properties === undefined ? {} : fieldsInOrder(renamed, from)),
      ...(other.size === 0 ? {} : { other }),
    };
  });
  const definitions = [...(written.$defs ?? [])].map(([name, each]) => [unique.get(name)!, each] as const);
  return {
    schema: {
      ...written,
      // Its keywords stand in the order of people, and definitions under the one that they took.
      span: old.span,
      ...(old.$schema === undefined ? {} : { $schema: old.$schema }),
      ...(old.other?.has('$id')
        ? { other: new Map([['$id', old.other.get('$id')!], ...(written.other ?? [])]) }
        : {}),
      $defs: new Map(definitions.sort(([a], [b]) => (a < b ? -1 : 1))),
    },
    hasBounds,
  };
}

/** Keywords of people's own tools; those of evidence are of the payloads that were. */
function isOwn(keyword: string): boolean {
  return keyword.startsWith('x-') && keyword !== 'x-evidence';
}

function alternativesOf({ anyOf, oneOf }: Schema): readonly Schema[] {
  return oneOf ?? anyOf ?? [];
}

function kindOf(schema: Schema): string {
  if (schema.properties !== undefined) return 'record';
  if (schema.additionalProperties !== undefined) return 'map';
  if (schema.enum !== undefined || schema.const !== undefined) return 'string';
  return schema.type?.join() ?? '';
}

/** How much two alternatives have in common: the value of a tag says more than any key. */
function likeness(a: Schema, b: Schema): number {
  let alike = 0;
  for (const [key, each] of a.properties ?? []) {
    const other = b.properties?.get(key);
    if (other === undefined) continue;
    const tag = each.const ?? each.enum?.[0];
    const isTag =
      tag !== undefined &&
      [other.const, ...(other.enum ?? [])].some(
        (value) => value !== undefined && writeJson(value) === writeJson(tag),
      );
    alike += isTag ? 100 : 1;
  }
  return alike;
}

/** Fields in the order that they had, new ones after them. */
function fieldsInOrder(fresh: Schema, before: Schema): Pick<Schema, 'properties' | 'required'> {
  const known = [...(before.properties?.keys() ?? [])].filter((key) => fresh.properties!.has(key));
  const keys = [...new Set([...known, ...fresh.properties!.keys()])];
  const { required = [] } = fresh;
  return {
    properties: new Map(keys.map((key) => [key, fresh.properties!.get(key)!])),
    required: keys.filter((key) => required.includes(key)),
  };
}
