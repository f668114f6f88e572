import { formatOfWidth } from '../json/number.js';
import { json, type JsonValue } from '../json/value.js';
import { datesKeyword } from '../model/dates.js';
import { formatPlace, type PlaceStep } from '../json/pointer.js';
import type { Mark } from '../observe/mark.js';
import { many } from '../observe/token.js';
import type { Observation } from '../observe/observation.js';
import { referenceTo } from '../schema/resolve.js';
import { contradicts, type Steer } from './said.js';
import { joinSteered, markSteered, saidOf, steerAt } from './steering.js';
import { settle } from '../observe/settle.js';
import { nearest } from '../nearest.js';
import { dialect, type Schema } from '../schema/schema.js';
import { pascalCase, wordsOf } from '../words.js';
import {
  edgesInOrder,
  forgetKeys,
  graphOf,
  makeList,
  makeMap,
  makeRest,
  nodesBelow,
  nodesFrom,
  usesFrom,
  type Edge,
  type Node,
} from './graph.js';
import {
  isEnvelope,
  itemOf,
  nameOfType,
  nameRecords,
  wrappedRecord,
  type Nameable,
  type Named,
} from './naming.js';
import type { ChoicePolicy, Seen, Shape } from './rule.js';
import { rules } from './rules/index.js';
import { joinSingles, shareRecords } from './sharing.js';
import { map } from './structure/map.js';
import { restOf } from './structure/rest.js';
import { joinTrees } from './structure/tree.js';
import { tuple } from './structure/tuple.js';
import { xmlOf } from './xml.js';
import { evidenceAt } from './evidence.js';
import { nullable } from './rules/nullable.js';
import { decideArms, type Arm, type Arms, type Within } from './structure/union.js';
import {
  anyForm,
  booleanForm,
  elementsOf,
  listForm,
  numberForm,
  objectForm,
  stringForm,
  type Form,
} from '../observe/form.js';
import { extend } from '../extend.js';

/** A choice made somewhere in a schema and why. */
export interface Decision {
  /** A place as `formatPlace` writes it; empty for the payload itself. */
  readonly place: string;
  readonly rule: string;
  readonly decision: string;
  readonly because: string;
  /** The first value that shows it. */
  readonly first?: Mark;
  /** How little speaks for it, from 0 to 1; undefined for what goes without saying. */
  readonly doubt?: number;
  /** What decides it otherwise, as `parseSteer` reads it after the place; undefined where nothing does. */
  readonly otherwise?: string;
}

export interface InferOptions {
  /** What the payload is called; becomes the schema's title. */
  readonly name: string;
  /** Whether somebody chose the name; one that was only suggested goes to the record that the payload wraps. */
  readonly nameIsGiven?: boolean;
  readonly choices?: ChoicePolicy;
  /** What a person decided about places; the last that fits a place holds. */
  readonly decisions?: readonly Steer[];
  /** Where the payload stands in what the decisions are about; empty when it is the whole. */
  readonly at?: readonly PlaceStep[];
  /** Whether the payload is known to be a record of its own, whatever its keys look like. */
  readonly isRecord?: boolean;
  /** Whether counts and examples are written into the schema as annotations. */
  readonly evidence?: boolean;
}

export interface Inferred {
  readonly schema: Schema;
  /** In the order of places, fields as in the schema. */
  readonly decisions: readonly Decision[];
  /** What is too thin to rely on. */
  readonly notes: readonly string[];
  /** Of decisions about places that there are not. */
  readonly unmet: readonly string[];
}

/** What was found out about payloads, before it is written as a schema. */
export interface Analysis {
  /** Whether documents were XML. */
  readonly isXml: boolean;
  /** What was observed, with what files without types left open settled. */
  readonly observation: Observation;
  readonly root: Node;
  readonly shapes: ReadonlyMap<Node, Shape>;
  readonly arms: ReadonlyMap<Node, Arms>;
  readonly names: ReadonlyMap<Node, Named>;
  readonly armNames: ReadonlyMap<Arm, Named>;
  readonly title: string;
  readonly decisions: Decision[];
  /** What somebody decided about places that there are not. */
  readonly unmet: readonly Steer[];
}

