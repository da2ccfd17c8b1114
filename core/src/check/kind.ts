/** What a kind of note is made of: a file each in `kinds`. */
import type { CheckedLane } from './checkedLane.js';
import type { Found, NoteKindId } from './note.js';

export interface Kind {
  readonly id: NoteKindId;
  /** As a heading. */
  readonly name: string;
  /** What it is and why an eye catches it, as a sentence. */
  readonly about: string;
  /** Pure: the same lane gives the same notes, in order of their frames. */
  find(lane: CheckedLane): Found[];
}
