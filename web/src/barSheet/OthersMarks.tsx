/** The playheads of the others on the sheet: a dashed line each, with its name at the foot, below what one reads. */
import type { ReactElement } from 'react';
import { nameOfOther, useOthers } from '../room/useOthers.js';
import { systemOfFrame, type BarSheetPlan } from './plan.js';

export function OthersMarks({ plan }: { plan: BarSheetPlan }): ReactElement {
  const others = useOthers();
  return (
    <>
      {others.map((other) => {
        const system = other.frame === null ? undefined : systemOfFrame(plan, other.frame);
        if (!system) return null;
        const { perFrame } = system.scale;
        return (
          <div
            key={other.id}
            data-testid="other-playhead"
            className="pointer-events-none absolute left-0 top-0 border-l-2 border-dashed border-ink-soft transition-transform duration-100 ease-linear motion-reduce:transition-none"
            style={{
              height: plan.systemHeight,
              transform: `translate(${system.scale.x(other.frame!) + perFrame / 2 - 1}px, ${system.top}px)`,
            }}
          >
            <span className="absolute bottom-0 left-0 max-w-[110px] truncate whitespace-nowrap rounded-tr-[5px] bg-ink-soft px-1.5 text-[11px] font-semibold leading-[16px] text-sheet">
              {nameOfOther(other)}
            </span>
          </div>
        );
      })}
    </>
  );
}
