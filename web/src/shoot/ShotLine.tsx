/** The lane that is shot: loaded, and told picture by picture. */
import {
  chartsWithOneOffs,
  looksOfFrames,
  maybeDrawing,
  picturesOfPull,
  pullListOf,
  type ChartDocument,
  type ChartView,
  type Drawing,
  type SceneDocument,
  type SceneView,
  type ShotPicture,
} from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, type ReactElement } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { api, sentenceOf } from '../api/http.js';
import { AlonePage } from '../ui/AlonePage.js';

export interface ShotLine {
  readonly sceneId: string;
  readonly trackId: string;
  readonly document: SceneDocument;
  /** By id, one-offs among their drawings. */
  readonly charts: ReadonlyMap<string, ChartDocument>;
  readonly cameraOn: 1 | 2;
  readonly pictures: readonly ShotPicture[];
  /** How many mouths are put on in turn. */
  readonly shots: number;
}

/** A mouth of the line, or none: what is told to a camera and held against what it took. */
export function mouthKey({ shot: { chartId, drawing } }: ShotPicture): string {
  return drawing && chartId !== null ? `${chartId} ${drawing.id}` : '';
}

/** A mouth of a line by its key; undefined for none. */
export function drawingOfKey(
  charts: ReadonlyMap<string, ChartDocument>,
  key: string,
): { chart: ChartDocument; drawing: Drawing } | undefined {
  const [chartId = '', id = ''] = key.split(' ');
  const chart = charts.get(chartId);
  const drawing = chart && maybeDrawing(chart, id);
  return drawing && { chart, drawing };
}

/** Loads the lane of the address and gives it to a page. */
export function WithLine({ Page }: { Page: (props: { line: ShotLine }) => ReactElement }): ReactElement {
  const { sceneId = '', trackId = '' } = useParams();
  const view = useQuery({ queryKey: ['shoot', sceneId], queryFn: () => api<SceneView>(`/scenes/${sceneId}`), staleTime: Infinity });
  const charts = useQuery({ queryKey: ['shoot-charts'], queryFn: () => api<ChartView[]>('/charts'), staleTime: Infinity });
  const failed = view.error ?? charts.error;
  if (failed) return <AlonePage title="This scene cannot be shot" text={sentenceOf(failed)} />;
  if (!view.data || !charts.data) return <AlonePage busy title="Opening the shoot…" />;
  if (!view.data.document.tracks.some(({ id }) => id === trackId))
    return <AlonePage title="This lane is not in the scene" text="Go back to Hand off and choose one." />;
  return <Loaded view={view.data} all={charts.data} trackId={trackId} Page={Page} />;
}

interface LoadedProps {
  readonly view: SceneView;
  readonly all: readonly ChartView[];
  readonly trackId: string;
  readonly Page: (props: { line: ShotLine }) => ReactElement;
}

function Loaded({ view: { id: sceneId, document }, all, trackId, Page }: LoadedProps): ReactElement {
  const [params] = useSearchParams();
  const cameraOn = params.get('on') === '2' ? 2 : 1;
  const line = useMemo((): ShotLine => {
    const charts = chartsWithOneOffs(document, new Map(all.map((chart) => [chart.id, chart.document])));
    const pull = pullListOf(looksOfFrames(document, trackId, charts, 'keyed'), charts, cameraOn);
    return { sceneId, trackId, document, charts, cameraOn, pictures: picturesOfPull(pull), shots: pull.shots.length };
  }, [sceneId, document, all, trackId, cameraOn]);
  return <Page line={line} />;
}
