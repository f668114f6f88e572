import type { Position } from '../../core/json/origin.js';

const lineEnd = /\r\n|\n|\r/g;

/** Characters before the end that are always held, so that lines and marks that have just begun are found. */
const tail = 1 << 16;

/** What is held of a document while it is read: its tail, and all from what may be needed again. */
export class Window {
  private text = '';
  /** Characters, and lines, before what is held. */
  private before = 0;
  private linesBefore = 0;
  private from = Infinity;
  private split: string[] | undefined = undefined;

  /** Characters that are held. */
  get held(): number {
    return this.text.length;
  }

  push(chunk: string): void {
    const dropped = Math.min(this.from, this.before + this.text.length - tail) - this.before;
    // Copied only where that frees half of it.
    if (dropped > this.text.length / 2) {
      this.linesBefore += this.text.slice(0, dropped).match(lineEnd)?.length ?? 0;
      this.text = this.text.slice(dropped);
      this.before += dropped;
    }
    this.text += chunk;
    this.split = undefined;
  }

  /** Holds all from an offset on until this is called again; `Infinity` for nothing. */
  keepFrom(offset: number): void {
    this.from = offset;
  }

  /** The text between two offsets, from a kept one up to the last mark before another. */
  upToMark(from: number, mark: string, end: number): string {
    return this.text.slice(from - this.before, this.text.lastIndexOf(mark, end - this.before - 1));
  }

  /**
   * The position of the last mark that ends before an offset; undefined when it is held no more.
   * @param line the line of the offset
   */
  lastBefore(mark: string, offset: number, line: number): Position | undefined {
    const end = offset - this.before;
    const index = this.text.lastIndexOf(mark, end - mark.length);
    if (index < 0) return undefined;
    const breaks = this.text.slice(index, end).match(lineEnd)?.length ?? 0;
    const afterFeed = this.text.lastIndexOf('\n', index) + 1;
    const own = this.text.slice(afterFeed, index);
    return { line: line - breaks, column: [...own.slice(own.lastIndexOf('\r') + 1)].length + 1 };
  }

  /** A line of the document, counted from 1, as far as it is held. */
  line(line: number): string | undefined {
    this.split ??= this.text.split(lineEnd);
    return this.split[line - this.linesBefore - 1];
  }
}
