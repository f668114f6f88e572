import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { php } from './text.js';

const variables = {
  ...camelCase,
  join: (words: readonly string[]) => `$${camelCase.join(words)}`,
  fallback: '$item',
};

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end' | 'loop'> = {
  casing: variables,
  reserved: new Set(['$this']),
  indent: '    ',
  close: '}',
  end: ';',
  loop: (of, item, here) => `foreach (${here} as ${of === 'list' ? item : `$key => ${item}`}) {`,
};

/** Lines that reach a place through generated classes. */
export function reachPhp(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      field: (here, name) => `${here}->${name}`,
      ifThere: (here) => ({ line: `if (is_object(${here}) || is_array(${here})) {`, here }),
      position: (here, index) => `${here}[${index}]`,
      ifArm: (here, _type, name) => ({
        line: name !== undefined ? `if (${here} instanceof ${name}) {` : `if (is_array(${here})) {`,
        here,
      }),
    },
    root,
    steps,
    names,
  );
}

/** The same through what json_decode returns. */
export function plainPhp(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      key: (here, key) => (/^[A-Za-z_]\w*$/.test(key) ? `${here}->${key}` : `${here}->{${php(key)}}`),
    },
    root,
    steps,
  );
}
