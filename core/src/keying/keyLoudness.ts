/**
 * Keys a mouth by how loud the recording is, for gibberish, animals, crowds and robots: the
 * drawings in the order of how open they are, measured, picked by loudness between the
 * clip's own floor and peak. A mouth opens at once and closes slowly; a level near the border
 * of two drawings stays with the one that is there; a sudden rise closes the lips on the
 * frame before it. It obeys the same holds and the same ink.
 */
import { maybeDrawingOfGroup, type ChartDocument } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { REST } from '../chart/soundGroups.js';
import { framesPerSecond } from '../time/frameRate.js';
import { lookOfChart } from './chartLook.js';
import type { Keyed, KeyedExposure, KeyingJob } from './keyingJob.js';
import { fullRules } from './rules.js';

/** How fast a mouth follows a fall of loudness: it is half way after so long, in seconds. */
const RELEASE_SECONDS = 0.06;
/** A border between two drawings is passed only by this share of the step between them. */
const HYSTERESIS = 0.2;
/** A rise by so much within a frame at 24 a second is a burst. */
const BURST = 0.45;
/** Softer than this the mouth is at rest. */
const SILENT = 0.06;

/** The drawings that open and close: all but those that must be seen of a sound and those that only hiss. */
function ladderOf(chart: ChartDocument): string[] {
  const must = new Set(chart.groups.filter((group) => group.must).map((group) => group.id));
  const isLadder = (groups: readonly string[]): boolean => !groups.some((group) => must.has(group) || group === REST);
  const open = chart.drawings.filter((drawing) => isLadder(drawing.groups));
  return open
    .map((drawing) => ({ id: drawing.id, opening: measureLook(drawing).opening }))
    .sort((a, b) => a.opening - b.opening)
    .map(({ id }) => id);
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

/** The drawing of each frame, before holds. */
function shownAt({ chart, loudness = new Float32Array(1), lengthFrames, rules: asked, frameRate }: KeyingJob): string[] {
  const rules = fullRules(asked);
  const fps = framesPerSecond(frameRate);
  const look = lookOfChart(chart);
  const ladder = ladderOf(chart);
  const press = maybeDrawingOfGroup(chart, chart.groups.find((group) => group.must)?.id ?? '')?.id;
  if (ladder.length === 0) return new Array<string>(lengthFrames).fill(look.restDrawing);
  const level = followed(loudness, lengthFrames, rules.leadFrames, fps);
  const shown: string[] = [];
  let step = -1;
  for (let frame = 0; frame < lengthFrames; frame++) {
    const at = ((level[frame]! - SILENT) / (1 - SILENT)) * ladder.length;
    if (level[frame]! < SILENT) step = -1;
    else if (step < 0 || at > step + 1 + HYSTERESIS || at < step - HYSTERESIS)
      step = Math.max(0, Math.min(ladder.length - 1, Math.floor(at)));
    shown.push(step < 0 ? look.restDrawing : ladder[step]!);
    const rise = frame === 0 ? 0 : level[frame]! - level[frame - 1]!;
    if (press && frame > 0 && rise * (fps / 24) > BURST) shown[frame - 1] = press;
  }
  return shown;
}

/** @returns exposures in the free frames; the sounds of the job are not looked at */
export function keyLoudness(job: KeyingJob): Keyed {
  const { lengthFrames, chart, ink = [] } = job;
  const { holdFrames, strict } = fullRules(job.rules);
  const shown = shownAt(job);
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
    const least = press.has(shown[from]!) && !strict ? 1 : holdFrames;
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
