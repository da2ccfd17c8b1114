/** The sound groups a drawing plays: one drawing a group, so a group chosen here leaves the drawing that had it. */
import { setDrawing } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { newId } from '../session/documentSession.js';
import { useOpenChart } from './openChart.js';

export function PlaysPanel(): ReactElement {
  const { chart, drawing, change } = useOpenChart();
  const toggle = (group: string): void => {
    const groups = drawing.groups.includes(group) ? drawing.groups.filter((other) => other !== group) : [...drawing.groups, group];
    change((now) => setDrawing(now, drawing.id, { groups }, newId));
  };
  return (
    <fieldset>
      <legend className="name mb-1 text-[18px]">Plays</legend>
      <div className="flex flex-wrap gap-1">
        {chart.groups.map((group) => (
          <button
            key={group.id}
            type="button"
            aria-pressed={drawing.groups.includes(group.id)}
            title={`${group.look}${group.must ? '; must be seen' : ''}`}
            onClick={() => toggle(group.id)}
            className="rounded-full border border-rule bg-lift px-2 py-px text-[14px] text-ink-soft aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-on-ink"
          >
            {group.name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
