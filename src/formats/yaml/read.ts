import {
  isAlias,
  isMap,
  isPair,
  isScalar,
  isSeq,
  LineCounter,
  parseAllDocuments,
  visit,
  type Document,
  type Node,
  type Pair,
  type ParsedNode,
  type Scalar,
} from 'yaml';
import { SkevoError } from '../../core/error.js';
import type { Position } from '../../core/json/origin.js';
import { excerptAt } from '../../core/json/source.js';
import type { JsonMember, JsonValue } from '../../core/json/value.js';
import { textOf, wholeOf } from '../decode.js';
import { batchOf } from '../../core/json/batch.js';
import type { Format } from '../format.js';
import { tooLarge } from '../inputs.js';
import { sourceOf } from '../transcode.js';

/** Values that aliases may make of those that are written: a few lines can stand for millions. */
const mostCopies = 1_000_000;

/** YAML 1.2: each document of a stream is one. Aliases and merges are resolved. */
export const yaml: Format = {
  async *read(input, bytes, notes) {
    const text = textOf(await wholeOf(bytes(), input.limit, () => tooLarge(input)), input.name);
    const lines = new LineCounter();
    const documents = parseAllDocuments(text, {
      version: '1.2',
      lineCounter: lines,
      uniqueKeys: false,
      merge: true,
      prettyErrors: false,
      logLevel: 'silent',
    });
    if (!Array.isArray(documents)) return;
    const place = (offset: number): Position => {
      const { line, col } = lines.linePos(offset);
      return {
        line: Math.max(1, line),
        column: Math.max(
          1,
          [...text.slice(lines.lineStarts[line - 1] ?? 0, offset)].length + (col > 0 ? 1 : 0),
        ),
      };
    };
    const line = (number: number): string | undefined => {
      const start = lines.lineStarts[number - 1];
      return start === undefined
        ? undefined
        : text.slice(start, lines.lineStarts[number] ?? text.length).replace(/\r?\n$/, '');
    };
    const refuse = (offset: number, message: string, remedy: string): never => {
      const { line: row, column } = place(offset);
      const excerpt = excerptAt(line(row) ?? '', column);
      throw new SkevoError(message, remedy, { file: input.name, line: row, column, excerpt });
    };
    const original = { name: input.name, line, hasNoTypes: false, hasNoLists: false, hasNoAbsence: false };
    let commented: number | undefined;
    for (const document of documents) {
      const [error] = document.errors;
      if (error !== undefined)
        refuse(
          error.pos[0],
          `this is not YAML: ${inOurWords(error.message)}`,
          'Put it right there, and try again.',
        );
      commented ??= firstComment(document);
      // Comments between documents, or after the last, are no document.
      if (!document.directives?.docStart && isEmpty(document.contents)) continue;
      const value = new Reader(document, refuse).value(document.contents, 0);
      yield batchOf(sourceOf(value, original, place));
    }
    if (commented !== undefined)
      notes({
        message: 'comments are not kept',
        place: { file: input.name, ...place(commented) },
      });
  },
};

/** The offset of the first comment of a document; undefined when it has none. */
function firstComment(document: Document): number | undefined {
  if (document.commentBefore) return 0;
  let found: number | undefined;
  visit(document, (_, node) => {
    const each = node as Node | Pair | null;
    if (each === null || !('range' in each) || !(each.comment ?? each.commentBefore)) return undefined;
    found = each.range?.[0] ?? 0;
    return visit.BREAK;
  });
  return found ?? (document.comment ? (document.range?.[0] ?? 0) : undefined);
}

function isEmpty(contents: Document['contents']): boolean {
  return (
    contents === null || (isScalar(contents) && contents.value === null && (contents.source ?? '') === '')
  );
}

function inOurWords(message: string): string {
  const [first = ''] = message.split('\n');
  return `${first.charAt(0).toLowerCase()}${first.slice(1)}`.replace(/[.:]$/, '');
}

class Reader {
  private copies = 0;
  private readonly open = new Set<Node>();

  constructor(
    private readonly document: Document.Parsed | Document,
    private readonly refuse: (offset: number, message: string, remedy: string) => never,
  ) {}

  private targets: ReadonlyMap<Node, Node | undefined> | undefined;

  /** What an alias stands for; the library itself goes through the whole document for each. */
  private targetOf(alias: Node): Node | undefined {
    this.targets ??= targetsIn(this.document);
    return this.targets.get(alias);
  }

