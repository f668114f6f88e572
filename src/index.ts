/** The steps of Skevo as functions. */
export { SkevoError, type FilePlace } from './core/error.js';
export { parseJson, type JsonDocument } from './core/json/parse.js';
export { writeJson } from './core/json/write.js';
