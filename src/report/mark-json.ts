import { json, type JsonValue } from '../core/json/value.js';
import type { Mark } from '../core/observe/mark.js';

export function markToJson({ file, line, column }: Mark): JsonValue {
  return json.object([
    ['file', json.string(file)],
    ['line', json.number(line)],
    ['column', json.number(column)],
  ]);
}