  value(given: Node | ParsedNode | null | undefined, from: number): JsonValue {
    const offset = given?.range?.[0] ?? from;
    const span = { start: offset, end: offset };
    if (given === null || given === undefined) return { kind: 'null', ...span };
    let node: Node = given;
    if (isAlias(node)) {
      const target = this.targetOf(node);
      if (target === undefined)
        return this.refuse(
          offset,
          `the alias *${node.source} refers to nothing`,
          'Define the anchor before it.',
        );
      if (this.open.has(target))
        this.refuse(
          offset,
          `the alias *${node.source} refers to what it is in`,
          'A value cannot hold itself.',
        );
      node = target;
    }
    if (++this.copies > mostCopies)
      this.refuse(
        offset,
        'aliases make more than a million values of this document',
        'Write out what is needed.',
      );
    if (isScalar(node)) return this.scalar(node, offset);
    this.open.add(node);
    const value = isSeq(node)
      ? {
          kind: 'list' as const,
          items: node.items.map((each) => this.element(each as Node | Pair<Node, Node | null>, offset)),
          ...span,
        }
      : isMap(node)
        ? {
            kind: 'object' as const,
            members: this.members(node.items as Pair<Node, Node | null>[], offset),
            ...span,
          }
        : { kind: 'null' as const, ...span };
    this.open.delete(node);
    return value;
  }

  /** An element of a list; of an ordered map, one key and its value. */
  private element(each: Node | Pair<Node, Node | null>, from: number): JsonValue {
    if (!isPair(each)) return this.value(each, from);
    const members = this.members([each], from);
    const start = members[0]?.keyStart ?? from;
    return { kind: 'object', members, start, end: start };
  }

  private members(items: readonly Pair<Node, Node | null>[], from: number): JsonMember[] {
    const own: JsonMember[] = [];
    const merged: JsonMember[] = [];
    for (const { key, value } of items) {
      const keyStart = key.range?.[0] ?? from;
      const target = isAlias(key) ? this.targetOf(key) : key;
      if (isScalar(target) && isMerge(target)) {
        for (const each of this.mergedIn(value, keyStart)) merged.push(each);
        continue;
      }
      if (!isScalar(target) || typeof target.value !== 'string')
        this.refuse(keyStart, 'a key here is no text', 'Put it in quotes: JSON has no other keys.');
      else own.push({ key: target.value, keyStart, value: this.value(value, keyStart) });
    }
    const keys = new Set(own.map(({ key }) => key));
    // Of several that are merged, the first that has a key gives its value.
    for (const each of merged) {
      if (keys.has(each.key)) continue;
      keys.add(each.key);
      own.push(each);
    }
    return own;
  }

  private mergedIn(value: Node | null, from: number): readonly JsonMember[] {
    const source = this.value(value, from);
    const parts = source.kind === 'list' ? source.items : [source];
    return parts.flatMap((part) =>
      part.kind === 'object'
        ? part.members
        : this.refuse(part.start, 'only maps can be merged', 'Give a map, or a list of maps.'),
    );
  }

  private scalar(node: Scalar, offset: number): JsonValue {
    const span = { start: offset, end: offset };
    const { value, source } = node;
    if (value === null || value === undefined) return { kind: 'null', ...span };
    if (typeof value === 'boolean') return { kind: 'boolean', value, ...span };
    if (typeof value === 'number' || typeof value === 'bigint')
      return { kind: 'number', text: this.digits(source ?? String(value), value, offset), ...span };
    if (typeof value === 'string') return { kind: 'string', value, ...span };
    if (value instanceof Uint8Array)
      return { kind: 'string', value: Buffer.from(value).toString('base64'), ...span };
    return this.refuse(offset, 'a value here has a type that JSON has not', 'Write it as text, in quotes.');
  }

  /** A number in JSON's spelling, with all its digits. */
  private digits(source: string, value: number | bigint, offset: number): string {
    if (typeof value === 'number' && !Number.isFinite(value))
      return /^[-+]?\d/.test(source)
        ? source.replace(/^\+/, '')
        : this.refuse(
            offset,
            `${source} is a number that JSON has not`,
            'Leave it out, write null, or put it in quotes.',
          );
    const text = source.trim();
    if (/^0[xo]/i.test(text)) return BigInt(text).toString();
    const [, sign = '', whole = '', fraction = '', exponent = ''] =
      /^([-+]?)(\d*)(?:\.(\d*))?([eE][-+]?\d+)?$/.exec(text) ?? [];
    const digits = whole.replace(/^0+(?=\d)/, '') || '0';
    return `${sign === '-' ? '-' : ''}${digits}${fraction === '' ? '' : `.${fraction}`}${exponent}`;
  }
}

/** The aliases of a document, each with the last node before it that has its anchor. */
function targetsIn(document: Document): Map<Node, Node | undefined> {
  const anchored = new Map<string, Node>();
  const targets = new Map<Node, Node | undefined>();
  visit(document, {
    Node: (_, node) => {
      if (isAlias(node)) targets.set(node, anchored.get(node.source));
      else if (node.anchor !== undefined) anchored.set(node.anchor, node);
    },
  });
  return targets;
}

function isMerge({ value, type }: Scalar): boolean {
  return (value === '<<' && type === 'PLAIN') || typeof value === 'symbol';
}
