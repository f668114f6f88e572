import type { IntegerWidth } from '../../json/number.js';
import { share, type Rule } from '../rule.js';

const reach: Readonly<Record<IntegerWidth, string>> = {
  int32: 'all within 32 bits',
  'double-int': 'beyond 32 bits, within the 53 that a double carries',
  int64: 'beyond 2^53, within 64 bits',
  unbounded: 'beyond 64 bits',
};

/** Numbers that were all written without fraction and exponent are integers of the narrowest width that holds them. */
export const integer: Rule = {
  name: 'integer',
  decide({ facts, total }) {
    if (facts.integers === 0 || facts.decimals > 0) return undefined;
    const wide = facts.width === 'int32' ? '' : `, such as ${facts.firstWide!.example}`;
    return {
      shape: { integer: facts.width },
      decision: facts.width === 'unbounded' ? 'integer' : `integer (${facts.width})`,
      because: `whole numbers in ${share(facts.integers, total)}, ${reach[facts.width]}${wide}`,
      first: facts.width === 'int32' ? facts.firstInteger : facts.firstWide,
    };
  },
};
