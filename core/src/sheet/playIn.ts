/**
 * Mouths played in: keycaps pressed while the line is heard, made into mouths. Positions are
 * scene frames with their fractions, as the sound device's clock has them.
 */
import type { Patch } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import type { Span } from '../time/span.js';
import { laidOver, laneChange, openLane, type Laid } from './lane.js';

export interface KeyPress {
  readonly drawing: string;
  readonly down: number;
  /** Where it was let go. */
  readonly up: number;
}

/** A mouth that was played in, over whole frames. */
export interface PlayedMouth extends Span {
  readonly drawing: string;
}

export interface PlayInRules {
  /** What comes when a keycap is let go: the mouth holds on until the next press, or goes to rest. */
  readonly after: 'holds' | 'rests';
  /** Mouths start on every so many frames; 1 starts them anywhere. */
  readonly grid: number;
  /** The drawing at rest. */
  readonly rest: string;
}

/**
 * Where a press was meant, for a hand that is late.
 *
 * @param position where it came, in scene frames
 * @param reactionMs how late the hand is, in milliseconds
 * @param slowness how many times as long as it is the line was played
 * @example meantAt(100, { reactionMs: 250, slowness: 2, framesPerSecond: 24 }) // 97
 */
export function meantAt(
  position: number,
  { reactionMs, slowness, framesPerSecond }: { readonly reactionMs: number; readonly slowness: number; readonly framesPerSecond: number },
): number {
  return position - ((reactionMs / 1000) * framesPerSecond) / slowness;
}

/** Mouths with one more in the place of whatever it lies over. */
function withMouth(mouths: readonly PlayedMouth[], mouth: PlayedMouth): PlayedMouth[] {
  if (mouth.from >= mouth.to) return [...mouths];
  const others = mouths.flatMap((one): PlayedMouth[] => {
    if (one.to <= mouth.from || one.from >= mouth.to) return [one];
    return [
      { ...one, to: mouth.from },
      { ...one, from: mouth.to },
    ].filter(({ from, to }) => from < to);
  });
  return [...others, mouth].sort((a, b) => a.from - b.from);
}

/**
 * The mouths of one run over a stretch, laid over those of the runs before it: only where one
 * pressed. A mouth holds on to the next press, or to the next mouth of an earlier run that
 * begins after it was let go, or to the end of the run.
 *
 * @param presses in the order they came, as they were meant
 * @param run the frames that were played
 */
export function playedMouths(
  before: readonly PlayedMouth[],
  presses: readonly KeyPress[],
  run: Span,
  { after, grid, rest }: PlayInRules,
): PlayedMouth[] {
  const onGrid = (position: number): number => Math.min(run.to, Math.max(run.from, Math.round(position / grid) * grid));
  let mouths = [...before];
  presses.forEach(({ drawing, down, up }, index) => {
    const from = onGrid(down);
    const next = presses[index + 1];
    const most = Math.max(from, next ? onGrid(next.down) : run.to);
    const letGo = Math.min(most, Math.max(onGrid(up), from + grid));
    const following = before.find((one) => one.from >= letGo)?.from ?? run.to;
    const end = Math.min(most, Math.max(letGo, following));
    mouths = withMouth(mouths, { drawing, from, to: after === 'holds' ? end : letGo });
    if (after === 'rests') mouths = withMouth(mouths, { drawing: rest, from: letGo, to: end });
  });
  return mouths;
}

/** Lays what was played in over a track's lane, as ink. */
export function layPlayed(scene: SceneDocument, track: string, mouths: readonly PlayedMouth[], newId: IdSource): Patch | Refusal {
  const [first, last] = [mouths[0], mouths.at(-1)];
  if (!first || !last) return { refusal: 'No mouth was played in. Press keycaps while the line is heard.' };
  const open = openLane(scene, { track, from: first.from, to: last.to });
  if (isRefusal(open)) return open;
  const next = mouths.reduce<Laid[]>(
    (lane, { from, to, drawing }) => laidOver(lane, { from, to }, [{ from, to, drawing, inked: true, plays: [] }]),
    [...open.lane],
  );
  return laneChange(scene, { track, reason: 'exposure.play', refusal: 'The same mouths are here already.' }, open, next, newId);
}

/** How late a hand is, and how steadily. */
export interface Reaction {
  /** The middle one of its delays, in milliseconds; below 0 it is early. */
  readonly medianMs: number;
  /** Half of the delays lie within so much of the middle one, in milliseconds. */
  readonly spreadMs: number;
  /** How many claps were answered. */
  readonly answered: number;
}

/** A tap belongs to a clap that it follows by less than this, or comes before by no more, in milliseconds. */
const ANSWER_WITHIN = { late: 700, early: 250 } as const;
const FEWEST_ANSWERS = 8;

const middle = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const at = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[at]! : (sorted[at - 1]! + sorted[at]!) / 2;
};

/**
 * How late a hand taps to claps: the median of its delays and the median of their distances
 * from it, so that a clap that was missed or a tap too many changes little.
 *
 * @param claps when each was heard, in milliseconds
 * @param taps when the hand came down, in milliseconds of the same clock
 */
export function reactionTo(claps: readonly number[], taps: readonly number[]): Reaction | Refusal {
  const delays = claps.flatMap((clap) => {
    const own = taps.map((tap) => tap - clap).filter((delay) => delay >= -ANSWER_WITHIN.early && delay <= ANSWER_WITHIN.late);
    return own.length > 0 ? [own.reduce((least, delay) => (Math.abs(delay) < Math.abs(least) ? delay : least))] : [];
  });
  if (delays.length < FEWEST_ANSWERS)
    return { refusal: `${delays.length} of ${claps.length} claps were answered. Tap to ${FEWEST_ANSWERS} of them at least.` };
  const medianMs = middle(delays);
  return { medianMs, spreadMs: middle(delays.map((delay) => Math.abs(delay - medianMs))), answered: delays.length };
}
