/**
 * The drawing desk: the chosen mouth on the face, large, in the chart's own units, with the
 * registration cross at the middle of the upper lip. What a drag does depends on the tool.
 */
import {
  boxOfLook,
  maybeCross,
  maybeHead,
  scaledAbout,
  setLook,
  setPlacement,
  type ChartHead,
  type Placement,
  type Point,
} from '@zest-jaw/core';
import { useDroppable } from '@dnd-kit/core';
import { clsx } from 'clsx';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type ReactElement } from 'react';
import { backdropOf, useHeadMarkup } from '../mouth/Easel.js';
import { FaceParts } from '../mouth/FaceParts.js';
import { useLookMarkup } from '../mouth/Mouth.js';
import { newId } from '../session/newId.js';
import { BuiltHandles } from './BuiltHandles.js';
import { pointOnDesk, viewBoxOf, WHOLE_VIEW, zoomed } from './deskView.js';
import { useOpenChart } from './openChart.js';
import { useCarrier } from './useCarrier.js';
import { usePenTools, type PenSettings } from './usePenTools.js';

/** How far a press of an arrow key moves a drawing, in units; with Shift ten times as far. */
export const NUDGE = 0.5;
/** How much a press of - or = scales it. */
const SCALE_STEP = 1.01;

/** The chart's square from the head's units: what takes the head to where the mouth is the origin. */
function headTransform({ mouth }: ChartHead): string {
  return `scale(${1 / mouth.scale}) rotate(${-mouth.angle}) translate(${-mouth.x} ${-mouth.y})`;
}

const inChart = ({ x, y, scale }: Placement, point: Point): Point => ({ x: point.x * scale + x, y: point.y * scale + y });

