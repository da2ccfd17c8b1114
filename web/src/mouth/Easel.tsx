/** The easel: the character with one mouth. */
import { type CharacterView, type ChartDocument, type Drawing, mouthTransform } from '@zest-jaw/core';
import type { CSSProperties, ReactElement } from 'react';
import { useMouthMarkup } from './Mouth.js';

interface EaselProps {
  readonly character: CharacterView;
  readonly chart: ChartDocument;
  /** undefined shows the head without a mouth. */
  readonly drawing: Drawing | undefined;
  /** Another drawing shown faintly through it, to line up against. */
  readonly onion?: Drawing | undefined;
  readonly frame?: number;
  readonly className?: string;
}

export function backdropOf(character: CharacterView): CSSProperties {
  const [sky, middle, ground] = character.backdrop;
  return { background: `linear-gradient(${sky}, ${middle} 64%, ${ground} 64.3%, ${ground})` };
}

export function Easel({ character, chart, drawing, onion, frame, className }: EaselProps): ReactElement {
  const markup = useMouthMarkup(chart, drawing);
  const onionMarkup = useMouthMarkup(chart, onion);
  const label = `${character.name}, ${drawing ? drawing.label : 'no mouth'}`;
  return (
    <div
      className={`overflow-hidden rounded-[14px] border border-rule ${className ?? ''}`}
      style={backdropOf(character)}
      role="img"
      aria-label={label}
      data-testid="easel"
      data-frame={frame}
      data-drawing={drawing?.id}
    >
      <svg viewBox={`0 0 ${character.headWidth} ${character.headHeight}`} className="block h-full w-full" aria-hidden>
        <image href={`/api/assets/${character.head}`} width={character.headWidth} height={character.headHeight} />
        <g transform={mouthTransform(character.mouth)} dangerouslySetInnerHTML={{ __html: markup }} />
        {onion && <g transform={mouthTransform(character.mouth)} opacity={0.35} dangerouslySetInnerHTML={{ __html: onionMarkup }} />}
        {onion && (
          <path d="M-7 0H7M0 -7V7" transform={`translate(${character.mouth.x} ${character.mouth.y})`} stroke="#1e2a44" strokeWidth={1.5} />
        )}
      </svg>
    </div>
  );
}
