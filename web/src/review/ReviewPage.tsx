/** A scene for somebody who looks at it: large, with its sound, read only; what they say or draw at a frame stays with the scene. */
import {
  chartsWithOneOffs,
  frameNumber,
  placedWords,
  sampleAtFrame,
  sceneSettings,
  type ChartDocument,
  type ChartView,
  type ProductionView,
  type Remark,
  type RemarkStroke,
  type SceneDocument,
  type SceneView,
} from '@zest-jaw/core';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Eraser, Pause, Play, Repeat, SkipBack } from 'lucide-react';
import { useEffect, useMemo, useState, type ReactElement } from 'react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { api, sendJson, sentenceOf } from '../api/http.js';
import { LinkForDevice } from '../room/LinkForDevice.js';
import { useSceneSound } from '../scene/useSceneSound.js';
import { SLOWNESSES, type Playhead } from '../sound/playhead.js';
import { AlonePage } from '../ui/AlonePage.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { Button } from '../ui/Button.js';
import { TopBar } from '../ui/Frame.js';
import { Round } from '../ui/Round.js';
import { giveKeysBack, useKeys } from '../ui/useKeys.js';
import { Faces } from './Faces.js';

const NAME = 'zest-jaw reviewer';
const SLOW_NAMES: Readonly<Record<(typeof SLOWNESSES)[number], string>> = {
  1: 'Full speed',
  2: 'Half speed',
  4: 'Quarter speed',
  8: 'Eighth speed',
};
/** What others say is looked for so often, in milliseconds. */
const LOOKED_AT = 4000;

export function ReviewPage(): ReactElement {
  const { sceneId = '' } = useParams();
  const view = useQuery({ queryKey: ['review', sceneId], queryFn: () => api<SceneView>(`/scenes/${sceneId}`), refetchInterval: LOOKED_AT });
  const charts = useQuery({ queryKey: ['review-charts'], queryFn: () => api<ChartView[]>('/charts'), staleTime: Infinity });
  const productions = useQuery({ queryKey: ['productions'], queryFn: () => api<ProductionView[]>('/productions') });
  const failed = (view.data ? null : view.error) ?? charts.error ?? productions.error;
  if (failed) return <AlonePage title="This scene cannot be looked at" text={sentenceOf(failed)} />;
  if (!view.data || !charts.data || !productions.data) return <AlonePage busy title="Opening the scene…" />;
  const { document, productionId } = view.data;
  const characters = productions.data.find(({ id }) => id === productionId)?.characters ?? [];
  return (
    <Review
      sceneId={sceneId}
      document={document}
      charts={charts.data}
      nameOf={(id) => characters.find((one) => one.id === id)?.name ?? 'Somebody'}
    />
  );
}

interface ReviewProps {
  readonly sceneId: string;
  readonly document: SceneDocument;
  readonly charts: readonly ChartView[];
  readonly nameOf: (characterId: string) => string;
}

