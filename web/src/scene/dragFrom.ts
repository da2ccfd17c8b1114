/** A drag each step of which is made of the scene as it was when it began: it can go there and back, and is one step of undo. */
import { applyPatch, isRefusal, patchBetween, SCENE_KIND, type Patch, type Refusal, type SceneDocument } from '@zest-jaw/core';
import type { Hit } from '../barSheet/plan.js';
import type { Hold } from '../barSheet/useSheetPointer.js';
import type { DocumentSession } from '../session/session.js';
import { newId } from '../session/newId.js';

interface Drag {
  /** What it changes: nothing else is put back to how it was. */
  readonly tables: readonly (keyof SceneDocument)[];
  /** What comes of it where the pointer is; undefined leaves all as it was. */
  readonly make: (base: SceneDocument, hit: Hit) => Patch | Refusal | undefined;
  /** Told of what has been made. */
  readonly onMade?: (hit: Hit) => void;
  readonly onEnd?: (isMoved: boolean) => void;
  readonly onCancel?: () => void;
}

export function dragFrom(session: DocumentSession<SceneDocument>, { tables, make, onMade, onEnd, onCancel }: Drag): Hold {
  const base = session.store.getState().document;
  const mark = session.mark();
  let moved = false;
  return {
    move: (hit) => {
      const patch = make(base, hit);
      if (patch && isRefusal(patch)) return;
      const now = session.store.getState().document;
      const then = patch ? applyPatch(SCENE_KIND, base, patch) : base;
      const wanted = tables.reduce<SceneDocument>((scene, table) => ({ ...scene, [table]: then[table] }), now);
      const step = patchBetween(SCENE_KIND, now, wanted, { id: newId(), reason: patch?.reason ?? 'exposure.slide' });
      if (step.ops.length > 0) moved = session.change(step) || moved;
      onMade?.(hit);
    },
    end: () => {
      session.squash(mark);
      onEnd?.(moved);
    },
    cancel: () => {
      session.squash(mark);
      if (moved) session.undo();
      onCancel?.();
    },
  };
}
