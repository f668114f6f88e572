import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase, identifier } from '../kit/names.js';
import { LoopNames } from '../kit/reach.js';
import { quoted } from './source.js';

const reserved = new Set([
  'class',
  'import',
  'in',
  'is',
  'for',
  'if',
  'new',
  'default',
  'delete',
  'function',
  'this',
  'var',
  'with',
  'const',
  'let',
]);

/** Lines that reach a place through generated classes or interfaces, lists as loops. */
export function reachTypeScript(
  root: string,
  steps: readonly ReachStep[],
  names: Emitted['names'],
  classes: boolean,
): string {
  const loops = new LoopNames(camelCase, reserved);
  const lines: string[] = [];
  let here = loops.take(identifier(root, camelCase));
  let mayLack = false;
  const open = (text: string) => lines.push(`${'  '.repeat(lines.length)}${text} {`);
  for (const step of steps) {
    switch (step.kind) {
      case 'field':
        here = member(here, names.get(step.record)!.fields.get(step.key)!, mayLack);
        mayLack ||= step.mayLack;
        break;
      case 'each': {
        const item = loops.take(step.word);
        const all = mayLack ? `${here} ?? ${step.of === 'list' ? '[]' : '{}'}` : here;
        open(
          step.of === 'list'
            ? `for (const ${item} of ${all})`
            : `for (const [key, ${item}] of Object.entries(${all}))`,
        );
        here = item;
        mayLack = step.mayLack;
        break;
      }
      case 'position':
        here = `${here}${mayLack ? '?.' : ''}[${step.index}]`;
        break;
      case 'arm':
        open(`if (${armTest(step, here, names, classes)})`);
        mayLack = false;
    }
  }
  return closed(lines, here);
}

function armTest(
  step: ReachStep & { kind: 'arm' },
  here: string,
  names: Emitted['names'],
  classes: boolean,
): string {
  const { type, test } = step;
  if (type.kind === 'list' || type.kind === 'tuple') return `Array.isArray(${here})`;
  if (type.kind !== 'record') return `typeof ${here} === "object"`;
  const record = names.get(type.name)!;
  if (classes) return `${here} instanceof ${record.type}`;
  if (test.kind === 'tag')
    return test.values
      .map((value) => `${member(here, record.fields.get(test.key)!)} === ${quoted(value)}`)
      .join(' || ');
  if (test.kind === 'key') return `${quoted(record.fields.get(test.key)!)} in ${here}`;
  return `typeof ${here} === "object"`;
}

/** A property of a value. @param mayLack whether the value may */
function member(value: string, key: string, mayLack = false): string {
  if (/^[\p{L}\p{Nl}_$][\p{L}\p{Nl}\p{Mn}\p{Mc}\p{Nd}\p{Pc}_$]*$/u.test(key))
    return `${value}${mayLack ? '?.' : '.'}${key}`;
  return `${value}${mayLack ? '?.' : ''}[${quoted(key)}]`;
}

/** The same through what JSON.parse returns. */
export function plainTypeScript(root: string, steps: readonly PlainStep[]): string {
  const loops = new LoopNames(camelCase, reserved);
  const lines: string[] = [];
  let here = loops.take(identifier(root, camelCase));
  for (const step of steps) {
    if (step.kind === 'key') {
      here = member(here, step.key);
      continue;
    }
    const item = loops.take(step.word);
    const loop =
      step.of === 'list'
        ? `for (const ${item} of ${here})`
        : `for (const [key, ${item}] of Object.entries(${here}))`;
    lines.push(`${'  '.repeat(lines.length)}${loop} {`);
    here = item;
  }
  return closed(lines, here);
}

function closed(lines: readonly string[], here: string): string {
  const inner = `${'  '.repeat(lines.length)}${here};`;
  return [...lines, inner, ...lines.map((_, i) => `${'  '.repeat(lines.length - 1 - i)}}`)].join('\n');
}
