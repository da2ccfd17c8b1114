/** The other parts of a face, where they sit on its head. */
import { partsInDepth, partToSvg, shownParts, type ChartHead, type PartDepth, type PartLook, type ShownPart } from '@zest-jaw/core';
import { memo, useId, useMemo, type ReactElement } from 'react';
import { useFaceCharts } from './faceChartsContext.js';
import { assetUrl } from './pictures.js';

/** One that stays as it is from frame to frame is not written again. */
const Part = memo(function Part({ part, chart, look, transform }: ShownPart): ReactElement {
  const idPrefix = useId();
  const markup = useMemo(
    () => partToSvg({ part, chart, look, transform }, { idPrefix, hrefOf: ({ picture }) => assetUrl(picture) }),
    [part, chart, look, transform, idPrefix],
  );
  return <g data-part={part.name} dangerouslySetInnerHTML={{ __html: markup }} />;
});

interface FacePartsProps {
  readonly head: ChartHead | undefined;
  /** What they show; left out they are at rest. */
  readonly face?: readonly PartLook[] | undefined;
  readonly depth: PartDepth;
}

export function FaceParts({ head, face, depth }: FacePartsProps): ReactElement[] {
  const shown = shownParts(head, useFaceCharts(), face);
  return partsInDepth(head, depth).flatMap(({ id }) => shown.filter(({ part }) => part.id === id).map((one) => <Part key={id} {...one} />));
}