function Review({ sceneId, document, charts: views, nameOf }: ReviewProps): ReactElement {
  const client = useQueryClient();
  const { title, lengthFrames } = sceneSettings(document);
  const { settings, clips, oneOffs, remarks } = document;
  const charts = useMemo(
    (): ReadonlyMap<string, ChartDocument> => chartsWithOneOffs({ oneOffs }, new Map(views.map((chart) => [chart.id, chart.document]))),
    [oneOffs, views],
  );
  const { player, playhead } = useSceneSound({ settings, clips });
  useEffect(() => () => player.stop(), [player]);
  const { frame, playing, loop, slowness } = useStore(playhead.store);
  const [strokes, setStrokes] = useState<readonly RemarkStroke[]>([]);
  const [text, setText] = useState('');
  const [by, setBy] = useState(() => maybeKept(NAME) ?? '');
  const step = (by: number): void => playhead.scrubTo(frame + by);
  const loopAll = (): void => playhead.toggleLoop({ from: 0, to: lengthFrames });
  useKeys({
    Space: () => playhead.toggle(),
    ArrowLeft: () => step(-1),
    ArrowRight: () => step(1),
    Home: () => playhead.scrubTo(0),
    KeyL: loopAll,
    Digit1: () => playhead.setSlowness(1),
    Digit2: () => playhead.setSlowness(2),
    Digit4: () => playhead.setSlowness(4),
  });
  const say = useMutation({
    mutationFn: () =>
      sendJson<{ remarks: Remark[] }>('POST', `/scenes/${sceneId}/remarks`, { frame, by, text, ...(strokes.length > 0 && { strokes }) }),
    onSuccess: () => {
      keep(NAME, by);
      setText('');
      setStrokes([]);
      return client.invalidateQueries({ queryKey: ['review', sceneId] });
    },
    onError: (error) => toast.error(`${sentenceOf(error)} What you wrote is still here.`),
  });
  const here = remarks.filter((one) => one.frame === frame);
  const isEmpty = text.trim() === '' && strokes.length === 0;
  return (
    <div className="flex h-full flex-col" onClick={giveKeysBack} data-testid="review" data-frame={frame}>
      <TopBar>
        <h1 className="min-w-0 flex-1 truncate text-ink-soft">
          Looking at <b className="font-semibold text-ink">{title}</b>
        </h1>
        <LinkForDevice name={`Review: ${title}`} className="text-[14px] text-ink-soft underline underline-offset-2 hover:text-ink" />
      </TopBar>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_340px] gap-5 p-5">
        <section aria-label="The scene" className="flex min-h-0 flex-col gap-3">
          <Faces
            document={document}
            charts={charts}
            frame={frame}
            nameOf={nameOf}
            strokes={[...here.flatMap((one) => one.strokes ?? []), ...strokes]}
            onStroke={playing ? undefined : (stroke) => setStrokes((before) => [...before, stroke])}
          />
          <Said document={document} frame={frame} />
          <FrameSlider playhead={playhead} frame={frame} lengthFrames={lengthFrames} document={document} remarks={remarks} />
          <div className="flex items-center gap-3">
            <Button weight="main" className="px-6! py-2.5!" onClick={() => playhead.toggle()}>
              {playing ? <Pause aria-hidden size={19} /> : <Play aria-hidden size={19} />}
              {playing ? 'Stop' : 'Play'} <kbd className="keycap">Space</kbd>
            </Button>
            <Round label="To the beginning (Home)" onClick={() => playhead.scrubTo(0)}>
              <SkipBack size={17} />
            </Round>
            <Round label="Over and over (L)" pressed={loop !== null} onClick={loopAll}>
              <Repeat size={17} />
            </Round>
            <select
              aria-label="Speed"
              className="field w-auto!"
              value={slowness}
              onChange={({ target }) => playhead.setSlowness(Number(target.value) as (typeof SLOWNESSES)[number])}
            >
              {SLOWNESSES.map((one) => (
                <option key={one} value={one}>
                  {SLOW_NAMES[one]}
                </option>
              ))}
            </select>
            <span className="flex-1" />
            <p className="name text-[30px] tabular-nums" data-testid="review-frame">
              {frameNumber(document, frame)}
            </p>
          </div>
        </section>
        <aside aria-label="What people say" className="flex min-h-0 flex-col gap-3">
          <form
            className="flex flex-col gap-2 rounded-2xl border border-rule bg-sheet p-4"
            onSubmit={(event) => {
              event.preventDefault();
              if (!isEmpty && !say.isPending) say.mutate();
            }}
          >
            <h2 className="name text-[19px]">{`Say something of frame ${frameNumber(document, frame)}`}</h2>
            <label className="text-[14px] text-ink-soft">
              Who you are
              <input className="field mt-0.5 w-full" value={by} maxLength={60} onChange={({ target }) => setBy(target.value)} />
            </label>
            <label className="text-[14px] text-ink-soft">
              What you see
              <textarea
                className="field mt-0.5 h-[84px] w-full resize-none"
                value={text}
                maxLength={1000}
                onFocus={() => playing && playhead.toggle()}
                onChange={({ target }) => setText(target.value)}
              />
            </label>
            <div className="flex items-center gap-2">
              <Button type="submit" weight="main" disabled={isEmpty || by.trim() === '' || say.isPending}>
                Leave it here
              </Button>
              {strokes.length > 0 && (
                <Button onClick={() => setStrokes([])}>
                  <Eraser size={16} aria-hidden /> The drawing
                </Button>
              )}
            </div>
            <p className="text-[14px] text-ink-soft">Draw on the picture to point at something. It changes nothing of the scene.</p>
          </form>
          <ul className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} aria-label="Remarks">
            {remarks.length === 0 && <li className="px-2 text-ink-soft">Nobody has said anything yet.</li>}
            {remarks.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  aria-current={one.frame === frame ? 'true' : undefined}
                  onClick={() => playhead.scrubTo(one.frame)}
                  className="flex w-full gap-2 rounded-[10px] px-2 py-1.5 text-left leading-snug hover:bg-lift aria-[current]:bg-sheet"
                >
                  <span className="w-[42px] shrink-0 text-right tabular-nums text-ink-soft">{frameNumber(document, one.frame)}</span>
                  <span className={one.done ? 'text-ink-soft line-through' : ''}>
                    <b className="font-semibold">{one.by}</b> {one.text === '' ? 'drew on the picture' : one.text}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </aside>
      </main>
    </div>
  );
}

function Said({ document, frame }: { document: SceneDocument; frame: number }): ReactElement {
  const words = useMemo(() => placedWords(document), [document]);
  const { frameRate } = sceneSettings(document);
  const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
  const at = words.findIndex((word) => word.to > from);
  const near = words.slice(Math.max(0, at - 5), (at < 0 ? words.length : at) + 6);
  return (
    <p className="h-[30px] truncate text-center text-[20px] text-ink-soft" aria-live="off">
      {near.map((word) => (
        <span key={word.id} className={word.from < to && word.to > from ? 'font-semibold text-ink' : ''}>
          {`${word.text} `}
        </span>
      ))}
    </p>
  );
}

interface FrameSliderProps {
  readonly playhead: Playhead;
  readonly frame: number;
  readonly lengthFrames: number;
  readonly document: SceneDocument;
  readonly remarks: readonly Remark[];
}

function FrameSlider({ playhead, frame, lengthFrames, document, remarks }: FrameSliderProps): ReactElement {
  return (
    <div className="relative">
      <input
        type="range"
        aria-label="Frame"
        aria-valuetext={`frame ${frameNumber(document, frame)}`}
        className="w-full accent-zest"
        min={0}
        max={Math.max(0, lengthFrames - 1)}
        value={frame}
        onChange={({ target }) => playhead.scrubTo(Number(target.value))}
      />
      <div className="pointer-events-none absolute inset-x-2 top-full h-2" aria-hidden>
        {remarks.map(({ id, frame: at, done }) => (
          <span
            key={id}
            className={`absolute size-[7px] -translate-x-1/2 rounded-full border-[1.5px] border-ink ${done ? '' : 'bg-ink'}`}
            style={{ left: `${(100 * at) / Math.max(1, lengthFrames - 1)}%` }}
          />
        ))}
      </div>
    </div>
  );
}
