/** Whether everything is saved, in a word; why not, and what was refused, behind it. */
import { reasonInWords } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Popover } from 'radix-ui';
import { useEffect, type ReactElement } from 'react';
import type { DocumentSession, SaveState, SessionState } from '../session/session.js';
import { Button } from '../ui/Button.js';
import { useOfSessions, type Followed } from './useOfSessions.js';

/** Worst first: one word for the scene and its charts together. */
const SAVE_WORDS: readonly (readonly [SaveState, string])[] = [
  ['conflict', 'not saved yet'],
  ['waiting', 'not saved yet'],
  ['saving', 'saving…'],
  ['saved', 'saved'],
];

/** Anything that is saved: its kind does not matter here. */
export type AnySession = Followed<Pick<SessionState<unknown>, 'saveState' | 'toFollow' | 'trouble' | 'refused'>> &
  Pick<DocumentSession<unknown>, 'retry' | 'forgetRefused'>;

export function SaveWord({ sessions }: { sessions: readonly AnySession[] }): ReactElement {
  const states = useOfSessions(sessions, (state) => (state.saveState === 'saved' && state.toFollow > 0 ? 'saving' : state.saveState));
  const troubles = useOfSessions(sessions, (state) => state.trouble);
  const refusals = useOfSessions(sessions, (state) => state.refused);
  const [state, word] = SAVE_WORDS.find(([candidate]) => states.includes(candidate))!;
  const refused = refusals.flat();
  const trouble = troubles.find((text) => text !== undefined);
  const isStuck = state === 'waiting' || state === 'conflict';
  useEffect(() => {
    if (!isStuck) return undefined;
    // Asked by the browser before the tab closes. Nothing is lost then, but it is not on the server either.
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [isStuck]);
  const dot = <span className={clsx('size-2 rounded-full', state === 'saved' ? 'bg-good' : state === 'saving' ? 'bg-zest' : 'bg-bad')} />;
  const label = (
    <span className="flex min-w-[96px] items-center gap-1.5" role="status" data-testid="save-state">
      {dot}
      {word}
    </span>
  );
  if (trouble === undefined && refused.length === 0) return label;
  return (
    <Popover.Root>
      {label}
      <Popover.Trigger className="rounded-full border border-bad px-2.5 py-0.5 font-semibold text-bad hover:bg-bad-soft">
        {refused.length > 0 ? `${refused.length} not taken` : 'Why?'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          aria-label="What is not saved"
          className="z-40 flex w-[360px] flex-col gap-3 rounded-xl border border-rule bg-lift p-4 text-[14px]"
        >
          {trouble !== undefined && (
            <div className="flex flex-col gap-2">
              <p>{trouble}</p>
              <p className="text-ink-soft">Your changes are kept here meanwhile and sent again by themselves.</p>
              <Button className="self-start" onClick={() => sessions.forEach((session) => session.retry())}>
                Try now
              </Button>
            </div>
          )}
          {refused.length > 0 && (
            <div className="flex flex-col gap-2">
              <h2 className="font-semibold">The server did not take</h2>
              <ul className="flex max-h-[240px] flex-col gap-2 overflow-y-auto">
                {refused.map(({ patch, sentence }) => (
                  <li key={patch.id}>
                    <b className="font-semibold">{reasonInWords(patch.reason)}</b>: {sentence}
                  </li>
                ))}
              </ul>
              <p className="text-ink-soft">Everything else is as you left it.</p>
              <Button className="self-start" onClick={() => sessions.forEach((session) => session.forgetRefused())}>
                Put away
              </Button>
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
