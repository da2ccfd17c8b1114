/**
 * What every step of an open scene shares, in rooms by how often they change: what is open stays
 * the same for as long as the page does; the document is asked for with a selector; who speaks,
 * what is heard, what the sheet shows and how the reading stands are each their own.
 */
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
  type Span,
  type Track,
} from '@zest-jaw/core';
import { type Context, createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { Given } from '../api/besideRecording.js';
import type { ChosenStore } from '../key/chosen.js';
import type { ShownScene } from '../history/shownScene.js';
import type { Palette } from '../barSheet/palette.js';
import type { SheetData } from '../barSheet/sheetData.js';
import type { MouthSprites } from '../mouth/paintFigure.js';
import type { DocumentSession } from '../session/session.js';
import type { Player } from '../sound/player.js';
import type { Playhead } from '../sound/playhead.js';

/** What is open: the same for as long as the page shows this scene. */
export interface OpenScene {
  readonly sceneId: string;
  readonly productionId: string;
  readonly session: DocumentSession<SceneDocument>;
  /** What is shown of it: as it is, or as it was. */
  readonly shown: ShownScene;
  /** Every chart of the production's characters, by id. */
  readonly chartSessions: ReadonlyMap<string, DocumentSession<ChartDocument>>;
  /** Whose chart each is, as it was when the scene was opened. */
  readonly chartViews: readonly ChartView[];
  /** Everybody who may speak. */
  readonly characters: readonly CharacterView[];
  readonly player: Player;
  readonly playhead: Playhead;
  /** Mouths chosen one by one. */
  readonly chosen: ChosenStore;
  /** Shows another track: that of another speaker. */
  readonly showTrack: (trackId: string) => void;
  /** Saves, then reads the clip again, or parts of it, or by what lies beside it. */
  readonly readAgain: (clipId: string, parts?: readonly ClipPart[], given?: Given['request']) => Promise<void>;
}

/** Whose mouth is worked on, and with which charts. */
export interface Speaker {
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
}

/** What the sheet shows, and what it is painted with. */
export interface Sheet {
  readonly data: SheetData;
  readonly sprites: MouthSprites;
  readonly palette: Palette;
}

export interface Hearing {
  /** What is in each recording, by its hash. */
  readonly facts: ReadonlyMap<string, ClipFacts>;
  /** What the mouths of a speaker hear, in this scene or one it may become. */
  readonly heardOf: HeardOf;
  /** Some samples of a recording at 48 kHz; undefined before it has been fetched. */
  readonly samplesOf: (audio: string, part: Span) => Float32Array | undefined;
}

export const SceneContext = createContext<OpenScene | null>(null);
export const SpeakerContext = createContext<Speaker | null>(null);
export const SheetContext = createContext<Sheet | null>(null);
export const HearingContext = createContext<Hearing | null>(null);
/** The reading under way or last done, if any. */
export const ReadingContext = createContext<JobView | undefined>(undefined);

function useRoom<T>(room: Context<T | null>): T {
  const found = useContext(room);
  if (!found) throw new Error('There is no open scene around this component.');
  return found;
}

export const useOpenScene = (): OpenScene => useRoom(SceneContext);
export const useSpeaker = (): Speaker => useRoom(SpeakerContext);
export const useSheet = (): Sheet => useRoom(SheetContext);
export const useHearing = (): Hearing => useRoom(HearingContext);
export const useReadingJob = (): JobView | undefined => useContext(ReadingContext);

/** The scene's document as it is shown, or what is selected of it. */
export function useSceneDocument(): SceneDocument;
export function useSceneDocument<T>(select: (document: SceneDocument) => T): T;
export function useSceneDocument(select?: (document: SceneDocument) => unknown): unknown {
  const { shown } = useOpenScene();
  return useStore(shown.store, ({ document }) => (select ? select(document) : document));
}

export function useFrame(): number {
  const { playhead } = useOpenScene();
  return useStore(playhead.store, (state) => state.frame);
}

/** The drawing at the playhead. */
export function useDrawingAtPlayhead(): Drawing | undefined {
  const { data } = useSheet();
  const { chart } = useSpeaker();
  const frame = useFrame();
  const exposure = maybeExposureAt(data.exposures, frame);
  return exposure && maybeDrawing(chart, exposure.drawing);
}
