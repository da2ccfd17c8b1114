/** The drawings of a chart as cards in tray order: chosen with a click, ordered by dragging, laid under the desk by dropping them on it. */
import { isPartChart, ipaOf, measureLook, type ChartDocument, type Drawing } from '@zest-jaw/core';
import { SortableContext, rectSortingStrategy, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { clsx } from 'clsx';
import { memo, useMemo, type ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';

interface CardProps {
  readonly chart: ChartDocument;
  readonly drawing: Drawing;
  readonly isCurrent: boolean;
  /** Opening as a share of the chart's widest. */
  readonly open: number;
  readonly onChoose: (id: string) => void;
}

const Card = memo(function Card({ chart, drawing, isCurrent, open, onChoose }: CardProps): ReactElement {
  const groups = chart.groups.filter((group) => drawing.groups.includes(group.id));
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: drawing.id });
  // Silence is something a mouth plays too.
  const plays =
    groups.flatMap((group) => (group.phonemes.length > 0 ? group.phonemes.map(ipaOf) : ['silence'])).join(' ') ||
    (isPartChart(chart) ? '' : 'plays nothing');
  return (
    <button
      ref={setNodeRef}
      type="button"
      onClick={() => onChoose(drawing.id)}
      {...attributes}
      {...listeners}
      role="option"
      aria-selected={isCurrent}
      aria-roledescription="drawing"
      aria-label={`${drawing.number} ${drawing.label}`}
      data-drawing={drawing.id}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={clsx(
        'relative flex flex-col overflow-hidden rounded-xl border border-rule bg-ground px-2 pb-1.5 pt-1 text-left text-[#1e2a44] touch-none',
        isCurrent && 'border-zest ring-2 ring-zest-soft',
        isDragging && 'z-10 opacity-80 shadow-lg',
      )}
    >
      <span className="absolute left-2 top-1 text-[12px] text-on-ground">{drawing.number}</span>
      {drawing.keycap && <span className="keycap absolute right-2.5 top-1 text-[11px]!">{drawing.keycap}</span>}
      <Mouth chart={chart} drawing={drawing} className="mx-auto mt-3 h-[56px] w-full" />
      <span className="name truncate text-[15px] leading-tight">{drawing.label}</span>
      <span className="line-clamp-2 text-[12px] leading-snug text-on-ground" title={plays}>
        {plays}
      </span>
      <span
        className="absolute inset-y-2 right-1 w-[3px] overflow-hidden rounded-full bg-[#00000014]"
        title={`opening ${Math.round(open * 100)} %`}
      >
        <span className="absolute inset-x-0 top-0 rounded-full bg-[#5a5346]" style={{ height: `${open * 100}%` }} />
      </span>
      <span className="absolute inset-x-2 bottom-0 h-[3px] rounded-full" style={{ background: groups[0]?.colour }} />
    </button>
  );
});

export function Cards({
  chart,
  current,
  onChoose,
}: {
  chart: ChartDocument;
  current: string;
  onChoose: (id: string) => void;
}): ReactElement {
  const openings = useMemo(() => chart.drawings.map((drawing) => measureLook(drawing).opening), [chart]);
  const widest = Math.max(1e-6, ...openings);
  return (
    <SortableContext items={chart.drawings.map((drawing) => drawing.id)} strategy={rectSortingStrategy}>
      <div
        className="grid grid-cols-[repeat(auto-fill,minmax(88px,1fr))] gap-2"
        role="listbox"
        aria-label="Drawings in tray order"
        aria-orientation="horizontal"
      >
        {chart.drawings.map((drawing, index) => (
          <Card
            key={drawing.id}
            chart={chart}
            drawing={drawing}
            isCurrent={drawing.id === current}
            open={Math.max(0, openings[index]! / widest)}
            onChoose={onChoose}
          />
        ))}
      </div>
    </SortableContext>
  );
}
