/** What the bar sheet shows, gathered once a document: words and sounds in frames, exposures, the wave. */
import {
  chartStretches,
  exposuresOfTrack,
  framePositionOfSample,
  FEELS,
  heardWaves,
  ipaOf,
  maybeGroupOfPhoneme,
  placedNotSpeech,
  placedSounds,
  maybeFeel,
  placedPhrases,
  placedWords,
  sceneSettings,
  type ChartDocument,
  type Drawing,
  type EarMark,
  type Exposure,
  type Feel,
  type HeardWave,
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

/** A recording's wave where it is heard, and where nobody speaks in it. */
export interface PlacedWave extends HeardWave {
  /** In samples of the recording. */
  readonly pauses: readonly Pause[];
}

/** What is known of a recording once it has been measured. */
export interface Measured {
  readonly pyramid: WavePyramid;
  readonly pauses: readonly Pause[];
}

/** The recordings of a scene where they are heard; those that are not measured yet are left out. */
export function placedWaves(scene: SceneDocument, measured: ReadonlyMap<string, Measured>): PlacedWave[] {
  return heardWaves(scene, (audio) => measured.get(audio)?.pyramid).map((wave) => ({ ...wave, pauses: measured.get(wave.audio)!.pauses }));
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

/** The lane of another speaker. */
export interface OtherLane {
  readonly track: string;
  readonly name: string;
  readonly exposures: readonly SheetExposure[];
}

export interface SheetData {
  readonly words: readonly SheetWord[];
  readonly sounds: readonly SheetSound[];
  /** Where the recording is not speech. */
  readonly notSpeech: readonly { readonly from: number; readonly to: number }[];
  readonly exposures: readonly SheetExposure[];
  /** The lanes of the others who speak in the scene, in order. */
  readonly others: readonly OtherLane[];
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
    allCharts = charts,
  }: {
    showsLoudness?: boolean;
    nameOf?: (characterId: string) => string;
    ownFeels?: readonly Feel[];
    /** Those of the others who speak, too. */
    allCharts?: ReadonlyMap<string, ChartDocument>;
  } = {},
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
    others: scene.tracks
      .filter(({ id }) => id !== trackId)
      .map(({ id, characterId }) => ({ track: id, name: nameOf(characterId), exposures: sheetExposures(scene, id, allCharts) })),
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
