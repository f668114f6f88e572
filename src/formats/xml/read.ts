import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { SkevoError } from '../../core/error.js';
import type { Position } from '../../core/json/origin.js';
import { excerptAt } from '../../core/json/source.js';
import type { JsonMember, JsonValue } from '../../core/json/value.js';
import { textOf, wholeOf } from '../decode.js';
import { batchOf } from '../../core/json/batch.js';
import type { Format } from '../format.js';
import { entitiesIn } from './entities.js';
import { tooLarge } from '../inputs.js';
import { sourceOf } from '../transcode.js';

/** Elements inside elements; what types are made for ends before. */
const deepest = 1_000;

/** No line is longer than the largest string. */
const longestLine = 2 ** 30;

/** An element that is being read. */
interface Open {
  readonly name: string;
  readonly start: number;
  readonly members: JsonMember[];
  /** Where its content begins in the document. */
  readonly from: number;
  text: string;
  hasElements: boolean;
  /** Whether text other than space stands beside elements. */
  isNil: boolean;
}

/**
 * XML 1.0 with namespaces. An element is an object: attributes under `@name`, child elements under their names, repeated ones
 * as a list, and text beside attributes under `#text`; an element with nothing but text is that text. Text between elements
 * is kept as it stands under `#markup`. The document is an object with its root element.
 */
export const xml: Format = {
  async *read(input, bytes, notes) {
    const text = textOf(await wholeOf(bytes(), input.limit, () => tooLarge(input)), input.name);
    let split: string[] | undefined;
    const lineAt = (line: number) => (split ??= text.split(/\r\n|\n|\r/))[line - 1];
    const positions: number[] = [];
    const excerpt = ({ line, column }: Position) => excerptAt(lineAt(line) ?? '', column);
    const refuse = (position: Position, message: string, remedy: string): never => {
      throw new SkevoError(message, remedy, { file: input.name, ...position, excerpt: excerpt(position) });
    };
    const parser = new SaxesParser({ xmlns: false, position: true, fragment: false });
    const here = (): Position => ({ line: parser.line, column: parser.columnIndex + 1 });
    // A document has as many positions as elements: each is one number.
    const mark = ({ line, column }: Position): number => positions.push(line * longestLine + column) - 1;
    let root: JsonValue | undefined;
    let comment: Position | undefined;
    let begun: Position = { line: 1, column: 1 };
    const open: Open[] = [];
    parser.on('error', (error) => {
      const [, line = '1', column = '0', what = error.message] =
        /^(?:.*?:)?(\d+):(\d+): (.*)$/s.exec(error.message) ?? [];
      refuse(
        { line: Number(line), column: Number(column) + 1 },
        `this is not XML: ${what.replace(/\.$/, '')}`,
        'Put it right there, or say by --input what it is.',
      );
    });
    parser.on('doctype', (declared) => {
      const { entities, isWhole } = entitiesIn(declared);
      Object.assign(parser.ENTITIES, entities);
      if (!isWhole)
        notes({
          message: 'of the document type only entities of plain text are known: nothing is fetched',
          place: { file: input.name, ...here() },
        });
    });
    parser.on(
      'comment',
      () =>
        (comment ??= startOf(text, text.lastIndexOf('<!--', parser.position) + 1, here(), parser.position)),
    );
    parser.on('opentagstart', () => {
      begun = startOf(text, parser.position, here());
    });
    parser.on('opentag', (tag: SaxesTagPlain) => {
      if (open.length === deepest)
        refuse(begun, `elements are nested more than ${deepest} deep`, 'Select a part of the document.');
      const start = mark(begun);
      const around = open.at(-1);
      if (around !== undefined) around.hasElements = true;
      const members = Object.entries(tag.attributes).map(([name, value]): JsonMember => ({
        key: `@${name}`,
        keyStart: start,
        value: { kind: 'string', value, start, end: start },
      }));
      const isNil = members.some(
        ({ key, value }) =>
          /^@(\w+:)?nil$/.test(key) && value.kind === 'string' && /^(true|1)$/.test(value.value),
      );
      open.push({
        name: tag.name,
        start,
        members,
        from: parser.position,
        text: '',
        hasElements: false,
        isNil,
      });
    });
    const addText = (piece: string): void => {
      const element = open.at(-1);
      if (element !== undefined) element.text += piece;
    };
    parser.on('text', addText);
    parser.on('cdata', addText);
    parser.on('closetag', () => {
      const element = open.pop()!;
      const around = open.at(-1);
      const value = valueOf(element, text, parser.position);
      if (around === undefined)
        root = {
          kind: 'object',
          members: [{ key: element.name, keyStart: element.start, value }],
          start: element.start,
          end: element.start,
        };
      else around.members.push({ key: element.name, keyStart: element.start, value });
    });
    parser.write(text).close();
    if (root === undefined) refuse({ line: 1, column: 1 }, 'there is no element', 'Was the response saved?');
    if (comment !== undefined)
      notes({ message: 'comments are not kept', place: { file: input.name, ...comment } });
    const original = {
      name: input.name,
      line: lineAt,
      hasNoTypes: true,
      hasNoLists: true,
    };
    yield batchOf(
      sourceOf(root!, original, (start) => ({
        line: Math.floor(positions[start]! / longestLine),
        column: positions[start]! % longestLine,
      })),
    );
  },
};

/**
 * Where the mark begins that ends before an offset.
 * @param here the position of `end`, which the parser has reached
 */
function startOf(text: string, offset: number, here: Position, end = offset): Position {
  const start = text.lastIndexOf('<', offset - 1);
  const between = text.slice(start, end);
  const breaks = between.match(/\r\n|\n|\r/g)?.length ?? 0;
  if (breaks === 0) return { line: here.line, column: Math.max(1, here.column - [...between].length) };
  const lineStart = Math.max(text.lastIndexOf('\n', start), text.lastIndexOf('\r', start)) + 1;
  return { line: here.line - breaks, column: [...text.slice(lineStart, start)].length + 1 };
}

function valueOf(
  { members, text, hasElements, isNil, start, from }: Open,
  document: string,
  end: number,
): JsonValue {
  const span = { start, end: start };
  const attributes = members.filter(({ key }) => key.startsWith('@'));
  const withText = (key: string, value: string): JsonValue => ({
    kind: 'object',
    members: [...attributes, { key, keyStart: start, value: { kind: 'string', value, ...span } }],
    ...span,
  });
  if (hasElements && text.trim() !== '') {
    // Text between elements cannot be kept under keys: all of it stays markup.
    const markup = document.slice(from, document.lastIndexOf('<', end - 1));
    return withText('#markup', markup);
  }
  if (hasElements) return { kind: 'object', members: grouped(members), ...span };
  if (isNil && attributes.length === 1) return { kind: 'null', ...span };
  if (attributes.length === 0) return { kind: 'string', value: text, ...span };
  return text === '' ? { kind: 'object', members: attributes, ...span } : withText('#text', text);
}

/** Members in which those of one name are one list. */
function grouped(members: readonly JsonMember[]): JsonMember[] {
  const byKey = new Map<string, JsonMember[]>();
  for (const each of members) {
    const known = byKey.get(each.key);
    if (known === undefined) byKey.set(each.key, [each]);
    else known.push(each);
  }
  return [...byKey.values()].map((same) => {
    const [first] = same;
    if (same.length === 1) return first!;
    const { start, end } = first!.value;
    return { ...first!, value: { kind: 'list', items: same.map(({ value }) => value), start, end } };
  });
}
