import wrapAnsi from 'wrap-ansi';
import type { Documented, Type } from '../../core/model/types.js';

/** How a language writes characters that may not stand in a literal as they are. */
export interface Escapes {
  readonly quote: '"' | "'";
  /** Short escapes besides the backslash and the quote, such as `\n`. */
  readonly short: Readonly<Record<string, string>>;
  /** An escape for one UTF-16 code unit or, when `astral`, one code point above U+FFFF. */
  unit(code: number): string;
  readonly astral?: (code: number) => string;
}

/**
 * A string literal. Letters, marks, digits, punctuation and symbols of any script stand as they are; everything
 * invisible, such as controls, direction marks, separators and lone surrogates, is escaped.
 */
export function literal(text: string, escapes: Escapes): string {
  let out = escapes.quote;
  for (const character of text) {
    const code = character.codePointAt(0)!;
    if (character === '\\' || character === escapes.quote) out += `\\${character}`;
    else if (escapes.short[character] !== undefined) out += escapes.short[character];
    else if (isVisible(character) && code <= 0xffff) out += character;
    else if (code > 0xffff)
      out += isVisible(character) ? character : (escapes.astral?.(code) ?? pair(character, escapes));
    else out += escapes.unit(code);
  }
  return out + escapes.quote;
}

function pair(character: string, escapes: Escapes): string {
  return escapes.unit(character.charCodeAt(0)) + escapes.unit(character.charCodeAt(1));
}

function isVisible(character: string): boolean {
  return character === ' ' || /^[\p{L}\p{Mn}\p{Mc}\p{N}\p{P}\p{S}]$/u.test(character);
}

export function hex(code: number, digits: number): string {
  return code.toString(16).padStart(digits, '0');
}

/**
 * Text for a comment as lines of at most `width` characters: invisible characters gone, space collapsed,
 * paragraphs kept apart by an empty line. What would end a comment is the language's own affair.
 */
export function proseLines(text: string, width: number): string[] {
  const paragraphs = text
    .split(/\n\s*\n/)
    .map((paragraph) =>
      paragraph
        .replace(/\s+/g, ' ')
        .replace(/[^\p{L}\p{M}\p{N}\p{P}\p{S} ]/gu, '')
        .trim(),
    )
    .filter((paragraph) => paragraph !== '');
  return paragraphs.flatMap((paragraph, i) => [
    ...(i > 0 ? [''] : []),
    ...wrapAnsi(paragraph, width).split('\n'),
  ]);
}

/**
 * The paragraphs of a title and a description, either of which may be missing, and the integers that a field has, where the
 * schema lists them.
 */
export function proseOf(documented: {
  readonly title?: string;
  readonly description?: string;
  readonly type?: Type;
}): string | undefined {
  const parts = [documented.title, documented.description, aboutListed(documented.type)]
    .map((part) => withoutTags(part ?? ''))
    .filter((part) => proseLines(part, Infinity).length > 0);
  return parts.length === 0 ? undefined : parts.join('\n\n');
}

function aboutListed(type: Type | undefined): string | undefined {
  if (type?.kind !== 'integer' || type.listed === undefined) return undefined;
  const [first, ...others] = type.listed;
  return others.length === 0 ? `Always ${first!}.` : `One of ${type.listed.join(', ')}.`;
}

/** Text in which nothing tells a tool something: no tag, no fence of code, no prompt, no directive. */
function withoutTags(text: string): string {
  return text
    .replace(/[^\p{L}\p{M}\p{N}\p{P}\p{S}\s]/gu, '')
    .replace(/(?<![\p{L}\p{N}])@(?=\p{L})/gu, '@ ')
    .replace(/```|~~~/g, (fence) => [...fence].join(' '))
    .replace(/>>>/g, '> > >')
    .replace(/\+(?=build\b)/g, '+ ')
    .replace(/(?<!\S):(?=\w+:)/g, ': ');
}

/** The same with what is said of what is deprecated; empty when there is nothing to say. */
export function proseWithMark(documented: Documented & { readonly type?: Type }, mark: string): string {
  return [proseOf(documented), documented.deprecated ? mark : undefined].filter(Boolean).join('\n\n');
}

/** What most languages say of what is deprecated. */
export const deprecatedMark = 'Deprecated: no longer to be used.';

/** Text on one line, for the head of a file. */
export function oneLine(text: string): string {
  return proseLines(text, Infinity).join(' ');
}

/**
 * Text as a comment between `/**` and its end, on one line when it fits; nothing for no text.
 * @param safe takes out of a line what would mean something in the comment; its ends are taken out after that
 * @param gap what stands before the star of the lines between
 */
export function blockComment(
  text: string,
  {
    indent,
    width,
    safe,
    gap = ' ',
  }: { indent: string; width: number; safe: (line: string) => string; gap?: string },
): string[] {
  if (text === '') return [];
  const lines = proseLines(text, width - indent.length).map((line) => withoutEnds(safe(line)));
  if (lines.length === 1) return [`${indent}/** ${lines[0]} */`];
  return [
    `${indent}/**`,
    ...lines.map((line) => (line === '' ? `${indent}${gap}*` : `${indent}${gap}* ${line}`)),
    `${indent}${gap}*/`,
  ];
}

/** A line without what would end a comment, or begin one inside it, whatever was made of the line before. */
export function withoutEnds(line: string): string {
  return line.replace(/\*(?=\/)/g, '* ').replace(/\/(?=\*)/g, '/ ');
}

/** Text as comments to the end of the line. */
export function lineComments(
  sign: string,
  text: string,
  width: number,
  safe = (line: string) => line,
): string[] {
  return text === ''
    ? []
    : proseLines(text, width).map((line) => (line === '' ? sign : `${sign} ${safe(line)}`));
}

/**
 * Items with commas between them, as many on a line as fit.
 * @param room characters that a line holds
 * @param behind those that the last line has behind the items
 */
export function packed(items: readonly string[], room: number, behind: number): string[] {
  const lines: string[] = [];
  for (const [i, item] of items.entries()) {
    const [own, end] = i < items.length - 1 ? [`${item},`, 0] : [item, behind];
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + own.length + end <= room)
      lines[lines.length - 1] = `${last} ${own}`;
    else lines.push(own);
  }
  return lines;
}
