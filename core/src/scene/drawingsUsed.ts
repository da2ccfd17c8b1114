/** Where a scene shows the drawings of a chart, and putting another in a drawing's place. */
import { putsOf, type Patch } from '../document/patch.js';
import { drawingsIn, withDrawings } from '../draw/madeDrawings.js';
import type { IdSource } from '../document/refusal.js';
import type { Exposure, SceneDocument } from './sceneDocument.js';
import { chartStretches } from './trackCharts.js';

/** The exposures of a scene that show drawings of a chart. */
function exposuresOnChart(scene: SceneDocument, chartId: string): Exposure[] {
  const stretches = new Map(scene.tracks.map((track) => [track.id, chartStretches(scene, track.id)]));
  return scene.exposures.filter(
    ({ track, from }) => stretches.get(track)?.findLast((stretch) => stretch.from <= from)?.chartId === chartId,
  );
}

/** The drawings of a chart that a scene shows, by themselves or in what is made of them. */
export function drawingsUsed(scene: SceneDocument, chartId: string): Set<string> {
  return new Set(exposuresOnChart(scene, chartId).flatMap((exposure) => drawingsIn(exposure.drawing)));
}

/** Shows another drawing wherever a scene shows this one; ink stays ink. Its ops are empty where the drawing is not shown. */
export function replaceDrawing(scene: SceneDocument, chartId: string, drawing: string, by: string, newId: IdSource): Patch {
  const ops = exposuresOnChart(scene, chartId)
    .filter((exposure) => drawingsIn(exposure.drawing).includes(drawing))
    .map((exposure) => {
      const made = withDrawings(exposure.drawing, (one) => (one === drawing ? by : one))!;
      const after: Exposure = { ...exposure, drawing: made };
      return putsOf<SceneDocument>()('exposures', exposure, after);
    });
  return { id: newId(), reason: 'drawing.replace', ops };
}
