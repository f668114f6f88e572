import { json, type JsonValue } from '../../core/json/value.js';
import type { Schema } from '../../core/schema/schema.js';
import type { Element } from './tree.js';

const numbers: Readonly<Record<string, string>> = {
  minInclusive: 'minimum',
  maxInclusive: 'maximum',
  minExclusive: 'exclusiveMinimum',
  maxExclusive: 'exclusiveMaximum',
};

const lengths: Readonly<Record<string, readonly string[]>> = {
  length: ['minLength', 'maxLength'],
  minLength: ['minLength'],
  maxLength: ['maxLength'],
};

/**
 * A simple type as a restriction of it narrows it: its words, or the bounds of its numbers and texts (XML Schema part 2, 4.3).
 * @param tell takes a facet that JSON Schema does not have
 */
export function restricted(
  base: Schema,
  { children }: Element,
  tell: (facet: Element, name: string) => void,
): Schema {
  if (base.$ref !== undefined || base.anyOf !== undefined) return base;
  const type = base.type?.[0] ?? 'string';
  const words = children.filter(({ name }) => name === 'enumeration');
  if (words.length > 0)
    return type === 'string'
      ? { ...base, enum: words.map(({ attributes }) => json.string(attributes['value'] ?? '')) }
      : base;
  const other = new Map<string, JsonValue>(base.other);
  const patterns: string[] = [];
  for (const facet of children) {
    const { name } = facet;
    const value = facet.attributes['value'] ?? '';
    const isNumber = /^[+-]?(?:\d+\.?\d*|\.\d+)$/.test(value);
    const bound = numbers[name];
    if (name === 'annotation' || name === 'whiteSpace') continue;
    else if (bound !== undefined && isNumber && type !== 'string')
      other.set(bound, json.number(plain(value)));
    else if (name in lengths && isNumber && type === 'string' && base.other?.has('contentEncoding') !== true)
      for (const keyword of lengths[name]!) other.set(keyword, json.number(plain(value)));
    else if (name === 'pattern' && type === 'string' && isShared(value)) patterns.push(value);
    else if (!['simpleType', 'attribute', 'attributeGroup', 'anyAttribute'].includes(name)) tell(facet, name);
  }
  // Several patterns of one restriction are alternatives.
  if (patterns.length > 0) other.set('pattern', json.string(`^(?:${patterns.join('|')})$`));
  return other.size === 0 ? base : { ...base, other };
}

/** Whether a pattern means the same in JSON Schema: classes of names and differences of classes are of XML alone. */
function isShared(pattern: string): boolean {
  if (/\\[ic]|-\[|\\p\{Is|[\^$]/i.test(pattern)) return false;
  try {
    new RegExp(pattern, 'u');
    return true;
  } catch {
    return false;
  }
}

/** A number of XML as JSON writes it. */
function plain(text: string): string {
  const [, sign, whole, fraction] = /^([+-]?)0*(\d*)\.?(\d*)$/.exec(text)!;
  return `${sign === '-' ? '-' : ''}${whole === '' ? '0' : whole}${fraction === '' ? '' : `.${fraction}`}`;
}
