/**
 * The first keying rule: look at the sound in the middle of each frame, a little ahead of
 * the picture (the lead), hold every drawing at least as long as asked, and keep the
 * closures that sampling would lose.
 *
 * 1. Sample the sounds, one frame at a time, or one hold at a time when strict.
 * 2. Claim a frame for every sound that must be seen and would not be, inside
 *    `[from·fps − lead − 1, to·fps)`; a sound whose frames are all taken is reported.
 * 3. Collapse frames into exposures and mend the short ones, least important first: grow
 *    into a neighbour that can spare a frame, else give way to it. Closures may break to
 *    ones unless strict.
 *
 * Ink is a wall: its frames are never sampled, claimed, grown into or given away.
 */
import { type ChartDocument } from '../chart/chart.js';
import { maybeGroupOfPhoneme, REST, type SoundGroup } from '../chart/soundGroups.js';
import { isVowel } from '../phonetics/phonemes.js';
import { framesPerSecond, SAMPLE_RATE, type FrameRate } from '../time/frameRate.js';
import { drawingForGroup } from './drawingForGroup.js';
import type { KeyingRules } from './rules.js';

/** A sound of the scene; samples at 48 000 Hz counted from the scene's frame 0. */
export interface SceneSound {
  readonly symbol: string;
  readonly stress?: 0 | 1 | 2;
  readonly from: number;
  readonly to: number;
}

/** Frames the animator has decided. */
export interface InkedSpan {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
}

export interface KeyedExposure {
  readonly from: number;
  readonly to: number;
  readonly drawing: string;
  /** The sound group it was chosen for. */
  readonly group: string;
  /** Indexes of the sounds it plays. */
  readonly plays: readonly number[];
}

export interface NotShown {
  readonly sound: number;
  readonly symbol: string;
  /** Why, as a sentence. */
  readonly reason: string;
  /** The sound that took its frames; null when ink did, or the scene's end. */
  readonly collidedWith: number | null;
}

export interface Keyed {
  /** Sorted; together with the ink they cover the scene. */
  readonly exposures: readonly KeyedExposure[];
  readonly notShown: readonly NotShown[];
}

export interface KeyingJob {
  /** Sorted by `from`. */
  readonly sounds: readonly SceneSound[];
  readonly frameRate: FrameRate;
  readonly lengthFrames: number;
  readonly chart: ChartDocument;
  readonly rules: KeyingRules;
  readonly ink?: readonly InkedSpan[];
}

/** A silence shorter than this, in seconds, does not shut the mouth (common practice, no source). */
export const HELD_PAUSE_SECONDS = 0.2;

const SILENCE = -1;

/** A sound with everything the steps ask of it. Times in frames. */
interface Planned {
  readonly target: number;
  readonly end: number;
  readonly group: SoundGroup;
  readonly drawing: string;
  readonly must: boolean;
  readonly weight: number;
}

interface Run {
  from: number;
  to: number;
  readonly drawing: string;
  readonly group: string;
  readonly ink: boolean;
  must: boolean;
  weight: number;
}

function weightOf(sound: SceneSound): number {
  if (!isVowel(sound.symbol)) return 1;
  return sound.stress === 1 ? 3 : 2;
}

function planSounds({ sounds, frameRate, chart, rules }: KeyingJob): Planned[] {
  const perSample = framesPerSecond(frameRate) / SAMPLE_RATE;
  const rest = chart.groups.find((group) => group.id === REST) ?? chart.groups[0]!;
  const drawings = new Map(chart.groups.map((group) => [group.id, drawingForGroup(chart, group.id)]));
  return sounds.map((sound) => {
    const group = maybeGroupOfPhoneme(chart.groups, sound.symbol) ?? rest;
    const drawing = drawings.get(group.id)!;
    return {
      target: sound.from * perSample - rules.leadFrames,
      end: sound.to * perSample,
      group,
      drawing: drawing.id,
      must: group.must && drawing.groups.includes(group.id),
      weight: weightOf(sound),
    };
  });
}

/** The first and last frame in which a sound may be seen; last < first when there is none. */
function windowOf(planned: Planned, lengthFrames: number): [first: number, last: number] {
  return [Math.max(0, Math.ceil(planned.target - 1)), Math.min(lengthFrames, Math.ceil(planned.end)) - 1];
}

