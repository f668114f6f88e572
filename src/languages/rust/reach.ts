import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { identifier, snakeCase } from '../kit/names.js';
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
      loop: (of, item, here) => {
        // What a pattern or another loop gave is a reference already.
        const isReference = /^\w+$/.test(here) && here !== identifier(root, snakeCase);
        return `for ${of === 'list' ? item : `(key, ${item})`} in ${isReference ? '' : '&'}${here} {`;
      },
      field: (here, name) => `${here}.${name}`,
      ifThere: (here, { isBoth }) => {
        const name = here.replace(/.*\W/, '');
        return { line: `if let Some(${name}) = ${isBoth ? `${here}.get()` : `&${here}`} {`, here: name };
      },
      position: (here, index) => `${here}.${index}`,
      ifArm: (here, _, __, { union, index, item, field }) => {
        const { heldBy, arms, isFields } = names.get(union)!.union!;
        const held = heldBy === '' ? here : `${here}.${heldBy}`;
        if (isFields && field !== undefined)
          return { line: `if let ${arms[index]!} { ${field}, .. } = &${held} {`, here: field, isField: true };
        const name = item();
        return { line: `if let ${arms[index]!}(${name}) = &${held} {`, here: name };
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
