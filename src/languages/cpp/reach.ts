import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { snakeCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { cpp } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: snakeCase,
  reserved: new Set(
    'auto bool case char class const default do double else enum float for if int long new operator return short struct switch this try union using void while'.split(
      ' ',
    ),
  ),
  indent: '    ',
  close: '}',
  end: ';',
};

/** Lines that reach a place through generated structs. */
export function reachCpp(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for (const auto& ${of === 'list' ? item : `[key, ${item}]`} : ${here}) {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here, { isBoth }) =>
        isBoth
          ? { line: `if (${here}.get()) {`, here: `(*${here}.get())` }
          : { line: `if (${here}) {`, here: `(*${here})` },
      position: (here, index) => `std::get<${index}>(${here})`,
      ifArm: (here, _, __, { union, index, item }) => {
        const { heldBy, arms } = names.get(union)!.union!;
        const name = item();
        const held = heldBy === '' ? here : `${here}.${heldBy}`;
        return {
          line: `if (const auto* ${name} = std::get_if<${arms[index]!}>(&${held})) {`,
          here: `(*${name})`,
        };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through a nlohmann::json. */
export function plainCpp(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (_of, item, here) => `for (const auto& ${item} : ${here}) {`,
      key: (here, key) => `${here}[${cpp(key)}]`,
    },
    root,
    steps,
  );
}
