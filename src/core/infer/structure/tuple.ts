import { kindsAt, type StructureRule } from './structure-rule.js';

/** Fewer lists say too little about their length. */
const fewestLists = 3;

/**
 * Lists of one length whose positions differ in kind, each position of one kind throughout, are tuples. Positions
 * of the same kind, such as those of coordinates, make a plain list.
 */
export const tuple: StructureRule = {
  name: 'tuple',
  decide(node) {
    const { positions, facts } = node;
    if (
      positions === undefined ||
      positions.length < 2 ||
      facts.lists - facts.emptyLists < fewestLists ||
      facts.emptyLists > 0
    )
      return undefined;
    const kinds = positions.map((each) => kindsAt(each.self()));
    if (kinds.some((kind) => kind === '' || kind.includes('|')) || new Set(kinds).size === 1)
      return undefined;
    return {
      decision: `a tuple of ${kinds.join(', ')}`,
      because: `all ${facts.lists} lists have ${positions.length} elements, and each position is of one kind`,
      first: facts.firstList,
      doubt: 1 / facts.lists,
    };
  },
};
