import { formatOfWidth, integerWidthOf, widerOf, type IntegerWidth } from '../../json/number.js';
import type { Place } from '../../observe/observation.js';
import { share, type Decided, type Rule } from '../rule.js';
import { contradicts, type Steer } from '../said.js';

const reach: Readonly<Record<IntegerWidth, string>> = {
  int32: 'all far within 32 bits',
  'double-int': 'beyond 2^27, within the 53 bits that a double carries',
  int64: 'beyond 2^53, within 64 bits',
  unbounded: 'beyond 64 bits',
};

/** Last words of keys whose numbers are given out one after another, or measure what is stored. */
const growing = new Set(
  'id ids identifier bytes size filesize timestamp epoch ms millis micros nanos'.split(' '),
);

function asDecided(
  decided: Steer,
  { integers, decimals, width, firstDecimal, firstInteger, firstWide }: Place,
): Decided {
  if (decimals > 0) contradicts(decided, 'there is a number with a fraction or an exponent', firstDecimal);
  if (integers === 0) contradicts(decided, 'there is no whole number');
  const wanted = decided.value as IntegerWidth;
  const least = integerWidthOf(firstWide!.example);
  if (widerOf(wanted, least) !== wanted) contradicts(decided, `there is ${firstWide!.example}`, firstWide);
  return {
    shape: { integer: wanted },
    decision: `integer (${wanted})`,
    because: decided.source,
    doubt: 0,
    first: width === 'int32' ? firstInteger : firstWide,
  };
}

/**
 * Numbers that were all written without fraction and exponent are integers of the narrowest width that holds them with
 * room to grow. Identifiers, sizes and times in units of a clock get 53 bits however small they are so far.
 */
export const integer: Rule = {
  name: 'integer',
  decide({ facts, total, key, said }) {
    const decided = said.get('width');
    if (decided !== undefined) return asDecided(decided, facts);
    if (facts.integers === 0 || facts.decimals > 0) return undefined;
    const isGrowing = facts.width === 'int32' && growing.has(key?.at(-1) ?? '');
    const width = isGrowing ? 'double-int' : facts.width;
    const because = isGrowing
      ? `, small so far, but ${key!.at(-1)} grows beyond 32 bits`
      : `, ${reach[width]}${width === 'int32' ? '' : `, such as ${facts.firstWide!.example}`}`;
    return {
      shape: { integer: width },
      decision: `integer (${formatOfWidth(width)})`,
      because: `whole numbers in ${share(facts.integers, total)}${because}`,
      first: facts.width === 'int32' ? facts.firstInteger : facts.firstWide,
    };
  },
};
