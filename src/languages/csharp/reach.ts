import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Emitted } from '../language.js';
import { camelCase } from '../kit/names.js';
import { plainWith, reachWith, type ReachSyntax } from '../kit/reach.js';
import { cs } from './spelling.js';

const shared: Pick<ReachSyntax, 'casing' | 'reserved' | 'indent' | 'close' | 'end'> = {
  casing: camelCase,
  reserved: new Set(
    'as base bool case class const default do double else enum event for if in int is lock long new null object out params ref return string struct switch this using var void while'.split(
      ' ',
    ),
  ),
  indent: '    ',
  close: '}',
  end: ';',
};

/** Lines that reach a place through generated classes. */
export function reachCsharp(root: string, steps: readonly ReachStep[], names: Emitted['names']): string {
  return reachWith(
    {
      ...shared,
      loop: (of, item, here) => `foreach (var ${item} in ${here}${of === 'list' ? '' : '.Values'}) {`,
      field: (here, name) => `${here}.${name}`,
      ifThere: (here, { isBoth }) => {
        const value = isBoth ? `${here}.Value` : here;
        return { line: `if (${value} != null) {`, here: value };
      },
      position: (here, index) => `${here}.Item${index + 1}`,
      ifArm: (here, type, _, { union, index, item }) => {
        const inner = item();
        const line = `if (${here} is ${names.get(union)!.union!.arms[index]!} ${inner}) {`;
        return { line, here: type.kind === 'record' ? inner : `${inner}.Value` };
      },
    },
    root,
    steps,
    names,
  );
}

/** The same through a JToken. */
export function plainCsharp(root: string, steps: readonly PlainStep[]): string {
  return plainWith(
    {
      ...shared,
      loop: (_of, item, here) => `foreach (var ${item} in ${here}.Children()) {`,
      key: (here, key) => `${here}[${cs(key)}]`,
    },
    root,
    steps,
  );
}
