/**
 * The exposure sheet: the same scene upright, a row a frame. Blocks of rows are canvases; the
 * playhead and what is selected are elements above them; what a hand does is what it does on
 * the bar sheet.
 */
import { sceneSettings } from '@zest-jaw/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { BarSheetProps } from '../barSheet/BarSheet.js';
import { HiddenGrid } from '../barSheet/HiddenGrid.js';
import { useSystemData } from '../barSheet/systemData.js';
import { useSheetPointer } from '../barSheet/useSheetPointer.js';
import { looking } from '../looking/looking.js';
import type { Playhead } from '../sound/playhead.js';
import { useElementSize } from '../ui/useElementSize.js';
import { paintBlock } from './paintBlock.js';
import { lanesBelow, OTHER_LANE, type SystemPlan } from '../barSheet/plan.js';
import { columnNamed, hitUpright, planUpright, type UprightPlan } from './uprightPlan.js';

interface UprightSheetProps extends Omit<BarSheetProps, 'view' | 'chosenClip'> {
  /** Whose lane it is. */
  readonly name: string;
}

type BlockProps = Pick<UprightSheetProps, 'data' | 'sprites' | 'palette'> & { readonly plan: UprightPlan; readonly block: SystemPlan };

function Block({ plan, block, data, sprites, palette }: BlockProps): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  const own = useSystemData(data, block);
  const thick = useStore(looking, (state) => state.thick);
  const height = (block.to - block.from) * plan.rowHeight;
  useLayoutEffect(() => {
    const element = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(plan.width * ratio);
    element.height = Math.round(height * ratio);
    const context = element.getContext('2d')!;
    context.scale(ratio, ratio);
    const started = performance.now();
    paintBlock({ context, plan, block, data: own, sprites, palette, thick });
    performance.measure('upright-block', { start: started });
  }, [plan, block, own, sprites, palette, thick, height]);
  return <canvas ref={canvas} data-block={block.index} style={{ width: plan.width, height }} aria-hidden />;
}

/** The line that runs down with the playhead, moved without React; what it leaves the sight of is scrolled to. */
function PlayheadLine({
  plan,
  playhead,
  firstFrame,
  onMoved,
}: {
  plan: UprightPlan;
  playhead: Playhead;
  firstFrame: number;
  onMoved: (top: number) => void;
}): ReactElement {
  const line = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    let last = -1;
    const place = ({ frame }: { frame: number }): void => {
      if (frame === last) return;
      last = frame;
      line.current!.style.transform = `translateY(${frame * plan.rowHeight}px)`;
      head.current!.textContent = String(frame + firstFrame);
      onMoved(frame * plan.rowHeight);
    };
    place(playhead.store.getState());
    return playhead.store.subscribe(place);
  }, [plan, playhead, firstFrame, onMoved]);
  return (
    <div
      ref={line}
      data-testid="playhead"
      className="pointer-events-none absolute inset-x-0 top-0 border-y-2 border-zest bg-zest/15"
      style={{ height: plan.rowHeight + 2 }}
    >
      <div
        ref={head}
        className="absolute left-0 top-1/2 min-w-[46px] -translate-y-1/2 rounded-r-[5px] bg-zest px-1 text-right text-[13px] font-bold leading-[18px] text-on-zest"
      />
    </div>
  );
}

function ChosenRows({ plan, data, chosen }: Pick<UprightSheetProps, 'data' | 'chosen'> & { plan: UprightPlan }): ReactElement {
  const { ids } = useStore(chosen);
  const { x, width } = columnNamed(plan, 'mouth');
  return (
    <>
      {(ids.size === 0 ? [] : data.exposures.filter(({ id }) => ids.has(id))).map(({ id, from, to }) => (
        <div
          key={id}
          data-testid="chosen"
          className="pointer-events-none absolute rounded-md border-[3px] border-double border-ink bg-zest/20"
          style={{ left: x, width, top: from * plan.rowHeight + 1, height: (to - from) * plan.rowHeight }}
        />
      ))}
    </>
  );
}

