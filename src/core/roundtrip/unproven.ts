import { formatPlace, type PlaceStep } from '../json/pointer.js';
import { membersByKey, type JsonValue } from '../json/value.js';
import { typesIn, type RecordField, type Type, type TypeModel } from '../model/types.js';
import { ModelIndex } from './trace.js';

/** A state that the types allow and no payload had, so that nothing shows it survives. */
export interface Unproven {
  /** The first place of the state, as `formatPlace` writes it. */
  readonly pointer: string;
  readonly state: string;
}

/** What payloads showed of one field of a record. */
export interface FieldCoverage {
  readonly record: string;
  readonly field: RecordField;
  /** Its first place, as `formatPlace` writes it. */
  readonly place: string;
  readonly present: number;
  readonly absent: number;
  readonly nulls: number;
}

interface FieldUse {
  present: number;
  absent: number;
  nulls: number;
}

/** What payloads exercise, by the order in which a model has its parts: the same schema gives the same order. */
export interface SavedCoverage {
  /** Of each field that was met: its position, and how often it was present, absent and null. */
  readonly fields: readonly (readonly [field: number, present: number, absent: number, nulls: number])[];
  /** Positions of types that were null, and of alternatives that were met. */
  readonly nulls: readonly number[];
  readonly arms: readonly number[];
  /** Of each choice that was met, by its position: the words. */
  readonly words: readonly (readonly [choice: number, words: readonly string[]])[];
}

/** Collects which states of the types payloads exercise. */
export class Coverage {
  private readonly index: ModelIndex;
  private readonly fields = new Map<RecordField, FieldUse>();
  private readonly nullsIn = new Set<Type>();
  private readonly arms = new Set<Type>();
  private readonly values = new Map<string, Set<string>>();

  constructor(private readonly model: TypeModel) {
    this.index = new ModelIndex(model);
  }

  /** Takes note of what one payload exercises. */
  add(payload: JsonValue): void {
    const pending: { type: Type; value: JsonValue }[] = [{ type: this.model.root, value: payload }];
    for (let next = pending.pop(); next !== undefined; next = pending.pop()) {
      const { type, value } = next;
      if (type.kind === 'nullable' && value.kind === 'null') this.nullsIn.add(type);
      const actual = this.index.typeOf(type, value);
      if (actual === undefined) continue;
      const declared = type.kind === 'nullable' ? type.of : type;
      if (declared.kind === 'union') this.arms.add(actual);
      if (actual.kind === 'choice' && value.kind === 'string') {
        const seen = this.values.get(actual.name) ?? new Set();
        this.values.set(actual.name, seen.add(value.value));
      } else if (actual.kind === 'list' && value.kind === 'list') {
        for (const item of value.items) pending.push({ type: actual.items, value: item });
      } else if (actual.kind === 'tuple' && value.kind === 'list') {
        value.items
          .slice(0, actual.items.length)
          .forEach((item, i) => pending.push({ type: actual.items[i]!, value: item }));
      } else if (actual.kind === 'map' && value.kind === 'object') {
        for (const { value: each } of value.members) pending.push({ type: actual.values, value: each });
      } else if (actual.kind === 'record' && value.kind === 'object') {
        const members = membersByKey(value);
        for (const field of this.index.record(actual.name).fields) {
          const use = this.fields.get(field) ?? { present: 0, absent: 0, nulls: 0 };
          this.fields.set(field, use);
          const found = members.get(field.key)?.value;
          if (found === undefined) use.absent++;
          else {
            use.present++;
            if (found.kind === 'null') use.nulls++;
            else pending.push({ type: field.type, value: found });
          }
        }
      }
    }
  }

  private parts(): { fields: RecordField[]; types: Type[]; choices: string[] } {
    const { records, choices, root } = this.model;
    return {
      fields: records.flatMap((record) => record.fields),
      types: [root, ...typesIn(this.model)],
      choices: choices.map(({ name }) => name),
    };
  }

  save(): SavedCoverage {
    const { fields, types, choices } = this.parts();
    const positions = (found: ReadonlySet<Type>) =>
      types.flatMap((type, i) => (found.has(type) && types.indexOf(type) === i ? [i] : []));
    return {
      fields: fields.flatMap((field, i) => {
        const use = this.fields.get(field);
        return use === undefined ? [] : [[i, use.present, use.absent, use.nulls] as const];
      }),
      nulls: positions(this.nullsIn),
      arms: positions(this.arms),
      words: choices.flatMap((name, i) => {
        const words = this.values.get(name);
        return words === undefined ? [] : [[i, [...words].sort()] as const];
      }),
    };
  }

