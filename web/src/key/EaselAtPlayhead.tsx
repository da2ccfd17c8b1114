/** The character at the playhead, wearing the mouth that is there, or for a moment the one beside it. */
import { indexAtSorted, maybeDrawing, maybeExposureAt } from '@zest-jaw/core';
import { clsx } from 'clsx';
import type { ReactElement } from 'react';
import { Easel } from '../mouth/Easel.js';
import { useFrame, useSheet, useSpeaker } from '../scene/sceneContext.js';

interface EaselAtPlayheadProps {
  readonly small: boolean;
  /** −1 for the mouth before the one at the playhead, 1 for the one after. */
  readonly flipped: -1 | 0 | 1;
}

export function EaselAtPlayhead({ small, flipped }: EaselAtPlayheadProps): ReactElement {
  const { character, chart } = useSpeaker();
  const { exposures } = useSheet().data;
  const frame = useFrame();
  const here = maybeExposureAt(exposures, frame);
  const shown = flipped === 0 ? here : (exposures[indexAtSorted(exposures, frame, ({ from }) => from) + flipped] ?? here);
  return (
    <Easel
      name={character.name}
      chart={chart}
      drawing={shown && maybeDrawing(chart, shown.drawing)}
      frame={flipped === 0 ? frame : (shown?.from ?? frame)}
      since={shown?.from ?? 0}
      className={clsx(
        'shrink-0',
        small
          ? 'h-[clamp(150px,calc(100vh-560px),214px)]'
          : 'h-[clamp(190px,calc(100vh-484px),308px)] min-[1900px]:h-[clamp(308px,calc(100vh-788px),560px)]',
      )}
    />
  );
}
