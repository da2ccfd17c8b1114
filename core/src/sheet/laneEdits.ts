/**
 * What a hand does to the mouths of a lane. Each answers with a patch, one step of undo, or
 * with a refusal that says why not. Frames are half-open and counted from 0; whatever is
 * decided by hand is ink. Nothing reaches past a frame where the head turns to another chart.
 */
import { maybeDrawing, restDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import type { Patch } from '../document/patch.js';
import { drawingsIn, withDrawings } from '../draw/madeDrawings.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { withPlacesMoved } from '../scene/places.js';
import { frameNumber, type SceneDocument } from '../scene/sceneDocument.js';
import { overlapOf, type Span } from '../time/span.js';
import {
  heldOver,
  inInk,
  laidOver,
  laneChange,
  movedBy,
  NO_MOUTH,
  openAt,
  openLane,
  partOf,
  pushedFrom,
  type AtFrame,
  type Laid,
  type Lane,
  type TrackSpan,
} from './lane.js';

/** The frames of the mouth seen at a frame; undefined in a gap. */
export function maybeMouthSpan(scene: SceneDocument, at: AtFrame): Span | undefined {
  const open = openAt(scene, at);
  if (isRefusal(open)) return undefined;
  const { from, to } = open.lane[open.index]!;
  return { from, to };
}

/** Another drawing for each mouth of some frames; those without another stay as they are. */
function exchanged(
  scene: SceneDocument,
  span: TrackSpan,
  other: (drawing: string) => string | undefined,
  refusal: string,
  newId: IdSource,
): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const pieces = partOf(open.lane, span).map((laid): Laid => {
    const drawing = other(laid.drawing) ?? laid.drawing;
    return drawing === laid.drawing ? laid : { ...laid, drawing, inked: true, plays: [] };
  });
  return laneChange(scene, { track: span.track, reason: 'exposure.swap', refusal }, open, laidOver(open.lane, span, pieces), newId);
}

/** Every mouth of some frames becomes the one `by` places further in the tray, beyond the last the first again. */
export function stepDrawing(
  scene: SceneDocument,
  { by, ...span }: TrackSpan & { readonly by: number },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const tray = [...chart.drawings].sort((a, b) => a.place - b.place).map(({ id }) => id);
  const other = (drawing: string): string | undefined => {
    // From an in-between on, from the first of its two.
    const place = tray.indexOf(drawingsIn(drawing)[0]!);
    return place < 0 ? undefined : tray[(((place + by) % tray.length) + tray.length) % tray.length];
  };
  return exchanged(scene, span, other, 'There is no other mouth in this chart.', newId);
}

/** Everywhere in some frames one drawing gives way to another. */
export function exchangeDrawing(
  scene: SceneDocument,
  { drawing, by, ...span }: TrackSpan & { readonly drawing: string; readonly by: string },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const [old, other] = [maybeDrawing(chart, drawing), maybeDrawing(chart, by)];
  if (!old || !other) return { refusal: 'One of these drawings is no longer in the chart. Choose another.' };
  return exchanged(scene, span, (one) => (one === drawing ? by : one), `“${old.label}” is not shown in these frames.`, newId);
}

/** The larger (`by` 1) or smaller (−1) drawing that plays the same sounds, for each mouth of some frames. */
export function accentMouths(
  scene: SceneDocument,
  { by, ...span }: TrackSpan & { readonly by: 1 | -1 },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const openingOf = (drawing: Drawing): number => measureLook(drawing).opening;
  const larger = (id: string): string | undefined => {
    const drawing = maybeDrawing(chart, id);
    if (!drawing) return undefined;
    const alike = chart.drawings
      .filter((one) => one.groups.some((group) => drawing.groups.includes(group)))
      .sort((a, b) => openingOf(a) - openingOf(b) || a.place - b.place);
    return alike[alike.indexOf(drawing) + by]?.id;
  };
  // Pushed ones stay pushed; an in-between becomes that of the larger of both.
  const other = (id: string): string | undefined => withDrawings(id, larger);
  const refusal = `No ${by > 0 ? 'larger' : 'smaller'} mouth plays the same. Let another drawing play its sounds too, in the Chart step.`;
  return exchanged(scene, span, other, refusal, newId);
}

