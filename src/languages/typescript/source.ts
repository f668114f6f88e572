import type { Documented, Type } from '../../core/model/types.js';
import { saidByType } from '../kit/listed.js';
import { group, ifBreak, indent, join, line, lines, softline, type Doc } from '../kit/layout.js';
import { hex, literal, proseLines, proseOf, withoutEnds } from '../kit/text.js';

/** The usual formatter's line width. */
export const width = 80;

/** A string literal in the quotes that the usual formatter prefers. */
export function quoted(text: string): string {
  const doubles = text.split('"').length;
  const singles = text.split("'").length;
  return literal(text, {
    quote: doubles > singles ? "'" : '"',
    short: { '\n': '\\n', '\r': '\\r', '\t': '\\t', '\b': '\\b', '\f': '\\f' },
    unit: (code) => `\\u${hex(code, 4)}`,
  });
}

/** A property name of an object literal; `__proto__` must be computed, or it would set the prototype. */
export function propertyName(key: string): string {
  if (key === '__proto__') return '["__proto__"]';
  return /^[\p{L}\p{Nl}_$][\p{L}\p{Nl}\p{Mn}\p{Mc}\p{Nd}\p{Pc}_$]*$/u.test(key) &&
    [...key].every((each) => each.length === 1)
    ? key
    : quoted(key);
}

export function call(callee: Doc, args: readonly Doc[]): Doc {
  return [
    callee,
    '(',
    group([indent([softline, join([',', line], [...args]), ifBreak(',', '')]), softline]),
    ')',
  ];
}

/** A block in braces, its parts one below another. */
export function braces(head: Doc, parts: readonly Doc[], tail = ''): Doc {
  return parts.length === 0 ? [head, '{}', tail] : [head, '{', indentLines(parts), lineBreak, '}', tail];
}

export const lineBreak: Doc = lines('', '');

export function indentLines(parts: readonly Doc[]): Doc {
  return indent([lineBreak, lines(...parts)]);
}

/** The type of an alias: after the equals sign, on the next line, or one alternative a line. */
export function aliased(arms: readonly Doc[]): Doc {
  return group(indent([line, group([ifBreak('| ', ''), join([line, '| '], [...arms])])]));
}

/** The type of a property: after the colon, or one alternative a line. */
export function annotated(arms: readonly Doc[]): Doc {
  return arms.length === 1
    ? [' ', arms[0]!]
    : group(indent([ifBreak([line, '| '], ' '), join([line, '| '], [...arms])]));
}

/** A documentation comment, or nothing. */
export function documentation(
  documented: Documented & { readonly type?: Type },
  extra: readonly string[] = [],
): Doc[] {
  const prose = proseOf(saidByType(documented));
  return comment([
    ...(prose === undefined ? [] : proseLines(prose, width - 8)),
    ...extra,
    ...(documented.deprecated ? ['@deprecated'] : []),
  ]);
}

export function comment(text: readonly string[]): Doc[] {
  const safe = text.map(withoutEnds);
  if (safe.length === 0) return [];
  if (safe.length === 1) return [`/** ${safe[0]} */`];
  return [lines('/**', ...safe.map((each) => (each === '' ? ' *' : ` * ${each}`)), ' */')];
}

/** `key: value,` where the value is `guard && value` when there is a guard. */
export function property(name: Doc, value: Doc, guard?: string): Doc {
  if (guard !== undefined) return [name, ':', group(indent([line, group([guard, ' &&', line, value])])), ','];
  // A call breaks between its parentheses; anything else moves to the next line.
  return typeof value === 'string'
    ? [name, ':', group(indent([line, value])), ',']
    : [name, ': ', value, ','];
}
