import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { scala } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'end'> = {
  casing: camelCase,
  reserved: new Set(
    'case class def do else for if match new object package return then this type val var while with yield'.split(
      ' ',
    ),
  ),
  indent: '  ',
  end: '',
};

/** Lines that reach a place through generated case classes. */
export function reachScala(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for ${item} <- ${here}${of === 'list' ? '' : '.values'} do`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here, { isBoth, item }) => {
        const inner = item();
        return { line: `for ${inner} <- ${here}${isBoth ? '.toOption' : ''} do`, here: inner };
      },
      position: (here, index) => `${here}._${index + 1}`,
      ifArm: (here, _type, _, { union, index, item }) => {
        const { type: Union, fields, union: own } = names.get(union)!;
        const inner = item();
        const arm = own!.arms[index]!;
        const isTagged = fields.size > 0 || [...names.values()].some((each) => each.type === arm);
        return {
          line: `for case ${isTagged ? `${inner}: ${arm}` : `${Union}.${arm}(${inner})`} <- Some(${here}) do`,
          here: inner,
        };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through a tree of Jackson, since the library has none. */
export function plainScala(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (_of, item, here) => `for ${item} <- ${here}.asScala do`,
      key: (here, key) => `${here}.path(${scala(key)})`,
    },
    root,
    steps,
  );
}
