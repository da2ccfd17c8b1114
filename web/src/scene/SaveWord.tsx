/** Whether everything is saved, in a word. */
import { clsx } from 'clsx';
import type { ReactElement } from 'react';
import type { SaveState } from '../session/documentSession.js';

/** Worst first: one word for the scene and its chart together. */
const SAVE_WORDS: readonly (readonly [SaveState, string])[] = [
  ['conflict', 'not saved yet'],
  ['unreachable', 'not saved yet'],
  ['saving', 'saving…'],
  ['saved', 'saved'],
];

export function SaveWord({ states }: { states: readonly SaveState[] }): ReactElement {
  const [state, word] = SAVE_WORDS.find(([candidate]) => states.includes(candidate))!;
  return (
    <span className="flex w-[96px] items-center gap-1.5" role="status" data-testid="save-state">
      <span className={clsx('size-2 rounded-full', state === 'saved' ? 'bg-good' : state === 'saving' ? 'bg-zest' : 'bg-bad')} />
      {word}
    </span>
  );
}
