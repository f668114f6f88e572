/** Tells whether a text has a match. */
export interface TextPattern {
  test(text: string): boolean;
}

/**
 * Makes a pattern of a regular expression (ECMA-262) of a schema.
 * @param flags of the expression, such as `u`
 * @throws SyntaxError for what is no regular expression
 */
export type PatternEngine = (pattern: string, flags: string) => TextPattern;

/** The platform's own, which may take for ever: only for schemas whose author is trusted. */
export const platformPatterns: PatternEngine = (pattern, flags) => new RegExp(pattern, flags);

/** An engine as the validator wants it: it knows patterns by their text. */
export function engineFor(patterns: PatternEngine): PatternEngine & { readonly code: string } {
  const engine: PatternEngine = (pattern, flags) => {
    const made = patterns(pattern, flags);
    return { test: (text) => made.test(text), toString: () => `/${pattern}/${flags}` };
  };
  return Object.assign(engine, { code: 'pattern' });
}
