/**
 * A lane as a hand works on it: mouths held one after another, cut, moved and laid again; and
 * the patch that makes a track's exposures into what came of it.
 */
import { sameJson } from '../document/documentKind.js';
import { putsOf, type Patch, type PatchOp } from '../document/patch.js';
import type { Reason } from '../document/reasons.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { movedRuns, SHORTEST_RUN, type Run } from '../scene/exchangePencil.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { frameNumber, type Exposure, type SceneDocument } from '../scene/sceneDocument.js';
import { chartStretchAt } from '../scene/trackCharts.js';
import { maybeCutTo, without, type Span } from '../time/span.js';

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
  return lane.flatMap((laid) => maybeCutTo(laid, span) ?? []);
}

/** What a lane has outside of some frames. */
export function outside(lane: Lane, span: Span): Laid[] {
  return lane.flatMap((laid) => without(laid, span));
}

export function movedBy(lane: Lane, by: number): Laid[] {
  return lane.map((laid) => ({ ...laid, from: laid.from + by, to: laid.to + by }));
}

const inOrder = (lane: Lane): Laid[] => [...lane].sort((a, b) => a.from - b.from);

/** A lane with some frames of it taken up by others. */
export function laidOver(lane: Lane, span: Span, pieces: Lane): Laid[] {
  return inOrder([...outside(lane, span), ...partOf(pieces, span)]);
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
    const isMoved = was && by !== 0 && sameJson({ ...was, from: exposure.from, to: exposure.to }, exposure) && exposure.to - was.to === by;
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
  const before = new Map(old.map((exposure) => [exposure.id, exposure]));
  const claimed = new Set<string>();
  const fresh = (laid: Laid): Exposure => {
    const id = laid.id !== undefined && before.has(laid.id) && !claimed.has(laid.id) ? laid.id : newId();
    claimed.add(id);
    const { from, to, drawing, inked, plays } = laid;
    return { id, track, from, to, drawing, inked, plays };
  };
  const after = [...outside(old, stretch), ...inOrder(partOf(next, stretch))].map(fresh).sort((a, b) => a.from - b.from);
  const put = putsOf<SceneDocument>();
  const puts = (now: readonly Exposure[]): PatchOp[] => {
    const there = new Map(now.map((exposure) => [exposure.id, exposure]));
    return [
      ...now.filter(({ id }) => !claimed.has(id)).map((exposure) => put('exposures', exposure, null)),
      ...after.flatMap((exposure) => {
        const was = there.get(exposure.id) ?? null;
        return was && sameJson(was, exposure) ? [] : [put('exposures', was, exposure)];
      }),
    ];
  };
  const plain = puts(old);
  if (plain.length === 0) return { refusal };
  const runs = plain.length <= SHORTEST_RUN ? [] : runsOf(before, after);
  const { ops, now } = runs.length > 0 ? movedRuns(scene, track, runs, () => true) : { ops: [], now: old };
  const moved = [...ops, ...puts(now)];
  return { id: newId(), reason, ops: moved.length < plain.length ? moved : plain };
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
