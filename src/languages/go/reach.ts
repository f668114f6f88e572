import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { positionName } from './emit.js';
import { go, keywords } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: keywords,
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
      ifThere: (here, { isBoth, item }) => {
        if (!isBoth) return { line: `if ${here} != nil {`, here };
        const name = item();
        return { line: `if ${name}, ok := ${here}.Get(); ok {`, here: name };
      },
      position: (here, index) => `${here}.${positionName(index)}`,
      ifArm: (here, type, _, { union, index, item }) => {
        const { heldBy, arms } = names.get(union)!.union!;
        const held = `${type.kind === 'record' ? '*' : ''}${arms[index]!}`;
        const name = item();
        return { line: `if ${name}, ok := ${here}.${heldBy}.(${held}); ok {`, here: name };
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
