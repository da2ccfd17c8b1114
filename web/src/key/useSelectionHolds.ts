/**
 * What the pointer does to mouths beside dragging an edge: with Ctrl one more is chosen, with Alt
 * one is slid between its neighbours; what is selected is slid by its middle and retimed by its end.
 */
import { maybeExposureAt, retimeFrames, slideFrames, slideMouth, type Span } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Hit } from '../barSheet/plan.js';
import type { Hold, Holds } from '../barSheet/useSheetPointer.js';
import { useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { dragFrom } from '../scene/dragFrom.js';
import { newId } from '../session/newId.js';
import { chooseNone, toggleChosen } from './chosen.js';

/** A press this near to the end of the selection takes hold of it, in pixels. */
const NEAR = 7;

const TABLES = ['exposures'] as const;

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
        tables: TABLES,
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
        tables: TABLES,
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
        tables: TABLES,
        make: (base, hit) => {
          const by = Math.round(hit.position - pressed.position);
          return by === 0 ? undefined : slideMouth(base, { track: track.id, frame, by }, newId);
        },
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
