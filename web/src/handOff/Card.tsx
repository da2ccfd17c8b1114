/** What one kind of file is, how it counts, and what is chosen of it. */
import type { ReactElement, ReactNode } from 'react';
import { LaneMenu } from '../scene/LaneMenu.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';

interface CardProps {
  readonly title: string;
  readonly says: string;
  /** One line that says how it counts. */
  readonly counts?: string | undefined;
  /** Of one lane: who speaks is asked. */
  readonly ofLane?: boolean;
  readonly children: ReactNode;
}

export function Card({ title, says, counts, ofLane = true, children }: CardProps): ReactElement {
  return (
    <section className="flex min-h-0 flex-col rounded-[14px] border border-rule bg-sheet p-5" aria-labelledby="card-title">
      <h2 id="card-title" className="name text-[21px]">
        {title}
      </h2>
      {ofLane && (
        <div className="flex items-center gap-2">
          <SpeakerSwitch />
          <LaneMenu onlyChooses />
        </div>
      )}
      <p className="text-ink-soft">{says}</p>
      <p className="mb-4 min-h-[1.4em] text-[14px]" data-testid="counts">
        {counts}
      </p>
      {children}
    </section>
  );
}
