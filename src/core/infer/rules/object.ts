import { share, type Rule } from '../rule.js';

/** An object is a record of the keys that were seen, or open to any as long as it never had one. */
export const object: Rule = {
  name: 'object',
  decide({ facts, total, isMap }) {
    if (facts.objects === 0) return undefined;
    if (isMap) return { shape: { object: 'map' }, decision: '', because: '' };
    if (facts.emptyObjects === facts.objects) {
      return {
        shape: { object: 'open' },
        decision: 'object of anything',
        because: `without keys in ${share(facts.objects, total)}`,
        first: facts.firstObject,
      };
    }
    const empty = facts.emptyObjects > 0 ? `, without keys in ${facts.emptyObjects}` : '';
    return {
      shape: { object: 'record' },
      decision: 'record',
      because: `an object in ${share(facts.objects, total)}${empty}`,
      first: facts.firstObject,
    };
  },
};
