/** The chosen drawing's name, keycap and place in the chart. */
import { duplicateDrawing, KEYCAPS, moveDrawing, removeDrawing, setDrawing, type Drawing, type Patch, type Refusal } from '@zest-jaw/core';
import { ArrowLeft, ArrowRight, Copy, Trash2 } from 'lucide-react';
import { useState, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';

function Action({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }): ReactElement {
  return (
    <button
      type="button"
      title={label}
      aria-label={label}
      onClick={onClick}
      className="grid size-9 place-items-center rounded-full border border-rule bg-lift hover:border-graphite"
    >
      {children}
    </button>
  );
}

export function DrawingPanel({ drawing, onChoose }: { drawing: Drawing; onChoose: (id: string | undefined) => void }): ReactElement {
  const { chart, chartSession, track } = useOpenScene();
  // What is being typed; undefined when the field shows the document.
  const [label, setLabel] = useState<string>();
  const change = (make: (chartNow: typeof chart) => Patch | Refusal): boolean =>
    chartSession.change(make(chartSession.store.getState().document));
  const duplicate = (): void => {
    if (change((now) => duplicateDrawing(now, drawing.id, newId)))
      onChoose(chartSession.store.getState().document.drawings[chart.drawings.indexOf(drawing) + 1]?.id);
  };
  const remove = async (): Promise<void> => {
    try {
      const uses = await api<Record<string, string[]>>(`/charts/${track.chartId}/uses`);
      const scenes = uses[drawing.id] ?? [];
      if (scenes.length > 0) {
        toast.message(
          `“${drawing.label}” is shown in ${scenes.map((title) => `“${title}”`).join(', ')}. Put another mouth in its place there first.`,
        );
        return;
      }
      const index = chart.drawings.indexOf(drawing);
      const next = chart.drawings[index + 1] ?? chart.drawings[index - 1];
      if (change((now) => removeDrawing(now, drawing.id, newId))) onChoose(next?.id);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <div className="flex flex-col gap-3">
      <div className="flex items-end gap-2">
        <label className="flex min-w-0 flex-1 flex-col gap-1 text-[14px] font-semibold">
          Label
          <input
            className="field font-normal"
            value={label ?? drawing.label}
            maxLength={40}
            onChange={(event) => setLabel(event.target.value)}
            onBlur={() => {
              setLabel(undefined);
              if (label !== undefined && label !== drawing.label)
                change((now) => setDrawing(now, drawing.id, { label: label.trim() }, newId));
            }}
          />
        </label>
        <label className="flex flex-col gap-1 text-[14px] font-semibold">
          Keycap
          <select
            className="field font-normal"
            value={drawing.keycap}
            onChange={(event) => change((now) => setDrawing(now, drawing.id, { keycap: event.target.value }, newId))}
          >
            <option value="">none</option>
            {KEYCAPS.map((key) => (
              <option key={key}>{key}</option>
            ))}
          </select>
        </label>
      </div>
      <div className="flex gap-2">
        <Action label="Towards the front of the tray" onClick={() => change((now) => moveDrawing(now, drawing.id, -1, newId))}>
          <ArrowLeft size={16} />
        </Action>
        <Action label="Towards the back of the tray" onClick={() => change((now) => moveDrawing(now, drawing.id, 1, newId))}>
          <ArrowRight size={16} />
        </Action>
        <Action label="Copy into a new drawing" onClick={duplicate}>
          <Copy size={16} />
        </Action>
        <Action label="Remove this drawing" onClick={() => void remove()}>
          <Trash2 size={16} />
        </Action>
      </div>
    </div>
  );
}
