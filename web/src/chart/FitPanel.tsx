/** A map proposed for the chart: what would change, what is lost by it, which drawing would help; taken or left. */
import { takeFit, type ChartDocument, type Patch, type Refusal } from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import type { ReactElement } from 'react';
import { sentenceOf } from '../api/http.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { fitInWorker } from '../workers/heavy.js';

interface FitPanelProps {
  readonly chart: ChartDocument;
  readonly change: (make: (chart: ChartDocument) => Patch | Refusal) => boolean;
  readonly onClose: () => void;
}

export function FitPanel({ chart, change, onClose }: FitPanelProps): ReactElement {
  const fixed = new Map(
    chart.groups
      .filter((group) => group.inked)
      .flatMap(({ id }) => {
        const own = chart.drawings.find((drawing) => drawing.groups.includes(id));
        return own ? [[id, own.id] as const] : [];
      }),
  );
  const fit = useQuery({
    queryKey: ['fit', chart.groups, chart.drawings.map(({ id, label, art, placement }) => [id, label, art, placement])],
    queryFn: () => fitInWorker(chart, fixed),
    gcTime: 0,
    staleTime: Infinity,
  });
  const label = (id: string): string => chart.drawings.find((drawing) => drawing.id === id)?.label ?? id;
  const groupName = (id: string): string => chart.groups.find((group) => group.id === id)?.name ?? id;
  const changes = (fit.data?.choices ?? []).filter(
    ({ group, drawing }) => !chart.drawings.find(({ id }) => id === drawing)?.groups.includes(group),
  );
  return (
    <section
      aria-label="Proposed map"
      className="flex shrink-0 flex-col gap-2 rounded-[14px] border border-zest bg-zest-soft px-3 py-2 text-[14px]"
    >
      {fit.isPending && <p>Fitting the drawings to the sounds…</p>}
      {fit.isError && <p className="text-bad">{sentenceOf(fit.error)}</p>}
      {fit.data && (
        <>
          <p role="status" className="font-semibold">
            {changes.length === 0
              ? 'No better map was found than the one there is.'
              : `${changes.length} of ${chart.groups.length} groups would be played by another drawing.`}
          </p>
          <div className="max-h-[190px] overflow-y-auto">
            <ul className="grid grid-cols-2 gap-x-3">
              {changes.map(({ group, drawing }) => (
                <li key={group}>
                  {groupName(group)} → <b className="font-semibold">{label(drawing)}</b>
                </li>
              ))}
            </ul>
            {fit.data.losses.length > 0 && <h3 className="mt-1.5 font-semibold">What is lost</h3>}
            <ul className="list-disc pl-4">
              {fit.data.losses.slice(0, 8).map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
            </ul>
            {fit.data.more && (
              <p className="mt-1.5">
                {`One more drawing would help most for ${groupName(fit.data.more.group)}: ${Math.round(100 * fit.data.more.saves)} % of what is lost.`}
              </p>
            )}
            {fit.data.idle.length > 0 && <p className="mt-1.5">{`Hardly needed: ${fit.data.idle.map(label).join(', ')}.`}</p>}
          </div>
          <div className="flex justify-end gap-2">
            <Button className="py-[3px]!" onClick={onClose}>
              Leave it
            </Button>
            <Button
              weight="main"
              className="py-[3px]!"
              disabled={changes.length === 0}
              onClick={() => {
                if (change((now) => takeFit(now, fit.data.choices, newId))) onClose();
              }}
            >
              Take it
            </Button>
          </div>
        </>
      )}
    </section>
  );
}
