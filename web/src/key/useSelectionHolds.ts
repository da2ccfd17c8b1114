/**
 * What the pointer does to mouths beside dragging an edge: with Ctrl one more is chosen, with Alt
 * one is slid between its neighbours; what is selected is slid by its middle and retimed by its end.
 */
import {
  applyPatch,
  isRefusal,
  maybeExposureAt,
  patchBetween,
  retimeFrames,
  SCENE_KIND,
  slideFrames,
  slideMouth,
  type Patch,
  type Refusal,
  type SceneDocument,
  type Span,
} from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Hit } from '../barSheet/plan.js';
import type { Hold, Holds } from '../barSheet/useSheetPointer.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId, type DocumentSession } from '../session/documentSession.js';
import { chooseNone, toggleChosen } from './chosen.js';

/** A press this near to the end of the selection takes hold of it, in pixels. */
const NEAR = 7;

interface Drag {
  /** What comes of it where the pointer is; undefined leaves all as it was. */
  readonly make: (base: SceneDocument, hit: Hit) => Patch | Refusal | undefined;
  /** Told of what has been made. */
  readonly onMade?: (hit: Hit) => void;
  readonly onEnd: (isMoved: boolean) => void;
  readonly onCancel: () => void;
}

/** A drag each step of which is made of the scene as it was when it began: it can go there and back. */
function dragFrom(session: DocumentSession<SceneDocument>, { make, onMade, onEnd, onCancel }: Drag): Hold {
  const base = session.store.getState().document;
  const mark = session.mark();
  let moved = false;
  return {
    move: (hit) => {
      const patch = make(base, hit);
      if (patch && isRefusal(patch)) return;
      const now = session.store.getState().document;
      const exposures = patch ? applyPatch(SCENE_KIND, base, patch).exposures : base.exposures;
      const step = patchBetween(SCENE_KIND, now, { ...now, exposures }, { id: newId(), reason: patch?.reason ?? 'exposure.slide' });
      if (step.ops.length > 0) moved = session.change(step) || moved;
      onMade?.(hit);
    },
    end: () => {
      session.squash(mark);
      onEnd(moved);
    },
    cancel: () => {
      session.squash(mark);
      if (moved) session.undo();
      onCancel();
    },
  };
}

/** @param isOpen nothing is taken hold of while other mouths are only tried */
export function useSelectionHolds(isOpen: boolean): Holds | undefined {
  const { session, playhead, chosen } = useOpenScene();
  const { track, chart } = useSpeaker();
  const { exposures } = useSheet().data;
  return useMemo(() => {
    if (!isOpen) return undefined;
    const endOf = ({ row, position, perFrame }: Hit): Span | undefined => {
      const { selection } = playhead.store.getState();
      return row === 'mouth' && selection && Math.abs(position - selection.to) * perFrame <= NEAR ? selection : undefined;
    };
    const middleOf = ({ row, position }: Hit): Span | undefined => {
      const { selection } = playhead.store.getState();
      return row === 'mouth' && selection && position >= selection.from && position < selection.to ? selection : undefined;
    };
    const say = (said: string | undefined): void => chosen.setState({ said });
    const backTo = (selection: Span) => (): void => {
      say(undefined);
      playhead.select(selection);
    };
    const retiming = (selection: Span): Hold => {
      const framesAt = ({ position }: Hit): number => Math.max(1, Math.round(position) - selection.from);
      return dragFrom(session, {
        make: (base, hit) => {
          const frames = framesAt(hit);
          if (frames === selection.to - selection.from) return undefined;
          return retimeFrames(base, { track: track.id, ...selection, frames }, chart, newId);
        },
        onMade: (hit) => {
          const frames = framesAt(hit);
          const [was, share] = [selection.to - selection.from, Math.round((100 * frames) / (selection.to - selection.from))];
          say(`${was} → ${frames} frames, ${share} %`);
          playhead.select({ from: selection.from, to: selection.from + frames });
        },
        onEnd: () => say(undefined),
        onCancel: backTo(selection),
      });
    };
    const sliding = (selection: Span, pressed: Hit): Hold => {
      const byAt = ({ position }: Hit): number => Math.round(position - pressed.position);
      return dragFrom(session, {
        make: (base, hit) => {
          const by = byAt(hit);
          return by === 0 ? undefined : slideFrames(base, { track: track.id, ...selection, by }, newId);
        },
        onMade: (hit) => {
          const by = byAt(hit);
          say(by === 0 ? 'where it was' : `${Math.abs(by)} ${Math.abs(by) === 1 ? 'frame' : 'frames'} ${by > 0 ? 'later' : 'earlier'}`);
          playhead.select({ from: selection.from + by, to: selection.to + by });
        },
        onEnd: (isMoved) => {
          say(undefined);
          if (isMoved) return;
          // A press that moved nothing is a press: it goes there, and selects none.
          playhead.select(null);
          playhead.scrubTo(pressed.frame);
        },
        onCancel: backTo(selection),
      });
    };
    const slidingOne = (frame: number, pressed: Hit): Hold =>
      dragFrom(session, {
        make: (base, hit) => {
          const by = Math.round(hit.position - pressed.position);
          return by === 0 ? undefined : slideMouth(base, { track: track.id, frame, by }, newId);
        },
        onEnd: () => undefined,
        onCancel: () => undefined,
      });
    const choosing = (frame: number): Hold | undefined => {
      const there = maybeExposureAt(exposures, frame);
      if (!there) return undefined;
      toggleChosen(chosen, there.id);
      return { move: () => undefined, end: () => undefined, cancel: () => undefined };
    };
    return {
      cursor: (hit) => (endOf(hit) ? 'col-resize' : middleOf(hit) ? 'grab' : undefined),
      takeHold: (hit, { ctrl, alt }) => {
        if (ctrl) return hit.row === 'mouth' ? choosing(hit.frame) : undefined;
        chooseNone(chosen);
        const [end, middle] = [endOf(hit), middleOf(hit)];
        if (end) return retiming(end);
        if (middle) return sliding(middle, hit);
        return alt && hit.row === 'mouth' ? slidingOne(hit.frame, hit) : undefined;
      },
    };
  }, [isOpen, playhead, chosen, session, track.id, chart, exposures]);
}
