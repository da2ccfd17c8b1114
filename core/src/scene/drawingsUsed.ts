/** Where a scene shows the drawings of a chart, and putting another in a drawing's place. */
import type { Patch } from '../document/patch.js';
import type { IdSource } from './commands.js';
import type { SceneDocument } from './sceneDocument.js';

function tracksOfChart(scene: SceneDocument, chartId: string): Set<string> {
  return new Set(scene.tracks.filter((track) => track.chartId === chartId).map((track) => track.id));
}

/** The drawings of a chart that a scene shows. */
export function drawingsUsed(scene: SceneDocument, chartId: string): Set<string> {
  const tracks = tracksOfChart(scene, chartId);
  return new Set(scene.exposures.filter((exposure) => tracks.has(exposure.track)).map((exposure) => exposure.drawing));
}

/** Shows another drawing wherever a scene shows this one; ink stays ink. Its ops are empty where the drawing is not shown. */
export function replaceDrawing(scene: SceneDocument, chartId: string, drawing: string, by: string, newId: IdSource): Patch {
  const tracks = tracksOfChart(scene, chartId);
  const ops = scene.exposures
    .filter((exposure) => tracks.has(exposure.track) && exposure.drawing === drawing)
    .map((exposure) => ({
      op: 'put' as const,
      table: 'exposures',
      id: exposure.id,
      before: exposure,
      after: { ...exposure, drawing: by },
    }));
  return { id: newId(), reason: 'drawing.replace', ops };
}
