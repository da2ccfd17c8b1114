/** What an open document is to the page: its state, and what may be done with it. */
import type { DocumentKind, History, Patch, Refusal } from '@zest-jaw/core';
import type { StoreApi } from 'zustand/vanilla';
import type { Past } from './pastSteps.js';
import type { ConflictCause } from './saving.js';
import type { RefusedPatch } from './unsaved.js';

export type SaveState = 'saved' | 'saving' | 'waiting' | 'conflict';

export interface SessionState<D> {
  readonly documentId: string;
  readonly revision: number;
  readonly confirmed: D;
  readonly document: D;
  readonly unconfirmed: readonly Patch[];
  readonly history: History;
  /** What was done before this session, as far as it has been asked for. */
  readonly past: Past;
  readonly saveState: SaveState;
  /** How many changes are still being worked out that will follow from those made: until they are in, not all is saved. */
  readonly toFollow: number;
  /** Why what is waiting is not saved yet. */
  readonly trouble: string | undefined;
  /** What the server's document is to ours, in a conflict. */
  readonly conflict: ConflictCause | undefined;
  /** What the server would not have, until it is put away. */
  readonly refused: readonly RefusedPatch[];
}

export interface DocumentSession<D> {
  readonly store: StoreApi<SessionState<D>>;
  /** Applies a command's patch; a refusal is told to `onRefusal` and changes nothing. */
  change(result: Patch | Refusal): boolean;
  /** Takes the last step back; false with none left. Steps from before the session are fetched when they are wanted. */
  undo(): boolean;
  redo(): boolean;
  /** Begins a gesture; what it does until its end is one step of undo, however long it takes. Answers with what `squash` wants. */
  mark(): number;
  /** Ends the gesture begun at a mark. */
  squash(mark: number): void;
  /** A change that follows from a step of undo and belongs to it, where that is still there. */
  follow(step: string | undefined, result: Patch): boolean;
  /** Something that will follow is being worked out: until it is done, not all is saved. */
  expect(work: Promise<void>): void;
  /** The last step of undo, to be followed. */
  lastStep(): string | undefined;
  /** Until it is called with nothing, changes of a hand are refused with this sentence; what follows from earlier ones is not. */
  hold(sentence: string | undefined): void;
  /**
   * Takes in what others did meanwhile, and the server, such as a reading that has arrived.
   *
   * @param revision what is known to have come about; nothing is asked where it is here already
   */
  refresh(revision?: number): Promise<void>;
  /** Resolves when everything is acknowledged, or rejects with why not. */
  flush(): Promise<void>;
  /** Tries again at once instead of waiting. */
  retry(): void;
  /** Puts away what was refused. */
  forgetRefused(): void;
  /** Keeps this side of a conflict as a document of its own, takes the server's side here; answers with the new document's id. */
  keepAsCopy(title: string): Promise<string>;
  /** The same, kept in a way of somebody else’s: what that answers is answered. */
  keepMine<Kept>(keep: (mine: D) => Promise<Kept>): Promise<Kept>;
  close(): void;
}

/** What the server has of a document. */
export interface DocumentView<D> {
  readonly id: string;
  readonly revision: number;
  readonly document: D;
}

export interface SessionOptions<D> {
  readonly kind: DocumentKind<D>;
  /** Where the server keeps documents of this kind: `/scenes`, `/charts`. */
  readonly path: string;
  readonly onRefusal: (sentence: string) => void;
  /** What is said of a change by a hand that may not be made now; what follows from earlier ones is not asked about. */
  readonly guard?: ((document: D, patch: Patch) => Refusal | undefined) | undefined;
  /**
   * What is wrong with a document, as sentences. In development and tests every change is held against its
   * invariants; what is shipped leaves that to the server, which does it always.
   */
  readonly check?: ((document: D) => readonly string[]) | undefined;
}