/** Step 1: the sound shown in each frame, or SILENCE. */
function sampleFrames(job: KeyingJob, planned: readonly Planned[], cell: number): Int32Array {
  const { lengthFrames, rules, frameRate } = job;
  const shown = new Int32Array(lengthFrames).fill(SILENCE);
  const heldPause = HELD_PAUSE_SECONDS * framesPerSecond(frameRate);
  let next = 0;
  for (let from = 0; from < lengthFrames; from += cell) {
    const middle = from + cell / 2 + rules.leadFrames;
    while (next < planned.length && planned[next]!.end <= middle) next += 1;
    const sound = planned[next];
    const before = planned[next - 1];
    let index = SILENCE;
    if (sound && sound.target + rules.leadFrames <= middle) index = next;
    else if (sound && before && sound.target + rules.leadFrames - before.end < heldPause) index = next - 1;
    shown.fill(index, from, Math.min(lengthFrames, from + cell));
  }
  return shown;
}

/** Step 2: frames claimed for closures; the claiming sound or SILENCE. Marks them in `shown` too. */
function claimClosures(
  job: KeyingJob,
  planned: readonly Planned[],
  shown: Int32Array,
  inkAt: readonly (string | undefined)[],
  cell: number,
): Int32Array {
  const claims = new Int32Array(job.lengthFrames).fill(SILENCE);
  planned.forEach((sound, index) => {
    if (!sound.must) return;
    const [first, last] = windowOf(sound, job.lengthFrames);
    let best = SILENCE;
    let bestDistance = Number.POSITIVE_INFINITY;
    for (let frame = first; frame <= last; frame++) {
      const claimedBy = claims[frame]!;
      const alreadySeen = inkAt[frame] === sound.drawing || (claimedBy !== SILENCE && planned[claimedBy]!.drawing === sound.drawing);
      if (alreadySeen) return;
      if (claimedBy !== SILENCE || inkAt[frame] !== undefined) continue;
      const distance = Math.abs(frame - sound.target) + (shown[frame] === index ? 0 : 0.5);
      if (distance < bestDistance) [best, bestDistance] = [frame, distance];
    }
    if (best === SILENCE) return;
    const from = Math.floor(best / cell) * cell;
    for (let frame = from; frame < Math.min(job.lengthFrames, from + cell); frame++) {
      if (claims[frame] === SILENCE && inkAt[frame] === undefined) claims[frame] = shown[frame] = index;
    }
  });
  return claims;
}

function collapse(
  job: KeyingJob,
  planned: readonly Planned[],
  shown: Int32Array,
  claims: Int32Array,
  inkAt: readonly (string | undefined)[],
): Run[] {
  const restId = drawingForGroup(job.chart, REST).id;
  const runs: Run[] = [];
  for (let frame = 0; frame < job.lengthFrames; frame++) {
    const inked = inkAt[frame];
    const sound = planned[shown[frame]!];
    const drawing = inked ?? sound?.drawing ?? restId;
    const weight = sound?.weight ?? 0.5;
    const must = claims[frame] !== SILENCE;
    const last = runs.at(-1);
    if (last && last.drawing === drawing && last.ink === (inked !== undefined)) {
      last.to = frame + 1;
      last.weight = Math.max(last.weight, weight);
      last.must ||= must;
    } else {
      runs.push({ from: frame, to: frame + 1, drawing, group: sound?.group.id ?? REST, ink: inked !== undefined, must, weight });
    }
  }
  return runs;
}

