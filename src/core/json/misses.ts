import type { SkevoError } from '../error.js';
import type { Notes } from '../note.js';

/** What lacked the place at which payloads were looked for. */
export class Misses {
  private first: SkevoError | undefined = undefined;
  private count = 0;

  /** @param error made for the first alone, since it looks for its line */
  readonly add = (error: () => SkevoError): void => {
    this.first ??= error();
    this.count++;
  };

  /**
   * To be called when everything was read.
   * @param found whether there was a payload anywhere
   * @throws SkevoError for the first that lacked it when there was none
   */
  close(found: boolean, notes: Notes): void {
    const { first, count } = this;
    if (first === undefined) return;
    if (!found) throw first;
    const where = first.place === undefined ? {} : { place: first.place };
    notes({
      message: `${first.message}: passed over${count === 1 ? '' : `, as ${count - 1} more ${count === 2 ? 'was' : 'were'}`}`,
      ...where,
    });
  }
}
