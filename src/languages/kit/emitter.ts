import { needsDigits, type TypeModel } from '../../core/model/types.js';
import type { EmitOptions, UnknownRule } from '../language.js';
import { HelperSet, type Helper } from './helpers.js';
import { ModelNames, type Spelling } from './model-names.js';

/** What writes the types of a model in a language: the model, what its types are called, and the helpers used so far. */
export abstract class ModelEmitter {
  protected readonly names: ModelNames;
  protected readonly helpers: HelperSet;
  protected readonly unknown: UnknownRule;

  /** @param known the helpers that the language has */
  constructor(
    protected readonly model: TypeModel,
    protected readonly options: EmitOptions,
    spelling: Spelling,
    known: Readonly<Record<string, Helper>> = {},
  ) {
    this.names = new ModelNames(model, spelling);
    this.helpers = new HelperSet(known);
    this.unknown = options.unknown ?? 'drop';
  }

  /** Whether some numbers may need more digits than those of the language have. */
  protected needsDigits(integersToo: boolean): boolean {
    const { model } = this;
    return needsDigits(model, integersToo) || (this.unknown === 'keep' && model.records.length > 0);
  }
}
