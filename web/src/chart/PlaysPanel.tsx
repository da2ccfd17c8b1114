/** The sound groups a drawing plays: one drawing a group, so a group chosen here leaves the drawing that had it. */
import { setDrawing } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { newId } from '../session/newId.js';
import { useOpenChart } from './openChart.js';
import { Toggle } from '../ui/Toggle.js';

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
          <Toggle
            key={group.id}
            on={drawing.groups.includes(group.id)}
            title={`${group.look}${group.must ? '; must be seen' : ''}`}
            onToggle={() => toggle(group.id)}
            className="px-2! py-px!"
          >
            {group.name}
          </Toggle>
        ))}
      </div>
    </fieldset>
  );
}
