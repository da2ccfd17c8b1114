/** Handles on the easel for the mouth at the playhead: to its side for its width, below for its height, at the corner for its turn. */
import { boxOfLook, madeOf, maybeDrawing, PUSH_LIMITS, type ChartDocument, type Push } from '@zest-jaw/core';
import { useRef, useState, type PointerEvent, type ReactElement } from 'react';

const AS_DRAWN: Push = { width: 1, height: 1, angle: 0 };
type Handle = keyof Push;
const NAMES: Readonly<Record<Handle, string>> = { width: 'Wider or narrower', height: 'Taller or flatter', angle: 'Turned' };
/** What an arrow key changes. */
const STEPS: Readonly<Record<Handle, number>> = { width: 0.02, height: 0.02, angle: 1 };

const kept = (value: number, handle: Handle): number => {
  const { least, most, angle } = PUSH_LIMITS;
  return handle === 'angle'
    ? Math.max(-angle, Math.min(angle, Math.round(value)))
    : Math.max(least, Math.min(most, Math.round(value * 100) / 100));
};

interface PushHandlesProps {
  readonly chart: ChartDocument;
  /** What is seen at the playhead. */
  readonly drawing: string;
  /** Units of the chart to a screen pixel, roughly: handles stay as large as a finger. */
  readonly size: number;
  /** While it is dragged. */
  readonly onDraft: (push: Push | undefined) => void;
  readonly onPush: (push: Push) => void;
}

/** Lies in the mouth's own units: inside the group that places it. */
export function PushHandles({ chart, drawing, size, onDraft, onPush }: PushHandlesProps): ReactElement | null {
  const group = useRef<SVGGElement>(null);
  const [held, setHeld] = useState<Handle>();
  const { plain, push = AS_DRAWN } = madeOf(drawing);
  const look = maybeDrawing(chart, plain);
  if (!look) return null;
  const box = boxOfLook(look);
  const [right, low] = [Math.max(12, box.x + box.width), Math.max(12, box.y + box.height)];
  const at: Readonly<Record<Handle, readonly [number, number]>> = {
    width: [right * push.width + 6 * size, 0],
    height: [0, low * push.height + 6 * size],
    angle: [right * push.width + 4 * size, low * push.height + 4 * size],
  };
  const pushAt = (event: PointerEvent, handle: Handle): Push => {
    const matrix = group.current?.getScreenCTM()?.inverse();
    if (!matrix) return push;
    // The group is turned with the mouth: for its turn the angle on the screen is measured, for the rest its own units.
    const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    if (handle === 'width') return { ...push, width: kept((point.x - 6 * size) / right, 'width') };
    if (handle === 'height') return { ...push, height: kept((point.y - 6 * size) / low, 'height') };
    const [x, y] = at.angle;
    const turn = ((Math.atan2(point.y, point.x) - Math.atan2(y, x)) * 180) / Math.PI;
    return { ...push, angle: kept(push.angle + turn, 'angle') };
  };
  return (
    <g ref={group} transform={`rotate(${push.angle})`} data-part="push-handles">
      <rect
        x={Math.min(box.x, -12) * push.width}
        y={Math.min(box.y, -2) * push.height}
        width={(right - Math.min(box.x, -12)) * push.width}
        height={(low - Math.min(box.y, -2)) * push.height}
        className="fill-none stroke-zest"
        strokeWidth={size}
        strokeDasharray={`${4 * size} ${3 * size}`}
      />
      {(Object.keys(at) as Handle[]).map((handle) => (
        <circle
          key={handle}
          cx={at[handle][0]}
          cy={at[handle][1]}
          r={6.5 * size}
          role="slider"
          tabIndex={0}
          aria-label={NAMES[handle]}
          aria-valuenow={Math.round(handle === 'angle' ? push.angle : push[handle] * 100)}
          className={`cursor-grab stroke-ink outline-offset-2 ${handle === 'angle' ? 'fill-sheet' : 'fill-zest'}`}
          strokeWidth={1.4 * size}
          onPointerDown={(event) => {
            event.stopPropagation();
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld(handle);
          }}
          onPointerMove={(event) => held === handle && onDraft(pushAt(event, handle))}
          onPointerUp={(event) => {
            if (held !== handle) return;
            setHeld(undefined);
            onPush(pushAt(event, handle));
            onDraft(undefined);
          }}
          onPointerCancel={() => {
            setHeld(undefined);
            onDraft(undefined);
          }}
          onKeyDown={(event) => {
            const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
            if (by === undefined) return;
            event.preventDefault();
            event.stopPropagation();
            onPush({ ...push, [handle]: kept(push[handle] + by * STEPS[handle], handle) });
          }}
        />
      ))}
    </g>
  );
}
