/** The easel: the character with one mouth. */
import {
  headToSvg,
  isHeadReplaced,
  headTransform,
  jawDropOf,
  lookIndexAt,
  lookOf,
  maybeHead,
  MOUTH_BOX,
  mouthTransform,
  seenOf,
  shownParts,
  type Boil,
  type ChartDocument,
  type ChartHead,
  type Drawing,
  type Moved,
  type PartLook,
} from '@zest-jaw/core';
import { useId, useMemo, type CSSProperties, type ReactElement } from 'react';
import { FaceParts } from './FaceParts.js';
import { useFaceCharts } from './faceChartsContext.js';
import { useLookMarkup } from './Mouth.js';
import { assetUrl } from './pictures.js';

/** How much closer one looks, and how far aside, in shares of the easel. */
export interface Closer {
  readonly scale: number;
  readonly x: number;
  readonly y: number;
}

interface EaselProps {
  /** Who it is. */
  readonly name: string;
  readonly chart: ChartDocument;
  /** undefined shows the head without a mouth. */
  readonly drawing: Drawing | undefined;
  readonly frame?: number;
  /** How the mouth is redrawn, where its lane boils. */
  readonly boil?: Boil | undefined;
  /** What the other parts of the face show; left out they are at rest. */
  readonly face?: readonly PartLook[] | undefined;
  /** Where the mouth and the head are, and how far the jaw is down; left out all is as the head has it. */
  readonly place?: Moved | undefined;
  /** The frame the drawing has been shown since, for a cycle. */
  readonly since?: number;
  /** Drawings seen through it, each in a tint of its own: the one before, the one after. */
  readonly beside?: readonly (Drawing | undefined)[] | undefined;
  /** What of it is seen, where one has come closer. */
  readonly closer?: Closer | undefined;
  /** Without its backdrop, as it is handed on. */
  readonly bare?: boolean;
  readonly className?: string;
}

export function backdropOf(head: ChartHead | undefined): CSSProperties {
  const [sky, middle, ground] = head?.backdrop ?? ['transparent', 'transparent', 'transparent'];
  return { background: `linear-gradient(${sky}, ${middle} 64%, ${ground} 64.3%, ${ground})` };
}

/** A head's elements with its jaw where the drawing has it. */
export function useHeadMarkup(chart: ChartDocument, drawing: Drawing | undefined, jaw?: number): string {
  const head = maybeHead(chart);
  const drop = jaw ?? jawDropOf(chart, drawing);
  return useMemo(() => (head ? headToSvg(head, drop, assetUrl) : ''), [head, drop]);
}

/** Of the mouth before and the mouth after: warm and cool. */
const TINTS = ['var(--zest)', 'var(--hiss)'] as const;

/** A drawing as its dark lines alone, in one colour, over what is there. */
function Ghost({ chart, drawing, tint }: { chart: ChartDocument; drawing: Drawing; tint: string }): ReactElement {
  const head = maybeHead(chart);
  const markup = useLookMarkup(chart, lookOf(drawing, 0));
  const id = useId();
  return (
    <g data-part="ghost" opacity={0.6}>
      <filter id={id} colorInterpolationFilters="sRGB">
        {/* What is dark is kept, what is light is clear. */}
        <feColorMatrix values="0 0 0 0 0  0 0 0 0 0  0 0 0 0 0  -0.6 -0.9 -0.3 1 0" result="lines" />
        <feFlood style={{ floodColor: tint }} />
        <feComposite in2="lines" operator="in" />
      </filter>
      <g filter={`url(#${id})`}>
        <g transform={head && mouthTransform(head.mouth)} dangerouslySetInnerHTML={{ __html: markup }} />
      </g>
    </g>
  );
}

export function Easel({
  name,
  chart,
  drawing,
  frame = 0,
  boil,
  face,
  place,
  since = 0,
  beside,
  closer,
  bare = false,
  className,
}: EaselProps): ReactElement {
  const head = maybeHead(chart);
  const look = drawing && seenOf(drawing, lookIndexAt(drawing, frame, since), boil);
  const markup = useLookMarkup(chart, look);
  const headMarkup = useHeadMarkup(chart, drawing, place?.jaw);
  const isReplaced = isHeadReplaced(shownParts(head, useFaceCharts(), face));
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
      <svg
        viewBox={box}
        className="block h-full w-full"
        style={closer && { transform: `translate(${closer.x * 100}%, ${closer.y * 100}%) scale(${closer.scale})` }}
        aria-hidden
      >
        <FaceParts head={head} face={face} depth="plate" />
        <g transform={head && place?.headMoved ? headTransform(head, place.headMoved) : undefined}>
          {!isReplaced && <g dangerouslySetInnerHTML={{ __html: headMarkup }} />}
          <FaceParts head={head} face={face} depth="behind" />
          <g data-part="mouth" transform={head && mouthTransform(head.mouth, place?.moved)} dangerouslySetInnerHTML={{ __html: markup }} />
          <FaceParts head={head} face={face} depth="before" />
          {beside?.map((other, index) => other && <Ghost key={TINTS[index]} chart={chart} drawing={other} tint={TINTS[index]!} />)}
        </g>
      </svg>
    </div>
  );
}
