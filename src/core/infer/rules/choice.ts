import type { Rule } from '../rule.js';

/** A choice has at most so many values. */
const mostValues = 24;
/** On the mean every value came at least so often. */
const leastRepetition = 3;
/** Values that begin with a capital are names of something unless they are repeated so often. */
const leastRepetitionOfNames = 20;
/** A choice is closed when no value came once only in at least so many. */
const fewestForClosed = 30;

/** Last words of keys that name, count or point at things: their values are no choice however few were seen. */
const naming = new Set(
  'id ids uuid key name title label text note comment description ref reference href url path email phone address code number no token hash version date time at by from to station pier place city user author'.split(
    ' ',
  ),
);

/**
 * Strings that look like words of a program and repeat are a choice. Names, ids, dates and free text never are.
 * The set is closed when nothing suggests a value not seen yet: the chance that the next one is new is about the
 * share of values seen once (Good 1953). Otherwise it is open, and other values survive.
 */
export const choice: Rule = {
  name: 'choice',
  decide({ facts, key, choices }) {
    const { tokens, strings, formats } = facts;
    if (choices === 'none' || strings === 0 || tokens === undefined) return undefined;
    const values = [...tokens.byText.values()];
    if (values.length < 2 || values.length > mostValues || strings < leastRepetition * values.length)
      return undefined;
    if (formats !== 0) return undefined;
    if (key !== undefined && naming.has(key.at(-1) ?? '')) return undefined;
    const texts = values.map(({ text }) => text);
    if (texts.some((text) => /\d/.test(text) || /[./]/.test(text) || text.length > 32)) return undefined;
    const names = texts.filter((text) => /^[A-Z][a-z]/.test(text));
    if (names.length > 0 && strings < leastRepetitionOfNames * values.length) return undefined;
    // One letter is an abbreviation of anything.
    if (texts.every((text) => text.length === 1) && strings < leastRepetitionOfNames * values.length)
      return undefined;

    const single = values.filter(({ count }) => count === 1).length;
    const closed = choices === 'closed' || (choices !== 'open' && single === 0 && strings >= fewestForClosed);
    const because = closed
      ? `${values.length} words in ${strings} texts, each more than once: a new one is unlikely`
      : `${values.length} words in ${strings} texts, ${single > 0 ? `${single} of them once only` : 'too few to rule out others'}`;
    return {
      shape: { choice: { values: [...texts].sort(), closed } },
      decision: `${closed ? 'closed' : 'open'} choice`,
      because,
      first: facts.firstString,
    };
  },
};
