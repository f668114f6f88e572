import { compareMarks, type Mark } from '../observe/mark.js';
import type { Observation } from '../observe/observation.js';
import { dialect, type Schema } from '../schema/schema.js';
import { pascalCase, wordsOf } from '../words.js';
import { graphOf, nodesFrom, type Edge, type Node } from './graph.js';
import { nameRecords, type Named } from './naming.js';
import type { Seen, Shape } from './rule.js';
import { rules } from './rules/index.js';
import { shareRecords } from './sharing.js';

/** A choice made somewhere in a schema and why. */
export interface Decision {
  /** A place as `formatPlace` writes it; empty for the payload itself. */
  readonly place: string;
  readonly rule: string;
  readonly decision: string;
  readonly because: string;
  /** The first value that shows it. */
  readonly first?: Mark;
}

export interface Inferred {
  readonly schema: Schema;
  /** In the order of places, fields as in the schema. */
  readonly decisions: readonly Decision[];
  /** What is too thin to rely on. */
  readonly notes: readonly string[];
}

/**
 * A JSON Schema (2020-12) that every observed payload meets, with the reason for each decision. The result
 * depends on what was observed, not on the order.
 *
 * @param name what the payload is called; becomes the schema's title
 */
export function inferSchema(observation: Observation, name: string): Inferred {
  const decisions: Decision[] = [];
  const root = graphOf(observation.root);
  shareRecords(root, (decision) => decisions.push(decision));

  const shapes = new Map<Node, Shape>();
  for (const node of nodesFrom(root))
    shapes.set(node, shapeOf({ facts: node.facts, total: node.total }, node.place, decisions));
  const isRecord = (node: Node) => shapes.get(node)!.object === 'record';
  const rootWords = wordsOf(name);
  const names = nameRecords(root, isRecord, rootWords);
  for (const [node, { name: given, because }] of names) {
    decisions.push({
      place: node.place,
      rule: 'naming',
      decision: `called ${given}`,
      because,
      first: node.facts.firstObject,
    });
  }

  const writer = new SchemaWriter(shapes, names, root.self(), decisions);
  const top = writer.root();
  const defs = new Map(
    [...names]
      .map(([node, { name: given }]) => [given, writer.record(node)] as const)
      .sort(([a], [b]) => (a < b ? -1 : 1)),
  );
  const schema: Schema = { $schema: dialect, title: pascalCase(rootWords), ...top, $defs: defs };
  return { schema, decisions: inOrderOfPlaces(decisions, root), notes: notesOn(observation) };
}

function shapeOf(seen: Seen, place: string, decisions: Decision[]): Shape {
  let shape: Shape = {};
  for (const rule of rules) {
    const decided = rule.decide(seen);
    if (decided === undefined) continue;
    shape = { ...shape, ...decided.shape };
    decisions.push({
      place,
      rule: rule.name,
      decision: decided.decision,
      because: decided.because,
      first: decided.first,
    });
  }
  const kinds = [shape.boolean, shape.integer ?? shape.number, shape.string, shape.list, shape.object].filter(
    Boolean,
  );
  if (kinds.length > 1) {
    decisions.push({
      place,
      rule: 'mixed',
      decision: 'a union',
      because: 'values of more than one kind were seen here',
    });
  }
  return shape;
}

class SchemaWriter {
  constructor(
    private readonly shapes: ReadonlyMap<Node, Shape>,
    private readonly names: ReadonlyMap<Node, Named>,
    private readonly top: Node,
    private readonly decisions: Decision[],
  ) {}

  root(): Schema {
    return this.write(this.top, (node) => this.record(node));
  }

  /** The schema of a place where it is used: a reference when it is a record. */
  private use(node: Node): Schema {
    const target = node.self();
    return this.write(target, () => ({
      $ref: target === this.top ? '#' : `#/$defs/${pointerToken(this.names.get(target)!.name)}`,
    }));
  }

  record(node: Node): Schema {
    const properties = new Map<string, Schema>();
    const required: string[] = [];
    for (const edge of edgesInOrder(node)) {
      properties.set(edge.key, this.use(edge.node));
      if (this.isRequired(node, edge)) required.push(edge.key);
    }
    return { type: ['object'], properties, required };
  }

  private isRequired(node: Node, edge: Edge): boolean {
    const target = edge.node.self();
    const { facts, total } = target;
    const { present, firstAbsent } = edge;
    const decided = presenceRule.decide({
      facts,
      total,
      presence: { present, objects: node.facts.objects, firstAbsent },
    })!;
    this.decisions.push({
      place: `${node.place}${edge.node.place.slice(edge.node.parent!.place.length)}`,
      rule: presenceRule.name,
      decision: decided.decision,
      because: decided.because,
      first: decided.first ?? edge.first,
    });
    return decided.shape.required === true;
  }

  private write(node: Node, record: (node: Node) => Schema): Schema {
    const shape = this.shapes.get(node)!;
    const arms: Schema[] = [];
    if (shape.object === 'record') arms.push(record(node));
    if (shape.object === 'open') arms.push({ type: ['object'] });
    if (shape.list !== undefined) {
      arms.push({ type: ['array'], ...(shape.list === 'typed' ? { items: this.use(node.items!) } : {}) });
    }
    if (shape.string) arms.push({ type: ['string'] });
    if (shape.integer !== undefined) {
      arms.push({ type: ['integer'], ...(shape.integer === 'unbounded' ? {} : { format: shape.integer }) });
    }
    if (shape.number !== undefined)
      arms.push({ type: ['number'], ...(shape.number === 'exact' ? { format: 'decimal' } : {}) });
    if (shape.boolean) arms.push({ type: ['boolean'] });

    if (shape.nullable) {
      const only = arms[0];
      if (arms.length === 1 && only?.type !== undefined && only.properties === undefined) {
        return { ...only, type: [...only.type, 'null'] };
      }
      arms.push({ type: ['null'] });
    }
    if (arms.length === 0) return {};
    return arms.length === 1 ? arms[0]! : { anyOf: arms };
  }
}

/** Decisions about one place: where it stands first, then what it is, then its type. */
const order = [
  'presence',
  'nullable',
  'object',
  'list',
  'string',
  'integer',
  'number',
  'boolean',
  'mixed',
  'sharing',
  'naming',
];

const presenceRule = rules.find((rule) => rule.name === 'presence')!;

function edgesInOrder(node: Node): Edge[] {
  return [...node.edges.values()].sort((a, b) => compareMarks(a.first, b.first));
}

function pointerToken(name: string): string {
  return name.replace(/~/g, '~0').replace(/\//g, '~1');
}

/** Decisions place by place in the order of the schema, whatever order they were made in. */
function inOrderOfPlaces(decisions: readonly Decision[], root: Node): Decision[] {
  const places = new Map<string, number>();
  const visit = (node: Node) => {
    if (!places.has(node.place)) places.set(node.place, places.size);
    for (const edge of edgesInOrder(node)) visit(edge.node);
    if (node.items !== undefined) visit(node.items);
  };
  visit(root);
  const rank = (decision: Decision) => places.get(decision.place) ?? places.size;
  return [...decisions].sort((a, b) => rank(a) - rank(b) || order.indexOf(a.rule) - order.indexOf(b.rule));
}

function notesOn(observation: Observation): string[] {
  if (observation.payloads > 1) return [];
  return [
    'only one payload was seen: nothing can be told to be optional or nullable unless it varies inside it; give more samples',
  ];
}
