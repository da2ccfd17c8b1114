/** The history of a scene: its steps in sittings, newest first. A press shows the scene as it was; going back is one more step. */
import { useInfiniteQuery } from '@tanstack/react-query';
import {
  checkScene,
  patchBetween,
  reasonInWords,
  SCENE_KIND,
  sceneSettings,
  sittingsOf,
  type RevisionView,
  type SceneDocument,
  type ToldStep,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { X } from 'lucide-react';
import { useEffect, useMemo, useRef, type ReactElement } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { api, sentenceOf } from '../api/http.js';
import { compared } from '../passes/compared.js';
import { keepBefore } from '../passes/usePasses.js';
import { useOpenScene, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { Button } from '../ui/Button.js';
import { documentAt } from './documentAt.js';

const clock = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });
const day = new Intl.DateTimeFormat(undefined, { weekday: 'long', day: 'numeric', month: 'long' });

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

function StepButton({
  step,
  firstFrame,
  isShown,
  onShow,
}: {
  step: ToldStep;
  firstFrame: number;
  isShown: boolean;
  onShow: () => void;
}): ReactElement {
  const { atMs, reason, how, frames, by } = step;
  return (
    <li>
      <button
        type="button"
        aria-pressed={isShown}
        onClick={onShow}
        className={clsx(
          'flex w-full items-baseline gap-2 rounded-[9px] px-2 py-1 text-left',
          isShown ? 'bg-ink text-on-ink' : 'hover:bg-rule-soft',
        )}
      >
        <span className={clsx('w-[42px] shrink-0 text-[13px]', !isShown && 'text-ink-soft')}>{clock.format(atMs)}</span>
        <span className="min-w-0 flex-1">
          <span className={clsx(how === 'taken back' && 'line-through decoration-1')}>
            {capital(reasonInWords(reason))}
            {how !== 'done' && <span className="sr-only">, {how}</span>}
          </span>
          {by !== undefined && <span className={clsx('block truncate text-[13px]', !isShown && 'text-ink-soft')}>{by}</span>}
        </span>
        {frames && (
          <span className={clsx('shrink-0 text-[13px]', !isShown && 'text-ink-soft')}>
            {frames.to - frames.from === 1 ? frames.from + firstFrame : `${frames.from + firstFrame}–${frames.to - 1 + firstFrame}`}
          </span>
        )}
      </button>
    </li>
  );
}

/** The revisions of a scene up to the one that is saved, a page at a time. */
function useRevisions(sceneId: string, revision: number) {
  return useInfiniteQuery({
    queryKey: ['history', sceneId, revision],
    initialPageParam: revision,
    queryFn: ({ pageParam }) => (pageParam === 0 ? Promise.resolve([]) : api<RevisionView[]>(`/scenes/${sceneId}/past?upTo=${pageParam}`)),
    getNextPageParam: (page: readonly RevisionView[]) => {
      const oldest = page.at(-1)?.revision ?? 1;
      return oldest > 1 ? oldest - 1 : undefined;
    },
    placeholderData: (before) => before,
    staleTime: Infinity,
    gcTime: 0,
  });
}

