import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { SkevoError } from '../../core/error.js';
import type { Position } from '../../core/json/origin.js';
import { excerptAt } from '../../core/json/source.js';
import { inChunks, textOf, wholeOf } from '../decode.js';
import type { Format } from '../format.js';
import { tooLarge } from '../inputs.js';
import { pack, quoted, JsonPieces, unpack } from '../json-pieces.js';
import { Elements } from './elements.js';
import { entitiesIn } from './entities.js';
import { pathOf, Route } from './route.js';
import { Window } from './window.js';

/** Elements inside elements; what types are made for ends before. */
const deepest = 1_000;

/** So much JSON text is handed on at once. */
const batchSize = 1 << 17;

/** So much of a document is parsed between two looks at what has become of it. */
const chunkSize = 1 << 16;

/**
 * XML 1.0 with namespaces. An element is an object: attributes under `@name`, child elements under their names, repeated ones
 * as a list, and text beside attributes under `#text`; an element with nothing but text is that text. Text between elements
 * is kept as it stands under `#markup`. The document is an object with its root element.
 */
export const xml: Format = {
  async *read(input, bytes, notes, selection) {
    const path = selection === undefined ? undefined : pathOf(selection.at);
    const document = new Window();
    const original = {
      name: input.name,
      line: (line: number) => document.line(line),
      hasNoTypes: true,
      hasNoLists: true,
      hasNoAbsence: false,
    };
    const out = new JsonPieces(original);
    const refuse = (position: Position, message: string, remedy: string): never => {
      const found = document.line(position.line);
      const excerpt = found === undefined ? {} : { excerpt: excerptAt(found, position.column) };
      throw new SkevoError(message, remedy, { file: input.name, ...position, ...excerpt });
    };
    const parser = new SaxesParser({ xmlns: false, position: true, fragment: false });
    const here = (): Position => ({ line: parser.line, column: parser.column + 1 });
    const elements = new Elements(out, document);
    const route = path && new Route(path, original);
    let comment: Position | undefined;
    let begun = 0;
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
      () => (comment ??= document.lastBefore('<!--', parser.position, parser.line) ?? here()),
    );
    parser.on('opentagstart', ({ name }) => {
      // What ends the name has been read.
      const column = parser.column - name.length - 1;
      begun =
        column > 0 && !surrogate.test(name)
          ? pack(parser.line, column)
          : packed(document.lastBefore('<', parser.position, parser.line) ?? here());
    });
    let depth = 0;
    let skipped = 0;
    parser.on('opentag', (tag: SaxesTagPlain) => {
      if (++depth > deepest)
        refuse(
          unpack(begun),
          `elements are nested more than ${deepest} deep`,
          'Select a part of the document.',
        );
      if (elements.depth > 0 || route === undefined) {
        if (elements.depth === 0) out.put(`{${quoted(tag.name)}:`, begun);
        elements.open(tag, begun, parser.position);
      } else if (skipped > 0) skipped++;
      else {
        const step = route.enter(tag.name, begun);
        if (step === 'beside') skipped++;
        else if (step === 'payload') {
          document.keepFrom(parser.position);
          elements.open(tag, begun, parser.position);
        }
      }
    });
    const addText = (piece: string): void => elements.text(piece);
    parser.on('text', addText);
    parser.on('cdata', addText);
    parser.on('closetag', () => {
      depth--;
      if (elements.depth > 0) {
        elements.close(parser.position);
        if (elements.depth > 0) return;
        if (route === undefined) out.put('}');
        out.end(route?.tokens());
        document.keepFrom(Infinity);
      } else if (skipped > 0) skipped--;
      else route!.leave();
    });
    if (route === undefined) {
      // The document is the payload: it is held as it is.
      const text = textOf(await wholeOf(bytes(), input.limit, () => tooLarge(input)), input.name);
      document.push(text);
      document.keepFrom(0);
      for (let from = 0; from < text.length; from += chunkSize)
        parser.write(text.slice(from, from + chunkSize));
    } else {
      for await (const chunk of inChunks(bytes(), input.name)) {
        for (let from = 0; from < chunk.length; from += chunkSize) {
          const piece = chunk.slice(from, from + chunkSize);
          document.push(piece);
          parser.write(piece);
          if (document.held > input.limit) throw tooLarge(input);
          if (out.isDue && out.characters > batchSize && elements.depth === 0) yield out.take();
        }
      }
    }
    parser.close();
    if (route === undefined && !out.isDue)
      refuse({ line: 1, column: 1 }, 'there is no element', 'Was the response saved?');
    if (comment !== undefined)
      notes({ message: 'comments are not kept', place: { file: input.name, ...comment } });
    if (out.isDue) yield out.take();
    else route!.miss(selection!);
  },
};

const surrogate = /[\ud800-\udfff]/;

function packed({ line, column }: Position): number {
  return pack(line, column);
}
