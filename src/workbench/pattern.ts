import { createContext, Script, type Context } from 'node:vm';
import { SkevoError } from '../core/error.js';
import type { PatternEngine } from '../core/schema/pattern.js';

/** Milliseconds that one pattern may take for one text. */
const longestMatch = 1000;
/** Texts of up to so many characters are tried at once where the pattern cannot take more than their square. */
const shortText = 1000;

const match = new Script('pattern.test(text)');

/** Patterns that are ended when they take too long, which a hostile or careless expression does. */
export const boundedPatterns: PatternEngine = (pattern, flags) => {
  const expression = new RegExp(pattern, flags);
  let trial: Context | undefined;
  const isQuick = isAtMostQuadratic(pattern);
  return {
    test(text) {
      if (isQuick && text.length <= shortText) return expression.test(text);
      try {
        trial ??= createContext({ pattern: expression, text });
        trial['text'] = text;
        return match.runInContext(trial, { timeout: longestMatch }) as boolean;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'ERR_SCRIPT_EXECUTION_TIMEOUT') throw error;
        throw new SkevoError(
          `the pattern ${JSON.stringify(pattern)} of the schema comes to no end within ${longestMatch / 1000} s on a text of ${text.length} characters`,
          'Write it so that no part of it can match in several ways, such as (a+)+.',
        );
      }
    },
  };
};

/**
 * Whether an expression has so few and simple repetitions that matching takes at most the square of a text's length:
 * no group repeated, nothing looked around or back, and one unbounded repetition, or two behind a beginning.
 */
function isAtMostQuadratic(pattern: string): boolean {
  const bare = pattern.replace(/\\[^1-9k]|\[(?:\\.|[^\]\\])*\]/g, 'c');
  if (/\\|\(\?[=!<]|\)[*+?{]/.test(bare)) return false;
  const repetitions = (bare.match(/[*+]|\{\d+,\}|\{\d+,\d{2,}\}|\{\d{3,}\}/g) ?? []).length;
  return repetitions <= (bare.startsWith('^') && !bare.includes('|') ? 2 : 1);
}
