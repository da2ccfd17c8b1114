/**
 * The bar sheet: the scene wrapped like a page of music. Each visible system is one canvas;
 * the playhead is an element that moves by transform; a hidden grid carries the same
 * content for screen readers.
 */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { maybeExposureAt, type SceneDocument, sceneSettings } from '@zest-jaw/core';
import type { MouthSprites } from '../mouth/paintFigure.js';
import type { ChosenStore } from '../key/chosen.js';
import { LANE_HEIGHTS, looking } from '../looking/looking.js';
import type { Playhead } from '../sound/playhead.js';
import { useElementSize } from '../ui/useElementSize.js';
import { HiddenGrid } from './HiddenGrid.js';
import type { Palette } from './palette.js';
import { paintSystem } from './paintSystem.js';
import {
  hitTest,
  LABEL_WIDTH,
  planBarSheet,
  rowNamed,
  SYSTEM_GAP,
  systemOfFrame,
  type BarSheetPlan,
  type Hit,
  type SheetView,
  type SystemPlan,
} from './plan.js';
import { OthersMarks } from './OthersMarks.js';
import type { SheetData } from './sheetData.js';
import { useSystemData } from './systemData.js';
import { useSheetPointer, type Holds } from './useSheetPointer.js';
import { useZoom } from './useZoom.js';

export interface BarSheetProps {
  readonly scene: SceneDocument;
  readonly data: SheetData;
  readonly view: SheetView;
  readonly sprites: MouthSprites;
  readonly palette: Palette;
  readonly playhead: Playhead;
  readonly chosen: ChosenStore;
  readonly holds?: Holds | undefined;
  /** The right button points at something. */
  readonly onPoint?: ((hit: Hit) => void) | undefined;
  readonly chosenClip?: string | undefined;
}

function SystemCanvas({
  plan,
  system,
  data,
  sprites,
  palette,
  chosenClip,
}: {
  plan: BarSheetPlan;
  system: SystemPlan;
  data: SheetData;
  sprites: MouthSprites;
  palette: Palette;
  chosenClip: string | undefined;
}): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  const own = useSystemData(data, system);
  useLayoutEffect(() => {
    const element = canvas.current!;
    const ratio = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(plan.width * ratio), Math.round(plan.systemHeight * ratio)];
    // A canvas that is given a size is made anew, even of the same size.
    if (element.width !== width || element.height !== height) Object.assign(element, { width, height });
    const context = element.getContext('2d')!;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    const started = performance.now();
    paintSystem({ context, plan, system, data: own, sprites, palette, chosenClip });
    performance.measure('bar-sheet-system', { start: started });
  }, [plan, system, own, sprites, palette, chosenClip]);
  return <canvas ref={canvas} data-system={system.index} style={{ width: plan.width, height: plan.systemHeight }} aria-hidden />;
}

/** Everything that moves with the playhead: the exposure under it, and its own line. Moved without React. */
function PlayheadMarks({
  plan,
  data,
  playhead,
  firstFrame,
}: {
  plan: BarSheetPlan;
  data: SheetData;
  playhead: Playhead;
  firstFrame: number;
}): ReactElement {
  const line = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const cell = useRef<HTMLDivElement>(null);
  useLayoutEffect(() => {
    const place = ({ frame }: { frame: number }): void => {
      const system = systemOfFrame(plan, frame);
      if (!system) return;
      line.current!.style.transform = `translate(${system.scale.x(frame)}px, ${system.top}px)`;
      head.current!.textContent = String(frame + firstFrame);
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
  }, [plan, data, playhead, firstFrame]);
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
        {/* It covers the number of its frame, so it says it. */}
        <div
          ref={head}
          className="absolute left-1/2 top-0 h-[17px] min-w-[18px] -translate-x-1/2 rounded-b-[5px] bg-zest px-1 text-center text-[12px] font-bold leading-[17px] text-on-zest"
        />
      </div>
    </>
  );
}

/** The selected frames, tinted over every system they touch. */
function SelectionMarks({ plan, playhead }: { plan: BarSheetPlan; playhead: Playhead }): ReactElement {
  const selection = useStore(playhead.store, (state) => state.selection);
  if (!selection) return <></>;
  return (
    <>
      {plan.systems.flatMap(({ index, from, to, top, scale }) => {
        const [first, last] = [Math.max(from, selection.from), Math.min(to, selection.to)];
        if (first >= last) return [];
        return (
          <div
            key={index}
            data-testid="selection"
            className="pointer-events-none absolute left-0 border-x border-ink bg-ink/10"
            style={{
              transform: `translate(${scale.x(first)}px, ${top}px)`,
              width: (last - first) * scale.perFrame,
              height: plan.systemHeight,
            }}
          />
        );
      })}
    </>
  );
}

interface ChosenMarksProps {
  readonly plan: BarSheetPlan;
  readonly data: SheetData;
  readonly playhead: Playhead;
  readonly chosen: ChosenStore;
}

