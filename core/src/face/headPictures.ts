/**
 * Numbered pictures of a scene in the place of a head, or as the plate behind it. They are drawings of a part of the head like any
 * other, one after another in a lane of their own, and the mouth follows them by keys of its place.
 */
import { applyPatch, mergePatches, putsOf, type Patch, type PutOp } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import type { PlacedArt } from '../draw/art.js';
import type { ChartDocument, Drawing } from '../chart/chart.js';
import type { ChartHead, HeadPart, PartRole } from '../chart/head.js';
import { exposuresOfTrack } from '../scene/exposures.js';
import { addPartLane } from '../scene/partLanes.js';
import { NO_PLACE, PLACE_LIMITS, placesOf } from '../scene/places.js';
import {
  SCENE_KIND,
  frameNumber,
  sceneSettings,
  type Exposure,
  type PlaceKey,
  type SceneDocument,
  type Track,
} from '../scene/sceneDocument.js';
import type { NewPartOfFace } from './faceOfImport.js';

const put = putsOf<SceneDocument>();

/** The longer side of a picture on its chart's square, in the chart's units. */
const ON_CHART = 100;
/** Behind everything else on the head. */
const DEEPEST = -100;

/** Frames that one is held, and pictures of one head. */
export const PICTURES_LIMITS = { mostFrames: 48, most: 1000 } as const;

/** What a run of pictures is called on a head, by what it stands for. */
export const NAMES_OF_ROLES: Readonly<Record<PartRole, string>> = { head: 'Head', plate: 'Plate' };

/**
 * A part of pictures, all laid to their edges: as the head they fit into it, as the plate they cover it.
 *
 * @param arts whole pictures, in order
 */
export function partOfPictures(head: ChartHead, role: PartRole, arts: readonly PlacedArt[]): NewPartOfFace {
  const [first] = arts;
  const { width, height } = first!;
  const scale = ON_CHART / Math.max(width, height);
  const [across, down] = [head.width / width, head.height / height];
  const fit = role === 'head' ? Math.min(across, down) : Math.max(across, down);
  return {
    name: NAMES_OF_ROLES[role],
    role,
    order: DEEPEST,
    at: { x: head.width / 2, y: head.height / 2, scale: fit / scale, angle: 0 },
    drawings: arts.map((art, index) => {
      // One that is larger or smaller than the first fills the same width.
      const own = (scale * width) / art.width;
      return { label: String(index + 1), art, placement: { scale: own, x: (-art.width / 2) * own, y: (-art.height / 2) * own } };
    }),
  };
}

/** When pictures are shown, in frames from 0, and what comes after the last: the first again, the last for good, or none. */
export interface PicturesLaid {
  readonly from: number;
  /** Frames each is held. */
  readonly every: number;
  readonly then: 'loop' | 'hold' | 'stop';
}

/** From the beginning, on twos, round and round. */
export const USUAL_PICTURES: PicturesLaid = { from: 0, every: 2, then: 'loop' };

/** Lays the drawings of a lane one after another, in ink, in the place of all it has. */
export function layPictures(
  scene: SceneDocument,
  { track, drawings }: { readonly track: string; readonly drawings: readonly string[] },
  { from, every, then }: PicturesLaid,
  newId: IdSource,
): Patch | Refusal {
  const { lengthFrames } = sceneSettings(scene);
  const lane = scene.tracks.find(({ id }) => id === track);
  if (!lane) return { refusal: 'That lane is no longer in the scene.' };
  if (lane.locked) return { refusal: 'This lane is locked. Unlock it in Lanes to lay pictures in it.' };
  if (drawings.length === 0) return { refusal: 'There is no picture to lay. Choose some first.' };
  if (!Number.isInteger(from) || from < 0 || from >= lengthFrames)
    return { refusal: `Frame ${frameNumber(scene, from)} is outside the scene, which has ${lengthFrames} frames.` };
  if (!Number.isInteger(every) || every < 1 || every > PICTURES_LIMITS.mostFrames)
    return { refusal: `A picture can be held for 1 to ${PICTURES_LIMITS.mostFrames} frames, not ${every}.` };
  const laid: Exposure[] = [];
  const end = then === 'stop' ? Math.min(lengthFrames, from + drawings.length * every) : lengthFrames;
  for (let at = from, index = 0; at < end; index++) {
    const isLast = then === 'hold' && index === drawings.length - 1;
    const to = isLast ? end : Math.min(end, at + every);
    laid.push({ id: newId(), track, from: at, to, drawing: drawings[index % drawings.length]!, inked: true, plays: [] });
    at = to;
  }
  const before = exposuresOfTrack(scene, track).map((exposure) => put('exposures', exposure, null));
  return { id: newId(), reason: 'lane.pictures', ops: [...before, ...laid.map((exposure) => put('exposures', null, exposure))] };
}

