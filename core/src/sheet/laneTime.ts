/** Time in a lane: frames put in and taken out, mouths on a hold, and a stretch of them in another time. */
import { maybeDrawing, type ChartDocument } from '../chart/chart.js';
import type { Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { withPlacesMoved } from '../scene/places.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { overlapOf, type Span } from '../time/span.js';
import {
  heldOver,
  inInk,
  laidOver,
  laneChange,
  movedBy,
  openAt,
  openLane,
  partOf,
  pushedFrom,
  type AtFrame,
  type Laid,
  type TrackSpan,
} from './lane.js';

/** Whether a mouth plays what must be seen. */
function mustBeSeen(chart: ChartDocument): (laid: Laid) => boolean {
  const musts = new Set(chart.groups.filter((group) => group.must).map((group) => group.id));
  return (laid) => maybeDrawing(chart, laid.drawing)?.groups.some((group) => musts.has(group)) ?? false;
}

/** Some frames into which time is put: the mouth there is held longer, what follows moves along, and what passes the end is cut off. */
export function insertFrames(
  scene: SceneDocument,
  { count, ...at }: AtFrame & { readonly count: number },
  newId: IdSource,
): Patch | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, index, stretch } = open;
  // Between two mouths the one before holds on.
  const held = lane[index]!.from === at.frame && index > 0 ? lane[index - 1]! : lane[index]!;
  if (held.to >= stretch.to) return { refusal: 'Nothing follows here that could be moved along.' };
  const pushed = pushedFrom(scene, at.track, open, { ...held, to: held.to + count }, held.to, count, 'frames.insert', newId);
  return withPlacesMoved(scene, at.track, pushed, (frame) => (frame >= held.to && frame < stretch.to ? frame + count : frame));
}

/** Frames taken out: what follows moves up, and the last mouth is held to the end. */
export function removeFrames(scene: SceneDocument, span: TrackSpan, newId: IdSource): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const { lane, stretch } = open;
  const taken = span.to - span.from;
  if (taken >= stretch.to - stretch.from) return { refusal: 'These are all the frames of the lane. Leave some.' };
  const before = partOf(lane, { from: stretch.from, to: span.from });
  const after = movedBy(partOf(lane, { from: span.to, to: stretch.to }), -taken);
  // A mouth that was cut in the middle is one again.
  const [last, first] = [before.at(-1), after[0]];
  const joined =
    last && first && last.id === first.id && last.to === first.from
      ? [...before.slice(0, -1), { ...last, to: first.to }, ...after.slice(1)]
      : [...before, ...after];
  const end = joined.at(-1)?.to ?? stretch.to;
  const held = heldOver(joined, { from: end, to: stretch.to });
  const removed = laneChange(
    scene,
    { track: span.track, reason: 'frames.remove', refusal: 'There is nothing in these frames.' },
    open,
    held,
    newId,
  );
  return withPlacesMoved(scene, span.track, removed, (frame) =>
    frame < span.from || frame >= stretch.to ? frame : frame < span.to ? null : frame - taken,
  );
}

/**
 * Mouths on a hold of so many frames: each starts on the grid of the selection. Of those that
 * share a place the one whose sound must be seen stays, else the one that is seen longest.
 */
export function setHolds(
  scene: SceneDocument,
  { hold, ...span }: TrackSpan & { readonly hold: number },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const pieces = partOf(open.lane, span);
  const isMust = mustBeSeen(chart);
  const laid: Laid[] = [];
  for (let from = span.from; from < span.to; from += hold) {
    const place: Span = { from, to: Math.min(span.to, from + hold) };
    const last = laid.at(-1);
    const seen = pieces.filter((piece) => overlapOf(piece, place) > 0);
    // One that has been shown is not shown for its rest before one that has not.
    const weight = (piece: Laid): number => (isMust(piece) && piece.id !== last?.id ? 2 * hold : 0) + overlapOf(piece, place);
    const best = seen.reduce<Laid | undefined>((most, piece) => (most && weight(most) >= weight(piece) ? most : piece), undefined);
    if (!best) continue;
    if (last && last.id === best.id && last.to === from) laid[laid.length - 1] = { ...last, to: place.to };
    else laid.push({ ...inInk(best), ...place });
  }
  const refusal = hold === 1 ? 'Every frame may have a mouth of its own already.' : 'The mouths here are held so already.';
  return laneChange(scene, { track: span.track, reason: 'exposure.holds', refusal }, open, laidOver(open.lane, span, laid), newId);
}

/**
 * The mouths of some frames in another time: every hold in proportion, none under a frame. Where
 * there are more mouths than frames, those go first whose sound need not be seen, the shortest
 * first. What follows moves along.
 */
export function retimeFrames(
  scene: SceneDocument,
  { frames, ...span }: TrackSpan & { readonly frames: number },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const { lane, stretch } = open;
  const length = span.to - span.from;
  if (!Number.isInteger(frames) || frames < 1) return { refusal: `A selection may be retimed to one frame or more, not to ${frames}.` };
  if (frames === length) return { refusal: `It has ${length} frames already.` };
  const isMust = mustBeSeen(chart);
  let kept = partOf(lane, span);
  while (kept.length > frames) {
    const goes = kept.reduce((least, laid) =>
      (Number(isMust(laid)) - Number(isMust(least)) || laid.to - laid.from - (least.to - least.from)) < 0 ? laid : least,
    );
    kept = heldOver(
      kept.filter((laid) => laid !== goes),
      goes,
    );
  }
  const starts = kept.map(({ from }) => span.from + Math.round(((from - span.from) * frames) / length));
  const ends = kept.map(({ to }) => span.from + Math.round(((to - span.from) * frames) / length));
  // Forwards each has a frame; backwards none passes the end.
  for (let index = 0; index < kept.length; index++) {
    starts[index] = Math.max(starts[index]!, ends[index - 1] ?? span.from);
    ends[index] = Math.max(ends[index]!, starts[index]! + 1);
  }
  for (let index = kept.length - 1; index >= 0; index--) {
    ends[index] = Math.min(ends[index]!, starts[index + 1] ?? span.from + frames);
    starts[index] = Math.min(starts[index]!, ends[index]! - 1);
  }
  const retimed = kept.map((laid, index): Laid => ({ ...inInk(laid), from: starts[index]!, to: ends[index]! }));
  const before = partOf(lane, { from: stretch.from, to: span.from });
  const after = movedBy(partOf(lane, { from: span.to, to: stretch.to }), frames - length);
  const next = [...before, ...retimed, ...after];
  const end = next.at(-1)?.to ?? stretch.to;
  return laneChange(
    scene,
    { track: span.track, reason: 'exposure.retime', refusal: `It has ${length} frames already.` },
    open,
    heldOver(next, { from: end, to: stretch.to }),
    newId,
  );
}
