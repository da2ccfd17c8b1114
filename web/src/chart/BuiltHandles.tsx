/** The handles of a built mouth on the desk: dragged, or moved with the arrow keys. */
import { dragHandle, handlesOfShape, setShape, type MouthHandle, type MouthShape, type Point } from '@zest-jaw/core';
import { useRef, type KeyboardEvent, type PointerEvent, type ReactElement, type RefObject } from 'react';
import { newId } from '../session/newId.js';
import { pointOnDesk } from './deskView.js';
import { useOpenChart } from './openChart.js';

/** How far an arrow key moves a handle, in the mouth's units. */
const STEP = 1;

interface HandleProps {
  readonly handle: MouthHandle;
  readonly shape: MouthShape;
  readonly svg: RefObject<SVGSVGElement | null>;
  readonly unit: number;
  /** From the chart's square to the mouth's own units. */
  readonly toArt: (point: Point) => Point;
  readonly onDrag: (handle: MouthHandle, to: Point) => void;
}

function Handle({ handle, shape, svg, unit, toArt, onDrag }: HandleProps): ReactElement {
  const { x, y } = handle.at(shape);
  const { beside } = handle;
  const { session } = useOpenChart();
  const offset = useRef<Point | null>(null);
  const gesture = useRef<number | undefined>(undefined);
  const end = (): void => {
    offset.current = null;
    if (gesture.current !== undefined) session.squash(gesture.current);
    gesture.current = undefined;
  };
  const onPointerDown = (event: PointerEvent<SVGCircleElement>): void => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const at = toArt(pointOnDesk(svg.current!, event));
    offset.current = { x: at.x - x, y: at.y - y };
    gesture.current = session.mark();
  };
  const onPointerMove = (event: PointerEvent<SVGCircleElement>): void => {
    if (!offset.current) return;
    const at = toArt(pointOnDesk(svg.current!, event));
    onDrag(handle, { x: at.x - offset.current.x, y: at.y - offset.current.y });
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const by: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-STEP, 0],
      ArrowRight: [STEP, 0],
      ArrowUp: [0, -STEP],
      ArrowDown: [0, STEP],
    };
    const move = by[event.key];
    if (!move) return;
    event.preventDefault();
    event.stopPropagation();
    onDrag(handle, { x: x + move[0], y: y + move[1] });
  };
  return (
    <g>
      <path
        d={`M${x} ${y}l${beside.x} ${beside.y}`}
        stroke="#1e2a44"
        strokeWidth={unit * 0.22}
        strokeDasharray={`${unit * 0.6} ${unit * 0.6}`}
      />
      <circle
        cx={x + beside.x}
        cy={y + beside.y}
        r={unit * 1.5}
        fill="#fffcf5"
        stroke="#1e2a44"
        strokeWidth={unit * 0.42}
        className="cursor-grab hover:fill-zest focus-visible:fill-zest active:cursor-grabbing"
        tabIndex={0}
        role="slider"
        aria-label={handle.label}
        aria-valuenow={shape[handle.down ?? handle.along!]}
        data-handle={handle.id}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onPointerUp={end}
        onPointerCancel={end}
        onKeyDown={onKeyDown}
      >
        <title>{handle.label}</title>
      </circle>
    </g>
  );
}

export function BuiltHandles({ svg, unit }: { svg: RefObject<SVGSVGElement | null>; unit: number }): ReactElement | null {
  const { drawing, look, lookIndex, change } = useOpenChart();
  if (look.art.kind !== 'built') return null;
  const { shape } = look.art;
  const { x, y, scale } = look.placement;
  const toArt = (point: Point): Point => ({ x: (point.x - x) / scale, y: (point.y - y) / scale });
  const onDrag = (handle: MouthHandle, to: Point): void =>
    void change((now) => setShape(now, drawing.id, dragHandle(shape, handle, to), newId, lookIndex));
  return (
    <g transform={`translate(${x} ${y}) scale(${scale})`}>
      {handlesOfShape(shape).map((handle) => (
        <Handle key={handle.id} handle={handle} shape={shape} svg={svg} unit={unit / scale} toArt={toArt} onDrag={onDrag} />
      ))}
    </g>
  );
}
