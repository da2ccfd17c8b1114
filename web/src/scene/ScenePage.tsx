/** One scene: its header with the steps, and what the steps share. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  CHART_KIND,
  type CharacterView,
  chartIdsOfScene,
  chartStretchAt,
  type ClipPart,
  type ChartDocument,
  chartSettings,
  type ChartView,
  checkChart,
  checkScene,
  DEFAULT_SOUND_GROUPS,
  formatFrameRate,
  hasEnded,
  type JobView,
  type ProductionView,
  SCENE_KIND,
  type SceneDocument,
  sceneSettings,
  type SceneView,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { useCallback, useEffect, useMemo, useState, type DragEvent, type ReactElement } from 'react';
import { NavLink, Outlet, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { api, sendJson, sentenceOf } from '../api/http.js';
import { useJob } from '../api/job.js';
import { useProductions } from '../api/queries.js';
import { readPalette } from '../barSheet/palette.js';
import { sheetGatherer } from '../barSheet/sheetData.js';
import { useOwnFeels } from '../key/useOwnFeels.js';
import { mouthSprites } from '../mouth/paintFigure.js';
import { loadPictures } from '../mouth/pictures.js';
import { openSession, type DocumentSession, type SessionState } from '../session/documentSession.js';
import { SaveWord, type AnySession } from './SaveWord.js';
import { AlonePage } from '../ui/AlonePage.js';
import { TopBar } from '../ui/Frame.js';
import { soundSettings } from '../sound/soundSettings.js';
import { giveKeysBack } from '../ui/useKeys.js';
import { theme } from '../ui/theme.js';
import { Conflict } from './Conflict.js';
import { droppedRecording, maybeRecordingOf } from './droppedRecording.js';
import { SceneSettingsMenu } from './SceneSettingsMenu.js';
import { SceneContext, type OpenScene } from './sceneContext.js';
import { useOfSessions } from './useOfSessions.js';
import { useSceneSound } from './useSceneSound.js';

const STEPS = [
  ['chart', 'Chart'],
  ['listen', 'Listen'],
  ['key', 'Key'],
  ['hand-off', 'Hand off'],
] as const;

const HOLDS = ['', 'on ones', 'on twos', 'on threes', 'on fours'];

interface Sessions {
  readonly session: DocumentSession<SceneDocument>;
  /** Every chart of the production's characters, by id. */
  readonly chartSessions: ReadonlyMap<string, DocumentSession<ChartDocument>>;
}

/** Something of the state of every chart session, by chart; the same map until one of them changes. */
function useOfCharts<T>(
  sessions: ReadonlyMap<string, DocumentSession<ChartDocument>>,
  pick: (state: SessionState<ChartDocument>) => T,
): ReadonlyMap<string, T> {
  const list = useMemo(() => [...sessions.values()], [sessions]);
  const picked = useOfSessions(list, pick);
  return useMemo(() => new Map([...sessions.keys()].map((id, index) => [id, picked[index]!])), [sessions, picked]);
}

const NOBODY: readonly CharacterView[] = [];

const documentOf = (state: SessionState<ChartDocument>): ChartDocument => state.document;

