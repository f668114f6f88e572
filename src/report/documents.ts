import { json, type JsonValue } from '../core/json/value.js';
import type { ProvenDocuments } from '../core/roundtrip/document.js';
import type { Terminal } from './terminal.js';
import { visible } from './visible.js';

/** Whether documents that are not JSON came back as they were, and where they did not. */
export function renderDocuments({ documents, losses }: ProvenDocuments, { colours }: Terminal): string {
  const count = documents === 1 ? '1 document' : `${documents} documents`;
  if (losses.length === 0) return colours.good(`${count}, written again from what was read: the same`);
  const lines = losses.flatMap(({ place: { file, line, column }, message }) => [
    `  ${colours.name(visible(`${file}:${line}:${column}`))}`,
    `    ${visible(message)}`,
  ]);
  return `${colours.bad(`${count}, written again from what was read: ${losses.length} not the same`)}\n${lines.join('\n')}`;
}

export function documentsToJson({ documents, losses }: ProvenDocuments): JsonValue {
  return json.object([
    ['count', json.number(documents)],
    [
      'losses',
      json.list(
        losses.map(({ place: { file, line, column }, message }) =>
          json.object([
            ['payload', json.string(file)],
            ['line', json.number(line)],
            ['column', json.number(column)],
            ['message', json.string(message)],
          ]),
        ),
      ),
    ],
  ]);
}
