/** Notes that were set aside, each with why, and the way back. */
import { frameNumber, type Aside, type Note, type SceneDocument } from '@zest-jaw/core';
import { ChevronRight } from 'lucide-react';
import type { ReactElement } from 'react';
import { noteName } from './NoteList.js';

interface AsideListProps {
  readonly aside: readonly { readonly note: Note; readonly aside: Aside }[];
  readonly document: SceneDocument;
  readonly onBack: (asides: readonly Aside[]) => void;
}

export function AsideList({ aside, document, onBack }: AsideListProps): ReactElement | null {
  if (aside.length === 0) return null;
  return (
    <details className="group mt-3 border-t border-rule pt-2">
      <summary className="flex cursor-pointer items-baseline gap-1.5 px-1 font-semibold">
        <ChevronRight size={14} aria-hidden className="self-center transition-transform group-open:rotate-90" />
        <span className="flex-1">Set aside</span>
        <span className="text-[14px] font-normal text-ink-soft">{aside.length}</span>
      </summary>
      <ul className="mt-1 text-[14px]">
        {aside.map(({ note, aside: one }) => (
          <li key={one.id} className="flex gap-2 px-2 py-1 leading-snug" data-testid="aside">
            <span className="w-[38px] shrink-0 text-right tabular-nums text-ink-soft">{frameNumber(document, note.from)}</span>
            <span className="min-w-0 flex-1 text-ink-soft">{`${noteName(note)}: ${one.reason === '' ? 'meant' : one.reason}`}</span>
            <button type="button" className="self-start underline underline-offset-2" onClick={() => onBack([one])}>
              Take back
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
