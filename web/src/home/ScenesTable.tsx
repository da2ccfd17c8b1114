/** The scenes of a production as a table: found, sorted, and only those in sight on the page. */
import { formatFrameRate, framesPerSecond, type SceneCard } from '@zest-jaw/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { clsx } from 'clsx';
import { ArrowDown, ArrowUp, Search } from 'lucide-react';
import { useMemo, useRef, useState, type ReactElement, type ReactNode } from 'react';

/** Height of a row, in pixels. */
const ROW = 34;

export interface SceneRow extends SceneCard {
  readonly speaker: string;
}

export interface SceneColumn {
  readonly id: string;
  readonly said: string;
  /** With what it is wide: the same whichever rows are in sight. */
  readonly wide: string;
  /** What it is sorted by. */
  readonly by: (row: SceneRow) => string | number;
  readonly cell: (row: SceneRow) => ReactNode;
}

export const PLAIN_COLUMNS = {
  title: {
    id: 'title',
    said: 'Scene',
    wide: '',
    by: ({ title }) => title.toLowerCase(),
    cell: ({ title }) => <b className="font-semibold">{title}</b>,
  },
  speaker: {
    id: 'speaker',
    said: 'Who speaks',
    wide: 'w-[110px]',
    by: ({ speaker }) => speaker.toLowerCase(),
    cell: ({ speaker }) => speaker,
  },
  frames: {
    ...{ id: 'frames', said: 'Frames', wide: 'w-[108px]', by: ({ lengthFrames }) => lengthFrames },
    cell: ({ lengthFrames, frameRate }) => `${lengthFrames} at ${formatFrameRate(frameRate)}`,
  },
  length: {
    ...{ id: 'length', said: 'Length', wide: 'w-[90px]', by: ({ lengthFrames, frameRate }) => lengthFrames / framesPerSecond(frameRate) },
    cell: ({ lengthFrames, frameRate }) => `${(lengthFrames / framesPerSecond(frameRate)).toFixed(1)} s`,
  },
  inked: { id: 'inked', said: 'Inked', wide: 'w-[80px]', by: ({ inked }) => inked, cell: ({ inked }) => `${Math.round(inked * 100)} %` },
  touched: {
    id: 'touched',
    said: 'Last touched',
    wide: 'w-[130px]',
    by: ({ touchedAt }) => touchedAt,
    cell: ({ touchedAt }) => touchedAt.slice(0, 10),
  },
} as const satisfies Readonly<Record<string, SceneColumn>>;

export interface SceneSearch {
  readonly sought: string;
  readonly seek: (words: string) => void;
  readonly order: { readonly column: string; readonly down: boolean };
  readonly sortBy: (column: string) => void;
  /** Those that are found, in order. */
  readonly shown: readonly SceneRow[];
}

export function useSceneSearch(
  rows: readonly SceneRow[],
  columns: readonly SceneColumn[],
  first: SceneSearch['order'] = { column: 'title', down: false },
): SceneSearch {
  const [sought, seek] = useState('');
  const [order, setOrder] = useState(first);
  const shown = useMemo(() => {
    const words = sought.toLowerCase();
    const value = (columns.find(({ id }) => id === order.column) ?? columns[0]!).by;
    return rows
      .filter(({ title, speaker }) => `${title} ${speaker}`.toLowerCase().includes(words))
      .sort((a, b) => {
        const [one, other] = [value(a), value(b)];
        const by = one < other ? -1 : one > other ? 1 : 0;
        return order.down ? -by : by;
      });
  }, [rows, columns, sought, order]);
  return { sought, seek, order, sortBy: (column) => setOrder({ column, down: order.column === column && !order.down }), shown };
}

export function SceneSearchField({ search: { sought, seek } }: { search: SceneSearch }): ReactElement {
  return (
    <label className="relative ml-auto w-[240px]">
      <Search size={16} aria-hidden className="absolute top-1/2 left-3 -translate-y-1/2 text-ink-soft" />
      <input
        className="field w-full pl-9!"
        aria-label="Find scenes"
        placeholder="Find by title or speaker"
        value={sought}
        onChange={({ target }) => seek(target.value)}
      />
    </label>
  );
}

interface ScenesTableProps {
  readonly search: SceneSearch;
  readonly columns: readonly SceneColumn[];
  /** There is no scene at all, found or not. */
  readonly isEmpty: boolean;
  /** Before the first column. */
  readonly lead?: { readonly head: ReactNode; readonly cell: (row: SceneRow) => ReactNode };
  readonly isFaint?: (row: SceneRow) => boolean;
}

export function ScenesTable({ search: { sought, order, sortBy, shown }, columns, isEmpty, lead, isFaint }: ScenesTableProps): ReactElement {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count: shown.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 12 });
  const seen = virtual.getVirtualItems();
  const [above, below] = [seen[0]?.start ?? 0, virtual.getTotalSize() - (seen.at(-1)?.end ?? 0)];
  return (
    <div
      ref={scroller}
      className="min-h-0 flex-1 overflow-auto rounded-lg border border-rule-soft"
      tabIndex={0}
      role="region"
      aria-label="Scenes"
    >
      <table className="w-full table-fixed text-left" aria-rowcount={shown.length + 1}>
        <thead className="sticky top-0 bg-word">
          <tr>
            {lead && <th className="w-[44px] px-3 py-1.5">{lead.head}</th>}
            {columns.map(({ id, said, wide }) => {
              const isBy = order.column === id;
              return (
                <th key={id} aria-sort={isBy ? (order.down ? 'descending' : 'ascending') : 'none'} className={clsx('px-2 py-1.5', wide)}>
                  <button type="button" className="flex items-center gap-1 font-semibold" onClick={() => sortBy(id)}>
                    {said}
                    {isBy && (order.down ? <ArrowDown size={14} aria-hidden /> : <ArrowUp size={14} aria-hidden />)}
                  </button>
                </th>
              );
            })}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <tr aria-hidden style={{ height: above }} />}
          {seen.map(({ index }) => {
            const row = shown[index]!;
            return (
              <tr
                key={row.id}
                aria-rowindex={index + 2}
                style={{ height: ROW }}
                className={clsx('border-t border-rule-soft', isFaint?.(row) && 'text-ink-soft')}
              >
                {lead && <td className="px-3 py-1.5">{lead.cell(row)}</td>}
                {columns.map(({ id, cell }) => (
                  <td key={id} className="truncate px-2 tabular-nums">
                    {cell(row)}
                  </td>
                ))}
              </tr>
            );
          })}
          {below > 0 && <tr aria-hidden style={{ height: below }} />}
        </tbody>
      </table>
      {shown.length === 0 && (
        <p className="p-4 text-ink-soft">
          {isEmpty ? 'There is no scene in this production yet.' : `No scene has “${sought}” in its title or speaker.`}
        </p>
      )}
    </div>
  );
}
