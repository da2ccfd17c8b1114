/** The chosen drawing's name, keycap, tags, and what can be done with it as a whole. */
import { duplicateDrawing, KEYCAPS, MOST_NUMBER, moveDrawing, removeDrawing, setDrawing } from '@zest-jaw/core';
import { ArrowLeft, ArrowRight, Copy, CopyCheck, Trash2 } from 'lucide-react';
import { clsx } from 'clsx';
import { useState, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { newId } from '../session/newId.js';
import { CopyIntoDialog } from './CopyIntoDialog.js';
import { useOpenChart } from './openChart.js';
import { RemoveDialog } from './RemoveDialog.js';

function Action({ label, onClick, children }: { label: string; onClick: () => void; children: ReactNode }): ReactElement {
  return (
    <button
      type="button"
      title={label}
      aria-label={label}
      onClick={onClick}
      className="grid size-8 place-items-center rounded-full border border-rule bg-lift hover:border-graphite"
    >
      {children}
    </button>
  );
}

/** A text field that changes the document when it is left, or on Enter. */
function LateField({
  label,
  value,
  onCommit,
  placeholder,
  isShort = false,
}: {
  label: string;
  value: string;
  onCommit: (value: string) => void;
  placeholder?: string;
  /** A few digits. */
  isShort?: boolean;
}): ReactElement {
  // What is being typed; undefined when the field shows the document.
  const [typed, setTyped] = useState<string>();
  const commit = (): void => {
    setTyped(undefined);
    if (typed !== undefined && typed.trim() !== value) onCommit(typed.trim());
  };
  return (
    <label className={clsx('flex min-w-0 flex-col gap-0.5 text-[14px] font-semibold', isShort ? 'w-[58px] shrink-0' : 'flex-1')}>
      {label}
      <input
        className="field py-[5px]! font-normal"
        value={typed ?? value}
        maxLength={120}
        placeholder={placeholder}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
      />
    </label>
  );
}

export function DrawingPanel(): ReactElement {
  const { chart, chartId, session, drawing, change, choose } = useOpenChart();
  const [copying, setCopying] = useState(false);
  /** The titles of the scenes that show it, when it is to be removed all the same. */
  const [shownIn, setShownIn] = useState<readonly string[]>();
  const duplicate = (): void => {
    if (change((now) => duplicateDrawing(now, drawing.id, newId)))
      choose(session.store.getState().document.drawings[chart.drawings.indexOf(drawing) + 1]?.id);
  };
  const remove = async (): Promise<void> => {
    try {
      const uses = await api<Record<string, string[]>>(`/charts/${chartId}/uses`);
      const scenes = uses[drawing.id] ?? [];
      if (scenes.length > 0) {
        setShownIn(scenes);
        return;
      }
      const index = chart.drawings.indexOf(drawing);
      const next = chart.drawings[index + 1] ?? chart.drawings[index - 1];
      if (change((now) => removeDrawing(now, drawing.id, newId))) choose(next?.id);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  return (
    <section className="flex flex-col gap-2" aria-label="This drawing">
      <div className="flex items-end gap-2">
        <LateField
          label="No."
          isShort
          value={String(drawing.number)}
          onCommit={(text) => {
            if (/^\d+$/.test(text)) change((now) => setDrawing(now, drawing.id, { number: Number(text) }, newId));
            else toast.message(`“${text}” is no number of a mouth. It may be a whole number from 0 to ${MOST_NUMBER}.`);
          }}
        />
        <LateField
          label="Label"
          value={drawing.label}
          onCommit={(label) => change((now) => setDrawing(now, drawing.id, { label }, newId))}
        />
        <label className="flex w-[78px] flex-col gap-0.5 text-[14px] font-semibold">
          Keycap
          <select
            className="field px-2! py-[5px]! font-normal"
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
      <div className="flex items-end gap-1.5">
        <LateField
          label="Tags"
          value={drawing.tags.join(', ')}
          placeholder="angry, side"
          onCommit={(text) =>
            change((now) =>
              setDrawing(
                now,
                drawing.id,
                {
                  tags: [
                    ...new Set(
                      text
                        .split(',')
                        .map((tag) => tag.trim())
                        .filter(Boolean),
                    ),
                  ],
                },
                newId,
              ),
            )
          }
        />
      </div>
      <div className="flex gap-1.5">
        <Action label="Towards the front of the tray" onClick={() => change((now) => moveDrawing(now, drawing.id, -1, newId))}>
          <ArrowLeft size={15} />
        </Action>
        <Action label="Towards the back of the tray" onClick={() => change((now) => moveDrawing(now, drawing.id, 1, newId))}>
          <ArrowRight size={15} />
        </Action>
        <Action label="Copy into a new drawing" onClick={duplicate}>
          <Copy size={15} />
        </Action>
        <Action label="Copy into other drawings, to start them from this one" onClick={() => setCopying(true)}>
          <CopyCheck size={15} />
        </Action>
        <Action label="Remove this drawing" onClick={() => void remove()}>
          <Trash2 size={15} />
        </Action>
      </div>
      {copying && <CopyIntoDialog onClose={() => setCopying(false)} />}
      {shownIn && <RemoveDialog scenes={shownIn} onClose={() => setShownIn(undefined)} />}
    </section>
  );
}
