/**
 * In-betweens put by hand, over a stretch with an ease or one at a time; mouths pushed wider, taller or turned for their frames;
 * and a smear. What is put is ink. Where two mouths cannot be mixed, the drawing of the chart that lies nearest between them is
 * taken, and that is said.
 */
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import type { Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { canBeMadeOf, madeOf, mixId, PUSH_LIMITS, pushId, sharesOf, type Push } from '../draw/madeDrawings.js';
import { mixOfLooks } from '../draw/mixLooks.js';
import { maybeDrawingBetween } from '../keying/afterPlan.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import { laidOver, laneChange, NO_MOUTH, openAt, openLane, partOf, type AtFrame, type Laid, type TrackSpan } from './lane.js';

/** How in-betweens go from one mouth to the other: evenly, gently into the second, gently out of the first, or both. */
export type Ease = 'even' | 'slow in' | 'slow out' | 'both';
export const EASES: readonly Ease[] = ['even', 'slow in', 'slow out', 'both'];

/** The share of the way at a share of the time, both 0 to 1: quadratic, and cubic for both (common practice, no source). */
export function eased(ease: Ease, time: number): number {
  switch (ease) {
    case 'even':
      return time;
    case 'slow in':
      return 1 - (1 - time) ** 2;
    case 'slow out':
      return time ** 2;
    case 'both':
      return time ** 2 * (3 - 2 * time);
  }
}

/** What was made, and what is to be said of it. */
export interface Between {
  readonly patch: Patch;
  /** Why drawings of the chart were taken instead of mixes. */
  readonly instead?: string;
}

/** One place between two mouths. */
type Mixed = { readonly drawing: string; readonly instead?: string } | Refusal;

/** The drawing of the chart that one is made of, of two the nearer: in-betweens are made of drawings as they are drawn. */
const drawnOf = (id: string): string => [...sharesOf(id)].sort((a, b) => b[1] - a[1])[0]![0];

function mixed(chart: ChartDocument, a: Drawing, b: Drawing, share: number): Mixed {
  const looks = mixOfLooks(a, b, share);
  if (!isRefusal(looks) && canBeMadeOf(a.id) && canBeMadeOf(b.id)) return { drawing: mixId(a.id, b.id, share) };
  const why = isRefusal(looks) ? looks.refusal : 'An in-between is made of two drawings of the chart, not of another in-between.';
  const near = maybeDrawingBetween(chart, a, b, share);
  return near
    ? { drawing: near.id, instead: `${why} “${near.label}” lies nearest between them and is put instead.` }
    : { refusal: `${why} No drawing of this chart lies between “${a.label}” and “${b.label}” either.` };
}

/**
 * In-betweens from the mouth of the first of some frames to that of the last: the first is held for one hold, the last from
 * where it begins, and what lies between becomes in-betweens. Of two mouths that follow each other the first gives its frames.
 *
 * @param count how many; left out, one a hold
 * @param hold frames
 */
export function putInBetweens(
  scene: SceneDocument,
  { ease, hold, count, ...span }: TrackSpan & { readonly ease: Ease; readonly hold: number; readonly count?: number | undefined },
  chart: ChartDocument,
  newId: IdSource,
): Between | Refusal {
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const pieces = partOf(open.lane, span);
  const [first, last] = [pieces[0], pieces.at(-1)];
  if (!first || !last) return NO_MOUTH;
  if (first === last || drawnOf(first.drawing) === drawnOf(last.drawing))
    return { refusal: 'An in-between lies between two mouths. Select from the first frame of one to a frame of another.' };
  const gap = { from: first.from + Math.min(hold, last.from - first.from - 1), to: last.from };
  const most = Math.floor((gap.to - gap.from) / (count === undefined ? hold : 1));
  const wanted = count ?? Math.max(1, most);
  if (gap.to - gap.from < 1 || wanted > Math.max(1, most))
    return {
      refusal: `There is room for ${Math.max(0, gap.to - gap.from)} here, not for ${wanted}. Select more frames, or ask for fewer in-betweens.`,
    };
  const [a, b] = [maybeDrawing(chart, drawnOf(first.drawing)), maybeDrawing(chart, drawnOf(last.drawing))];
  if (!a || !b) return { refusal: 'One of these drawings is no longer in the chart. Choose another.' };
  const between: Laid[] = [];
  let instead: string | undefined;
  for (let index = 0; index < wanted; index++) {
    const one = mixed(chart, a, b, eased(ease, (index + 1) / (wanted + 1)));
    if (isRefusal(one)) return one;
    instead ??= one.instead;
    const [from, to] = [index, index + 1].map((at) => gap.from + Math.round(((gap.to - gap.from) * at) / wanted));
    const before = between.at(-1);
    if (before?.drawing === one.drawing) between[between.length - 1] = { ...before, to: to! };
    else between.push({ from: from!, to: to!, drawing: one.drawing, inked: true, plays: [] });
  }
  const held: Laid = { ...first, to: gap.from, inked: true };
  const patch = laneChange(
    scene,
    { track: span.track, reason: 'between.put', refusal: 'They are there already.' },
    open,
    laidOver(open.lane, { from: first.from, to: gap.to }, [held, ...between]),
    newId,
  );
  return isRefusal(patch) ? patch : { patch, ...(instead !== undefined && { instead }) };
}

/**
 * One in-between at a frame, between the mouth there and the next, up to where the next begins. At a mouth's first frame its
 * last hold is taken.
 */
export function putInBetween(
  scene: SceneDocument,
  { share, hold, ...at }: AtFrame & { readonly share: number; readonly hold: number },
  chart: ChartDocument,
  newId: IdSource,
): Between | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, index } = open;
  const [here, next] = [lane[index]!, lane[index + 1]];
  if (next?.from !== here.to) return { refusal: 'No mouth follows this one, so there is nothing to go to.' };
  if (here.to - here.from < 2) return { refusal: 'This mouth is held for one frame and has none to spare. Hold it longer first, with +.' };
  const [a, b] = [maybeDrawing(chart, drawnOf(here.drawing)), maybeDrawing(chart, drawnOf(next.drawing))];
  if (!a || !b) return { refusal: 'One of these drawings is no longer in the chart. Choose another.' };
  const one = mixed(chart, a, b, share);
  if (isRefusal(one)) return one;
  const from = at.frame > here.from ? at.frame : Math.max(here.from + 1, here.to - hold);
  const put: Laid = { from, to: here.to, drawing: one.drawing, inked: true, plays: [] };
  const patch = laneChange(
    scene,
    { track: at.track, reason: 'between.put', refusal: 'It is there already.' },
    open,
    laidOver(lane, { from, to: here.to }, [put]),
    newId,
  );
  return isRefusal(patch) ? patch : { patch, ...(one.instead !== undefined && { instead: one.instead }) };
}

