/** Handles over the easel, in its own units: for pushing what is worked on, or for moving it. */
import {
  boxOfLook,
  carriersOf,
  headTransform,
  lookOf,
  maybeDrawing,
  mouthTransform,
  placeOnHead,
  type Box,
  type ChartDocument,
  type ChartHead,
  type Exposure,
  type HeadPart,
  type MouthPlace,
  type Moved,
  type PartLook,
  type PlaceValue,
  type Push,
} from '@zest-jaw/core';
import type { ReactElement, ReactNode } from 'react';
import { PlaceHandles } from './PlaceHandles.js';
import { PushHandles } from './PushHandles.js';

export interface Handled {
  readonly head: ChartHead;
  readonly chart: ChartDocument;
  readonly exposure: Exposure;
  /** The drawing that is seen. */
  readonly drawing: string;
  /** The part that is worked on; undefined for the mouth. */
  readonly part: HeadPart | undefined;
  readonly moved: Moved | undefined;
  readonly face: readonly PartLook[];
}

/** How large a unit of the chart of what is worked on is on the head. */
const scaleOf = ({ head, part }: Handled): number =>
  part ? carriersOf(head, part).reduce((scale, { at }) => scale * at.scale, 1) : head.mouth.scale;

/** Units of the head to a pixel of the screen, roughly. */
const perPixel = ({ width }: ChartHead): number => width / 300;

function Over({ handled: { head, moved }, children }: { readonly handled: Handled; readonly children: ReactNode }): ReactElement {
  return (
    <svg viewBox={`0 0 ${head.width} ${head.height}`} className="pointer-events-none absolute inset-px" role="group" aria-label="Handles">
      <g transform={moved?.headMoved ? headTransform(head, moved.headMoved) : undefined} className="pointer-events-auto">
        {children}
      </g>
    </svg>
  );
}

interface PushOverProps {
  readonly handled: Handled;
  readonly onDraft: (push: Push | undefined) => void;
  readonly onPush: (push: Push) => void;
}

export function PushOver({ handled, onDraft, onPush }: PushOverProps): ReactElement {
  const { head, chart, exposure, drawing, part, moved, face } = handled;
  const movedOf = (id: string): string => face.find((one) => one.part === id)?.moved ?? '';
  const transform = part
    ? carriersOf(head, part)
        .map(({ id, at }) => `${placeOnHead(at)} ${movedOf(id)}`)
        .join(' ')
    : mouthTransform(head.mouth, moved?.moved);
  return (
    <Over handled={handled}>
      <g transform={transform}>
        <PushHandles
          key={exposure.id}
          chart={chart}
          drawing={drawing}
          size={perPixel(head) / scaleOf(handled)}
          onDraft={onDraft}
          onPush={onPush}
        />
      </g>
    </Over>
  );
}

/** A box of a chart's square where a place puts it, unturned. */
const boxAt = ({ x, y, width, height }: Box, at: MouthPlace): Box => ({
  x: at.x + x * at.scale,
  y: at.y + y * at.scale,
  width: width * at.scale,
  height: height * at.scale,
});

interface PlaceOverProps {
  readonly handled: Handled;
  /** The whole head is moved, not what is worked on. */
  readonly isHead: boolean;
  readonly place: PlaceValue | undefined;
  readonly onDraft: (place: PlaceValue | undefined) => void;
  readonly onPlace: (place: PlaceValue) => void;
}

export function PlaceOver({ handled, isHead, place, onDraft, onPlace }: PlaceOverProps): ReactElement {
  const { head, chart, drawing, part, moved, face } = handled;
  const { width, height } = head;
  if (isHead) {
    const box = { x: width * 0.06, y: height * 0.12, width: width * 0.88, height: height * 0.82 };
    const cross = { x: width / 2, y: height / 2 };
    // The whole head moves within the picture, not within itself.
    return (
      <Over handled={{ ...handled, moved: undefined }}>
        <PlaceHandles box={box} cross={cross} place={place} size={perPixel(head)} onDraft={onDraft} onPlace={onPlace} />
      </Over>
    );
  }
  const at = part?.at ?? head.mouth;
  const seen = maybeDrawing(chart, drawing);
  const box = boxAt(seen ? boxOfLook(lookOf(seen, 0)) : { x: -20, y: -20, width: 40, height: 40 }, at);
  const carriers = part ? carriersOf(head, part).slice(0, -1) : [];
  const transform = carriers.map(({ id, at: on }) => `${placeOnHead(on)} ${face.find((one) => one.part === id)?.moved ?? ''}`).join(' ');
  const size = perPixel(head) / carriers.reduce((scale, one) => scale * one.at.scale, 1);
  return (
    <Over handled={{ ...handled, moved }}>
      <g transform={transform === '' ? undefined : transform}>
        <PlaceHandles box={box} cross={at} place={place} size={size} onDraft={onDraft} onPlace={onPlace} />
      </g>
    </Over>
  );
}
