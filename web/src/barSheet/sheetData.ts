/** What the bar sheet shows, gathered once a document: words and sounds in frames, exposures, the wave. */
import {
  chartStretches,
  clipGains,
  decibels,
  extremesOf,
  exposuresOfTrack,
  framePositionOfSample,
  FEELS,
  ipaOf,
  maybeGroupOfPhoneme,
  placedNotSpeech,
  placedSounds,
  maybeFeel,
  placedPhrases,
  placedWords,
  SAMPLE_RATE,
  sceneSettings,
  type ChartDocument,
  type Drawing,
  type EarMark,
  type Exposure,
  type Feel,
  type HeardFrames,
  type LoudnessRange,
  type SceneDocument,
  type Pause,
  type WavePyramid,
} from '@zest-jaw/core';
import { layClips, type SheetClip } from './clipLane.js';

export interface SheetWord {
  readonly id: string;
  readonly clip: string;
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly confidence: number;
  readonly guessed: boolean;
}

export interface SheetSound {
  readonly id: string;
  readonly symbol: string;
  readonly ipa: string;
  readonly from: number;
  readonly to: number;
  readonly colour: string;
}

/** A recording's wave and where it is heard, in frames, fractions allowed. */
export interface PlacedWave {
  readonly characterId: string;
  /** Where the recording would start were its head not trimmed. */
  readonly startFrame: number;
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly samplesPerFrame: number;
  /** How loud it is heard, as a factor; 0 when muted. */
  readonly gain: number;
  /** How loud it is to the mouths, which stay when it is muted. */
  readonly mouthGain: number;
  readonly pyramid: WavePyramid;
  /** Stretches in which nobody speaks, in samples of the recording. */
  readonly pauses: readonly Pause[];
}

/** What is known of a recording once it has been measured. */
export interface Measured {
  readonly pyramid: WavePyramid;
  readonly pauses: readonly Pause[];
}

/** The recordings of a scene where they are heard; those that are not measured yet are left out. */
export function placedWaves(scene: SceneDocument, measured: ReadonlyMap<string, Measured>): PlacedWave[] {
  const { frameRate } = sceneSettings(scene);
  const gains = clipGains(scene.clips);
  const samplesPerFrame = (SAMPLE_RATE * frameRate.den) / frameRate.num;
  return scene.clips.flatMap((clip): PlacedWave[] => {
    const found = measured.get(clip.audio);
    if (!found) return [];
    return [
      {
        characterId: clip.characterId,
        startFrame: clip.atFrame - clip.fromSample / samplesPerFrame,
        fromFrame: clip.atFrame,
        toFrame: clip.atFrame + (clip.toSample - clip.fromSample) / samplesPerFrame,
        samplesPerFrame,
        gain: gains.get(clip.id)!,
        mouthGain: 10 ** (clip.gainDb / 20),
        pyramid: found.pyramid,
        pauses: found.pauses,
      },
    ];
  });
}

/** The level of a frame, in decibels below full scale, over all recordings that are heard; undefined where there is none. */
export function maybeLevelAt(
  waves: readonly PlacedWave[],
  frame: number,
  gainOf: (wave: PlacedWave) => number = (wave) => wave.gain,
): number | undefined {
  let power: number | undefined;
  for (const wave of waves) {
    const { startFrame, fromFrame, toFrame, samplesPerFrame, pyramid } = wave;
    const gain = gainOf(wave);
    const [from, to] = [Math.max(frame, fromFrame), Math.min(frame + 1, toFrame)];
    if (from >= to || gain === 0) continue;
    const perFrame = samplesPerFrame / pyramid.levels[0].samplesPerBlock;
    const [first, last] = [Math.floor((from - startFrame) * perFrame), Math.ceil((to - startFrame) * perFrame)];
    if (last <= 0 || first >= pyramid.levels[0].power.length) continue;
    power = (power ?? 0) + extremesOf(pyramid, first, last).power * gain * gain;
  }
  return power === undefined ? undefined : decibels(Math.sqrt(power));
}

/** What the mouths of one speaker hear in each frame; undefined before all of its recordings are measured. Shape: lengthFrames. */
export function maybeHeard(scene: SceneDocument, characterId: string, measured: ReadonlyMap<string, Measured>): HeardFrames | undefined {
  const clips = scene.clips.filter((clip) => clip.characterId === characterId);
  if (clips.length === 0 || clips.some((clip) => !measured.has(clip.audio))) return undefined;
  const own = placedWaves({ ...scene, clips }, measured);
  const { lengthFrames } = sceneSettings(scene);
  const [levels, hiss] = [new Float32Array(lengthFrames), new Float32Array(lengthFrames)];
  for (let frame = 0; frame < lengthFrames; frame++) {
    levels[frame] = maybeLevelAt(own, frame, (wave) => wave.mouthGain) ?? -120;
    hiss[frame] = hissAt(own, frame);
  }
  return { levels, hiss };
}

/** How much of a frame is hiss: the mean over its blocks, of the recording that hisses most. */
function hissAt(waves: readonly PlacedWave[], frame: number): number {
  let most = 0;
  for (const { startFrame, fromFrame, toFrame, samplesPerFrame, pyramid } of waves) {
    if (frame < fromFrame || frame >= toFrame) continue;
    const [blocks] = pyramid.levels;
    const perFrame = samplesPerFrame / blocks.samplesPerBlock;
    const first = Math.max(0, Math.floor((frame - startFrame) * perFrame));
    const inFrame = blocks.hiss.subarray(first, Math.max(first, Math.ceil((frame + 1 - startFrame) * perFrame)));
    if (inFrame.length > 0) most = Math.max(most, inFrame.reduce((sum, hiss) => sum + hiss, 0) / inFrame.length);
  }
  return most;
}

