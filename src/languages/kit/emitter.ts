import type { TypeModel } from '../../core/model/types.js';
import type { EmitOptions } from '../language.js';
import { HelperSet, type Helper } from './helpers.js';
import { ModelNames, type Spelling } from './model-names.js';

/** What writes the types of a model in a language: the model, what its types are called, and the helpers used so far. */
export abstract class ModelEmitter {
  protected readonly names: ModelNames;
  protected readonly helpers: HelperSet;

  /** @param known the helpers that the language has */
  constructor(
    protected readonly model: TypeModel,
    protected readonly options: EmitOptions,
    spelling: Spelling,
    known: Readonly<Record<string, Helper>> = {},
  ) {
    this.names = new ModelNames(model, spelling);
    this.helpers = new HelperSet(known);
  }
}
