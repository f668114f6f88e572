import { loadSchema, pathOfSchema, type Loaded } from '../schemas/load.js';
import { readSource } from './files.js';
import { noteTaker } from './print.js';

/**
 * A schema of any kind that a command line names, with notes on what classes do not express.
 * @throws SkevoError when it is none
 */
export async function readAnySchema(given: string, quiet: boolean): Promise<Loaded> {
  const loaded = await loadSchema(given, readSource(pathOfSchema(given)));
  const { notes, finish } = noteTaker(quiet);
  for (const note of loaded.notes) notes(note);
  finish();
  return loaded;
}
