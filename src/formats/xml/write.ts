import { markupOf } from '../../core/schema/conform.js';
import { membersByKey, type JsonMember, type JsonObject, type JsonValue } from '../../core/json/value.js';
import { unheld } from '../unheld.js';

/** XML 1.0, section 2.3, with at most one colon. */
const start = '[\\p{L}\\p{Nl}_]';
const part = '[\\p{L}\\p{Nl}\\p{Nd}\\p{M}_.·-]';
const nameOfXml = new RegExp(`^${start}${part}*(?::${start}${part}*)?$`, 'u');
/** XML 1.0, section 2.2: what no document may hold. */
const unheldText =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;

const declaration = '<?xml version="1.0" encoding="UTF-8"?>\n';

/**
 * A value as an XML document, as `read` reads it: the one key of the object is the root element, `@name` an attribute, `#text`
 * text beside attributes, `#markup` text and elements as they were, a list an element again and again.
 * @throws SkevoError with the place of the first part that XML cannot hold
 */
export function documentOf(value: JsonObject): string {
  const [{ key, value: root }] = [...membersByKey(value).values()] as [JsonMember];
  return declaration + elementOf(key, root, [key], '');
}

/** What stands before elements in an element around them. */
export function headOf(name: string): string {
  if (!nameOfXml.test(name))
    throw unheld([], `${JSON.stringify(name)} is no name in XML`, 'Name it by --name.');
  return `${declaration}<${name}>\n`;
}

export function endOf(name: string): string {
  return `</${name}>\n`;
}

/** A value as an element of a name. @param indent what stands before it @throws SkevoError as `documentOf` */
export function elementOf(name: string, value: JsonValue, tokens: readonly string[], indent: string): string {
  const out: string[] = [];
  element(out, name, value, tokens, indent);
  return out.join('');
}

/** @param indent what stands before the element on its line */
function element(
  out: string[],
  name: string,
  value: JsonValue,
  tokens: readonly string[],
  indent: string,
): void {
  if (!nameOfXml.test(name))
    throw unheld(tokens, `${JSON.stringify(name)} is no name in XML`, 'Rename the key.');
  if (value.kind === 'list')
    throw unheld(tokens, 'a list in a list, or at the top, has no name in XML', 'Put it under a key.');
  out.push(`${indent}<${name}`);
  const members = value.kind === 'object' ? [...membersByKey(value).values()] : [];
  for (const { key, value: each } of members) {
    if (!key.startsWith('@')) continue;
    const place = [...tokens, key];
    if (!nameOfXml.test(key.slice(1)))
      throw unheld(place, `${JSON.stringify(key)} is no name in XML`, 'Rename the key.');
    if (each.kind === 'object' || each.kind === 'list')
      throw unheld(place, 'an attribute holds one value', 'Make it an element.');
    out.push(
      ` ${key.slice(1)}="${escaped(textOf(each, place)).replace(/"/g, '&quot;').replace(/\n/g, '&#10;').replace(/\t/g, '&#9;')}"`,
    );
  }
  const content = members.filter(({ key }) => !key.startsWith('@'));
  const [only] = content;
  const text =
    value.kind === 'object'
      ? content.length === 1 && only!.key === '#text'
        ? only!.value
        : undefined
      : value;
  const markup =
    content.length === 1 && only!.key === '#markup' && only!.value.kind === 'string'
      ? only!.value.value
      : undefined;
  const inside = text === undefined ? (markup ?? '') : escaped(textOf(text, tokens));
  if (content.length === 0 || text !== undefined || markup !== undefined) {
    out.push(inside === '' ? '/>\n' : `>${inside}</${name}>\n`);
    return;
  }
  out.push('>\n');
  for (const { key, value: each } of content) {
    const place = [...tokens, key];
    if (each.kind !== 'list') {
      element(out, key, each, place, `${indent}  `);
      continue;
    }
    if (each.items.length === 0)
      throw unheld(place, 'an empty list cannot be told from none in XML', 'Leave it out.');
    each.items.forEach((item, i) => element(out, key, item, [...place, String(i)], `${indent}  `));
  }
  out.push(`${indent}</${name}>\n`);
}

function escaped(text: string): string {
  return markupOf(text).replace(/\r/g, '&#13;');
}

function textOf(value: JsonValue, tokens: readonly string[]): string {
  if (value.kind === 'null') return '';
  if (value.kind === 'number') return value.text;
  if (value.kind === 'boolean') return String(value.value);
  if (value.kind !== 'string')
    throw unheld(tokens, `an element cannot be a ${value.kind} here`, 'Put it under a key.');
  if (unheldText.test(value.value))
    throw unheld(tokens, 'this text has a character that XML cannot hold', 'Leave it out.');
  return value.value;
}