/** A lane for a part of pictures, with them laid in it: one step. */
export function addPictures(
  scene: SceneDocument,
  { mouth, part, chart }: { readonly mouth: string; readonly part: HeadPart; readonly chart: ChartDocument },
  laid: PicturesLaid,
  newId: IdSource,
): Patch | Refusal {
  const lane = addPartLane(scene, { mouth, part }, chart, newId);
  if (isRefusal(lane)) return lane;
  const made = lane.ops.find((op) => op.op === 'put' && op.table === 'tracks') as PutOp;
  const drawings = chart.drawings.map(({ id }) => id);
  const pictures = layPictures(applyPatch(SCENE_KIND, scene, lane), { track: made.id, drawings }, laid, newId);
  return isRefusal(pictures) ? pictures : { ...mergePatches(lane, pictures), reason: 'lane.pictures' };
}

/** Where the mouth is on a picture, beside its own place on the head: in the head's units. */
export interface PictureMark {
  readonly drawing: string;
  readonly x: number;
  readonly y: number;
  /** It was followed there, not set by hand. */
  readonly pencil?: true;
}

/** What takes a point of a picture to the head's units, as the part lies there: `scale` head units a pixel of the picture. */
export function picturesOnHead(
  { at }: HeadPart,
  { art, placement }: Drawing,
): { readonly scale: number; readonly x: number; readonly y: number } {
  const scale = at.scale * placement.scale;
  return art.kind === 'placed'
    ? { scale, x: at.x + placement.x * at.scale, y: at.y + placement.y * at.scale }
    : { scale, x: at.x, y: at.y };
}

/** The mouth set to where each picture has it, wherever the picture is shown. What was followed moves no key that a hand has set. */
export function followPictures(
  scene: SceneDocument,
  { mouth, lane }: { readonly mouth: Track; readonly lane: Track },
  marks: readonly PictureMark[],
  newId: IdSource,
): Patch | Refusal {
  if (mouth.locked) return { refusal: 'The mouth’s lane is locked. Unlock it in Lanes to move it.' };
  if (marks.some(({ x, y }) => Math.max(Math.abs(x), Math.abs(y)) > PLACE_LIMITS.offset))
    return { refusal: 'That is further than a mouth can be moved. Mark it nearer to the head.' };
  const byDrawing = new Map(marks.map((mark) => [mark.drawing, mark]));
  const keys = placesOf(scene, { track: mouth.id, of: 'own' });
  const shown = exposuresOfTrack(scene, lane.id);
  const keyAt = (frame: number, { x, y, pencil }: Omit<PictureMark, 'drawing'>): PutOp | undefined => {
    const there = keys.find((key) => key.frame === frame);
    if (pencil && there && !there.pencil) return undefined;
    const { pencil: _before, ...kept }: Omit<PlaceKey, 'ease'> = there ?? { ...NO_PLACE, id: newId(), track: mouth.id, of: 'own', frame };
    const after: PlaceKey = { ...kept, x, y, ease: 'hold', ...(pencil && { pencil }) };
    return put('places', there ?? null, after);
  };
  const wanted = shown.flatMap(({ drawing, from }) => {
    const mark = byDrawing.get(drawing);
    return (mark && keyAt(from, mark)) ?? [];
  });
  if (wanted.length === 0) return { refusal: 'No picture in this lane has a mark. Mark the mouth on one of them first.' };
  // Where the pictures end the mouth is back in its own place.
  const end = shown.at(-1)!.to;
  const last =
    end < sceneSettings(scene).lengthFrames && !keys.some(({ frame }) => frame === end)
      ? keyAt(end, { x: 0, y: 0, pencil: true })
      : undefined;
  const touched = new Set(wanted.map(({ id }) => id));
  const [first] = shown;
  // What was followed before and is not any more.
  const stale = keys.filter(({ id, frame, pencil }) => pencil && !touched.has(id) && frame >= first!.from && frame < end);
  return {
    id: newId(),
    reason: 'place.follow',
    ops: [...stale.map((key) => put('places', key, null)), ...wanted, ...(last ? [last] : [])],
  };
}
