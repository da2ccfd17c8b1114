/** What the pointer does on a sheet, lying or upright: takes hold, scrubs, selects, points for the menu. */
import { useCallback, useEffect, useMemo, useRef, useState, type MouseEvent, type PointerEvent } from 'react';
import type { Playhead } from '../sound/playhead.js';
import type { Hit } from './plan.js';

/** Something of the sheet held by the pointer: moved live, then put down, or given up. */
export interface Hold {
  move(hit: Hit): void;
  end(): void;
  cancel(): void;
}

/** How a press was meant, beside where it was. */
export interface Press {
  /** Ctrl, or the command key. */
  readonly ctrl: boolean;
  readonly alt: boolean;
}

/** What can be taken hold of, by where it lies. */
export interface Holds {
  /** What a press takes hold of; undefined where it takes hold of nothing, and scrubs. */
  takeHold(hit: Hit, press: Press): Hold | undefined;
  /** The pointer's shape over it. */
  cursor(hit: Hit): string | undefined;
  /** Pressed twice: opens what lies there; answers whether it did. */
  open?(hit: Hit): boolean;
}

/** Frames picked out by dragging with Shift, from the frame pressed. */
function selecting(playhead: Playhead, first: number): Hold {
  playhead.select({ from: first, to: first + 1 });
  return {
    move: ({ frame }) => {
      playhead.select({ from: Math.min(first, frame), to: Math.max(first, frame) + 1 });
    },
    end: () => undefined,
    cancel: () => playhead.select(null),
  };
}

export interface SheetPointer {
  readonly cursor: string | undefined;
  readonly onPointerDown: (event: PointerEvent<HTMLDivElement>) => void;
  readonly onPointerMove: (event: PointerEvent<HTMLDivElement>) => void;
  readonly onPointerUp: () => void;
  readonly onPointerCancel: () => void;
  readonly onDoubleClick: (event: MouseEvent<HTMLDivElement>) => void;
  readonly onContextMenu: (event: MouseEvent<HTMLDivElement>) => void;
}

interface SheetPointerOptions {
  readonly playhead: Playhead;
  readonly holds: Holds | undefined;
  /** What lies under a point, in pixels from the corner of what is pressed. */
  readonly hitAt: (x: number, y: number) => Hit | undefined;
  /** Told when something is taken hold of, and when it is let go. */
  readonly onHeld: (isHeld: boolean) => void;
  /** The right button points at something. */
  readonly onPoint?: ((hit: Hit) => void) | undefined;
}

export function useSheetPointer({ playhead, holds, hitAt, onHeld, onPoint }: SheetPointerOptions): SheetPointer {
  const held = useRef<Hold | undefined>(undefined);
  const [cursor, setCursor] = useState<string>();
  const hitOf = (event: MouseEvent<HTMLDivElement>): Hit | undefined => {
    const bounds = event.currentTarget.getBoundingClientRect();
    return hitAt(event.clientX - bounds.left, event.clientY - bounds.top);
  };
  const scrubbing = (): Hold => ({
    move: ({ frame }) => {
      if (frame !== playhead.store.getState().frame) playhead.scrubTo(frame);
    },
    end: () => undefined,
    cancel: () => undefined,
  });
  const letGo = useCallback(
    (how: 'end' | 'cancel'): void => {
      held.current?.[how]();
      held.current = undefined;
      onHeld(false);
    },
    [onHeld],
  );
  const giveUp = useCallback(() => letGo('cancel'), [letGo]);
  // Escape gives up what is held, before the page takes it for its own key.
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.code !== 'Escape' || !held.current) return;
      event.preventDefault();
      giveUp();
    };
    window.addEventListener('keydown', onKey, { capture: true });
    return () => window.removeEventListener('keydown', onKey, { capture: true });
  }, [giveUp]);
  return {
    cursor,
    onPointerDown: (event) => {
      const hit = hitOf(event);
      if (event.button !== 0 || !hit) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      if (event.shiftKey) held.current = selecting(playhead, hit.frame);
      else {
        held.current = holds?.takeHold(hit, { ctrl: event.ctrlKey || event.metaKey, alt: event.altKey });
        if (held.current) {
          onHeld(true);
          return;
        }
        held.current = scrubbing();
        playhead.select(null);
        if (hit.frame !== playhead.store.getState().frame) playhead.scrubTo(hit.frame);
      }
    },
    onPointerMove: (event) => {
      const hit = hitOf(event);
      if (!hit) return;
      if (held.current) held.current.move(hit);
      else setCursor(holds?.cursor(hit));
    },
    onPointerUp: () => letGo('end'),
    onPointerCancel: giveUp,
    onDoubleClick: (event) => {
      const hit = hitOf(event);
      if (hit) holds?.open?.(hit);
    },
    // The right button points at a frame; what is selected stays when it points into that.
    onContextMenu: (event) => {
      const hit = hitOf(event);
      if (!hit) return;
      onPoint?.(hit);
      const { selection } = playhead.store.getState();
      if (selection && hit.frame >= selection.from && hit.frame < selection.to) return;
      playhead.select(null);
      playhead.moveTo(hit.frame);
    },
  };
}

/** What can be taken hold of, of several kinds: the first that answers. */
export function useFirstOf(...kinds: readonly (Holds | undefined)[]): Holds {
  const all = useRef(kinds);
  useEffect(() => {
    all.current = kinds;
  });
  return useMemo(() => {
    const first = <T>(of: (holds: Holds) => T | undefined): T | undefined => {
      for (const holds of all.current) {
        const found = holds && of(holds);
        if (found !== undefined) return found;
      }
      return undefined;
    };
    return {
      cursor: (hit) => first((holds) => holds.cursor(hit)),
      takeHold: (hit, press) => first((holds) => holds.takeHold(hit, press)),
      open: (hit) => all.current.some((holds) => holds?.open?.(hit) === true),
    };
  }, []);
}
