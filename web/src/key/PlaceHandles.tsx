/** Handles on the easel for where something is: its box is dragged, its corner sizes it, the knob above it turns it, the one below skews it. */
import { NO_PLACE, PLACE_LIMITS, type Box, type PlaceValue } from '@zest-jaw/core';
import { useState, type PointerEvent, type ReactElement } from 'react';

type Handle = 'move' | 'size' | 'turn' | 'skew';

const round = (value: number, to: number): number => Math.round(value * to) / to;

/** Where the pointer is in the units of what carries the handles. */
function pointOf(event: PointerEvent): DOMPoint | undefined {
  const matrix = event.currentTarget.closest<SVGGElement>('[data-carrier]')?.getScreenCTM()?.inverse();
  return matrix && new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
}

interface PlaceHandlesProps {
  /** What is seen, in the units of what carries it, before it is moved. */
  readonly box: Box;
  /** About which it is sized and turned. */
  readonly cross: { readonly x: number; readonly y: number };
  readonly place: PlaceValue | undefined;
  /** Units to a screen pixel, roughly. */
  readonly size: number;
  readonly onDraft: (place: PlaceValue | undefined) => void;
  readonly onPlace: (place: PlaceValue) => void;
}

/** Lies in the units of what carries it. */
export function PlaceHandles({ box, cross, place = NO_PLACE, size, onDraft, onPlace }: PlaceHandlesProps): ReactElement {
  const [held, setHeld] = useState<{ readonly handle: Handle; readonly x: number; readonly y: number; readonly from: PlaceValue }>();
  const placeAt = (event: PointerEvent): PlaceValue | undefined => {
    const point = pointOf(event);
    if (!held || !point) return undefined;
    const { handle, from } = held;
    if (handle === 'move') return { ...from, x: round(from.x + point.x - held.x, 10), y: round(from.y + point.y - held.y, 10) };
    const [middleX, middleY] = [cross.x + from.x, cross.y + from.y];
    const [was, is] = [
      [held.x - middleX, held.y - middleY],
      [point.x - middleX, point.y - middleY],
    ] as const;
    if (handle === 'size') {
      const factor = Math.hypot(...is) / Math.max(1e-6, Math.hypot(...was));
      const scale = Math.max(PLACE_LIMITS.leastScale, Math.min(PLACE_LIMITS.mostScale, round(from.scale * factor, 100)));
      return { ...from, scale };
    }
    if (handle === 'skew') {
      // Its lower edge goes along itself: as far as the pointer does in the box's own direction.
      const along =
        (point.x - held.x) * Math.cos((from.angle * Math.PI) / 180) + (point.y - held.y) * Math.sin((from.angle * Math.PI) / 180);
      const lean = Math.tan((from.skew * Math.PI) / 180) + along / Math.max(1e-6, (box.y + box.height - cross.y) * from.scale);
      const skew = round((Math.atan(lean) * 180) / Math.PI, 1);
      return { ...from, skew: Math.max(-PLACE_LIMITS.skew, Math.min(PLACE_LIMITS.skew, skew)) };
    }
    const turn = ((Math.atan2(is[1], is[0]) - Math.atan2(was[1], was[0])) * 180) / Math.PI;
    const angle = round(from.angle + turn, 1);
    return { ...from, angle: angle > 180 ? angle - 360 : angle < -180 ? angle + 360 : angle };
  };
  const take = (handle: Handle) => ({
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      const point = pointOf(event);
      if (!point || event.button !== 0) return;
      event.stopPropagation();
      event.currentTarget.setPointerCapture(event.pointerId);
      setHeld({ handle, x: point.x, y: point.y, from: place });
    },
    onPointerMove: (event: PointerEvent) => held?.handle === handle && onDraft(placeAt(event)),
    onPointerUp: (event: PointerEvent) => {
      const after = placeAt(event);
      if (held?.handle !== handle || !after) return;
      setHeld(undefined);
      onPlace(after);
      onDraft(undefined);
    },
    onPointerCancel: () => {
      setHeld(undefined);
      onDraft(undefined);
    },
  });
  const knob = { r: 6.5 * size, className: 'cursor-grab fill-zest stroke-ink', strokeWidth: 1.4 * size } as const;
  const nudge = (key: 'x' | 'y', by: number): void => onPlace({ ...place, [key]: place[key] + by });
  return (
    <g data-carrier>
      <g
        transform={`translate(${cross.x + place.x} ${cross.y + place.y}) rotate(${place.angle}) skewX(${place.skew}) scale(${place.scale}) translate(${-cross.x} ${-cross.y})`}
      >
        <rect
          {...box}
          role="button"
          tabIndex={0}
          aria-label="Drag to move, or arrow keys"
          className="cursor-move fill-transparent stroke-zest outline-offset-2"
          strokeWidth={(1.4 * size) / place.scale}
          strokeDasharray={`${(4 * size) / place.scale} ${(3 * size) / place.scale}`}
          onKeyDown={(event) => {
            const by = { ArrowRight: ['x', 1], ArrowLeft: ['x', -1], ArrowDown: ['y', 1], ArrowUp: ['y', -1] } as const;
            const found = by[event.key as keyof typeof by];
            if (!found) return;
            event.preventDefault();
            event.stopPropagation();
            nudge(found[0], found[1] * size);
          }}
          {...take('move')}
        />
        <circle
          {...knob}
          r={knob.r / place.scale}
          strokeWidth={knob.strokeWidth / place.scale}
          cx={box.x + box.width}
          cy={box.y + box.height}
          data-handle="size"
          {...take('size')}
        />
        <circle
          {...knob}
          r={knob.r / place.scale}
          strokeWidth={knob.strokeWidth / place.scale}
          className="cursor-grab fill-sheet stroke-ink"
          cx={box.x + box.width / 2}
          cy={box.y - (12 * size) / place.scale}
          data-handle="turn"
          {...take('turn')}
        />
        <circle
          {...knob}
          r={(knob.r * 0.8) / place.scale}
          strokeWidth={knob.strokeWidth / place.scale}
          className="cursor-ew-resize fill-sheet stroke-ink"
          cx={box.x + box.width / 2}
          cy={box.y + box.height}
          data-handle="skew"
          {...take('skew')}
        />
      </g>
    </g>
  );
}
