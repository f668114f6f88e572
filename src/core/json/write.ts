import type { JsonValue } from './value.js';

/**
 * JSON text of a value: numbers in their own digits, lone surrogates as escapes, everything else as UTF-8
 * would carry it. Keeps its own stack, so depth is bounded by memory only.
 *
 * @param indent spaces a level; 0 writes one line without spaces
 */
export function writeJson(value: JsonValue, indent = 0): string {
  const out: string[] = [];
  const stack: { value: JsonValue; next: number }[] = [];
  const newLine = (depth: number) => (indent === 0 ? '' : `\n${' '.repeat(indent * depth)}`);
  let current: JsonValue | undefined = value;
  for (;;) {
    if (current !== undefined) {
      if (isScalarOrEmpty(current)) {
        out.push(scalarText(current));
        current = undefined;
      } else {
        out.push(current.kind === 'list' ? '[' : '{');
        stack.push({ value: current, next: 0 });
        current = undefined;
      }
    }
    const top = stack[stack.length - 1];
    if (top === undefined) return out.join('');
    const { value: open } = top;
    const length =
      open.kind === 'list' ? open.items.length : open.kind === 'object' ? open.members.length : 0;
    if (top.next === length) {
      stack.pop();
      out.push(newLine(stack.length), open.kind === 'list' ? ']' : '}');
      continue;
    }
    if (top.next > 0) out.push(',');
    out.push(newLine(stack.length));
    const index = top.next++;
    if (open.kind === 'list') {
      current = open.items[index];
    } else if (open.kind === 'object') {
      const each = open.members[index]!;
      out.push(quote(each.key), indent === 0 ? ':' : ': ');
      current = each.value;
    }
  }
}

/** A string as a JSON literal. Lone surrogates come out as escapes (well-formed JSON.stringify). */
export function quote(text: string): string {
  return JSON.stringify(text);
}

function isScalarOrEmpty(value: JsonValue): boolean {
  if (value.kind === 'list') return value.items.length === 0;
  if (value.kind === 'object') return value.members.length === 0;
  return true;
}

function scalarText(value: JsonValue): string {
  switch (value.kind) {
    case 'null':
      return 'null';
    case 'boolean':
      return String(value.value);
    case 'number':
      return value.text;
    case 'string':
      return quote(value.value);
    case 'list':
      return '[]';
    case 'object':
      return '{}';
  }
}
