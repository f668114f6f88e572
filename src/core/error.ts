/** A place in a file, for people: lines and columns count from 1, columns count characters. */
export interface FilePlace {
  readonly file: string;
  readonly line: number;
  readonly column: number;
  /** The line of text around the place and a caret under it; two lines, or undefined when there is no text. */
  readonly excerpt?: string;
}

/**
 * Anything a user can put right: unusable input, schema, command line or output path.
 * Thrown at the edge of a step and printed once, by the command line.
 */
export class SkevoError extends Error {
  override readonly name = 'SkevoError';

  /**
   * @param message what is wrong, without a full stop
   * @param remedy what to do about it, as a sentence
   * @param place where in a file, when it is a place in a file
   */
  constructor(
    message: string,
    readonly remedy?: string,
    readonly place?: FilePlace,
  ) {
    super(message);
  }
}