  /** Adds what other payloads exercise. @throws RangeError when it was saved for another model */
  load({ fields: own, nulls, arms, words }: SavedCoverage): void {
    const { fields, types, choices } = this.parts();
    const at = <T>(all: readonly T[], i: number): T => {
      const found = all[i];
      if (found === undefined) throw new RangeError('it speaks of what the schema does not have');
      return found;
    };
    for (const [i, present, absent, missing] of own) {
      const field = at(fields, i);
      const use = this.fields.get(field) ?? { present: 0, absent: 0, nulls: 0 };
      this.fields.set(field, {
        present: use.present + present,
        absent: use.absent + absent,
        nulls: use.nulls + missing,
      });
    }
    nulls.forEach((i) => this.nullsIn.add(at(types, i)));
    arms.forEach((i) => this.arms.add(at(types, i)));
    for (const [i, found] of words) {
      const name = at(choices, i);
      this.values.set(name, new Set([...(this.values.get(name) ?? []), ...found]));
    }
  }

  /** Every field of the model that can be reached, in the order of places. */
  coverage(): FieldCoverage[] {
    const found: FieldCoverage[] = [];
    const visited = new Set<string>();
    const visit = (type: Type, steps: readonly PlaceStep[]): void => {
      switch (type.kind) {
        case 'nullable':
          return visit(type.of, steps);
        case 'list':
          return visit(type.items, [...steps, 'every']);
        case 'map':
          return visit(type.values, [...steps, 'every']);
        case 'tuple':
          type.items.forEach((item, i) => visit(item, [...steps, { key: String(i) }]));
          return;
        case 'union':
          if (visited.has(type.name)) return;
          visited.add(type.name);
          for (const { type: arm } of this.model.unions.find(({ name }) => name === type.name)!.arms)
            visit(arm, steps);
          return;
        case 'record':
          if (visited.has(type.name)) return;
          visited.add(type.name);
          for (const field of this.index.record(type.name).fields) {
            const at = [...steps, { key: field.key }];
            const use = this.fields.get(field) ?? { present: 0, absent: 0, nulls: 0 };
            found.push({ record: type.name, field, place: formatPlace(at), ...use });
            visit(field.type, at);
          }
          return;
        default:
          return;
      }
    };
    visit(this.model.root, []);
    return found;
  }

  /**
   * The states that no payload had, in the order of places.
   * @param isRenamed whether a field's name in the code differs from its key in any language
   */
  unproven(isRenamed: (record: string, key: string) => boolean): Unproven[] {
    const found: Unproven[] = [];
    const visited = new Set<string>();
    const visit = (type: Type, steps: readonly PlaceStep[]): void => {
      const pointer = formatPlace(steps);
      switch (type.kind) {
        case 'nullable':
          if (!this.nullsIn.has(type)) found.push({ pointer, state: 'nullable, never null' });
          return visit(type.of, steps);
        case 'list':
          return visit(type.items, [...steps, 'every']);
        case 'map':
          return visit(type.values, [...steps, 'every']);
        case 'tuple':
          type.items.forEach((item, i) => visit(item, [...steps, { key: String(i) }]));
          return;
        case 'choice': {
          if (visited.has(`choice ${type.name}`)) return;
          visited.add(`choice ${type.name}`);
          for (const value of this.model.choices.find(({ name }) => name === type.name)!.values) {
            if (!this.values.get(type.name)?.has(value))
              found.push({ pointer, state: `choice ${JSON.stringify(value)}, never used` });
          }
          return;
        }
        case 'union': {
          if (visited.has(`union ${type.name}`)) return;
          visited.add(`union ${type.name}`);
          for (const { type: arm } of this.model.unions.find(({ name }) => name === type.name)!.arms) {
            if (!this.arms.has(arm))
              found.push({
                pointer,
                state: `${arm.kind === 'record' ? arm.name : arm.kind} of a union, never used`,
              });
            visit(arm, steps);
          }
          return;
        }
        case 'record': {
          if (visited.has(`record ${type.name}`)) return;
          visited.add(`record ${type.name}`);
          for (const field of this.index.record(type.name).fields) {
            const at = [...steps, { key: field.key }];
            const use = this.fields.get(field) ?? { present: 0, absent: 0, nulls: 0 };
            const place = formatPlace(at);
            if (use.present === 0) {
              const renamed = isRenamed(type.name, field.key) ? 'renamed, ' : '';
              found.push({ pointer: place, state: `${renamed}never present` });
            }
            if (!field.required && use.absent === 0)
              found.push({ pointer: place, state: 'optional, never absent' });
            if (field.nullable && use.nulls === 0)
              found.push({ pointer: place, state: 'nullable, never null' });
            if (
              field.nullable &&
              use.present > 0 &&
              use.nulls === use.present &&
              field.type.kind !== 'null'
            ) {
              found.push({ pointer: place, state: 'nullable, never other than null' });
            }
            visit(field.type, at);
          }
          return;
        }
        default:
          return;
      }
    };
    visit(this.model.root, []);
    return found;
  }
}
