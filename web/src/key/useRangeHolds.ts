/** The floor and the peak of a mouth keyed by loudness, dragged over the wave. */
import { fullRules, type LoudnessRange } from '@zest-jaw/core';
import { useMemo } from 'react';
import type { Holds } from '../barSheet/useSheetPointer.js';
import { heightOfLevel, levelAtHeight } from '../barSheet/paintWave.js';
import type { Hit } from '../barSheet/plan.js';
import type { Proposal } from '../trying/useProposal.js';

/** A press this near to a line takes hold of it, in pixels. */
const NEAR = 6;
/** The two lines stay so far apart, in decibels. */
const APART = 3;

type Line = keyof LoudnessRange;

/** A range with one of its lines at a level, as near to the other as it may come. */
export function clearOf({ floorDb, peakDb }: LoudnessRange, line: Line, level: number): LoudnessRange {
  return line === 'floorDb' ? { floorDb: Math.min(level, peakDb - APART), peakDb } : { floorDb, peakDb: Math.max(level, floorDb + APART) };
}

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
            propose({ ...full, ...clearOf(range, line, level) });
          },
          end: () => undefined,
          cancel: () => propose(full),
        };
      },
    };
  }, [range, rules, propose]);
}
