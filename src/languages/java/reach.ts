import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import { capitalised } from '../../core/words.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { java, type JavaStyle } from './emit.js';
import { positionName } from './helpers.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set(
    'case class default do else enum final for if import int long new package return switch this try var void'.split(
      ' ',
    ),
  ),
  indent: '    ',
  close: '}',
  end: ';',
};

/** Lines that reach a place through generated records or classes. */
export function reachJava(
  style: JavaStyle,
  root: string,
  steps: readonly ReachStep[],
  names: Emitted['names'],
): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `for (var ${item} : ${here}${of === 'list' ? '' : '.values()'}) {`,
      field: (here, name) => (style === 'record' ? `${here}.${name}()` : `${here}.get${capitalised(name)}()`),
      ifThere: (here) => ({ line: `if (${here} != null) {`, here }),
      position: (here, index) => `${here}.${positionName(index)}()`,
      ifArm: (here, type, name) => {
        const arm = name ?? (type.kind === 'map' ? 'Map' : 'List');
        const inner = `${arm.charAt(0).toLowerCase()}${arm.slice(1)}`;
        return {
          line: `if (${here} instanceof ${arm} ${inner}) {`,
          here: name === undefined ? `${inner}.value()` : inner,
        };
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
