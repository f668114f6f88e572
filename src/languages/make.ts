import { SkevoError } from '../core/error.js';
import type { TypeModel } from '../core/model/types.js';
import type { Bench, Emitted, Language, Style, UnknownRule } from './language.js';

/** A language in one style, with all that says how its types are written. */
export interface Target {
  readonly language: Language;
  readonly style: Style;
  /** The package, namespace or module of the types; the payload's name when not given. */
  readonly package?: string | undefined;
  /** What its code does with fields that the schema does not know; `drop` when not given. */
  readonly unknown?: UnknownRule | undefined;
}

/** What a target came to: the sources as they are written and proven, and what runs just them. */
export interface Made {
  readonly target: Target;
  readonly emitted: Emitted;
  readonly bench: Bench;
}

/** A target that cannot write the types, and why. */
export interface Unmade {
  readonly target: Target;
  readonly trouble: SkevoError;
}

export interface MakeOptions {
  /** Where the schema came from, for the head of the files. */
  readonly origin: string;
  /** Whether warnings of compilers and checkers end the build. */
  readonly pedantic?: boolean;
}

/**
 * Makes the classes of a model, once, for whoever writes, proves or shows them: nothing else calls a style to emit.
 * @returns one for each target, in their order
 */
export function make(
  model: TypeModel,
  targets: readonly Target[],
  { origin, pedantic = false }: MakeOptions,
): (Made | Unmade)[] {
  return targets.map((target) => {
    const { style, unknown } = target;
    try {
      const emitted = style.emit(model, { origin, package: target.package, unknown });
      return {
        target,
        emitted,
        bench: style.bench(model, { pedantic, names: emitted.names, package: target.package, unknown }),
      };
    } catch (error) {
      if (!(error instanceof SkevoError)) throw error;
      return { target, trouble: error };
    }
  });
}

/** The same where each target must be able to write the types. @throws SkevoError for the first that is not */
export function makeAll(model: TypeModel, targets: readonly Target[], options: MakeOptions): Made[] {
  return make(model, targets, options).map((each) => {
    if ('trouble' in each) throw each.trouble;
    return each;
  });
}
