/** Copies the drawing on the desk into others, to start them from it. */
import { copyIntoOthers } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { useOpenChart } from './openChart.js';

export function CopyIntoDialog({ onClose }: { onClose: () => void }): ReactElement {
  const { chart, drawing, change } = useOpenChart();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const toggle = (id: string): void => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  const others = chart.drawings.filter((other) => other.id !== drawing.id);
  return (
    <Modal
      open
      wide
      title={`Copy “${drawing.label}” into others`}
      description="They keep their names, keys and what they play, and look like this one until you change them."
      onClose={onClose}
    >
      <div className="mt-4 grid max-h-[50vh] grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-2 overflow-y-auto p-1">
        {others.map((other) => (
          <button
            key={other.id}
            type="button"
            aria-pressed={chosen.has(other.id)}
            onClick={() => toggle(other.id)}
            className="flex flex-col items-center rounded-xl border border-rule bg-ground p-2 text-[#1e2a44] aria-pressed:border-zest aria-pressed:ring-2 aria-pressed:ring-zest-soft"
          >
            <Mouth chart={chart} drawing={other} className="h-[54px]" />
            <span className="name text-[15px]">{other.label}</span>
          </button>
        ))}
      </div>
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          weight="main"
          disabled={chosen.size === 0}
          onClick={() => change((now) => copyIntoOthers(now, drawing.id, [...chosen], newId)) && onClose()}
        >
          {chosen.size === 0 ? 'Copy' : `Copy into ${chosen.size}`}
        </Button>
      </div>
    </Modal>
  );
}
