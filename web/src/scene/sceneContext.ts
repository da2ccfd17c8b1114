/** What every step of an open scene shares. */
import {
  type CharacterView,
  type ChartDocument,
  type ChartView,
  type ClipFacts,
  type ClipPart,
  type Drawing,
  type HeardOf,
  type JobView,
  maybeDrawing,
  maybeExposureAt,
  type SceneDocument,
  type Track,
} from '@zest-jaw/core';
import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { Palette } from '../barSheet/palette.js';
import type { SheetData } from '../barSheet/sheetData.js';
import type { MouthSprites } from '../mouth/paintFigure.js';
import type { DocumentSession } from '../session/documentSession.js';
import type { Player } from '../sound/player.js';
import type { Playhead } from '../sound/playhead.js';

export interface OpenScene {
  readonly sceneId: string;
  readonly productionId: string;
  readonly player: Player;
  readonly session: DocumentSession<SceneDocument>;
  readonly document: SceneDocument;
  readonly playhead: Playhead;
  readonly track: Track;
  readonly character: CharacterView;
  /** The chart in force at the playhead, open for changes like the scene. */
  readonly chart: ChartDocument;
  readonly chartId: string;
  readonly chartSession: DocumentSession<ChartDocument>;
  /** Every chart of the character, by id. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  /** Every chart of every character of the production, by id. */
  readonly allCharts: ReadonlyMap<string, ChartDocument>;
  /** Whose chart each is, as it was when the scene was opened. */
  readonly chartViews: readonly ChartView[];
  /** Everybody who may speak. */
  readonly characters: readonly CharacterView[];
  /** Shows another track: that of another speaker. */
  readonly showTrack: (trackId: string) => void;
  /** What is in each recording, by its hash. */
  readonly facts: ReadonlyMap<string, ClipFacts>;
  /** What the mouths of a speaker hear, in this scene or one it may become. */
  readonly heardOf: HeardOf;
  readonly data: SheetData;
  readonly sprites: MouthSprites;
  readonly palette: Palette;
  /** The reading under way or last done, if any. */
  readonly reading: JobView | undefined;
  /** Saves, then reads the clip again, or parts of it. */
  readonly readAgain: (clipId: string, parts?: readonly ClipPart[]) => Promise<void>;
}

export const SceneContext = createContext<OpenScene | null>(null);

export function useOpenScene(): OpenScene {
  const scene = useContext(SceneContext);
  if (!scene) throw new Error('There is no open scene around this component.');
  return scene;
}

export function useFrame(): number {
  const { playhead } = useOpenScene();
  return useStore(playhead.store, (state) => state.frame);
}

/** The drawing at the playhead. */
export function useDrawingAtPlayhead(): Drawing | undefined {
  const { data, chart } = useOpenScene();
  const frame = useFrame();
  const exposure = maybeExposureAt(data.exposures, frame);
  return exposure && maybeDrawing(chart, exposure.drawing);
}
