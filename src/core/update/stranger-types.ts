import { inferSchema } from '../infer/infer.js';
import type { ChoicePolicy } from '../infer/rule.js';
import type { Steer } from '../infer/said.js';
import type { PlaceStep } from '../json/pointer.js';
import { writeJson } from '../json/write.js';
import { Field, mergePlace, Observation, Place } from '../observe/observation.js';
import { definitionOf, referenceTo } from '../schema/resolve.js';
import { schemaToJson, type Schema } from '../schema/schema.js';
import { pascalCase, singular, wordsOf } from '../words.js';
import { mapSchemas } from './map-schemas.js';
import type { Strangers } from './site.js';

/**
 * Infers schemas for what an existing schema does not know, with names that it does not have yet. A record that
 * is the same as a known one becomes that one.
 */
export class StrangerTypes {
  /** Definitions that come new. */
  readonly added = new Map<string, Schema>();
  private readonly known: ReadonlyMap<string, Schema>;

  /** @param section `$defs` or `definitions`, as the existing schema has it */
  constructor(
    private readonly root: Schema,
    private readonly section: string,
    private readonly choices: ChoicePolicy,
    private readonly decisions: readonly Steer[],
  ) {
    this.known = root.$defs ?? new Map();
  }

  /**
   * The schema of a group of strangers that stand side by side, each under its key.
   * @param around what the record is called that they are in
   */
  schemasOf(groups: ReadonlyMap<string, Strangers>, around: string): Map<string, Schema> {
    const observation = new Observation();
    const { root } = observation;
    const wraps = new Map<string, number>();
    let at: readonly PlaceStep[] = [];
    for (const [key, { place, steps, first }] of groups) {
      // Elements are called by the singular of the list's key, so the list is put around them again.
      const own = lastKey(steps);
      wraps.set(key, own.lists);
      at = steps.slice(0, Math.max(0, steps.length - own.lists - 1));
      let inner = place;
      for (let i = 0; i < own.lists; i++) inner = listOf(inner);
      const field = new Field(key, first, new Uint8Array(0));
      field.present = 1;
      mergePlace(field.place, inner);
      root.fields.set(key, field);
      root.firstObject ??= first;
    }
    root.objects = 1;
    root.shapes = undefined;
    observation.payloads = 2;
    const { schema } = inferSchema(observation, {
      name: around,
      nameIsGiven: true,
      isRecord: true,
      choices: this.choices,
      decisions: this.decisions,
      at,
    });
    const names = this.adopt(schema.$defs ?? new Map(), around);
    const found = new Map<string, Schema>();
    for (const [key, property] of schema.properties!) {
      let inner = property;
      for (let i = 0; i < wraps.get(key)!; i++) inner = inner.items as Schema;
      found.set(key, renamed(inner, names, this.section));
    }
    return found;
  }

  /** The new definitions that a schema refers to, and those that these refer to. */
  used(schema: Schema): Map<string, Schema> {
    const found = new Map<string, Schema>();
    const pending = [schema];
    for (let each = pending.pop(); each !== undefined; each = pending.pop()) {
      mapSchemas(each, (part) => {
        const name = part.$ref === undefined ? undefined : definitionOf(part.$ref);
        const added = name === undefined || found.has(name) ? undefined : this.added.get(name);
        if (added !== undefined) {
          found.set(name!, added);
          pending.push(added);
        }
        return part;
      });
    }
    return found;
  }

  /** Takes definitions in, and says what each is called here. */
  private adopt(defs: ReadonlyMap<string, Schema>, around: string): Map<string, string> {
    const names = new Map<string, string>();
    for (const [name, schema] of defs) {
      const twin = [...this.known].find(([, each]) => isSameRecord(schema, each));
      names.set(name, twin?.[0] ?? this.freshName(name, around, names));
    }
    for (const [name, schema] of defs) {
      const own = names.get(name)!;
      if (!this.known.has(own)) this.added.set(own, renamed(schema, names, this.section));
    }
    return names;
  }

  private freshName(name: string, around: string, names: ReadonlyMap<string, string>): string {
    const isTaken = (each: string) =>
      this.known.has(each) ||
      this.added.has(each) ||
      this.root.title === each ||
      [...names.values()].includes(each);
    if (!isTaken(name)) return name;
    const longer = pascalCase([...wordsOf(around), ...wordsOf(name)]);
    let fresh = longer;
    for (let i = 2; isTaken(fresh); i++) fresh = `${longer}${i}`;
    return fresh;
  }
}

/** Whether two records have the same keys with the same values, and the second demands no more than the first. */
function isSameRecord(a: Schema, b: Schema): boolean {
  const { properties: ours } = a;
  const { properties: theirs } = b;
  if (ours === undefined || theirs === undefined || ours.size < 2 || ours.size !== theirs.size) return false;
  if ((b.required ?? []).some((key) => !a.required?.includes(key))) return false;
  return [...ours].every(([key, schema]) => {
    const other = theirs.get(key);
    return other !== undefined && bare(schema) === bare(other);
  });
}

function bare(schema: Schema): string {
  return writeJson(
    schemaToJson({ ...schema, span: undefined, title: undefined, description: undefined, other: undefined }),
  );
}

/** The last key of a place, and how many lists or maps are between it and the place. */
export function lastKey(steps: readonly PlaceStep[]): { key: string | undefined; lists: number } {
  let lists = 0;
  for (let i = steps.length - 1; i >= 0; i--, lists++) {
    const step = steps[i]!;
    if (step !== 'every') return { key: step.key, lists };
  }
  return { key: undefined, lists };
}

/** What the record at a place is called when nothing better is known. */
export function recordName(steps: readonly PlaceStep[], title: string): string {
  const { key, lists } = lastKey(steps);
  const words = wordsOf(key ?? title);
  return pascalCase(lists > 0 ? singular(words) : words);
}

function listOf(place: Place): Place {
  const list = new Place();
  list.lists = 1;
  list.positions = undefined;
  list.items = place;
  return list;
}

/** A schema with its references under other names. */
function renamed(schema: Schema, names: ReadonlyMap<string, string>, section: string): Schema {
  return mapSchemas(schema, (each) => {
    const name = each.$ref === undefined ? undefined : definitionOf(each.$ref);
    return name === undefined ? each : { ...each, $ref: referenceTo(names.get(name) ?? name, section) };
  });
}
