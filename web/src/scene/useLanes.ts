/** The lanes of a scene: which is worked on, and what may be done to those of the parts of a face. */
import {
  addPartLane,
  addPictures,
  isRefusal,
  maybePartLane,
  nameOfLane,
  partsOfHead,
  removePartLane,
  setBlend,
  setBoil,
  setLaneState,
  type HeadPart,
  type LaneState,
  type Track,
  USUAL_PICTURES,
} from '@zest-jaw/core';
import { newId } from '../session/newId.js';
import { useOpenScene, useSceneDocument, useSpeaker } from './sceneContext.js';
import { useMouthOfFace } from './useMouthOfFace.js';

export interface Lanes {
  readonly lanes: readonly (readonly [lane: Track, name: string])[];
  readonly current: Track;
  /** Parts of the face that have no lane yet. */
  readonly missing: readonly HeadPart[];
  /** Some lane of the face shows pictures of a head. */
  readonly hasPictures: boolean;
  show(id: string): void;
  /** The next one, or the one before; round and round. */
  step(by: 1 | -1): void;
  add(part: HeadPart): void;
  remove(lane: Track): void;
  /** Hides, mutes, folds or locks it, or takes that back. */
  turn(lane: Track, state: LaneState): void;
  /** How much its lines live while a drawing is held; null for not at all. */
  boil(lane: Track, strength: number | null): void;
  /** Frames over which a mouth comes in; null where it cuts. */
  blend(lane: Track, frames: number | null): void;
}

export function useLanes(): Lanes {
  const { characters, session, showTrack } = useOpenScene();
  const { track, allCharts } = useSpeaker();
  const document = useSceneDocument();
  const { tracks } = document;
  const { mouth, head } = useMouthOfFace();
  const nameOf = (lane: Track): string => nameOfLane(lane, characters.find(({ id }) => id === lane.characterId)?.name ?? 'Somebody');
  return {
    lanes: tracks.map((lane) => [lane, nameOf(lane)] as const),
    current: track,
    missing: partsOfHead(head).filter(({ name, chartId }) => allCharts.has(chartId) && !maybePartLane(document, mouth.characterId, name)),
    hasPictures: partsOfHead(head).some(({ name, role }) => role && maybePartLane(document, mouth.characterId, name)),
    show: showTrack,
    step: (by) => {
      const at = tracks.findIndex(({ id }) => id === track.id);
      showTrack(tracks[(at + by + tracks.length) % tracks.length]!.id);
    },
    add: (part) => {
      const now = session.store.getState().document;
      const chart = allCharts.get(part.chartId)!;
      const patch = part.role
        ? addPictures(now, { mouth: mouth.id, part, chart }, USUAL_PICTURES, newId)
        : addPartLane(now, { mouth: mouth.id, part }, chart, newId);
      session.change(patch);
      const made = isRefusal(patch) ? undefined : patch.ops.find((op) => op.op === 'put' && op.table === 'tracks');
      if (made && made.op === 'put') showTrack(made.id);
    },
    remove: (lane) => session.change(removePartLane(session.store.getState().document, lane.id, newId)),
    turn: (lane, state) =>
      session.change(setLaneState(session.store.getState().document, { track: lane.id, state, on: !lane[state] }, newId)),
    blend: (lane, frames) => session.change(setBlend(session.store.getState().document, lane.id, frames, newId)),
    boil: (lane, strength) => session.change(setBoil(session.store.getState().document, lane.id, strength, newId)),
  };
}