function SelectedRows({
  plan,
  playhead,
  chosen,
}: {
  plan: UprightPlan;
  playhead: Playhead;
  chosen: UprightSheetProps['chosen'];
}): ReactElement | null {
  const said = useStore(chosen, (state) => state.said);
  const selection = useStore(playhead.store, (state) => state.selection);
  if (!selection) return null;
  const { from, to } = selection;
  return (
    <div
      data-testid="selection"
      className="pointer-events-none absolute inset-x-0 border-y border-ink bg-ink/10"
      style={{ top: from * plan.rowHeight, height: (to - from) * plan.rowHeight }}
    >
      {said !== undefined && (
        <span data-testid="drag-said" className="absolute bottom-0 right-2 rounded-md bg-ink px-2 text-[13px] font-semibold text-on-ink">
          {said}
        </span>
      )}
    </div>
  );
}

export function UprightSheet({ scene, data, sprites, palette, playhead, chosen, holds, onPoint, name }: UprightSheetProps): ReactElement {
  const scroller = useRef<HTMLDivElement>(null);
  const [{ width, height }, measured] = useElementSize<HTMLDivElement>();
  const { lengthFrames, firstFrame } = sceneSettings(scene);
  const others = data.others.map((other) => other.name).join('\n');
  const plan = useMemo(
    () =>
      planUpright(lengthFrames, { width: Math.max(420, width - 12), room: height, name, others: others === '' ? [] : others.split('\n') }),
    [lengthFrames, width, height, name, others],
  );
  const rows = useVirtualizer({
    count: plan.blocks.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => (plan.blocks[index]!.to - plan.blocks[index]!.from) * plan.rowHeight,
    overscan: 1,
  });
  useEffect(() => rows.measure(), [rows, plan]);
  const visible = rows.getVirtualItems();
  const inSight = useMemo(
    () =>
      (top: number): void => {
        const element = scroller.current;
        if (!element || element.clientHeight === 0) return;
        const room = element.clientHeight - plan.rowHeight * 3;
        if (top >= element.scrollTop && top <= element.scrollTop + room) return;
        element.scrollTop = Math.max(0, top - element.clientHeight * 0.25);
      },
    [plan],
  );
  const { cursor, ...pointer } = useSheetPointer({
    playhead,
    holds,
    hitAt: (x, y) => {
      const hit = hitUpright(plan, x, y);
      // Where the bar sheet has the lane of that column, folded or not.
      const lane = hit.row === 'others' ? lanesBelow(data.others)[hit.within / OTHER_LANE] : undefined;
      return lane ? { ...hit, within: lane.y } : hit;
    },
    onHeld: () => undefined,
    onPoint,
  });
  const lane = columnNamed(plan, 'mouth');
  return (
    <div
      ref={(element) => {
        scroller.current = element;
        measured(element);
      }}
      className="relative min-h-0 flex-1 overflow-auto [scrollbar-gutter:stable]"
      data-testid="upright-sheet"
      data-waves={data.waves.length}
      data-row-height={plan.rowHeight}
      data-mouth-x={lane.x}
    >
      <div
        className="sticky top-0 z-10 h-[22px] border-b border-rule bg-sheet text-[13px] text-ink-soft"
        style={{ width: plan.width }}
        aria-hidden
      >
        {plan.columns.map(({ name: column, index, title, x, width: wide }) => (
          <span key={`${column}${index}`} className="absolute truncate" style={{ left: x + (column === 'frame' ? 8 : 2), width: wide }}>
            {title}
          </span>
        ))}
      </div>
      <div
        className="relative touch-none select-none"
        style={{ width: plan.width, height: plan.height, cursor: cursor === 'ew-resize' ? 'ns-resize' : cursor }}
        {...pointer}
      >
        {visible.map(({ index }) => {
          const block = plan.blocks[index];
          return (
            block && (
              <div key={index} className="absolute left-0" style={{ top: block.top }}>
                <Block plan={plan} block={block} data={data} sprites={sprites} palette={palette} />
              </div>
            )
          );
        })}
        <SelectedRows plan={plan} playhead={playhead} chosen={chosen} />
        <ChosenRows plan={plan} data={data} chosen={chosen} />
        <PlayheadLine plan={plan} playhead={playhead} firstFrame={firstFrame} onMoved={inSight} />
      </div>
      <HiddenGrid
        label="Exposure sheet"
        systems={visible.flatMap(({ index }) => plan.blocks[index] ?? [])}
        data={data}
        playhead={playhead}
      />
    </div>
  );
}
