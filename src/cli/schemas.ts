import { findSchema } from '../schemas/find.js';
import { loadSchema, type Loaded } from '../schemas/load.js';
import { noteTaker } from './print.js';

/**
 * A schema of any kind that a command line names, with notes on what classes do not express.
 * @throws SkevoError when it is none
 */
export async function readAnySchema(given: string, quiet: boolean): Promise<Loaded> {
  const loaded = await loadSchema(await findSchema(given));
  sayNotes(loaded.notes, quiet);
  return loaded;
}

export function sayNotes(notes: Loaded['notes'], quiet: boolean): void {
  const taker = noteTaker(quiet);
  for (const note of notes) taker.notes(note);
  taker.finish();
}
