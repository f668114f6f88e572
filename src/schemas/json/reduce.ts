import { SkevoError } from '../../core/error.js';
import type { Note } from '../../core/note.js';
import { integerOf } from '../../core/json/number.js';
import { formatPointer } from '../../core/json/pointer.js';
import { sameValue } from '../../core/json/same.js';
import { excerptOf, placeOf } from '../../core/json/source.js';
import { json, membersByKey, type JsonObject, type JsonValue } from '../../core/json/value.js';
import { bounds } from '../../core/schema/keywords.js';
import { referenceTo } from '../../core/schema/resolve.js';
import { dialect, schemaToJson, type Schema, type TypeName } from '../../core/schema/schema.js';
import type { Document, Documents, Found } from './document.js';

type Draft = { -readonly [K in keyof Schema]: Schema[K] };

/** Keywords beside a reference that say nothing of what values are. */
const remarks: ReadonlySet<string> = new Set(
  '$schema $id id $anchor $dynamicAnchor $recursiveAnchor $comment $vocabulary $defs definitions title description deprecated default example examples readOnly writeOnly externalDocs xml discriminator nullable'.split(
    ' ',
  ),
);

/** Alternatives that are made at most by joining alternatives with others. */
const mostArms = 48;

const deepestSchema = 400;

/** Schemas that say something together are joined to this depth: what refers to itself on the way never ends. */
const deepestJoined = 12;

/** What several schemas say together of one value. */
interface View {
  types: TypeName[] | undefined;
  readonly properties: Map<string, JsonValue[]>;
  readonly required: Set<string>;
  /** What other keys hold; false for none. */
  additional: JsonValue[] | false | undefined;
  readonly patterns: JsonValue[];
  prefix: JsonValue[] | undefined;
  items: JsonValue[] | false | undefined;
  values: readonly JsonValue[] | undefined;
  isConst: boolean;
  readonly groups: JsonValue[];
  /** Parts that hold for some values only. */
  readonly sometimes: JsonValue[];
  nullable: boolean;
  title: string | undefined;
  description: string | undefined;
  deprecated: boolean | undefined;
  format: string | undefined;
  minItems: number | undefined;
  readonly other: Map<string, JsonValue>;
}

/** What of schemas classes do not express, by keyword. */
export type Unexpressed = ReadonlyMap<string, { readonly count: number; readonly note: Note }>;

/**
 * Any JSON Schema as one that types are made of: references to one place, parts joined that hold together, and alternatives that
 * are alternatives of whole values. What types cannot express is left out, and told.
 */
export class Reducer {
  readonly unexpressed = new Map<string, { count: number; note: Note }>();
  private readonly definitions = new Map<JsonValue, { readonly name: string; readonly found: Found }>();
  private readonly taken = new Set<string>();
  private readonly waiting: { readonly name: string; readonly found: Found }[] = [];
  private readonly documentOf = new Map<JsonValue, Document>();
  /** The words under which alternatives are told apart, by the OpenAPI specification. */
  private readonly tags = new Map<JsonValue, { readonly key: string; readonly values: string[] }>();
  private readonly including = new Map<Document, Map<JsonValue, { name: string; node: JsonValue }[]>>();
  private root: JsonValue | undefined = undefined;

  constructor(private readonly documents: Documents) {}

  /** @throws SkevoError with the place of what is no schema, and of references that lead nowhere */
  reduce(found: Found): Schema {
    let target = found;
    // A schema that only refers to another is that one.
    for (let i = 0; i < deepestSchema; i++) {
      const reference = this.pureReference(target.node, target.document);
      if (reference === undefined) break;
      target = reference;
    }
    this.root = target.node;
    const reduced = this.all([target.node], target.document, new Set(), 0);
    const defs = new Map<string, Schema>();
    for (let next = this.waiting.shift(); next !== undefined; next = this.waiting.shift())
      defs.set(next.name, this.all([next.found.node], next.found.document, new Set(), 0));
    return {
      $schema: dialect,
      ...reduced,
      title: reduced.title ?? target.name,
      ...(defs.size > 0 && { $defs: defs }),
    };
  }

  private fail(node: JsonValue, document: Document, message: string, remedy?: string): never {
    throw new SkevoError(message, remedy, excerptOf(document.source, node.start));
  }

