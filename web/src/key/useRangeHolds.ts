/** The floor and the peak of a mouth keyed by loudness, dragged over the wave. */
import { fullRules } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Holds } from '../barSheet/BarSheet.js';
import { heightOfLevel, levelAtHeight } from '../barSheet/paintSystem.js';
import type { Hit } from '../barSheet/plan.js';
import type { Proposal } from './useProposal.js';

/** A press this near to a line takes hold of it, in pixels. */
const NEAR = 6;
/** The two lines stay so far apart, in decibels. */
const APART = 3;

type Line = 'floorDb' | 'peakDb';

export function useRangeHolds({ rules, data, propose }: Proposal): Holds | undefined {
  const { range } = data;
  return useMemo(() => {
    if (!range) return undefined;
    const lineAt = ({ row, frame, within, rowHeight }: Hit): Line | undefined => {
      if (row !== 'wave' || frame < range.from || frame >= range.to) return undefined;
      const away = (line: Line): number => Math.abs(heightOfLevel({ name: 'wave', y: 0, height: rowHeight }, range[line]) - within);
      const nearest: Line = away('floorDb') < away('peakDb') ? 'floorDb' : 'peakDb';
      return away(nearest) <= NEAR ? nearest : undefined;
    };
    return {
      cursor: (hit) => (lineAt(hit) ? 'ns-resize' : undefined),
      takeHold: (hit) => {
        const line = lineAt(hit);
        if (!line) return undefined;
        const full = fullRules(rules);
        return {
          move: (now) => {
            if (now.row !== 'wave') return;
            const level = levelAtHeight({ name: 'wave', y: 0, height: now.rowHeight }, now.within);
            const next =
              line === 'floorDb'
                ? { floorDb: Math.min(level, range.peakDb - APART), peakDb: range.peakDb }
                : { floorDb: range.floorDb, peakDb: Math.max(level, range.floorDb + APART) };
            propose({ ...full, ...next });
          },
          end: () => undefined,
          cancel: () => propose(full),
        };
      },
    };
  }, [range, rules, propose]);
}
