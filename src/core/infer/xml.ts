import { json, type JsonValue } from '../json/value.js';
import type { Node } from './graph.js';

/**
 * How a key of a document that was XML is written there: the `xml` object of the OpenAPI specification (3.1, section 4.8.26, and
 * `nodeType` of 3.2); undefined for a plain element of its own name.
 * @param node what stands under the key
 */
export function xmlOf(key: string, node: Node): JsonValue | undefined {
  if (key === '#text') return json.object([['nodeType', json.string('text')]]);
  const isAttribute = key.startsWith('@');
  const written = isAttribute ? key.slice(1) : key;
  // A declaration of a prefix is called as it is written.
  const parts = written.startsWith('xmlns:') ? null : /^([^:]+):([^:]+)$/.exec(written);
  const [, prefix, name] = parts ?? [undefined, undefined, written];
  if (!isAttribute && prefix === undefined) return undefined;
  const namespace = prefix === undefined ? undefined : namespaceOf(node, prefix);
  return json.object([
    ['name', json.string(name!)],
    ['prefix', prefix === undefined ? undefined : json.string(prefix)],
    ['namespace', namespace === undefined ? undefined : json.string(namespace)],
    ['attribute', isAttribute ? json.boolean(true) : undefined],
  ]);
}

/** What a prefix stands for at a node, when it is the same in all documents. */
function namespaceOf(node: Node, prefix: string): string | undefined {
  for (let around: Node | undefined = node; around !== undefined; around = around.parent) {
    const declared = around.self().edges.get(`@xmlns:${prefix}`);
    if (declared === undefined) continue;
    const { tokens, strings } = declared.node.self().facts;
    const [only, ...others] = tokens?.byText.values() ?? [];
    return only !== undefined && others.length === 0 && only.count === strings ? only.text : undefined;
  }
  return undefined;
}
