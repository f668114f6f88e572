import { LineCounter, parseDocument, type Node } from 'yaml';
import { SkevoError } from '../core/error.js';
import type { Steer } from '../core/infer/said.js';
import { steersOf } from '../core/infer/steering.js';

/**
 * The decisions of a file: a map from places to what is decided about them, in YAML or JSON.
 * @param name what the file is called, for errors
 * @throws SkevoError with the line of what nobody can decide
 */
export function readDecisions(text: string, name: string): Steer[] {
  const lineCounter = new LineCounter();
  const document = parseDocument(text, { lineCounter, uniqueKeys: true });
  const at = (offset: number): string => `${name}:${lineCounter.linePos(offset).line}`;
  const [error] = document.errors;
  if (error !== undefined)
    throw new SkevoError(
      `${at(error.pos[0])}: ${error.message.split(/ at line |\n/)[0]!}`,
      'The file is YAML, or JSON.',
    );
  const decisions: unknown = document.toJS();
  if (typeof decisions !== 'object' || decisions === null || Array.isArray(decisions))
    throw new SkevoError(
      `${name} has no decisions`,
      'It is a map from places to decisions: /state: { choice: open }',
    );
  return steersOf(decisions, (place) =>
    at((document.getIn([place], true) as Node | undefined)?.range?.[0] ?? 0),
  );
}
