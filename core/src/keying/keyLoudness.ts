/**
 * Keys a mouth by how loud the recording is, for gibberish, animals, crowds and robots: the
 * drawings in the order of how open they are, measured, picked by loudness between the
 * clip's own floor and peak. A mouth opens at once and closes slowly; a level near the border
 * of two drawings stays with the one that is there; hiss shows the teeth, the stronger the
 * wider; a sudden rise closes the lips on the
 * frame before it. It obeys the same holds and the same ink.
 */
import { maybeDrawingOfGroup, type ChartDocument } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { REST } from '../chart/soundGroups.js';
import { framesPerSecond } from '../time/frameRate.js';
import { articulationOfGroup, lookOfChart } from './chartLook.js';
import type { Keyed, KeyedExposure, KeyingJob } from './keyingJob.js';
import { fullRules } from './rules.js';

/** How fast a mouth follows a fall of loudness: it is half way after so long, in seconds. */
export const RELEASE_SECONDS = 0.06;
/** A border between two drawings is passed only by this share of the step between them. */
const HYSTERESIS = 0.2;
/** A rise by so much within a frame at 24 a second is a burst. */
const BURST = 0.45;
/** A frame that hisses more than this shows teeth. */
const HISSES = 0.6;
/** A group whose sounds show so much teeth with the jaw so nearly shut is one of hiss. */
const HISSING = { teeth: 0.6, jaw: 0.25 } as const;
/** Softer than this the mouth is at rest. */
const SILENT = 0.06;

interface Ladders {
  /** The drawings that open and close, from the least open to the widest. */
  readonly open: readonly string[];
  /** Those with the teeth nearly shut, from the least open on. */
  readonly hiss: readonly string[];
}

/** What must be seen of a sound and what rests are on neither. */
function laddersOf(chart: ChartDocument): Ladders {
  const hissing = new Set(
    chart.groups
      .filter((group) => {
        const { teeth, jaw } = articulationOfGroup(group);
        return teeth >= HISSING.teeth && jaw <= HISSING.jaw;
      })
      .map((group) => group.id),
  );
  const apart = new Set([REST, ...chart.groups.filter((group) => group.must).map((group) => group.id)]);
  const byOpening = (isOn: (groups: readonly string[]) => boolean): string[] =>
    chart.drawings
      .filter(({ groups }) => !groups.some((group) => apart.has(group)) && isOn(groups))
      .map((drawing) => ({ id: drawing.id, opening: measureLook(drawing).opening }))
      .sort((a, b) => a.opening - b.opening)
      .map(({ id }) => id);
  const isHiss = (groups: readonly string[]): boolean => groups.length > 0 && groups.every((group) => hissing.has(group));
  return { open: byOpening((groups) => !isHiss(groups)), hiss: byOpening(isHiss) };
}

/** Loudness that rises at once and falls slowly, a lead ahead of the sound. Shape: lengthFrames. */
function followed(loudness: Float32Array, lengthFrames: number, lead: number, fps: number): Float32Array {
  const falls = 0.5 ** (1 / (RELEASE_SECONDS * fps));
  const result = new Float32Array(lengthFrames);
  let level = 0;
  for (let frame = 0; frame < lengthFrames; frame++) {
    const now = loudness[Math.min(loudness.length - 1, frame + lead)] ?? 0;
    level = Math.max(now, level * falls);
    result[frame] = level;
  }
  return result;
}

const NOTHING = new Float32Array(0);

/** Why a frame has its drawing: it is silent, hisses, comes before a burst, or is as loud as it is. */
export type LoudnessReason = 'silent' | 'hiss' | 'burst' | 'loud';

interface HeardDrawing {
  readonly drawing: string;
  readonly reason: LoudnessReason;
  /** How loud it is to the mouth, 0 (floor) to 1 (peak). */
  readonly level: number;
  /** Which of how many drawings in order of opening, from 1; 0 where it is none of them. */
  readonly rung: number;
  readonly rungs: number;
}