/**
 * The mouth at a frame is held longer, or shorter for `by` below 0, and is ink. The next one
 * gives way, as far as leaves it a frame; or, pushing, everything after moves along.
 */
export function holdMouth(
  scene: SceneDocument,
  { by, pushing, ...at }: AtFrame & { readonly by: number; readonly pushing: boolean },
  newId: IdSource,
): Patch | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, stretch, index } = open;
  const [held, next] = [lane[index]!, lane[index + 1]];
  const edge = held.to + by;
  if (edge <= held.from) return { refusal: 'It is held for one frame already. Delete it to let the one before it hold on.' };
  if (pushing) return pushedFrom(scene, at.track, open, inInk({ ...held, to: edge }), held.to, by, 'exposure.hold', newId);
  const most = next ? next.to - 1 : stretch.to;
  if (edge > most)
    return { refusal: next ? 'The next mouth has no frame to give. Hold Shift to push it along.' : 'It is held to the end already.' };
  const touches = next?.from === held.to || (next !== undefined && edge > next.from);
  if (!touches && by < 0) return { refusal: 'Nothing follows that could start earlier. Put a mouth after it first.' };
  const given = lane.map((laid, at) =>
    at === index ? inInk({ ...laid, to: edge }) : at === index + 1 && touches ? { ...laid, from: edge } : laid,
  );
  return laneChange(scene, { track: at.track, reason: 'exposure.hold', refusal: 'Nothing changes.' }, open, given, newId);
}

/**
 * What some frames show, `by` frames later, or earlier below 0. The mouth before holds on, the one
 * after gives way or starts earlier; what passes over it is gone, what passes an end is cut off.
 */
export function slideFrames(scene: SceneDocument, { by, ...span }: TrackSpan & { readonly by: number }, newId: IdSource): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const { lane, stretch } = open;
  const pieces = partOf(lane, span);
  if (pieces.length === 0) return NO_MOUTH;
  const isWhole = span.from === stretch.from && span.to === stretch.to;
  const target: Span = { from: Math.max(stretch.from, span.from + by), to: Math.min(stretch.to, span.to + by) };
  if (target.from >= target.to) return { refusal: 'That would slide all of it out of the scene.' };
  // Ink stays ink and pencil pencil when all of it goes: nothing is decided but when.
  const slid = partOf(movedBy(isWhole ? pieces : pieces.map(inInk), by), target);
  const left = partOf(lane, { from: stretch.from, to: Math.min(span.from, target.from) });
  const right = partOf(lane, { from: Math.max(span.to, target.to), to: stretch.to });
  const gaps: Span[] = [
    { from: Math.min(span.from, target.from), to: target.from },
    { from: target.to, to: Math.max(span.to, target.to) },
  ];
  const [before, after] = gaps as [Span, Span];
  const closed = heldOver([...left, ...slid, ...right], before);
  const opened =
    right[0]?.from === after.to
      ? closed.map((laid) => (laid.from === after.to ? { ...laid, from: after.from } : laid))
      : heldOver(closed, after);
  const change = laneChange(scene, { track: span.track, reason: 'exposure.slide', refusal: 'Nothing moves.' }, open, opened, newId);
  // What is slid takes its places along.
  return withPlacesMoved(scene, span.track, change, (frame) => (frame >= span.from && frame < span.to ? frame + by : frame));
}

