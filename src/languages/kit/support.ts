/** How a language's support code falls into pieces. */
export interface SupportSyntax {
  /** What stands between two pieces. */
  readonly between: RegExp;
  /** What a declaration is called by whoever uses it, in the group that is there; a piece may have several. */
  readonly declares: RegExp;
  /** Whose method a piece is, in its group: without that type nobody calls it. */
  readonly methodOf?: RegExp;
  /** Everything in a text that is no code: comments and literals. */
  readonly notCode: RegExp;
  /** What looks as if it named a declaration, and does not. */
  readonly notNames?: RegExp;
}

interface Piece {
  readonly names: readonly string[];
  readonly owner: string | undefined;
  readonly text: string;
  readonly words: ReadonlySet<string>;
}

/** Support code of a language, of which each package gets the pieces that it uses. */
export class Support {
  private readonly pieces: readonly Piece[];

  /** @param text declarations, in the order in which they come out */
  constructor(
    text: string,
    private readonly syntax: SupportSyntax,
  ) {
    this.pieces = text
      .trim()
      .split(syntax.between)
      .map((piece) => ({
        names: [...piece.matchAll(syntax.declares)].flatMap((found) =>
          found.slice(1).filter((name) => name !== undefined),
        ),
        owner: syntax.methodOf?.exec(piece)?.[1],
        text: piece,
        words: wordsIn(piece, syntax),
      }));
  }

  /** What code uses, and what that uses, in order. @param code what is generated */
  usedBy(code: readonly string[]): string[] {
    const wanted = new Set(code.flatMap((text) => [...wordsIn(text, this.syntax)]));
    const used = new Set<Piece>();
    for (let grew = true; grew;) {
      grew = false;
      for (const piece of this.pieces) {
        if (used.has(piece) || !piece.names.some((name) => wanted.has(name))) continue;
        if (piece.owner !== undefined && !wanted.has(piece.owner)) continue;
        used.add(piece);
        piece.words.forEach((word) => wanted.add(word));
        grew = true;
      }
    }
    return this.pieces.filter((piece) => used.has(piece)).map(({ text }) => text);
  }
}

function wordsIn(text: string, { notCode, notNames }: SupportSyntax): Set<string> {
  const code = text.replace(notCode, ' ');
  return new Set(
    (notNames === undefined ? code : code.replace(notNames, ' ')).match(/[\p{L}_][\p{L}\p{N}_]*/gu),
  );
}