/**
 * A JSON Schema (2020-12) that every observed payload meets, with the reason for each decision. The result
 * depends on what was observed, not on the order.
 */
export function inferSchema(observation: Observation, options: InferOptions): Inferred {
  return writeSchema(analyse(observation, options), options.evidence);
}

/** The schema of what was found out, to which its decisions about single places are added. */
export function writeSchema(analysis: Analysis, evidence = false): Inferred {
  const writer = new SchemaWriter(analysis, evidence);
  const top = writer.root();
  const defs = new Map([...writer.definitions()].sort(([a], [b]) => (a < b ? -1 : 1)));
  const schema: Schema = { $schema: dialect, title: analysis.title, ...top, $defs: defs };
  return {
    schema,
    decisions: inOrderOfPlaces(atPatterns(analysis.decisions, analysis.root), analysis.root),
    notes: notesOn(analysis.observation),
    unmet: analysis.unmet.map((each) => unmetNote(each, analysis.root)),
  };
}

/** Structure first (maps, tuples, shared records, unions), then what is at each place, then names. */
export function analyse(observed: Observation, options: InferOptions): Analysis {
  const steers = options.decisions ?? [];
  const { observation, settled } = settle(
    observed,
    (steps) => steers.length > 0 && steerAt(steers, 'text', [...(options.at ?? []), ...steps]) !== undefined,
  );
  const decisions: Decision[] = settled.map(({ steps, ...told }) => ({
    place: formatPlace(steps),
    rule: 'text',
    otherwise: 'text:true',
    ...told,
  }));
  const root = graphOf(observation.root);
  const unmet = markSteered(root, steers, options.at);
  joinTrees(root, (decision) => decisions.push(decision));
  const tuples = decideStructure(root, options.isRecord ?? false, decisions);
  joinSingles(root, (decision) => decisions.push(decision));
  const apart = options.isRecord ? root : undefined;
  joinSteered(root, (decision) => decisions.push(decision));
  shareRecords(root, (decision) => decisions.push(decision), apart);

  decideMapsAgain(root, apart, decisions);

  // Lists that turned out to be of a type with others may be no tuples after all.
  for (const [node, decision] of tuples) if (node.self().positions !== undefined) decisions.push(decision);

  const uses = usesFrom(root);
  const arms = new Map<Node, Arms>();
  const tags = new Set<string>();
  const shapes = new Map<Node, Shape>();
  /** Objects that are told apart by the tag of those around them. */
  const apartBelow = new Set<Node>();
  for (const { pointer: place, use } of uses) {
    const decided = nullable(use);
    if (decided !== undefined) decisions.push({ place, rule: 'nullable', ...decided });
  }
  for (const node of nodesFrom(root)) {
    shapes.set(node, shapeOf(node, options.choices ?? 'auto', decisions));
    const found =
      isRecord(node, shapes) && !apartBelow.has(node)
        ? decideArms(node, options.choices ?? 'auto', saidOf(node).get('union'))
        : undefined;
    if (found === undefined) continue;
    arms.set(node, found);
    for (const [below, its] of found.below ?? []) {
      apartBelow.add(below);
      arms.set(below, { arms: its, decision: found.decision, because: found.because });
    }
    if (found.tag !== undefined) tags.add(node.edges.get(found.tag)!.node.self().pointer);
    decisions.push({
      place: node.pointer,
      rule: 'union',
      decision: found.decision,
      because: found.because,
      doubt: found.doubt,
      otherwise: 'union:none',
      first: node.facts.firstObject,
    });
  }

  const own = wordsOf(options.name);
  const top = root.self();
  const wrapped = shapes.get(top)!.object === 'record' ? wrappedRecord(top) : undefined;
  // A suggested name is rather that of a record in the page, or in the document, than that of the whole.
  const isPage = wrapped !== undefined && !options.nameIsGiven && own.at(-1) !== 'page';
  const isTaken =
    !options.nameIsGiven &&
    nodesFrom(root).some(
      (node) => node !== top && isRecord(node, shapes) && nameOfType(node).join(' ') === own.join(' '),
    );
  const rootWords = isPage ? [...own, 'page'] : isTaken ? [...own, 'document'] : own;
  const nameables: Nameable[] = [];
  const armOf = new Map<Nameable, Arm>();
  for (const node of nodesFrom(root)) {
    if (!isRecord(node, shapes)) continue;
    if (node !== top && !apartBelow.has(node)) nameables.push({ node });
    for (const arm of arms.get(node)?.arms ?? []) {
      const nameable = { node, arm: wordsOfArm(arm, arms.get(node)!) };
      nameables.push(nameable);
      armOf.set(nameable, arm);
    }
  }
  const itemWords = wrapped === undefined ? itemOf(rootWords) : isPage ? own : [...rootWords, 'item'];
  const names = new Map<Node, Named>();
  const armNames = new Map<Arm, Named>();
  const given = new Map(
    nameables.flatMap(({ node, arm }) => {
      const steered = arm === undefined ? saidOf(node).get('name') : undefined;
      return steered === undefined ? [] : [[node, steered] as const];
    }),
  );
  for (const [nameable, named] of nameRecords(top, nameables, rootWords, itemWords, given)) {
    const arm = armOf.get(nameable);
    if (arm === undefined) names.set(nameable.node, named);
    else armNames.set(arm, named);
    const told =
      arm === undefined || arm.values.length === 0
        ? ''
        : ` for ${arm.values.map((value) => JSON.stringify(value)).join(', ')}`;
    decisions.push({
      place: nameable.node.pointer,
      rule: 'naming',
      decision: `called ${named.name}${told}`,
      because: named.because,
      otherwise: arm === undefined ? 'name:...' : undefined,
      first: nameable.node.facts.firstObject,
    });
  }
  // The words of a tag are those of its union.
  // Below keys that are data, nobody looks for the place of one of them.
  const places = new Set(uses.map(({ pointer }) => pointer));
  const told = decisions.filter(
    ({ rule, place }) => places.has(place) && (rule !== 'choice' || !tags.has(place)),
  );
  return {
    isXml: observed.root.singles > 0,
    observation,
    root: top,
    shapes,
    arms,
    names,
    armNames,
    title: pascalCase(rootWords),
    decisions: told,
    unmet,
  };
}

