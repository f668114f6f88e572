import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { kotlin, positions } from './spelling.js';

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
      ifThere: (here, { isBoth, item }) => {
        const inner = item();
        return { line: `${here}${isBoth ? '.value' : ''}?.let { ${inner} ->`, here: inner };
      },
      position: (here, index) => `${here}.${positions[index]!}`,
      ifArm: (here, type, _, { union, index, item }) => {
        const { type: Union, union: own } = names.get(union)!;
        const inner = item();
        const arm = own!.arms[index]!;
        const isRecord = type.kind === 'record';
        return {
          line: `(${here} as? ${isRecord ? arm : `${Union}.${arm}`})?.let { ${inner} ->`,
          here: isRecord ? inner : `${inner}.value`,
        };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through a tree of JsonElement. */
export function plainKotlin(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (of, item, here) =>
        of === 'list'
          ? `for (${item} in (${here} as? JsonArray).orEmpty()) {`
          : `for (${item} in (${here} as? JsonObject).orEmpty().values) {`,
      key: (here, key) => `(${here} as? JsonObject)?.get(${kotlin(key)})`,
    },
    root,
    steps,
  );
}
