import { json, type JsonValue } from '../core/json/value.js';
import type { Failure } from '../core/schema/apply.js';
import type { Terminal } from './terminal.js';
import { visible } from './visible.js';

/** A failure and the file it stands in. */
export interface PlacedFailure extends Failure {
  readonly payload: string;
  readonly line: number;
  readonly column: number;
}

/** One failure: place, pointer, expected and found, and the nearest alternative of a union. */
export function renderFailure(failure: PlacedFailure, { colours }: Terminal): string {
  const place = `${failure.payload}:${failure.line}:${failure.column}`;
  const lines = [
    `${colours.faint(place)}  ${colours.name(visible(failure.pointer) || '(payload)')}`,
    `    expected ${visible(failure.expected)}, found ${colours.bad(visible(failure.found))}`,
  ];
  nearest(failure, '    ', lines, colours);
  return lines.join('\n');
}

function nearest(failure: Failure, indent: string, lines: string[], colours: Terminal['colours']): void {
  if (failure.nearest === undefined) return;
  lines.push(`${indent}closest is ${colours.strong(visible(failure.nearest.alternative))}:`);
  for (const inner of failure.nearest.failures) {
    lines.push(
      `${indent}  ${colours.name(visible(inner.pointer) || '(payload)')} expected ${visible(inner.expected)}, found ${colours.bad(visible(inner.found))}`,
    );
    nearest(inner, `${indent}  `, lines, colours);
  }
}

export function failureToJson(failure: PlacedFailure): JsonValue {
  return json.object([
    ['payload', json.string(failure.payload)],
    ['line', json.number(failure.line)],
    ['column', json.number(failure.column)],
    ...common(failure),
  ]);
}

function common(failure: Failure): [string, JsonValue | undefined][] {
  return [
    ['pointer', json.string(failure.pointer)],
    ['expected', json.string(failure.expected)],
    ['found', json.string(failure.found)],
    ['keyword', json.string(failure.keyword)],
    ['schema', json.string(failure.schemaPointer)],
    [
      'nearest',
      failure.nearest &&
        json.object([
          ['alternative', json.string(failure.nearest.alternative)],
          ['failures', json.list(failure.nearest.failures.map((inner) => json.object(common(inner))))],
        ]),
    ],
  ];
}
