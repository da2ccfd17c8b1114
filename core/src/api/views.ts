/** What the server answers with, as JSON: shared by the server that writes it and the interface that reads it. */
import type { ChartDocument } from '../chart/chart.js';
import type { Patch } from '../document/patch.js';
import type { Head } from '../formats/pictures.js';
import type { SceneDocument } from '../scene/sceneDocument.js';
import type { FrameRate } from '../time/frameRate.js';

export interface CharacterView {
  readonly id: string;
  readonly name: string;
  readonly chartId: string;
  /** Asset hash of the head's picture. */
  readonly head: string;
  readonly headWidth: number;
  readonly headHeight: number;
  readonly mouth: Head['mouth'];
  /** Colours behind the character, top to bottom. */
  readonly backdrop: readonly string[];
}

export interface ProductionView {
  readonly id: string;
  readonly name: string;
  readonly characters: readonly CharacterView[];
}

/** A scene as the home page shows it. */
export interface SceneCard {
  readonly id: string;
  readonly productionId: string;
  readonly title: string;
  readonly frameRate: FrameRate;
  readonly lengthFrames: number;
  readonly holdFrames: number;
  /** Share of the frames that are inked, 0 to 1. */
  readonly inked: number;
  readonly characterId: string | null;
  /** The drawing of a telling frame: the longest one that plays a sound. */
  readonly posterDrawing: string | null;
  /** ISO 8601. */
  readonly touchedAt: string;
}

export const JOB_STATES = ['waiting', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** Long work, as it stands. */
export interface JobView {
  readonly id: string;
  readonly kind: string;
  readonly sceneId: string;
  readonly state: JobState;
  /** Share done, 0 to 1. */
  readonly done: number;
  /** What is being done, or how it ended, for the user. */
  readonly message: string;
  readonly warnings: readonly string[];
}

export function hasEnded({ state }: Pick<JobView, 'state'>): boolean {
  return state === 'done' || state === 'failed' || state === 'cancelled';
}

export interface SceneView {
  readonly id: string;
  readonly productionId: string;
  readonly revision: number;
  readonly document: SceneDocument;
  /** The newest reading job, when there is one. */
  readonly reading: JobView | null;
}

export interface ChartView {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly document: ChartDocument;
}

export interface RevisionView {
  readonly revision: number;
  readonly patch: Patch;
}
