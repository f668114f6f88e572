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

/** An engine as the validator wants it. */
export function engineFor(patterns: PatternEngine): PatternEngine & { readonly code: string } {
  return Object.assign((pattern: string, flags: string) => patterns(pattern, flags), { code: 'pattern' });
}
