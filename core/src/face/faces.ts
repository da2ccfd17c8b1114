/** What a whole face shows, frame by frame: its mouth by the mouth lane, its other parts by theirs. */
import { lookIndexAt, maybeDrawing, restDrawing, type ChartDocument } from '../chart/chart.js';
import type { HeadPart } from '../chart/head.js';
import { partsOfHead, type PartLook } from '../chart/headParts.js';
import { looksOfFrames, type FrameLook } from '../formats/pictures.js';
import { blendedDrawing } from '../scene/blend.js';
import { exposuresOfTrack, indexAtSorted } from '../scene/exposures.js';
import { maybePartLane } from '../scene/partLanes.js';
import { withDrawings } from '../draw/madeDrawings.js';
import { boilAt } from '../draw/boil.js';
import { sceneSettings, type SceneDocument } from '../scene/sceneDocument.js';
import { framesPerSecond } from '../time/frameRate.js';
import { chartStretchAt } from '../scene/trackCharts.js';

type Charts = ReadonlyMap<string, ChartDocument>;

/** What a lane of another chart than the part's shows is the part's drawing of that name: two views of a head share a lane. */
function onChartOf(part: HeadPart, chartId: string, drawingId: string, charts: Charts): string | undefined {
  const own = charts.get(part.chartId);
  if (chartId === part.chartId) return own && maybeDrawing(own, drawingId)?.id;
  const other = charts.get(chartId);
  return withDrawings(drawingId, (id) => {
    const label = other && maybeDrawing(other, id)?.label;
    return own?.drawings.find((drawing) => drawing.label === label)?.id;
  });
}

/** What a part of a character's face shows at a frame; undefined where its chart is not there. */
function partLookAt(scene: SceneDocument, characterId: string, part: HeadPart, charts: Charts, frame: number): PartLook | undefined {
  const chart = charts.get(part.chartId);
  if (!chart) return undefined;
  const lane = maybePartLane(scene, characterId, part.name);
  const all = lane && !lane.muted ? exposuresOfTrack(scene, lane.id) : [];
  const index = indexAtSorted(all, frame, ({ from }) => from);
  const exposure = all[index] && frame < all[index].to ? all[index] : undefined;
  const inForce = exposure && chartStretchAt(scene, lane!.id, exposure.from)!.chartId;
  const own = charts.get(inForce ?? '');
  const seen = exposure && own ? blendedDrawing(all, index, frame, own, lane?.blend) : exposure?.drawing;
  const drawing = (seen !== undefined && onChartOf(part, inForce!, seen, charts)) || restDrawing(chart).id;
  const boil = boilAt(lane?.boil, frame, framesPerSecond(sceneSettings(scene).frameRate));
  const look = lookIndexAt(maybeDrawing(chart, drawing)!, frame, exposure?.from ?? 0);
  return { part: part.id, chartId: part.chartId, drawing, look, ...(boil && { boil }), ...(lane?.hidden && { hidden: true }) };
}

/**
 * What the parts of a face show at a frame, beside its mouth.
 *
 * @param trackId the mouth's lane
 * @param charts by id, those of the parts among them
 */
export function faceAt(scene: SceneDocument, trackId: string, charts: Charts, frame: number): PartLook[] {
  const track = scene.tracks.find(({ id }) => id === trackId);
  const chart = charts.get(chartStretchAt(scene, trackId, frame)?.chartId ?? '');
  if (!track || !chart) return [];
  return partsOfHead(chart.head[0]).flatMap((part) => partLookAt(scene, track.characterId, part, charts, frame) ?? []);
}

/** What each frame of a mouth's lane shows, with the other parts of its face. Shape: one entry a frame. */
export function facesOfFrames(scene: SceneDocument, trackId: string, charts: Charts): (FrameLook | undefined)[] {
  return looksOfFrames(scene, trackId, charts).map((look, frame) => {
    const face = look ? faceAt(scene, trackId, charts, frame) : [];
    return look && face.length > 0 ? { ...look, face } : look;
  });
}
