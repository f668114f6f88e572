import { share, type Rule } from '../rule.js';

/** A place is nullable when null was seen there at least once. */
export const nullable: Rule = {
  name: 'nullable',
  decide({ facts, total }) {
    if (facts.nulls === 0) return undefined;
    return {
      shape: { nullable: true },
      decision: facts.nulls === total ? 'null' : 'nullable',
      because: `null in ${share(facts.nulls, total)}`,
      first: facts.firstNull,
    };
  },
};
