import { SaxesParser, type SaxesTagPlain } from 'saxes';
import type { Position } from '../../core/json/origin.js';
import { entitiesIn } from './entities.js';

/** One part of a document as canonical XML has it, and where it stands. */
export interface Part extends Position {
  readonly text: string;
}

/**
 * What of a document is the same in every way to write it (Canonical XML 1.1): elements, attributes in order, and text; comments,
 * processing instructions, space between elements and `xsi:nil` aside.
 */
export function partsOf(text: string): Part[] {
  const parser = new SaxesParser({ xmlns: false, position: true });
  const parts: Part[] = [];
  let written: { text: string; at: Position } | undefined;
  /** Whether the element that is open has elements in it. */
  const hasElements: boolean[] = [];
  const here = (): Position => ({ line: parser.line, column: parser.columnIndex + 1 });
  const flush = (isBesideElements: boolean): void => {
    if (written !== undefined && !(isBesideElements && written.text.trim() === '') && written.text !== '')
      parts.push({ text: `text ${JSON.stringify(written.text)}`, ...written.at });
    written = undefined;
  };
  const add = (piece: string): void => {
    written ??= { text: '', at: here() };
    written.text += piece;
  };
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('doctype', (declared) => Object.assign(parser.ENTITIES, entitiesIn(declared).entities));
  parser.on('text', add);
  parser.on('cdata', add);
  parser.on('opentag', (tag: SaxesTagPlain) => {
    flush(true);
    if (hasElements.length > 0) hasElements[hasElements.length - 1] = true;
    hasElements.push(false);
    const attributes = Object.entries(tag.attributes)
      .filter(([name]) => !/^(\w+:)?nil$/.test(name))
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, value]) => ` ${name}=${JSON.stringify(value)}`);
    parts.push({ text: `<${tag.name}${attributes.join('')}>`, ...here() });
  });
  parser.on('closetag', (tag) => {
    flush(hasElements.pop()!);
    parts.push({ text: `</${tag.name}>`, ...here() });
  });
  parser.write(text).close();
  return parts;
}
