import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { snakeCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { r, symbol } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end' | 'loop'> = {
  casing: snakeCase,
  reserved: new Set('if else repeat while function for next break in'.split(' ')),
  indent: '  ',
  close: '}',
  end: '',
  loop: (_of, item, here) => `for (${item} in ${here}) {`,
};

/** Lines that reach a place through generated types. */
export function reachR(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      field: (here, name) => `${here}$${name}`,
      ifThere: (here) => ({ line: `if (is.list(${here})) {`, here }),
      position: (here, index) => `${here}[[${index + 1}]]`,
      ifArm: (here, _type, name) => ({
        line: name === undefined ? `if (is.list(${here})) {` : `if (inherits(${here}, ${r(name)})) {`,
        here,
      }),
    },
    root,
    steps,
    names,
  );
}

/** The same through what parse_json() of jsonlite returns. */
export function plainR(root: string, steps: readonly PlainStep[]): string {
  return plainWith({ ...shared, key: (here, key) => `${here}$${symbol(key)}` }, root, steps);
}
