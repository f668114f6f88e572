import { hex, lineComments, literal } from '../kit/text.js';

/** A string literal. Half a surrogate pair becomes the replacement character: UTF-8 has none. */
export function ruby(text: string): string {
  return literal(text.replace(/\p{Surrogate}/gu, '\ufffd'), {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', '#': '\\#' },
    unit: (code) => `\\u${hex(code, 4)}`,
    astral: (code) => `\\u{${hex(code, 1)}}`,
  });
}

/** A line that begins as a magic comment does would be taken for one. */
export function comment(text: string): string[] {
  return lineComments('#', text, 92, (line) =>
    line.replace(/^-\*-/, '- * -').replace(/coding\s*[:=]/gi, 'coding '),
  );
}
