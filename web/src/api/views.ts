/** What the server answers with. */
import type { ChartDocument, FrameRate, Head, Patch, SceneDocument } from '@zest-jaw/core';

export interface CharacterView {
  readonly id: string;
  readonly name: string;
  readonly chartId: string;
  readonly head: string;
  readonly headWidth: number;
  readonly headHeight: number;
  readonly mouth: Head['mouth'];
  readonly backdrop: readonly string[];
}

export interface ProductionView {
  readonly id: string;
  readonly name: string;
  readonly characters: readonly CharacterView[];
}

export interface SceneCard {
  readonly id: string;
  readonly productionId: string;
  readonly title: string;
  readonly frameRate: FrameRate;
  readonly lengthFrames: number;
  readonly holdFrames: number;
  readonly inked: number;
  readonly characterId: string | null;
  readonly posterDrawing: string | null;
  readonly touchedAt: string;
}

export interface JobView {
  readonly id: string;
  readonly kind: string;
  readonly sceneId: string;
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'cancelled';
  readonly done: number;
  readonly message: string;
  readonly warnings: readonly string[];
}

export interface SceneView {
  readonly id: string;
  readonly productionId: string;
  readonly revision: number;
  readonly document: SceneDocument;
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
