import { share, type Rule } from '../rule.js';

/** true and false are a boolean. */
export const boolean: Rule = {
  name: 'boolean',
  decide({ facts, total }) {
    const { trues, falses } = facts;
    if (trues + falses === 0) return undefined;
    return {
      shape: { boolean: true },
      decision: 'boolean',
      because:
        trues > 0 && falses > 0
          ? `true in ${trues} and false in ${falses} of ${total}`
          : `${trues > 0 ? 'true' : 'false'} in ${share(trues + falses, total)}`,
      first: facts.firstBoolean,
    };
  },
};
