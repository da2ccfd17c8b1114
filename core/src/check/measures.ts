/**
 * What an animator compares of a lane, as numbers: how open it is against what is heard, how long mouths are held, how often
 * each is used, how far they begin from their sounds, and how much of each phrase is seen.
 */
import { articulationOf } from '../phonetics/articulation.js';
import { SAMPLE_RATE } from '../time/frameRate.js';
import { phrasesOfWords } from '../handOff/timeline.js';
import { heldIn, lostAs, type CheckedLane } from './checkedLane.js';
import { checkedScene, type CheckJob } from './checkedScene.js';
import { medianOf, offsetsOf } from './offsets.js';

export interface JawFrame {
  readonly frame: number;
  /** How open the mouth is that is keyed, as a share of the widest of its chart. */
  readonly keyed: number;
  /** How far the sounds of the frame open the jaw, 0 to 1. */
  readonly asked: number;
  /** How loud the frame is between its floor and its peak; null where it is not known. */
  readonly loud: number | null;
  /** Keyed and asked are further apart than the eye lets pass. */
  readonly parts: boolean;
}

export interface HoldCount {
  /** In frames. */
  readonly frames: number;
  /** The exposures that are held so long, by id. */
  readonly exposures: readonly string[];
  /** On the grid of the hold. */
  readonly onGrid: boolean;
}

export interface DrawingUse {
  readonly drawing: string;
  readonly label: string;
  readonly exposures: readonly string[];
  readonly frames: number;
  /** The drawing that is most often before it, and how often; null before the first. */
  readonly after: { readonly label: string; readonly times: number } | null;
}

export interface OffsetCount {
  /** Rounded to whole frames; positive is late. */
  readonly offset: number;
  readonly exposures: readonly string[];
}

export interface PhraseScore {
  readonly from: number;
  readonly to: number;
  readonly text: string;
  /** What of the speech is seen, weighted as the plan weighs it, 0 to 1. */
  readonly seen: number;
}

export interface LaneMeasures {
  readonly jaw: readonly JawFrame[];
  readonly holds: readonly HoldCount[];
  readonly uses: readonly DrawingUse[];
  readonly offsets: readonly OffsetCount[];
  /** In frames: the middle of the offsets, and of their distances from it. */
  readonly median: number;
  readonly spread: number;
  readonly phrases: readonly PhraseScore[];
}

/** Jaws further apart than this, of the widest, are seen to part; ours, by eye. */
const PARTS_ABOVE = 0.4;

function jawFrames(lane: CheckedLane): JawFrame[] {
  const { lengthFrames, fps, sounds, loudness, rules } = lane;
  const asked = new Float64Array(lengthFrames);
  const weights = new Float64Array(lengthFrames);
  for (const { symbol, from, to } of sounds) {
    const { jaw } = articulationOf(symbol);
    // As the feel has it: the mouth is ahead by its lead.
    const [start, end] = [(from / SAMPLE_RATE) * fps - rules.leadFrames, (to / SAMPLE_RATE) * fps - rules.leadFrames];
    for (let frame = Math.max(0, Math.floor(start)); frame < Math.min(lengthFrames, Math.ceil(end)); frame++) {
      const share = Math.min(end, frame + 1) - Math.max(start, frame);
      asked[frame]! += share * jaw;
      weights[frame]! += share;
    }
  }
  const keyed = new Float64Array(lengthFrames);
  for (const { from, to, opening } of lane.held) keyed.fill(opening, from, to);
  return Array.from({ length: lengthFrames }, (_, frame): JawFrame => {
    // What is not said asks for nothing; of a frame that is said in part, that part.
    const wanted = asked[frame]! / Math.max(1, weights[frame]!);
    return {
      frame,
      keyed: keyed[frame]!,
      asked: wanted,
      loud: loudness ? loudness[frame]! : null,
      parts: Math.abs(keyed[frame]! - wanted) > PARTS_ABOVE,
    };
  });
}

/** Put together by a number, in its order. */
function byNumber<T>(all: readonly T[], of: (one: T) => number): [number, T[]][] {
  const groups = new Map<number, T[]>();
  for (const one of all) groups.set(of(one), [...(groups.get(of(one)) ?? []), one]);
  return [...groups].sort(([a], [b]) => a - b);
}

function usesOf({ held }: CheckedLane): DrawingUse[] {
  const uses = new Map<string, { label: string; exposures: string[]; frames: number; before: Map<string, number> }>();
  held.forEach(({ drawing, label, id, from, to }, index) => {
    let use = uses.get(drawing);
    if (!use) uses.set(drawing, (use = { label, exposures: [], frames: 0, before: new Map() }));
    use.exposures.push(id);
    use.frames += to - from;
    const before = held[index - 1];
    if (before && before.drawing !== drawing) use.before.set(before.label, (use.before.get(before.label) ?? 0) + 1);
  });
  return [...uses]
    .map(([drawing, { label, exposures, frames, before }]): DrawingUse => {
      const [most] = [...before].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
      return { drawing, label, exposures, frames, after: most ? { label: most[0], times: most[1] } : null };
    })
    .sort((a, b) => b.exposures.length - a.exposures.length || b.frames - a.frames);
}

function phraseScores(lane: CheckedLane): PhraseScore[] {
  const { shapes, fps, lengthFrames } = lane;
  return phrasesOfWords(lane.words).flatMap((words): PhraseScore[] => {
    const [first, last] = [words[0]!, words.at(-1)!];
    const [from, to] = [(first.from / SAMPLE_RATE) * fps, (last.to / SAMPLE_RATE) * fps];
    let [seen, whole] = [0, 0];
    for (const shape of shapes) {
      const { target, end, weight, isPause } = shape;
      if (isPause || end <= target || end <= from - lane.rules.leadFrames || target >= to) continue;
      whole += weight;
      let shown = 0;
      for (const held of heldIn(lane, Math.floor(target), Math.ceil(end))) {
        const frames = Math.min(held.to, end) - Math.max(held.from, target);
        if (frames > 0) shown += frames * (1 - Math.min(1, lostAs(shape, held)));
      }
      seen += (weight * shown) / (end - target);
    }
    if (whole === 0) return [];
    return [
      {
        from: Math.max(0, Math.floor(from)),
        to: Math.min(lengthFrames, Math.max(Math.floor(from) + 1, Math.ceil(to))),
        text: words.map(({ text }) => text).join(' '),
        seen: seen / whole,
      },
    ];
  });
}

/** Of one lane of a checked scene. */
export function laneMeasures(lane: CheckedLane): LaneMeasures {
  const offsets = offsetsOf(lane);
  const median = medianOf(offsets.map(({ offset }) => offset));
  return {
    jaw: jawFrames(lane),
    holds: byNumber(lane.held, ({ from, to }) => to - from).map(([frames, held]) => ({
      frames,
      exposures: held.map(({ id }) => id),
      onGrid: frames % lane.rules.holdFrames === 0,
    })),
    uses: usesOf(lane),
    offsets: byNumber(offsets, ({ offset }) => Math.round(offset) + 0).map(([offset, some]) => ({
      offset,
      exposures: some.map(({ held }) => held.id),
    })),
    median,
    spread: medianOf(offsets.map(({ offset }) => Math.abs(offset - median))),
    phrases: phraseScores(lane),
  };
}

/** @returns undefined for a lane that the scene has not */
export function measuresOf(job: CheckJob, trackId: string): LaneMeasures | undefined {
  const lane = checkedScene(job).lanes.find(({ track }) => track.id === trackId);
  return lane && laneMeasures(lane);
}
