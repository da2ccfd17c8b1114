/** The Key step: easel and tray at the left, the bar sheet beside them, the transport below. */
import {
  compareWithCrib,
  erasePencil,
  exposuresOfTrack,
  framesPerSecond,
  fullRules,
  hasEnded,
  inkedShare,
  inkSpan,
  isRefusal,
  maybeExposureAt,
  maybeFeel,
  putDrawing,
  putOver,
  rangeOfLoudness,
  sceneSettings,
  setInk,
  startExposure,
  FEELS,
  type HeardFrames,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { lazy, Suspense, useCallback, useMemo, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { sentenceOf } from '../api/http.js';
import { phraseAt } from '../barSheet/phraseAt.js';
import { SpeakerSwitch } from '../scene/SpeakerSwitch.js';
import { SheetStep } from '../scene/SheetStep.js';
import { SceneContext, useOpenScene } from '../scene/sceneContext.js';
import { newId } from '../session/documentSession.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { keyer } from '../workers/keyer.js';
import { CribFigures } from './CribFigures.js';
import { EaselAtPlayhead } from './EaselAtPlayhead.js';
import { PencilMenu, type Part, type PencilAction } from './PencilMenu.js';
import { Readout } from './Readout.js';
import { Hint } from './Transport.js';
import { Tray } from './Tray.js';
import { TryBar } from './TryBar.js';
import { useCrib } from './useCrib.js';
import { useEdgeHolds, useFirstOf, useOtherLanes } from './useMouthHolds.js';
import { useOwnFeels } from './useOwnFeels.js';
import { useChartProposal, useHeard, useProposal, type Proposal } from './useProposal.js';
import { useRangeHolds } from './useRangeHolds.js';
import { ViewSwitch } from './ViewSwitch.js';

// Fetched when they are first opened: a scene shows its mouths without them.
const FeelPanel = lazy(async () => ({ default: (await import('./FeelPanel.js')).FeelPanel }));
const NotShownDialog = lazy(async () => ({ default: (await import('./NotShownDialog.js')).NotShownDialog }));
const WhyPanel = lazy(async () => ({ default: (await import('./WhyPanel.js')).WhyPanel }));

const HOLDS = ['', 'ones', 'twos', 'threes', 'fours'];

/** What stands below the easel. */
type Below = 'tray' | 'feel' | 'why';

export function KeyStep(): ReactElement {
  const open = useOpenScene();
  const heard = useHeard();
  const proposal = useChartProposal(useProposal(heard), () =>
    toast.message('The chart plays other sounds than when this was keyed. What would change is tinted: take it, or leave it.'),
  );
  const [cribbing, setCribbing] = useState(false);
  const crib = useCrib(cribbing, proposal.span ? open.track.rules : proposal.rules, heard);
  const { source, floorDb, peakDb } = fullRules(proposal.rules);
  const range = useMemo(() => {
    if (source !== 'loudness' || !heard) return undefined;
    const own = rangeOfLoudness(heard.levels);
    const { from = 0, to = heard.levels.length } = proposal.span ?? {};
    return { floorDb: floorDb ?? own.floorDb, peakDb: peakDb ?? own.peakDb, from, to };
  }, [source, heard, floorDb, peakDb, proposal.span]);
  const data = useMemo(
    () =>
      !crib && !range
        ? proposal.data
        : {
            ...proposal.data,
            ...(crib && {
              crib,
              differs: compareWithCrib(
                proposal.data.exposures.filter(({ inked }) => inked),
                crib,
              ).differs,
            }),
            ...(range && { range, showsLoudness: true }),
          },
    [proposal.data, crib, range],
  );
  const shown = useMemo(() => (data === open.data ? open : { ...open, data }), [open, data]);
  return (
    <SceneContext.Provider value={shown}>
      <KeySheet proposal={{ ...proposal, data }} heard={heard} cribbing={cribbing} onCrib={() => setCribbing((before) => !before)} />
    </SceneContext.Provider>
  );
}

interface KeySheetProps {
  readonly proposal: Proposal;
  readonly heard: HeardFrames | undefined;
  readonly cribbing: boolean;
  readonly onCrib: () => void;
}

function KeySheet({ proposal, heard, cribbing, onCrib }: KeySheetProps): ReactElement {
  const { session, document, productionId, track, chart, charts, character, data, playhead, reading } = useOpenScene();
  const [keying, setKeying] = useState(false);
  const [notShown, setNotShown] = useState<readonly string[]>();
  const [below, setBelow] = useState<Below>('tray');
  const own = useOwnFeels(productionId);
  const selection = useStore(playhead.store, (state) => state.selection);
  const isReading = reading !== undefined && !hasEnded(reading);
  const holds = useFirstOf(useRangeHolds(proposal), useEdgeHolds(proposal.changes === 0), useOtherLanes());
  const { frameRate, lengthFrames } = sceneSettings(document);

  const put = useCallback(
    (drawing: string) => {
      playhead.stay();
      const { frame, selection: selected, playing } = playhead.store.getState();
      const now = session.store.getState().document;
      // What is selected is filled; while it plays, a mouth is put where it is heard.
      const patch =
        selected && !playing
          ? putOver(now, { track: track.id, ...selected, drawing }, chart, newId)
          : putDrawing(now, { track: track.id, frame, drawing }, chart, newId);
      if (session.change(patch) && selected && !playing) playhead.select(null);
    },
    [session, track.id, chart, playhead],
  );
  /** The mouth at the playhead starts there, or the next one starts after it. */
  const setEdge = (edge: 'start' | 'end'): void => {
    const { frame } = playhead.store.getState();
    const now = session.store.getState().document;
    const there = maybeExposureAt(exposuresOfTrack(now, track.id), frame);
    if (!there) return;
    const [from, to] = edge === 'start' ? [there.from, frame] : [there.to, frame + 1];
    const patch = from < lengthFrames ? startExposure(now, { track: track.id, from, to }, newId) : undefined;
    if (patch && (isRefusal(patch) || patch.ops.length > 0)) session.change(patch);
  };
  const partOf = (part: Part): { from: number; to: number } => {
    const { frame, selection: selected } = playhead.store.getState();
    if (part === 'selection' && selected) return selected;
    return part === 'phrase' ? phraseAt(data.words, frame, framesPerSecond(frameRate), lengthFrames) : { from: 0, to: lengthFrames };
  };
  const ink = (inked: boolean): void => {
    const { frame, selection: selected } = playhead.store.getState();
    const now = session.store.getState().document;
    session.change(
      selected ? inkSpan(now, { track: track.id, ...selected, inked }, newId) : setInk(now, { track: track.id, frame, inked }, newId),
    );
  };
  const keyAgain = async (scope: { readonly from?: number; readonly to?: number } = {}): Promise<void> => {
    setKeying(true);
    try {
      const before = session.store.getState().document;
      const keyed = await keyer.key({ scene: before, trackId: track.id, charts, heard }, scope);
      if (isRefusal(keyed)) {
        session.change(keyed);
        return;
      }
      // Something was put by hand while the worker planned: its plan no longer fits, so it plans again.
      if (session.store.getState().document !== before) return await keyAgain(scope);
      session.change(keyed.patch);
      const changed = keyed.patch.ops.length;
      const missing = keyed.notShown.map((entry) => entry.reason);
      const [first] = missing;
      if (missing.length === 1) toast.warning(`1 closure could not be shown. ${first!}`);
      else if (missing.length > 1)
        toast.warning(`${missing.length} closures could not be shown.`, {
          action: { label: 'Which, and why', onClick: () => setNotShown(missing) },
        });
      else toast.success(changed === 0 ? 'The pencil is already as the rules have it.' : 'The pencil is keyed again; the ink stayed.');
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setKeying(false);
    }
  };
  const act = (action: PencilAction, part: Part): void => {
    const span = partOf(part);
    const now = session.store.getState().document;
    if (action === 'key') void keyAgain(span);
    else if (action === 'erase') session.change(erasePencil(now, { track: track.id, ...span }, charts, newId));
    else session.change(inkSpan(now, { track: track.id, ...span, inked: action === 'ink' }, newId));
  };
  const show = (wanted: Below): void => {
    if (below === 'feel' && !proposal.isTrying) proposal.setReach('track');
    setBelow(below === wanted ? 'tray' : wanted);
  };

  const keycaps = Object.fromEntries(chart.drawings.map((drawing) => [`Key${drawing.keycap}`, () => put(drawing.id)]));
  const inked = useMemo(() => inkedShare(exposuresOfTrack(document, track.id), lengthFrames), [document, track.id, lengthFrames]);
  const toggleCrib = (): void => {
    onCrib();
    if (cribbing || inked > 0 || isRefusal(erasePencil(document, { track: track.id, from: 0, to: lengthFrames }, charts, newId))) return;
    toast.message('To key by hand you may want the lane empty.', {
      action: { label: 'Erase the pencil', onClick: () => act('erase', 'all') },
    });
  };
  const rules = fullRules(track.rules);
  const feel = maybeFeel(rules, [...FEELS, ...own.feels])?.name ?? 'own';
  const pill =
    'rounded-full border border-rule bg-lift px-3 py-1 text-[14px] text-ink-soft hover:border-graphite aria-pressed:border-ink aria-pressed:bg-word aria-pressed:text-ink';
  return (
    <>
      {notShown && (
        <Suspense>
          <NotShownDialog reasons={notShown} onClose={() => setNotShown(undefined)} />
        </Suspense>
      )}
      <SheetStep
        view={cribbing ? 'crib' : 'key'}
        label="Bar sheet"
        holds={holds}
        keys={{
          ...keycaps,
          KeyI: () => ink(true),
          'Shift+KeyI': () => ink(false),
          Semicolon: () => setEdge('start'),
          Quote: () => setEdge('end'),
          KeyK: () => void keyAgain(),
          KeyJ: () => show('feel'),
          KeyY: () => show('why'),
          KeyU: toggleCrib,
        }}
        aside={
          <>
            <EaselAtPlayhead small={below !== 'tray'} />
            {below !== 'feel' && proposal.changes > 0 && (
              <TryBar proposal={proposal} className="shrink-0 rounded-[10px] bg-zest-soft px-3 py-1.5" />
            )}
            {below === 'feel' && (
              <Suspense>
                <FeelPanel
                  proposal={proposal}
                  own={own}
                  onClose={() => {
                    proposal.setReach('track');
                    setBelow('tray');
                  }}
                />
              </Suspense>
            )}
            {below === 'why' && (
              <>
                <Readout />
                <Suspense>
                  <WhyPanel heard={heard} onClose={() => setBelow('tray')} />
                </Suspense>
              </>
            )}
            {below === 'tray' && (
              <>
                <Readout />
                <ViewSwitch />
                <Tray onPut={put} />
              </>
            )}
          </>
        }
        heading={
          <>
            {/* Where several speak the switch says who it is. */}
            <h2 className={document.tracks.length > 1 ? 'sr-only' : 'name text-[19px]'}>{character.name}</h2>
            <SpeakerSwitch />
            <span className={clsx('min-w-[64px] truncate text-ink-soft', !cribbing && 'max-[1120px]:hidden')}>
              {cribbing ? (
                <CribFigures proposal={proposal} />
              ) : data.words.length > 0 ? (
                count(data.words.length, 'word', 'words')
              ) : isReading ? (
                'being read'
              ) : (
                'nothing read yet'
              )}
            </span>
            <span className="flex-1" />
            {/* Beside the figures of the crib there is no room for both. */}
            {!(cribbing && document.tracks.length > 1) && (
              <span className="whitespace-nowrap text-[14px] text-ink-soft" data-testid="inked">
                Inked <b className="font-semibold text-ink">{Math.round(inked * 100)} %</b>
              </span>
            )}
            <button
              type="button"
              aria-pressed={cribbing}
              onClick={toggleCrib}
              className={pill}
              title="The plan in a lane above, to key by hand against (U)"
            >
              Crib
            </button>
            <button
              type="button"
              aria-pressed={below === 'why'}
              onClick={() => show('why')}
              className={pill}
              title="Why this mouth is here (Y)"
            >
              Why?
            </button>
            <button
              type="button"
              aria-pressed={below === 'feel'}
              onClick={() => show('feel')}
              className={clsx(pill, 'whitespace-nowrap')}
              title={`On ${HOLDS[rules.holdFrames] ?? rules.holdFrames}, lead ${rules.leadFrames} (J)`}
            >
              Feel <b className="font-semibold text-ink">{feel}</b>
            </button>
            <PencilMenu hasSelection={selection !== null} onAct={act} />
            <Button
              weight="main"
              className="whitespace-nowrap py-[5px]!"
              disabled={keying || isReading || (data.sounds.length === 0 && rules.source === 'sounds')}
              onClick={() => void keyAgain()}
            >
              Key again
            </Button>
          </>
        }
        hints={
          <>
            <Hint keys={['←', '→']}>a frame</Hint>
            <Hint keys={['↑', '↓']}>an exposure</Hint>
            <Hint keys={['L']}>loop the phrase</Hint>
            <Hint keys={['I']}>ink</Hint>
          </>
        }
      />
    </>
  );
}
