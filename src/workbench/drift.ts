import { SkevoError } from '../core/error.js';
import type { Source } from '../core/json/source.js';
import type { Payload } from '../core/roundtrip/payload.js';
import type { Schema } from '../core/schema/schema.js';
import { Learner } from '../core/update/learn.js';
import { updateSchema, type SchemaChange } from '../core/update/update.js';
import { boundedPatterns } from './pattern.js';

/** Watches payloads for what a schema does not say. */
export class Drift {
  /** Why it cannot be told: some keywords of a schema written by hand cannot be widened. */
  trouble: SkevoError | undefined;
  private readonly learner: Learner;

  constructor(schema: Schema, source: Source) {
    this.learner = new Learner(schema, source, boundedPatterns);
  }

  add(payload: Payload): void {
    if (this.trouble !== undefined) return;
    try {
      this.learner.learn(payload);
    } catch (error) {
      if (!(error instanceof SkevoError)) throw error;
      this.trouble = error;
    }
  }

  /** Nothing for payloads that have nothing to do with the schema: they are refused, and that is said already. */
  changes(): readonly SchemaChange[] {
    if (this.trouble !== undefined || !this.learner.isFamiliar) return [];
    return updateSchema(this.learner, 'auto').changes;
  }
}
