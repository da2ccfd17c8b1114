/** What the chart, as it is now, would change of the scene's pencil: shown while it is being changed. */
import { sceneSettings } from '@zest-jaw/core';
import { useEffect, useRef, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { TryBar } from '../trying/TryBar.js';
import { useChartProposal, useHeard, useProposal } from '../trying/useProposal.js';
import { useSceneDocument, useSpeaker } from '../scene/sceneContext.js';

/** A longer scene is shown around its first change, in seconds. */
const SHOWN_SECONDS = 20;

export function PencilPreview(): ReactElement | null {
  const document = useSceneDocument();
  const { chartSession } = useSpeaker();
  const proposal = useChartProposal(useProposal(useHeard()));
  const { data, changes, isTrying, take } = proposal;
  const { lengthFrames } = sceneSettings(document);
  const section = useRef<HTMLElement>(null);
  const isShown = isTrying && changes > 0;
  useEffect(() => {
    if (isShown) section.current?.scrollIntoView({ block: 'nearest' });
  }, [isShown]);
  if (!isShown) return null;
  const first = data.exposures.find((exposure) => exposure.isProposed)?.from ?? 0;
  const span = Math.min(lengthFrames, SHOWN_SECONDS * data.framesPerSecond);
  const from = Math.max(0, Math.min(lengthFrames - span, first - Math.floor(span / 4)));
  return (
    <section ref={section} className="shrink-0 rounded-[14px] bg-zest-soft p-2 pl-3" aria-label="What it changes of the pencil">
      <svg
        viewBox={`${from} 0 ${span} 10`}
        preserveAspectRatio="none"
        className="mb-1.5 block h-[26px] w-full rounded-md bg-sheet"
        role="img"
        aria-label="The mouths of the scene, those that would change raised"
      >
        {data.exposures
          .filter((exposure) => exposure.from < from + span && exposure.to > from)
          .map((exposure) => (
            <rect
              key={exposure.id}
              x={exposure.from + 0.12}
              y={exposure.isProposed ? 0.6 : 3.6}
              width={exposure.to - exposure.from - 0.24}
              height={exposure.isProposed ? 9 : 6}
              fill={exposure.colour}
              opacity={exposure.isProposed ? 1 : 0.35}
            />
          ))}
      </svg>
      <TryBar
        proposal={{
          ...proposal,
          // The scene may show a drawing only once its chart is known to have it.
          take: () => void chartSession.flush().then(take, (error: unknown) => toast.error(sentenceOf(error))),
        }}
      />
    </section>
  );
}