/** Step 3: mends exposures shorter than the hold; returns the runs that are left. */
function mendShort(runs: Run[], hold: number, claims: Int32Array): Run[] {
  const isShort = (run: Run): boolean => !run.ink && run.to - run.from < hold;
  const canSpare = (run: Run | undefined, frame: number): run is Run =>
    !!run && !run.ink && run.to - run.from > hold && claims[frame] === SILENCE;
  const grow = (run: Run, before: Run | undefined, after: Run | undefined): void => {
    while (run.to - run.from < hold) {
      if (canSpare(after, run.to)) after.from = run.to += 1;
      else if (canSpare(before, run.from - 1)) before.to = run.from -= 1;
      else return;
    }
  };
  const joined = (list: readonly Run[]): Run[] => {
    const result: Run[] = [];
    for (const run of list) {
      const last = result.at(-1);
      if (last && last.drawing === run.drawing && !last.ink && !run.ink) {
        last.to = run.to;
        last.must ||= run.must;
        last.weight = Math.max(last.weight, run.weight);
      } else result.push(run);
    }
    return result;
  };
  let current = runs;
  for (const level of [0.5, 1, 2, 3]) {
    const kept: Run[] = [];
    for (let index = 0; index < current.length; index++) {
      const run = current[index]!;
      const [before, after] = [kept.at(-1), current[index + 1]];
      if (!isShort(run) || run.must || run.weight > level) {
        kept.push(run);
        continue;
      }
      grow(run, before, after);
      const takesBefore = !!before && !before.ink;
      const takesAfter = !!after && !after.ink;
      if (!isShort(run) || (!takesBefore && !takesAfter)) kept.push(run);
      else if (takesBefore && !(before.must && takesAfter && !after.must)) before.to = run.to;
      else after!.from = run.from;
    }
    current = joined(kept);
  }
  current.forEach((run, index) => {
    if (isShort(run) && run.must) grow(run, current[index - 1], current[index + 1]);
  });
  return current;
}

/** The index of the run that plays a sound: the one with its drawing that overlaps its window most; −1 for none. */
function runThatPlays(sound: Planned, runs: readonly Run[], startAt: number, lengthFrames: number): number {
  const [first, last] = windowOf(sound, lengthFrames);
  let best = -1;
  let bestOverlap = 0;
  for (let index = startAt; index < runs.length && runs[index]!.from <= last; index++) {
    const run = runs[index]!;
    const overlap = Math.min(run.to, last + 1) - Math.max(run.from, first);
    if (run.drawing === sound.drawing && overlap > bestOverlap) [best, bestOverlap] = [index, overlap];
  }
  return best;
}

function explainMissing(job: KeyingJob, planned: readonly Planned[], claims: Int32Array, index: number): NotShown {
  const sound = planned[index]!;
  const symbol = job.sounds[index]!.symbol;
  const [first, last] = windowOf(sound, job.lengthFrames);
  if (last < first) return { sound: index, symbol, reason: `${symbol} lies outside the scene. Make the scene longer.`, collidedWith: null };
  let collidedWith: number | null = null;
  for (let frame = first; frame <= last; frame++) if (claims[frame] !== SILENCE) collidedWith = claims[frame]!;
  const frames = first === last ? `frame ${first}` : `frames ${first} to ${last}`;
  const taker = collidedWith === null ? 'which are inked' : `which ${job.sounds[collidedWith]!.symbol} already has`;
  return { sound: index, symbol, reason: `${symbol} can only be seen in ${frames}, counted from 0, ${taker}.`, collidedWith };
}

/**
 * Keys the sounds of one mouth track. Deterministic: the same job gives the same keys.
 *
 * @returns pencilled exposures only; the frames between them are the ink of the job
 * @example keySounds({ sounds: [], frameRate: { num: 24, den: 1 }, lengthFrames: 10, chart, rules }).exposures
 *   // [{ from: 0, to: 10, drawing: 'rest', group: 'rest', plays: [] }]
 */
export function keySounds(job: KeyingJob): Keyed {
  const { lengthFrames, rules, ink = [] } = job;
  const cell = rules.strict ? rules.holdFrames : 1;
  const planned = planSounds(job);
  const inkAt = new Array<string | undefined>(lengthFrames);
  for (const span of ink) inkAt.fill(span.drawing, span.from, span.to);
  const shown = sampleFrames(job, planned, cell);
  const claims = claimClosures(job, planned, shown, inkAt, cell);
  const collapsed = collapse(job, planned, shown, claims, inkAt);
  const runs = rules.strict ? collapsed : mendShort(collapsed, rules.holdFrames, claims);
  const plays = runs.map((): number[] => []);
  const notShown: NotShown[] = [];
  let startAt = 0;
  planned.forEach((sound, index) => {
    const [first] = windowOf(sound, lengthFrames);
    while (startAt < runs.length - 1 && runs[startAt]!.to <= first) startAt += 1;
    const run = runThatPlays(sound, runs, startAt, lengthFrames);
    if (run >= 0) plays[run]!.push(index);
    else if (sound.must) notShown.push(explainMissing(job, planned, claims, index));
  });
  const exposures = runs.flatMap((run, index) =>
    run.ink ? [] : [{ from: run.from, to: run.to, drawing: run.drawing, group: run.group, plays: plays[index]! }],
  );
  return { exposures, notShown };
}
