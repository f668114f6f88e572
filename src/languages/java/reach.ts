import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { java, positionName } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set(
    'case class default do else enum final for if import int long new package return switch this try var void'.split(
      ' ',
    ),
  ),
  indent: '  ',
  close: '}',
  end: ';',
};

/** Lines that reach a place through generated records. */
export function reachJava(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for (var ${item} : ${here}${of === 'list' ? '' : '.values()'}) {`,
      field: (here, name) => `${here}.${name}()`,
      ifThere: (here, { isBoth }) =>
        isBoth
          ? { line: `if (${here}.get() != null) {`, here: `${here}.get()` }
          : { line: `if (${here} != null) {`, here },
      position: (here, index) => `${here}.${positionName(index)}()`,
      ifArm: (here, type, _, { union, index, item }) => {
        const { arms } = names.get(union)!.union!;
        const { type: Union, fields } = names.get(union)!;
        const isRecord = fields.size > 0 || [...names.values()].some((each) => each.type === arms[index]);
        const inner = item();
        return isRecord && type.kind === 'record'
          ? { line: `if (${here} instanceof ${arms[index]!} ${inner}) {`, here: inner }
          : { line: `if (${here} instanceof ${Union}.${arms[index]!} ${inner}) {`, here: `${inner}.value()` };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through Jackson's JsonNode. */
export function plainJava(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (_of, item, here) => `for (var ${item} : ${here}) {`,
      key: (here, key) => `${here}.path(${java(key)})`,
    },
    root,
    steps,
  );
}
