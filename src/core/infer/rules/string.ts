import { share, type Rule } from '../rule.js';

/** Text is a string. */
export const string: Rule = {
  name: 'string',
  decide({ facts, total }) {
    if (facts.strings === 0) return undefined;
    return {
      shape: { string: true },
      decision: 'string',
      because: `text in ${share(facts.strings, total)}`,
      first: facts.firstString,
    };
  },
};
