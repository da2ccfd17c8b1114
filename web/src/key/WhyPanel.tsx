/** Why the mouth at the playhead is there: what it plays, what was dropped beside it, what else it could have been. */
import {
  fullRules,
  ipaOf,
  maybeDrawing,
  maybeExposureAt,
  maybeWhyAdded,
  whyOfPart,
  type Explanation,
  type Exposure,
  type ExposureReason,
  type HeardFrames,
} from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';
import type { SheetSound } from '../barSheet/sheetData.js';
import { useFrame, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { Mouth } from '../mouth/Mouth.js';
import { SidePanel } from './SidePanel.js';
import { keyer } from '../workers/keyer.js';
import { useAnswer } from '../workers/useAnswer.js';

const offsetInWords = (offset: number): string => {
  const size = Math.abs(offset);
  if (size < 0.75) return 'It starts where its sound asks for it, within a frame.';
  return `It starts ${size.toFixed(1)} frames ${offset < 0 ? 'before' : 'after'} where its sound asks for it.`;
};

/** What an exposure plays; under one put by hand, what is heard while it is seen. */
function soundsUnder({ from, to, inked, plays }: Exposure, sounds: readonly SheetSound[], lead: number): string[] {
  const isUnder = (sound: SheetSound): boolean => Math.min(sound.to, to + lead) - Math.max(sound.from, from + lead) > 0.25;
  return sounds.filter((sound) => (inked && plays.length === 0 ? isUnder(sound) : plays.includes(sound.id))).map(({ ipa }) => ipa);
}

export function WhyPanel({ heard, onClose }: { heard: HeardFrames | undefined; onClose: () => void }): ReactElement {
  const document = useSceneDocument();
  const { track, chart, chartId, charts, allCharts } = useSpeaker();
  const { data } = useSheet();
  const frame = useFrame();
  const exposure = maybeExposureAt(data.exposures, frame);
  // The same exposure has the same reasons wherever the playhead is in it.
  const of = exposure && `${exposure.from} ${exposure.inked}`;
  const ask = async (at: Exposure): Promise<{ readonly of: string; readonly why: ExposureReason } | undefined> => {
    const why = await keyer.why({ scene: document, trackId: track.id, charts, heard }, chartId, at);
    return why && { of: of!, why };
  };
  const isMouth = track.kind === 'mouth';
  const told = useAnswer('why', [document, track.id, chart, charts, heard, of], exposure && isMouth ? () => ask(exposure) : undefined);
  const added = isMouth && exposure ? maybeWhyAdded(exposure, chart) : undefined;
  const ofPart = useMemo(
    () => (exposure && !isMouth ? whyOfPart(document, track, exposure, { chart, charts: allCharts }) : []),
    [document, track, exposure, isMouth, chart, allCharts],
  );
  const why = told?.of === of ? told?.why : undefined;
  const drawing = exposure && maybeDrawing(chart, exposure.drawing);
  const sounds = exposure ? soundsUnder(exposure, data.sounds, fullRules(track.rules).leadFrames) : [];
  return (
    <SidePanel
      label="Why this mouth"
      title={<h2 className="name text-[19px]">{track.kind === 'part' ? 'Why is it so?' : 'Why this mouth?'}</h2>}
      closeLabel="Close the reasons"
      onClose={onClose}
    >
      <div className="min-h-0 flex-1 space-y-3 overflow-y-auto px-3 pb-3 pt-1 leading-snug" aria-live="polite">
        {exposure && drawing && (
          <div className="flex items-center gap-3">
            <span className="relative h-[52px] w-[64px] shrink-0 rounded-[10px] border border-rule bg-ground">
              <Mouth chart={chart} drawing={drawing} lineWeight={1.25} className="absolute inset-1 h-[calc(100%-8px)] w-[calc(100%-8px)]" />
            </span>
            <p className="min-w-0">
              <b className="font-semibold">{drawing.label}</b>
              <span className="block text-[14px] text-ink-soft">
                {exposure.to - exposure.from === 1 ? 'for 1 frame' : `for ${exposure.to - exposure.from} frames`}
                {sounds.length > 0 && `, over ${sounds.join(' ')}`}
              </span>
            </p>
          </div>
        )}
        {exposure && added !== undefined && <p>{added}</p>}
        {track.kind === 'part' && exposure && ofPart.map((sentence) => <p key={sentence}>{sentence}</p>)}
        {track.kind === 'mouth' && exposure?.inked && <p>You decided it: it is ink, and no rule moves it.</p>}
        {why?.loudness && (
          <p>
            {exposure?.inked && 'The rules would have gone by loudness. '}
            {why.loudness}
          </p>
        )}
        {why?.plan && exposure && added === undefined && <PlanReasons why={why.plan} exposure={exposure} />}
      </div>
    </SidePanel>
  );
}

/** What the plan says: of itself, or of what it would have in the place of ink. */
function PlanReasons({ why, exposure }: { why: Explanation; exposure: Exposure }): ReactElement {
  const { chart } = useSpeaker();
  const label = maybeDrawing(chart, why.drawing)?.label ?? why.drawing;
  const isSame = why.drawing === exposure.drawing;
  return (
    <>
      {exposure.inked && <p>{isSame ? `The rules would have ${label} here too.` : `The rules would have ${label} here.`}</p>}
      <p>
        {why.because} {!exposure.inked && !isSame && 'The rules have changed since it was keyed: key the pencil again.'}
      </p>
      {why.plays.length > 0 && !exposure.inked && <p className="text-ink-soft">{offsetInWords(why.offset)}</p>}
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
          <h3 className="font-semibold">{exposure.inked ? 'What else the rules weighed' : 'What else it could have been'}</h3>
          <ul className="mt-1 list-disc space-y-1 pl-5 text-[14px] text-ink-soft">
            {why.alternatives.map(({ sentence }) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </div>
      )}
    </>
  );
}
