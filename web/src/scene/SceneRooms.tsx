/** What the steps of an open scene share, made from its sessions; and what lies around every step. */
import {
  mouthLaneOf,
  type CharacterView,
  chartStretchAt,
  type ChartDocument,
  chartSettings,
  chartsWithOneOffs,
  type ChartView,
  DEFAULT_SOUND_GROUPS,
  type Note,
  sceneSettings,
  type Track,
} from '@zest-jaw/core';
import { memo, useCallback, useEffect, useMemo, useState, type DragEvent, type ReactElement, type ReactNode } from 'react';
import { Outlet, useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { openChosen } from '../key/chosen.js';
import { openShownScene } from '../history/shownScene.js';
import { readPalette } from '../barSheet/palette.js';
import { sheetGatherer } from '../barSheet/sheetData.js';
import { NotesRoom, useNotes } from '../check/NotesRoom.js';
import { sheetNotes } from '../check/sheetNotes.js';
import { useLinked } from './useLinked.js';
import { useOwnFeels } from './useOwnFeels.js';
import { FaceChartsContext } from '../mouth/faceChartsContext.js';
import { mouthSprites } from '../mouth/paintFigure.js';
import { loadPictures } from '../mouth/pictures.js';
import type { DocumentSession, SessionState } from '../session/session.js';
import { soundSettings } from '../sound/soundSettings.js';
import { AlonePage } from '../ui/AlonePage.js';
import { theme } from '../ui/theme.js';
import { giveKeysBack } from '../ui/useKeys.js';
import { Conflict } from './Conflict.js';
import { labelsBeside } from '../api/labelsBeside.js';
import { OfferRoom } from '../listen/OfferRoom.js';
import { droppedRecording, maybeRecordingOf } from './droppedRecording.js';
import {
  HearingContext,
  ReadingContext,
  SceneContext,
  SheetContext,
  SpeakerContext,
  useOpenScene,
  useSceneDocument,
  type Hearing,
  type OpenScene,
  type Sheet,
  type Speaker,
} from './sceneContext.js';
import { SceneHeader } from './SceneHeader.js';
import { keepPass } from '../passes/usePasses.js';
import type { Loaded, Sessions } from './ScenePage.js';
import { useOfSessions } from './useOfSessions.js';
import { CompanyContext } from '../room/useOthers.js';
import { useCompany, type Refreshed } from '../room/useCompany.js';
import { useReading } from './useReading.js';
import { useSceneSound, type SceneSound } from './useSceneSound.js';

/** Something of the state of every chart session, by chart; the same map until one of them changes. */
function useOfCharts<T>(
  sessions: ReadonlyMap<string, DocumentSession<ChartDocument>>,
  pick: (state: SessionState<ChartDocument>) => T,
): ReadonlyMap<string, T> {
  const list = useMemo(() => [...sessions.values()], [sessions]);
  const picked = useOfSessions(list, pick);
  return useMemo(() => new Map([...sessions.keys()].map((id, index) => [id, picked[index]!])), [sessions, picked]);
}

const documentOf = (state: SessionState<ChartDocument>): ChartDocument => state.document;

const NOBODY: readonly CharacterView[] = [];

/** Charts whose small pictures are fetched: another map of the same when some have come. */
function usePictured(charts: ReadonlyMap<string, ChartDocument>): ReadonlyMap<string, ChartDocument> {
  const [pictured, setPictured] = useState({ of: charts, charts });
  useEffect(() => {
    let wanted = true;
    const drawings = [...charts.values()].flatMap((chart) => chart.drawings);
    const previews = drawings.flatMap(({ art }) => (art.kind === 'placed' ? [art.preview] : []));
    void loadPictures(previews).then((came) => {
      if (came && wanted) setPictured({ of: charts, charts: new Map(charts) });
    });
    return () => void (wanted = false);
  }, [charts]);
  return pictured.of === charts ? pictured.charts : charts;
}

/** Charts of some characters, by id; the same map until one of them changes. */
function useChartsOf(
  characterIds: readonly string[],
  charts: ReadonlyMap<string, ChartDocument>,
  views: readonly ChartView[],
): ReadonlyMap<string, ChartDocument> {
  const key = [...new Set(characterIds)].join(' ');
  return useMemo(() => {
    const speakers = new Set(key.split(' '));
    const own = new Set(views.filter((view) => speakers.has(view.characterId)).map((view) => view.id));
    return new Map([...charts].filter(([id]) => own.has(id)));
  }, [key, charts, views]);
}

/** Whose mouth is worked on: undefined when the character or its chart is gone. */
function useSpeakerShown(
  { shown, chartSessions, chartViews, characters, playhead }: OpenScene,
  track: Track | undefined,
): Speaker | undefined {
  const own = useOfCharts(chartSessions, documentOf);
  const oneOffs = useStore(shown.store, ({ document }) => document.oneOffs);
  const allCharts = useMemo(() => chartsWithOneOffs({ oneOffs }, own), [oneOffs, own]);
  const charts = useChartsOf(track ? [track.characterId] : [], allCharts, chartViews);
  const inForce = useStore(
    shown.store,
    useShallow(({ document: { settings, tracks, views } }) => ({ settings, tracks, views })),
  );
  const chartId = useStore(playhead.store, ({ frame }) => (track && chartStretchAt(inForce, track.id, frame)?.chartId) ?? '');
  return useMemo(() => {
    const character = characters.find((candidate) => candidate.id === track?.characterId);
    const [chart, chartSession] = [charts.get(chartId), chartSessions.get(chartId)];
    return track && character && chart && chartSession && { track, character, chart, chartId, chartSession, charts, allCharts };
  }, [track, characters, charts, chartId, chartSessions, allCharts]);
}

/** What the sheet shows of whose mouth is worked on, and the brushes for it. */
function useSheetShown(
  { chartViews, characters, productionId }: OpenScene,
  { track, charts, allCharts }: Speaker,
  sound: SceneSound,
): Sheet {
  const document = useSceneDocument();
  const { feels: ownFeels } = useOwnFeels(productionId);
  const showsLoudness = useStore(soundSettings, (state) => state.showsLoudness);
  const currentTheme = useStore(theme, (state) => state.theme);
  const nameOf = useCallback((id: string): string => characters.find((one) => one.id === id)?.name ?? 'Somebody', [characters]);
  const [gather] = useState(sheetGatherer);
  const { waves } = sound;
  const data = useMemo(
    () => gather(document, track.id, charts, waves, { showsLoudness, nameOf, ownFeels, allCharts }),
    [gather, document, track, charts, allCharts, waves, showsLoudness, nameOf, ownFeels],
  );
  const speaking = usePictured(
    useChartsOf(
      document.tracks.map((one) => one.characterId),
      allCharts,
      chartViews,
    ),
  );
  const palette = useMemo(() => readPalette(currentTheme), [currentTheme]);
  const sprites = useMemo(() => mouthSprites(speaking, window.devicePixelRatio || 1, currentTheme === 'night'), [speaking, currentTheme]);
  const { open, remarks } = useNotes();
  const notes = useMemo(() => sheetNotes(open ?? NO_NOTES, remarks, track.id), [open, remarks, track.id]);
  return useMemo(() => ({ data: notes.length > 0 ? { ...data, notes } : data, palette, sprites }), [data, notes, palette, sprites]);
}

const NO_NOTES: readonly Note[] = [];

/** The sheet of a speaker, around the steps. */
function SheetRoom({ speaker, sound, children }: { speaker: Speaker; sound: SceneSound; children: ReactNode }): ReactElement {
  useLinked();
  return (
    <SheetContext.Provider value={useSheetShown(useOpenScene(), speaker, sound)}>
      <OfferRoom>{children}</OfferRoom>
    </SheetContext.Provider>
  );
}

/** What lies around every step: the header, what is dropped on the page, and conflicts. A clip that is slid changes nothing of it. */
const AroundSteps = memo(function AroundSteps({ production }: { production: string }): ReactElement {
  const { session, sceneId, chartSessions } = useOpenScene();
  const { title } = useSceneDocument(sceneSettings);
  const navigate = useNavigate();
  useEffect(() => {
    const before = window.document.title;
    window.document.title = `${title} · Zest Jaw`;
    return () => void (window.document.title = before);
  }, [title]);
  /** A recording dropped on any step is placed on Listen; of other files it is said where they go. */
  const onDropped = (event: DragEvent): void => {
    if (event.defaultPrevented || event.dataTransfer.files.length === 0) return;
    event.preventDefault();
    const file = maybeRecordingOf(event.dataTransfer.files);
    if (!file) {
      toast.message('Pictures of mouths are imported on the Chart step, recordings are placed on Listen. Drop them there.');
      return;
    }
    droppedRecording.setState({ file, labels: labelsBeside(event.dataTransfer.files, file) });
    void navigate('listen');
  };
  return (
    <>
      <div
        className="flex h-full min-h-0 flex-col"
        onClick={giveKeysBack}
        onDragOver={(event) => event.preventDefault()}
        onDrop={onDropped}
      >
        <SceneHeader production={production} />
        <Outlet />
      </div>
      <Conflict
        session={session}
        noun="scene"
        title={title}
        onPass={async (document) => {
          await keepPass(sceneId, { name: 'My version', why: 'Changed in two windows at once.', byItself: false, document });
        }}
        onGoOn={(id) => void navigate(`/scenes/${id}/key`)}
      />
      {[...chartSessions].map(([id, one]) => (
        <ChartConflict key={id} session={one} />
      ))}
    </>
  );
});

function ChartConflict({ session }: { session: DocumentSession<ChartDocument> }): ReactElement {
  const { name } = useStore(session.store, ({ document }) => chartSettings(document));
  return <Conflict session={session} noun="mouth chart" title={name} />;
}

/** Steps that are about what is said. */
const OF_SPEECH = ['listen', 'check'];

export function SceneRooms({ view, charts: chartViews, productions, session, chartSessions }: Loaded & Sessions): ReactElement {
  const [shown] = useState(() => openShownScene(session));
  const [chosen] = useState(openChosen);
  const { settings, clips } = useStore(
    shown.store,
    useShallow(({ document }) => ({ settings: document.settings, clips: document.clips })),
  );
  const sound = useSceneSound({ settings, clips });
  const { player, playhead, heardOf, samplesOf, facts } = sound;
  const { reading, readAgain } = useReading(view, session);
  const production = productions.find((candidate) => candidate.id === view.productionId);
  const characters = production?.characters ?? NOBODY;
  const [shownTrack, showTrack] = useState<string>();
  const { id: sceneId, productionId } = view;
  const open = useMemo<OpenScene>(
    () => ({
      sceneId,
      productionId,
      session,
      shown,
      chartSessions,
      chartViews,
      characters,
      player,
      playhead,
      chosen,
      showTrack,
      readAgain,
    }),
    [sceneId, productionId, session, shown, chartSessions, chartViews, characters, player, playhead, chosen, readAgain],
  );
  const sessions = useMemo(
    () =>
      new Map<string, Refreshed>([
        [`scenes/${sceneId}`, session],
        ...[...chartSessions].map(([id, one]) => [`charts/${id}`, one] as const),
      ]),
    [sceneId, session, chartSessions],
  );
  const others = useCompany(`scenes/${sceneId}`, sessions, playhead);
  const hearing = useMemo<Hearing>(() => ({ facts, heardOf, samplesOf }), [facts, heardOf, samplesOf]);
  const { pathname } = useLocation();
  // What is said is worked on by whoever says it; on the other steps a part of the face is a lane like any.
  const isOfParts = !OF_SPEECH.some((step) => pathname.endsWith(`/${step}`));
  const track = useStore(shown.store, ({ document }) => {
    const found = document.tracks.find((candidate) => candidate.id === shownTrack) ?? document.tracks[0];
    return found && (isOfParts ? found : mouthLaneOf(document, found));
  });
  const speaker = useSpeakerShown(open, track);
  if (!speaker)
    return (
      <AlonePage
        title="This scene cannot be shown"
        text={`Its character or mouth chart is gone. A scene needs both, with its ${DEFAULT_SOUND_GROUPS.length} sound groups.`}
      />
    );
  return (
    <SceneContext.Provider value={open}>
      <CompanyContext.Provider value={others}>
        <HearingContext.Provider value={hearing}>
          <ReadingContext.Provider value={reading}>
            <SpeakerContext.Provider value={speaker}>
              <FaceChartsContext.Provider value={speaker.allCharts}>
                <NotesRoom>
                  <SheetRoom speaker={speaker} sound={sound}>
                    <AroundSteps production={production?.name ?? ''} />
                  </SheetRoom>
                </NotesRoom>
              </FaceChartsContext.Provider>
            </SpeakerContext.Provider>
          </ReadingContext.Provider>
        </HearingContext.Provider>
      </CompanyContext.Provider>
    </SceneContext.Provider>
  );
}
