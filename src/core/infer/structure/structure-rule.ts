import type { Mark } from '../../observe/mark.js';
import type { Node } from '../graph.js';

/** A decision about what the parts of a node are to each other, made before the types of the parts. */
export interface StructureRule {
  readonly name: string;
  /** The decision and its reason; undefined when the rule does not apply. */
  decide(
    node: Node,
  ):
    | { readonly decision: string; readonly because: string; readonly first?: Mark; readonly doubt?: number }
    | undefined;
}

/** The kinds of value at a node, null aside. */
export function kindsAt(node: Node): string {
  const { facts } = node;
  return [
    facts.trues + facts.falses > 0 ? 'boolean' : '',
    facts.integers + facts.decimals > 0 ? 'number' : '',
    facts.strings > 0 ? 'string' : '',
    facts.lists > 0 ? 'list' : '',
    facts.objects > 0 ? 'object' : '',
  ]
    .filter((kind) => kind !== '')
    .join('|');
}
