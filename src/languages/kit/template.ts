/** What the holes of a template are filled with: texts, conditions, and lists of the same. */
export interface Scope {
  readonly [name: string]: string | boolean | readonly Scope[];
}

/**
 * Fills a template, which is a file of the language that it writes.
 *
 * `__name__` is a hole. A hole that ends its line takes several lines, each with what stands before it, and takes the
 * whole line away when its text is empty. Lines that hold nothing but a comment with a colon direct:
 *
 *     //: if name      (or `if !name`; `else` between)
 *     //: each list    (once for each scope of the list)
 *     //: columns list (the same for one line, its words set in columns, or what tabs keep apart)
 *     //: end
 *
 * @param comment what begins a comment of the language
 * @throws Error for a hole or list that the scope has not: the template is wrong then, or whoever fills it
 */
export function fill(template: string, scope: Scope, comment = '//'): string {
  const parser = new Parser(template.replace(/\n$/, '').split('\n'), comment);
  return render(parser.block(undefined), [scope]).join('\n');
}

type Node =
  | { readonly kind: 'line'; readonly text: string }
  | { readonly kind: 'each'; readonly name: string; readonly body: readonly Node[] }
  | { readonly kind: 'columns'; readonly name: string; readonly row: string; readonly comment: string }
  | {
      readonly kind: 'if';
      readonly name: string;
      readonly wanted: boolean;
      readonly body: readonly Node[];
      readonly otherwise: readonly Node[];
    };

class Parser {
  private at = 0;

  constructor(
    private readonly lines: readonly string[],
    private readonly comment: string,
  ) {}

  private readonly sign = `${this.comment}:`;

  /** Nodes up to the `end` or `else` of a directive, which is read too; up to the end of the text for none. */
  block(opening: string | undefined): Node[] {
    const nodes: Node[] = [];
    for (;;) {
      const line = this.lines[this.at++];
      if (line === undefined) {
        if (opening !== undefined) throw new Error(`${opening} has no end`);
        return nodes;
      }
      const directive = line.trim();
      if (!directive.startsWith(this.sign)) {
        nodes.push({ kind: 'line', text: line });
        continue;
      }
      const [word = '', name = ''] = directive.slice(this.sign.length).trim().split(/\s+/);
      if (word === 'end' || word === 'else') {
        if (word === 'else') this.at--;
        return nodes;
      }
      nodes.push(this.directive(word, name, directive));
    }
  }

  private directive(word: string, name: string, directive: string): Node {
    const body = this.block(directive);
    switch (word) {
      case 'each':
        return { kind: 'each', name, body };
      case 'columns': {
        const [row] = body;
        if (row?.kind !== 'line' || body.length > 1) throw new Error(`${directive} takes one line`);
        return { kind: 'columns', name, row: row.text, comment: this.comment };
      }
      case 'if': {
        let otherwise: Node[] = [];
        if (this.lines[this.at]?.trim() === `${this.sign} else`) {
          this.at++;
          otherwise = this.block(directive);
        }
        return { kind: 'if', name: name.replace('!', ''), wanted: !name.startsWith('!'), body, otherwise };
      }
      default:
        throw new Error(`templates know no ${directive}`);
    }
  }
}

/** @param scopes the nearest first */
function render(nodes: readonly Node[], scopes: readonly Scope[]): string[] {
  return nodes.flatMap((node) => {
    switch (node.kind) {
      case 'line':
        return filled(node.text, scopes);
      case 'each':
        return listOf(node.name, scopes).flatMap((scope) => render(node.body, [scope, ...scopes]));
      case 'columns':
        return columns(node, listOf(node.name, scopes), scopes);
      case 'if': {
        const value = lookUp(node.name, scopes);
        const holds = typeof value === 'boolean' ? value : value.length > 0;
        return render(holds === node.wanted ? node.body : node.otherwise, scopes);
      }
    }
  });
}

/** A line, or those that the hole at its end came to. */
function filled(line: string, scopes: readonly Scope[]): string[] {
  const last = /^(.*?)__((?:(?!__)\w)+)__$/.exec(line);
  const isAlone = last !== null && !last[1]!.includes('__');
  if (!isAlone) return [withHoles(line, scopes)];
  const text = textOf(last[2]!, scopes);
  if (text === '') return /\w/.test(last[1]!) ? [last[1]!.trimEnd()] : [];
  return text.split('\n').map((each) => `${last[1]!}${each}`.trimEnd());
}

function withHoles(line: string, scopes: readonly Scope[]): string {
  return line.replace(/__((?:(?!__)\w)+)__/g, (_, name: string) => textOf(name, scopes));
}

/**
 * One line for each scope, its words below each other; where some have a `doc`, each is by itself below its own, as a
 * comment, with an empty line between.
 */
function columns(
  { row, comment }: { readonly row: string; readonly comment: string },
  list: readonly Scope[],
  scopes: readonly Scope[],
): string[] {
  const indent = /^\s*/.exec(row)![0];
  const cells = list.map((scope) =>
    row
      .trim()
      .split(row.trim().includes('\t') ? '\t' : ' ')
      .map((cell) => withHoles(cell, [scope, ...scopes])),
  );
  const docs = list.map(({ doc }) => (typeof doc === 'string' ? doc : ''));
  if (docs.some((doc) => doc !== ''))
    return cells.flatMap((own, i) => [
      ...(i > 0 ? [''] : []),
      ...(docs[i] === '' ? [] : docs[i]!.split('\n')).map((line) => `${indent}${comment} ${line}`.trimEnd()),
      `${indent}${own.filter(Boolean).join(' ')}`,
    ]);
  const widths = (cells[0] ?? []).map((_, i) => Math.max(...cells.map((own) => [...own[i]!].length)));
  return cells.map((own) =>
    `${indent}${own.map((cell, i) => cell.padEnd(widths[i]! + cell.length - [...cell].length)).join(' ')}`.trimEnd(),
  );
}

function lookUp(name: string, scopes: readonly Scope[]): Scope[string] {
  const scope = scopes.find((each) => Object.hasOwn(each, name));
  if (scope === undefined) throw new Error(`nothing fills ${name}`);
  return scope[name]!;
}

function textOf(name: string, scopes: readonly Scope[]): string {
  const value = lookUp(name, scopes);
  if (typeof value !== 'string') throw new Error(`${name} is no text`);
  return value;
}

function listOf(name: string, scopes: readonly Scope[]): readonly Scope[] {
  const value = lookUp(name, scopes);
  if (typeof value !== 'object') throw new Error(`${name} is no list`);
  return value;
}