/** The mouth at a frame slid between its neighbours, as far as leaves each of them a frame. */
export function slideMouth(scene: SceneDocument, { by, ...at }: AtFrame & { readonly by: number }, newId: IdSource): Patch | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, index, stretch } = open;
  const [before, here, after] = [lane[index - 1], lane[index]!, lane[index + 1]];
  const least = before ? before.from + 1 : stretch.from;
  const most = after ? after.to - 1 : stretch.to;
  const room = by < 0 ? Math.max(by, least - here.from) : Math.min(by, most - here.to);
  if (room === 0 || (by < 0 ? room > 0 : room < 0)) return { refusal: 'The mouth beside it has no frame to give.' };
  return slideFrames(scene, { track: at.track, from: here.from, to: here.to, by: room }, newId);
}

/** The mouth at a frame becomes two: the second starts there. */
export function splitMouth(scene: SceneDocument, at: AtFrame, newId: IdSource): Patch | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, index } = open;
  const here = lane[index]!;
  if (here.from === at.frame) return { refusal: 'A mouth starts here already. Go to where it should be in two.' };
  const halves: Lane = [
    { ...inInk(here), to: at.frame },
    { ...inInk(here), from: at.frame, plays: [] },
  ];
  return laneChange(
    scene,
    { track: at.track, reason: 'exposure.split', refusal: 'Nothing changes.' },
    open,
    laidOver(lane, here, halves),
    newId,
  );
}

/** The mouth at a frame is held over the one before it, or the one after. */
export function joinMouth(
  scene: SceneDocument,
  { side, ...at }: AtFrame & { readonly side: 'before' | 'after' },
  newId: IdSource,
): Patch | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, index } = open;
  const [here, other] = [lane[index]!, lane[index + (side === 'before' ? -1 : 1)]];
  if (!other) return { refusal: `There is no mouth ${side} this one to join it with.` };
  const joined: Laid = {
    ...inInk(here),
    from: Math.min(here.from, other.from),
    to: Math.max(here.to, other.to),
    plays: here.drawing === other.drawing ? [...new Set([...here.plays, ...other.plays])] : here.plays,
  };
  const rest = lane.filter((laid) => laid !== here && laid !== other);
  return laneChange(scene, { track: at.track, reason: 'exposure.join', refusal: 'Nothing changes.' }, open, [...rest, joined], newId);
}

/** The mouths of some frames go: the one before holds on, or the mouth rests. */
export function deleteMouths(
  scene: SceneDocument,
  { toRest, ...span }: TrackSpan & { readonly toRest: boolean },
  chart: ChartDocument,
  newId: IdSource,
): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const { lane } = open;
  const rest: Laid = { from: span.from, to: span.to, drawing: restDrawing(chart).id, inked: true, plays: [] };
  const emptied = laidOver(lane, span, []);
  const held = heldOver(emptied, span);
  const isHeld = partOf(held, span).length > 0;
  const next = toRest || !isHeld ? laidOver(lane, span, [rest]) : held.map((laid) => (overlapOf(laid, span) > 0 ? inInk(laid) : laid));
  return laneChange(
    scene,
    { track: span.track, reason: 'exposure.delete', refusal: 'There is nothing here to delete.' },
    open,
    next,
    newId,
  );
}

/** The mouths of some frames, last to first, each held as long as it was. */
export function reverseFrames(scene: SceneDocument, span: TrackSpan, newId: IdSource): Patch | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const mirrored = partOf(open.lane, span).map((laid): Laid => ({
    ...inInk(laid),
    from: span.from + span.to - laid.to,
    to: span.from + span.to - laid.from,
  }));
  if (mirrored.length < 2) return { refusal: 'There is one mouth here. Select several to reverse them.' };
  return laneChange(
    scene,
    { track: span.track, reason: 'exposure.reverse', refusal: 'They are the same backwards.' },
    open,
    laidOver(open.lane, span, mirrored),
    newId,
  );
}

/** A frame as it is numbered, for what is said of an edit. */
export const spanInWords = (scene: SceneDocument, { from, to }: Span): string =>
  to - from === 1 ? `frame ${frameNumber(scene, from)}` : `frames ${frameNumber(scene, from)} to ${frameNumber(scene, to - 1)}`;
