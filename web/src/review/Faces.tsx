/** Everybody who speaks in a scene at a frame, side by side, and what is drawn over them. */
import {
  boilAt,
  faceAt,
  framesPerSecond,
  sceneSettings,
  seenAt,
  mouthLanes,
  placeOfFace,
  type ChartDocument,
  type RemarkStroke,
  type SceneDocument,
} from '@zest-jaw/core';
import { useState, type PointerEvent, type ReactElement } from 'react';
import { Easel } from '../mouth/Easel.js';
import { FaceChartsContext } from '../mouth/faceChartsContext.js';

interface FacesProps {
  readonly document: SceneDocument;
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly frame: number;
  readonly nameOf: (characterId: string) => string;
  /** In hundredths of the width and the height. */
  readonly strokes: readonly RemarkStroke[];
  /** A stroke was drawn; left out nothing can be. */
  readonly onStroke: ((stroke: RemarkStroke) => void) | undefined;
}

/** A stroke has so many points at most: further ones thin it. */
const MOST_POINTS = 180;

const placeOf = ({ currentTarget, clientX, clientY }: PointerEvent<Element>): [number, number] => {
  const { left, top, width, height } = currentTarget.getBoundingClientRect();
  const share = (value: number, whole: number): number => Math.round((1000 * value) / Math.max(1, whole)) / 10;
  return [share(clientX - left, width), share(clientY - top, height)];
};

function thinned(points: readonly number[]): number[] {
  const each = Math.ceil(points.length / 2 / MOST_POINTS);
  return points.filter((_, index) => Math.floor(index / 2) % each === 0);
}

export function Faces({ document, charts, frame, nameOf, strokes, onStroke }: FacesProps): ReactElement {
  const [drawn, setDrawn] = useState<readonly number[]>();
  const end = (): void => {
    if (drawn && drawn.length >= 4) onStroke?.(thinned(drawn));
    setDrawn(undefined);
  };
  return (
    <FaceChartsContext.Provider value={charts}>
      <div className="relative flex min-h-0 flex-1 gap-3">
        {mouthLanes(document).map((lane) => {
          const { id, characterId, boil } = lane;
          const seen = seenAt(document, lane, charts, frame);
          return (
            seen && (
              <Easel
                key={id}
                name={nameOf(characterId)}
                chart={seen.chart}
                drawing={seen.drawing}
                frame={frame}
                boil={boilAt(boil, frame, framesPerSecond(sceneSettings(document).frameRate))}
                face={faceAt(document, id, charts, frame)}
                place={placeOfFace(document, id, charts, frame)}
                since={seen.since}
                className="min-h-0 min-w-0 flex-1"
              />
            )
          );
        })}
        <svg
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          aria-label="Draw here to point at something"
          role="img"
          data-testid="drawn"
          data-strokes={strokes.length}
          className={`absolute inset-0 size-full touch-none ${onStroke ? 'cursor-crosshair' : ''}`}
          onPointerDown={(event) => {
            if (!onStroke || event.button !== 0) return;
            event.currentTarget.setPointerCapture(event.pointerId);
            setDrawn(placeOf(event));
          }}
          onPointerMove={(event) => {
            const place = placeOf(event);
            setDrawn((before) => before && [...before, ...place]);
          }}
          onPointerUp={end}
          onPointerCancel={() => setDrawn(undefined)}
        >
          {/* On a dark rim, so that it is seen on any face. */}
          {(['rim', 'line'] as const).flatMap((part) =>
            [...strokes, ...(drawn ? [drawn] : [])].map((stroke, index) => (
              <polyline
                key={`${part} ${index}`}
                points={stroke.join(' ')}
                fill="none"
                stroke={part === 'rim' ? '#1e2a44' : '#f5ac2b'}
                strokeWidth={part === 'rim' ? 9 : 4}
                strokeLinecap="round"
                strokeLinejoin="round"
                vectorEffect="non-scaling-stroke"
              />
            )),
          )}
        </svg>
      </div>
    </FaceChartsContext.Provider>
  );
}