export function Desk({ pen, flipped, className }: { pen: PenSettings; flipped: boolean; className?: string }): ReactElement {
  const { chart, chartId, session, drawing, look, lookIndex, onion, onionId, tool, change } = useOpenChart();
  const svg = useRef<SVGSVGElement>(null);
  const [view, setView] = useState(WHOLE_VIEW);
  // A ring around the desk is for those who come to it by keyboard, not for a pen on it.
  const [byPointer, setByPointer] = useState(false);
  const { setNodeRef, isOver } = useDroppable({ id: 'desk' });
  const carrier = useCarrier(chartId);
  const head = maybeHead(chart) ?? carrier;
  const under = chart.drawings.find((candidate) => candidate.id === onionId);
  const shown = flipped && under ? under : look;
  const headMarkup = useHeadMarkup(
    carrier ? { ...chart, head: [carrier] } : chart,
    carrier ? undefined : flipped && under ? under : drawing,
  );
  const markup = useLookMarkup(chart, shown);
  const onionMarkup = useLookMarkup(chart, flipped ? undefined : onion);
  const penTools = usePenTools(pen);
  // A drag of the whole drawing: where it began, and the placement it had.
  const grip = useRef<{ from: Point; placement: Placement; scales: boolean; mark: number } | null>(null);

  useEffect(() => {
    const element = svg.current;
    if (!element) return undefined;
    // React listens to the wheel passively, and the page must not scroll under the desk.
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault();
      const about = pointOnDesk(element, event);
      setView((before) => zoomed(before, Math.exp(event.deltaY * 0.0015), about));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, []);

  const place = (placement: Placement): void => void change((now) => setPlacement(now, drawing.id, placement, newId, lookIndex));
  const box = boxOfLook(look);
  const corner = { x: box.x + box.width, y: box.y + box.height };

  const onPointerDown = (event: PointerEvent<SVGSVGElement>): void => {
    if (event.button !== 0 || flipped) return;
    setByPointer(true);
    const at = pointOnDesk(event.currentTarget, event);
    if (tool === 'cross') {
      const { x, y, scale } = look.placement;
      change((now) =>
        setLook(now, drawing.id, lookIndex, { cross: { x: (at.x - x) / scale, y: (at.y - y) / scale } }, 'drawing.cross', newId),
      );
      return;
    }
    if (tool === 'place') {
      event.currentTarget.setPointerCapture(event.pointerId);
      const scales = Math.hypot(at.x - corner.x, at.y - corner.y) < view.across * 0.025;
      grip.current = { from: at, placement: look.placement, scales, mark: session.mark() };
      return;
    }
    if (tool !== 'shape') {
      event.currentTarget.setPointerCapture(event.pointerId);
      penTools.down(at, event);
    }
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>): void => {
    const at = pointOnDesk(event.currentTarget, event);
    if (!grip.current) {
      penTools.move(at, event);
      return;
    }
    const { from, placement, scales } = grip.current;
    if (scales) {
      // About the cross, so that the upper lip stays where it is.
      const by = Math.max(0.05, Math.hypot(at.x, at.y) / Math.max(1, Math.hypot(from.x, from.y)));
      place(scaledAbout(placement, by, { x: 0, y: 0 }));
    } else place({ ...placement, x: placement.x + at.x - from.x, y: placement.y + at.y - from.y });
  };
  const onPointerUp = (): void => {
    if (grip.current) session.squash(grip.current.mark);
    grip.current = null;
    penTools.up();
  };

  const onKeyDown = (event: KeyboardEvent): void => {
    setByPointer(false);
    const step = event.shiftKey ? NUDGE * 10 : NUDGE;
    const by: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    };
    const move = by[event.key];
    const take = (): void => {
      event.preventDefault();
      event.stopPropagation();
    };
    if (penTools.key(event.key, move)) return take();
    if (move && tool === 'cross') {
      take();
      const { x, y, scale } = look.placement;
      const at = look.cross ?? { x: -x / scale, y: -y / scale };
      const cross = { x: at.x + move[0] / scale, y: at.y + move[1] / scale };
      change((now) => setLook(now, drawing.id, lookIndex, { cross }, 'drawing.cross', newId));
    } else if (move) {
      take();
      place({ ...look.placement, x: look.placement.x + move[0], y: look.placement.y + move[1] });
    } else if (event.code === 'Minus' || event.code === 'Equal') {
      take();
      place(scaledAbout(look.placement, event.code === 'Equal' ? SCALE_STEP : 1 / SCALE_STEP, { x: 0, y: 0 }));
    } else if (event.code === 'Digit0') {
      take();
      setView(WHOLE_VIEW);
    }
  };

  const cross = maybeCross(look);
  const marked = cross && look.cross ? inChart(look.placement, cross) : undefined;
  const { art } = look;
  const unit = view.across / 100;
  return (
    <div
      ref={setNodeRef}
      className={clsx(
        'relative overflow-hidden rounded-[14px] border',
        isOver ? 'border-zest ring-2 ring-zest-soft' : 'border-rule',
        className,
      )}
      style={head ? { ...backdropOf(head), backgroundColor: 'var(--ground)' } : { background: 'var(--ground)' }}
    >
      <svg
        ref={svg}
        viewBox={viewBoxOf(view)}
        className={clsx(
          'block h-full w-full touch-none outline-offset-[-3px]',
          byPointer && 'outline-none!',
          tool === 'place' ? 'cursor-move' : tool === 'shape' ? 'cursor-default' : 'cursor-crosshair',
        )}
        tabIndex={0}
        role="application"
        aria-label={`${drawing.label} on the desk. Arrow keys nudge it, - and = scale it, 0 shows all of it.`}
        data-testid="desk"
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={onPointerUp}
        onPointerCancel={onPointerUp}
        onKeyDown={onKeyDown}
      >
        {head && (
          <g transform={headTransform(head)} opacity={art.kind === 'drawn' ? 0.5 : 1}>
            <g dangerouslySetInnerHTML={{ __html: headMarkup }} />
            <FaceParts head={head} depth="behind" />
            <FaceParts head={head} depth="before" />
          </g>
        )}
        {art.kind === 'drawn' && art.reference && !flipped && (
          <image
            href={`/api/assets/${art.reference.picture}`}
            {...penTools.referenceBox(art.reference.box)}
            opacity={art.reference.opacity}
            preserveAspectRatio="none"
          />
        )}
        {onion && !flipped && <g opacity={0.3} data-part="onion" dangerouslySetInnerHTML={{ __html: onionMarkup }} />}
        <g data-part="mouth" dangerouslySetInnerHTML={{ __html: markup }} />
        {!flipped && penTools.overlay(unit)}
        <g stroke="#1e2a44" strokeWidth={unit * 0.22} opacity={0.75} pointerEvents="none">
          <path d={`M${-6 * unit} 0H${6 * unit}M0 ${-6 * unit}V${6 * unit}`} stroke="#fffcf5" strokeWidth={unit * 0.8} opacity={0.7} />
          <path d={`M${-6 * unit} 0H${6 * unit}M0 ${-6 * unit}V${6 * unit}`} />
        </g>
        {marked && !flipped && (
          <path
            data-part="cross"
            d={`M${marked.x - 2.4 * unit} ${marked.y - 2.4 * unit}l${4.8 * unit} ${4.8 * unit}m0 ${-4.8 * unit}l${-4.8 * unit} ${4.8 * unit}`}
            stroke="var(--zest)"
            strokeWidth={unit * 0.6}
            pointerEvents="none"
          />
        )}
        {tool === 'place' && !flipped && (
          <g pointerEvents="none">
            <rect {...box} fill="none" stroke="#1e2a44" strokeWidth={unit * 0.2} strokeDasharray={`${unit} ${unit}`} />
            <circle cx={corner.x} cy={corner.y} r={unit * 1.4} fill="var(--zest)" stroke="#1e2a44" strokeWidth={unit * 0.3} />
          </g>
        )}
        {tool === 'shape' && art.kind === 'built' && !flipped && <BuiltHandles svg={svg} unit={unit} />}
      </svg>
    </div>
  );
}
