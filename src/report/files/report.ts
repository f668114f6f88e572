import type { TypeModel } from '../../core/model/types.js';
import type { SchemaChange } from '../../core/update/update.js';
import type { Made, Unmade } from '../../languages/make.js';
import type { CheckResult } from '../../workbench/check-all.js';

/** One schema and what a check made of it. */
export interface ReportPart {
  /** The contract, or what the schema is called. */
  readonly name: string;
  readonly schema: string;
  readonly model: TypeModel;
  /** What was made for each of the languages of the result. */
  readonly made: readonly (Made | Unmade)[];
  readonly result: CheckResult;
  /** Files that a run which may change none would write: nothing is proven before they are. */
  readonly pending?: readonly string[];
  readonly drift: readonly SchemaChange[];
  /** Lines of a payload's file; undefined when it cannot be read again. */
  readonly linesOf: (file: string) => readonly string[] | undefined;
}
