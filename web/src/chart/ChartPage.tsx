/** A chart by itself: the Chart step without a scene around it. */
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { CHART_KIND, chartSettings, checkChart, type ChartDocument, type ChartView, type ProductionView } from '@zest-jaw/core';
import { useEffect, useMemo, useState, type ReactElement } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { api, sentenceOf } from '../api/http.js';
import { useProductions } from '../api/queries.js';
import { FaceCharts } from '../mouth/FaceCharts.js';
import { Conflict } from '../scene/Conflict.js';
import { SaveWord } from '../scene/SaveWord.js';
import { openSession } from '../session/documentSession.js';
import type { DocumentSession } from '../session/session.js';
import { useCompany } from '../room/useCompany.js';
import { AlonePage } from '../ui/AlonePage.js';
import { TopBar } from '../ui/Frame.js';
import { ChartWorkspace } from './ChartWorkspace.js';

export function ChartPage(): ReactElement {
  const { chartId = '' } = useParams();
  const view = useQuery({
    queryKey: ['chart', chartId],
    queryFn: () => api<ChartView>(`/charts/${chartId}`),
    gcTime: 0,
    staleTime: Infinity,
    retry: 1,
  });
  const productions = useProductions();
  const failed = view.error ?? productions.error;
  if (failed) return <AlonePage title="This chart cannot be opened" text={sentenceOf(failed)} />;
  if (!view.data || !productions.data) return <AlonePage busy title="Opening the chart…" />;
  return <ChartWithSession key={chartId} view={view.data} productions={productions.data} />;
}

function ChartWithSession({ view, productions }: { view: ChartView; productions: readonly ProductionView[] }): ReactElement {
  const [session, setSession] = useState<DocumentSession<ChartDocument>>();
  const [fault, setFault] = useState<string>();
  const client = useQueryClient();
  useEffect(() => {
    let opened: DocumentSession<ChartDocument> | undefined;
    let wanted = true;
    const options = {
      kind: CHART_KIND,
      path: '/charts',
      check: import.meta.env.DEV ? checkChart : undefined,
      onRefusal: (sentence: string) => void toast.message(sentence),
    };
    openSession<ChartDocument>(view, options)
      .then((next) => {
        if (wanted) setSession((opened = next));
        else next.close();
      })
      .catch((error: unknown) => setFault(sentenceOf(error)));
    return () => {
      wanted = false;
      opened?.close();
      client.removeQueries({ queryKey: ['chart', view.id] });
      void client.invalidateQueries({ queryKey: ['charts'] });
    };
  }, [view, client]);
  if (fault) return <AlonePage title="This chart cannot be opened" text={fault} />;
  if (!session) return <AlonePage busy title="Opening the chart…" />;
  return <OpenedChart view={view} productions={productions} session={session} />;
}

function OpenedChart({
  view,
  productions,
  session,
}: {
  view: ChartView;
  productions: readonly ProductionView[];
  session: DocumentSession<ChartDocument>;
}): ReactElement {
  const navigate = useNavigate();
  const document = useStore(session.store, (state) => state.document);
  const saved = useMemo(() => [session], [session]);
  useCompany(
    `charts/${view.id}`,
    useMemo(() => new Map([[`charts/${view.id}`, session]]), [view.id, session]),
  );
  const production = productions.find((candidate) => candidate.characters.some((character) => character.id === view.characterId));
  const character = production?.characters.find((candidate) => candidate.id === view.characterId);
  const { name } = chartSettings(document);
  useEffect(() => {
    const before = window.document.title;
    window.document.title = `${name} · Zest Jaw`;
    return () => void (window.document.title = before);
  }, [name]);
  return (
    <div className="flex h-full min-h-0 flex-col">
      <TopBar>
        <h1 className="min-w-0 flex-1 truncate text-ink-soft">
          <Link to="/" className="rounded hover:text-ink">
            {production?.name ?? 'Scenes'}
          </Link>{' '}
          <span aria-hidden>/</span> {character?.name ?? 'Nobody’s'} <span aria-hidden>/</span>{' '}
          <b className="font-semibold text-ink">{name}</b>
        </h1>
        <SaveWord sessions={saved} />
      </TopBar>
      <FaceCharts>
        <ChartWorkspace
          chartId={view.id}
          characterId={view.characterId}
          characterName={character?.name ?? name}
          session={session}
          onSwitch={(id) => void navigate(`/charts/${id}`)}
        />
      </FaceCharts>
      <Conflict session={session} noun="mouth chart" title={name} />
    </div>
  );
}
