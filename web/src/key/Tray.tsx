/** The tray: every mouth of the chart with its keycap, in the left hand's rows. */
import { clsx } from 'clsx';
import { Blend, Move, Plus } from 'lucide-react';
import { memo, type ReactElement, type ReactNode } from 'react';
import type { ChartDocument, Drawing } from '@zest-jaw/core';
import { colourOfDrawing } from '../barSheet/sheetData.js';
import { Mouth } from '../mouth/Mouth.js';
import { useDrawingAtPlayhead, useSpeaker } from '../scene/sceneContext.js';

interface MouthKeyProps {
  readonly chart: ChartDocument;
  readonly drawing: Drawing;
  readonly colour: string;
  readonly isCurrent: boolean;
  readonly onPut: (drawing: string) => void;
}

const MouthKey = memo(function MouthKey({ chart, drawing, colour, isCurrent, onPut }: MouthKeyProps): ReactElement {
  return (
    <button
      type="button"
      onClick={() => onPut(drawing.id)}
      aria-label={`Put ${drawing.label} at the playhead`}
      aria-keyshortcuts={drawing.keycap || undefined}
      aria-current={isCurrent || undefined}
      className={clsx(
        'relative min-h-[72px] rounded-[10px] border bg-ground',
        isCurrent ? 'border-zest ring-2 ring-zest-soft' : 'border-rule hover:border-graphite',
      )}
    >
      <Mouth
        chart={chart}
        drawing={drawing}
        lineWeight={1.25}
        className="absolute left-1 top-[13px] h-[calc(100%-37px)] w-[calc(100%-8px)]"
      />
      {drawing.keycap && <span className="keycap absolute right-[3px] top-[3px] text-[11px]!">{drawing.keycap}</span>}
      <span className="absolute inset-x-0 bottom-[6px] text-center text-[12px] font-semibold leading-none text-on-ground">
        {drawing.label}
      </span>
      <span className="absolute inset-x-2 bottom-0 h-[3px] rounded-full" style={{ background: colour }} />
    </button>
  );
});

interface TrayProps {
  readonly onPut: (drawing: string) => void;
  /** Makes a mouth for the frames at the playhead only. */
  readonly onOneOff: () => void;
  /** Opens what lies between two mouths. */
  readonly onBetween: () => void;
  /** Opens where things are. */
  readonly onPlace: () => void;
}

interface TileProps {
  readonly title: string;
  readonly label: string;
  readonly onPress: () => void;
  /** Two of them share a place. */
  readonly low?: boolean;
  readonly children: ReactNode;
}

/** Something other than a drawing, in the same place. */
function Tile({ title, label, onPress, low = false, children }: TileProps): ReactElement {
  return (
    <button
      type="button"
      onClick={onPress}
      title={title}
      aria-label={label}
      className={clsx(
        'flex items-center justify-center gap-1 rounded-[10px] border border-dashed border-graphite text-[12px] font-semibold text-ink-soft hover:border-ink hover:text-ink',
        low ? 'min-h-0 flex-1 max-[1400px]:[&>svg]:hidden' : 'min-h-[72px] flex-col',
      )}
    >
      {children}
    </button>
  );
}

export function Tray({ onPut, onOneOff, onBetween, onPlace }: TrayProps): ReactElement {
  const { chart } = useSpeaker();
  const current = useDrawingAtPlayhead();
  return (
    <div
      className="grid max-h-[300px] min-h-[228px] flex-1 min-[1900px]:max-h-[420px] auto-rows-fr grid-cols-5 gap-[6px]"
      role="group"
      aria-label="Tray"
    >
      {chart.drawings.map((drawing) => (
        <MouthKey
          key={drawing.id}
          chart={chart}
          drawing={drawing}
          colour={colourOfDrawing(chart, drawing)}
          isCurrent={drawing.id === current?.id}
          onPut={onPut}
        />
      ))}
      <Tile title="A mouth for these frames only (Alt+O)" label="A mouth for these frames only" onPress={onOneOff}>
        <Plus size={18} aria-hidden />
        One-off
      </Tile>
      <div className="flex min-h-[72px] flex-col gap-[4px]">
        <Tile low title="In-betweens, pushes and smears (Alt+B)" label="Between mouths" onPress={onBetween}>
          <Blend size={14} aria-hidden />
          Between
        </Tile>
        <Tile low title="Where it is, over time (Alt+P)" label="Place" onPress={onPlace}>
          <Move size={14} aria-hidden />
          Place
        </Tile>
      </div>
    </div>
  );
}
