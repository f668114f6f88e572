import type { TypeModel } from '../../core/model/types.js';
import { lines, type Doc } from '../kit/layout.js';
import { identifier, snakeCase } from '../kit/names.js';
import { hex, literal, proseLines } from '../kit/text.js';
import { keywords, modules } from './spelling.js';

/** The width of a line. */
export const width = 88;

/** The file of a payload: `sailing_page.py`. */
export function moduleName(model: TypeModel): string {
  const name = identifier(model.name, snakeCase);
  if (modules.split(' ').includes(name)) return `${name}_payload`;
  return keywords.split(' ').includes(name) ? `${name}_` : name;
}

/** A string literal. */
export function python(text: string): string {
  return literal(text, {
    quote: text.includes('"') && !text.includes("'") ? "'" : '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t' },
    unit: (code) => (code < 0x100 ? `\\x${hex(code, 2)}` : `\\u${hex(code, 4)}`),
    astral: (code) => `\\U${hex(code, 8)}`,
  });
}

/** A docstring as black leaves it. */
export function docstring(text: string, indentation: number): Doc {
  const safe = (line: string) => line.replace(/\\/g, '\\\\').replace(/"""/g, '\\"\\"\\"');
  const prose = proseLines(text, width - indentation - 6).map(safe);
  const first = prose[0]!.startsWith('"') ? ` ${prose[0]}` : prose[0]!;
  if (prose.length === 1) return `"""${first}${/["\\]$/.test(first) ? ' ' : ''}"""`;
  return lines(`"""${first}`, ...prose.slice(1), '"""');
}
