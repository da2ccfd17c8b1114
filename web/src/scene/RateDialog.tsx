/** Another frame rate: what becomes of the mouths is shown before it is taken. */
import {
  changeFrameRate,
  exposuresOfTrack,
  formatFrameRate,
  framesPerSecond,
  isRefusal,
  maybeFrameRate,
  sceneSettings,
  USUAL_FRAME_RATES,
  type Exposure,
} from '@zest-jaw/core';
import { useMemo, useState, type ReactElement } from 'react';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { Modal } from '../ui/Modal.js';
import { useOpenScene, useSceneDocument, useSpeaker } from './sceneContext.js';

/** A lane of mouths as bars over its time: where each begins. */
function Lane({
  name,
  exposures,
  seconds,
  fps,
}: {
  name: string;
  exposures: readonly Exposure[];
  seconds: number;
  fps: number;
}): ReactElement {
  const at = (frame: number): number => (frame / fps / seconds) * 1000;
  return (
    <div className="flex items-center gap-3 text-[14px]">
      <span className="w-[120px] shrink-0 text-ink-soft">{name}</span>
      <svg viewBox="0 0 1000 26" preserveAspectRatio="none" className="h-[26px] w-full" aria-hidden>
        {exposures.map(({ id, from, to, inked }) => (
          <rect
            key={id}
            x={at(from) + 1}
            y={3}
            width={Math.max(1, at(to) - at(from) - 2)}
            height={20}
            rx={3}
            fill={inked ? 'var(--ink)' : 'var(--graphite)'}
            opacity={inked ? 1 : 0.55}
          />
        ))}
      </svg>
    </div>
  );
}

export function RateDialog({ onClose }: { onClose: () => void }): ReactElement {
  const { session } = useOpenScene();
  const document = useSceneDocument();
  const { track, allCharts, character } = useSpeaker();
  const settings = sceneSettings(document);
  const [text, setText] = useState(String(formatFrameRate(settings.frameRate)));
  const rate = maybeFrameRate(text);
  const change = useMemo(() => rate && changeFrameRate(document, rate, allCharts, newId), [document, rate, allCharts]);
  const isShown = change !== undefined && !isRefusal(change);
  const after = useMemo(() => {
    if (!change || isRefusal(change)) return [];
    const ops = new Map(
      change.patch.ops.flatMap((op) => (op.op === 'put' && op.table === 'exposures' ? [[op.id, op.after] as const] : [])),
    );
    return exposuresOfTrack(document, track.id).flatMap((exposure) => {
      const put = ops.has(exposure.id) ? (ops.get(exposure.id) as unknown as Exposure | null) : exposure;
      return put ? [put] : [];
    });
  }, [change, document, track.id]);
  const seconds = settings.lengthFrames / framesPerSecond(settings.frameRate);
  const take = (): void => {
    if (isShown && session.change(change.patch)) onClose();
  };
  return (
    <Modal
      open
      wide
      title="Another frame rate"
      description="Every mouth, recording and mark stays where it is in time, on the nearest frame of the new rate; ink stays ink. Key again to plan the pencil anew for it."
      onClose={onClose}
    >
      <form
        className="mt-4 flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        <label className="flex max-w-[220px] flex-col gap-1 font-semibold">
          Frames a second
          <input
            className="field font-normal"
            list="usual-rates"
            value={text}
            autoFocus
            onChange={(event) => setText(event.target.value)}
          />
          <datalist id="usual-rates">
            {USUAL_FRAME_RATES.map((usual) => (
              <option key={formatFrameRate(usual)} value={formatFrameRate(usual)} />
            ))}
          </datalist>
        </label>
        <div className="flex flex-col gap-1 rounded-xl border border-rule bg-lift p-3" aria-live="polite">
          <p className="mb-1 text-[14px] font-semibold">{character.name}</p>
          <Lane
            name={`at ${formatFrameRate(settings.frameRate)}`}
            exposures={exposuresOfTrack(document, track.id)}
            seconds={seconds}
            fps={framesPerSecond(settings.frameRate)}
          />
          {isShown && rate && <Lane name={`at ${formatFrameRate(rate)}`} exposures={after} seconds={seconds} fps={framesPerSecond(rate)} />}
          <p className="mt-1 text-[14px]" data-testid="rate-change">
            {!rate
              ? `The frame rate is “${text}”. It may be 1 to 120 frames a second, such as 24 or 29.97.`
              : isShown
                ? `${settings.lengthFrames} frames become ${change.lengthFrames}. ${
                    change.merged.length === 0
                      ? 'No mouth is lost.'
                      : `${count(change.merged.length, 'mouth falls', 'mouths fall')} together with a neighbour.`
                  }`
                : (change?.refusal ?? '')}
          </p>
        </div>
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" weight="main" disabled={!isShown}>
            Take it
          </Button>
        </div>
      </form>
    </Modal>
  );
}
