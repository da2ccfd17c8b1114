/** What the pointer takes hold of in Listen: clips, slid and trimmed, and ear marks; each drag is one step of undo. */
import { moveEarMark, slideClip, trimClip, type Patch, type Refusal, type SceneDocument } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Hold, Holds } from '../barSheet/useSheetPointer.js';
import { maybeClipAt } from '../barSheet/clipLane.js';
import type { Hit } from '../barSheet/plan.js';
import { useOpenScene, useSheet } from '../scene/sceneContext.js';
import { useKeyAfter } from '../scene/useChangeAndKey.js';
import { newId } from '../session/newId.js';

/** Pixels around an ear mark's tick, and over its text, that take hold of it. */
const MARK_REACH = { before: 5, after: 30 } as const;

export function useListenHolds(onChooseClip: (clip: string) => void): Holds {
  const { session } = useOpenScene();
  const { data } = useSheet();
  const keyAfter = useKeyAfter();
  return useMemo(() => {
    /** A drag: live changes that give way to one another, keyed once at its end, or taken back. */
    const dragged = (change: (scene: SceneDocument, hit: Hit) => Patch | Refusal | undefined, keyed: boolean): Hold => {
      const mark = session.mark();
      const now = (): SceneDocument => session.store.getState().document;
      let moved = false;
      return {
        move: (hit) => {
          const patch = change(now(), hit);
          if (patch && session.change(patch)) moved = true;
        },
        end: () => {
          session.squash(mark);
          if (moved && keyed) keyAfter();
        },
        cancel: () => {
          session.squash(mark);
          if (moved) session.undo();
        },
      };
    };
    const markAt = ({ row, position, perFrame }: Hit) =>
      row === 'marks'
        ? data.marks.findLast(
            ({ frame }) => position >= frame - MARK_REACH.before / perFrame && position < frame + MARK_REACH.after / perFrame,
          )
        : undefined;
    const clipAt = ({ row, position, within, perFrame }: Hit) =>
      row === 'clips' ? maybeClipAt(data.clips, position, within, perFrame) : undefined;

    const takeHold = (hit: Hit): Hold | undefined => {
      const mark = markAt(hit);
      if (mark) {
        const away = hit.position - mark.frame;
        return dragged((scene, { position }) => {
          const current = scene.marks.find(({ id }) => id === mark.id);
          const to = Math.round(position - away);
          // Where another mark is it does not go; it waits beside it.
          const taken = scene.marks.some((other) => other.id !== mark.id && other.characterId === mark.characterId && other.frame === to);
          return !current || current.frame === to || taken || to < 0 ? undefined : moveEarMark(scene, mark.id, to, newId);
        }, false);
      }
      const held = clipAt(hit);
      if (!held) return undefined;
      const { clip, part } = held;
      onChooseClip(clip.id);
      const away = hit.position - clip.from;
      return dragged((scene, { position }) => {
        if (part === 'whole') return slideClip(scene, clip.id, Math.max(0, Math.round(position - away)), newId);
        return trimClip(scene, clip.id, part, Math.round(position), newId);
      }, true);
    };
    const cursor = (hit: Hit): string | undefined => {
      if (markAt(hit)) return 'ew-resize';
      const held = clipAt(hit);
      return held && (held.part === 'whole' ? 'grab' : 'ew-resize');
    };
    return { takeHold, cursor };
  }, [data, session, keyAfter, onChooseClip]);
}
