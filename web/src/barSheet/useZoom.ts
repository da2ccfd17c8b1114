/** Zoom of the bar sheet by Ctrl and the wheel, or two fingers, and the playhead kept where it is on the page. */
import { useEffect, useEffectEvent, useLayoutEffect, useRef, type RefObject } from 'react';
import { looking, zoomed } from '../looking/looking.js';
import type { Playhead } from '../sound/playhead.js';
import { systemOfFrame, type BarSheetPlan } from './plan.js';

/** Shares per pixel of the wheel: a notch of a hundred shows a seventh fewer. */
const PER_PIXEL = 0.0015;

/** Frames that the rows of a sheet show at most. */
export function framesShown({ systems }: BarSheetPlan): number {
  return systems.reduce((most, { from, to }) => Math.max(most, to - from), 1);
}

/** What the sheet before the eye shows, for the keys that zoom it. */
let shownNow = 1;
export const framesInSight = (): number => shownNow;

const framesOf = ({ systems }: BarSheetPlan): number => systems.at(-1)?.to ?? 1;

export function useZoom(scroller: RefObject<HTMLElement | null>, plan: BarSheetPlan, playhead: Playhead): void {
  const { systems } = plan;
  /** Where the playhead was on the page before the rows were cut anew, and at what zoom. */
  const before = useRef<{ readonly perFrame: number; readonly systems: BarSheetPlan['systems'] }>(undefined);
  useLayoutEffect(() => {
    const last = before.current;
    const perFrame = systems[0]?.scale.perFrame ?? 1;
    before.current = { perFrame, systems };
    shownNow = framesShown(plan);
    const element = scroller.current;
    if (!last || !element || last.perFrame === perFrame) return;
    const { frame } = playhead.store.getState();
    const [was, is] = [systemOfFrame({ ...plan, systems: last.systems }, frame), systemOfFrame(plan, frame)];
    if (!was || !is) return;
    const offset = was.top - element.scrollTop;
    const isInSight = offset > -plan.systemHeight && offset < element.clientHeight;
    element.scrollTo({ top: is.top - (isInSight ? offset : element.clientHeight / 3) });
  }, [scroller, plan, systems, playhead]);

  const zoomBy = useEffectEvent((factor: number) => {
    looking.setState(({ zoom }) => ({ zoom: zoomed(zoom ?? framesShown(plan), factor, framesOf(plan)) }));
  });
  useEffect(() => {
    const element = scroller.current;
    if (!element) return undefined;
    let turned = 0;
    let asked = 0;
    // However fast the wheel turns, the rows are cut once a picture.
    const turn = (event: WheelEvent): void => {
      if (!event.ctrlKey && !event.metaKey) return;
      event.preventDefault();
      turned -= event.deltaY;
      asked ||= requestAnimationFrame(() => {
        zoomBy(Math.exp(turned * PER_PIXEL));
        turned = asked = 0;
      });
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => {
      element.removeEventListener('wheel', turn);
      cancelAnimationFrame(asked);
    };
  }, [scroller]);
}