function SceneHeader({
  session,
  chartSessions,
  document,
  production,
}: Sessions & { document: SceneDocument; production: string }): ReactElement {
  const saved = useMemo<AnySession[]>(() => [session, ...chartSessions.values()], [session, chartSessions]);
  const { title, frameRate } = sceneSettings(document);
  const hold = document.tracks[0]?.rules.holdFrames ?? 1;
  return (
    <TopBar>
      <h1 className="min-w-0 truncate text-ink-soft">
        {production} <span aria-hidden>/</span> <b className="font-semibold text-ink">{title}</b>
      </h1>
      <nav aria-label="Steps" className="mx-auto flex shrink-0 gap-1">
        {STEPS.map(([path, name]) => (
          <NavLink
            key={path}
            to={path}
            className={({ isActive }) =>
              clsx('rounded-full px-4 py-1.5 font-semibold', isActive ? 'bg-ink text-on-ink' : 'text-ink-soft hover:text-ink')
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <div className="flex shrink-0 items-center gap-4 text-[14px] text-ink-soft">
        <span>{`${formatFrameRate(frameRate)} fps · ${HOLDS[hold] ?? `held ${hold}`}`}</span>
        <SceneSettingsMenu />
        <SaveWord sessions={saved} />
      </div>
    </TopBar>
  );
}

/** Loads what a scene needs before it can be shown. */
export function ScenePage(): ReactElement {
  const { sceneId = '' } = useParams();
  const view = useQuery({
    queryKey: ['scene', sceneId],
    queryFn: () => api<SceneView>(`/scenes/${sceneId}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: 1,
  });
  // Not the list that menus keep fresh: the sessions begin from these, and must not begin again when that changes.
  const charts = useQuery({
    queryKey: ['scene-charts', sceneId],
    queryFn: () => api<ChartView[]>('/charts'),
    gcTime: 0,
    staleTime: Infinity,
    retry: 1,
  });
  const productions = useProductions();
  const failed = view.error ?? charts.error ?? productions.error;
  if (failed) return <AlonePage title="This scene cannot be opened" text={sentenceOf(failed)} />;
  if (!view.data || !charts.data || !productions.data) return <AlonePage busy title="Opening the scene…" />;
  return <SceneWithSession key={sceneId} view={view.data} charts={charts.data} productions={productions.data} />;
}

interface Loaded {
  readonly view: SceneView;
  readonly charts: readonly ChartView[];
  readonly productions: readonly ProductionView[];
}

const onRefusal = (sentence: string): void => void toast.message(sentence);

/** Opens the scene and every chart of the production's characters, each with what a closed tab left unsaved. */
async function openSessions(view: SceneView, charts: readonly ChartView[], characters: ReadonlySet<string>): Promise<Sessions> {
  // Of every character, not only of those that speak: another one may begin to.
  const used = chartIdsOfScene(view.document);
  const own = charts.filter((chart) => used.has(chart.id) || characters.has(chart.characterId));
  if (![...used].some((id) => own.some((chart) => chart.id === id)))
    throw new Error('The mouth chart of this scene is gone. Choose another scene.');
  const isChecked = import.meta.env.DEV;
  const opened = await Promise.all(
    own.map((chart) =>
      openSession<ChartDocument>(chart, { onRefusal, kind: CHART_KIND, path: '/charts', check: isChecked ? checkChart : undefined }),
    ),
  );
  const chartSessions = new Map(own.map((chart, index) => [chart.id, opened[index]!]));
  const check = (document: SceneDocument): string[] =>
    checkScene(document, new Map([...chartSessions].map(([id, { store }]) => [id, store.getState().document])));
  const options = { onRefusal, kind: SCENE_KIND, path: '/scenes', check: isChecked ? check : undefined };
  const session = await openSession<SceneDocument>(view, options);
  return { session, chartSessions };
}

const charactersOf = (productions: readonly ProductionView[], id: string): ReadonlySet<string> =>
  new Set(productions.find((production) => production.id === id)?.characters.map((character) => character.id));

function SceneWithSession({ view, charts, productions }: Loaded): ReactElement {
  const [sessions, setSessions] = useState<Sessions>();
  const [fault, setFault] = useState<string>();
  const client = useQueryClient();
  useEffect(() => {
    let opened: Sessions | undefined;
    let wanted = true;
    const close = ({ session, chartSessions }: Sessions): void => {
      for (const one of [session, ...chartSessions.values()]) one.close();
    };
    openSessions(view, charts, charactersOf(productions, view.productionId))
      .then((next) => {
        if (wanted) setSessions((opened = next));
        else close(next);
      })
      .catch((error: unknown) => setFault(sentenceOf(error)));
    return () => {
      wanted = false;
      if (opened) close(opened);
      // The kept views are as old as these sessions; the next opening asks again.
      client.removeQueries({ queryKey: ['scene', view.id] });
      client.removeQueries({ queryKey: ['scene-charts', view.id] });
      void client.invalidateQueries({ queryKey: ['charts'] });
    };
    // What the sessions begin from does not change while the scene is open; the list of productions may.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, charts, client]);
  if (fault) return <AlonePage title="This scene cannot be opened" text={fault} />;
  if (!sessions) return <AlonePage busy title="Opening the scene…" />;
  return <SceneSteps view={view} charts={charts} productions={productions} {...sessions} />;
}

/** Follows the reading of the scene; when it arrives, the session takes it in. */
function useReading(
  view: SceneView,
  session: DocumentSession<SceneDocument>,
): { reading: JobView | undefined; readAgain: OpenScene['readAgain'] } {
  const [jobId, setJobId] = useState(view.reading && !hasEnded(view.reading) ? view.reading.id : undefined);
  const followed = useJob(jobId);
  const ended = followed !== undefined && hasEnded(followed);
  const [takenIn, setTakenIn] = useState<string>();
  useEffect(() => {
    if (!ended) return;
    session
      .refresh()
      .catch((error: unknown) => toast.error(sentenceOf(error)))
      .finally(() => setTakenIn(jobId));
  }, [ended, jobId, session]);
  // It is under way until it is here: undo would take back something else before.
  const reading: JobView | undefined =
    ended && takenIn !== jobId ? { ...followed, state: 'running' } : (followed ?? view.reading ?? undefined);
  const readAgain = useCallback(
    async (clipId: string, parts?: readonly ClipPart[]) => {
      await session.flush();
      const job = await sendJson<JobView>('POST', `/scenes/${view.id}/readings`, { clipId, ...(parts && { parts }) });
      setJobId(job.id);
    },
    [session, view.id],
  );
  return { reading, readAgain };
}

/** The charts of one character, by id; the same map until one of them changes. */
function useChartsOf(
  characterId: string | undefined,
  charts: ReadonlyMap<string, ChartDocument>,
  views: readonly ChartView[],
): ReadonlyMap<string, ChartDocument> {
  return useMemo(() => {
    const own = new Set(views.filter((view) => view.characterId === characterId).map((view) => view.id));
    return new Map([...charts].filter(([id]) => own.has(id)));
  }, [characterId, charts, views]);
}

/** The charts of everybody who speaks in a scene, by id; the same map until one of them changes. */
function useSpeakingCharts(
  { tracks }: SceneDocument,
  charts: ReadonlyMap<string, ChartDocument>,
  views: readonly ChartView[],
): ReadonlyMap<string, ChartDocument> {
  return useMemo(() => {
    const speakers = new Set(tracks.map((track) => track.characterId));
    const own = new Set(views.filter((view) => speakers.has(view.characterId)).map((view) => view.id));
    return new Map([...charts].filter(([id]) => own.has(id)));
  }, [tracks, charts, views]);
}

/** Fetches the small pictures of charts; the number changes when some have come. */
function usePictures(charts: ReadonlyMap<string, ChartDocument>): number {
  const [count, setCount] = useState(0);
  useEffect(() => {
    let wanted = true;
    const drawings = [...charts.values()].flatMap((chart) => chart.drawings);
    const previews = drawings.flatMap(({ art }) => (art.kind === 'placed' ? [art.preview] : []));
    void loadPictures(previews).then((came) => {
      if (came && wanted) setCount((before) => before + 1);
    });
    return () => void (wanted = false);
  }, [charts]);
  return count;
}

function SceneSteps({ view, charts: chartViews, productions, session, chartSessions }: Loaded & Sessions): ReactElement {
  const document = useStore(session.store, (state) => state.document);
  const { player, playhead, waves, heardOf, facts } = useSceneSound(document);
  const { reading, readAgain } = useReading(view, session);
  const navigate = useNavigate();
  const currentTheme = useStore(theme, (state) => state.theme);
  const production = productions.find((candidate) => candidate.id === view.productionId);
  const [shownTrack, showTrack] = useState<string>();
  const track = document.tracks.find((candidate) => candidate.id === shownTrack) ?? document.tracks[0];
  const allCharts = useOfCharts(chartSessions, documentOf);
  const charts = useChartsOf(track?.characterId, allCharts, chartViews);
  const { feels: ownFeels } = useOwnFeels(view.productionId);
  const showsLoudness = useStore(soundSettings, (state) => state.showsLoudness);
  const chartId = useStore(playhead.store, ({ frame }) => (track ? (chartStretchAt(document, track.id, frame)?.chartId ?? '') : ''));
  const chart = charts.get(chartId);
  const chartSession = chartSessions.get(chartId);
  const character = production?.characters.find((candidate) => candidate.id === track?.characterId);
  const nameOf = useCallback((id: string): string => production?.characters.find((one) => one.id === id)?.name ?? 'Somebody', [production]);
  const [gather] = useState(sheetGatherer);
  const data = useMemo(
    () => (track ? gather(document, track.id, charts, waves, { showsLoudness, nameOf, ownFeels, allCharts }) : undefined),
    [gather, document, track, charts, allCharts, waves, showsLoudness, nameOf, ownFeels],
  );
  const speaking = useSpeakingCharts(document, allCharts, chartViews);
  const pictures = usePictures(speaking);
  // The theme is a dependency, for palette and sprites are read from it; so are the pictures that have come.
  const look = useMemo(
    () => ({ palette: readPalette(), sprites: mouthSprites(speaking, window.devicePixelRatio || 1, currentTheme === 'night') }),
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [speaking, currentTheme, pictures],
  );
  const characters = production?.characters ?? NOBODY;
  const open = useMemo<OpenScene | undefined>(
    () =>
      track && character && data && chart && chartSession
        ? {
            sceneId: view.id,
            productionId: view.productionId,
            player,
            session,
            document,
            playhead,
            track,
            character,
            chart,
            chartId,
            chartSession,
            charts,
            allCharts,
            chartViews,
            characters,
            showTrack,
            facts,
            heardOf,
            data,
            ...look,
            reading,
            readAgain,
          }
        : undefined,
    [
      view.id,
      view.productionId,
      player,
      session,
      chartSession,
      chartId,
      charts,
      allCharts,
      chartViews,
      characters,
      facts,
      heardOf,
      document,
      playhead,
      track,
      character,
      chart,
      data,
      look,
      reading,
      readAgain,
      showTrack,
    ],
  );
  useEffect(() => {
    const before = window.document.title;
    window.document.title = `${sceneSettings(document).title} · Zest Jaw`;
    return () => void (window.document.title = before);
  }, [document]);
  if (!open)
    return (
      <AlonePage
        title="This scene cannot be shown"
        text={`Its character or mouth chart is gone. A scene needs both, with its ${DEFAULT_SOUND_GROUPS.length} sound groups.`}
      />
    );
  /** A recording dropped on any step is placed on Listen; of other files it is said where they go. */
  const onDropped = (event: DragEvent): void => {
    if (event.defaultPrevented || event.dataTransfer.files.length === 0) return;
    event.preventDefault();
    const file = maybeRecordingOf(event.dataTransfer.files);
    if (!file) {
      toast.message('Pictures of mouths are imported on the Chart step, recordings are placed on Listen. Drop them there.');
      return;
    }
    droppedRecording.setState({ file });
    void navigate('listen');
  };
  return (
    <SceneContext.Provider value={open}>
      <div
        className="flex h-full min-h-0 flex-col"
        onClick={giveKeysBack}
        onDragOver={(event) => event.preventDefault()}
        onDrop={onDropped}
      >
        <SceneHeader session={session} chartSessions={chartSessions} document={document} production={production?.name ?? ''} />
        <Outlet />
      </div>
      <Conflict session={session} noun="scene" title={sceneSettings(document).title} onGoOn={(id) => void navigate(`/scenes/${id}/key`)} />
      {[...charts].map(([id, one]) => (
        <Conflict key={id} session={chartSessions.get(id)!} noun="mouth chart" title={chartSettings(one).name} />
      ))}
    </SceneContext.Provider>
  );
}
