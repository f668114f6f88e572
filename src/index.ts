/**
 * Skevo as a library: the steps of the command line as functions. docs/library.md shows them at work. Nothing here ends the
 * process, prints or asks the network.
 */
export { SkevoError, type FilePlace } from './core/error.js';
export { type Note, type Notes } from './core/note.js';

export { resolveInputs, type Input } from './formats/inputs.js';
export {
  observeInputs,
  readPayloads,
  type ObserveOptions,
  type PayloadReadOptions,
  type ReadOptions,
} from './formats/read.js';

export { parseJson, type DuplicateKey, type JsonDocument } from './core/json/parse.js';
export {
  formatPlace,
  formatPointer,
  parsePlace,
  parsePointer,
  parseSelector,
  resolvePointer,
  type PlaceStep,
  type Selector,
} from './core/json/pointer.js';
export { type Source } from './core/json/source.js';
export { json, type JsonValue } from './core/json/value.js';
export { writeJson } from './core/json/write.js';

export { Observer } from './core/observe/observe.js';
export { mergeObservation, Observation, type Field, type Place } from './core/observe/observation.js';
export { saveObservation } from './core/observe/save.js';
export { readObservation } from './core/observe/saved.js';

export { outlineOf, recordsIn, type OutlineRow } from './core/infer/outline.js';
export {
  analyse,
  inferSchema,
  type Decision,
  type Inferred,
  type Analysis,
  type InferOptions,
} from './core/infer/infer.js';
export { readSchema } from './core/schema/read.js';
export { schemaToJson, type Schema } from './core/schema/schema.js';

export { Learner } from './core/update/learn.js';
export { updateSchema, type SchemaChange, type Updated } from './core/update/update.js';

export { buildModel } from './core/model/build.js';
export type * from './core/model/types.js';
export { languages } from './languages/index.js';
export type { Emitted, GeneratedFile, Language, Style } from './languages/language.js';

export { compareValues, type Difference } from './core/roundtrip/compare.js';
export { findingKinds, type Finding, type FindingKind, type Severity } from './core/roundtrip/finding.js';
export { type Payload } from './core/roundtrip/payload.js';
export { Coverage, type Unproven } from './core/roundtrip/unproven.js';
export { checkAll, type CheckAllOptions, type CheckResult } from './workbench/check-all.js';
export {
  checkStyle,
  openProgram,
  openSession,
  type CheckOptions,
  type LanguageResult,
  type Session,
} from './workbench/check.js';
export {
  make,
  makeAll,
  makeTogether,
  type Made,
  type MakeOptions,
  type Target,
  type Unmade,
} from './languages/make.js';
export { usualLimits, type Limits } from './workbench/exchange.js';
export { findToolchain, type Toolchain } from './workbench/toolchain.js';
