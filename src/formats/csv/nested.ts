import { json, membersByKey, type JsonValue } from '../../core/json/value.js';
import { quoted, type JsonPieces } from '../json-pieces.js';
import { unheld } from '../unheld.js';

/** What stands under a key of a record, or at a position of a list: a cell, or columns of parts. */
type Node = { readonly column: number } | Fields | List;

interface Fields {
  readonly fields: Map<string, Node>;
}

interface List {
  readonly items: Node[];
}

/** Tells that a column does not fit to the others. */
type Refuse = (column: number, message: string, remedy: string) => never;

/**
 * Columns that are parts of records and lists: `gate.pier` is the field `pier` of the record `gate`, `legs[0]` the first
 * element of the list `legs`.
 */
export class Nesting {
  private readonly root: Fields = { fields: new Map() };

  constructor(header: readonly string[], refuse: Refuse) {
    header.forEach((name, column) => this.add(name, column, refuse));
    this.checkLists(this.root, refuse);
  }

  private add(name: string, column: number, refuse: Refuse): void {
    const steps = stepsOf(name);
    if (steps === undefined)
      return refuse(
        column,
        `the column ${quoted(name)} names no part`,
        'Name parts as in gate.pier or legs[0].pier.',
      );
    let at: Node = this.root;
    steps.forEach((step, i) => {
      const isLast = i === steps.length - 1;
      const fresh = (): Node =>
        isLast ? { column } : typeof steps[i + 1] === 'number' ? { items: [] } : { fields: new Map() };
      const known: Node | undefined =
        typeof step === 'number'
          ? 'items' in at
            ? at.items[step]
            : clash()
          : 'fields' in at
            ? at.fields.get(step)
            : clash();
      const next: Node = known ?? fresh();
      if (known !== undefined && (isLast || 'column' in known)) clash();
      if (typeof step === 'number') (at as List).items[step] = next;
      else (at as Fields).fields.set(step, next);
      at = next;
    });
    function clash(): never {
      return refuse(
        column,
        `the column ${quoted(name)} is a part of what another column is`,
        'A column is a cell, or a record or list with parts.',
      );
    }
  }

  private checkLists(node: Node, refuse: Refuse): void {
    if ('column' in node) return;
    const parts = 'items' in node ? node.items : [...node.fields.values()];
    for (let i = 0; i < parts.length; i++) {
      const part = parts[i];
      if (part === undefined)
        refuse(
          0,
          `a list has a column of [${i + 1}] and none of [${i}]`,
          'Count positions from 0, without gaps.',
        );
      else this.checkLists(part, refuse);
    }
  }

  /** Puts a row as JSON: a list ends before its empty elements, all else is there. */
  put(cells: readonly string[], out: JsonPieces, positionOf: (column: number) => number): void {
    const put = (node: Node): void => {
      if ('column' in node) {
        out.put(quoted(cells[node.column]!), positionOf(node.column));
        return;
      }
      if ('fields' in node) {
        let sign = '{';
        for (const [key, field] of node.fields) {
          out.put(`${sign}${quoted(key)}:`, positionOf(firstColumn(field)));
          put(field);
          sign = ',';
        }
        out.put('}');
        return;
      }
      const last = node.items.findLastIndex((item) => !isEmpty(item, cells));
      out.put('[', positionOf(firstColumn(node)));
      for (let i = 0; i <= last; i++) {
        if (i > 0) out.put(',');
        put(node.items[i]!);
      }
      out.put(']');
    };
    put(this.root);
  }
}

function firstColumn(node: Node): number {
  if ('column' in node) return node.column;
  const [first] = 'items' in node ? node.items : node.fields.values();
  return firstColumn(first!);
}

function isEmpty(node: Node, cells: readonly string[]): boolean {
  if ('column' in node) return cells[node.column] === '';
  return [...('items' in node ? node.items : node.fields.values())].every((each) => isEmpty(each, cells));
}

/** The keys and positions of a column; undefined for what is no such name. */
function stepsOf(name: string): (string | number)[] | undefined {
  if (!/^[^.[\]]+(?:\[\d{1,4}\])*(?:\.[^.[\]]+(?:\[\d{1,4}\])*)*$/.test(name)) return undefined;
  return [...name.matchAll(/\[(\d+)\]|([^.[\]]+)/g)].map(([, index, key]) =>
    index === undefined ? key! : Number(index),
  );
}

/**
 * A record with a field for every cell.
 * @throws SkevoError for keys that would be read as several, and for what is empty
 */
export function flat(value: JsonValue): JsonValue {
  if (value.kind !== 'object') return value;
  const cells: [string, JsonValue][] = [];
  const add = (each: JsonValue, name: string, tokens: readonly string[]): void => {
    if (each.kind === 'object') {
      for (const { key, value: inner } of membersByKey(each).values()) {
        if (key === '' || /[.[\]]/.test(key))
          throw unheld([...tokens, key], `the key ${quoted(key)} would be read as parts`, 'Rename it.');
        add(inner, name === '' ? key : `${name}.${key}`, [...tokens, key]);
      }
    } else if (each.kind === 'list')
      each.items.forEach((item, i) => add(item, `${name}[${i}]`, [...tokens, String(i)]));
    else cells.push([name, each]);
  };
  add(value, '', []);
  return json.object(cells);
}