  private tell(keyword: string, node: JsonValue, document: Document): void {
    const known = this.unexpressed.get(keyword);
    if (known !== undefined) known.count++;
    else {
      const note = {
        message: `classes do not express the keyword "${keyword}"`,
        place: placeOf(document.source, node.start),
      };
      this.unexpressed.set(keyword, { count: 1, note });
    }
  }

  /** What a schema leads to that is nothing but a reference. */
  private pureReference(node: JsonValue, document: Document): Found | undefined {
    if (node.kind !== 'object') return undefined;
    const members = membersByKey(node);
    const own = this.documentOf.get(node) ?? document;
    const all = members.get('allOf')?.value;
    const others = [...members.keys()].filter((key) => !remarks.has(key));
    const isOld = ['4', '6', '7', 'openapi-3.0'].includes(own.draft);
    const reference = this.referenceOf(members, node, own);
    if (reference !== undefined) return isOld || others.length === 1 ? reference : undefined;
    const [only] = all?.kind === 'list' && all.items.length === 1 ? all.items : [];
    return only !== undefined && others.length === 1 && !isTrue(members.get('nullable')?.value)
      ? this.pureReference(only, own)
      : undefined;
  }

  private referenceOf(
    members: ReadonlyMap<string, { readonly value: JsonValue }>,
    node: JsonObject,
    document: Document,
  ): Found | undefined {
    for (const key of ['$ref', '$dynamicRef', '$recursiveRef']) {
      const value = members.get(key)?.value;
      if (value?.kind !== 'string') continue;
      const found = this.documents.resolve(value.value, node, document);
      this.documentOf.set(found.node, found.document);
      return found;
    }
    return undefined;
  }

  /** The name of what a reference leads to, among the definitions. */
  private definitionOf(found: Found): string {
    if (found.node === this.root) return '#';
    let known = this.definitions.get(found.node);
    if (known === undefined) {
      let name = found.name;
      for (let i = 2; this.taken.has(name); i++) name = `${found.name}${i}`;
      this.taken.add(name);
      known = { name, found };
      this.definitions.set(found.node, known);
      this.waiting.push(known);
    }
    return referenceTo(known.name);
  }

  /** Whether a schema says more beside a reference. */
  private isJoined(node: JsonValue): boolean {
    return (
      node.kind === 'object' &&
      node.members.some(({ key }) => /^(?:\$(?:dynamic|recursive)?[rR]ef|allOf)$/.test(key))
    );
  }

  /**
   * @param done lists of alternatives that have been chosen from
   * @param isInline whether what it refers to is wanted in its place
   */
  private all(
    nodes: readonly JsonValue[],
    document: Document,
    done: ReadonlySet<JsonValue>,
    depth: number,
    isInline = false,
  ): Schema {
    const [first] = nodes;
    if (depth > deepestSchema)
      this.fail(
        first!,
        document,
        `schemas are nested more than ${deepestSchema} levels deep here`,
        'Move parts of it to "$defs", and refer to them by "$ref".',
      );
    if (depth > deepestJoined && (nodes.length > 1 || this.isJoined(first!))) {
      this.tell('allOf', first!, document);
      return {};
    }
    if (!isInline && nodes.length === 1 && first!.kind === 'object') {
      const reference = this.pureReference(first!, document);
      if (reference !== undefined) return this.reference(first!, reference);
    }
    const heirs = nodes.length === 1 && !done.has(first!) ? this.heirsOf(first!, document) : [];
    if (heirs.length > 0) {
      const view = { ...emptyView(), groups: [json.list(heirs)] };
      return this.alternatives(nodes, heirs, document, view, new Set([...done, first!]), depth);
    }
    const view = emptyView();
    this.gather(nodes, document, view, done);
    const group = view.groups[0];
    if (group?.kind === 'list') {
      const chosen = new Set([...done, group]);
      return this.alternatives(nodes, group.items, document, view, chosen, depth);
    }
    return this.shaped(view, document, depth);
  }

  private reference(node: JsonObject, found: Found): Schema {
    const members = membersByKey(node);
    const text = (key: string) => {
      const value = members.get(key)?.value;
      return value?.kind === 'string' ? value.value : undefined;
    };
    const description = text('description');
    const draft: Draft = {
      $ref: this.definitionOf(found),
      span: node,
      ...(description !== undefined && { description }),
      ...(isTrue(members.get('deprecated')?.value) && { deprecated: true }),
    };
    return isTrue(members.get('nullable')?.value) ? { anyOf: [draft, { type: ['null'] }] } : draft;
  }

