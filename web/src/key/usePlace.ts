/** Keys of place at the playhead, of what is moved: the lane's own drawings, or a mouth's whole head. */
import { maybePlaceAt, movePlace, placesOf, removePlace, setPlace, type PlaceEase, type PlaceKey, type PlaceValue } from '@zest-jaw/core';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';

/** Kept while the page is open. */
const chosen = createStore<{ readonly of: PlaceKey['of'] }>(() => ({ of: 'own' }));

export interface PlaceEdits {
  readonly of: PlaceKey['of'];
  readonly choose: (of: PlaceKey['of']) => void;
  /** Sets, or changes, the key at the playhead. */
  readonly set: (changes: Partial<PlaceValue>) => void;
  readonly remove: () => void;
  /** Moves the key at the playhead by frames, and the playhead with it. */
  readonly move: (by: 1 | -1) => void;
  /** Of the key at the playhead, else of the one before it. */
  readonly setEase: (ease: PlaceEase) => void;
  /** As it is seen at the playhead. */
  readonly now: () => PlaceValue | undefined;
}

export function usePlace(): PlaceEdits {
  const { session, playhead } = useOpenScene();
  const { track } = useSpeaker();
  const wanted = useStore(chosen, (state) => state.of);
  const of = track.kind === 'mouth' ? wanted : 'own';
  const what = { track: track.id, of };
  const sceneNow = (): ReturnType<typeof session.store.getState>['document'] => session.store.getState().document;
  const frameNow = (): number => playhead.store.getState().frame;
  return {
    of,
    choose: (next) => chosen.setState({ of: next }),
    set: (changes) => {
      playhead.stay();
      session.change(setPlace(sceneNow(), { ...what, frame: frameNow() }, changes, newId));
    },
    remove: () => session.change(removePlace(sceneNow(), { ...what, frame: frameNow() }, newId)),
    move: (by) => {
      const frame = frameNow();
      if (session.change(movePlace(sceneNow(), { ...what, frame, by }, newId))) playhead.moveTo(frame + by);
    },
    setEase: (ease) => {
      const keys = placesOf(sceneNow(), what);
      const of = keys.findLast((key) => key.frame <= frameNow());
      session.change(setPlace(sceneNow(), { ...what, frame: of?.frame ?? frameNow(), ease }, {}, newId));
    },
    now: () => maybePlaceAt(sceneNow(), what, frameNow()),
  };
}