/** Whether a type of its own is written for the objects at a node. */
function isRecord(node: Node, shapes: ReadonlyMap<Node, Shape>): boolean {
  return shapes.get(node)!.object === 'record' && node.single === undefined;
}

/** What tells an arm from the others: the few values of its tag, or a key that only it has. */
function wordsOfArm(arm: Arm, { arms }: Arms): string[] {
  const { values } = arm;
  if (values.length === 1 || values.length === 2) return wordsOf(values.join(' or '));
  // No one of many values stands for the others.
  const most = Math.max(...arms.map((each) => each.values.length));
  if (values.length === most && most > 0) return ['other'];
  const own = [...arm.required].find((key) =>
    arms.every((other) => other === arm || !other.keys.includes(key)),
  );
  return own === undefined && values.length > 0 ? ['other'] : wordsOf(own ?? '');
}

/**
 * Maps and tuples, from the innermost outwards, so that what is inside has its shape when it is compared.
 * @returns the decisions on tuples, which may be overturned
 */
function decideStructure(root: Node, rootIsRecord: boolean, decisions: Decision[]): [Node, Decision][] {
  const tuples: [Node, Decision][] = [];
  const below: Node[] = [];
  const pending: Node[] = [root];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    below.push(node);
    extend(pending, nodesBelow(node));
  }
  for (const each of below.reverse()) {
    const node = each.self();
    if (node !== each) continue;
    const isApart = rootIsRecord && node === root;
    if (!decideMapAsSteered(node, decisions)) decideKeys(node, isApart, decisions);
    if (node.positions === undefined) continue;
    const isTuple = tuple.decide(node);
    if (isTuple === undefined) makeList(node);
    else tuples.push([node, { place: node.pointer, rule: tuple.name, ...isTuple }]);
  }
  return tuples;
}

