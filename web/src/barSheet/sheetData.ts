/** What the bar sheet shows, gathered once a document: words and sounds in frames, exposures, the wave. */
import {
  exposuresOfTrack,
  framePositionOfSample,
  ipaOf,
  maybeGroupOfPhoneme,
  placedSounds,
  placedWords,
  sceneSettings,
  type ChartDocument,
  type Exposure,
  type SceneDocument,
  type WaveBlocks,
} from '@zest-jaw/core';

export interface SheetWord {
  readonly id: string;
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly confidence: number;
}

export interface SheetSound {
  readonly id: string;
  readonly symbol: string;
  readonly ipa: string;
  readonly from: number;
  readonly to: number;
  readonly colour: string;
}

/** A recording's wave and the frame it starts at. */
export interface PlacedWave {
  readonly atFrame: number;
  readonly samplesPerFrame: number;
  readonly blocks: WaveBlocks;
}

export interface SheetData {
  readonly words: readonly SheetWord[];
  readonly sounds: readonly SheetSound[];
  readonly exposures: readonly Exposure[];
  /** Group colour by drawing id. */
  readonly colourOf: ReadonlyMap<string, string>;
  readonly waves: readonly PlacedWave[];
  readonly firstFrame: number;
  readonly framesPerSecond: number;
}

export const NO_GROUP_COLOUR = '#a79e8b';

/** Words surer than this need no second listen. */
export const SURE_WORD = 0.88;

export function sheetData(scene: SceneDocument, trackId: string, chart: ChartDocument, waves: readonly PlacedWave[]): SheetData {
  const { frameRate, firstFrame } = sceneSettings(scene);
  const frames = (sample: number): number => framePositionOfSample(frameRate, sample);
  const speaker = scene.tracks.find((track) => track.id === trackId)?.characterId ?? '';
  return {
    words: placedWords(scene).map(({ id, text, from, to, confidence }) => ({ id, text, confidence, from: frames(from), to: frames(to) })),
    sounds: placedSounds(scene, speaker).map(({ id, symbol, from, to }) => ({
      id,
      symbol,
      ipa: ipaOf(symbol),
      from: frames(from),
      to: frames(to),
      colour: maybeGroupOfPhoneme(chart.groups, symbol)?.colour ?? NO_GROUP_COLOUR,
    })),
    exposures: exposuresOfTrack(scene, trackId),
    colourOf: new Map(
      chart.drawings.map((drawing) => [
        drawing.id,
        chart.groups.find((group) => group.id === drawing.groups[0])?.colour ?? NO_GROUP_COLOUR,
      ]),
    ),
    waves,
    firstFrame,
    framesPerSecond: Math.round(frameRate.num / frameRate.den),
  };
}
