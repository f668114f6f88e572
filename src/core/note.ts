import type { FilePlace } from './error.js';

/** Something a user should know that does not stop the work. */
export interface Note {
  readonly message: string;
  readonly place?: FilePlace;
}

/** Takes notes as they come up. */
export type Notes = (note: Note) => void;
