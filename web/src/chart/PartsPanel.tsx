/** The further parts of a face: what is on the head beside the mouth, where, how deep, and the chart of each. */
import { partsOfHead, PART_LIMITS, type ChartHead, type HeadPart, type MouthPlace } from '@zest-jaw/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactElement } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { useFaceCharts } from '../mouth/faceChartsContext.js';
import { Slider } from '../ui/Slider.js';
import { useOpenChart } from './openChart.js';

const SMALL = 'rounded-full border border-rule bg-lift px-3 py-0.5 text-[14px] hover:border-graphite disabled:opacity-50';

interface PartsPanelProps {
  readonly head: ChartHead;
  readonly onChange: (head: ChartHead) => void;
}

interface OnePartProps extends PartsPanelProps {
  readonly part: HeadPart;
}

/** One part: its place on what carries it, its depth, and what it follows. */
function OnePart({ head, part, onChange }: OnePartProps): ReactElement {
  const parts = partsOfHead(head);
  const set = (changes: Partial<HeadPart>): void =>
    onChange({ ...head, parts: parts.map((one) => (one.id === part.id ? { ...one, ...changes } : one)) });
  const move = (changes: Partial<MouthPlace>): void => set({ at: { ...part.at, ...changes } });
  const follow = (id: string): void => {
    const { follows: _, ...rest } = part;
    onChange({ ...head, parts: parts.map((one) => (one.id === part.id ? (id === '' ? rest : { ...rest, follows: id }) : one)) });
  };
  const { name, at, order } = part;
  // On another part its place is in that part's own, smaller units.
  const [across, down] = part.follows === undefined ? [head.width, head.height] : [200, 200];
  const least = part.follows === undefined ? 0 : -200;
  return (
    <div className="flex flex-col gap-0.5">
      <Slider label="Across" value={at.x} least={least} most={across} step={0.5} onChange={(x) => move({ x })} />
      <Slider label="Down" value={at.y} least={least} most={down} step={0.5} onChange={(y) => move({ y })} />
      <Slider
        label="Size"
        value={at.scale}
        least={0.05}
        most={Math.max(2, head.width * 0.012)}
        step={0.01}
        onChange={(scale) => move({ scale })}
      />
      <Slider label="Turn" value={at.angle} least={-45} most={45} step={0.5} onChange={(angle) => move({ angle })} />
      <Slider
        label="With the jaw"
        value={part.jaw ?? 0}
        least={-Math.round(down * 0.2)}
        most={Math.round(down * 0.2)}
        step={0.5}
        onChange={(jaw) => set({ jaw })}
      />
      <Slider label="Depth" value={order} least={-20} most={60} step={1} onChange={(depth) => set({ order: depth })} />
      <div className="mt-1 flex flex-wrap items-center gap-2 text-[14px]">
        <label className="flex items-center gap-2 text-ink-soft">
          Moves with
          <select
            className="field py-0.5!"
            aria-label={`What ${name} moves with`}
            value={part.follows ?? ''}
            onChange={({ target }) => follow(target.value)}
          >
            <option value="">the head</option>
            {parts
              .filter(({ id, follows }) => id !== part.id && follows !== part.id)
              .map((other) => (
                <option key={other.id} value={other.id}>
                  {other.name.toLowerCase()}
                </option>
              ))}
          </select>
        </label>
        <button
          type="button"
          className={SMALL}
          onClick={() => {
            const left = parts.filter(({ id }) => id !== part.id);
            // What it carried is on the head again.
            onChange({
              ...head,
              parts: left.map(({ follows, ...one }) => (follows === undefined || follows === part.id ? one : { ...one, follows })),
            });
          }}
        >
          Take {name.toLowerCase()} away
        </button>
      </div>
    </div>
  );
}

export function PartsPanel({ head, onChange }: PartsPanelProps): ReactElement {
  const { chartId, session } = useOpenChart();
  const charts = useFaceCharts();
  const client = useQueryClient();
  const [open, setOpen] = useState<string>();
  const [name, setName] = useState('');
  const parts = partsOfHead(head);
  const { poses = [] } = head;
  const add = useMutation({
    mutationFn: async (body: { readonly name?: string }) => {
      await session.flush();
      return sendJson<{ charts: string[] }>('POST', `/charts/${chartId}/parts`, body);
    },
    onSuccess: async () => {
      setName('');
      await client.invalidateQueries({ queryKey: ['charts'] });
      await session.refresh();
    },
    onError: (error) => void toast.error(sentenceOf(error)),
  });
  return (
    <fieldset className="min-w-0" data-testid="parts">
      <legend className="mb-0.5 font-semibold">Parts of the face</legend>
      <p className="mb-1.5 text-[14px] leading-snug text-ink-soft">
        Brows, lids, eyes, a hand: whatever is changed beside the mouth, on a chart of its own and a lane of its own.
      </p>
      <ul className="mb-2 flex flex-col gap-1">
        {parts.map((part) => (
          <li key={part.id} className="rounded-lg border border-rule-soft px-2 py-1">
            <div className="flex items-baseline gap-2">
              <button
                type="button"
                aria-expanded={open === part.id}
                className="flex-1 text-left font-semibold hover:underline"
                onClick={() => setOpen(open === part.id ? undefined : part.id)}
              >
                {part.name}
              </button>
              <span className="text-[13px] text-ink-soft">
                {charts.get(part.chartId) ? `${charts.get(part.chartId)!.drawings.length} drawings` : 'its chart is gone'}
              </span>
              <Link className="text-[14px] underline underline-offset-2 hover:text-ink" to={`/charts/${part.chartId}`}>
                Draw<span className="sr-only"> {part.name}</span>
              </Link>
            </div>
            {open === part.id && <OnePart head={head} part={part} onChange={onChange} />}
          </li>
        ))}
      </ul>
      {poses.length > 0 && (
        <p className="mb-2 flex flex-wrap items-center gap-1.5 text-[14px]">
          <span className="text-ink-soft">Poses</span>
          {poses.map((pose) => (
            <button
              key={pose.id}
              type="button"
              className={SMALL}
              aria-label={`Forget the pose ${pose.name}`}
              title="Forget it"
              onClick={() => onChange({ ...head, poses: poses.filter(({ id }) => id !== pose.id) })}
            >
              {pose.name} ×
            </button>
          ))}
        </p>
      )}
      <div className="flex flex-wrap gap-1.5">
        <button type="button" className={SMALL} disabled={add.isPending} onClick={() => add.mutate({})}>
          {add.isPending ? 'Being made…' : 'Add brows, lids and eyes'}
        </button>
        <form
          className="flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault();
            if (name.trim() !== '') add.mutate({ name: name.trim() });
          }}
        >
          <input
            className="field w-[120px] py-0.5! text-[14px]"
            aria-label="Name of another part"
            placeholder="Left hand"
            value={name}
            maxLength={PART_LIMITS.nameLetters}
            onChange={({ target }) => setName(target.value)}
          />
          <button type="submit" className={SMALL} disabled={add.isPending || name.trim() === ''}>
            Add
          </button>
        </form>
      </div>
    </fieldset>
  );
}
