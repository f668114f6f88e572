/** Whole numbers below a bound that follow from a seed: the same everywhere (mulberry32). */
export function randomOf(seed: number): (below: number) => number {
  let state = seed >>> 0;
  return (below) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 2 ** 32) * below);
  };
}

/** How often a fuzzer tries: a few hundred times, or as often as SKEVO_LONG says. */
export function tries(usual: number): number {
  const long = Number(process.env['SKEVO_LONG'] ?? 1);
  return Math.round(usual * (Number.isFinite(long) && long > 1 ? long : 1));
}

/** The seed of a run, which SKEVO_SEED may set, to `random` too: a failure says it. */
export const seed = Number(
  process.env['SKEVO_SEED'] === 'random' ? Date.now() % 1e9 : (process.env['SKEVO_SEED'] ?? 20_311),
);
