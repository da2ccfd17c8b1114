/** Why the mouth at the playhead is there: what it plays, what was dropped beside it, what else it could have been. */
import { ipaOf, keyingJobOf, maybeDrawing, maybeExposureAt, type Explanation, type HeardFrames } from '@zest-jaw/core';
import { useEffect, useState, type ReactElement } from 'react';
import { useFrame, useOpenScene } from '../scene/sceneContext.js';
import { Mouth } from '../mouth/Mouth.js';
import { SidePanel } from './SidePanel.js';
import { explainInWorker } from '../workers/heavy.js';

const offsetInWords = (offset: number): string => {
  const size = Math.abs(offset);
  if (size < 0.75) return 'It starts where its sound asks for it, within a frame.';
  return `It starts ${size.toFixed(1)} frames ${offset < 0 ? 'before' : 'after'} where its sound asks for it.`;
};

export function WhyPanel({ heard, onClose }: { heard: HeardFrames | undefined; onClose: () => void }): ReactElement {
  const { document, track, chart, data } = useOpenScene();
  const frame = useFrame();
  const exposure = maybeExposureAt(data.exposures, frame);
  const [told, setTold] = useState<{ readonly at: number; readonly why: Explanation | undefined }>();
  const at = exposure && !exposure.inked ? exposure.from : undefined;
  useEffect(() => {
    let wanted = true;
    if (at === undefined) return;
    void explainInWorker(keyingJobOf(document, track, chart, heard), frame).then((answer) => {
      if (wanted) setTold({ at, why: answer });
    });
    return () => void (wanted = false);
    // The same exposure has the same reasons wherever the playhead is in it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [document, track, chart, heard, at]);
  const why = told && told.at === at ? told.why : undefined;
  const drawing = exposure && maybeDrawing(chart, exposure.drawing);
  return (
    <SidePanel
      label="Why this mouth"
      title={<h2 className="name text-[19px]">Why this mouth?</h2>}
      closeLabel="Close the reasons"
      onClose={onClose}
    >
      <div className="min-h-0 flex-1 space-y-3 overflow-y-auto px-3 pb-3 pt-1 leading-snug" aria-live="polite">
        {exposure && drawing && (
          <div className="flex items-center gap-3">
            <span className="relative h-[52px] w-[64px] shrink-0 rounded-[10px] border border-rule bg-ground">
              <Mouth chart={chart} drawing={drawing} lineWeight={1.25} className="absolute inset-1 h-[calc(100%-8px)] w-[calc(100%-8px)]" />
            </span>
            <p>
              <b className="font-semibold">{drawing.label}</b>
              <span className="block text-[14px] text-ink-soft">
                {exposure.to - exposure.from === 1 ? 'for 1 frame' : `for ${exposure.to - exposure.from} frames`}
              </span>
            </p>
          </div>
        )}
        {exposure?.inked && <p>You decided it: it is ink, and no rule moves it.</p>}
        {track.rules.source === 'loudness' && !exposure?.inked && (
          <p>It is as open as the recording is loud, between the floor and the peak over the wave.</p>
        )}
        {why && (
          <>
            <p>
              {why.because} {why.drawing !== exposure?.drawing && 'The rules have changed since it was keyed: key the pencil again.'}
            </p>
            {why.plays.length > 0 && <p className="text-ink-soft">{offsetInWords(why.offset)}</p>}
            {why.dropped.length > 0 && (
              <div>
                <h3 className="font-semibold">Without a mouth of their own</h3>
                <ul className="mt-1 space-y-1">
                  {why.dropped.map(({ sound, symbol, why: reason }) => (
                    <li key={sound} className="flex gap-2">
                      <span className="w-7 shrink-0 font-semibold">{ipaOf(symbol)}</span>
                      <span className="text-[14px] text-ink-soft">{reason}</span>
                    </li>
                  ))}
                </ul>
              </div>
            )}
            {why.alternatives.length > 0 && (
              <div>
                <h3 className="font-semibold">What else it could have been</h3>
                <ul className="mt-1 list-disc space-y-1 pl-5 text-[14px] text-ink-soft">
                  {why.alternatives.map(({ sentence }) => (
                    <li key={sentence}>{sentence}</li>
                  ))}
                </ul>
              </div>
            )}
          </>
        )}
      </div>
    </SidePanel>
  );
}
