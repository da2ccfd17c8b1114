/** Where the playhead is: frame number, what is said there, which mouth, timecode. */
import {
  SILENT_DB,
  formatTimecode,
  frameNumber,
  maybeExposureAt,
  maybeLevelAt,
  sceneSettings,
  spansWithin,
  type Span,
} from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { useDrawingAtPlayhead, useFrame, useSceneDocument, useSheet } from './sceneContext.js';

const oneFrame = (frame: number): Span => ({ from: frame, to: frame + 1 });

/** What of spans in order fills most of a frame; undefined in silence. */
export function mostHeard<T extends Span>(spans: readonly T[], frame: number): T | undefined {
  const heard = (span: T): number => Math.min(span.to, frame + 1) - Math.max(span.from, frame);
  return spansWithin(spans, oneFrame(frame)).reduce<T | undefined>(
    (most, span) => (heard(span) > Math.max(0, most ? heard(most) : 0) ? span : most),
    undefined,
  );
}

export function Readout(): ReactElement {
  const document = useSceneDocument();
  const { data } = useSheet();
  const frame = useFrame();
  const drawing = useDrawingAtPlayhead();
  const exposure = maybeExposureAt(data.exposures, frame);
  const level = maybeLevelAt(data.waves, frame);
  const word = mostHeard(data.words, frame);
  const sounds = spansWithin(data.sounds, oneFrame(frame)).map((sound) => sound.ipa);
  return (
    <div className="flex h-[44px] items-center gap-3" data-testid="readout" data-frame={frame}>
      <span className="name min-w-[52px] text-[28px] leading-none">{frameNumber(document, frame)}</span>
      <div className="min-w-0 flex-1 leading-tight">
        <p className="truncate font-semibold">
          {drawing?.label ?? 'no mouth'}
          {exposure && <span className="font-normal text-ink-soft">{exposure.inked ? ', ink' : ', pencil'}</span>}
        </p>
        <p className="truncate text-[14px] text-ink-soft">
          {word ? `“${word.text}”${sounds.length > 0 ? `  ${sounds.join(' ')}` : ''}` : 'silence'}
        </p>
      </div>
      <span className="text-right text-[14px] leading-tight text-ink-soft">
        <span className="block">{formatTimecode(sceneSettings(document).frameRate, frame)}</span>
        <span className="block" title="Level of this frame, below full scale">
          {level === undefined ? '' : level < SILENT_DB ? 'silent' : `${Math.round(level)} dB`}
        </span>
      </span>
    </div>
  );
}
