/**
 * A lane as a hand works on it: mouths held one after another, cut, moved and laid again; and
 * the patch that makes a track's exposures into what came of it.
 */
import { sharedEnds } from '../document/sharedEnds.js';
import { sameJson } from '../document/documentKind.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import type { Reason } from '../document/reasons.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { movedRuns, SHORTEST_RUN, type Run } from '../scene/exchangePencil.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { frameNumber, type Exposure, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { maybeCutTo, overlaps, without, type Span } from '../time/span.js';

/** A mouth held over some frames. One that keeps the id of an exposure is that exposure, wherever it has come to. */
export interface Laid extends Span {
  readonly id?: string;
  readonly drawing: string;
  readonly inked: boolean;
  readonly plays: readonly string[];
}

/** In order, none over another. */
export type Lane = readonly Laid[];

export interface TrackSpan extends Span {
  readonly track: string;
}

/** A lane, and how far a hand may work on it: as far as its chart is in force. */
export interface OpenLane {
  readonly lane: Lane;
  readonly stretch: Span;
}

/** The lane under some frames; a refusal where they lie outside the scene or on two charts. */
export function openLane(scene: SceneDocument, { track, from, to }: TrackSpan): OpenLane | Refusal {
  const stretch = chartStretchAt(scene, track, from);
  if (!stretch || from < 0 || from >= to) return { refusal: 'These frames lie outside the scene. Choose some that are in it.' };
  if (to > stretch.to)
    return {
      refusal: `The selection reaches past frame ${frameNumber(scene, stretch.to)}, where the head turns to another chart. Select up to there.`,
    };
  const { from: first, to: end } = stretch;
  return { lane: partOf(exposuresOfTrack(scene, track), { from: first, to: end }), stretch: { from: first, to: end } };
}

export interface AtFrame {
  readonly track: string;
  readonly frame: number;
}

export const NO_MOUTH: Refusal = { refusal: 'There is no mouth at the playhead. Press a keycap to put one there.' };

/** The lane at a frame, and which of its mouths is seen there. */
export function openAt(scene: SceneDocument, { track, frame }: AtFrame): (OpenLane & { readonly index: number }) | Refusal {
  const open = openLane(scene, { track, from: frame, to: frame + 1 });
  if (isRefusal(open)) return open;
  const index = open.lane.findIndex(({ from, to }) => from <= frame && frame < to);
  return index < 0 ? NO_MOUTH : { ...open, index };
}

/** What a lane has of some frames. */
export function partOf(lane: Lane, span: Span): Laid[] {
  // A loop: a lane has twenty thousand mouths, and most of them stay as they are.
  const part: Laid[] = [];
  for (const laid of lane) {
    const cut = maybeCutTo(laid, span);
    if (cut) part.push(cut);
  }
  return part;
}

/** What a lane has outside of some frames. */
export function outside(lane: Lane, span: Span): Laid[] {
  const left: Laid[] = [];
  for (const laid of lane) {
    if (overlaps(laid, span)) left.push(...without(laid, span));
    else left.push(laid);
  }
  return left;
}

export function movedBy(lane: Lane, by: number): Laid[] {
  return lane.map((laid) => ({ ...laid, from: laid.from + by, to: laid.to + by }));
}

/** By where they start; as they are where they are in order already. */
function inOrder(lane: Lane): Lane {
  for (let index = 1; index < lane.length; index++)
    if (lane[index - 1]!.from > lane[index]!.from) return [...lane].sort((a, b) => a.from - b.from);
  return lane;
}

/** A lane with some frames of it taken up by others. */
export function laidOver(lane: Lane, span: Span, pieces: Lane): Laid[] {
  return [...inOrder([...outside(lane, span), ...partOf(pieces, span)])];
}

/** The gap between two mouths closed: the one before holds on; before the first one, that begins earlier. */
export function heldOver(lane: Lane, gap: Span): Laid[] {
  if (gap.from >= gap.to) return [...lane];
  const before = lane.findLast((laid) => laid.to <= gap.from);
  if (before?.to === gap.from) return lane.map((laid) => (laid === before ? { ...laid, to: gap.to } : laid));
  return lane.map((laid) => (laid.from === gap.to ? { ...laid, from: gap.from } : laid));
}

/** Mouths of a hand: in ink, and of no sound where they are not what was there. */
export const inInk = (laid: Laid): Laid => ({ ...laid, inked: true });

const byId = (exposures: readonly Exposure[]): Map<string, Exposure> => new Map(exposures.map((exposure) => [exposure.id, exposure]));

