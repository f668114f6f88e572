import type { Doc } from 'prettier';
import { builders, printer } from 'prettier/doc';

export type { Doc };
export const { group, hardline, ifBreak, indent, join, line, softline } = builders;

/** Source text of a document: as much on a line as the width holds, ending in a line feed. */
export function layOut(doc: Doc, width: number, indentWidth: number): string {
  const { formatted } = printer.printDocToString(doc, {
    printWidth: width,
    tabWidth: indentWidth,
    useTabs: false,
    parentParser: undefined,
    embeddedInHtml: false,
  } as never);
  return `${formatted.replace(/[ \t]+$/gm, '').trimEnd()}\n`;
}

/** Documents one below another. */
export function lines(...docs: readonly Doc[]): Doc {
  return join(hardline, [...docs]);
}

/** Documents one below another with one empty line, or as many as asked, between them. */
export function blocks(docs: readonly Doc[], empty = 1): Doc {
  return join(
    Array.from({ length: empty + 1 }, () => hardline),
    [...docs],
  );
}

/** Source text as it is, line by line. */
export function verbatim(text: string): Doc {
  return join(hardline, text.replace(/\n$/, '').split('\n'));
}
