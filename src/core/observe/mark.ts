/** Where something was seen first. Lines and columns count from 1. */
export interface Mark {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

/** Orders marks by file name, line and column: the same order whatever was read first. */
export function compareMarks(a: Mark, b: Mark): number {
  if (a.file !== b.file) return a.file < b.file ? -1 : 1;
  return a.line - b.line || a.column - b.column;
}

/** The earlier of two marks, either of which may be missing. */
export function earlier<T extends Mark>(a: T | undefined, b: T | undefined): T | undefined {
  if (a === undefined || b === undefined) return a ?? b;
  return compareMarks(b, a) < 0 ? b : a;
}

export function formatMark(mark: Mark): string {
  return `${mark.file}:${mark.line}:${mark.column}`;
}
