import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase, identifier } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { positions, swift } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set('class do else for func if in is init let return self var while'.split(' ')),
  indent: '    ',
  close: '}',
  end: '',
};

/** Lines that reach a place through generated structs. */
export function reachSwift(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for ${item} in ${here}${of === 'list' ? '' : '.values'} {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here) => {
        const name = here.split('.').at(-1)!;
        return { line: `if let ${name} = ${here} {`, here: name };
      },
      position: (here, index) => `${here}.${positions[index]!}`,
      ifArm: (here, type, name) => {
        const arm = identifier(name ?? (type.kind === 'map' ? 'map' : 'list'), camelCase);
        return { line: `if case .${arm}(let ${arm}) = ${here} {`, here: arm };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through a tree of JSONValue. */
export function plainSwift(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (of, item, here) =>
        of === 'list'
          ? `for ${item} in ${here} as? [Any] ?? [] {`
          : `for ${item} in (${here} as? [String: Any] ?? [:]).values {`,
      key: (here, key) => `(${here} as? [String: Any])?[${swift(key)}]`,
    },
    root,
    steps,
  );
}
