/**
 * A lane as the checker sees it: what is heard, the shapes that asks for and when, and the mouths that are held, each with
 * how open it is. Made once a check; every kind of note reads it.
 */
import type { HeardFrames } from '../audio/frameLevels.js';
import { maybeDrawing, type ChartDocument, type Drawing } from '../chart/chart.js';
import { measureLook } from '../chart/measureLook.js';
import { REST } from '../chart/soundGroups.js';
import { lookOfChart } from '../keying/chartLook.js';
import { framesByLoudness, rulesOfSounds } from '../keying/ruledParts.js';
import { fullRules, type FullRules } from '../keying/rules.js';
import { shapesOf, type RuledShape } from '../keying/shapes.js';
import { exposuresOfTrack, indexAtSorted } from '../scene/exposures.js';
import { keyingJobOf } from '../scene/pencil.js';
import { placedNotSpeech, placedWords, type PlacedSound, type PlacedWord } from '../scene/placedSounds.js';
import { sceneSettings, type Exposure, type SceneDocument, type Track } from '../scene/sceneDocument.js';
import { chartStretches, type ChartStretch } from '../scene/trackCharts.js';
import { framesPerSecond, SAMPLE_RATE } from '../time/frameRate.js';
import { overlaps, type Span } from '../time/span.js';
import { limitsOf, type CheckLimits } from './limits.js';

/** How a drawing is seen beside the others of its chart. */
export interface SeenDrawing {
  /** Undefined for one that is not in its chart any more. */
  readonly art: Drawing | undefined;
  readonly label: string;
  /** Inner height and width, as shares of the greatest of its chart. */
  readonly opening: number;
  readonly width: number;
  /** Lips that meet, or rest. */
  readonly isShut: boolean;
  readonly teeth: number;
  readonly darkness: number;
}

/** A mouth that is held, and what it looks like. */
export interface HeldMouth extends Exposure, SeenDrawing {
  readonly chart: ChartDocument;
}

/** What a sound, or a pause, asks for. */
export interface AskedShape extends RuledShape {
  readonly chart: ChartDocument;
  /** Which of the lane's it is. */
  readonly at: number;
}

export interface CheckedLane {
  readonly scene: SceneDocument;
  readonly track: Track;
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly stretches: readonly ChartStretch[];
  readonly fps: number;
  readonly lengthFrames: number;
  readonly firstFrame: number;
  readonly rules: FullRules;
  readonly limits: CheckLimits;
  readonly sounds: readonly PlacedSound[];
  readonly soundRules: readonly FullRules[];
  readonly words: readonly PlacedWord[];
  readonly wordOf: ReadonlyMap<string, PlacedWord>;
  readonly shapes: readonly AskedShape[];
  readonly held: readonly HeldMouth[];
  /** Frames in which the mouth goes by loudness, or something is heard that is not speech. */
  readonly apart: readonly Span[];
  readonly loudness: Float32Array | undefined;
}

/** A mouth this open, of the widest, is shut to the eye. */
const SHUT_BELOW = 0.12;

const seenOf = new WeakMap<ChartDocument, Map<string, SeenDrawing>>();

/** Measures a drawing beside those of a chart. */
function measuredBeside(chart: ChartDocument): (drawing: Drawing) => SeenDrawing {
  const all = chart.drawings.map(measureLook);
  const tallest = Math.max(1e-9, ...all.map(({ opening }) => opening));
  const widest = Math.max(1e-9, ...all.map(({ width }) => width));
  const must = new Set(chart.groups.filter((group) => group.must).map(({ id }) => id));
  return (drawing) => {
    const { opening, width, teeth, darkness } = measureLook(drawing);
    const isClosure = drawing.groups.some((group) => group === REST || must.has(group));
    const share = opening / tallest;
    return {
      art: drawing,
      label: drawing.label,
      opening: share,
      width: width / widest,
      teeth,
      darkness,
      isShut: isClosure || share < SHUT_BELOW,
    };
  };
}

/** Every drawing of a chart as it is seen beside the others. Worked out once a chart. */
function drawingsSeen(chart: ChartDocument): Map<string, SeenDrawing> {
  let seen = seenOf.get(chart);
  if (!seen) {
    const beside = measuredBeside(chart);
    seen = new Map(chart.drawings.map((drawing) => [drawing.id, beside(drawing)]));
    seenOf.set(chart, seen);
  }
  return seen;
}

const GONE: SeenDrawing = { art: undefined, label: 'a drawing that is gone', opening: 0, width: 0, isShut: false, teeth: 0, darkness: 0 };

/** How a drawing of a chart is seen. */
export function seenDrawing(chart: ChartDocument, id: string): SeenDrawing {
  const known = drawingsSeen(chart);
  const seen = known.get(id);
  if (seen) return seen;
  const made = maybeDrawing(chart, id);
  if (!made) return GONE;
  // Of an in-between, once.
  const beside = measuredBeside(chart)(made);
  known.set(id, beside);
  return beside;
}

