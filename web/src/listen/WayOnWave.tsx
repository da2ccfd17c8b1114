/** A way of saying a word, laid on the wave of what is heard: each sound where it would be. */
import { extremesOf, ipaOf, type WavePyramid, type WordWay } from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';

/** Its own units: they are stretched to the width there is. */
const WIDTH = 300;
const HEIGHT = 34;

interface WayOnWaveProps {
  readonly way: Pick<WordWay, 'sounds'>;
  readonly pyramid: WavePyramid | undefined;
}

export function WayOnWave({ way, pyramid }: WayOnWaveProps): ReactElement {
  const { sounds } = way;
  const [from, to] = [sounds[0]?.fromSample ?? 0, sounds.at(-1)?.toSample ?? 1];
  const path = useMemo(() => {
    if (!pyramid) return '';
    const { samplesPerBlock } = pyramid.levels[0];
    const block = (x: number): number => Math.floor((from + ((to - from) * x) / WIDTH) / samplesPerBlock);
    const bars = Array.from({ length: WIDTH / 2 }, (_, bar) => extremesOf(pyramid, block(2 * bar), block(2 * bar + 2) + 1));
    const most = bars.reduce((peak, { lowest, highest }) => Math.max(peak, highest, -lowest), 1e-6);
    const y = (value: number): string => (HEIGHT / 2 - (value / most) * (HEIGHT / 2 - 1)).toFixed(1);
    return bars.map(({ lowest, highest }, bar) => `M${2 * bar + 1} ${y(highest)}V${y(lowest)}`).join('');
  }, [pyramid, from, to]);
  const share = (sample: number): number => (100 * (sample - from)) / Math.max(1, to - from);
  return (
    <span className="relative block h-[56px] w-full overflow-hidden" aria-hidden>
      <svg className="absolute inset-x-0 top-0 h-[34px] w-full" viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none">
        <path d={path} stroke="var(--voice)" strokeWidth={1.4} fill="none" />
      </svg>
      {sounds.map((sound, index) => (
        <span
          key={sound.fromSample}
          className="absolute inset-y-0 flex items-end justify-center text-[15px]"
          style={{
            left: `${share(sound.fromSample)}%`,
            width: `${share(sound.toSample) - share(sound.fromSample)}%`,
            borderLeft: index === 0 ? undefined : '1px solid var(--graphite)',
          }}
        >
          {ipaOf(sound.symbol)}
        </span>
      ))}
    </span>
  );
}
