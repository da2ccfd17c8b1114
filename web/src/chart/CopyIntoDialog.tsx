/** Copies the drawing on the desk into others, to start them from it. */
import { copyIntoOthers } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { MouthGrid } from './MouthGrid.js';
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
      <MouthGrid label="Others" chart={chart} drawings={others} chosen={chosen} single={false} onChoose={toggle} />
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
