/** One scene: opened with its charts, then shown. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import {
  CHART_KIND,
  chartIdsOfScene,
  type ChartDocument,
  type ChartView,
  checkChart,
  checkScene,
  maybeLocked,
  type ProductionView,
  SCENE_KIND,
  type SceneDocument,
  type SceneView,
} from '@zest-jaw/core';
import { useEffect, useEffectEvent, useMemo, useRef, useState, type ReactElement } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { api, sentenceOf } from '../api/http.js';
import { useCharts, useProductions } from '../api/queries.js';
import { openSession } from '../session/documentSession.js';
import type { DocumentSession } from '../session/session.js';
import { AlonePage } from '../ui/AlonePage.js';
import { SceneRooms } from './SceneRooms.js';

export interface Sessions {
  readonly session: DocumentSession<SceneDocument>;
  /** Every chart of the production's characters, by id. */
  readonly chartSessions: ReadonlyMap<string, DocumentSession<ChartDocument>>;
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

export interface Loaded {
  readonly view: SceneView;
  readonly charts: readonly ChartView[];
  readonly productions: readonly ProductionView[];
}

const onRefusal = (sentence: string): void => void toast.message(sentence);

/** Every chart that is open, by id: what a scene is held against in development. */
const openCharts = new Map<string, DocumentSession<ChartDocument>>();

async function openChart(chart: ChartView): Promise<DocumentSession<ChartDocument>> {
  const check = import.meta.env.DEV ? checkChart : undefined;
  const session = await openSession<ChartDocument>(chart, { onRefusal, kind: CHART_KIND, path: '/charts', check });
  openCharts.set(chart.id, session);
  return session;
}

/** Opens the scene and every chart of the production's characters, each with what a closed tab left unsaved. */
async function openSessions(view: SceneView, charts: readonly ChartView[], characters: ReadonlySet<string>): Promise<Sessions> {
  // Of every character, not only of those that speak: another one may begin to.
  const used = chartIdsOfScene(view.document);
  const own = charts.filter((chart) => used.has(chart.id) || characters.has(chart.characterId));
  if (![...used].some((id) => own.some((chart) => chart.id === id)))
    throw new Error('The mouth chart of this scene is gone. Choose another scene.');
  const opened = await Promise.all(own.map(openChart));
  const chartSessions = new Map(own.map((chart, index) => [chart.id, opened[index]!]));
  const check = (document: SceneDocument): string[] =>
    checkScene(document, new Map([...openCharts].map(([id, { store }]) => [id, store.getState().document])));
  const options = { onRefusal, kind: SCENE_KIND, path: '/scenes', check: import.meta.env.DEV ? check : undefined, guard: maybeLocked };
  const session = await openSession<SceneDocument>(view, options);
  return { session, chartSessions };
}

const charactersOf = (productions: readonly ProductionView[], id: string): ReadonlySet<string> =>
  new Set(productions.find((production) => production.id === id)?.characters.map((character) => character.id));

interface Added {
  readonly charts: readonly ChartView[];
  readonly sessions: ReadonlyMap<string, DocumentSession<ChartDocument>>;
}
const NONE_ADDED: Added = { charts: [], sessions: new Map() };

/** Charts that the characters of an open scene were given meanwhile, such as those of parts of a face. */
function useAddedCharts(known: ReadonlyMap<string, unknown> | undefined, characters: ReadonlySet<string>): Added {
  const { data } = useCharts();
  const [added, setAdded] = useState(NONE_ADDED);
  const opening = useRef(new Map<string, Promise<DocumentSession<ChartDocument>>>());
  const open = useEffectEvent((charts: readonly ChartView[]) => {
    for (const chart of charts) {
      if (!known || known.has(chart.id) || !characters.has(chart.characterId) || opening.current.has(chart.id)) continue;
      const session = openChart(chart);
      opening.current.set(chart.id, session);
      session.then(
        (opened) => setAdded((now) => ({ charts: [...now.charts, chart], sessions: new Map([...now.sessions, [chart.id, opened]]) })),
        (error: unknown) => {
          opening.current.delete(chart.id);
          toast.error(sentenceOf(error));
        },
      );
    }
  });
  useEffect(() => {
    if (data && known) open(data);
  }, [data, known]);
  useEffect(() => {
    const all = opening.current;
    return () => {
      for (const session of all.values()) void session.then((one) => one.close()).catch(() => undefined);
      all.clear();
    };
  }, []);
  return added;
}

function SceneWithSession({ view, charts, productions }: Loaded): ReactElement {
  const [sessions, setSessions] = useState<Sessions>();
  const [fault, setFault] = useState<string>();
  const client = useQueryClient();
  // What the sessions begin from does not change while the scene is open; the list of productions may.
  const open = useEffectEvent(() => openSessions(view, charts, charactersOf(productions, view.productionId)));
  useEffect(() => {
    let opened: Sessions | undefined;
    let wanted = true;
    const close = ({ session, chartSessions }: Sessions): void => {
      for (const one of [session, ...chartSessions.values()]) one.close();
    };
    open()
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
  }, [view, charts, client]);
  const added = useAddedCharts(sessions?.chartSessions, charactersOf(productions, view.productionId));
  const all = useMemo(
    () => sessions && { session: sessions.session, chartSessions: new Map([...sessions.chartSessions, ...added.sessions]) },
    [sessions, added],
  );
  const views = useMemo(() => [...charts, ...added.charts], [charts, added]);
  if (fault) return <AlonePage title="This scene cannot be opened" text={fault} />;
  if (!all) return <AlonePage busy title="Opening the scene…" />;
  return <SceneRooms view={view} charts={views} productions={productions} {...all} />;
}
