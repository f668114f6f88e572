import { json, type JsonValue } from '../core/json/value.js';
import type { SchemaChange } from '../core/update/update.js';
import { markToJson } from './mark-json.js';

export function changeToJson({ place, was, now, because, first }: SchemaChange): JsonValue {
  return json.object([
    ['place', json.string(place)],
    ['was', json.string(was)],
    ['now', json.string(now)],
    ['because', json.string(because)],
    ['first', markToJson(first)],
  ]);
}
