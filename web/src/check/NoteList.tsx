/** The notes, in groups that open and close; the one that is looked at is open, with what would mend it. */
import { frameNumber, kindInWords, NOTE_WEIGHTS, type Note, type SceneDocument } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { ChevronRight } from 'lucide-react';
import { useEffect, useRef, useState, type ReactElement, type ReactNode } from 'react';
import { count } from '../ui/count.js';
import type { NoteGroup } from './noteGroups.js';

/** Longer groups are closed at first, and show so many at once. */
const OPEN_UP_TO = 12;
const SHOWN_AT_ONCE = 60;

/** How much a note matters, as a shape: full, half, hollow. Readable without colour. */
export function WeightMark({ weight }: { weight: Note['weight'] }): ReactElement {
  return (
    <svg viewBox="0 0 12 12" className="mt-[5px] size-[11px] shrink-0" role="img" aria-label={NOTE_WEIGHTS[weight]}>
      <path
        d="M1 1 H11 L1 11 Z"
        className={clsx(weight === 3 ? 'fill-bad stroke-bad' : weight === 2 ? 'fill-ink stroke-ink' : 'fill-none stroke-ink-soft')}
        strokeWidth="1.4"
        strokeLinejoin="round"
      />
    </svg>
  );
}

interface NoteListProps {
  readonly document: SceneDocument;
  readonly groups: readonly NoteGroup[];
  readonly chosen: Note | undefined;
  readonly onChoose: (note: Note) => void;
  /** What is shown of the one that is looked at. */
  readonly children: ReactNode;
}

export function NoteList({ document, groups, chosen, onChoose, children }: NoteListProps): ReactElement {
  return (
    <div className="flex flex-col gap-2">
      {groups.map((group) => (
        <Group key={group.id} group={group} document={document} chosen={chosen} onChoose={onChoose}>
          {children}
        </Group>
      ))}
    </div>
  );
}

function Group({ group, document, chosen, onChoose, children }: Omit<NoteListProps, 'groups'> & { group: NoteGroup }): ReactElement {
  const { name, about, notes } = group;
  const holdsChosen = chosen !== undefined && notes.some(({ id }) => id === chosen.id);
  const [isOpen, setOpen] = useState(notes.length <= OPEN_UP_TO && notes.some(({ weight }) => weight > 1));
  const [most, setMost] = useState(SHOWN_AT_ONCE);
  const isShown = isOpen || holdsChosen;
  const at = holdsChosen ? notes.findIndex(({ id }) => id === chosen.id) : -1;
  const shown = isShown ? notes.slice(0, Math.max(most, at + 1)) : [];
  return (
    <section aria-label={name}>
      <h3>
        <button
          type="button"
          aria-expanded={isShown}
          onClick={() => setOpen(!isShown)}
          title={about}
          className="flex w-full items-baseline gap-1.5 rounded-[8px] px-1 py-0.5 text-left font-semibold hover:bg-lift"
        >
          <ChevronRight size={14} aria-hidden className={clsx('shrink-0 self-center transition-transform', isShown && 'rotate-90')} />
          <span className="min-w-0 flex-1 truncate">{name}</span>
          <span className="text-[14px] font-normal text-ink-soft">{notes.length}</span>
        </button>
      </h3>
      {isShown && (
        <ul className="mt-0.5">
          {shown.map((note) => (
            <NoteRow key={note.id} note={note} document={document} isChosen={note.id === chosen?.id} onChoose={onChoose}>
              {children}
            </NoteRow>
          ))}
        </ul>
      )}
      {isShown && notes.length > shown.length && (
        <button
          type="button"
          className="px-6 py-1 text-[14px] text-ink-soft underline underline-offset-2"
          onClick={() => setMost(most + 200)}
        >
          {`${count(notes.length - shown.length, 'note', 'notes')} more`}
        </button>
      )}
    </section>
  );
}

interface NoteRowProps {
  readonly note: Note;
  readonly document: SceneDocument;
  readonly isChosen: boolean;
  readonly onChoose: (note: Note) => void;
  readonly children: ReactNode;
}

function NoteRow({ note, document, isChosen, onChoose, children }: NoteRowProps): ReactElement {
  const row = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isChosen) row.current?.scrollIntoView({ block: 'nearest' });
  }, [isChosen]);
  return (
    <li
      ref={row}
      className={clsx('rounded-[10px]', isChosen && 'bg-sheet shadow-[inset_0_0_0_1px_var(--rule)]')}
      data-testid="note"
      data-kind={note.kind}
      data-from={note.from}
    >
      <button
        type="button"
        aria-current={isChosen ? 'true' : undefined}
        onClick={() => onChoose(note)}
        className="flex w-full gap-2 rounded-[10px] px-2 py-1 text-left text-[14px] leading-snug hover:bg-lift"
      >
        <WeightMark weight={note.weight} />
        <span className="w-[38px] shrink-0 text-right tabular-nums text-ink-soft">{frameNumber(document, note.from)}</span>
        <span className={clsx('min-w-0 flex-1', !isChosen && 'line-clamp-2')}>{note.why}</span>
      </button>
      {isChosen && children}
    </li>
  );
}

/** What a note is of, in words. */
export const noteName = (note: Note): string => kindInWords(note.kind).name;