/** Which keys of the objects at a node are data: none, all, or some beside fields. */
function decideKeys(node: Node, isRecord: boolean, decisions: Decision[]): void {
  const { firstObject: first } = node.facts;
  const told = { place: node.pointer, rule: map.name, first };
  if (node.rest !== undefined) {
    // Those of a tree were told with the tree.
    if (node.place.values === undefined) return;
    const because = 'there are too many different keys to be fields';
    decisions.push({ ...told, decision: 'fields beside a map', because, doubt: 0 });
    return;
  }
  const rest = restOf(node);
  const isMap = isRecord || (rest !== undefined && !rest.isOfOneShape) ? undefined : map.decide(node);
  if (isMap !== undefined) {
    makeMap(node);
    decisions.push({ ...told, otherwise: 'map:record', ...isMap });
  } else if (rest !== undefined) {
    makeRest(node, rest.holds);
    const { because, doubt } = rest;
    decisions.push({ ...told, decision: 'fields beside a map', because, doubt, otherwise: 'map:record' });
  }
}

/** Maps, records and objects of anything where somebody decided so. @returns whether somebody did */
function decideMapAsSteered(node: Node, decisions: Decision[]): boolean {
  const decided = saidOf(node).get('map');
  if (decided === undefined) return false;
  const { objects, firstObject, firstNull, firstString, firstInteger, firstList } = node.facts;
  if (objects === 0) {
    // Elements of a list that was not seen, or null so far, are as somebody said.
    if (node.total > node.facts.nulls)
      contradicts(decided, 'there is no object', firstString ?? firstInteger ?? firstList ?? firstNull);
    return true;
  }
  const what = { true: 'a map', record: 'a record', any: 'an object of anything' }[decided.value]!;
  decisions.push({
    place: node.pointer,
    rule: map.name,
    decision: what,
    because: decided.source,
    doubt: 0,
    first: firstObject,
  });
  if (decided.value === 'true') makeMap(node);
  else if (decided.value === 'any') forgetKeys(node);
  else if (node.values !== undefined || node.rest !== undefined)
    contradicts(decided, 'there are too many different keys to be fields', firstObject);
  return true;
}

/** Whether a record would be a map of itself, or of lists or maps of itself: with no record between there is no name. */
function wouldBeItself(node: Node): boolean {
  const seen = new Set<Node>();
  const pending = nodesBelow(node);
  for (let each = pending.pop(); each !== undefined; each = pending.pop()) {
    const below = each.self();
    if (below === node) return true;
    if (seen.has(below) || below.edges.size > 0) continue;
    seen.add(below);
    extend(pending, nodesBelow(below));
  }
  return false;
}

/** Maps that show only when it is known which records are of one type. */
function decideMapsAgain(root: Node, apart: Node | undefined, decisions: Decision[]): void {
  for (const node of nodesFrom(root)) {
    if (node.self() !== node || node === apart || node.values !== undefined || node.edges.size === 0)
      continue;
    if (node.rest !== undefined || saidOf(node).has('map')) continue;
    const decided = map.decide(node);
    if (decided === undefined || wouldBeItself(node)) continue;
    makeMap(node);
    decisions.push({ place: node.pointer, rule: map.name, otherwise: 'map:record', ...decided });
  }
}

function shapeOf(node: Node, choices: ChoicePolicy, decisions: Decision[]): Shape {
  const seen: Seen = {
    facts: node.facts,
    total: node.total,
    key: keyWords(node.steps),
    isMap: node.values !== undefined,
    isTuple: node.positions !== undefined,
    choices,
    said: saidOf(node),
    records: recordsAround(node),
  };
  let shape: Shape = {};
  for (const rule of rules) {
    const decided = rule.decide(seen);
    if (decided === undefined) continue;
    shape = { ...shape, ...decided.shape };
    const { shape: _, ...told } = decided;
    if (told.decision !== '') decisions.push({ place: node.pointer, rule: rule.name, ...told });
  }
  const kinds = [shape.boolean, shape.integer ?? shape.number, shape.string, shape.list, shape.object].filter(
    Boolean,
  );
  if (kinds.length > 1 && node.single === undefined) {
    decisions.push({
      place: node.pointer,
      rule: 'mixed',
      decision: 'a union',
      because: 'values of more than one kind were seen here',
    });
  }
  return shape;
}

