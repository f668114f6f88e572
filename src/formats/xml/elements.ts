import type { SaxesTagPlain } from 'saxes';
import { quoted, type JsonPieces } from '../json-pieces.js';
import type { Window } from './window.js';

/** An element that is being read. */
interface Open {
  readonly position: number;
  /** Where its content begins in the document. */
  readonly from: number;
  /** The pieces that its value begins with: the first, and the first after its attributes. */
  readonly first: number;
  readonly content: number;
  readonly attributes: number;
  readonly isNil: boolean;
  text: string;
  /** The name of the child elements that came last, and the piece that opens a list when there are more of them. */
  name: string | undefined;
  bracket: number;
  /** The names of all runs of child elements of one name, and the pieces with which they begin. */
  readonly names: string[];
  readonly starts: number[];
  /** The same names to look one up in, once there are several. */
  known: Set<string> | undefined;
  /** Whether elements of one name stand around others. */
  isScattered: boolean;
}

/** Elements as JSON, put together while they come. */
export class Elements {
  private readonly stack: Open[] = [];
  private readonly keys = new Map<string, string>();

  constructor(
    private readonly out: JsonPieces,
    private readonly document: Window,
  ) {}

  /** Elements that are open. */
  get depth(): number {
    return this.stack.length;
  }

  open({ name, attributes }: SaxesTagPlain, position: number, from: number): void {
    const { out, stack } = this;
    if (stack.length > 0) this.enter(stack[stack.length - 1]!, name, position);
    const first = out.length;
    let count = 0;
    let isNil = false;
    for (const key in attributes) {
      const value = attributes[key]!;
      out.put(`${count++ === 0 ? '{' : ','}"@${key}":${quoted(value)}`, position);
      if (key.endsWith('nil')) isNil ||= /^(\w+:)?nil$/.test(key) && /^(true|1)$/.test(value);
    }
    stack.push({
      position,
      from,
      first,
      content: out.length,
      attributes: count,
      isNil,
      text: '',
      name: undefined,
      bracket: 0,
      names: [],
      starts: [],
      known: undefined,
      isScattered: false,
    });
  }

  /** A child element begins in another. */
  private enter(around: Open, name: string, position: number): void {
    const { out } = this;
    if (around.name === name) {
      out.fill(around.bracket, '[');
      out.put(',');
      return;
    }
    const isFirst = around.name === undefined;
    if (!isFirst) {
      if (out.at(around.bracket) === '[') out.put(']');
      around.known ??= new Set([around.name!]);
      if (around.known.has(name)) around.isScattered = true;
      else around.known.add(name);
    }
    around.names.push(name);
    around.starts.push(out.length);
    out.put(isFirst && around.attributes === 0 ? '{' : ',', around.position);
    out.put(this.keyOf(name), position);
    around.bracket = out.length;
    out.put('', position);
    around.name = name;
  }

  private keyOf(name: string): string {
    let key = this.keys.get(name);
    if (key === undefined) this.keys.set(name, (key = `${quoted(name)}:`));
    return key;
  }

  text(piece: string): void {
    const element = this.stack[this.stack.length - 1];
    if (element !== undefined) element.text += piece;
  }

  /** @param end the offset in the document at which the element has ended */
  close(end: number): void {
    const { out } = this;
    const element = this.stack.pop()!;
    const { text, position, attributes, name } = element;
    if (name !== undefined && text.trim() !== '') {
      // Text between elements cannot be kept under keys: all of it stays markup.
      out.cut(element.content);
      const markup = this.document.upToMark(element.from, '<', end);
      this.member(element, '#markup', markup);
    } else if (name !== undefined) {
      if (out.at(element.bracket) === '[') out.put(']');
      if (element.isScattered) this.gather(element);
      out.put('}');
    } else if (attributes === 0) out.put(quoted(text), position);
    else if (element.isNil && attributes === 1) {
      out.cut(element.first);
      out.put('null', position);
    } else if (text === '') out.put('}');
    else this.member(element, '#text', text);
  }

  private member({ attributes, position }: Open, key: string, text: string): void {
    this.out.put(`${attributes === 0 ? '{' : ','}"${key}":${quoted(text)}}`, position);
  }

  /** Makes elements of one name one list, wherever they stand in another. */
  private gather({ names, starts }: Open): void {
    const { out } = this;
    const runs = new Map<string, (readonly [from: number, to: number])[]>();
    names.forEach((name, i) => {
      const run = [starts[i]!, starts[i + 1] ?? out.length] as const;
      const known = runs.get(name);
      if (known === undefined) runs.set(name, [run]);
      else known.push(run);
    });
    const order: (readonly [number, number] | string)[] = [];
    for (const same of runs.values()) {
      const [[first, end], ...others] = same as [readonly [number, number], ...(readonly [number, number])[]];
      if (others.length === 0) {
        order.push([first, end]);
        continue;
      }
      // What begins a run: a sign, the key, and what opens a list.
      order.push([first, first + 2], '[');
      same.forEach(([from, to], i) => {
        if (i > 0) order.push(',');
        order.push([from + 3, out.at(from + 2) === '[' ? to - 1 : to]);
      });
      order.push(']');
    }
    out.arrange(starts[0]!, order);
  }
}
