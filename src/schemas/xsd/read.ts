import { existsSync, readFileSync, realpathSync } from 'node:fs';
import { dirname, relative, resolve, sep } from 'node:path';
import { inWords } from '../../core/words.js';
import { nearest } from '../../core/nearest.js';
import type { Source } from '../../core/json/source.js';
import { json } from '../../core/json/value.js';
import type { Note } from '../../core/note.js';
import { referenceTo } from '../../core/schema/resolve.js';
import { dialect, type Schema } from '../../core/schema/schema.js';
import { restricted } from './facets.js';
import { failure, treeOf, xmlSchema, type Element } from './tree.js';

type Draft = { -readonly [K in keyof Schema]: Schema[K] };

/** The types of XML Schema part 2 as texts without types are read; all others are text. */
const builtIn: ReadonlyMap<string, Schema> = new Map<string, Schema>([
  ['boolean', { type: ['boolean'] }],
  ['decimal', { type: ['number'], format: 'decimal' }],
  ['float', { type: ['number'] }],
  ['double', { type: ['number'] }],
  ...(['byte', 'short', 'int', 'unsignedByte', 'unsignedShort'] as const).map((name): [string, Schema] => [
    name,
    { type: ['integer'], format: 'int32' },
  ]),
  ...(['long', 'unsignedInt'] as const).map((name): [string, Schema] => [
    name,
    { type: ['integer'], format: 'int64' },
  ]),
  ...(
    ['integer', 'nonNegativeInteger', 'positiveInteger', 'nonPositiveInteger', 'negativeInteger'] as const
  ).map((name): [string, Schema] => [name, { type: ['integer'] }]),
  ['unsignedLong', { type: ['integer'], format: 'uint64' }],
  ['base64Binary', { type: ['string'], other: new Map([['contentEncoding', json.string('base64')]]) }],
]);

/** A part of what an element holds: under which key, how often at least, and whether more than once. */
interface Part {
  readonly schema: Schema;
  required: boolean;
  repeated: boolean;
}

/** What an element of a type holds. */
interface Content {
  readonly members: Map<string, Part>;
  /** The text of an element that has attributes. */
  text?: Schema;
  mixed: boolean;
  open: boolean;
}

/**
 * The JSON Schema of documents that an XML Schema (1.0) describes, as Skevo reads XML. Names have the prefix that is asked for,
 * and none otherwise.
 * @param asked the element that is the document, where there are several, with the prefix that documents give its namespace
 * @throws SkevoError with the place of what is no XML Schema, and of references that lead nowhere
 */
export function schemaOfXsd(
  source: Source,
  path: string,
  asked: string | undefined,
): [Schema, Source, readonly Note[]] {
  const reader = new Reader();
  const root = treeOf(source);
  reader.add(root, path === '-' ? undefined : resolve(path));
  const schema = reader.document(root, asked, path);
  return [schema, source, [...reader.notes.values()]];
}

class Reader {
  readonly notes = new Map<string, Note>();
  /** Global declarations by kind and expanded name. */
  private readonly globals = new Map<string, Element>();
  private readonly substitutes = new Map<string, Element[]>();
  private readonly definitions = new Map<Element, { key: string; schema: Schema }>();
  private readonly read = new Set<string>();
  private readonly open = new Set<Element>();
  /** The names of elements that others refer to. */
  private readonly referred = new Set<string>();
  private prefix = '';

  /** Makes a file known, with those that it includes and imports. */
  add(root: Element, path: string | undefined): void {
    if (path !== undefined) this.read.add(path);
    const all = [...root.children];
    for (const each of all) {
      all.push(...each.children);
      const { ref } = each.attributes;
      if (each.name === 'element' && ref !== undefined) this.referred.add(ref.replace(/^.*:/, ''));
    }
    const waiting = [...root.children];
    for (const each of waiting) {
      const { name, attributes } = each;
      if (name === 'redefine') waiting.push(...each.children);
      if (['include', 'import', 'redefine'].includes(name)) {
        this.follow(each, path, name === 'import' ? undefined : root.file.target);
        continue;
      }
      const own = attributes['name'];
      if (own === undefined) continue;
      const kind = name === 'simpleType' || name === 'complexType' ? 'type' : name;
      this.globals.set(`${kind} {${root.file.target}}${own}`, each);
      const head = attributes['substitutionGroup'];
      if (head !== undefined) {
        const full = `element ${this.expanded(each, head)}`;
        this.substitutes.set(full, [...(this.substitutes.get(full) ?? []), each]);
      }
    }
  }

