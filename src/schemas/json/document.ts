import { SkevoError } from '../../core/error.js';
import { nearest } from '../../core/nearest.js';
import { parsePointer } from '../../core/json/pointer.js';
import { excerptOf, type Source } from '../../core/json/source.js';
import type { Draft } from '../../core/schema/draft.js';
import { membersByKey, type JsonObject, type JsonValue } from '../../core/json/value.js';

/** A file of schemas. */
export interface Document {
  readonly source: Source;
  readonly root: JsonValue;
  readonly draft: Draft;
  /** Where it was read from. */
  readonly location: URL;
}

/** A schema and the document that it stands in. */
export interface Found {
  readonly node: JsonValue;
  readonly document: Document;
  /** What the reference calls it: its last part that is a name. */
  readonly name: string;
}

/** Reads a file that a reference leads to; undefined when there is none. @throws SkevoError when it may not be read */
export type ReadDocument = (location: URL) => Document | undefined;

/** All documents that schemas refer to each other in, and where each identifier stands. */
export class Documents {
  private readonly byLocation = new Map<string, Document>();
  private readonly byId = new Map<string, Found>();
  private readonly bases = new Map<JsonValue, URL>();

  constructor(private readonly read: ReadDocument) {}

  /** Makes a document known, with all that is called something in it. */
  add(document: Document): void {
    this.byLocation.set(document.location.href, document);
    const waiting: [JsonValue, URL][] = [[document.root, document.location]];
    for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
      const [value, around] = next;
      if (value.kind === 'list') for (const item of value.items) waiting.push([item, around]);
      if (value.kind !== 'object') continue;
      const members = membersByKey(value);
      let base = around;
      const id = members.get(document.draft === '4' ? 'id' : '$id')?.value;
      // In older drafts what stands beside a reference means nothing.
      const isBeside =
        ['4', '6', '7'].includes(document.draft) && members.get('$ref')?.value.kind === 'string';
      if (!isBeside && id?.kind === 'string' && URL.canParse(id.value, around.href)) {
        base = new URL(id.value, around);
        this.byId.set(base.href, { node: value, document, name: nameOfFile(base) });
        base.hash = '';
      }
      this.bases.set(value, base);
      for (const key of ['$anchor', '$dynamicAnchor']) {
        const anchor = members.get(key)?.value;
        if (anchor?.kind !== 'string') continue;
        const url = new URL(base);
        url.hash = anchor.value;
        this.byId.set(url.href, { node: value, document, name: anchor.value });
      }
      for (const { key, value: inner } of members.values())
        // What these hold are payloads, not schemas.
        if (!['enum', 'const', 'default', 'examples', 'example'].includes(key)) waiting.push([inner, base]);
    }
  }

  /** All documents, in the order in which they were read. */
  all(): Document[] {
    return [...this.byLocation.values()];
  }

  /**
   * What a reference leads to.
   * @param from the object that refers
   * @throws SkevoError for one that leads nowhere, or to what is not read
   */
  resolve(reference: string, from: JsonObject, document: Document): Found {
    const base = this.bases.get(from) ?? document.location;
    const fail = (message: string, remedy: string): never => {
      throw new SkevoError(message, remedy, excerptOf(document.source, from.start));
    };
    if (!URL.canParse(reference, base.href))
      return fail(
        `the reference ${JSON.stringify(reference)} is no URI`,
        'Refer to a type of the file, such as "#/$defs/Pier", or to a file beside it, such as "pier.json".',
      );
    const url = new URL(reference, base);
    const known = this.byId.get(url.href);
    if (known !== undefined) return known;
    const fragment = decoded(url.hash.slice(1));
    url.hash = '';
    const target = this.whole(url, base, document);
    if (target === undefined)
      return fail(
        `the reference ${JSON.stringify(reference)} leads to ${url.protocol === 'file:' ? 'no file' : 'the network, where nothing is fetched'}`,
        url.protocol === 'file:' ? 'Check its path.' : 'Put the file beside the schema, under that name.',
      );
    if (fragment === '') return target;
    const tokens = parsePointer(fragment);
    let node: JsonValue | undefined = target.node;
    let name = target.name;
    if (target.node.kind === 'boolean') return target;
    for (const token of tokens ?? ['']) {
      const next: JsonValue | undefined =
        node?.kind === 'object'
          ? membersByKey(node).get(token)?.value
          : node?.kind === 'list'
            ? node.items[Number(token)]
            : undefined;
      if (next === undefined) {
        const keys = node?.kind === 'object' ? node.members.map(({ key }) => key) : [];
        const near = nearest(token, keys);
        const hint = near === undefined ? 'Check its path.' : `Did you mean ${JSON.stringify(near)}?`;
        return fail(`the reference ${JSON.stringify(reference)} leads nowhere in this schema`, hint);
      }
      node = next;
      if (!/^(?:items|schema|properties|\d+|allOf|anyOf|oneOf|additionalProperties|not)$/.test(token))
        name = token;
    }
    return { node: node!, document: target.document, name };
  }

  /** A document in which references to other files say where those are, whatever URI it says of itself. */
  located(document: Document): JsonValue {
    const visit = (value: JsonValue, isRoot: boolean): JsonValue => {
      if (value.kind === 'list') return { ...value, items: value.items.map((each) => visit(each, false)) };
      if (value.kind !== 'object') return value;
      const members = value.members.flatMap((each) => {
        const { key, value: inner } = each;
        if (isRoot && (key === '$id' || (key === 'id' && document.draft === '4'))) return [];
        if (key !== '$ref' || inner.kind !== 'string' || inner.value.startsWith('#'))
          return [{ ...each, value: visit(inner, false) }];
        const target = this.resolve(inner.value, value, document).document;
        if (target === document) return [each];
        const hash = inner.value.indexOf('#');
        const located = `${target.location.href}${hash < 0 ? '' : inner.value.slice(hash)}`;
        return [{ ...each, value: { ...inner, value: located } }];
      });
      return { ...value, members };
    };
    return visit(document.root, true);
  }

  /** What a URI without a fragment stands for. */
  private whole(url: URL, base: URL, document: Document): Found | undefined {
    const known = this.byId.get(url.href) ?? this.byId.get(`${url.href}#`);
    if (known !== undefined) return known;
    // Beside a schema that says another URI of itself, files stand as their URIs do.
    const location =
      url.protocol === 'file:'
        ? url
        : base.origin === url.origin && base.protocol !== 'file:'
          ? new URL(relativeTo(base, url), document.location)
          : undefined;
    // A schema of schemas says of a value what nobody makes types of.
    if (url.hostname === 'json-schema.org' || url.hostname === 'spec.openapis.org')
      return { node: { kind: 'boolean', value: true, start: 0, end: 0 }, document, name: 'Schema' };
    if (location === undefined) return undefined;
    const read = this.byLocation.get(location.href) ?? this.read(location);
    if (read === undefined) return undefined;
    if (!this.byLocation.has(location.href)) this.add(read);
    return { node: read.root, document: read, name: nameOfFile(location) };
  }
}

function relativeTo(base: URL, url: URL): string {
  const from = base.pathname.split('/').slice(0, -1);
  const to = url.pathname.split('/');
  let same = 0;
  while (same < from.length && from[same] === to[same]) same++;
  return `${'../'.repeat(from.length - same)}${to.slice(same).join('/')}` || './';
}

/** What a file is about, by its name. */
export function nameOfFile({ pathname }: URL): string {
  const file = decoded(pathname.split('/').findLast((part) => part !== '') ?? '');
  return file.replace(/(?:\.schema)?\.(?:json|ya?ml|avsc|xsd)$/i, '') || 'Schema';
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
