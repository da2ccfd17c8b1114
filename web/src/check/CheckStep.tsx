/** The Check step: what an eye would catch, why, and what mends it, beside the sheet on which it is. */
import { chartStretchAt, isRefusal, maybeDrawing, sceneSettings, setNotesAside, takeNotesBack, type Note } from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useMemo, useState, type ReactElement } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import type { Command } from '../commands/command.js';
import { CurvesPanel } from '../curves/CurvesPanel.js';
import { EaselAtPlayhead } from '../key/EaselAtPlayhead.js';
import { useFlip } from '../key/useFlip.js';
import { useSelectionHolds } from '../key/useSelectionHolds.js';
import { ComparePanel } from '../passes/ComparePanel.js';
import { PassList } from '../passes/PassList.js';
import { keepBefore, savedRevision } from '../passes/usePasses.js';
import { useCompared } from '../passes/useCompared.js';
import { Readout } from '../scene/Readout.js';
import { SheetStep } from '../scene/SheetStep.js';
import { SheetContext, useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { Hint } from '../ui/Hint.js';
import { Pills } from '../ui/Pills.js';
import { checker } from '../workers/keyer.js';
import { AsideList } from './AsideList.js';
import { CheckHeading, type Shown } from './CheckHeading.js';
import { NoteDetail } from './NoteDetail.js';
import { noteGroups, type GroupedBy } from './noteGroups.js';
import { NoteList } from './NoteList.js';
import { useNotes } from './NotesRoom.js';
import { RemarkList } from './RemarkList.js';
import { useChosenNote } from './useChosenNote.js';
import { useMend } from './useMend.js';
import { usePhrases } from './usePhrases.js';

const LimitsDialog = lazy(async () => ({ default: (await import('./LimitsDialog.js')).LimitsDialog }));

const GROUPED = 'zest-jaw notes by';
const GROUPINGS: readonly (readonly [GroupedBy, string])[] = [
  ['kind', 'By kind'],
  ['phrase', 'By phrase'],
  ['weight', 'By weight'],
];
const NONE: readonly Note[] = [];
/** Mending more than this at once is something large: how it was is kept as a pass. */
const LARGE = 12;
/** How often what others have said is asked for, in milliseconds. */
const REMARKS_EVERY = 5000;

export function CheckStep(): ReactElement {
  const { session, sceneId, productionId, playhead } = useOpenScene();
  const document = useSceneDocument();
  const { charts } = useSpeaker();
  const sheet = useSheet();
  const { open, aside, remarks, job } = useNotes();
  const notes = open ?? NONE;
  const [params, setParams] = useSearchParams();
  const isChanging = params.get('limits') !== null;
  const [by, groupBy] = useState<GroupedBy>(() => GROUPINGS.find(([one]) => one === maybeKept(GROUPED))?.[0] ?? 'kind');
  const [isAsiding, setAsiding] = useState(false);
  const [isMending, setMending] = useState(false);
  const phrases = usePhrases();
  // What somebody says on the review page comes in by itself.
  useQuery({
    queryKey: ['remarks of others', sceneId],
    queryFn: async () => {
      if (session.store.getState().saveState !== 'conflict') await session.refresh();
      return true;
    },
    refetchInterval: REMARKS_EVERY,
    retry: false,
  });
  const groups = useMemo(() => noteGroups(notes, by, phrases), [notes, by, phrases]);
  const { note, choose, step, hear } = useChosenNote(notes);
  const mend = useMend(note);
  const holds = useSelectionHolds(mend.tried === undefined);
  const data = useMemo(
    () =>
      note && mend.data.notes
        ? { ...mend.data, notes: mend.data.notes.map((one) => (one.from === note.from ? { ...one, to: note.to, isChosen: true } : one)) }
        : mend.data,
    [mend.data, note],
  );

  const alike = note ? notes.filter(({ kind, mends, isInk }) => kind === note.kind && mends.length > 0 && !isInk) : NONE;
  const { firstFrame } = sceneSettings(document);
  const labelOf = (drawing: string): string => {
    const chartId = note?.track ? chartStretchAt(document, note.track, note.from)?.chartId : undefined;
    const all = chartId === undefined ? [...charts.values()] : [job.charts.get(chartId)].filter((chart) => chart !== undefined);
    return all.map((chart) => maybeDrawing(chart, drawing)?.label).find((label) => label !== undefined) ?? drawing;
  };

  const take = (): void => {
    if (!note) return;
    if (!mend.tried) {
      announce(mend.refusal ?? 'Nothing mends this by itself.');
      return;
    }
    if (session.change(mend.tried.patch)) announce('Mended. Undo brings it back.');
  };
  const mendAll = async (): Promise<void> => {
    setMending(true);
    try {
      const revision = await savedRevision(session);
      const mended = await checker.mendAll(job, alike);
      if (isRefusal(mended)) {
        toast.message(mended.refusal);
        return;
      }
      if (session.store.getState().document !== job.scene) {
        toast.message('The scene was changed meanwhile, so nothing was mended. Press it again.');
        return;
      }
      if (alike.length > LARGE) keepBefore(sceneId, revision, 'much was mended at once');
      if (session.change(mended.patch))
        toast.success(
          `${mended.mended} mended in one step${mended.left > 0 ? `, ${mended.left} left: nothing mends ${mended.left === 1 ? 'it' : 'them'} without making something else` : ''}.`,
        );
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setMending(false);
    }
  };
  const setAside = (reason: string): void => {
    if (!note || !session.change(setNotesAside(session.store.getState().document, [note], reason, newId))) return;
    setAsiding(false);
    announce('Set aside. It is back when something changes there.');
    step(1);
  };
  const show: Shown = params.get('show') === 'passes' ? 'passes' : params.get('show') === 'curves' ? 'curves' : 'notes';
  const held = useCompared(show === 'passes');
  const { flip, flipped } = useFlip();
  const shown = useMemo(() => {
    const beside = held ? { ...data, crib: held.exposures, cribName: 'other', differs: held.comparison.differs } : data;
    return beside === sheet.data ? sheet : { ...sheet, data: beside };
  }, [sheet, data, held]);
  const stepDifference = (by: 1 | -1): void => {
    const { frame } = playhead.store.getState();
    const next =
      by > 0 ? held?.comparison.differs.find(({ from }) => from > frame) : held?.comparison.differs.findLast(({ from }) => from < frame);
    if (next) playhead.scrubTo(next.from);
    else announce(by > 0 ? 'That was the last difference.' : 'That was the first difference.');
  };
  const commands: readonly Command[] = [
    ...(held
      ? [
          {
            id: 'difference-next',
            title: 'The next difference',
            group: 'Look',
            keys: ['KeyD'],
            also: 'pass compare',
            run: () => stepDifference(1),
          } as const,
          {
            id: 'difference-before',
            title: 'The difference before',
            group: 'Look',
            keys: ['Shift+KeyD'],
            also: 'pass compare',
            run: () => stepDifference(-1),
          } as const,
          {
            id: 'flip-other',
            title: 'Held: the other pass on the easel',
            group: 'Look',
            keys: ['Digit9'],
            also: 'flip compare',
            run: () => flip(-1),
          } as const,
        ]
      : []),
    { id: 'note-next', title: 'The next note, its phrase is played', group: 'Look', keys: ['KeyE'], also: 'check', run: () => step(1) },
    {
      id: 'note-before',
      title: 'The note before, its phrase is played',
      group: 'Look',
      keys: ['KeyW'],
      also: 'check',
      run: () => step(-1),
    },
    { id: 'note-mend', title: 'Mend what the note says', group: 'Change mouths', keys: ['KeyM'], also: 'fix repair', run: take },
    {
      id: 'note-aside',
      title: 'Set the note aside: it is meant',
      group: 'Look',
      keys: ['KeyX'],
      also: 'ignore dismiss',
      run: () => setAsiding(note !== undefined),
    },
    {
      id: 'limits',
      title: 'What the check allows',
      group: 'Whole scene',
      keys: [],
      also: 'limits settings tolerance',
      run: () => setParams({ ...Object.fromEntries(params), limits: '' }),
    },
  ];
  return (
    <SheetContext.Provider value={shown}>
      {isChanging && (
        <Suspense>
          <LimitsDialog productionId={productionId} onClose={() => setParams(show === 'notes' ? {} : { show }, { replace: true })} />
        </Suspense>
      )}
      <SheetStep
        view={held ? 'crib' : 'key'}
        onBars={held !== undefined}
        above={
          show === 'passes' ? (
            <div className="flex min-h-0 min-w-0 flex-1 gap-4">
              <PassList />
              {held ? (
                <ComparePanel held={held} isFlipped={flipped !== 0} onStep={stepDifference} />
              ) : (
                <p className="self-center text-ink-soft">
                  Press a pass, the crib or a file: it is shown beside the scene as it is, on one sound.
                </p>
              )}
            </div>
          ) : show === 'curves' ? (
            <CurvesPanel />
          ) : undefined
        }
        label="Bar sheet"
        holds={holds}
        commands={commands}
        easel={<EaselAtPlayhead size="large" flipped={0} />}
        aside={
          <>
            {show !== 'passes' && <EaselAtPlayhead size="small" flipped={0} />}
            <Readout />
            <div className="flex shrink-0 flex-wrap items-center gap-2 text-[14px]">
              <Pills
                label="Notes put together"
                options={GROUPINGS}
                value={by}
                onChange={(next) => {
                  keep(GROUPED, next);
                  groupBy(next);
                }}
              />
            </div>
            <section
              aria-label="Notes"
              tabIndex={0}
              className="min-h-0 flex-1 overflow-y-auto"
              data-testid="notes"
              data-open={open?.length}
            >
              {open === undefined ? (
                <p className="text-ink-soft">Looking through the scene…</p>
              ) : notes.length === 0 ? (
                <p className="py-2 text-ink-soft">Nothing that an eye would catch. Listen to it once more, then hand it off.</p>
              ) : (
                <NoteList document={document} groups={groups} chosen={note} onChoose={choose}>
                  {note && (
                    <NoteDetail
                      key={note.id}
                      note={note}
                      mend={mend}
                      alike={alike.length}
                      firstFrame={firstFrame}
                      labelOf={labelOf}
                      isAsiding={isAsiding}
                      isMending={isMending}
                      onMend={take}
                      onMendAll={() => void mendAll()}
                      onListen={() => hear(note)}
                      onAside={setAsiding}
                      onSetAside={setAside}
                    />
                  )}
                </NoteList>
              )}
              <RemarkList remarks={remarks} />
              <AsideList
                aside={aside}
                document={document}
                onBack={(some) =>
                  session.change(takeNotesBack(session.store.getState().document, some, newId)) && announce('The note is back.')
                }
              />
            </section>
          </>
        }
        heading={
          <CheckHeading
            show={show}
            notes={open}
            onShow={(next) => setParams(next === 'notes' ? {} : { show: next }, { replace: true })}
            onLimits={() => setParams({ ...Object.fromEntries(params), limits: '' })}
          />
        }
        hints={
          <>
            <Hint keys={['W', 'E']}>a note</Hint>
            <Hint keys={['M']}>mend</Hint>
            <Hint keys={['X']}>set aside</Hint>
          </>
        }
      />
    </SheetContext.Provider>
  );
}
