/** Everything that is handed off of a lane as text, by one question: so that page, server and command line write the same. */
import type { ChartDocument } from '../chart/chart.js';
import type { LabelKind } from '../formats/labels/labels.js';
import { writeLabels, type SoundWriting } from '../formats/labels/labelsOfReading.js';
import { looksOfFrames } from '../formats/pictures.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import type { Counting } from './counting.js';
import { jawCurve } from '../face/jaw.js';
import { curvesCsv, curvesJson, curvesOf } from './curves.js';
import { keyListCsv, keyListJson, keysOf, type KeyListOptions } from './keyList.js';
import { pullListOf, shootingListCsv } from './pullList.js';
import { readingOfLane } from './readingOfLane.js';
import { timelineOfScene, type TimelineFiles } from './timeline.js';
import { weightsCsv, weightsJson, weightsOf } from './weights.js';

export type TextFormat = 'csv' | 'json' | LabelKind;

export type TextRequest =
  | ({ readonly kind: 'keys'; readonly format: TextFormat } & KeyListOptions)
  | { readonly kind: 'weights'; readonly format: TextFormat; readonly counting: Counting; readonly easeFrames: number }
  | { readonly kind: 'curves'; readonly format: TextFormat; readonly counting: Counting }
  | { readonly kind: 'labels'; readonly format: LabelKind; readonly name: string; readonly sounds: SoundWriting }
  | { readonly kind: 'timeline'; readonly files: TimelineFiles }
  | { readonly kind: 'shots'; readonly counting: Counting; readonly cameraOn: 1 | 2 };

/**
 * @param charts the charts of the track, by id
 * @param levels decibels below full scale, a value a frame, for curves
 */
export function textOfHandOff(
  scene: SceneDocument,
  trackId: string,
  charts: ReadonlyMap<string, ChartDocument>,
  request: TextRequest,
  levels?: Float32Array,
): string {
  if (request.kind === 'timeline') return timelineOfScene(scene, request.files);
  if (request.kind === 'labels') {
    const characterId = scene.tracks.find(({ id }) => id === trackId)?.characterId ?? '';
    return writeLabels(request.format, readingOfLane(scene, characterId), request);
  }
  // Lists say what is keyed; weights and curves what is seen.
  const looks = looksOfFrames(scene, trackId, charts, request.kind === 'keys' || request.kind === 'shots' ? 'keyed' : 'seen');
  const { lengthFrames } = sceneSettings(scene);
  switch (request.kind) {
    case 'keys': {
      const keys = keysOf(scene, looks, charts, request);
      return request.format === 'csv' ? keyListCsv(keys, request) : keyListJson(scene, keys, request);
    }
    case 'weights': {
      const weights = weightsOf(looks, charts, request.easeFrames);
      return (request.format === 'csv' ? weightsCsv : weightsJson)(scene, weights, lengthFrames, request.counting);
    }
    case 'curves': {
      const curves = curvesOf(looks, charts, levels, jawCurve(scene, trackId, charts));
      return (request.format === 'csv' ? curvesCsv : curvesJson)(scene, curves, request.counting);
    }
    case 'shots':
      return shootingListCsv(scene, pullListOf(looks, charts, request.cameraOn), request.counting);
  }
}
