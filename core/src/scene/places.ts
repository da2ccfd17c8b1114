/**
 * Where things are: places of a mouth, of another part of the face, or of the whole head, as keys over time, held or eased. They
 * are added to the place that the head's own record gives, so that a chart that is corrected later moves nothing that was
 * animated.
 */
import { putsOf, type Patch, type PutOp } from '../document/patch.js';
import { isRefusal, type IdSource, type Refusal } from '../document/refusal.js';
import { fullRules } from '../keying/rules.js';
import { frameNumber, sceneSettings, type PlaceEase, type PlaceKey, type SceneDocument, type Track } from './sceneDocument.js';

const put = putsOf<SceneDocument>();

export const PLACE_EASES: readonly PlaceEase[] = ['hold', 'even', 'in', 'out', 'both'];
export const PLACE_LIMITS = { offset: 5000, leastScale: 0.05, mostScale: 20, angle: 360, skew: 60 } as const;

/** What a place adds: offsets in the units of what carries it, a factor, degrees clockwise, degrees of skew, and mirrored. */
export type PlaceValue = Pick<PlaceKey, 'x' | 'y' | 'scale' | 'angle' | 'skew' | 'flip'>;

export const NO_PLACE: PlaceValue = { x: 0, y: 0, scale: 1, angle: 0, skew: 0, flip: false };

const isPlain = ({ x, y, scale, angle, skew, flip }: PlaceValue): boolean =>
  x === 0 && y === 0 && scale === 1 && angle === 0 && skew === 0 && !flip;

/** What moves: a lane's own, or the whole head with the mouth's lane. */
export interface PlaceOf {
  readonly track: string;
  readonly of: PlaceKey['of'];
}

const remembered = new WeakMap<readonly PlaceKey[], Map<string, readonly PlaceKey[]>>();

/** The keys of one of them, in order. Remembered per document. */
export function placesOf({ places }: Pick<SceneDocument, 'places'>, { track, of }: PlaceOf): readonly PlaceKey[] {
  if (places.length === 0) return places;
  let known = remembered.get(places);
  if (!known) remembered.set(places, (known = new Map()));
  const key = `${of} ${track}`;
  let found = known.get(key);
  if (!found) known.set(key, (found = places.filter((one) => one.track === track && one.of === of)));
  return found;
}

/** The share of the way at a share of the time: quadratic, and cubic for both (common practice, no source). */
function eased(ease: PlaceEase, time: number): number {
  if (ease === 'hold') return 0;
  if (ease === 'in') return 1 - (1 - time) ** 2;
  if (ease === 'out') return time ** 2;
  return ease === 'both' ? time ** 2 * (3 - 2 * time) : time;
}

/**
 * The place at a frame: the last key's, or on its way to the next one's. Undefined before the first, and where nothing is moved.
 *
 * @param hold frames: on twos a place changes on every second frame after its key
 */
export function maybePlaceAt(scene: Pick<SceneDocument, 'places'>, what: PlaceOf, frame: number, hold = 1): PlaceValue | undefined {
  const keys = placesOf(scene, what);
  let at = -1;
  while (at + 1 < keys.length && keys[at + 1]!.frame <= frame) at += 1;
  const [here, next] = [keys[at], keys[at + 1]];
  if (!here) return undefined;
  const since = Math.floor((frame - here.frame) / hold) * hold;
  const share = next ? eased(here.ease, since / (next.frame - here.frame)) : 0;
  const to = next ?? here;
  const between = (key: 'x' | 'y' | 'angle' | 'skew'): number => here[key] + (to[key] - here[key]) * share;
  const value: PlaceValue = {
    x: between('x'),
    y: between('y'),
    // A size goes from one to the other by the same factor each frame.
    scale: here.scale * (to.scale / here.scale) ** share,
    angle: between('angle'),
    skew: between('skew'),
    flip: here.flip,
  };
  return isPlain(value) ? undefined : value;
}

/** Frames that a lane's places are held: those of its drawings. */
export const holdOfPlaces = ({ rules }: Pick<Track, 'rules'>): number => fullRules(rules).holdFrames;

const inLimits = ({ x, y, scale, angle, skew }: PlaceValue): boolean =>
  [x, y].every((value) => Math.abs(value) <= PLACE_LIMITS.offset) &&
  scale >= PLACE_LIMITS.leastScale &&
  scale <= PLACE_LIMITS.mostScale &&
  Math.abs(angle) <= PLACE_LIMITS.angle &&
  Math.abs(skew) <= PLACE_LIMITS.skew;