/** An exposure with what it shows: drawings of different charts may have the same id. */
export interface SheetExposure extends Exposure {
  /** The drawing among those of every chart: what sprites are found by. */
  readonly mouth: string;
  readonly label: string;
  readonly colour: string;
  /** What would be there were the rules at hand taken. */
  readonly isProposed?: boolean;
}

export interface SheetData {
  readonly words: readonly SheetWord[];
  readonly sounds: readonly SheetSound[];
  /** Where the recording is not speech. */
  readonly notSpeech: readonly { readonly from: number; readonly to: number }[];
  readonly exposures: readonly SheetExposure[];
  /** The plan to key by hand against. */
  readonly crib?: readonly SheetExposure[];
  /** Frames where the hand differs from the crib. */
  readonly differs?: readonly { readonly from: number; readonly to: number }[];
  /** What counts as silent and as loudest where a mouth is keyed by loudness, in dBFS, and the frames where it is. */
  readonly range?: (LoudnessRange & { readonly from: number; readonly to: number }) | undefined;
  /** Phrases keyed by rules of their own, with the name of their feel. */
  readonly feels: readonly { readonly from: number; readonly to: number; readonly name: string }[];
  /** What was heard by ear. */
  readonly marks: readonly EarMark[];
  /** Frames where the track goes over to another chart. */
  readonly chartChanges: readonly number[];
  readonly clips: readonly SheetClip[];
  readonly waves: readonly PlacedWave[];
  /** Whose lane this is: the waves of others are drawn faintly. */
  readonly characterId: string;
  /** The loudness is drawn over the wave. */
  readonly showsLoudness: boolean;
  readonly firstFrame: number;
  readonly framesPerSecond: number;
}

export const NO_GROUP_COLOUR = '#a79e8b';

/** Words surer than this need no second listen. */
export const SURE_WORD = 0.88;

/** A drawing among those of every chart. */
export function mouthKey(chartId: string, drawing: string): string {
  return `${chartId}/${drawing}`;
}

/** The colour of the first group a drawing plays. */
export function colourOfDrawing(chart: ChartDocument, drawing: Drawing): string {
  return chart.groups.find((group) => group.id === drawing.groups[0])?.colour ?? NO_GROUP_COLOUR;
}

export function sheetExposures(scene: SceneDocument, trackId: string, charts: ReadonlyMap<string, ChartDocument>): SheetExposure[] {
  const faces = new Map(
    [...charts].flatMap(([id, chart]) =>
      chart.drawings.map(
        (drawing) => [mouthKey(id, drawing.id), { label: drawing.label, colour: colourOfDrawing(chart, drawing) }] as const,
      ),
    ),
  );
  return chartStretches(scene, trackId).flatMap(({ from, to, chartId }) =>
    exposuresOfTrack(scene, trackId)
      .filter((exposure) => exposure.from >= from && exposure.from < to)
      .map((exposure) => {
        const mouth = mouthKey(chartId, exposure.drawing);
        return { ...exposure, mouth, ...(faces.get(mouth) ?? { label: exposure.drawing, colour: NO_GROUP_COLOUR }) };
      }),
  );
}

/** @param charts the charts the track uses, by id */
export function sheetData(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  waves: readonly PlacedWave[],
  {
    showsLoudness = false,
    nameOf = () => '',
    ownFeels = [],
  }: { showsLoudness?: boolean; nameOf?: (characterId: string) => string; ownFeels?: readonly Feel[] } = {},
): SheetData {
  const { frameRate, firstFrame } = sceneSettings(scene);
  const frames = (sample: number): number => framePositionOfSample(frameRate, sample);
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  const groups = charts.get(track?.chartId ?? '')?.groups ?? [];
  const speaker = track?.characterId ?? '';
  return {
    words: placedWords(scene, speaker).map(({ id, clip, text, from, to, confidence, guessed }) => ({
      clip,
      id,
      text,
      confidence,
      guessed,
      from: frames(from),
      to: frames(to),
    })),
    sounds: placedSounds(scene, speaker).map(({ id, symbol, from, to }) => ({
      id,
      symbol,
      ipa: ipaOf(symbol),
      from: frames(from),
      to: frames(to),
      colour: maybeGroupOfPhoneme(groups, symbol)?.colour ?? NO_GROUP_COLOUR,
    })),
    notSpeech: placedNotSpeech(scene, speaker).map(({ from, to }) => ({ from: frames(from), to: frames(to) })),
    exposures: sheetExposures(scene, trackId, charts),
    feels: placedPhrases(scene, speaker).map(({ from, to, rules }) => ({
      from: frames(from),
      to: frames(to),
      name: maybeFeel(rules, [...FEELS, ...ownFeels])?.name ?? (rules.source === 'loudness' ? 'by loudness' : 'own feel'),
    })),
    marks: scene.marks.filter((mark) => mark.characterId === speaker),
    chartChanges: chartStretches(scene, trackId)
      .slice(1)
      .map((stretch) => stretch.from),
    clips: layClips(scene, nameOf),
    waves,
    characterId: speaker,
    showsLoudness,
    firstFrame,
    framesPerSecond: Math.round(frameRate.num / frameRate.den),
  };
}