/** How many distinct records have a field, by the identifiers beside it. */
function recordsAround(node: Node): number | undefined {
  const around = node.steps.at(-1) === 'every' ? undefined : node.parent?.self();
  const ids = [...(around?.edges.values() ?? [])]
    .filter((edge) => edge.node.self() !== node && edge.present === around!.facts.objects)
    .flatMap(({ key, node: beside }) => {
      const { ids } = beside.self().facts;
      // One link for all says nothing of the records.
      return ids === undefined || (ids.size === 1 && !/id$/i.test(key)) ? [] : [ids];
    });
  return ids.length === 0 || ids.includes(many) ? undefined : Math.max(...ids.map(({ size }) => size));
}

function keyWords(steps: readonly PlaceStep[]): string[] | undefined {
  for (let i = steps.length - 1; i >= 0; i--) {
    const step = steps[i]!;
    if (step !== 'every') return isEnvelope(step.key) ? undefined : wordsOf(step.key);
  }
  return undefined;
}

const whatever: Within = { form: anyForm };

class SchemaWriter {
  /** @param evidence whether places are annotated with what was seen there */
  constructor(
    private readonly analysis: Analysis,
    private readonly evidence: boolean,
  ) {}

  root(): Schema {
    const { root } = this.analysis;
    return this.write(root, (node) => this.recordOrUnion(node));
  }

  *definitions(): Generator<readonly [string, Schema]> {
    const { names, arms, armNames } = this.analysis;
    for (const [node, { name }] of names) yield [name, this.recordOrUnion(node)];
    for (const [node, { arms: each, tag }] of arms) {
      for (const arm of each) yield [armNames.get(arm)!.name, this.record(node, arm, tag)];
    }
  }

  /** The schema of a place where it is used: a reference when it is a record. */
  private use(node: Node, edge?: Edge, around?: Node, within: Within = whatever): Schema {
    const { root, names, armNames } = this.analysis;
    const target = node.self();
    const named = within.arm === undefined ? names.get(target) : armNames.get(within.arm);
    const schema = this.write(
      node,
      () => ({ $ref: target === root ? '#' : referenceTo(named!.name) }),
      within.form,
    );
    if (!this.evidence) return schema;
    const absent = edge === undefined ? 0 : around!.facts.objects - edge.present;
    return { ...schema, other: new Map([...(schema.other ?? []), ...evidenceAt(node, absent)]) };
  }

  private recordOrUnion(node: Node): Schema {
    const { arms, armNames } = this.analysis;
    const union = arms.get(node);
    if (union === undefined) return this.record(node);
    return { oneOf: union.arms.map((arm) => ({ $ref: referenceTo(armNames.get(arm)!.name) })) };
  }

  private record(node: Node, arm?: Arm, tag?: string): Schema {
    const properties = new Map<string, Schema>();
    const required: string[] = [];
    for (const edge of edgesInOrder(node)) {
      if (arm !== undefined && !arm.keys.includes(edge.key)) continue;
      const schema =
        arm !== undefined && edge.key === tag
          ? tagSchema(arm)
          : this.use(edge.node, edge, node, arm?.within?.get(edge.key));
      const xml = this.analysis.isXml ? xmlOf(edge.key, edge.node) : undefined;
      properties.set(
        edge.key,
        xml === undefined ? schema : { ...schema, other: new Map([...(schema.other ?? []), ['xml', xml]]) },
      );
      if (arm === undefined ? this.isRequired(node, edge) : this.isRequiredInArm(node, edge, arm))
        required.push(edge.key);
    }
    const others = node.rest === undefined ? {} : { additionalProperties: this.use(node.rest.node) };
    return { type: ['object'], properties, required, ...others };
  }

  private isRequiredInArm(node: Node, edge: Edge, arm: Arm): boolean {
    const isRequired = arm.required.has(edge.key);
    const { arms } = this.analysis.arms.get(node)!;
    const everywhere = arms.every((each) => each.required.has(edge.key));
    if (everywhere && arm !== arms[0]) return true;
    const where = everywhere ? '' : ` in ${this.analysis.armNames.get(arm)!.name}`;
    const count = everywhere ? node.facts.objects : arm.count;
    this.analysis.decisions.push({
      place: edge.node.pointer,
      rule: presenceRule.name,
      decision: `${isRequired ? 'required' : 'optional'}${where}`,
      because: isRequired ? `present in all ${count}` : `absent in some of ${count}`,
      first: isRequired ? edge.first : edge.firstAbsent,
    });
    return isRequired;
  }

