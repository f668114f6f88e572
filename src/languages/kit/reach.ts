import { wordsOf, singular } from '../../core/words.js';
import { identifier, type Casing } from './names.js';

/** Names for the loop variables on a way, each after what it runs over and all different. */
export class LoopNames {
  private readonly taken = new Set<string>();

  constructor(
    private readonly casing: Casing,
    private readonly reserved: ReadonlySet<string>,
  ) {}

  take(word: string): string {
    const words = singular(wordsOf(word));
    const base = identifier(words.length === 0 ? 'item' : words.join(' '), this.casing);
    const wanted = this.reserved.has(base) ? `${base}_` : base;
    let name = wanted;
    for (let i = 2; this.taken.has(name); i++) name = `${wanted}${i}`;
    this.taken.add(name);
    return name;
  }
}