/** Another share for the in-between at a frame: nearer to its first mouth, or to its second. */
export function setShare(scene: SceneDocument, { share, ...at }: AtFrame & { readonly share: number }, newId: IdSource): Patch | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const here = open.lane[open.index]!;
  const { mix, push } = madeOf(here.drawing);
  if (!mix) return { refusal: 'The mouth at the playhead is no in-between. Put one first.' };
  if (!(share >= LEAST_SHARE && share <= 1 - LEAST_SHARE))
    return { refusal: `A share of ${share} is out of range. ${LEAST_SHARE} to ${1 - LEAST_SHARE} lies between the two.` };
  const of = mixId(mix.a, mix.b, share);
  const drawing = push ? pushId(of, push) : of;
  const lane = open.lane.map((laid) => (laid === here ? { ...laid, drawing, inked: true } : laid));
  return laneChange(scene, { track: at.track, reason: 'between.share', refusal: 'It is that already.' }, open, lane, newId);
}

/** An in-between is at least so much of either mouth. */
export const LEAST_SHARE = 0.05;

/** Every mouth of some frames stretched and turned about the cross, for these frames only; as it is drawn for a push of nothing. */
export function pushMouths(scene: SceneDocument, { push, ...span }: TrackSpan & { readonly push: Push }, newId: IdSource): Patch | Refusal {
  const { least, most, angle } = PUSH_LIMITS;
  if (![push.width, push.height].every((factor) => factor >= least && factor <= most) || !(Math.abs(push.angle) <= angle))
    return { refusal: `A mouth may be pushed to ${least} to ${most} times its width and height, and turned by ${angle}° at most.` };
  const open = openLane(scene, span);
  if (isRefusal(open)) return open;
  const pieces = partOf(open.lane, span);
  if (pieces.length === 0) return NO_MOUTH;
  if (!pieces.every(({ drawing }) => canBeMadeOf(drawnOf(drawing))))
    return { refusal: 'A drawing with brackets or commas in its id cannot be pushed. Import it anew.' };
  const pushed = pieces.map((laid): Laid => ({ ...laid, drawing: pushId(laid.drawing, push), inked: true }));
  return laneChange(
    scene,
    { track: span.track, reason: 'exposure.push', refusal: 'They are that already.' },
    open,
    laidOver(open.lane, span, pushed),
    newId,
  );
}

/** How far a smear is stretched along what changes more, and squeezed across it (common practice, no source for the figures). */
const SMEAR = { along: 1.3, across: 0.88 } as const;

/**
 * A stretched in-between of one frame where the mouth at a frame begins, or where it gives way to the next if that lies nearer:
 * taken from the mouth that comes, which keeps at least one frame.
 */
export function smearMouth(scene: SceneDocument, at: AtFrame, chart: ChartDocument, newId: IdSource): Between | Refusal {
  const open = openAt(scene, at);
  if (isRefusal(open)) return open;
  const { lane, index } = open;
  const here = lane[index]!;
  const isLate = at.frame - here.from >= here.to - at.frame;
  const into = isLate && lane[index + 1]?.from === here.to ? lane[index + 1]! : here;
  const before = lane[lane.indexOf(into) - 1];
  if (before?.to !== into.from) return { refusal: 'No mouth comes before this one: a smear goes from one mouth to another.' };
  if (into.to - into.from < 2)
    return { refusal: 'The mouth that comes is held for one frame and has none to spare. Hold it longer first.' };
  const [a, b] = [maybeDrawing(chart, drawnOf(before.drawing)), maybeDrawing(chart, drawnOf(into.drawing))];
  if (!a || !b) return { refusal: 'One of these drawings is no longer in the chart. Choose another.' };
  const one = mixed(chart, a, b, 0.5);
  if (isRefusal(one)) return one;
  const [from, to] = [measureLook(a), measureLook(b)];
  const isTall = Math.abs(to.opening - from.opening) >= Math.abs(to.width - from.width);
  const { along, across } = SMEAR;
  const push = isTall ? { width: across, height: along, angle: 0 } : { width: along, height: across, angle: 0 };
  const smear: Laid = { from: into.from, to: into.from + 1, drawing: pushId(one.drawing, push), inked: true, plays: [] };
  const patch = laneChange(
    scene,
    { track: at.track, reason: 'exposure.smear', refusal: 'It is there already.' },
    open,
    laidOver(lane, smear, [smear]),
    newId,
  );
  return isRefusal(patch) ? patch : { patch, ...(one.instead !== undefined && { instead: one.instead }) };
}
