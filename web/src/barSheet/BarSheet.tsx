/**
 * The bar sheet: the scene wrapped like a page of music. Each visible system is one canvas;
 * the playhead is an element that moves by transform; a hidden grid carries the same
 * content for screen readers.
 */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type PointerEvent, type ReactElement } from 'react';
import { maybeExposureAt, type SceneDocument } from '@zest-jaw/core';
import type { MouthSprites } from '../mouth/paintFigure.js';
import type { Playhead } from '../sound/playhead.js';
import { useElementSize } from '../ui/useElementSize.js';
import { HiddenGrid } from './HiddenGrid.js';
import type { Palette } from './palette.js';
import { paintSystem } from './paintSystem.js';
import { hitTest, planBarSheet, rowNamed, SYSTEM_GAP, systemOfFrame, type BarSheetPlan, type SystemPlan } from './plan.js';
import type { SheetData } from './sheetData.js';

interface BarSheetProps {
  readonly scene: SceneDocument;
  readonly data: SheetData;
  readonly view: 'key' | 'listen';
  readonly sprites: MouthSprites;
  readonly palette: Palette;
  readonly playhead: Playhead;
}

function SystemCanvas({
  plan,
  system,
  data,
  sprites,
  palette,
}: {
  plan: BarSheetPlan;
  system: SystemPlan;
  data: SheetData;
  sprites: MouthSprites;
  palette: Palette;
}): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  useLayoutEffect(() => {
    const element = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(plan.width * ratio);
    element.height = Math.round(plan.systemHeight * ratio);
    const context = element.getContext('2d')!;
    context.scale(ratio, ratio);
    const started = performance.now();
    paintSystem({ context, plan, system, data, sprites, palette });
    performance.measure('bar-sheet-system', { start: started });
  }, [plan, system, data, sprites, palette]);
  return <canvas ref={canvas} data-system={system.index} style={{ width: plan.width, height: plan.systemHeight }} aria-hidden />;
}

/** Everything that moves with the playhead: the exposure under it, and its own line. Moved without React. */
function PlayheadMarks({ plan, data, playhead }: { plan: BarSheetPlan; data: SheetData; playhead: Playhead }): ReactElement {
  const line = useRef<HTMLDivElement>(null);
  const cell = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const place = ({ frame }: { frame: number }): void => {
      const system = systemOfFrame(plan, frame);
      if (!system) return;
      line.current!.style.transform = `translate(${system.scale.x(frame)}px, ${system.top}px)`;
      const exposure = maybeExposureAt(data.exposures, frame);
      const row = rowNamed(plan, 'mouth');
      cell.current!.hidden = !exposure || !row;
      if (!exposure || !row) return;
      const x = system.scale.x(Math.max(exposure.from, system.from));
      cell.current!.style.transform = `translate(${x}px, ${system.top + row.y}px)`;
      cell.current!.style.width = `${system.scale.x(Math.min(exposure.to, system.to)) - x}px`;
      cell.current!.style.height = `${row.height}px`;
    };
    place(playhead.store.getState());
    return playhead.store.subscribe(place);
  }, [plan, data, playhead]);
  return (
    <>
      <div ref={cell} className="pointer-events-none absolute left-0 top-0 rounded-lg border-2 border-zest" />
      <div
        ref={line}
        data-testid="playhead"
        className="pointer-events-none absolute left-0 top-0"
        style={{ width: plan.systems[0]?.scale.perFrame, height: plan.systemHeight }}
      >
        <div className="absolute inset-0 bg-zest/15" />
        <div className="absolute inset-y-0 left-1/2 w-[2px] -translate-x-1/2 bg-zest" />
        <div className="absolute left-1/2 top-0 h-[15px] w-[18px] -translate-x-1/2 bg-zest [clip-path:polygon(0_0,100%_0,100%_55%,50%_100%,0_55%)]" />
      </div>
    </>
  );
}

export function BarSheet({ scene, data, view, sprites, palette, playhead }: BarSheetProps): ReactElement {
  const scroller = useRef<HTMLDivElement>(null);
  const [{ width, height }, measured] = useElementSize<HTMLDivElement>();
  const plan = useMemo(() => planBarSheet(scene, Math.max(360, width), view, height), [scene, width, view, height]);
  const [scrubbing, setScrubbing] = useState(false);
  const rows = useVirtualizer({
    count: plan.systems.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => plan.systemHeight + SYSTEM_GAP,
    overscan: 1,
  });
  const visible = rows.getVirtualItems();

  // The system being played comes into view by itself; a hand that scrolls elsewhere is left alone while nothing plays.
  const lastSystem = useRef(-1);
  useEffect(
    () =>
      playhead.store.subscribe(({ frame }) => {
        const system = systemOfFrame(plan, frame);
        if (!system || system.index === lastSystem.current) return;
        lastSystem.current = system.index;
        rows.scrollToIndex(system.index, { align: 'auto' });
      }),
    [plan, playhead, rows],
  );

  const scrubTo = useCallback(
    (event: PointerEvent<HTMLDivElement>) => {
      const bounds = event.currentTarget.getBoundingClientRect();
      const hit = hitTest(plan, event.clientX - bounds.left, event.clientY - bounds.top);
      if (hit && hit.frame !== playhead.store.getState().frame) playhead.scrubTo(hit.frame);
    },
    [plan, playhead],
  );

  return (
    <div
      ref={(element) => {
        scroller.current = element;
        measured(element);
      }}
      className="relative min-h-0 flex-1 overflow-y-auto overflow-x-hidden [scrollbar-gutter:stable]"
      data-testid="bar-sheet"
      data-waves={data.waves.length}
    >
      <div>
        <div
          className="relative touch-none select-none"
          style={{ height: plan.height }}
          onPointerDown={(event) => {
            if (event.button !== 0) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            setScrubbing(true);
            scrubTo(event);
          }}
          onPointerMove={(event) => scrubbing && scrubTo(event)}
          onPointerUp={() => setScrubbing(false)}
          onPointerCancel={() => setScrubbing(false)}
        >
          {visible.map(({ index }) => {
            const system = plan.systems[index];
            return (
              system && (
                <div key={index} className="absolute left-0" style={{ top: system.top }}>
                  <SystemCanvas plan={plan} system={system} data={data} sprites={sprites} palette={palette} />
                  <div className="absolute inset-x-0 border-b border-rule-soft" style={{ top: plan.systemHeight + SYSTEM_GAP / 2 }} />
                </div>
              )
            );
          })}
          <PlayheadMarks plan={plan} data={data} playhead={playhead} />
        </div>
      </div>
      <HiddenGrid systems={visible.flatMap(({ index }) => plan.systems[index] ?? [])} data={data} playhead={playhead} />
    </div>
  );
}
