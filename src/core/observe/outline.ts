import { formatPlace, type PlaceStep } from '../json/pointer.js';
import { fieldsInOrder, totalAt, type Observation, type Place } from './observation.js';

/** One place of the payloads, for people. */
export interface OutlineRow {
  /** As `formatPlace` writes it, so that `--at` accepts it. */
  readonly place: string;
  /** How many characters of it repeat the row around it. */
  readonly repeated: number;
  /** The kinds of value, the most frequent first; null is counted apart. */
  readonly types: readonly string[];
  /** Values seen, null among them. */
  readonly count: number;
  /** How many could have been: the objects around a field. The same as `count` for what always is there. */
  readonly of: number;
  readonly nulls: number;
  /** A scalar as JSON text, or the size of a list. */
  readonly example: string;
}

/** The places of an observation, each before those inside it. */
export function outlineOf(observation: Observation): OutlineRow[] {
  const rows: OutlineRow[] = [];
  const visit = (place: Place, steps: readonly PlaceStep[], of: number, around: string): void => {
    const count = totalAt(place);
    const pointer = formatPlace(steps);
    rows.push({
      place: pointer,
      repeated: around.length,
      types: typesAt(place),
      count,
      of,
      nulls: place.nulls,
      example: exampleAt(place),
    });
    for (const field of fieldsInOrder(place))
      visit(field.place, [...steps, { key: field.key }], place.objects, pointer);
    if (place.items !== undefined) visit(place.items, [...steps, 'every'], totalAt(place.items), pointer);
  };
  visit(observation.root, [], observation.payloads, '');
  return rows;
}

/**
 * Where the records are, when the payloads are envelopes: the one place at which an object at the top holds a
 * list of objects that have more keys than it. Undefined when there is none or more than one.
 */
export function recordsIn(observation: Observation): string | undefined {
  const found: string[] = [];
  const visit = (place: Place, steps: readonly PlaceStep[]): void => {
    if (place.items !== undefined && place.items.objects > 0 && place.objects === 0) {
      found.push(formatPlace([...steps, 'every']));
      return;
    }
    if (steps.length < 3)
      for (const field of place.fields.values()) visit(field.place, [...steps, { key: field.key }]);
  };
  visit(observation.root, []);
  return found.length === 1 ? found[0] : undefined;
}

function typesAt(place: Place): string[] {
  const counts: [string, number][] = [
    ['object', place.objects],
    ['list', place.lists],
    ['string', place.strings],
    ['integer', place.decimals > 0 ? 0 : place.integers],
    ['number', place.decimals > 0 ? place.decimals + place.integers : 0],
    ['boolean', place.trues + place.falses],
  ];
  const seen = counts.filter(([, count]) => count > 0).sort(([, a], [, b]) => b - a);
  return seen.length === 0 ? ['null'] : seen.map(([type]) => type);
}

function exampleAt(place: Place): string {
  if (place.lists > 0 && place.objects === 0) {
    if (place.items === undefined) return 'always empty';
    const empty = place.emptyLists > 0 ? `, empty in ${place.emptyLists}` : '';
    return `${totalAt(place.items)} elements${empty}`;
  }
  if (place.objects > 0) return place.fields.size === 0 ? 'never a key' : `${place.fields.size} keys`;
  return (place.firstString ?? place.firstDecimal ?? place.firstInteger ?? place.firstBoolean)?.example ?? '';
}