/** What a mouth shows at a loudness, 0 to 1, and a hiss, 0 to 1, after what it showed before. */
export function openMouth(chart: ChartDocument): (level: number, hiss: number) => HeardDrawing {
  const { restDrawing } = lookOfChart(chart);
  const { open, hiss: teeth } = laddersOf(chart);
  let step = -1;
  return (level, hiss) => {
    const at = ((level - SILENT) / (1 - SILENT)) * open.length;
    if (level < SILENT || open.length === 0) step = -1;
    else if (step < 0 || at > step + 1 + HYSTERESIS || at < step - HYSTERESIS)
      step = Math.max(0, Math.min(open.length - 1, Math.floor(at)));
    if (step < 0) return { drawing: restDrawing, reason: 'silent', level, rung: 0, rungs: open.length };
    if (teeth.length === 0 || hiss <= HISSES) return { drawing: open[step]!, reason: 'loud', level, rung: step + 1, rungs: open.length };
    const wide = Math.min(teeth.length - 1, Math.floor(level * teeth.length));
    return { drawing: teeth[wide]!, reason: 'hiss', level, rung: wide + 1, rungs: teeth.length };
  };
}

/** The drawing of each frame, before holds. */
function shownAt({
  chart,
  loudness = new Float32Array(1),
  hiss = NOTHING,
  lengthFrames,
  rules: asked,
  frameRate,
}: KeyingJob): HeardDrawing[] {
  const rules = fullRules(asked);
  const fps = framesPerSecond(frameRate);
  const mouth = openMouth(chart);
  const press = maybeDrawingOfGroup(chart, chart.groups.find((group) => group.must)?.id ?? '')?.id;
  const level = followed(loudness, lengthFrames, rules.leadFrames, fps);
  const shown: HeardDrawing[] = [];
  for (let frame = 0; frame < lengthFrames; frame++) {
    shown[frame] = mouth(level[frame]!, hiss[frame + rules.leadFrames] ?? 0);
    const rise = frame === 0 ? 0 : level[frame]! - level[frame - 1]!;
    if (press && frame > 0 && rise * (fps / 24) > BURST)
      shown[frame - 1] = { ...shown[frame - 1]!, drawing: press, reason: 'burst', level: level[frame - 1]!, rung: 0 };
  }
  return shown;
}

/** Why a mouth keyed by loudness is as it is: by the frame it starts at. */
export function explainLoudness(job: KeyingJob, from: number): string {
  const heard = shownAt(job)[from];
  if (!heard) return 'Nothing is heard there.';
  const { reason, level, rung, rungs } = heard;
  const loud = `${Math.round(level * 100)} % of the way from the floor to the peak`;
  if (reason === 'silent') return 'It is as good as silent there: the mouth rests.';
  if (reason === 'burst') return 'It grows loud all at once on the next frame: the lips close before they burst open.';
  const which = rungs === 1 ? 'the only one of its kind' : `number ${rung} of ${rungs} by how open they are`;
  if (reason === 'hiss') return `It hisses, ${loud}: of the drawings that show the teeth, ${which}.`;
  return `It is ${loud}: of the drawings that open, ${which}.`;
}

/** @returns exposures in the free frames; the sounds of the job are not looked at */
export function keyLoudness(job: KeyingJob): Keyed {
  const { lengthFrames, chart, ink = [] } = job;
  const { holdFrames, strict, onesFor } = fullRules(job.rules);
  const shown = shownAt(job).map(({ drawing }) => drawing);
  const press = new Set(chart.groups.filter((group) => group.must).flatMap((group) => maybeDrawingOfGroup(chart, group.id)?.id ?? []));
  const inked = new Uint8Array(lengthFrames);
  for (const { from, to } of ink) inked.fill(1, from, to);
  const groupOf = (id: string): string => chart.drawings.find((drawing) => drawing.id === id)?.groups[0] ?? REST;
  const exposures: KeyedExposure[] = [];
  for (let from = 0; from < lengthFrames;) {
    if (inked[from]) {
      from += 1;
      continue;
    }
    let wall = from;
    while (wall < lengthFrames && !inked[wall]) wall += 1;
    const last = exposures.at(-1);
    const least = press.has(shown[from]!) && !strict && onesFor !== 'nothing' ? 1 : holdFrames;
    let to = from + 1;
    while (to < wall && (to - from < least || shown[to] === shown[from]) && !(to - from >= least && shown[to] !== shown[from])) to += 1;
    if (strict) while (to < wall && to % holdFrames !== 0) to += 1;
    // What is left before ink or the end is too short for a mouth of its own.
    if (wall - to < holdFrames) to = wall;
    if (last && last.to === from && last.drawing === shown[from]) exposures[exposures.length - 1] = { ...last, to };
    else exposures.push({ from, to, drawing: shown[from]!, group: groupOf(shown[from]!), plays: [] });
    from = to;
  }
  return { exposures, notShown: [] };
}