  private isRequired(node: Node, edge: Edge): boolean {
    const target = edge.node.self();
    const { present, firstAbsent } = edge;
    const decided = presenceRule.decide({
      facts: target.facts,
      total: target.total,
      presence: { present, objects: node.facts.objects, firstAbsent },
      isMap: false,
      isTuple: false,
      choices: 'auto',
      said: edge.node.use.said,
    })!;
    this.analysis.decisions.push({
      place: placeOfEdge(node, edge),
      rule: presenceRule.name,
      decision: decided.decision,
      because: decided.because,
      first: decided.first ?? edge.first,
    });
    return decided.shape.required === true;
  }

  /**
   * @param used where; what stands for it says what is there besides null
   * @param form the kinds of its values, where not all of them are meant
   */
  private write(used: Node, record: (node: Node) => Schema, form: Form = anyForm): Schema {
    const node = used.self();
    const isNullable = used.use.nulls > 0 || used.use.said.has('nullable');
    const shape = ofForm(this.analysis.shapes.get(node)!, form);
    const elements: Within = { form: form === anyForm ? anyForm : elementsOf(form) || anyForm };
    const arms: Schema[] = [];
    if (shape.object === 'record') {
      const written = node.single === undefined ? record(node) : this.use(node.single);
      // A union of records among other things is one list of alternatives.
      arms.push(...(written.oneOf ?? [written]));
    }
    if (shape.object === 'open') arms.push({ type: ['object'] });
    if (shape.object === 'map') arms.push({ type: ['object'], additionalProperties: this.use(node.values!) });
    if (shape.list === 'untyped') arms.push({ type: ['array'] });
    if (shape.list === 'typed')
      arms.push({ type: ['array'], items: this.use(node.items!, undefined, undefined, elements) });
    if (shape.list === 'tuple') {
      arms.push({
        type: ['array'],
        prefixItems: node.positions!.map((each) => this.use(each, undefined, undefined, elements)),
        items: false,
        minItems: node.positions!.length,
      });
    }
    if (shape.string) arms.push(...stringSchemas(shape));
    if (shape.integer !== undefined) {
      arms.push({ type: ['integer'], format: formatOfWidth(shape.integer) });
    }
    if (shape.number !== undefined)
      arms.push({ type: ['number'], ...(shape.number === 'exact' ? { format: 'decimal' } : {}) });
    if (shape.boolean) arms.push({ type: ['boolean'] });

    // Null alone says nothing about what else there may be.
    if (arms.length === 0) return {};
    if (isNullable) {
      const only = arms[0];
      if (
        arms.length === 1 &&
        only?.type !== undefined &&
        only.properties === undefined &&
        only.enum === undefined
      ) {
        return { ...only, type: [...only.type, 'null'] };
      }
      arms.push({ type: ['null'] });
    }
    if (arms.length === 1) return arms[0]!;
    return arms.every((arm) => arm.$ref !== undefined) && !isNullable ? { oneOf: arms } : { anyOf: arms };
  }
}

/** A shape without what is not of a form. */
function ofForm(shape: Shape, form: Form): Shape {
  if (form === anyForm) return shape;
  const has = (kind: Form) => (form & kind) !== 0;
  return {
    ...shape,
    boolean: shape.boolean && has(booleanForm),
    string: shape.string && has(stringForm),
    integer: has(numberForm) ? shape.integer : undefined,
    number: has(numberForm) ? shape.number : undefined,
    list: has(listForm) ? shape.list : undefined,
    object: has(objectForm) ? shape.object : undefined,
  };
}

function tagSchema(arm: Arm): Schema {
  return arm.values.length === 1
    ? { const: json.string(arm.values[0]!) }
    : { type: ['string'], enum: arm.values.map(json.string) };
}

