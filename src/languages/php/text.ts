import { blockComment, hex, literal } from '../kit/text.js';

/** A string literal. Half a surrogate pair becomes the replacement character, which is all that UTF-8 has for it. */
export function php(text: string): string {
  const whole = text.replace(/\p{Surrogate}/gu, '\ufffd');
  if (/^[\x20-\x7e]*$/.test(whole) && !/['\\]/.test(whole)) return `'${whole}'`;
  return literal(whole, {
    quote: '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', $: '\\$' },
    unit: (code) => `\\u{${hex(code, 1)}}`,
    astral: (code) => `\\u{${hex(code, 1)}}`,
  });
}

export function docblock(text: string, indent: string): string[] {
  const safe = (line: string) => line.replace(/\?>/g, '? >');
  return blockComment(text, { indent, width: 112, safe });
}

/** A comment of tags, one a line, behind prose. */
export function tagged(prose: string, tags: readonly string[], indent: string): string[] {
  const safe = (line: string) => line.replace(/\?>/g, '? >').replaceAll('*/', '* /');
  if (prose === '' && tags.length === 1) return [`${indent}/** ${safe(tags[0]!)} */`];
  const about = prose === '' ? [] : [...docblock(`${prose}\n\n.`, indent).slice(0, -2), `${indent} *`];
  return [
    ...(prose === '' ? [`${indent}/**`] : about.slice(0, -1)),
    ...tags.map((tag) => `${indent} * ${safe(tag)}`),
    `${indent} */`,
  ];
}
