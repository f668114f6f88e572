import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { snakeCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { rust } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: snakeCase,
  reserved: new Set('as enum fn for if impl in let match mod move mut ref self type use where'.split(' ')),
  indent: '    ',
  close: '}',
  end: ';',
};

/** Lines that reach a place through generated structs. */
export function reachRust(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for ${of === 'list' ? item : `(key, ${item})`} in &${here} {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here) => {
        const name = here.replace(/.*\W/, '');
        return { line: `if let Some(${name}) = &${here} {`, here: name };
      },
      position: (here, index) => `${here}.${index}`,
      ifArm: (here, type, name) => {
        const arm = name ?? (type.kind === 'map' ? 'Map' : 'List');
        const inner = name === undefined ? 'inner' : name.replace(/(?<!^)(?=[A-Z])/g, '_').toLowerCase();
        return { line: `if let ${arm}(${inner}) = &${here} {`, here: inner };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through a serde_json::Value. */
export function plainRust(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (of, item, here) =>
        of === 'list'
          ? `for ${item} in ${here}.as_array().into_iter().flatten() {`
          : `for (key, ${item}) in ${here}.as_object().into_iter().flatten() {`,
      key: (here, key) => `${here}[${rust(key)}]`,
    },
    root,
    steps,
  );
}
