/** Above the sheet of Check: what is looked at, how many notes are open, and the ways to the review page and the limits. */
import type { Note } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { Link } from 'react-router';
import { useOpenScene } from '../scene/sceneContext.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';
import { count } from '../ui/count.js';
import { Pills } from '../ui/Pills.js';
import { WeightMark } from './NoteList.js';

export type Shown = 'notes' | 'curves' | 'passes';
const SHOWN: readonly (readonly [Shown, string])[] = [
  ['notes', 'Notes'],
  ['curves', 'Curves and counts'],
  ['passes', 'Passes'],
];

interface CheckHeadingProps {
  readonly show: Shown;
  /** Undefined before the scene was checked. */
  readonly notes: readonly Note[] | undefined;
  readonly onShow: (show: Shown) => void;
  readonly onLimits: () => void;
}

const QUIET = 'text-[14px] text-ink-soft underline underline-offset-2 hover:text-ink';

export function CheckHeading({ show, notes, onShow, onLimits }: CheckHeadingProps): ReactElement {
  const { sceneId } = useOpenScene();
  const numberOf = (weight: Note['weight']): number => notes?.filter((note) => note.weight === weight).length ?? 0;
  return (
    <>
      <SpeakerSwitch />
      <Pills label="What is looked at" options={SHOWN} value={show} onChange={onShow} />
      <p className="flex items-center gap-3 text-[15px]" role="status" data-testid="note-counts">
        {([3, 2, 1] as const).map((weight) => (
          <span key={weight} className="flex items-center gap-1.5">
            <WeightMark weight={weight} />
            {numberOf(weight)}
          </span>
        ))}
        <span className="text-ink-soft">{notes === undefined ? 'checking…' : count(notes.length, 'note', 'notes')}</span>
      </p>
      <span className="flex-1" />
      <Link to={`/scenes/${sceneId}/review`} target="_blank" className={QUIET}>
        The review page
      </Link>
      <button type="button" className={QUIET} onClick={onLimits}>
        What the check allows
      </button>
    </>
  );
}
