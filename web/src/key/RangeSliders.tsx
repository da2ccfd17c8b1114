/** The floor and the peak of a mouth keyed by loudness, as figures and by keyboard; over the wave they are dragged. */
import { RULE_LIMITS, type LoudnessRange } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { clearOf } from './useRangeHolds.js';

const LINES = [
  ['floorDb', 'Floor', 'Softer than this the mouth rests.'],
  ['peakDb', 'Peak', 'Louder than this it is as wide as it gets.'],
] as const;

export function RangeSliders({ range, onChange }: { range: LoudnessRange; onChange: (range: LoudnessRange) => void }): ReactElement {
  return (
    <>
      {LINES.map(([line, name, does]) => (
        <label key={line} className="block">
          <span className="flex items-baseline justify-between">
            <span className="font-semibold">{name}</span>
            <output className="text-[14px]">{Math.round(range[line])} dB</output>
          </span>
          <span className="block text-[13px] leading-tight text-ink-soft">{does}</span>
          <input
            type="range"
            aria-label={name}
            min={RULE_LIMITS[line].least}
            max={RULE_LIMITS[line].most}
            step={1}
            value={Math.round(range[line])}
            onChange={(event) => onChange(clearOf(range, line, Number(event.target.value)))}
            className="mt-1 w-full"
          />
        </label>
      ))}
    </>
  );
}