/** Sets a key at a frame, or changes the one that is there; what is not said is as it is seen there. */
export function setPlace(
  scene: SceneDocument,
  { frame, ease, ...what }: PlaceOf & { readonly frame: number; readonly ease?: PlaceEase },
  changes: Partial<PlaceValue>,
  newId: IdSource,
): Patch | Refusal {
  const track = scene.tracks.find(({ id }) => id === what.track);
  if (!track) return { refusal: 'That lane is no longer in the scene.' };
  if (track.locked) return { refusal: 'This lane is locked. Unlock it in Lanes to move it.' };
  const { lengthFrames } = sceneSettings(scene);
  if (!Number.isInteger(frame) || frame < 0 || frame >= lengthFrames)
    return { refusal: `Frame ${frameNumber(scene, frame)} is outside the scene, which has ${lengthFrames} frames.` };
  const keys = placesOf(scene, what);
  const there = keys.find((key) => key.frame === frame);
  const before = keys.findLast((key) => key.frame < frame);
  const value = { ...(maybePlaceAt(scene, what, frame) ?? NO_PLACE), ...changes };
  if (!inLimits(value)) return { refusal: 'That is further than a part of a face can be moved. Take it back a little.' };
  const after: PlaceKey = {
    id: there?.id ?? newId(),
    track: what.track,
    of: what.of,
    frame,
    ...value,
    ease: ease ?? there?.ease ?? before?.ease ?? 'both',
  };
  return { id: newId(), reason: 'place.set', ops: [put('places', there ?? null, after)] };
}

/** Takes the key at a frame away. */
export function removePlace(
  scene: SceneDocument,
  { frame, ...what }: PlaceOf & { readonly frame: number },
  newId: IdSource,
): Patch | Refusal {
  const there = placesOf(scene, what).find((key) => key.frame === frame);
  if (!there) return { refusal: 'There is no key of its place at this frame.' };
  return { id: newId(), reason: 'place.remove', ops: [put('places', there, null)] };
}

/** Moves the key at a frame by so many frames, apart from what is exposed there. */
export function movePlace(
  scene: SceneDocument,
  { frame, by, ...what }: PlaceOf & { readonly frame: number; readonly by: number },
  newId: IdSource,
): Patch | Refusal {
  const keys = placesOf(scene, what);
  const there = keys.find((key) => key.frame === frame);
  if (!there) return { refusal: 'There is no key of its place at this frame.' };
  if (scene.tracks.find(({ id }) => id === what.track)?.locked) return { refusal: 'This lane is locked. Unlock it in Lanes to move it.' };
  const to = frame + by;
  const { lengthFrames } = sceneSettings(scene);
  if (to < 0 || to >= lengthFrames)
    return { refusal: `Frame ${frameNumber(scene, to)} is outside the scene, which has ${lengthFrames} frames.` };
  if (keys.some((key) => key.frame === to))
    return { refusal: `There is a key at frame ${frameNumber(scene, to)} already. Take one of them away.` };
  return { id: newId(), reason: 'place.move', ops: [put('places', there, { ...there, frame: to })] };
}

/** Moves all keys of a lane at a frame, of its own drawings and of the head, by so many frames, as `movePlace` does each. */
export function movePlacesAt(
  scene: SceneDocument,
  { track, frame, by }: { readonly track: string; readonly frame: number; readonly by: number },
  newId: IdSource,
): Patch | Refusal {
  const isThere = (of: PlaceKey['of']): boolean => placesOf(scene, { track, of }).some((key) => key.frame === frame);
  const moved = (of: PlaceKey['of']): Patch | Refusal => movePlace(scene, { track, of, frame, by }, newId);
  if (!isThere('own') || !isThere('head')) return moved(isThere('head') ? 'head' : 'own');
  const [own, head] = [moved('own'), moved('head')];
  if (isRefusal(own) || isRefusal(head)) return isRefusal(own) ? own : head;
  return { ...own, ops: [...own.ops, ...head.ops] };
}

/**
 * Keys moved with what their frames become; of two that come to one frame the first stays, and null takes one away.
 *
 * @param of whose; left out those of every lane
 */
export function movedPlaces(scene: Pick<SceneDocument, 'places'>, frameOf: (frame: number) => number | null, of?: PlaceOf): PutOp[] {
  const taken = new Set<string>();
  const keys = of ? placesOf(scene, of) : scene.places;
  return keys.flatMap((key) => {
    const frame = frameOf(key.frame);
    const place = `${key.of} ${key.track} ${frame}`;
    const after = frame === null || taken.has(place) ? null : { ...key, frame };
    taken.add(place);
    return after?.frame === key.frame ? [] : [put('places', key, after)];
  });
}

/** A change of a lane's drawings with the keys of its place moved along. */
export function withPlacesMoved(
  scene: SceneDocument,
  track: string,
  patch: Patch | Refusal,
  frameOf: (frame: number) => number | null,
): Patch | Refusal {
  if (isRefusal(patch)) return patch;
  const { lengthFrames } = sceneSettings(scene);
  const inScene = (frame: number): number | null => {
    const after = frameOf(frame);
    return after === null || after < 0 || after >= lengthFrames ? null : after;
  };
  return { ...patch, ops: [...patch.ops, ...movedPlaces(scene, inScene, { track, of: 'own' })] };
}

/** A place as an SVG transform, about the cross of what it moves. */
export function placeTransform({ x, y, scale, angle, skew, flip }: PlaceValue): string {
  const parts = [
    x !== 0 || y !== 0 ? `translate(${x} ${y})` : '',
    angle === 0 ? '' : `rotate(${angle})`,
    skew === 0 ? '' : `skewX(${skew})`,
    scale === 1 && !flip ? '' : `scale(${flip ? -scale : scale} ${scale})`,
  ];
  return parts.filter(Boolean).join(' ');
}