export function HistoryPanel({ onClose }: { onClose: () => void }): ReactElement {
  const { session, shown, sceneId } = useOpenScene();
  const { allCharts } = useSpeaker();
  const revision = useStore(session.store, (state) => state.revision);
  const firstFrame = useStore(session.store, ({ document }) => sceneSettings(document).firstFrame);
  const backAt = useStore(shown.store, (state) => state.backAt);
  const past = useRevisions(sceneId, revision);
  const rows = useMemo(() => past.data?.pages.flat() ?? [], [past.data]);
  const sittings = useMemo(() => sittingsOf(rows), [rows]);
  const navigate = useNavigate();
  const asked = useRef(0);
  useEffect(() => () => shown.toNow(), [shown]);

  const show = async (to: number): Promise<void> => {
    const mine = ++asked.current;
    try {
      // What is looked back from is what is saved: only that is one of the rows.
      await session.flush();
      const { confirmed, revision: now } = session.store.getState();
      const known = rows[0]?.revision === now ? rows : await api<RevisionView[]>(`/scenes/${sceneId}/past?upTo=${now}`);
      const document = await documentAt(SCENE_KIND, confirmed, known, to);
      if (mine === asked.current) shown.lookBack(to, document);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const toNow = (): void => {
    asked.current += 1;
    shown.toNow();
  };
  const goBack = (): void => {
    const then: SceneDocument = shown.store.getState().document;
    const [fault] = checkScene(then, allCharts);
    if (fault !== undefined) {
      toast.message(`It cannot be as it was, for its charts have changed since. ${fault}`);
      return;
    }
    toNow();
    keepBefore(sceneId, session.store.getState().revision, 'going back');
    const patch = patchBetween(SCENE_KIND, session.store.getState().document, then, { id: newId(), reason: 'scene.back' });
    if (session.change(patch)) announce('The scene is as it was then. Undo brings back what came after.');
  };

  const compareWith = (): void => {
    const then = shown.store.getState().document;
    const row = rows.find(({ revision: of }) => of === backAt);
    const title = row ? `After ${reasonInWords(row.patch.reason)}, ${clock.format(Date.parse(row.at))}` : 'How the scene began';
    compared.setState({ other: { sceneId, title, passId: null, document: then } });
    toNow();
    void navigate(`/scenes/${sceneId}/check?show=passes`);
  };

  return (
    <section
      aria-label="History"
      className="flex min-h-0 w-[300px] shrink-0 flex-col rounded-[14px] border border-rule bg-sheet"
      onKeyDown={(event) => {
        if (event.code !== 'Escape') return;
        event.stopPropagation();
        onClose();
      }}
    >
      <header className="flex items-center px-3 pt-2">
        <h2 className="name flex-1 text-[19px]">History</h2>
        <Button weight="bare" aria-label="Close the history" onClick={onClose}>
          <X size={17} aria-hidden />
        </Button>
      </header>
      <div className="flex min-h-[40px] flex-wrap items-center gap-2 border-b border-rule px-3 pb-2">
        {backAt === null ? (
          <p className="text-[14px] text-ink-soft">Press a step to see the scene as it was after it.</p>
        ) : (
          <>
            <Button weight="main" className="py-[3px]!" onClick={goBack}>
              Go back to this
            </Button>
            <Button className="py-[3px]!" onClick={toNow}>
              To now
            </Button>
            <Button className="py-[3px]!" onClick={compareWith}>
              Beside now
            </Button>
          </>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto p-2 text-[14px]" aria-busy={past.isFetching}>
        {past.isError && <p className="px-2 text-bad">{sentenceOf(past.error)}</p>}
        {past.data && rows.length === 0 && <p className="px-2 text-ink-soft">Nothing has been changed yet.</p>}
        {sittings.map(({ atMs, steps }) => (
          <section key={steps.at(-1)!.revision} className="mb-3">
            <h3 className="px-2 pb-1 text-[13px] font-semibold text-ink-soft">{day.format(atMs)}</h3>
            <ul>
              {steps.map((step) => (
                <StepButton
                  key={step.revision}
                  step={step}
                  firstFrame={firstFrame}
                  isShown={backAt === step.revision}
                  onShow={() => void (step.revision === revision ? toNow() : show(step.revision))}
                />
              ))}
            </ul>
          </section>
        ))}
        {past.hasNextPage ? (
          <Button className="mx-2 py-[3px]!" disabled={past.isFetchingNextPage} onClick={() => void past.fetchNextPage()}>
            Earlier
          </Button>
        ) : (
          rows.length > 0 && (
            <button
              type="button"
              aria-pressed={backAt === 0}
              onClick={() => void show(0)}
              className="w-full rounded-[9px] px-2 py-1 text-left text-ink-soft hover:bg-rule-soft aria-pressed:bg-ink aria-pressed:text-on-ink"
            >
              How the scene began
            </button>
          )
        )}
      </div>
    </section>
  );
}
