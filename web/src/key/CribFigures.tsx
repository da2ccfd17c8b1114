/** How the hand's keys are beside the crib, in figures. */
import { compareWithCrib } from '@zest-jaw/core';
import { useMemo, type ReactElement } from 'react';
import { count } from '../ui/count.js';
import type { Proposal } from '../trying/useProposal.js';

export function CribFigures({ proposal }: { proposal: Proposal }): ReactElement {
  const { data } = proposal;
  const { frames, same, matched, meanOffset } = useMemo(
    () =>
      compareWithCrib(
        data.exposures.filter((exposure) => exposure.inked),
        data.crib ?? [],
      ),
    [data.exposures, data.crib],
  );
  const offset =
    Math.abs(meanOffset) < 0.05 ? 'on time' : `${Math.abs(meanOffset).toFixed(1)} frames ${meanOffset > 0 ? 'later' : 'earlier'}`;
  return (
    <span
      className="text-[14px] text-ink-soft"
      data-testid="crib-figures"
      title={`Of ${count(frames, 'inked frame', 'inked frames')}; ${count(matched, 'start', 'starts')} compared`}
    >
      {frames === 0 ? 'Nothing inked yet' : `${Math.round(same * 100)} % as the crib${matched > 0 ? `, ${offset}` : ''}`}
    </span>
  );
}
