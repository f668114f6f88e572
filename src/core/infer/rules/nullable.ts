import type { Use } from '../graph.js';
import { share, type Decided } from '../rule.js';

/**
 * A place is nullable when null was seen there at least once, whatever was seen elsewhere of the same type. Where
 * nothing but null was seen, the place may hold anything.
 */
export function nullable({ nulls, total, firstNull, said }: Use): Decided | undefined {
  const decided = said.get('nullable');
  if (decided !== undefined && nulls === 0)
    return { shape: {}, decision: 'nullable', because: decided.source, doubt: 0 };
  if (nulls === 0) return undefined;
  return {
    shape: {},
    decision: nulls === total ? 'anything' : 'nullable',
    because: `null in ${share(nulls, total)}${nulls === total ? ': nothing else was seen' : ''}`,
    first: firstNull,
  };
}
