/** The charts of a character with more than one: from the playhead on, the mouths are on the one pressed. */
import { chartSettings, chartStretchAt, frameNumber, isPartChart, switchChart } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { Toggle } from '../ui/Toggle.js';

/** The chart that the track begins with goes first. */
function first<T>(charts: readonly (readonly [string, T])[], id: string): readonly (readonly [string, T])[] {
  return [...charts].sort(([a], [b]) => Number(b === id) - Number(a === id));
}

export function ViewSwitch(): ReactElement | null {
  const { session, playhead } = useOpenScene();
  const document = useSceneDocument();
  const { charts: all, chartId, character, track } = useSpeaker();
  const charts = new Map([...all].filter(([, chart]) => !isPartChart(chart)));
  if (charts.size < 2 || track.kind === 'part') return null;
  const change = (to: string): void => {
    const now = session.store.getState().document;
    const { frame } = playhead.store.getState();
    session.change(switchChart(now, { track: track.id, frame, chartId: to }, charts, newId));
  };
  const stretch = chartStretchAt(document, track.id, playhead.store.getState().frame);
  const where = stretch ? `frames ${frameNumber(document, stretch.from)} to ${frameNumber(document, stretch.to - 1)}` : '';
  return (
    <div className="flex shrink-0 flex-wrap items-center gap-1" role="group" aria-label="Chart from the playhead on">
      {first([...charts], track.chartId).map(([id, chart]) => {
        const name = chartSettings(chart).name.replace(`${character.name}, `, '');
        return (
          <Toggle
            key={id}
            on={id === chartId}
            title={id === chartId ? `In use for ${where}` : `Go over to ${name} at the playhead`}
            onToggle={() => id !== chartId && change(id)}
            className="px-2.5! py-px!"
          >
            {name}
          </Toggle>
        );
      })}
    </div>
  );
}
