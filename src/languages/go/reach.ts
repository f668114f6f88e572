import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { go } from './emit.js';
import { positionName } from './helpers.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set('case const default for func go if import map package range return type var'.split(' ')),
  indent: '\t',
  close: '}',
  end: '',
};

/** Lines that reach a place through generated structs. */
export function reachGo(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for ${of === 'list' ? '_' : 'key'}, ${item} := range ${here} {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here) => ({ line: `if ${here} != nil {`, here: `(*${here})` }),
      position: (here, index) => `${here}.${positionName(index)}`,
      ifArm: (here, type, name) => {
        const arm = `${here}.${name ?? (type.kind === 'map' ? 'Map' : 'List')}`;
        return { line: `if ${arm} != nil {`, here: name === undefined ? `(*${arm})` : arm };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through what json.Unmarshal puts into an `any`. */
export function plainGo(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (of, item, here) =>
        of === 'list'
          ? `for _, ${item} := range ${here}.([]any) {`
          : `for key, ${item} := range ${here}.(map[string]any) {`,
      key: (here, key) => `${here}.(map[string]any)[${go(key)}]`,
    },
    root,
    steps,
  );
}
