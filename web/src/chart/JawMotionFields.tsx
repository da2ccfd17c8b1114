/** How the jaw follows the mouth, with a picture of it. */
import { JAW_LIMITS, jawOf, PLAIN_JAW, type ChartHead, type JawMotion } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { Slider } from '../ui/Slider.js';

/** How open a made-up mouth is in each frame: a vowel, lips that meet, another. */
const MOUTH = [0, 0, 0, 0, 0.7, 0.7, 0.7, 0.7, 0, 0, 1, 1, 1, 1, 1, 0.4, 0.4, 0, 0, 0, 0, 0];
const HEIGHT = 30;

/** Steps of the mouth, and the line of the jaw that follows them. */
function JawPicture({ motion }: { readonly motion: JawMotion }): ReactElement {
  const openAt = (frame: number): number => MOUTH[frame] ?? 0;
  const y = (open: number): number => 2 + open * (HEIGHT - 4);
  const line = MOUTH.map((_, frame) => `${frame * 10 + 5},${y(jawOf(motion, openAt, frame))}`).join(' ');
  return (
    <svg
      viewBox={`0 0 ${MOUTH.length * 10} ${HEIGHT}`}
      className="my-1 block h-[34px] w-full rounded-md bg-paper"
      aria-hidden
      preserveAspectRatio="none"
    >
      {MOUTH.map((open, frame) => (
        <rect key={frame} x={frame * 10} y={0} width={9} height={Math.max(1, y(open))} className="fill-rule" />
      ))}
      <polyline points={line} className="fill-none stroke-ink" strokeWidth={2} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

export function JawMotionFields({
  head,
  onChange,
}: {
  readonly head: ChartHead;
  readonly onChange: (head: ChartHead) => void;
}): ReactElement {
  const motion = head.jawMotion ?? PLAIN_JAW;
  const set = (changes: Partial<JawMotion>): void => onChange({ ...head, jawMotion: { ...motion, ...changes } });
  return (
    <>
      <Slider label="Lead, frames" value={motion.lead} least={0} most={JAW_LIMITS.lead} step={1} onChange={(lead) => set({ lead })} />
      <Slider label="Ease, frames" value={motion.ease} least={0} most={JAW_LIMITS.ease} step={1} onChange={(ease) => set({ ease })} />
      <Slider
        label="Share, %"
        value={Math.round(motion.share * 100)}
        least={0}
        most={JAW_LIMITS.share * 100}
        step={5}
        onChange={(percent) => set({ share: percent / 100 })}
      />
      <JawPicture motion={motion} />
    </>
  );
}
