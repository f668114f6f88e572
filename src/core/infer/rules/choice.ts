import { isName } from '../naming-keys.js';
import type { Place } from '../../observe/observation.js';
import { mostTokens } from '../../observe/token.js';
import type { Decided, Rule } from '../rule.js';
import { contradicts, type Steer } from '../said.js';

/** A choice has at most so many values. */
const mostValues = 24;
/** On the mean every value came in at least so many records. */
const leastRepetition = 3;
/** Values that look like names, codes or prose are words only when they are repeated so often. */
const leastRepetitionOfNames = 20;
/** A choice is closed when no value came once only in at least so many records. */
const fewestForClosed = 30;
/** Keys under which one word alone, so often, says what the record is. */
const kinds = new Set(['type', 'kind', 'object']);

/**
 * Strings that look like words of a program and repeat are a choice. Names, ids, dates and free text never are. What
 * counts is distinct records: the same record seen fifty times says its word once.
 * The set is closed when nothing suggests a value not seen yet: the chance that the next one is new is about the
 * share of values seen once (Good 1953). Otherwise it is open, and other values survive.
 */
export const choice: Rule = {
  name: 'choice',
  decide({ facts, key, choices, records, said }) {
    const { tokens, strings, formats } = facts;
    const decided = said.get('choice');
    if (decided !== undefined) return asDecided(decided, facts);
    if (choices === 'none' || strings === 0 || tokens === undefined || formats !== 0) return undefined;
    const seen = Math.min(strings, records ?? strings);
    const values = [...tokens.byText.values()];
    const texts = values.map(({ text }) => text).sort();
    const last = key?.at(-1) ?? '';
    if (values.length === 1) {
      if (!kinds.has(last) || seen < fewestForClosed || choices === 'open' || isProse(texts[0]!))
        return undefined;
      return {
        shape: { choice: { values: texts, closed: true } },
        decision: 'constant',
        because: `the same word in all ${strings} texts`,
        first: facts.firstString,
        doubt: 1 / seen,
        otherwise: 'choice:none',
      };
    }
    if (values.length > mostValues || isName(last) || texts.some(isProse)) return undefined;
    const least =
      texts.some(isOdd) || texts.every((text) => text.length === 1)
        ? leastRepetitionOfNames
        : leastRepetition;
    if (seen < least * values.length || texts.every((text) => /\d/.test(text))) return undefined;

    const single = values.filter(({ count }) => count === 1).length;
    const closed = choices === 'closed' || (choices !== 'open' && single === 0 && seen >= fewestForClosed);
    const where = seen < strings ? `${strings} texts of ${seen} records` : `${strings} texts`;
    const why =
      choices !== 'auto'
        ? `choices are to be ${choices}`
        : closed
          ? 'each more than once: a new one is unlikely'
          : single > 0
            ? `${single} of them once only`
            : 'too few to rule out others';
    return {
      shape: { choice: { values: texts, closed } },
      decision: `${closed ? 'closed' : 'open'} choice`,
      because: `${values.length} words in ${where}, ${why}`,
      first: facts.firstString,
      // An open choice takes every word: little is lost when it is none.
      doubt: closed ? Math.min(1, (3 * values.length) / seen) : (0.1 * values.length) / seen,
      otherwise: closed ? 'choice:open' : 'choice:none',
    };
  },
};

function asDecided(decided: Steer, { tokens, strings, firstString }: Place): Decided | undefined {
  if (decided.value === 'none') return undefined;
  if (strings === 0) contradicts(decided, 'there is no text');
  if (tokens === undefined)
    contradicts(
      decided,
      `there are more than ${mostTokens} different texts, or such as are no words`,
      firstString,
    );
  const values = [...tokens.byText.keys()].sort();
  const closed = decided.value === 'closed';
  return {
    shape: { choice: { values, closed } },
    decision: `${closed ? 'closed' : 'open'} choice`,
    because: decided.source,
    doubt: 0,
    first: firstString,
  };
}

/** Whether a text is longer than words of a program are, or a sentence. */
function isProse(text: string): boolean {
  return text.length > 32 || /[.!?,]$/.test(text) || text.split(' ').length > 3;
}

/** Whether a text could be a name, a code, a version or prose as well as a word of a program. */
function isOdd(text: string): boolean {
  return /[\d ./:]|^[A-Z][a-z]/.test(text);
}
