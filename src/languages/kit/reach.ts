import type { PlainStep, ReachStep } from '../../core/model/reach.js';
import type { Type } from '../../core/model/types.js';
import { wordsOf, singular } from '../../core/words.js';
import type { Emitted } from '../language.js';
import { identifier, type Casing } from './names.js';

/** Names for the loop variables on a way, each after what it runs over and all different. */
export class LoopNames {
  private readonly taken = new Set<string>();

  constructor(
    private readonly casing: Casing,
    private readonly reserved: ReadonlySet<string>,
  ) {}

  take(word: string): string {
    const words = singular(wordsOf(word));
    const base = identifier(words.length === 0 ? 'item' : words.join(' '), this.casing);
    const wanted = this.reserved.has(base) ? `${base}_` : base;
    let name = wanted;
    for (let i = 2; this.taken.has(name); i++) name = `${wanted}${i}`;
    this.taken.add(name);
    return name;
  }
}

/** An alternative of a union: the name of the union in the model, its position, and a name for its value. */
export interface Arm {
  readonly union: string;
  readonly index: number;
  readonly item: () => string;
  /** The field that is reached in it next. */
  readonly field: string | undefined;
}

/** How a language reaches into decoded values. Lines that open something are closed in the reverse order. */
export interface ReachSyntax {
  readonly casing: Casing;
  readonly reserved: ReadonlySet<string>;
  readonly indent: string;
  /** What closes a block; nothing where the indentation says it. */
  readonly close?: string;
  /** What ends a statement. */
  readonly end: string;
  /** The line that runs over a list or the values of a map. */
  loop(of: 'list' | 'map', item: string, here: string): string;
  field(here: string, name: string): string;
  /** The line that goes on only where a value is there, and what the value is called inside. */
  ifThere?(
    here: string,
    field: { readonly isBoth: boolean; readonly item: () => string },
  ): { readonly line: string; readonly here: string };
  position(here: string, index: number): string;
  /**
   * The line that goes on only for one alternative of a union, and what the value is called inside; with `isField`, what the
   * field of it is called that is reached next.
   */
  ifArm(
    here: string,
    type: Type,
    name: string | undefined,
    arm: Arm,
  ): { readonly line: string; readonly here: string; readonly isField?: true };
}

/** Lines that reach a place through generated types, lists as loops. */
export function reachWith(
  syntax: ReachSyntax,
  root: string,
  steps: readonly ReachStep[],
  names: Emitted['names'],
): string {
  const loops = new LoopNames(syntax.casing, syntax.reserved);
  const open: string[] = [];
  let here = loops.take(identifier(root, syntax.casing));
  const enter = (inside: { readonly line: string; readonly here: string } | undefined) => {
    if (inside === undefined) return;
    open.push(inside.line);
    here = inside.here;
  };
  let isReached = false;
  steps.forEach((step, i) => {
    const goesOn = i < steps.length - 1;
    switch (step.kind) {
      case 'field':
        if (!isReached) here = syntax.field(here, names.get(step.record)!.fields.get(step.key)!);
        isReached = false;
        if (step.mayLack && goesOn)
          enter(syntax.ifThere?.(here, { isBoth: step.isBoth, item: () => loops.take(step.key) }));
        break;
      case 'each': {
        const item = loops.take(step.word);
        enter({ line: syntax.loop(step.of, item, here), here: item });
        if (step.mayLack && goesOn) enter(syntax.ifThere?.(here, { isBoth: false, item: () => item }));
        break;
      }
      case 'position':
        here = syntax.position(here, step.index);
        break;
      case 'arm': {
        const next = steps[i + 1];
        const isShared = next?.kind === 'field' && names.get(step.union)?.union?.shared.has(next.key);
        if (isShared) break;
        const name = step.type.kind === 'record' ? names.get(step.type.name)!.type : undefined;
        const { union, index } = step;
        const field = next?.kind === 'field' ? names.get(next.record)!.fields.get(next.key) : undefined;
        const item = () => loops.take(name ?? 'value');
        const inside = syntax.ifArm(here, step.type, name, { union, index, item, field });
        isReached = inside.isField === true;
        enter(inside);
      }
    }
  });
  return closed(syntax, open, here);
}

/** How a language reaches into parsed JSON without types. */
export interface PlainSyntax extends Pick<
  ReachSyntax,
  'casing' | 'reserved' | 'indent' | 'close' | 'end' | 'loop'
> {
  key(here: string, key: string): string;
}

/** The same through plain parsed JSON. */
export function plainWith(syntax: PlainSyntax, root: string, steps: readonly PlainStep[]): string {
  const loops = new LoopNames(syntax.casing, syntax.reserved);
  const open: string[] = [];
  let here = loops.take(identifier(root, syntax.casing));
  for (const step of steps) {
    if (step.kind === 'key') {
      here = syntax.key(here, step.key);
      continue;
    }
    const item = loops.take(step.word);
    open.push(syntax.loop(step.of, item, here));
    here = item;
  }
  return closed(syntax, open, here);
}

function closed(
  { indent, close, end }: Pick<ReachSyntax, 'indent' | 'close' | 'end'>,
  open: readonly string[],
  here: string,
): string {
  const at = (depth: number, text: string) => `${indent.repeat(depth)}${text}`;
  const inner = [...open.map((line, i) => at(i, line)), at(open.length, `${here}${end}`)];
  return (
    close === undefined ? inner : [...inner, ...open.map((_, i) => at(open.length - 1 - i, close))]
  ).join('\n');
}
