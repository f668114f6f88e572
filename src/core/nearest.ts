import { distance } from 'fastest-levenshtein';

/** The candidate closest to a word by edit distance, when it is close enough to be what was meant. */
export function nearest(word: string, candidates: Iterable<string>): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.floor(word.length / 2)) + 1;
  for (const candidate of candidates) {
    const away = distance(word.toLowerCase(), candidate.toLowerCase());
    if (away < bestDistance) {
      best = candidate;
      bestDistance = away;
    }
  }
  return best;
}
