import { SkevoError } from '../../core/error.js';
import { formatPlace, type Selector } from '../../core/json/pointer.js';
import { parseJson } from '../../core/json/parse.js';
import { selectPlace } from '../../core/json/select.js';
import { json, type JsonValue } from '../../core/json/value.js';
import type { Selection } from '../format.js';
import { sourceOf, type Original } from '../transcode.js';
import { pack, unpack } from '../json-pieces.js';

/** One element on the way to payloads, and whether others of its name may stand beside it. */
interface Step {
  readonly name: string;
  readonly isEvery: boolean;
}

/** An element of the way that is open. */
interface Passed {
  readonly position: number;
  /** How many child elements were of the next name. */
  count: number;
  readonly children: Map<string, number>;
}

/** Elements by name that lead to payloads; undefined when a place says anything else. */
export function pathOf(at: Selector): readonly Step[] | undefined {
  const path: Step[] = [];
  for (let i = 0; i < at.length; i++) {
    const step = at[i]!;
    if (step === 'every' || step === 'any depth' || /^(?:[@#]|\d+$)/.test(step.key)) return undefined;
    const isEvery = at[i + 1] === 'every';
    path.push({ name: step.key, isEvery });
    if (isEvery) i++;
  }
  return path.at(-1)?.isEvery ? path : undefined;
}

/** The way to the payloads of a document, walked while it is read. */
export class Route {
  private readonly open: Passed[] = [{ position: pack(1, 1), count: 0, children: new Map() }];
  /** The way that came nearest, for when nothing was found. */
  private farthest: Passed[] = [...this.open];

  constructor(
    private readonly path: readonly Step[],
    private readonly original: Original,
  ) {}

  /** An element begins in what is open. @throws SkevoError for a second one where one was asked for */
  enter(name: string, position: number): 'payload' | 'passed' | 'beside' {
    const { open, path } = this;
    const around = open[open.length - 1]!;
    const step = path[open.length - 1]!;
    if (!around.children.has(name)) around.children.set(name, position);
    if (name !== step.name) return 'beside';
    around.count++;
    if (around.count > 1 && !step.isEvery) {
      const place = formatPlace(path.slice(0, open.length).map((each) => ({ key: each.name })));
      throw new SkevoError(
        `--at expects one element ${place}, and this is another`,
        `Every one of them is ${place}/*.`,
        { file: this.original.name, ...unpack(position) },
      );
    }
    if (open.length === path.length) return 'payload';
    open.push({ position, count: 0, children: new Map() });
    if (open.length > this.farthest.length) this.farthest = [...open];
    return 'passed';
  }

  /** The innermost element on the way ends. */
  leave(): void {
    this.open.pop();
  }

  /** What leads to the payload that ends now. */
  tokens(): string[] {
    return this.path.flatMap(({ name, isEvery }, i) =>
      isEvery ? [name, String(this.open[i]!.count - 1)] : [name],
    );
  }

  /** Tells what a document lacks in which no payload was. */
  miss({ at, missed }: Selection): void {
    let found: JsonValue | undefined;
    const { farthest, path } = this;
    for (let i = farthest.length - 1; i >= 0; i--) {
      const { children, position } = farthest[i]!;
      const inner = found;
      const members = [...children].map(([key, start]) => {
        const value = inner !== undefined && key === path[i]!.name ? inner : { ...json.string(''), start };
        return { key, keyStart: start, value };
      });
      found = { kind: 'object', members, start: position, end: position };
    }
    const source = sourceOf(found!, this.original, unpack);
    selectPlace(parseJson(source).root, at, source, missed);
  }
}
