import type { FilePlace } from '../error.js';

/** Where a document is no longer what it was when it is written from what was read. */
export interface DocumentLoss {
  readonly place: FilePlace;
  readonly message: string;
}

export interface ProvenDocuments {
  readonly documents: number;
  readonly losses: readonly DocumentLoss[];
}
