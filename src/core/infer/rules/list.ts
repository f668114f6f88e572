import { share, type Rule } from '../rule.js';

/** A list, of unknown elements as long as every one was empty. */
export const list: Rule = {
  name: 'list',
  decide({ facts, total, isTuple }) {
    if (facts.lists === 0) return undefined;
    if (isTuple) return { shape: { list: 'tuple' }, decision: '', because: '' };
    if (facts.emptyLists === facts.lists) {
      return {
        shape: { list: 'untyped' },
        decision: 'list of anything',
        because: `empty in ${share(facts.lists, total)}`,
        first: facts.firstList,
      };
    }
    const empty = facts.emptyLists > 0 ? `, empty in ${facts.emptyLists}` : '';
    return {
      shape: { list: 'typed' },
      decision: 'list',
      because: `a list in ${share(facts.lists, total)}${empty}`,
      first: facts.firstList,
    };
  },
};
