/** All of every table, which takes hours. */
export const isLong = process.env['SKEVO_LONG'] !== undefined;

/** Less than where no language may be missing, as in CI: somebody waits for it. */
export const isBrief = !isLong && process.env['SKEVO_ALL_LANGUAGES'] === undefined;

/**
 * A part of some things for one of many that try them, another part for the next, so that together they try all.
 * @param at the position of who tries
 */
export function shareOf<T>(all: readonly T[], at: number, parts: number): T[] {
  return all.filter((_, i) => i % parts === at % parts);
}

/** Of so many parts of a table one is taken: where somebody waits, more. */
export const fewer = isBrief ? 6 : 1;

/** All of a table, or the share of one of many that try it where somebody waits. */
export function unlessBrief<T>(all: readonly T[], at = 0): readonly T[] {
  return shareOf(all, at, fewer);
}
