/** A revision of a document, as it is asked for. */
import type { Patch } from './patch.js';

export interface RevisionView {
  readonly revision: number;
  readonly patch: Patch;
  /** When, as an ISO 8601 date. */
  readonly at: string;
  /** Who made it, where people sign in; not there for what the server did. */
  readonly by?: string;
}
