import { SkevoError } from '../core/error.js';
import { withDates, type DatesRule } from '../core/model/dates.js';
import { mergeModels } from '../core/model/merge.js';
import type { TypeModel } from '../core/model/types.js';
import type { Bench, Emitted, Language, Style, UnknownRule, BuildersRule } from './language.js';

/** A language in one style, with all that says how its types are written. */
export interface Target {
  readonly language: Language;
  readonly style: Style;
  /** The package, namespace or module of the types; the payload's name when not given. */
  readonly package?: string | undefined;
  /** What its code does with fields that the schema does not know; `drop` when not given. */
  readonly unknown?: UnknownRule | undefined;
  /** What dates, UUIDs and bytes are; as the schema says of each when not given. */
  readonly dates?: DatesRule | undefined;
  /** Whether large records have builders, where the style knows them; `on` when not given. */
  readonly builders?: BuildersRule | undefined;
}

/** What a target came to: the sources as they are written and proven, and what runs just them. */
export interface Made {
  readonly target: Target;
  /** The types of the payload, with the names that `emitted` knows them by. */
  readonly model: TypeModel;
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
  return targets.map((target) => makeOne(named(model, target), [model], target, { origin, pedantic })[0]!);
}

/**
 * Makes the classes of several models that share a package: their types come out together, and what the models have in
 * common comes out once.
 * @param targets each with a package
 * @returns for each model what was made of each target: the same files, each time with a program that runs the payloads
 *   of that model
 */
export function makeTogether(
  models: readonly [TypeModel, ...TypeModel[]],
  targets: readonly Target[],
  { origin, pedantic = false }: MakeOptions,
): readonly (readonly (Made | Unmade)[])[] {
  const { model, parts } = mergeModels(models, '');
  const made = targets.map((target) =>
    makeOne(named(model, target, true), parts, target, { origin, pedantic }),
  );
  return parts.map((_, i) => made.map((each) => each[i]!));
}

/** A model that is called as its package where that says what its files are called. */
function named(model: TypeModel, { language, package: given }: Target, isShared = false): TypeModel {
  if (given === undefined || !(isShared || language.package?.isFile)) return model;
  return { ...model, name: given.split(/[./\\:]+/).at(-1)! };
}

/**
 * @param model all types
 * @param parts the models of the payloads that are of these types
 * @returns for each part the same sources, with the program that runs its payloads
 */
function makeOne(
  model: TypeModel,
  parts: readonly TypeModel[],
  target: Target,
  options: Required<MakeOptions>,
): (Made | Unmade)[] {
  const { style, package: given, builders } = target;
  const { origin, pedantic } = options;
  // What the schema gives a type is not unknown, and is not lost: it is carried, though not typed by most yet.
  const hasTypedOthers = model.records.some(({ others }) => others !== undefined);
  const unknown = hasTypedOthers && !style.typesOthers ? 'keep' : target.unknown;
  try {
    if (target.unknown === 'reject' && unknown === 'keep')
      throw new SkevoError(
        `${target.language.name}:${style.name} cannot reject fields that the schema does not know where it types those that it does not name`,
        `Take --unknown keep, or another style of ${target.language.name}.`,
      );
    if (unknown !== undefined && style.unknown?.includes(unknown) === false)
      throw new SkevoError(
        `${target.language.name}:${style.name} cannot ${unknown} fields that the schema does not know`,
        `Take --unknown ${style.unknown.join(' or ')}, or another style of ${target.language.name}.`,
      );
    const types = withDates(model, target.dates, style.natives ?? []);
    const emitted = style.emit(types, { origin, package: given, unknown, builders });
    const { names } = emitted;
    const paths = emitted.files.map(({ path }) => path);
    return parts.map((part, root) => {
      const bench = style.bench(types, { pedantic, names, paths, package: given, unknown, builders, root });
      return { target, model: part, emitted, bench };
    });
  } catch (error) {
    if (!(error instanceof SkevoError)) throw error;
    return parts.map(() => ({ target, trouble: error }));
  }
}

/** The same where each target must be able to write the types. @throws SkevoError for the first that is not */
export function makeAll(model: TypeModel, targets: readonly Target[], options: MakeOptions): Made[] {
  return allMade(make(model, targets, options));
}

/** @throws SkevoError for the first that could not be made */
export function allMade(made: readonly (Made | Unmade)[]): Made[] {
  return made.map((each) => {
    if ('trouble' in each) throw each.trouble;
    return each;
  });
}