/** Shapes of each chart for its own stretches, as one list. */
function askedShapes(lane: {
  scene: SceneDocument;
  track: Track;
  stretches: readonly ChartStretch[];
  charts: ReadonlyMap<string, ChartDocument>;
  heard: HeardFrames | undefined;
}): AskedShape[] {
  const { scene, track, stretches, charts, heard } = lane;
  const ofChart = new Map<string, Omit<AskedShape, 'at'>[]>();
  const asked = stretches.flatMap(({ chartId, from, to }) => {
    const chart = charts.get(chartId);
    if (!chart) return [];
    let shapes = ofChart.get(chartId);
    if (!shapes) {
      shapes = shapesOf(keyingJobOf(scene, track, chart, heard)).map((shape) => ({ ...shape, chart }));
      ofChart.set(chartId, shapes);
    }
    return stretches.length === 1 ? shapes : shapes.filter(({ target, end }) => target < to && end > from);
  });
  return asked.map((shape, at) => ({ ...shape, at }));
}

/** @param charts the charts the lane uses, by id, one-offs included */
export function checkedLane(
  scene: SceneDocument,
  track: Track,
  charts: ReadonlyMap<string, ChartDocument>,
  { heard, limits }: { readonly heard?: HeardFrames | undefined; readonly limits?: Partial<CheckLimits> | undefined } = {},
): CheckedLane {
  const { frameRate, lengthFrames, firstFrame } = sceneSettings(scene);
  const fps = framesPerSecond(frameRate);
  const stretches = chartStretches(scene, track.id);
  const rules = fullRules(track.rules);
  const someChart = stretches.map(({ chartId }) => charts.get(chartId)).find((chart) => chart !== undefined);
  const job = someChart && keyingJobOf(scene, track, someChart, heard);
  const noises = placedNotSpeech(scene, track.characterId).map(({ from, to }) => ({
    from: Math.floor((from / SAMPLE_RATE) * fps),
    to: Math.ceil((to / SAMPLE_RATE) * fps) + 1,
  }));
  const held = exposuresOfTrack(scene, track.id).flatMap((exposure): HeldMouth[] => {
    const chart = charts.get(stretches.findLast(({ from }) => from <= exposure.from)?.chartId ?? '');
    return chart ? [{ ...exposure, chart, ...seenDrawing(chart, exposure.drawing) }] : [];
  });
  const words = placedWords(scene, track.characterId);
  return {
    scene,
    track,
    charts,
    stretches,
    fps,
    lengthFrames,
    firstFrame,
    rules,
    limits: limitsOf(rules, limits),
    sounds: job?.sounds ?? [],
    soundRules: job ? rulesOfSounds(job) : [],
    words,
    wordOf: new Map(words.map((word) => [word.id, word])),
    shapes: job ? askedShapes({ scene, track, stretches, charts, heard }) : [],
    held,
    apart: [...(job ? framesByLoudness(job) : []), ...noises],
    loudness: job?.loudness,
  };
}

/** Whether frames are none of the kinds that ask the sounds. */
export const isApart = ({ apart }: CheckedLane, span: Span): boolean => apart.some((one) => overlaps(one, span));

/** The mouths seen in some frames, in order. */
export function heldIn({ held }: CheckedLane, from: number, to: number): HeldMouth[] {
  const seen: HeldMouth[] = [];
  for (
    let at = Math.max(
      0,
      indexAtSorted(held, from, (one) => one.from),
    );
    at < held.length && held[at]!.from < to;
    at++
  )
    if (held[at]!.to > from) seen.push(held[at]!);
  return seen;
}

/** How much is lost when a mouth is seen in the place of a shape, 0 to about 1; 1 where nothing is seen. */
export function lostAs({ group, drawing, chart }: AskedShape, { drawing: seen, art }: HeldMouth): number {
  if (!art) return 1;
  return seen === drawing ? 0 : lookOfChart(chart).lost(group, seen);
}

/** The number shown for a frame. */
export const shownFrame = ({ firstFrame }: CheckedLane, frame: number): number => frame + firstFrame;

/** Frames in words: “frame 12”, “frames 12 to 14”. */
export function inFrames(lane: CheckedLane, from: number, to: number): string {
  const [first, last] = [shownFrame(lane, from), shownFrame(lane, Math.max(from, to - 1))];
  return first === last ? `frame ${first}` : `frames ${first} to ${last}`;
}

/** A length in words: “1 frame”, “2.5 frames”. */
export function frameCount(count: number): string {
  const rounded = Math.round(count * 10) / 10;
  return `${Number.isInteger(rounded) ? rounded : rounded.toFixed(1)} ${rounded === 1 ? 'frame' : 'frames'}`;
}

/** The word a sound belongs to, for a sentence: “in “parcel””, or nothing. */
export function inWord({ wordOf, sounds }: CheckedLane, sound: number): string {
  const word = wordOf.get(sounds[sound]?.word ?? '');
  return word ? ` in “${word.text}”` : '';
}

/** How sure a sound was read, 0 to 1. */
export const sureOf = ({ sounds }: CheckedLane, sound: number): number => Math.min(1, Math.max(0.2, sounds[sound]?.confidence ?? 1));
