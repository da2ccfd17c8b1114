/** Home: productions and their scenes as cards; a recording dropped anywhere begins a new scene. */
import {
  type CharacterView,
  type ChartView,
  formatFrameRate,
  framesPerSecond,
  isPartChart,
  maybeDrawing,
  type NoteCounts,
  restDrawing,
  type SceneCard,
} from '@zest-jaw/core';
import { clsx } from 'clsx';
import { PackageOpen, Plus } from 'lucide-react';
import { lazy, Suspense, useRef, useState, type DragEvent, type ReactElement } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { useCharts, useProductions, useScenes } from '../api/queries.js';
import { Easel } from '../mouth/Easel.js';
import { FaceCharts } from '../mouth/FaceCharts.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { TopBar } from '../ui/Frame.js';
import { Notice } from '../ui/Notice.js';
import { Progress } from '../ui/Progress.js';
import { RECORDING_FILES } from '../ui/UploadState.js';
import { NewProduction, ProductionMenu } from './ProductionMenu.js';
import { RoomLink } from '../room/RoomLink.js';
import { RemoveThing } from './RemoveThing.js';
import { SceneMenu } from './SceneMenu.js';
import { labelsBeside } from '../api/labelsBeside.js';
import { maybeRecordingOf } from '../scene/droppedRecording.js';
import { NewSceneDialog } from './NewSceneDialog.js';
import { isBundle, useOpenBundle } from './useOpenBundle.js';

const NewChartDialog = lazy(async () => ({ default: (await import('../chart/NewChartDialog.js')).NewChartDialog }));

const HOLDS = ['', 'ones', 'twos', 'threes', 'fours'];

function touched(at: string): string {
  const minutes = Math.round((Date.now() - Date.parse(at)) / 60_000);
  if (minutes < 1) return 'just now';
  if (minutes < 60) return `${minutes} min ago`;
  if (minutes < 60 * 24) return `${Math.round(minutes / 60)} h ago`;
  return new Date(at).toLocaleDateString('en', { day: 'numeric', month: 'short', year: 'numeric' });
}

