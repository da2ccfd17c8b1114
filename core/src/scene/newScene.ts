/** A scene as it is before anything is read: one clip, one mouth track, the mouth at rest. */
import { restDrawing, type ChartDocument } from '../chart/chart.js';
import type { KeyingRules } from '../keying/rules.js';
import type { FrameRate } from '../time/frameRate.js';
import { framesToHold } from '../time/samples.js';
import { clipOfRecording } from './clipPlace.js';
import type { SceneDocument } from './sceneDocument.js';

export interface NewScene {
  readonly title: string;
  readonly frameRate: FrameRate;
  readonly firstFrame: number;
  readonly chartId: string;
  readonly chart: ChartDocument;
  readonly rules: KeyingRules;
  readonly clip: Omit<Parameters<typeof clipOfRecording>[0], 'id' | 'atFrame'>;
}

export function newScene({ title, frameRate, firstFrame, chartId, chart, rules, clip }: NewScene): SceneDocument {
  const lengthFrames = Math.max(1, framesToHold(frameRate, clip.lengthSamples));
  return {
    settings: [{ id: 'scene', title, frameRate, firstFrame, lengthFrames }],
    clips: [clipOfRecording({ id: 'clip1', ...clip })],
    words: [],
    phonemes: [],
    tracks: [{ id: 'mouth1', kind: 'mouth', characterId: clip.characterId, chartId, order: 0, rules }],
    views: [],
    oneOffs: [],
    asides: [],
    remarks: [],
    places: [],
    marks: [],
    exposures: [{ id: 'rest0', track: 'mouth1', from: 0, to: lengthFrames, drawing: restDrawing(chart).id, inked: false, plays: [] }],
  };
}
