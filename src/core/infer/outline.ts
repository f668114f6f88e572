import { formatPlace, type PlaceStep } from '../json/pointer.js';
import {
  fieldsInOrder,
  joinPositions,
  mergePlace,
  Place,
  totalAt,
  type Observation,
} from '../observe/observation.js';
import type { Node } from './graph.js';
import type { Analysis } from './infer.js';
import type { Shape } from './rule.js';

/** One place of the payloads, for people. */
export interface OutlineRow {
  /** As `formatPlace` writes it, so that `--at` accepts it. */
  readonly place: string;
  /** How many characters of it repeat the row around it. */
  readonly repeated: number;
  /** What is there, alternatives apart; null is counted for itself. */
  readonly types: readonly string[];
  /** Values seen, null among them. */
  readonly count: number;
  /** How many could have been: the objects around a field. The same as `count` for what always is there. */
  readonly of: number;
  readonly nulls: number;
  /** A scalar as JSON text, the size of a list, or the values of a choice. */
  readonly example: string;
  /** Whether these are the records that the payload only wraps. */
  readonly records: boolean;
}

/**
 * The places of what was observed, each before those inside it: maps by one row for all their keys, a type inside
 * itself once.
 */
export function outlineOf(analysis: Analysis): OutlineRow[] {
  const { observation } = analysis;
  const rows: OutlineRow[] = [];
  const records = recordsIn(observation);
  const open = new Map<Node, string>();
  const visit = (node: Node, place: Place, steps: readonly PlaceStep[], of: number, around: string): void => {
    const self = node.self();
    const pointer = formatPlace(steps);
    const count = totalAt(place);
    const row = {
      place: pointer,
      repeated: around.length,
      count,
      of,
      nulls: place.nulls,
      records: pointer === records && pointer !== '',
    };
    const inside = open.get(self);
    if (inside !== undefined && self.edges.size > 0) {
      rows.push({ ...row, types: [`the same as ${inside || 'the payload'}`], example: '' });
      return;
    }
    rows.push({
      ...row,
      types: typesAt(self, place, analysis),
      example: exampleAt(self, place, analysis.shapes.get(self)!),
    });
    open.set(self, pointer);
    if (self.values !== undefined) {
      const values = new Place();
      for (const field of place.fields.values()) mergePlace(values, field.place);
      if (place.values !== undefined) mergePlace(values, place.values);
      visit(self.values, values, [...steps, 'every'], totalAt(values), pointer);
    } else {
      const rest = new Place();
      if (place.values !== undefined) mergePlace(rest, place.values);
      for (const field of fieldsInOrder(place)) {
        const edge = self.edges.get(field.key);
        if (edge === undefined) {
          mergePlace(rest, field.place);
          continue;
        }
        visit(edge.node, field.place, [...steps, { key: field.key }], place.objects, pointer);
      }
      const count = totalAt(rest);
      if (self.rest !== undefined && count > 0)
        visit(self.rest.node, rest, [...steps, 'every'], count, pointer);
    }
    if (self.positions !== undefined && place.positions !== undefined) {
      place.positions.forEach((each, i) =>
        visit(self.positions![i]!, each, [...steps, { key: String(i) }], totalAt(each), pointer),
      );
    } else if (self.items !== undefined) {
      const items = elementsOf(place);
      if (items !== undefined) visit(self.items, items, [...steps, 'every'], totalAt(items), pointer);
    }
    open.delete(self);
  };
  visit(analysis.root, observation.root, [], observation.payloads, '');
  return rows;
}

/** The place at which the type of a place is explained; undefined when there is no such place. */
export function placeOfType({ root }: Analysis, steps: readonly PlaceStep[]): string | undefined {
  let node: Node | undefined = root.self();
  for (const step of steps) {
    const from: Node = node;
    const next: Node | undefined =
      step === 'every'
        ? (from.items ?? from.values ?? from.rest?.node ?? from.positions?.[0])
        : (from.edges.get(step.key)?.node ??
          from.values ??
          from.rest?.node ??
          from.positions?.[Number(step.key)]);
    if (next === undefined) return undefined;
    node = next.self().single?.self() ?? next.self();
  }
  return node.pattern;
}

/** The elements of all lists at a place, whether or not they were kept apart by position. */
function elementsOf(place: Place): Place | undefined {
  if (place.positions === undefined || place.positions.length === 0) return place.items;
  const joined = new Place();
  joined.positions = place.positions.map((each) => {
    const copy = new Place();
    mergePlace(copy, each);
    return copy;
  });
  joinPositions(joined);
  return joined.items;
}

/**
 * Where the records are, when the payloads are envelopes: the one place at which an object at the top holds a
 * list of objects that have more keys than it. Undefined when there is none or more than one.
 */
export function recordsIn(observation: Observation): string | undefined {
  const found: string[] = [];
  const visit = (place: Place, steps: readonly PlaceStep[], around: number): void => {
    const items = elementsOf(place);
    if (items !== undefined && items.objects > 0 && place.objects === 0) {
      if (items.fields.size > around) found.push(formatPlace([...steps, 'every']));
      return;
    }
    if (steps.length === 3) return;
    for (const field of place.fields.values())
      visit(field.place, [...steps, { key: field.key }], Math.max(around, place.fields.size));
  };
  visit(observation.root, [], 0);
  return found.length === 1 ? found[0] : undefined;
}

function typesAt(self: Node, place: Place, { shapes, arms, armNames }: Analysis): string[] {
  const { format } = shapes.get(self)!;
  const union = arms.get(self);
  const object =
    self.values !== undefined
      ? 'map'
      : union === undefined
        ? 'object'
        : union.arms.map((arm) => armNames.get(arm)!.name).join(' | ');
  const list = self.positions === undefined ? 'list' : 'tuple';
  const counts: [string, number][] = [
    [object, place.objects],
    [list, place.lists],
    [format === undefined ? 'string' : `string, ${format}`, place.strings],
    ['integer', place.decimals > 0 ? 0 : place.integers],
    ['number', place.decimals > 0 ? place.decimals + place.integers : 0],
    ['boolean', place.trues + place.falses],
  ];
  const seen = counts.filter(([, count]) => count > 0).sort(([, a], [, b]) => b - a);
  return seen.length === 0 ? ['null'] : seen.map(([type]) => type);
}

function exampleAt(self: Node, place: Place, shape: Shape): string {
  if (place.lists > 0 && place.objects === 0) {
    const items = elementsOf(place);
    if (items === undefined) return 'always empty';
    if (self.positions !== undefined) return `${self.positions.length} elements each`;
    const empty = place.emptyLists > 0 ? `, empty in ${place.emptyLists}` : '';
    const count = totalAt(items);
    return `${count} ${count === 1 ? 'element' : 'elements'}${empty}`;
  }
  if (place.objects > 0) {
    const { size } = place.fields;
    if (place.values !== undefined) return 'very many keys';
    return size === 0 ? 'never a key' : `${size} ${size === 1 ? 'key' : 'keys'}`;
  }
  if (shape.choice !== undefined)
    return `one of ${shape.choice.values.join(', ')}${shape.choice.closed ? '' : ', or another'}`;
  return (place.firstString ?? place.firstDecimal ?? place.firstInteger ?? place.firstBoolean)?.example ?? '';
}
