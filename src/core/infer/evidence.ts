import { parseJson } from '../json/parse.js';
import { json, type JsonValue } from '../json/value.js';
import type { Node } from './graph.js';

/**
 * What was seen at a place as annotations of its schema: `examples` (JSON Schema 2020-12, validation 9.5) and
 * `x-evidence` with counts of values.
 * @param absent how many objects around the place lacked it
 */
export function evidenceAt(node: Node, absent: number): [string, JsonValue][] {
  const { use } = node;
  const { facts } = node.self();
  const sightings = [facts.firstString, facts.firstInteger, facts.firstDecimal, facts.firstBoolean];
  const examples = sightings.flatMap((sighting) => (sighting === undefined ? [] : whole(sighting.example)));
  const counts: [string, number][] = [
    ['seen', use.total],
    ['absent', absent],
    ['null', use.nulls],
    ['emptyLists', facts.emptyLists],
    ['emptyObjects', facts.emptyObjects],
  ];
  const told = counts.filter(([name, count]) => count > 0 || name === 'seen');
  return [
    ...(examples.length === 0 ? [] : [['examples', json.list(examples)] satisfies [string, JsonValue]]),
    ['x-evidence', json.object(told.map(([name, count]) => [name, json.number(count)]))],
  ];
}

/** The value of an example; nothing for one that was cut. */
function whole(example: string): JsonValue[] {
  try {
    return [parseJson({ name: '', bytes: new TextEncoder().encode(example), firstLine: 1 }).root];
  } catch {
    return [];
  }
}