  private gather(
    nodes: readonly JsonValue[],
    document: Document,
    view: View,
    done: ReadonlySet<JsonValue>,
  ): void {
    const seen = new Set<JsonValue>();
    const waiting = nodes
      .map((node) => [node, this.documentOf.get(node) ?? document, false as boolean] as const)
      .reverse();
    for (let next = waiting.pop(); next !== undefined; next = waiting.pop()) {
      const [node, own, isIncluded] = next;
      if (seen.has(node)) continue;
      seen.add(node);
      if (node.kind === 'boolean') {
        if (!node.value) this.tell('false', node, own);
        continue;
      }
      if (node.kind !== 'object')
        this.fail(
          node,
          own,
          `a schema must be an object here, found a ${node.kind}`,
          'See json-schema.org for schemas.',
        );
      const members = membersByKey(node);
      const reference = this.referenceOf(members, node, own);
      if (reference !== undefined) {
        waiting.push([reference.node, reference.document, isIncluded]);
        if (['4', '6', '7', 'openapi-3.0'].includes(own.draft)) continue;
      }
      // What includes an alternative has a word of its own.
      const tag = isIncluded ? undefined : this.tags.get(node);
      if (tag !== undefined) {
        const [word, ...others] = tag.values.map(json.string);
        const words = json.object(
          others.length === 0 ? [['const', word]] : [['enum', json.list([word!, ...others])]],
        );
        push(view.properties, tag.key, words);
        view.required.add(tag.key);
      }
      for (const { key, value } of members.values()) {
        if (key === 'allOf' && value.kind === 'list')
          for (const item of value.items.toReversed()) waiting.push([item, own, true]);
        else this.keyword(key, value, node, own, view, done);
      }
    }
  }

  private keyword(
    key: string,
    value: JsonValue,
    node: JsonObject,
    document: Document,
    view: View,
    done: ReadonlySet<JsonValue>,
  ): void {
    const wrong = (what: string): never => this.fail(value, document, `"${key}" must be ${what}`);
    const remember = (each: JsonValue): JsonValue => {
      this.documentOf.set(each, document);
      return each;
    };
    switch (key) {
      case 'title':
      case 'description':
        if (value.kind === 'string') view[key] ??= value.value;
        break;
      case 'deprecated':
        if (isTrue(value)) view.deprecated = true;
        break;
      case 'nullable':
        if (isTrue(value)) view.nullable = true;
        break;
      case 'type': {
        const names = (value.kind === 'list' ? value.items : [value]).map((each) =>
          each.kind === 'string' && isTypeName(each.value)
            ? each.value
            : each.kind === 'string' && document.draft === '4'
              ? undefined
              : wrong('one of null, boolean, integer, number, string, array, object'),
        );
        const types = names.flatMap((each) => each ?? []);
        if (types.length > 0) view.types = bothTypes(view.types, types);
        break;
      }
      case 'format':
        if (value.kind === 'string') view.format ??= value.value;
        break;
      case 'const':
      case 'enum': {
        const values = key === 'const' ? [value] : value.kind === 'list' ? value.items : wrong('a list');
        view.isConst ||= key === 'const';
        const { values: known } = view;
        view.values =
          known === undefined
            ? values
            : known.filter((each) => values.some((other) => sameValue(each, other)));
        break;
      }
      case 'properties':
        if (value.kind !== 'object') return wrong('an object of schemas');
        for (const member of membersByKey(value).values())
          push(view.properties, member.key, remember(member.value));
        break;
      case 'required':
        // Beside a property, drafts 3 and earlier said so by a boolean.
        if (value.kind === 'list')
          for (const each of value.items) if (each.kind === 'string') view.required.add(each.value);
        break;
      case 'additionalProperties':
      case 'unevaluatedProperties':
        if (value.kind === 'boolean') {
          if (!value.value) view.additional ??= false;
        } else if (view.additional !== false) view.additional = [...(view.additional ?? []), remember(value)];
        break;
      case 'patternProperties':
        if (value.kind !== 'object') return wrong('an object of schemas');
        for (const member of value.members) view.patterns.push(remember(member.value));
        this.tell(key, node, document);
        break;
      case 'items':
        if (value.kind === 'list') view.prefix ??= value.items.map(remember);
        else if (value.kind === 'boolean') {
          if (!value.value) view.items ??= false;
        } else if (view.items !== false) view.items = [...(view.items ?? []), remember(value)];
        break;
      case 'prefixItems':
        if (value.kind === 'list' && value.items.length > 0) view.prefix ??= value.items.map(remember);
        break;
      case 'additionalItems':
      case 'unevaluatedItems':
        if (value.kind === 'boolean') {
          if (!value.value && view.prefix !== undefined) view.items ??= false;
        } else if (membersByKey(node).get('items')?.value.kind === 'list' || view.prefix !== undefined) {
          if (view.items !== false) view.items = [...(view.items ?? []), remember(value)];
        }
        break;
      case 'minItems':
        if (value.kind === 'number' && integerOf(value.text) !== undefined)
          view.minItems = Number(value.text);
        break;
      case 'anyOf':
      case 'oneOf':
        if (value.kind !== 'list' || value.items.length === 0) return wrong('a list of at least one schema');
        if (done.has(value)) break;
        for (const item of value.items) remember(item);
        this.noteTags(node, value.items, document);
        view.groups.push(value);
        break;
      case 'then':
      case 'else':
        view.sometimes.push(remember(value));
        break;
      case 'if':
        this.tell(key, node, document);
        break;
      case 'dependentSchemas':
      case 'dependencies':
        if (value.kind === 'object')
          for (const each of value.members)
            if (each.value.kind === 'object') {
              view.sometimes.push(remember(each.value));
              this.tell(key, node, document);
            }
        break;
      case 'not':
        this.tell(key, node, document);
        break;
      default:
        if (bounds.has(key) || key === 'xml' || key === 'examples' || key === 'default')
          if (!view.other.has(key)) view.other.set(key, value);
    }
  }

