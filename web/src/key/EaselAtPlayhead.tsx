/** The character at the playhead, wearing the mouth that is there. */
import { maybeExposureAt } from '@zest-jaw/core';
import { clsx } from 'clsx';
import type { ReactElement } from 'react';
import { Easel } from '../mouth/Easel.js';
import { useDrawingAtPlayhead, useFrame, useOpenScene } from '../scene/sceneContext.js';

export function EaselAtPlayhead({ small }: { small: boolean }): ReactElement {
  const { character, chart, data } = useOpenScene();
  const frame = useFrame();
  const since = maybeExposureAt(data.exposures, frame)?.from ?? 0;
  return (
    <Easel
      name={character.name}
      chart={chart}
      drawing={useDrawingAtPlayhead()}
      frame={frame}
      since={since}
      className={clsx(
        'shrink-0',
        small
          ? 'h-[clamp(150px,calc(100vh-560px),214px)]'
          : 'h-[clamp(190px,calc(100vh-456px),308px)] min-[1900px]:h-[clamp(308px,calc(100vh-760px),560px)]',
      )}
    />
  );
}