/** The open notes of a scene, the heaviest first. */
export function notesInWords({ heavy, seen, small, remarks }: NoteCounts): string {
  const parts = [
    ...(heavy > 0 ? [`${count(heavy, 'note', 'notes')} everybody sees`] : []),
    ...(seen > 0 ? [heavy > 0 ? `${seen} seen` : count(seen, 'note that is seen', 'notes that are seen')] : []),
    ...(heavy + seen === 0 ? [small > 0 ? `nothing that is seen, ${small} to know` : 'no notes'] : []),
    ...(remarks > 0 ? [count(remarks, 'remark', 'remarks')] : []),
  ];
  const text = parts.join(', ');
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** A scene whose record is damaged: it says so, and stands beside the others. */
function DamagedCard({ scene }: { scene: SceneCard }): ReactElement {
  return (
    <li className="group relative rounded-2xl border border-bad bg-bad-soft p-4">
      <h3 className="name truncate pr-8 text-[19px]">{scene.title}</h3>
      <p className="mt-1 text-[14px]">This scene is damaged and cannot be shown. Put a backup in its place, or remove it.</p>
      <p className="mt-2 text-[14px] text-ink-soft">{scene.fault}</p>
      <SceneMenu scene={scene} />
    </li>
  );
}

function Card({
  scene,
  character,
  chart,
}: {
  scene: SceneCard;
  character: CharacterView | undefined;
  chart: ChartView | undefined;
}): ReactElement {
  const seconds = scene.lengthFrames / framesPerSecond(scene.frameRate);
  const drawing = chart && scene.posterDrawing ? maybeDrawing(chart.document, scene.posterDrawing) : undefined;
  return (
    <li className="group relative">
      <Link
        to={`/scenes/${scene.id}/key`}
        className="block overflow-hidden rounded-2xl border border-rule bg-sheet transition-colors hover:border-graphite"
      >
        {character && chart && (
          <Easel name={character.name} chart={chart.document} drawing={drawing} className="h-[212px] rounded-b-none! border-0!" />
        )}
        <div className="p-4 pt-3">
          <h3 className="name truncate text-[19px]">{scene.title}</h3>
          <p className="text-[14px] text-ink-soft">{`${character?.name ?? 'Nobody'} · ${formatFrameRate(scene.frameRate)} fps on ${HOLDS[scene.holdFrames] ?? scene.holdFrames} · ${seconds.toFixed(1)} s`}</p>
          <div className="mt-3 flex items-center gap-2.5 text-[14px] text-ink-soft">
            <div className="h-1.5 flex-1 rounded-full bg-rule-soft" aria-hidden>
              <div className="h-full rounded-full bg-ink" style={{ width: `${scene.inked * 100}%` }} />
            </div>
            <span>{Math.round(scene.inked * 100)} % inked</span>
            <span className="text-graphite" aria-hidden>
              ·
            </span>
            <span>{touched(scene.touchedAt)}</span>
          </div>
          {scene.notes && <p className="mt-1.5 text-[14px] text-ink-soft">{notesInWords(scene.notes)}</p>}
        </div>
      </Link>
      <SceneMenu scene={scene} />
    </li>
  );
}

/** The characters of a production with their charts, and a way to a new one. */
function Characters({
  productionId,
  characters,
  charts,
}: {
  productionId: string;
  characters: readonly CharacterView[];
  charts: readonly ChartView[];
}): ReactElement {
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  return (
    <section className="mt-9" aria-label="Characters">
      <div className="mb-3 flex items-baseline gap-4">
        <h3 className="name text-[21px]">Characters and their mouths</h3>
        <Link
          to={`/productions/${productionId}/pronunciations`}
          className="text-[14px] text-ink-soft underline underline-offset-2 hover:text-ink"
        >
          How words are said
        </Link>
      </div>
      <ul className="flex flex-wrap gap-3">
        {characters.map((character) => {
          const own = charts
            .filter((chart) => chart.characterId === character.id && !isPartChart(chart.document))
            .sort((a, b) => Number(b.id === character.chartId) - Number(a.id === character.chartId));
          const [first] = own;
          return (
            first && (
              <li key={character.id} className="flex items-center gap-3 rounded-2xl border border-rule bg-sheet p-2 pr-4">
                <Easel
                  name={character.name}
                  chart={first.document}
                  drawing={restDrawing(first.document)}
                  className="size-[64px] rounded-[10px]!"
                />
                <div className="min-w-0">
                  <p className="name flex items-center gap-1 text-[17px]">
                    {character.name}
                    <RemoveThing
                      label={`Remove ${character.name}`}
                      title={`Remove ${character.name}?`}
                      text="The charts of this character go with it. This cannot be undone."
                      path={`/characters/${character.id}`}
                    />
                  </p>
                  <p className="flex flex-wrap gap-x-2.5 text-[14px] text-ink-soft">
                    {own.map((chart) => (
                      <Link key={chart.id} to={`/charts/${chart.id}`} className="rounded underline underline-offset-2 hover:text-ink">
                        {chart.name.replace(`${character.name}, `, '')}
                      </Link>
                    ))}
                  </p>
                </div>
              </li>
            )
          );
        })}
        <li>
          <button
            type="button"
            onClick={() => setMaking(true)}
            className="flex h-full min-h-[82px] items-center gap-2 rounded-2xl border-2 border-dashed border-rule px-5 text-ink-soft hover:border-graphite"
          >
            <Plus size={17} aria-hidden /> New character
          </button>
        </li>
      </ul>
      {making && (
        <Suspense>
          <NewChartDialog productionId={productionId} onMade={(id) => void navigate(`/charts/${id}`)} onClose={() => setMaking(false)} />
        </Suspense>
      )}
    </section>
  );
}

export function HomePage(): ReactElement {
  return (
    <FaceCharts>
      <Home />
    </FaceCharts>
  );
}

function Home(): ReactElement {
  const scenes = useScenes();
  const productions = useProductions();
  const charts = useCharts();
  const [recording, setRecording] = useState<File>();
  const [labels, setLabels] = useState<File>();
  const [dragging, setDragging] = useState(false);
  const chooser = useRef<HTMLInputElement>(null);
  const bundles = useRef<HTMLInputElement>(null);
  const bundle = useOpenBundle();
  const failed = scenes.error ?? productions.error ?? charts.error;

  const onDrop = (event: DragEvent): void => {
    event.preventDefault();
    setDragging(false);
    const { files } = event.dataTransfer;
    const packed = [...files].find(isBundle);
    if (packed) return bundle.open(packed);
    const file = maybeRecordingOf(files) ?? files[0];
    if (!file) return;
    const beside = labelsBeside(files, file);
    if (files.length > (beside ? 2 : 1))
      toast.message(`${files.length} files were dropped. A scene begins with one recording: ${file.name} was taken.`);
    setLabels(beside);
    setRecording(file);
  };

  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(event) => {
        event.preventDefault();
        setDragging(true);
      }}
      onDragLeave={(event) => event.currentTarget === event.target && setDragging(false)}
      onDrop={onDrop}
      data-testid="home"
    >
      <TopBar>
        <span className="flex-1" />
        <RoomLink />
        <Button disabled={bundle.state !== undefined} onClick={() => bundles.current?.click()}>
          <PackageOpen size={17} aria-hidden /> {bundle.state ? 'Opening…' : 'Open a bundle'}
        </Button>
        <Button weight="main" onClick={() => chooser.current?.click()}>
          <Plus size={17} aria-hidden /> New scene
        </Button>
        <input
          ref={bundles}
          type="file"
          accept=".zip"
          className="sr-only"
          aria-label="Bundle to open"
          tabIndex={-1}
          onChange={({ target }) => {
            const [file] = target.files ?? [];
            target.value = '';
            if (file) bundle.open(file);
          }}
        />
        <input
          ref={chooser}
          type="file"
          accept={RECORDING_FILES}
          className="sr-only"
          aria-label="Recording for a new scene"
          tabIndex={-1}
          onChange={(event) => {
            setRecording(event.target.files?.[0]);
            event.target.value = '';
          }}
        />
      </TopBar>
      {bundle.state && (
        <div className="flex items-center gap-4 border-b border-rule px-8 py-2">
          <b className="max-w-[260px] truncate font-semibold">{bundle.state.name}</b>
          <Progress label="Opening the bundle" done={bundle.state.done} message={bundle.state.message} className="flex-1" />
          <Button className="py-[3px]!" onClick={bundle.giveUp}>
            Give up
          </Button>
        </div>
      )}
      <main className="relative min-h-0 flex-1 overflow-y-auto px-8 py-7">
        {failed && <Notice title="The scenes cannot be shown">{sentenceOf(failed)}</Notice>}
        {productions.data?.map((production) => {
          const own = scenes.data?.filter((scene) => scene.productionId === production.id) ?? [];
          return (
            <section key={production.id} className="mx-auto mb-12 max-w-[1180px] min-[1700px]:max-w-[1640px]" aria-label={production.name}>
              <div className="mb-4 flex items-baseline gap-3">
                <h2 className="name text-[30px] leading-none">{production.name}</h2>
                <p className="text-ink-soft">{own.length === 1 ? '1 scene' : `${own.length} scenes`}</p>
                <ProductionMenu production={production} scenes={own.length} />
                {own.length > 0 && (
                  <Link
                    to={`/productions/${production.id}`}
                    className="text-[14px] text-ink-soft underline underline-offset-2 hover:text-ink"
                  >
                    Where it stands
                  </Link>
                )}
                {own.length > 0 && (
                  <Link
                    to={`/productions/${production.id}/hand-off`}
                    className="text-[14px] text-ink-soft underline underline-offset-2 hover:text-ink"
                  >
                    Hand off several at once
                  </Link>
                )}
              </div>
              <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-5">
                {own.map((scene) => {
                  if (scene.fault !== undefined) return <DamagedCard key={scene.id} scene={scene} />;
                  const character = production.characters.find((candidate) => candidate.id === scene.characterId);
                  return (
                    <Card
                      key={scene.id}
                      scene={scene}
                      character={character}
                      chart={charts.data?.find((candidate) => candidate.id === scene.chartId)}
                    />
                  );
                })}
                <li>
                  <button
                    type="button"
                    onClick={() => chooser.current?.click()}
                    className={clsx(
                      'flex h-full min-h-[320px] w-full flex-col items-center justify-center gap-2 rounded-2xl border-2 border-dashed p-6 text-center',
                      dragging ? 'border-zest bg-zest-soft' : 'border-rule text-ink-soft hover:border-graphite',
                    )}
                  >
                    <span className="name text-[19px] text-ink">{dragging ? 'Let go to begin' : 'Drop a recording'}</span>
                    <span className="text-[15px]">
                      A spoken line as WAV, FLAC, MP3 or Ogg. You type what is said; the mouths are pencilled for you.
                    </span>
                  </button>
                </li>
              </ul>
              <Characters productionId={production.id} characters={production.characters} charts={charts.data ?? []} />
            </section>
          );
        })}
        {productions.data && <NewProduction />}
      </main>
      {recording && productions.data && charts.data && (
        <NewSceneDialog
          recording={recording}
          labels={labels}
          productions={productions.data}
          charts={charts.data}
          onClose={() => {
            setRecording(undefined);
            setLabels(undefined);
          }}
        />
      )}
    </div>
  );
}
