import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { scala } from './emit.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set(
    'case class def do else for if new object package return this type val var while with'.split(' '),
  ),
  indent: '  ',
  close: '}',
  end: '',
};

/** Lines that reach a place through generated case classes. */
export function reachScala(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for (${item} <- ${here}${of === 'list' ? '' : '.values'}) {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here) => {
        const name = here.replace(/.*\W/, '');
        return { line: `for (${name} <- ${here}) {`, here: name };
      },
      position: (here, index) => `${here}._${index + 1}`,
      ifArm: (here, type, name) => ({
        line: `${here} match { case ${name === undefined ? `${type.kind === 'map' ? 'Map' : 'List'}(inner)` : `record: ${name}`} =>`,
        here: name === undefined ? 'inner' : 'record',
      }),
    },
    root,
    steps,
    names,
  );
}

/** The same through Jackson's JsonNode. */
export function plainScala(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (_of, item, here) => `${here}.forEach { ${item} =>`,
      key: (here, key) => `${here}.path(${scala(key)})`,
    },
    root,
    steps,
  );
}
