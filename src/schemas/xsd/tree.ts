import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { SkevoError } from '../../core/error.js';
import { excerptAt, type Source } from '../../core/json/source.js';
import { textOf } from '../../formats/decode.js';
import { entitiesIn } from '../../formats/xml/entities.js';

/** An element of an XML Schema, and where it stands. */
export interface Element {
  /** Its name without a prefix: all of them are of XML Schema, or are passed over. */
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly Element[];
  /** The text in it and in all below. */
  readonly text: string;
  readonly line: number;
  readonly column: number;
  readonly file: File;
  /** Namespaces by the prefixes that are known here; the default one under an empty text. */
  readonly prefixes: ReadonlyMap<string, string>;
}

/** A file of an XML Schema. */
export interface File {
  readonly name: string;
  readonly lines: readonly string[];
  readonly target: string;
  /** Whether local elements are in its namespace: `qualified`, or not. */
  readonly form: string | undefined;
}

export const xmlSchema = 'http://www.w3.org/2001/XMLSchema';

/** The tree of a file. @param around the namespace of a file that includes it @throws SkevoError for what is no XML Schema */
export function treeOf(source: Source, around?: string): Element {
  const text = textOf(source.bytes, source.name);
  const lines = text.split(/\r\n|\n|\r/);
  const file = {
    name: source.name,
    lines,
    target: around ?? '',
    form: undefined as string | undefined,
  };
  type Open = { -readonly [K in keyof Element]: Element[K] } & { children: Element[] };
  const open: Open[] = [];
  let root: Element | undefined;
  let begun = { line: 1, column: 1 };
  const parser = new SaxesParser({ xmlns: false, position: true });
  parser.on('error', (error) => {
    const [, line = '1', column = '0', what = error.message] =
      /^(?:.*?:)?(\d+):(\d+): (.*)$/s.exec(error.message) ?? [];
    throw failure(
      { file, line: Number(line), column: Number(column) + 1 },
      `this is not XML: ${what.replace(/\.$/, '')}`,
      'Put it right there.',
    );
  });
  parser.on('doctype', (declared) => void Object.assign(parser.ENTITIES, entitiesIn(declared).entities));
  parser.on('opentagstart', ({ name }) => {
    begun = { line: parser.line, column: Math.max(1, parser.column - name.length - 1) };
  });
  parser.on('opentag', (tag: SaxesTagPlain) => {
    const declared = Object.entries(tag.attributes).flatMap(([name, value]): [string, string][] => {
      const prefix = /^xmlns(?::(.+))?$/.exec(name);
      return prefix === null ? [] : [[prefix[1] ?? '', value]];
    });
    const known = open.at(-1)?.prefixes ?? new Map<string, string>();
    const prefixes = declared.length === 0 ? known : new Map([...known, ...declared]);
    if (open.length === 0) {
      file.form = tag.attributes['elementFormDefault'];
      file.target = tag.attributes['targetNamespace'] ?? file.target;
    }
    const name = tag.name.replace(/^.*:/, '');
    const element = {
      name,
      attributes: { ...tag.attributes },
      children: [],
      text: '',
      ...begun,
      file,
      prefixes,
    };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
  });
  const add = (piece: string) => {
    for (const element of open) element.text += piece;
  };
  parser.on('text', add);
  parser.on('cdata', add);
  parser.on('closetag', () => void open.pop());
  parser.write(text).close();
  const isSchema =
    root !== undefined && root.name === 'schema' && [...root.prefixes.values()].includes(xmlSchema);
  if (root === undefined || !isSchema)
    throw failure(
      root ?? { file, line: 1, column: 1 },
      'this is XML, and no XML Schema',
      'If it is a payload, make a schema from it first with skevo infer.',
    );
  return root;
}

export function failure(
  at: Pick<Element, 'file' | 'line' | 'column'>,
  message: string,
  remedy: string,
): SkevoError {
  const { file, line, column } = at;
  const excerpt =
    file.lines[line - 1] === undefined ? {} : { excerpt: excerptAt(file.lines[line - 1]!, column) };
  return new SkevoError(message, remedy, { file: file.name, line, column, ...excerpt });
}
