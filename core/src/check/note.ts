/**
 * What the checker says of a scene: a note is one thing an eye would catch, where it is, why, how sure it is, how much it
 * matters and what would mend it. Notes are made anew from the scene each time; what lasts is that one was set aside.
 */
import type { Span } from '../time/span.js';

/** In the order they are told in: what everybody sees first. */
export const NOTE_KINDS = [
  'closure-missing',
  'closure-off',
  'lane-off',
  'mouth-off',
  'vowel-shut',
  'open-in-pause',
  'rest-short',
  'settle-missing',
  'vowel-small',
  'flapping',
  'one-frame',
  'long-hold',
  'alike',
  'unlike',
  'same-turn',
  'ink-adrift',
  'drawing-gone',
  'drawing-unused',
  'drawing-once',
  'group-empty',
  'groups-alike',
  'doubtful-word',
  'word-silent',
  'past-end',
  'long-tail',
  'clipping',
  'too-quiet',
  'under-voice',
  'two-speak',
  'chart-missing',
] as const;
export type NoteKindId = (typeof NOTE_KINDS)[number];

/** How much a note matters: to be known, seen by who looks for it, seen by everybody. */
export type NoteWeight = 1 | 2 | 3;
export const NOTE_WEIGHTS: Readonly<Record<NoteWeight, string>> = { 1: 'to know', 2: 'seen', 3: 'seen by everybody' };

/** A mouth that a mend lays over some frames. */
export interface MendPiece extends Span {
  readonly drawing: string;
}

/** What would mend a note. */
export type Mend =
  /** Other mouths in some frames, in the ink of whoever takes the mend. */
  | { readonly do: 'lay'; readonly track: string; readonly from: number; readonly to: number; readonly pieces: readonly MendPiece[] }
  /** What the plan has in some frames, beside what is around them. */
  | { readonly do: 'plan'; readonly track: string; readonly from: number; readonly to: number }
  /** The whole lane moved, ink and all. */
  | { readonly do: 'slide'; readonly track: string; readonly by: number }
  | { readonly do: 'length'; readonly frames: number }
  | { readonly do: 'gain'; readonly clip: string; readonly db: number };

/** One thing that was found. Frames count from 0, half-open. */
export interface Found extends Span {
  readonly why: string;
  /** 0 to 1. */
  readonly sure: number;
  readonly weight: NoteWeight;
  /** What would mend it, the best first; the first that mends it without making something else is taken. */
  readonly mends: readonly Mend[];
  /** What tells two of a kind apart that begin on the same frame. */
  readonly of?: string;
}

export interface Note extends Found {
  /** The same for the same thing, whatever changes elsewhere. */
  readonly id: string;
  readonly kind: NoteKindId;
  /** The lane it is on; null for the scene's own. */
  readonly track: string | null;
  /** What is there, as one number: while it stays, a note that was set aside stays aside. */
  readonly look: string;
  /** The frames of it are ink, so that a mend is taken by name only. */
  readonly isInk: boolean;
}
