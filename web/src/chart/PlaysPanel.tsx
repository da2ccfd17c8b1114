/** The sound groups a drawing plays: one drawing a group, so a group chosen here leaves the drawing that had it. */
import { setDrawing, type Drawing } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';

export function PlaysPanel({ drawing }: { drawing: Drawing }): ReactElement {
  const { chart, chartSession } = useOpenScene();
  const toggle = (group: string): void => {
    const groups = drawing.groups.includes(group) ? drawing.groups.filter((other) => other !== group) : [...drawing.groups, group];
    chartSession.change(setDrawing(chartSession.store.getState().document, drawing.id, { groups }, newId));
  };
  return (
    <fieldset>
      <legend className="name mb-1.5 text-[19px]">Plays</legend>
      <div className="flex flex-wrap gap-1.5">
        {chart.groups.map((group) => (
          <button
            key={group.id}
            type="button"
            aria-pressed={drawing.groups.includes(group.id)}
            title={`${group.look}${group.must ? '; must be seen' : ''}`}
            onClick={() => toggle(group.id)}
            className="rounded-full border border-rule bg-lift px-2.5 py-0.5 text-[14px] text-ink-soft aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-on-ink"
          >
            {group.name}
          </button>
        ))}
      </div>
    </fieldset>
  );
}
