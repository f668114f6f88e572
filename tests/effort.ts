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

/** All of a table, or one of so many where somebody waits. */
export function unlessBrief<T>(all: readonly T[], parts: number): readonly T[] {
  return isBrief ? shareOf(all, 0, parts) : all;
}