/** Mouths chosen one by one, framed; and what a drag of the selection comes to, at its end. */
function ChosenMarks({ plan, data, playhead, chosen }: ChosenMarksProps): ReactElement | null {
  const { ids, said } = useStore(chosen);
  const end = useStore(playhead.store, ({ selection }) => (said === undefined || !selection ? undefined : selection.to - 1));
  const row = rowNamed(plan, 'mouth');
  if (!row) return null;
  const system = end === undefined ? undefined : systemOfFrame(plan, end);
  const framed = ids.size === 0 ? [] : data.exposures.filter(({ id }) => ids.has(id));
  return (
    <>
      {framed.flatMap(({ id, from, to }) =>
        plan.systems.flatMap((one) => {
          const [first, last] = [Math.max(from, one.from), Math.min(to, one.to)];
          if (first >= last) return [];
          return (
            <div
              key={`${id} ${one.index}`}
              data-testid="chosen"
              className="pointer-events-none absolute left-0 top-0 rounded-lg border-[3px] border-double border-ink bg-zest/20"
              style={{
                transform: `translate(${one.scale.x(first)}px, ${one.top + row.y}px)`,
                width: (last - first) * one.scale.perFrame,
                height: row.height,
              }}
            />
          );
        }),
      )}
      {system && (
        <div
          data-testid="drag-said"
          className="pointer-events-none absolute left-0 top-0 z-10 whitespace-nowrap rounded-md bg-ink px-2 py-0.5 text-[13px] font-semibold text-on-ink"
          style={{ transform: `translate(min(${system.scale.x(end! + 1) + 4}px, ${plan.width - 170}px), ${system.top + row.y - 12}px)` }}
        >
          {said}
        </div>
      )}
    </>
  );
}

export function BarSheet({
  scene,
  data,
  view,
  sprites,
  palette,
  playhead,
  chosen,
  holds,
  onPoint,
  chosenClip,
}: BarSheetProps): ReactElement {
  const scroller = useRef<HTMLDivElement>(null);
  const [{ width, height }, measured] = useElementSize<HTMLDivElement>();
  const { zoom, lane } = useStore(looking);
  // While something is dragged the rows stay as they are: set anew, they would move away under the pointer.
  const [kept, keep] = useState<BarSheetPlan>();
  const { settings, words, clips, tracks } = scene;
  const folded = data.others.filter((other) => other.folded).length;
  const plan = useMemo(
    () =>
      kept ??
      planBarSheet(
        { settings, words, clips, tracks },
        { width: Math.max(360, width), view, room: height, zoom, lane: LANE_HEIGHTS[lane], folded },
      ),
    [kept, settings, words, clips, tracks, width, view, height, zoom, lane, folded],
  );
  // While something is dragged it is heard and seen; it is told once it is put down.
  const [told, tell] = useState(data);
  if (!kept && told !== data) tell(data);
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

  useZoom(scroller, plan, playhead);
  const [isHeld, setHeld] = useState(false);
  if (isHeld !== (kept !== undefined)) keep(isHeld ? plan : undefined);
  const { cursor, ...pointer } = useSheetPointer({ playhead, holds, hitAt: (x, y) => hitTest(plan, x, y), onHeld: setHeld, onPoint });

  return (
    <div
      ref={(element) => {
        scroller.current = element;
        measured(element);
      }}
      className="relative min-h-0 flex-1 overflow-y-auto overflow-x-hidden [scrollbar-gutter:stable]"
      tabIndex={0}
      role="group"
      aria-label="Rows of the sheet"
      data-testid="bar-sheet"
      data-waves={data.waves.length}
      data-left={LABEL_WIDTH}
      data-zoom={zoom ?? 'fits'}
      data-per-frame={plan.systems[0]?.scale.perFrame}
      data-clips-y={rowNamed(plan, 'clips')?.y}
      data-wave-y={rowNamed(plan, 'wave')?.y}
      data-mouth-y={rowNamed(plan, 'mouth')?.y}
      data-others-y={rowNamed(plan, 'others')?.y}
      data-wave-height={rowNamed(plan, 'wave')?.height}
      data-peak={data.range?.peakDb}
    >
      <div>
        <div className="relative touch-none select-none" style={{ height: plan.height, cursor }} {...pointer}>
          {visible.map(({ index }) => {
            const system = plan.systems[index];
            return (
              system && (
                <div key={index} className="absolute left-0" style={{ top: system.top }}>
                  <SystemCanvas plan={plan} system={system} data={data} sprites={sprites} palette={palette} chosenClip={chosenClip} />
                  <div className="absolute inset-x-0 border-b border-rule-soft" style={{ top: plan.systemHeight + SYSTEM_GAP / 2 }} />
                </div>
              )
            );
          })}
          <SelectionMarks plan={plan} playhead={playhead} />
          <ChosenMarks plan={plan} data={data} playhead={playhead} chosen={chosen} />
          <OthersMarks plan={plan} />
          <PlayheadMarks plan={plan} data={data} playhead={playhead} firstFrame={sceneSettings(scene).firstFrame} />
        </div>
      </div>
      <HiddenGrid label="Bar sheet" systems={visible.flatMap(({ index }) => plan.systems[index] ?? [])} data={told} playhead={playhead} />
    </div>
  );
}
