/** A line and a column of a file, both from 1. */
export interface Position {
  readonly line: number;
  readonly column: number;
}

/** Where the parts of a JSON text stand in the file that it was made of. */
export interface Origin {
  /** Whether its strings may stand for numbers and booleans: the file has no types. */
  readonly hasNoTypes: boolean;
  /** Whether what stands alone may be one of a list that is not repeated there. */
  readonly hasNoLists: boolean;
  /** Whether null may stand for what is absent: every object of the file has all keys. */
  readonly hasNoAbsence: boolean;
  /** The position of a byte offset in the text. */
  at(offset: number): Position;
  /** The line of the file at a position and a caret below it, where the file is at hand. */
  excerpt(position: Position): string | undefined;
}