function stringSchemas(shape: Shape): Schema[] {
  if (shape.choice !== undefined) {
    const [first, ...others] = shape.choice.values.map(json.string);
    if (others.length === 0) return [{ const: first! }];
    const choice: Schema = { type: ['string'], enum: [first!, ...others] };
    return shape.choice.closed ? [choice] : [choice, { type: ['string'] }];
  }
  const said: [string, JsonValue][] =
    shape.dates === undefined ? [] : [[datesKeyword, json.string(shape.dates)]];
  if (shape.format === 'base64') said.unshift(['contentEncoding', json.string('base64')]);
  return [
    {
      type: ['string'],
      ...(shape.format === undefined || shape.format === 'base64' ? {} : { format: shape.format }),
      ...(said.length === 0 ? {} : { other: new Map(said) }),
    },
  ];
}

/** Decisions about one place: where it stands first, then what it is, then its type. */
const order = [
  'presence',
  'nullable',
  'object',
  'map',
  'union',
  'list',
  'tuple',
  'string',
  'text',
  'format',
  'choice',
  'integer',
  'number',
  'boolean',
  'mixed',
  'sharing',
  'naming',
];

const presenceRule = rules.find((rule) => rule.name === 'presence')!;

/** Where a key of the objects at a node stands, whichever of them had it. */
function placeOfEdge(node: Node, { node: below }: Edge): string {
  return `${node.pointer}${below.pointer.slice(below.parent!.pointer.length)}`;
}

/** Decisions about places of what was observed, said of those that people look for: keys and positions that are data stand for all. */
function atPatterns(decisions: readonly Decision[], root: Node): Decision[] {
  const patterns = new Map<string, string>();
  for (const node of usesFrom(root)) patterns.set(node.pointer, node.pattern);
  for (const node of nodesFrom(root))
    for (const edge of node.edges.values()) {
      const place = placeOfEdge(node, edge);
      if (!patterns.has(place)) patterns.set(place, `${node.pattern}${place.slice(node.pointer.length)}`);
    }
  return decisions.map((each) => ({ ...each, place: patterns.get(each.place) ?? each.place }));
}

/** Decisions place by place in the order of the schema, whatever order they were made in. */
function inOrderOfPlaces(decisions: readonly Decision[], root: Node): Decision[] {
  const places = new Map<string, number>();
  const pending: Node[] = [root];
  for (let node = pending.pop(); node !== undefined; node = pending.pop()) {
    const place = node.pattern;
    if (places.has(place)) continue;
    places.set(place, places.size);
    const edges = edgesInOrder(node).map((edge) => edge.node);
    const own = new Set(edges);
    extend(
      pending,
      nodesBelow(node).filter((each) => !own.has(each)),
    );
    extend(pending, edges.reverse());
  }
  const rank = (decision: Decision) => places.get(decision.place) ?? places.size;
  return [...decisions].sort((a, b) => rank(a) - rank(b) || order.indexOf(a.rule) - order.indexOf(b.rule));
}

function unmetNote({ source, pattern }: Steer, root: Node): string {
  const pointers = usesFrom(root).map((node) => node.pattern);
  // Somebody may have written the place as it is in the document rather than in the payload.
  const within = pointers.filter((each) => each !== '' && pattern.endsWith(each));
  const near = within.sort((a, b) => b.length - a.length)[0] ?? nearest(pattern, pointers);
  const remedy = near === undefined ? 'skevo outline prints the places' : `did you mean ${near}?`;
  return `${source}: there is no place ${pattern}; ${remedy}`;
}

function notesOn(observation: Observation): string[] {
  if (observation.payloads > 1) return [];
  return [
    'only one payload was seen: nothing can be told to be optional or nullable unless it varies inside it; give more samples',
  ];
}

/** Decisions for which little speaks are worth a question. */
const worthAsking = 0.1;

/** The decisions for which least speaks, at most so many, of those that a person can decide otherwise. */
export function mostDoubtful(decisions: readonly Decision[], count: number): Decision[] {
  return decisions
    .filter(
      ({ doubt, otherwise, place }) => (doubt ?? 0) >= worthAsking && otherwise !== undefined && place !== '',
    )
    .sort((a, b) => b.doubt! - a.doubt!)
    .slice(0, count);
}
