/** What the drawing on the desk shows, against the rest of its chart. */
import { measureLook } from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';
import { useOpenChart } from './openChart.js';

function MeasureBar({ label, share }: { label: string; share: number }): ReactElement {
  const percent = Math.round(Math.max(0, Math.min(1, share)) * 100);
  return (
    <div
      className="flex items-center gap-2 text-[13px] text-ink-soft"
      role="meter"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={percent}
    >
      <span className="w-[58px]">{label}</span>
      <div className="h-1.5 flex-1 rounded-full bg-rule-soft">
        <div className="h-full rounded-full bg-ink-soft" style={{ width: `${percent}%` }} />
      </div>
    </div>
  );
}

export function MeasuresPanel(): ReactElement {
  const { chart, look } = useOpenChart();
  const most = useMemo(
    () =>
      chart.drawings
        .map(measureLook)
        .reduce((a, b) => ({ ...a, opening: Math.max(a.opening, b.opening), width: Math.max(a.width, b.width) })),
    [chart],
  );
  const { opening, width, teeth, darkness } = measureLook(look);
  return (
    <div className="space-y-1">
      <MeasureBar label="opening" share={most.opening > 0 ? opening / most.opening : 0} />
      <MeasureBar label="width" share={most.width > 0 ? width / most.width : 0} />
      <MeasureBar label="teeth" share={teeth} />
      <MeasureBar label="darkness" share={darkness} />
    </div>
  );
}