  /** OpenAPI: the words of a discriminator tell its alternatives apart. */
  private noteTags(node: JsonObject, arms: readonly JsonValue[], document: Document): void {
    const discriminator = membersByKey(node).get('discriminator')?.value;
    if (discriminator?.kind !== 'object') return;
    const said = membersByKey(discriminator);
    const key = said.get('propertyName')?.value;
    if (key?.kind !== 'string') return;
    const mapping = said.get('mapping')?.value;
    const words = new Map<JsonValue, string[]>();
    if (mapping?.kind === 'object')
      for (const { key: word, value } of mapping.members) {
        if (value.kind !== 'string') continue;
        const reference = /[#/.]/.test(value.value) ? value.value : `#/components/schemas/${value.value}`;
        const { node: target } = this.documents.resolve(reference, node, document);
        words.set(target, [...(words.get(target) ?? []), word]);
      }
    for (const arm of arms) {
      const found = this.pureReference(arm, document);
      if (found !== undefined && !this.tags.has(found.node))
        this.tags.set(found.node, { key: key.value, values: words.get(found.node) ?? [found.name] });
    }
  }

  /**
   * OpenAPI: what a schema with a discriminator and no alternatives may be is the schemas that include it.
   */
  private heirsOf(node: JsonValue, document: Document): JsonValue[] {
    if (node.kind !== 'object') return [];
    const members = membersByKey(node);
    if (members.get('discriminator')?.value.kind !== 'object') return [];
    if (members.has('oneOf') || members.has('anyOf')) return [];
    const own = this.documentOf.get(node) ?? document;
    const all = this.includingIn(own);
    const heirs = new Map<JsonValue, JsonValue>();
    const waiting: JsonValue[] = [node];
    for (let next = waiting.pop(); next !== undefined; next = waiting.pop())
      for (const { name, node: heir } of all.get(next) ?? []) {
        if (heirs.has(heir) || heir === node) continue;
        const reference = `#${encodeURI(formatPointer(['components', 'schemas', name]))}`;
        const arm = json.object([['$ref', json.string(reference)]]);
        this.documentOf.set(arm, own);
        heirs.set(heir, arm);
        waiting.push(heir);
      }
    const arms = [...heirs.values()];
    this.noteTags(node, arms, own);
    return arms;
  }

  /** The named schemas of a description, by what they include. */
  private includingIn(
    document: Document,
  ): ReadonlyMap<JsonValue, readonly { name: string; node: JsonValue }[]> {
    let known = this.including.get(document);
    if (known !== undefined) return known;
    known = new Map();
    this.including.set(document, known);
    const inner = (value: JsonValue | undefined, key: string) =>
      value?.kind === 'object' ? membersByKey(value).get(key)?.value : undefined;
    const schemas = inner(inner(document.root, 'components'), 'schemas');
    if (schemas?.kind !== 'object') return known;
    for (const { key: name, value: node } of membersByKey(schemas).values()) {
      const parts = inner(node, 'allOf');
      if (parts?.kind !== 'list') continue;
      for (const part of parts.items) {
        const base = this.pureReference(part, document)?.node;
        if (base !== undefined) known.set(base, [...(known.get(base) ?? []), { name, node }]);
      }
    }
    return known;
  }

  private alternatives(
    nodes: readonly JsonValue[],
    arms: readonly JsonValue[],
    document: Document,
    view: View,
    done: ReadonlySet<JsonValue>,
    depth: number,
  ): Schema {
    const possible = arms.filter((arm) => arm.kind !== 'boolean' || arm.value);
    if (possible.length < arms.length && possible.length > 0)
      return this.alternatives(nodes, possible, document, view, done, depth);
    // What only narrows says nothing of what there is.
    if (arms.every((arm) => this.isNarrowing(arm))) {
      this.tell('anyOf', arms[0]!, document);
      return this.all(nodes, document, done, depth + 1);
    }
    const isAlone = isBare(view);
    const count =
      arms.length *
      view.groups.slice(1).reduce((all, each) => all * (each.kind === 'list' ? each.items.length : 1), 1);
    if (count > mostArms && !isAlone) {
      this.tell('oneOf', arms[0]!, document);
      view.sometimes.push(...arms);
      view.groups.length = 0;
      return this.shaped(view, document, depth);
    }
    const { types } = view;
    const typed = types && json.object([['type', json.list(types.map(json.string))]]);
    const reduced = arms.map((arm) => {
      const found = this.pureReference(arm, document);
      if (isAlone && (found !== undefined || typed === undefined))
        return this.all([arm], document, done, depth + 1);
      const whole = this.all([...(isAlone ? [typed!] : nodes), arm], document, done, depth + 1);
      return found === undefined || isAlone ? whole : { ...whole, title: found.name };
    });
    const { title, description } = view;
    const distinct = reduced.filter(
      (each, i) =>
        reduced.findIndex((other) => other.$ref !== undefined && other.$ref === each.$ref) === i ||
        each.$ref === undefined,
    );
    const more: Schema[] = view.nullable ? [{ type: ['null'] }] : [];
    return {
      ...(title !== undefined && isAlone && { title }),
      ...(description !== undefined && { description }),
      anyOf: [...distinct, ...more],
      span: nodes[0]!,
    };
  }

  private isNarrowing(arm: JsonValue): boolean {
    return (
      arm.kind === 'boolean' ||
      (arm.kind === 'object' &&
        arm.members.every(
          ({ key }) =>
            key === 'required' || key === 'not' || bounds.has(key) || remarks.has(key) || key === 'format',
        ))
    );
  }

  private shaped(view: View, document: Document, depth: number): Schema {
    const draft: Draft = {};
    const below = (nodes: readonly JsonValue[]): Schema => this.all(nodes, document, new Set(), depth + 1);
    const { title, description, deprecated, types, values, format } = view;
    if (title !== undefined) draft.title = title;
    if (description !== undefined) draft.description = description;
    if (deprecated !== undefined) draft.deprecated = deprecated;
    let known = types;
    if (known === undefined && view.nullable && values === undefined) {
      const isObject = view.properties.size > 0 || view.additional !== undefined;
      known = isObject ? ['object'] : view.items !== undefined ? ['array'] : undefined;
    }
    if (known !== undefined)
      draft.type = view.nullable && !known.includes('null') ? [...known, 'null'] : known;
    this.formatted(draft, format, view);
    if (values !== undefined) {
      const all =
        view.nullable && !values.some(({ kind }) => kind === 'null') ? [...values, json.null()] : values;
      if (view.isConst && all.length === 1) draft.const = all[0]!;
      else if (all.length > 0) draft.enum = all;
    }
    this.members(draft, view, document, depth, below);
    if (view.prefix !== undefined) {
      draft.prefixItems = view.prefix.map((each) => below([each]));
      if (view.items === false || view.items === undefined) draft.items = view.items === false ? false : true;
      else draft.items = below(view.items);
    } else if (view.items !== undefined) draft.items = view.items === false ? false : below(view.items);
    if (view.minItems !== undefined) draft.minItems = view.minItems;
    if (view.other.size > 0) draft.other = view.other;
    return draft;
  }

  private formatted(draft: Draft, format: string | undefined, view: View): void {
    if (format === undefined) return;
    // Of the OpenAPI specification, before `contentEncoding`.
    if (format === 'byte') view.other.set('contentEncoding', json.string('base64'));
    else draft.format = format;
  }

  private members(
    draft: Draft,
    view: View,
    document: Document,
    depth: number,
    below: (nodes: readonly JsonValue[]) => Schema,
  ): void {
    const properties = new Map<string, Schema>();
    for (const [key, nodes] of view.properties) {
      // A key that must not be there is none.
      if (nodes.some((each) => each.kind === 'boolean' && !each.value)) continue;
      const meaningful = nodes.filter((each) => each.kind !== 'boolean');
      properties.set(key, meaningful.length === 0 ? {} : below(meaningful));
    }
    const seldom = new Map<string, Schema[]>();
    for (const part of view.sometimes) {
      const reduced = this.all([part], document, new Set(), depth + 1, true);
      for (const [key, schema] of reduced.properties ?? [])
        if (!properties.has(key)) seldom.set(key, [...(seldom.get(key) ?? []), schema]);
    }
    for (const [key, all] of seldom) properties.set(key, all.length === 1 ? all[0]! : { anyOf: all });
    const isObject = draft.type === undefined || draft.type.includes('object');
    if (properties.size > 0 && isObject) draft.properties = properties;
    const required = [...view.required].filter((key) => properties.has(key) || !view.properties.has(key));
    if (required.length > 0 && isObject && properties.size > 0) draft.required = required;
    const others = view.patterns.map((each) => below([each]));
    if (Array.isArray(view.additional)) others.push(below(view.additional));
    if (others.length > 0)
      draft.additionalProperties = others.length === 1 ? others[0]! : { anyOf: distinctSchemas(others) };
    else if (view.additional === false) draft.additionalProperties = false;
  }
}

function distinctSchemas(schemas: readonly Schema[]): Schema[] {
  const documents = schemas.map(schemaToJson);
  return schemas.filter((_, i) => documents.findIndex((other) => sameValue(other, documents[i]!)) === i);
}

function emptyView(): View {
  return {
    types: undefined,
    properties: new Map(),
    required: new Set(),
    additional: undefined,
    patterns: [],
    prefix: undefined,
    items: undefined,
    values: undefined,
    isConst: false,
    groups: [],
    sometimes: [],
    nullable: false,
    title: undefined,
    description: undefined,
    deprecated: undefined,
    format: undefined,
    minItems: undefined,
    other: new Map(),
  };
}

/** Whether nothing but alternatives, and remarks, was said. */
function isBare(view: View): boolean {
  return (
    view.groups.length === 1 &&
    view.properties.size === 0 &&
    view.required.size === 0 &&
    view.additional === undefined &&
    view.patterns.length === 0 &&
    view.prefix === undefined &&
    view.items === undefined &&
    view.values === undefined &&
    view.sometimes.length === 0
  );
}

function isTrue(value: JsonValue | undefined): boolean {
  return value?.kind === 'boolean' && value.value;
}

function push(map: Map<string, JsonValue[]>, key: string, value: JsonValue): void {
  const known = map.get(key);
  if (known === undefined) map.set(key, [value]);
  else if (!known.includes(value)) known.push(value);
}

const typeNames: readonly TypeName[] = ['null', 'boolean', 'integer', 'number', 'string', 'array', 'object'];

function isTypeName(text: string): text is TypeName {
  return (typeNames as readonly string[]).includes(text);
}

/** Types that are of both lists; a whole number is a number. */
function bothTypes(known: TypeName[] | undefined, types: readonly TypeName[]): TypeName[] {
  if (known === undefined) return [...new Set(types)];
  const isIn = (type: TypeName, list: readonly TypeName[]) =>
    list.includes(type) || (type === 'integer' && list.includes('number'));
  return [
    ...new Set([...known.filter((each) => isIn(each, types)), ...types.filter((each) => isIn(each, known))]),
  ];
}
