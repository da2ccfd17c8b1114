/** Mouths to choose from: one of them, or any number. */
import type { ChartDocument, Drawing } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';

interface MouthGridProps {
  readonly label: string;
  readonly chart: ChartDocument;
  readonly drawings: readonly Drawing[];
  readonly chosen: ReadonlySet<string>;
  /** One at a time. */
  readonly single: boolean;
  readonly onChoose: (id: string) => void;
}

export function MouthGrid({ label, chart, drawings, chosen, single, onChoose }: MouthGridProps): ReactElement {
  return (
    <div
      className="mt-4 grid max-h-[50vh] grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-2 overflow-y-auto p-1"
      role={single ? 'radiogroup' : 'group'}
      aria-label={label}
    >
      {drawings.map((drawing) => {
        const isChosen = chosen.has(drawing.id);
        return (
          <button
            key={drawing.id}
            type="button"
            {...(single ? { role: 'radio', 'aria-checked': isChosen } : { 'aria-pressed': isChosen })}
            data-chosen={isChosen}
            onClick={() => onChoose(drawing.id)}
            className="flex flex-col items-center rounded-xl border border-rule bg-ground p-2 text-[#1e2a44] data-[chosen=true]:border-zest data-[chosen=true]:ring-2 data-[chosen=true]:ring-zest-soft"
          >
            <Mouth chart={chart} drawing={drawing} className="h-[54px]" />
            <span className="name text-[15px]">{drawing.label}</span>
          </button>
        );
      })}
    </div>
  );
}
