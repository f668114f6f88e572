import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { snakeCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { ruby } from './text.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end' | 'loop'> = {
  casing: snakeCase,
  reserved: new Set(
    'begin case class def do else end for if in module next nil not or self then when while'.split(' '),
  ),
  indent: '  ',
  close: 'end',
  end: '',
  loop: (of, item, here) => (of === 'list' ? `${here}.each do |${item}|` : `${here}.each_value do |${item}|`),
};

/** Lines that reach a place through generated classes. */
export function reachRuby(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here) => ({ line: `unless ${here}.nil?`, here }),
      position: (here, index) => `${here}[${index}]`,
      ifArm: (here, type, name) => ({
        line: `if ${here}.is_a?(${name ?? (type.kind === 'map' ? 'Hash' : 'Array')})`,
        here,
      }),
    },
    root,
    steps,
    names,
  );
}

/** The same through what JSON.parse returns. */
export function plainRuby(root: string, steps: readonly PlainStep[]): string {
  return plainWith({ ...shared, key: (here, key) => `${here}[${ruby(key)}]` }, root, steps);
}
