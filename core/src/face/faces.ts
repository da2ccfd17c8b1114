/** What a whole face shows, frame by frame: its mouth by the mouth lane, its other parts by theirs. */
import { lookIndexAt, maybeDrawing, restDrawing, type ChartDocument } from '../chart/chart.js';
import type { HeadPart, MouthPlace } from '../chart/head.js';
import type { Moved } from '../chart/headToSvg.js';
import { dropOfPart, jawAt } from './jaw.js';
import { holdOfPlaces, maybePlaceAt, NO_PLACE, placeTransform, type PlaceValue } from '../scene/places.js';
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

/** A turn and a size about the cross of what sits at a place, and an offset in the units of what carries that. */
function onUnits(about: string, { x, y }: Pick<PlaceValue, 'x' | 'y'>, at: MouthPlace | undefined): string {
  if (x === 0 && y === 0) return about;
  // The offset is said in the carrier's units and its directions: undone by the place's own turn and size.
  const { scale = 1, angle = 0 } = at ?? {};
  const turn = (-angle * Math.PI) / 180;
  const [across, down] = [(x * Math.cos(turn) - y * Math.sin(turn)) / scale, (x * Math.sin(turn) + y * Math.cos(turn)) / scale];
  const round = (value: number): number => Math.round(value * 1e4) / 1e4;
  return [`translate(${round(across)} ${round(down)})`, about].filter(Boolean).join(' ');
}

/** Where a part is moved to, by its own keys and by the jaw. */
function movedBy(part: HeadPart, place: PlaceValue | undefined, drop: number): string {
  const { x, y } = place ?? NO_PLACE;
  return onUnits(place ? placeTransform({ ...place, x: 0, y: 0 }) : '', { x, y: y + drop }, part.at);
}

/** What a part of a character's face shows at a frame; undefined where its chart is not there. */
function partLookAt(
  scene: SceneDocument,
  characterId: string,
  part: HeadPart,
  charts: Charts,
  { frame, jaw }: { readonly frame: number; readonly jaw: number },
): PartLook | undefined {
  const chart = charts.get(part.chartId);
  if (!chart) return undefined;
  const lane = maybePartLane(scene, characterId, part.name);
  const all = lane && !lane.muted ? exposuresOfTrack(scene, lane.id) : [];
  const index = indexAtSorted(all, frame, ({ from }) => from);
  const exposure = all[index] && frame < all[index].to ? all[index] : undefined;
  // Pictures of a scene are not seen in another, nor where they have not begun.
  if (part.role && !exposure) return undefined;
  const inForce = exposure && chartStretchAt(scene, lane!.id, exposure.from)!.chartId;
  const own = charts.get(inForce ?? '');
  const seen = exposure && own ? blendedDrawing(all, index, frame, own, lane?.blend) : exposure?.drawing;
  const drawing = (seen !== undefined && onChartOf(part, inForce!, seen, charts)) || restDrawing(chart).id;
  const boil = boilAt(lane?.boil, frame, framesPerSecond(sceneSettings(scene).frameRate));
  const look = lookIndexAt(maybeDrawing(chart, drawing)!, frame, exposure?.from ?? 0);
  const drop = dropOfPart(part, jaw);
  const place = lane && maybePlaceAt(scene, { track: lane.id, of: 'own' }, frame, holdOfPlaces(lane));
  const moved = movedBy(part, place, drop);
  return {
    part: part.id,
    chartId: part.chartId,
    drawing,
    look,
    ...(boil && { boil }),
    ...(lane?.hidden && { hidden: true }),
    ...(moved !== '' && { moved }),
  };
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
  const parts = partsOfHead(chart.head[0]);
  const jaw = parts.some((part) => (part.jaw ?? 0) !== 0) ? jawAt(scene, track, charts, frame) : 0;
  return parts.flatMap((part) => partLookAt(scene, track.characterId, part, charts, { frame, jaw }) ?? []);
}

/** Where a mouth and its head are at a frame, and how far its jaw is down; undefined where all is as its head has it. */
export function placeOfFace(scene: SceneDocument, trackId: string, charts: Charts, frame: number): Moved | undefined {
  const track = scene.tracks.find(({ id }) => id === trackId);
  if (!track) return undefined;
  const hold = holdOfPlaces(track);
  const [own, whole] = (['own', 'head'] as const).map((of) => maybePlaceAt(scene, { track: trackId, of }, frame, hold));
  const chart = charts.get(chartStretchAt(scene, trackId, frame)?.chartId ?? '');
  const hasJaw = chart?.head[0]?.jawMotion !== undefined;
  if (!own && !whole && !hasJaw) return undefined;
  return {
    ...(own && { moved: onUnits(placeTransform({ ...own, x: 0, y: 0 }), own, chart?.head[0]?.mouth) }),
    ...(whole && { headMoved: placeTransform(whole) }),
    ...(hasJaw && { jaw: jawAt(scene, track, charts, frame) }),
  };
}

/** What each frame of a mouth's lane shows, with the other parts of its face. Shape: one entry a frame. */
export function facesOfFrames(scene: SceneDocument, trackId: string, charts: Charts): (FrameLook | undefined)[] {
  return looksOfFrames(scene, trackId, charts).map((look, frame) => {
    const face = look ? faceAt(scene, trackId, charts, frame) : [];
    const place = look && placeOfFace(scene, trackId, charts, frame);
    return look && { ...look, ...(face.length > 0 && { face }), ...(place && { place }) };
  });
}