  private follow(from: Element, path: string | undefined, around: string | undefined): void {
    const location = from.attributes['schemaLocation'];
    if (location === undefined || path === undefined || /^\w+:\/\//.test(location)) return;
    const target = resolve(dirname(path), location);
    if (this.read.has(target)) return;
    const shown = relative(process.cwd(), target).split(sep).join('/');
    if (!existsSync(target)) throw failure(from, `there is no file ${shown}`, 'Check its path.');
    const folder = realpathSync(dirname(path));
    if (!realpathSync(target).startsWith(folder + sep))
      throw failure(
        from,
        `${shown} is outside of the folder of the schema`,
        'Put a copy of the file beside the schema, or below.',
      );
    this.add(treeOf({ name: shown, bytes: readFileSync(target), firstLine: 1 }, around), target);
  }

  document(root: Element, asked: string | undefined, path: string): Schema {
    const elements = root.children.filter(
      ({ name, attributes }) => name === 'element' && attributes['name'] !== undefined,
    );
    const colon = asked?.indexOf(':') ?? -1;
    const wanted = asked?.slice(colon + 1);
    this.prefix = colon > 0 ? asked!.slice(0, colon + 1) : '';
    const tops = elements.filter(({ attributes }) => !this.referred.has(attributes['name'] ?? ''));
    const names = (tops.length > 0 ? tops : elements).map(({ attributes }) => attributes['name'] ?? '');
    if (wanted === undefined && names.length !== 1)
      throw failure(
        root,
        names.length === 0 ? 'no element is declared here' : `${names.length} elements may be the document`,
        names.length === 0
          ? 'Give the schema that declares it.'
          : `Say which, such as ${path}#${names[0]}; there are ${inWords(names.slice(0, 8))}.`,
      );
    const found = elements.find(({ attributes }) => attributes['name'] === (wanted ?? names[0]));
    if (found === undefined) {
      const near = nearest(
        wanted!,
        elements.map(({ attributes }) => attributes['name'] ?? ''),
      );
      throw failure(
        root,
        `there is no element ${JSON.stringify(wanted)} here`,
        near === undefined ? 'Check its name.' : `Did you mean ${path}#${near}?`,
      );
    }
    const name = found.attributes['name']!;
    const own = this.nameIn(found, name, true);
    const schema = this.withNamespaces(this.elementSchema(found), found);
    const defs = new Map([...this.definitions.values()].map((each) => [each.key, each.schema]));
    return {
      $schema: dialect,
      title: name,
      type: ['object'],
      properties: new Map([[own, withXml(schema, own, found.file.target, false)]]),
      required: [own],
      ...(defs.size > 0 && { $defs: defs }),
    };
  }

  /** The element of a document may say what its prefixes stand for, and where its schema is. */
  private withNamespaces(schema: Schema, element: Element): Schema {
    const space = element.file.target;
    const own = space === '' ? [] : [this.prefix === '' ? '@xmlns' : `@xmlns:${this.prefix.slice(0, -1)}`];
    const location = space === '' ? '@xsi:noNamespaceSchemaLocation' : '@xsi:schemaLocation';
    const declared = [...own, '@xmlns:xsi', location].map((key): [string, Schema] => [
      key,
      {
        type: ['string'],
        other: new Map([
          [
            'xml',
            json.object([
              ['name', json.string(key.slice(1))],
              ['attribute', json.boolean(true)],
            ]),
          ],
        ]),
      },
    ]);
    const wider = (each: Schema): Schema =>
      each.properties === undefined
        ? each
        : { ...each, properties: new Map([...declared, ...each.properties]) };
    const known = [...this.definitions.values()].find(({ key }) => referenceTo(key) === schema.$ref);
    if (known === undefined) return wider(schema);
    known.schema = wider(known.schema);
    return schema;
  }

  /** What a name is called in documents: with the prefix of the namespace where it is qualified. */
  private nameIn(element: Element, name: string, isGlobal: boolean): string {
    const form = element.attributes['form'] ?? element.file.form;
    return isGlobal || form === 'qualified' ? `${this.prefix}${name}` : name;
  }

  private expanded(from: Element, name: string): string {
    const colon = name.indexOf(':');
    const prefix = colon < 0 ? '' : name.slice(0, colon);
    const known = from.prefixes.get(prefix);
    const space = known ?? (prefix === '' ? from.file.target : '');
    return `{${space}}${name.slice(colon + 1)}`;
  }

  private global(kind: string, from: Element, name: string): Element {
    const full = this.expanded(from, name);
    // A file that is included without a namespace of its own takes that of who includes it.
    const found =
      this.globals.get(`${kind} ${full}`) ?? this.globals.get(`${kind} {${from.file.target}}${name}`);
    if (found !== undefined) return found;
    throw failure(
      from,
      `there is no ${kind} ${JSON.stringify(name)}`,
      'Declare it, or include the file that does; nothing is fetched.',
    );
  }

  private note(from: Element, what: string): void {
    if (!this.notes.has(what))
      this.notes.set(what, {
        message: `nothing checks ${what}`,
        place: { file: from.file.name, line: from.line, column: from.column },
      });
  }

  /** The schema of what an element holds. */
  private elementSchema(element: Element): Schema {
    const { attributes, children } = element;
    const inline = children.find(({ name }) => name === 'simpleType' || name === 'complexType');
    const schema =
      inline !== undefined
        ? this.typeSchema(inline, this.isReferred(element) ? attributes['name'] : undefined)
        : attributes['type'] !== undefined
          ? this.named(element, attributes['type'])
          : attributes['substitutionGroup'] !== undefined
            ? this.within(element, () =>
                this.elementSchema(this.global('element', element, attributes['substitutionGroup']!)),
              )
            : {};
    const described = { ...schema, ...documentation(element) };
    if (attributes['nillable'] !== 'true') return described;
    return described.type !== undefined &&
      described.$ref === undefined &&
      !described.type.includes('null') &&
      described.enum === undefined
      ? { ...described, type: [...described.type, 'null'] }
      : { anyOf: [described, { type: ['null'] }] };
  }

  /** Whether elements refer to an element: it may be in itself then. */
  private isReferred(element: Element): boolean {
    return (
      this.referred.has(element.attributes['name'] ?? '') &&
      this.globals.get(`element {${element.file.target}}${element.attributes['name']}`) === element
    );
  }

  /** What is worked out below an element, of which none may be in itself. @throws SkevoError for what is */
  private within<T>(element: Element, make: () => T): T {
    if (this.open.has(element))
      throw failure(element, 'this is a part of itself', 'Put an element between it and itself.');
    this.open.add(element);
    const made = make();
    this.open.delete(element);
    return made;
  }

  private named(from: Element, name: string): Schema {
    const full = this.expanded(from, name);
    if (full.startsWith(`{${xmlSchema}}`))
      return builtIn.get(full.slice(xmlSchema.length + 2)) ?? { type: ['string'] };
    return this.typeSchema(this.global('type', from, name));
  }

  /**
   * A type; one with a name, that is more than a scalar, is a definition.
   * @param called the name of the element that alone is of it, where others may refer to that
   */
  private typeSchema(type: Element, called?: string): Schema {
    const name = type.attributes['name'] ?? called;
    if (type.name === 'simpleType') return this.simple(type);
    if (name === undefined) return this.complex(type);
    let known = this.definitions.get(type);
    if (known === undefined) {
      const keys = new Set([...this.definitions.values()].map(({ key }) => key));
      let key = name;
      for (let i = 2; keys.has(key); i++) key = `${name}${i}`;
      known = { key, schema: {} };
      this.definitions.set(type, known);
      known.schema = this.complex(type);
    }
    return { $ref: referenceTo(known.key) };
  }

  private readonly tellFacet = (facet: Element, name: string): void =>
    this.note(facet, `what xs:${name} says`);

  private simple(type: Element): Schema {
    return this.within(type, () => this.simpleOf(type));
  }

  private simpleOf(type: Element): Schema {
    for (const each of type.children) {
      const { attributes, children } = each;
      if (each.name === 'restriction') {
        const inline = children.find(({ name }) => name === 'simpleType');
        const base =
          inline !== undefined
            ? this.simple(inline)
            : attributes['base'] === undefined
              ? {}
              : this.named(each, attributes['base']);
        return { ...restricted(base, each, this.tellFacet), ...documentation(type) };
      }
      if (each.name === 'union') {
        const names = (attributes['memberTypes'] ?? '').split(/\s+/).filter((name) => name !== '');
        const arms = [
          ...names.map((name) => this.named(each, name)),
          ...children.filter(({ name }) => name === 'simpleType').map((inner) => this.simple(inner)),
        ];
        return arms.length === 1 ? arms[0]! : { anyOf: arms };
      }
      // A list is one text, its elements apart by spaces.
      if (each.name === 'list') return { type: ['string'] };
    }
    return { type: ['string'] };
  }

  private complex(type: Element): Schema {
    const content: Content = { members: new Map(), mixed: false, open: false };
    this.gather(type, content);
    return { ...contentSchema(content), ...documentation(type) };
  }

  /** What a complex type holds, with what its base does. */
  private gather(type: Element, content: Content): void {
    this.within(type, () => this.gatherOf(type, content));
  }

  private gatherOf(type: Element, content: Content): void {
    if (type.attributes['mixed'] === 'true') content.mixed = true;
    for (const each of type.children) {
      if (each.name === 'complexContent' || each.name === 'simpleContent') {
        if (each.attributes['mixed'] === 'true') content.mixed = true;
        for (const derived of each.children) this.derived(derived, each.name === 'simpleContent', content);
      } else this.particle(each, content, false, false);
    }
  }

  private derived(derivation: Element, isSimple: boolean, content: Content): void {
    const base = derivation.attributes['base'];
    if (derivation.name !== 'extension' && derivation.name !== 'restriction') return;
    if (base !== undefined) {
      const full = this.expanded(derivation, base);
      if (full.startsWith(`{${xmlSchema}}`)) {
        if (isSimple) content.text = this.named(derivation, base);
      } else {
        const type = this.global('type', derivation, base);
        if (type.name === 'simpleType') content.text = this.simple(type);
        else {
          const inherited: Content = { members: new Map(), mixed: content.mixed, open: content.open };
          this.gather(type, inherited);
          content.mixed = inherited.mixed;
          content.open = inherited.open;
          if (inherited.text !== undefined) content.text = inherited.text;
          for (const [key, part] of inherited.members)
            // A restriction says its elements again, and its attributes only where they differ.
            if (derivation.name === 'extension' || key.startsWith('@')) content.members.set(key, part);
        }
      }
    }
    for (const each of derivation.children) this.particle(each, content, false, false);
    if (isSimple && derivation.name === 'restriction' && content.text !== undefined)
      content.text = restricted(content.text, derivation, this.tellFacet);
  }

  /** @param isOptional whether what is around may be absent; @param isRepeated whether it may come again */
  private particle(each: Element, content: Content, isOptional: boolean, isRepeated: boolean): void {
    const { name, attributes, children } = each;
    const most = attributes['maxOccurs'];
    const optional = isOptional || attributes['minOccurs'] === '0';
    const repeated = isRepeated || most === 'unbounded' || Number(most ?? 1) > 1;
    switch (name) {
      case 'sequence':
      case 'all':
        for (const child of children) this.particle(child, content, optional, repeated);
        return;
      case 'choice': {
        const parts = children.filter((child) => child.name !== 'annotation');
        if (parts.length > 1) this.note(each, 'which of several elements there is (xs:choice)');
        for (const child of parts) this.particle(child, content, optional || parts.length > 1, repeated);
        return;
      }
      case 'group':
        if (attributes['ref'] !== undefined)
          this.parts(this.global('group', each, attributes['ref']), content, optional, repeated);
        return;
      case 'any':
      case 'anyAttribute':
        content.open = true;
        return;
      case 'attributeGroup':
        if (attributes['ref'] !== undefined)
          this.parts(this.global('attributeGroup', each, attributes['ref']), content, optional, repeated);
        return;
      case 'attribute':
        this.attribute(each, content);
        return;
      case 'element':
        this.element(each, content, optional, repeated);
    }
  }

  private parts(group: Element, content: Content, isOptional: boolean, isRepeated: boolean): void {
    this.within(group, () => {
      for (const child of group.children) this.particle(child, content, isOptional, isRepeated);
    });
  }

  private attribute(each: Element, content: Content): void {
    const { attributes, children } = each;
    const { ref, name = ref?.replace(/^xml:(?=.)|^.*:/, (all) => (all === 'xml:' ? all : '')) } = attributes;
    if (name === undefined) return;
    if (attributes['use'] === 'prohibited') {
      content.members.delete(`@${name}`);
      return;
    }
    const inline = children.find((child) => child.name === 'simpleType');
    const declared = ref === undefined || ref.startsWith('xml:') ? each : this.global('attribute', each, ref);
    const type = declared.attributes['type'];
    const schema =
      inline !== undefined
        ? this.simple(inline)
        : type === undefined
          ? { type: ['string' as const] }
          : this.named(declared, type);
    const own = withXml({ ...schema, ...documentation(each) }, name, '', true);
    content.members.set(`@${name}`, {
      schema: own,
      required: attributes['use'] === 'required',
      repeated: false,
    });
  }

  private element(each: Element, content: Content, isOptional: boolean, isRepeated: boolean): void {
    const { ref, name } = each.attributes;
    if (ref === undefined && name === undefined)
      throw failure(each, 'an element has a name', 'Give it "name", or "ref" to another.');
    const declared = ref === undefined ? each : this.global('element', each, ref);
    const all = [declared, ...(ref === undefined ? [] : this.substituting(declared))].filter(
      ({ attributes }) => attributes['abstract'] !== 'true',
    );
    for (const one of all) {
      const own = this.nameIn(one, ref === undefined ? name! : one.attributes['name']!, ref !== undefined);
      const known = content.members.get(own);
      // The same name twice in one parent is a list.
      if (known !== undefined) {
        known.repeated = true;
        known.required &&= !isOptional;
        continue;
      }
      const schema = this.elementSchema(one);
      content.members.set(own, { schema, required: !isOptional && all.length === 1, repeated: isRepeated });
    }
  }

  private substituting(head: Element): Element[] {
    const own = this.substitutes.get(`element {${head.file.target}}${head.attributes['name']}`) ?? [];
    return this.within(head, () => own.flatMap((each) => [each, ...this.substituting(each)]));
  }
}

function contentSchema({ members, text, mixed, open }: Content): Schema {
  const properties = new Map<string, Schema>();
  const required: string[] = [];
  if (mixed) {
    for (const key of [...members.keys()]) if (!key.startsWith('@')) members.delete(key);
    members.set('#markup', { schema: { type: ['string'] }, required: false, repeated: false });
  } else if (text !== undefined) {
    if (members.size === 0) return text;
    // Text may be empty, a number may not.
    members.set('#text', {
      schema: text,
      required: !(text.type?.includes('string') ?? true),
      repeated: false,
    });
  } else if (members.size === 0 && !open) return { type: ['string'] };
  for (const [key, part] of members) {
    properties.set(key, part.repeated ? { type: ['array'], items: part.schema } : part.schema);
    if (part.required) required.push(key);
  }
  const draft: Draft = { type: ['object'] };
  if (properties.size > 0) draft.properties = properties;
  if (required.length > 0) draft.required = required;
  return draft;
}

function documentation(element: Element): Schema {
  const text = element.children
    .filter(({ name }) => name === 'annotation')
    .flatMap(({ children }) => children.filter(({ name }) => name === 'documentation'))
    .map((each) => each.text.trim().replace(/\s+/g, ' '))
    .filter((each) => each !== '')
    .join(' ');
  return text === '' ? {} : { description: text };
}

function withXml(schema: Schema, name: string, namespace: string, isAttribute: boolean): Schema {
  const colon = name.indexOf(':');
  const xml = json.object([
    ['name', json.string(name.slice(colon + 1))],
    ['prefix', colon < 0 ? undefined : json.string(name.slice(0, colon))],
    ['namespace', namespace === '' ? undefined : json.string(namespace)],
    ['attribute', isAttribute ? json.boolean(true) : undefined],
  ]);
  return { ...schema, other: new Map([...(schema.other ?? []), ['xml', xml]]) };
}
