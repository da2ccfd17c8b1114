/** The Key step: easel and tray at the left, the bar sheet beside them, the transport below. */
import {
  compareWithCrib,
  erasePencil,
  exposuresOfTrack,
  fullRules,
  inkedShare,
  isRefusal,
  maybeHead,
  maybeExposureAt,
  rangeOfLoudness,
  sceneSettings,
  type HeardFrames,
} from '@zest-jaw/core';
import { KeyboardMusic } from 'lucide-react';
import { lazy, Suspense, useMemo, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import type { Command } from '../commands/command.js';
import { useReadingCommands } from '../listen/useReadingCommands.js';
import { useReadingDialogs } from '../listen/useReadingDialogs.js';
import { useReadingHolds } from '../listen/useReadingHolds.js';
import { PlayInBar } from '../playIn/PlayInBar.js';
import { isPlayingIn, usePlayIn, type PlayIn } from '../playIn/usePlayIn.js';
import { withPlayed } from '../playIn/withPlayed.js';
import { Readout } from '../scene/Readout.js';
import { askOfPictures } from '../headPictures/asked.js';
import { HeadPictures } from '../headPictures/HeadPictures.js';
import { makeOneOff } from '../oneOffs/makeOneOff.js';
import { useLanes } from '../scene/useLanes.js';
import { SheetContext, useOpenScene, useSceneDocument, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { SheetStep } from '../scene/SheetStep.js';
import { newId } from '../session/newId.js';
import { TryBar } from '../trying/TryBar.js';
import { useChartProposal, useHeard, useProposal, type Proposal } from '../trying/useProposal.js';
import { Hint } from '../ui/Hint.js';
import { Round } from '../ui/Round.js';
import { ADVANCE_NAMES, ADVANCES, afterKeycap } from './afterKeycap.js';
import { AfterKeycap } from './AfterKeycap.js';
import { ByItselfPanel } from './ByItselfPanel.js';
import { EaselAtPlayhead } from './EaselAtPlayhead.js';
import { KeyHeading } from './KeyHeading.js';
import { usePoses } from './PoseMenu.js';
import { Tray } from './Tray.js';
import { useCrib } from './useCrib.js';
import { useGrid } from './useGrid.js';
import { useBetween } from './useBetween.js';
import { useFlip } from './useFlip.js';
import { useKeyAgain } from './useKeyAgain.js';
import { useMouthCommands } from './useMouthCommands.js';
import { useMouthEdits } from './useMouthEdits.js';
import { useFirstOf } from '../barSheet/useSheetPointer.js';
import { useEdgeHolds, useOtherLanes } from './useMouthHolds.js';
import { useRangeHolds } from './useRangeHolds.js';
import { useScrubPut } from './useScrubPut.js';
import { usePlaceHolds } from './usePlaceHolds.js';
import { useSelectionHolds } from './useSelectionHolds.js';
import { ViewSwitch } from './ViewSwitch.js';

// Fetched when they are first opened: a scene shows its mouths without them.
const FeelPanel = lazy(async () => ({ default: (await import('./FeelPanel.js')).FeelPanel }));
const OneOffsDialog = lazy(async () => ({ default: (await import('../oneOffs/OneOffsDialog.js')).OneOffsDialog }));
const NotShownDialog = lazy(async () => ({ default: (await import('./NotShownDialog.js')).NotShownDialog }));
const BetweenPanel = lazy(async () => ({ default: (await import('./BetweenPanel.js')).BetweenPanel }));
const PlacePanel = lazy(async () => ({ default: (await import('./PlacePanel.js')).PlacePanel }));
const WhyPanel = lazy(async () => ({ default: (await import('./WhyPanel.js')).WhyPanel }));

/** What stands below the easel. */
export type Below = 'tray' | 'feel' | 'why' | 'between' | 'place';

export function KeyStep(): ReactElement {
  const sheet = useSheet();
  const { track } = useSpeaker();
  const heard = useHeard();
  const proposal = useChartProposal(useProposal(heard), () =>
    toast.message('The chart plays other sounds than when this was keyed. What would change is tinted: take it, or leave it.'),
  );
  const [cribbing, setCribbing] = useState(false);
  const crib = useCrib(cribbing, proposal.span ? track.rules : proposal.rules, heard);
  const { source, floorDb, peakDb } = fullRules(proposal.rules);
  const range = useMemo(() => {
    if (source !== 'loudness' || !heard) return undefined;
    const own = rangeOfLoudness(heard.levels);
    const { from = 0, to = heard.levels.length } = proposal.span ?? {};
    return { floorDb: floorDb ?? own.floorDb, peakDb: peakDb ?? own.peakDb, from, to };
  }, [source, heard, floorDb, peakDb, proposal.span]);
  const grid = useGrid();
  const playIn = usePlayIn();
  const { mouths: played } = playIn;
  const { chart, chartId } = useSpeaker();
  const data = useMemo(
    () =>
      !crib && !range && grid === 1 && played.length === 0
        ? proposal.data
        : {
            ...proposal.data,
            ...(played.length > 0 && { exposures: withPlayed(proposal.data.exposures, played, { chartId, chart, track: track.id }) }),
            ...(grid > 1 && { grid }),
            ...(crib && {
              crib,
              differs: compareWithCrib(
                proposal.data.exposures.filter(({ inked }) => inked),
                crib,
              ).differs,
            }),
            ...(range && { range, showsLoudness: true }),
          },
    [proposal.data, crib, range, grid, played, chartId, chart, track.id],
  );
  const shown = useMemo(() => (data === sheet.data ? sheet : { ...sheet, data }), [sheet, data]);
  return (
    <SheetContext.Provider value={shown}>
      <KeySheet
        proposal={{ ...proposal, data }}
        playIn={playIn}
        heard={heard}
        cribbing={cribbing}
        onCrib={() => setCribbing((before) => !before)}
      />
    </SheetContext.Provider>
  );
}

interface KeySheetProps {
  readonly proposal: Proposal;
  readonly playIn: PlayIn;
  readonly heard: HeardFrames | undefined;
  readonly cribbing: boolean;
  readonly onCrib: () => void;
}

function KeySheet({ proposal, playIn, heard, cribbing, onCrib }: KeySheetProps): ReactElement {
  const document = useSceneDocument();
  const { session, playhead } = useOpenScene();
  const { track, chart, charts, chartId, chartSession } = useSpeaker();
  const keying = useKeyAgain(heard);
  const edits = useMouthEdits(keying.keyAgain);
  const [below, setBelow] = useState<Below>('tray');
  const { opens, dialogs } = useReadingDialogs();
  const readingCommands = useReadingCommands(opens, 'key');
  const holds = useFirstOf(
    useReadingHolds(opens),
    useRangeHolds(proposal),
    usePlaceHolds(proposal.changes === 0),
    useSelectionHolds(proposal.changes === 0),
    useEdgeHolds(proposal.changes === 0),
    useOtherLanes(),
  );
  const { lengthFrames } = sceneSettings(document);
  const { flip, flipped } = useFlip();
  const leaveFeel = (): void => proposal.setReach('track');
  const show = (wanted: Below): void => {
    if (below === 'feel' && !proposal.isTrying) leaveFeel();
    setBelow(below === wanted ? 'tray' : wanted);
  };
  const inked = useMemo(() => inkedShare(exposuresOfTrack(document, track.id), lengthFrames), [document, track.id, lengthFrames]);
  const toggleCrib = (): void => {
    onCrib();
    if (cribbing || inked > 0 || isRefusal(erasePencil(document, { track: track.id, from: 0, to: lengthFrames }, charts, newId))) return;
    toast.message('To key by hand you may want the lane empty.', {
      action: { label: 'Erase the pencil', onClick: () => edits.act('erase', 'all') },
    });
  };
  const own = useMouthCommands();
  const lanes = useLanes();
  const poses = usePoses();
  const between = useBetween();
  const scrubPut = useScrubPut(edits.put);
  /** A keycap plays its mouth in, or puts it. */
  const put = (drawing: string, event?: KeyboardEvent): void => {
    if (!playIn.press(drawing, event)) scrubPut(drawing, event);
  };
  const [drawn, setDrawn] = useState<string>();
  /** A mouth for these frames only; where one is seen already, that one on the desk. */
  const openOneOff = (): void => {
    playhead.stay();
    const { frame, selection } = playhead.store.getState();
    const there = maybeExposureAt(exposuresOfTrack(session.store.getState().document, track.id), frame)?.drawing;
    const isOne = there !== undefined && document.oneOffs.some(({ id }) => id === there);
    const plain = chartSession.store.getState().document;
    setDrawn(
      isOne && !selection ? there : makeOneOff(session, { track: track.id, chartId, chart: plain, drawing: there, frame, selection }),
    );
  };
  const commands: readonly Command[] = [
    ...readingCommands,
    {
      id: 'one-off',
      title: 'A mouth for these frames only, drawn on the desk',
      group: 'Put mouths',
      keys: ['Alt+KeyO'],
      also: 'one-off special draw single bite whistle shout',
      run: openOneOff,
    },
    {
      id: 'play-in',
      title: playIn.isArmed ? 'No longer play mouths in' : 'Play mouths in: keycaps lay them while it plays',
      group: 'Put mouths',
      keys: ['Digit5'],
      also: 'record live perform tap arm',
      run: () => playIn.arm(!playIn.isArmed),
    },
    ...[...chart.drawings]
      .sort((a, b) => a.place - b.place)
      .map((drawing): Command => ({
        id: `put:${drawing.id}`,
        title: `Put ${drawing.label}`,
        group: 'Put mouths',
        keys: drawing.keycap ? [`Key${drawing.keycap}`] : [],
        also: drawing.tags.join(' '),
        run: (event) => put(drawing.id, event),
      })),
    {
      id: 'starts-here',
      title: 'The mouth at the playhead starts here',
      group: 'Change mouths',
      keys: ['Semicolon'],
      run: () => edits.setEdge('start'),
    },
    {
      id: 'ends-here',
      title: 'It ends here, the next starts after',
      group: 'Change mouths',
      keys: ['Quote'],
      run: () => edits.setEdge('end'),
    },
    { id: 'ink', title: 'Ink the mouth, or the selection', group: 'Change mouths', keys: ['KeyI'], run: () => edits.ink(true) },
    { id: 'pencil', title: 'Back to pencil', group: 'Change mouths', keys: ['Shift+KeyI'], run: () => edits.ink(false) },
    ...own,
    ...poses.commands,
    ...between.commands,
    {
      id: 'place-panel',
      title: 'Place: where the lane, or the head, is over time',
      group: 'Look',
      keys: ['Alt+KeyP'],
      also: 'position move rotate scale turn size keys aim pupils camera',
      run: () => show('place'),
    },
    {
      id: 'between-panel',
      title: 'Between mouths: in-betweens, pushes, smears',
      group: 'Look',
      keys: ['Alt+KeyB'],
      also: 'tween mix accent squash stretch handles',
      run: () => show('between'),
    },
    ...ADVANCES.map((advance): Command => ({
      id: `after-keycap:${advance}`,
      title: `After a keycap the playhead ${advance === 'stay' ? 'stays' : `goes ${ADVANCE_NAMES[advance]}`}`,
      group: 'Put mouths',
      keys: [],
      also: 'advance step entry',
      run: () => afterKeycap.setState({ advance }),
    })),
    {
      id: 'flip-before',
      title: 'Held: the mouth before on the easel',
      group: 'Look',
      keys: ['Digit9'],
      also: 'flip compare',
      run: () => flip(-1),
    },
    {
      id: 'flip-after',
      title: 'Held: the mouth after on the easel',
      group: 'Look',
      keys: ['Digit0'],
      also: 'flip compare',
      run: () => flip(1),
    },
    {
      id: 'lane-next',
      title: 'The next lane',
      group: 'Look',
      keys: ['Alt+ArrowDown'],
      also: 'track part brows lids eyes mouth speaker',
      run: () => lanes.step(1),
    },
    {
      id: 'lane-before',
      title: 'The lane before',
      group: 'Look',
      keys: ['Alt+ArrowUp'],
      also: 'track part brows lids eyes mouth speaker',
      run: () => lanes.step(-1),
    },
    {
      id: 'head-pictures',
      title: 'Pictures of the head: numbered pictures or a film as the head, or behind it',
      group: 'Whole scene',
      keys: [],
      also: 'plate sequence video gif background footage',
      run: () => askOfPictures('bring'),
    },
    {
      id: 'follow-pictures',
      title: 'The mouth follows the pictures of the head',
      group: 'Whole scene',
      keys: [],
      also: 'track patch motion tracking plate',
      closed: lanes.hasPictures ? undefined : 'No lane of this face shows pictures of a head. Bring some first.',
      run: () => askOfPictures('follow'),
    },
    {
      id: 'lane-fold',
      title: track.folded ? 'Unfold this lane' : 'Fold this lane to a line while another is worked on',
      group: 'Look',
      keys: ['Alt+KeyF'],
      also: 'collapse track part',
      run: () => lanes.turn(track, 'folded'),
    },
    {
      id: 'lane-mute',
      title: track.muted ? 'This lane is no longer at rest' : 'Mute this lane: at rest, whatever is keyed',
      group: 'Look',
      keys: ['Alt+KeyM'],
      also: 'track part silence',
      run: () => lanes.turn(track, 'muted'),
    },
    {
      id: 'lane-hide',
      title: track.hidden ? 'Show this lane again' : 'Hide this lane: not drawn at all',
      group: 'Look',
      keys: [],
      also: 'track part invisible',
      run: () => lanes.turn(track, 'hidden'),
    },
    {
      id: 'lane-lock',
      title: track.locked ? 'Unlock this lane' : 'Lock this lane: nothing changes it',
      group: 'Look',
      keys: [],
      also: 'track part protect',
      run: () => lanes.turn(track, 'locked'),
    },
    {
      id: 'key-again',
      title: 'Key the pencil again',
      group: 'Whole scene',
      keys: ['KeyK'],
      also: 'auto plan',
      run: () => void keying.keyAgain(),
    },
    {
      id: 'feel',
      title: 'The feel: rules, tried before they are taken',
      group: 'Look',
      keys: ['KeyJ'],
      also: 'rules settings',
      run: () => show('feel'),
    },
    { id: 'why', title: 'Why this mouth is here', group: 'Look', keys: ['KeyY'], also: 'explain reason', run: () => show('why') },
    {
      id: 'crib',
      title: 'The crib: the plan above, to key by hand against',
      group: 'Look',
      keys: ['KeyU'],
      also: 'guide',
      run: toggleCrib,
    },
  ];
  return (
    <>
      {keying.notShown && (
        <Suspense>
          <NotShownDialog reasons={keying.notShown} onClose={keying.putAway} />
        </Suspense>
      )}
      {drawn !== undefined && (
        <Suspense>
          <OneOffsDialog first={drawn} onPut={edits.put} onClose={() => setDrawn(undefined)} />
        </Suspense>
      )}
      <HeadPictures />
      {dialogs}
      <SheetStep
        view={cribbing ? 'crib' : 'key'}
        label="Bar sheet"
        holds={holds}
        commands={commands}
        transport={
          <Round label="Play mouths in (5)" pressed={playIn.isArmed} onClick={() => playIn.arm(!playIn.isArmed)}>
            <KeyboardMusic size={17} />
          </Round>
        }
        easel={<EaselAtPlayhead size="large" flipped={flipped} />}
        aside={
          <>
            <EaselAtPlayhead
              size={(below === 'tray' || below === 'between' || below === 'place') && !isPlayingIn(playIn) ? 'usual' : 'small'}
              flipped={flipped}
              handles={below === 'between' ? 'push' : below === 'place' ? 'place' : undefined}
            />
            {below !== 'feel' && proposal.changes > 0 && (
              <TryBar proposal={proposal} className="shrink-0 rounded-[10px] bg-zest-soft px-3 py-1.5" />
            )}
            {below === 'feel' && track.kind === 'part' && <ByItselfPanel onClose={() => setBelow('tray')} />}
            {below === 'feel' && track.kind === 'mouth' && (
              <Suspense>
                <FeelPanel
                  proposal={proposal}
                  onClose={() => {
                    leaveFeel();
                    setBelow('tray');
                  }}
                />
              </Suspense>
            )}
            {below === 'between' && (
              <>
                <Readout />
                <Suspense>
                  <BetweenPanel onClose={() => setBelow('tray')} />
                </Suspense>
              </>
            )}
            {below === 'place' && (
              <>
                <Readout />
                <Suspense>
                  <PlacePanel reach={Math.round((maybeHead(chart)?.width ?? 400) / 2)} onClose={() => setBelow('tray')} />
                </Suspense>
              </>
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
                {isPlayingIn(playIn) && <PlayInBar playIn={playIn} />}
                <div className="flex shrink-0 flex-wrap items-center justify-between gap-x-2">
                  <ViewSwitch />
                  <AfterKeycap />
                </div>
                <Tray onPut={put} onOneOff={openOneOff} onBetween={() => show('between')} onPlace={() => show('place')} />
              </>
            )}
          </>
        }
        heading={
          <KeyHeading
            proposal={proposal}
            inked={inked}
            below={below}
            onShow={show}
            cribbing={cribbing}
            onCrib={toggleCrib}
            edits={edits}
            keying={keying}
            poses={poses}
          />
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
