import pc from 'picocolors';

/** How a stream shows text. */
export interface Terminal {
  /** Columns to fill; a pipe counts as 200. */
  readonly width: number;
  readonly isTerminal: boolean;
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

/** Colour only on a terminal, and never when NO_COLOR is set to anything. */
export function terminalOf(stream: NodeJS.WriteStream): Terminal {
  const noColour = process.env['NO_COLOR'];
  const enabled =
    stream.isTTY === true && (noColour === undefined || noColour === '') && process.env['TERM'] !== 'dumb';
  const { bold, dim, green, red, yellow, cyan } = pc.createColors(enabled);
  return {
    width: stream.isTTY ? Math.max(stream.columns || 80, 30) : 200,
    isTerminal: stream.isTTY === true,
    isColoured: enabled,
    colours: { strong: bold, faint: dim, good: green, bad: red, warn: yellow, name: cyan },
  };
}
