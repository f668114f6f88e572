import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { positionName } from '../java/spelling.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { kotlin } from './emit.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set(
    'class do else for fun if in is object package return this val var when while'.split(' '),
  ),
  indent: '    ',
  close: '}',
  end: '',
};

/** Lines that reach a place through generated data classes. */
export function reachKotlin(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for (${item} in ${here}${of === 'list' ? '' : '.values'}) {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here) => ({ line: `if (${here} != null) {`, here }),
      position: (here, index) => `${here}.${positionName(index)}`,
      ifArm: (here, type, name) => ({
        line: `if (${here} is ${name ?? (type.kind === 'map' ? 'Map' : 'List')}) {`,
        here: name === undefined ? `${here}.value` : here,
      }),
    },
    root,
    steps,
    names,
  );
}

/** The same through Jackson's JsonNode. */
export function plainKotlin(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (_of, item, here) => `for (${item} in ${here}) {`,
      key: (here, key) => `${here}[${kotlin(key)}]`,
    },
    root,
    steps,
  );
}
