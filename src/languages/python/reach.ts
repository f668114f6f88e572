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

/** The same through structs of msgspec, whose absent values are false. What it has no types for is a dict. */
export const reachMsgspec = reachWith((here) => here);

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
    const isInside = i < steps.length - 1;
    switch (step.kind) {
      case 'field': {
        const name = names.get(step.record)!.fields.get(step.key);
        const around = here;
        here = name === undefined ? `${around}[${quoted(step.key)}]` : `${around}.${name}`;
        if (step.mayLack && isInside)
          open(`if ${name === undefined ? `${around}.get(${quoted(step.key)})` : isThere(here)}:`);
        break;
      }
      case 'each': {
        const item = loops.take(step.word);
        open(step.of === 'list' ? `for ${item} in ${here}:` : `for key, ${item} in ${here}.items():`);
        here = item;
        if (step.mayLack && isInside) open(`if ${here}:`);
        break;
      }
      case 'position':
        here = `${here}[${step.index}]`;
        break;
      case 'arm':
        open(`if ${isArm(here, step, names)}:`);
    }
  });
  lines.push(`${'    '.repeat(depth)}${here}`);
  return lines.join('\n');
}

/** A test that a value is of an alternative: its class, or where that is a dict what is in it. */
function isArm(
  here: string,
  { type, test }: Extract<ReachStep, { kind: 'arm' }>,
  names: Emitted['names'],
): string {
  if (type.kind !== 'record') {
    const kind = type.kind === 'list' ? 'list' : type.kind === 'tuple' ? 'tuple' : 'dict';
    return `isinstance(${here}, ${kind})`;
  }
  const name = names.get(type.name)!.type;
  if (name !== 'dict' || test.kind === 'json') return `isinstance(${here}, ${name})`;
  if (test.kind === 'key') return `${quoted(test.key)} in ${here}`;
  const words = test.values.map(quoted);
  return `${here}[${quoted(test.key)}] ${words.length === 1 ? `== ${words[0]!}` : `in (${words.join(', ')})`}`;
}

function quoted(text: string): string {
  return literal(text, { quote: '"', short: { '\n': '\\n' }, unit: (code) => `\\u${hex(code, 4)}` });
}

/** The same through what json.loads returns. */
export function plainPython(root: string, steps: readonly PlainStep[]): string {
  const loops = new LoopNames(snakeCase, reserved);
  const lines: string[] = [];
  let depth = 0;
  let here = loops.take(identifier(root, snakeCase));
  for (const step of steps) {
    if (step.kind === 'key') {
      here = `${here}[${quoted(step.key)}]`;
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
