import pc from 'picocolors';

/** How a stream shows text. */
export interface Terminal {
  /** Columns to fill; a pipe counts as 200 unless somebody says otherwise. */
  readonly width: number;
  /** Whether the width is one that somebody reads at, so that what is longer is folded or cut. */
  readonly isNarrow: boolean;
  /** Whether it is shown colours. */
  readonly isColoured: boolean;
  readonly colours: Colours;
}

export interface Colours {
  readonly strong: (text: string) => string;
  readonly faint: (text: string) => string;
  readonly good: (text: string) => string;
  readonly bad: (text: string) => string;
  readonly warn: (text: string) => string;
  readonly name: (text: string) => string;
}

/** The fewest columns that tables are laid out for. */
export const fewestColumns = 30;

/** The same with as many columns as somebody asks for. */
export function widened(terminal: Terminal, width: number): Terminal {
  return { ...terminal, width, isNarrow: true };
}

/** Colour only on a terminal, and never when NO_COLOR is set to anything. */
export function terminalOf(stream: NodeJS.WriteStream): Terminal {
  const noColour = process.env['NO_COLOR'];
  const enabled =
    stream.isTTY === true && (noColour === undefined || noColour === '') && process.env['TERM'] !== 'dumb';
  const { bold, dim, green, red, yellow, cyan } = pc.createColors(enabled);
  return {
    width: stream.isTTY ? Math.max(stream.columns || 80, fewestColumns) : 200,
    isNarrow: stream.isTTY === true,
    isColoured: enabled,
    colours: { strong: bold, faint: dim, good: green, bad: red, warn: yellow, name: cyan },
  };
}
