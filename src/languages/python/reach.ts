import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { identifier, snakeCase } from '../kit/names.js';
import { LoopNames } from '../kit/reach.js';
import { hex, literal } from '../kit/text.js';

const reserved = new Set([
  'class',
  'from',
  'import',
  'in',
  'is',
  'for',
  'if',
  'def',
  'pass',
  'and',
  'or',
  'not',
  'with',
  'as',
  'list',
  'dict',
  'str',
  'int',
]);

/** Lines that reach a place through generated dataclasses, lists as loops. */
export const reachPython = reachWith((here) => here);

/** The same through models of pydantic, whose MISSING is no false value. */
export const reachPydantic = reachWith((here) => `${here} is not MISSING and ${here}`);

/** @param isThere a test that a value which may lack is there */
function reachWith(
  isThere: (here: string) => string,
): (root: string, steps: readonly ReachStep[], names: Emitted['names']) => string {
  return (root, steps, names) => reachLines(isThere, root, steps, names);
}

function reachLines(
  isThere: (here: string) => string,
  root: string,
  steps: readonly ReachStep[],
  names: Emitted['names'],
): string {
  const loops = new LoopNames(snakeCase, reserved);
  const lines: string[] = [];
  let depth = 0;
  let here = loops.take(identifier(root, snakeCase));
  const open = (text: string) => lines.push(`${'    '.repeat(depth++)}${text}`);
  steps.forEach((step, i) => {
    switch (step.kind) {
      case 'field':
        here = `${here}.${names.get(step.record)!.fields.get(step.key)!}`;
        if (step.mayLack && i < steps.length - 1) open(`if ${isThere(here)}:`);
        break;
      case 'each': {
        const item = loops.take(step.word);
        open(step.of === 'list' ? `for ${item} in ${here}:` : `for key, ${item} in ${here}.items():`);
        here = item;
        if (step.mayLack && i < steps.length - 1) open(`if ${here}:`);
        break;
      }
      case 'position':
        here = `${here}[${step.index}]`;
        break;
      case 'arm':
        if (step.type.kind === 'record') open(`if isinstance(${here}, ${names.get(step.type.name)!.type}):`);
        else
          open(
            `if isinstance(${here}, ${step.type.kind === 'list' ? 'list' : step.type.kind === 'tuple' ? 'tuple' : 'dict'}):`,
          );
    }
  });
  lines.push(`${'    '.repeat(depth)}${here}`);
  return lines.join('\n');
}

/** The same through what json.loads returns. */
export function plainPython(root: string, steps: readonly PlainStep[]): string {
  const loops = new LoopNames(snakeCase, reserved);
  const lines: string[] = [];
  let depth = 0;
  let here = loops.take(identifier(root, snakeCase));
  for (const step of steps) {
    if (step.kind === 'key') {
      here = `${here}[${literal(step.key, { quote: '"', short: { '\n': '\\n' }, unit: (code) => `\\u${hex(code, 4)}` })}]`;
      continue;
    }
    const item = loops.take(step.word);
    lines.push(
      `${'    '.repeat(depth++)}for ${step.of === 'list' ? item : `key, ${item}`} in ${here}${step.of === 'list' ? '' : '.items()'}:`,
    );
    here = item;
  }
  return [...lines, `${'    '.repeat(depth)}${here}`].join('\n');
}
