/** Removing a drawing that scenes show: says where, and offers another in its place. */
import { drawingForGroup, removeDrawing } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { Mouth } from '../mouth/Mouth.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { useOpenChart } from './openChart.js';
import { useSceneOfChart } from './sceneOfChart.js';

export function RemoveDialog({ scenes, onClose }: { scenes: readonly string[]; onClose: () => void }): ReactElement {
  const { chart, chartId, session, drawing, change, choose } = useOpenChart();
  const scene = useSceneOfChart();
  const others = chart.drawings.filter((other) => other.id !== drawing.id);
  const nearest = drawing.groups[0] && others.length > 0 ? drawingForGroup({ ...chart, drawings: others }, drawing.groups[0]) : others[0];
  const [by, setBy] = useState(nearest?.id ?? '');
  const [busy, setBusy] = useState(false);
  const replace = async (): Promise<void> => {
    setBusy(true);
    try {
      await Promise.all([session.flush(), scene?.session.flush()]);
      await sendJson('POST', `/charts/${chartId}/replacements`, { drawing: drawing.id, by });
      // The open scene is one of those that were changed, or may be.
      await scene?.session.refresh();
      if (change((now) => removeDrawing(now, drawing.id, newId))) choose(by);
      onClose();
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const where = scenes.map((title) => `“${title}”`).join(', ');
  return (
    <Modal
      open
      wide
      title={`“${drawing.label}” is in use`}
      description={`It is shown in ${where}. Choose the mouth that takes its place there; ink stays ink.`}
      onClose={onClose}
    >
      <div
        className="mt-4 grid max-h-[50vh] grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-2 overflow-y-auto p-1"
        role="radiogroup"
        aria-label="In its place"
      >
        {others.map((other) => (
          <button
            key={other.id}
            type="button"
            role="radio"
            aria-checked={by === other.id}
            onClick={() => setBy(other.id)}
            className="flex flex-col items-center rounded-xl border border-rule bg-ground p-2 text-[#1e2a44] aria-checked:border-zest aria-checked:ring-2 aria-checked:ring-zest-soft"
          >
            <Mouth chart={chart} drawing={other} className="h-[54px]" />
            <span className="name text-[15px]">{other.label}</span>
          </button>
        ))}
      </div>
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Keep “{drawing.label}”</Button>
        <Button weight="grave" disabled={busy || by === ''} onClick={() => void replace()}>
          Put the other in its place and remove it
        </Button>
      </div>
    </Modal>
  );
}
