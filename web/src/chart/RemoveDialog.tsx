/** Removing a drawing that scenes show: says where, and offers another in its place. */
import { drawingForGroup, removeDrawing } from '@zest-jaw/core';
import { useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Modal } from '../ui/Modal.js';
import { MouthGrid } from './MouthGrid.js';
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
      <MouthGrid label="In its place" chart={chart} drawings={others} chosen={new Set([by])} single onChoose={setBy} />
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Keep “{drawing.label}”</Button>
        <Button weight="grave" disabled={busy || by === ''} onClick={() => void replace()}>
          Put the other in its place and remove it
        </Button>
      </div>
    </Modal>
  );
}