/** Whether an exposure shows the same, in the same way, wherever it is. */
const looksSame = (a: Exposure, b: Exposure): boolean =>
  a.drawing === b.drawing && a.inked === b.inked && (a.plays === b.plays || sameJson(a.plays, b.plays));

const isSame = (a: Exposure, b: Exposure): boolean => a === b || (a.from === b.from && a.to === b.to && looksSame(a, b));

/** Exposures that only move, one after another and equally far. */
function runsOf(before: ReadonlyMap<string, Exposure>, after: readonly Exposure[]): Run[] {
  const runs: Run[] = [];
  let open: Run | undefined;
  const close = (): void => {
    if (open && open.length >= SHORTEST_RUN) runs.push(open);
    open = undefined;
  };
  for (const exposure of after) {
    const was = before.get(exposure.id);
    const by = was ? exposure.from - was.from : 0;
    const isMoved = was && by !== 0 && exposure.to - was.to === by && looksSame(was, exposure);
    if (open && isMoved && by === open.by && was.from === open.to) open = { ...open, to: was.to, length: open.length + 1 };
    else {
      close();
      if (isMoved) open = { from: was.from, to: was.to, by, length: 1 };
    }
  }
  close();
  return runs;
}

/**
 * What makes the stretch of a track that was opened into another lane. Exposures keep their
 * ids; a long run of them that only moves is moved by shifts.
 *
 * @param refusal what is said when nothing changes
 */
export function laneChange(
  scene: SceneDocument,
  { track, reason, refusal }: { track: string; reason: Reason; refusal: string },
  { stretch }: OpenLane,
  next: Lane,
  newId: IdSource,
): Patch | Refusal {
  const old = exposuresOfTrack(scene, track);
  const laid = inOrder([...outside(old, stretch), ...partOf(next, stretch)]);
  // Most of a long lane stays as it is: only what lies between the ends that do is looked at.
  const { head: first, tail: end } = sharedEnds(old, laid);
  const was = old.slice(first, old.length - end);
  const before = byId(was);
  const claimed = new Set<string>();
  const fresh = (one: Laid): Exposure => {
    const there = one.id === undefined ? undefined : before.get(one.id);
    const isFree = there !== undefined && !claimed.has(there.id);
    const id = isFree ? there.id : newId();
    claimed.add(id);
    if (isFree && there === one) return there;
    const { from, to, drawing, inked, plays } = one;
    return { id, track, from, to, drawing, inked, plays };
  };
  const after = laid.slice(first, laid.length - end).map(fresh);
  const put = putsOf<SceneDocument>();
  const puts = (there: ReadonlyMap<string, Exposure>): PatchOp[] => {
    const ops: PatchOp[] = [];
    for (const { id } of was) {
      const gone = claimed.has(id) ? undefined : there.get(id);
      // What a shift has taken out already is not taken out again.
      if (gone) ops.push(put('exposures', gone, null));
    }
    for (const exposure of after) {
      const now = there.get(exposure.id) ?? null;
      if (!now || !isSame(now, exposure)) ops.push(put('exposures', now, exposure));
    }
    return ops;
  };
  // A run that moves is always fewer operations than its mouths put one by one.
  const runs = after.length < SHORTEST_RUN ? [] : runsOf(before, after);
  if (runs.length === 0) {
    const ops = puts(before);
    return ops.length === 0 ? { refusal } : { id: newId(), reason, ops };
  }
  const { ops, now } = movedRuns(scene, track, runs, () => true);
  const rest = puts(byId(now.filter(({ id }) => before.has(id))));
  return { id: newId(), reason, ops: [...ops, ...rest] };
}

/** A mouth laid anew, and everything from a frame on moved along; the last one is held to the end, or cut there. */
export function pushedFrom(
  scene: SceneDocument,
  track: string,
  open: OpenLane,
  held: Laid,
  at: number,
  by: number,
  reason: 'exposure.hold' | 'frames.insert',
  newId: IdSource,
): Patch | Refusal {
  const { lane, stretch } = open;
  const before = lane.filter((laid) => laid.to <= at && laid.id !== held.id);
  const after = movedBy(
    lane.filter((laid) => laid.from >= at && laid.id !== held.id),
    by,
  );
  const pushed = [...before, held, ...after];
  const end = pushed.at(-1)!.to;
  return laneChange(scene, { track, reason, refusal: 'Nothing changes.' }, open, heldOver(pushed, { from: end, to: stretch.to }), newId);
}
