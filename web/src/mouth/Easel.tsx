/** The easel: the character with one mouth. */
import {
  headToSvg,
  jawDropOf,
  lookIndexAt,
  lookOf,
  maybeHead,
  MOUTH_BOX,
  mouthTransform,
  type ChartDocument,
  type ChartHead,
  type Drawing,
} from '@zest-jaw/core';
import { useMemo, type CSSProperties, type ReactElement } from 'react';
import { useLookMarkup } from './Mouth.js';
import { assetUrl } from './pictures.js';

interface EaselProps {
  /** Who it is. */
  readonly name: string;
  readonly chart: ChartDocument;
  /** undefined shows the head without a mouth. */
  readonly drawing: Drawing | undefined;
  readonly frame?: number;
  /** The frame the drawing has been shown since, for a cycle. */
  readonly since?: number;
  /** Without its backdrop, as it is handed on. */
  readonly bare?: boolean;
  readonly className?: string;
}

export function backdropOf(head: ChartHead | undefined): CSSProperties {
  const [sky, middle, ground] = head?.backdrop ?? ['transparent', 'transparent', 'transparent'];
  return { background: `linear-gradient(${sky}, ${middle} 64%, ${ground} 64.3%, ${ground})` };
}

/** A head's elements with its jaw where the drawing has it. */
export function useHeadMarkup(chart: ChartDocument, drawing: Drawing | undefined): string {
  const head = maybeHead(chart);
  const drop = jawDropOf(chart, drawing);
  return useMemo(() => (head ? headToSvg(head, drop, assetUrl) : ''), [head, drop]);
}

export function Easel({ name, chart, drawing, frame = 0, since = 0, bare = false, className }: EaselProps): ReactElement {
  const head = maybeHead(chart);
  const look = drawing && lookOf(drawing, lookIndexAt(drawing, frame, since));
  const markup = useLookMarkup(chart, look);
  const headMarkup = useHeadMarkup(chart, drawing);
  const box = head ? `0 0 ${head.width} ${head.height}` : `${MOUTH_BOX.x} ${MOUTH_BOX.y} ${MOUTH_BOX.width} ${MOUTH_BOX.height}`;
  return (
    <div
      className={`overflow-hidden rounded-[14px] border border-rule ${className ?? ''}`}
      style={bare ? undefined : backdropOf(head)}
      role="img"
      aria-label={`${name}, ${drawing ? drawing.label : 'no mouth'}`}
      data-testid="easel"
      data-frame={frame}
      data-drawing={drawing?.id}
    >
      <svg viewBox={box} className="block h-full w-full" aria-hidden>
        <g dangerouslySetInnerHTML={{ __html: headMarkup }} />
        <g data-part="mouth" transform={head && mouthTransform(head.mouth)} dangerouslySetInnerHTML={{ __html: markup }} />
      </svg>
    </div>
  );
}
