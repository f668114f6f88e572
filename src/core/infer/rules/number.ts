import { share, type Rule } from '../rule.js';

/**
 * A number written with a fraction or an exponent makes the place a number; digits that a double does not
 * carry, in a decimal or in an integer beside it, make it an exact decimal.
 */
export const number: Rule = {
  name: 'number',
  decide({ facts, total }) {
    if (facts.decimals === 0) return undefined;
    const wideInteger = facts.integers > 0 && (facts.width === 'int64' || facts.width === 'unbounded');
    const exact = facts.exact > 0 || wideInteger;
    const whole = facts.integers > 0 ? `, whole in ${facts.integers}` : '';
    const because = `a fraction or exponent in ${share(facts.decimals, total)}${whole}`;
    if (!exact)
      return { shape: { number: 'double' }, decision: 'number', because, first: facts.firstDecimal };
    const witness = facts.exact > 0 ? facts.firstExact! : facts.firstWide!;
    return {
      shape: { number: 'exact' },
      decision: 'number (decimal)',
      because: `${because}; a double does not carry ${witness.example}`,
      first: witness,
    };
  },
};
