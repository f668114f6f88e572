import { share, type Rule } from '../rule.js';

/** true and false are a boolean. */
export const boolean: Rule = {
  name: 'boolean',
  decide({ facts, total }) {
    const count = facts.trues + facts.falses;
    if (count === 0) return undefined;
    return {
      shape: { boolean: true },
      decision: 'boolean',
      because: `true ${facts.trues} and false ${facts.falses} times in ${share(count, total)}`,
      first: facts.firstBoolean,
    };
  },
};
