/** The Chart step: the cards, the drawing desk with its try-out, and what the chosen drawing is and plays. */
import { chartSettings, isPartChart, moveDrawingTo, type ChartDocument } from '@zest-jaw/core';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  pointerWithin,
  useSensor,
  useSensors,
  type Active,
  type CollisionDetection,
  type DragEndEvent,
  type Over,
} from '@dnd-kit/core';
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { lazy, Suspense, useEffect, useState, type DragEvent, type ReactElement, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import { toast } from 'sonner';
import { filesOfDrop, type ChosenFile } from '../api/imports.js';
import { CHART_KEYS, KeysDialog } from '../scene/KeysDialog.js';
import type { DocumentSession } from '../session/session.js';
import { newId } from '../session/newId.js';
import { Announced } from '../ui/Announced.js';
import { useKeys } from '../ui/useKeys.js';
import { Cards } from './Cards.js';
import { ChartHeader } from './ChartHeader.js';
import { Desk } from './Desk.js';
import { DeskTools, PenBar } from './DeskTools.js';
import { DrawingPanel } from './DrawingPanel.js';
import { FinishPanel } from './FinishPanel.js';
import { HeadPanel } from './HeadPanel.js';
import { ImportDialog } from './ImportDialog.js';
import { LineUpDialog } from './LineUpDialog.js';
import { LooksPanel } from './LooksPanel.js';
import { MeasuresPanel } from './MeasuresPanel.js';
import { NewChartDialog } from './NewChartDialog.js';
import { ChartProvider, useChartState } from './openChart.js';
import { PlaysPanel } from './PlaysPanel.js';
import { ShapePanel } from './ShapePanel.js';
import { TryOut } from './TryOut.js';
import { maybeRecordingOf } from '../scene/droppedRecording.js';
import { useSceneOfChart } from './sceneOfChart.js';

interface ChartWorkspaceProps {
  readonly chartId: string;
  readonly characterId: string;
  readonly characterName: string;
  readonly session: DocumentSession<ChartDocument>;
  /** Opens another chart of the character. */
  readonly onSwitch: (chartId: string) => void;
  /** Below the try-out. */
  readonly children?: ReactNode;
}

/** The mouse drops where it points; the keyboard, which points nowhere, on the nearest card. */
const cardUnder: CollisionDetection = (drag) =>
  drag.pointerCoordinates
    ? pointerWithin(drag)
    : closestCenter({ ...drag, droppableContainers: drag.droppableContainers.filter((place) => place.id !== 'desk') });

/** What a screen reader says while a card is carried, by the labels of the cards. */
function announcements(
  chart: ChartDocument,
): Record<'onDragStart' | 'onDragOver' | 'onDragEnd' | 'onDragCancel', (drag: { active: Active; over?: Over | null }) => string> {
  const label = (place: { id: string | number }): string =>
    place.id === 'desk' ? 'the desk' : (chart.drawings.find((drawing) => drawing.id === place.id)?.label ?? '');
  return {
    onDragStart: ({ active }) => `${label(active)} picked up.`,
    onDragOver: ({ active, over }) => (over ? `${label(active)} is over ${label(over)}.` : `${label(active)} is over nothing.`),
    onDragEnd: ({ active, over }) => (over ? `${label(active)} put down at ${label(over)}.` : `${label(active)} put back.`),
    onDragCancel: ({ active }) => `${label(active)} put back.`,
  };
}

const SoundMap = lazy(async () => ({ default: (await import('./SoundMap.js')).SoundMap }));

/** The sound at which the map was opened, empty for none, in the address. */
const MAP = 'map';

const SIDES = ['Mouth', 'Finish', 'Head'] as const;

/** Held, the key shows the other drawing. */
function useFlipKey(onFlip: (flipped: boolean) => void): void {
  useKeys({ Slash: () => onFlip(true) });
  useEffect(() => {
    const release = (event: KeyboardEvent): void => {
      if (event.code === 'Slash') onFlip(false);
    };
    window.addEventListener('keyup', release);
    return () => window.removeEventListener('keyup', release);
  }, [onFlip]);
}

export function ChartWorkspace({ chartId, characterId, characterName, session, onSwitch, children }: ChartWorkspaceProps): ReactElement {
  const open = useChartState({ chartId, characterId, characterName, session });
  const { chart, drawing, choose, change, layUnder } = open;
  const [pen, setPen] = useState({ colour: chartSettings(chart).style.line, size: 3.4 });
  const [flipped, setFlipped] = useState(false);
  const [side, setSide] = useState<(typeof SIDES)[number]>('Mouth');
  const [dialog, setDialog] = useState<'line-up' | 'new-chart' | 'keys'>();
  const [files, setFiles] = useState<readonly ChosenFile[]>();
  const [dropping, setDropping] = useState(false);
  const isPart = isPartChart(chart);
  const sides = isPart ? SIDES.filter((name) => name !== 'Head') : SIDES;
  const index = chart.drawings.indexOf(drawing);
  const step = (by: number) => () => choose(chart.drawings[Math.max(0, Math.min(chart.drawings.length - 1, index + by))]?.id);
  const [params, setParams] = useSearchParams();
  const map = params.get(MAP);
  const showMap = (shown: boolean): void => setParams(shown ? { [MAP]: '' } : {}, { replace: true });
  useFlipKey(setFlipped);
  const always = {
    'Ctrl+KeyZ': () => session.undo(),
    'Ctrl+Shift+KeyZ': () => session.redo(),
    'Ctrl+KeyY': () => session.redo(),
    '?': () => setDialog('keys'),
  };
  const ofDrawings = {
    BracketLeft: step(-1),
    BracketRight: step(1),
    KeyO: () => open.showOnion(open.onion === undefined),
    ...Object.fromEntries(chart.drawings.filter((other) => other.keycap).map((other) => [`Key${other.keycap}`, () => choose(other.id)])),
  };
  // On the map letters look for sounds.
  useKeys(map === null ? { ...always, ...ofDrawings } : always);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      keyboardCodes: { start: ['F2'], cancel: ['Escape'], end: ['Enter', 'F2'] },
    }),
  );
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    if (!over || active.id === over.id) return;
    if (over.id === 'desk') layUnder(String(active.id));
    else
      change((now) =>
        moveDrawingTo(
          now,
          String(active.id),
          now.drawings.findIndex((other) => other.id === over.id),
          newId,
        ),
      );
  };
  const scene = useSceneOfChart();
  const onDrop = (event: DragEvent): void => {
    setDropping(false);
    // Beside a scene a recording goes to its Listen step; by itself a chart has no use for one.
    if (maybeRecordingOf(event.dataTransfer.files)) {
      if (scene) return;
      event.preventDefault();
      toast.message('This is a recording. Drop it on Home to begin a scene, or on a scene to place it there.');
      return;
    }
    event.preventDefault();
    void filesOfDrop(event.dataTransfer).then((found) => found.length > 0 && setFiles(found));
  };
  if (map !== null)
    return (
      <ChartProvider value={open}>
        <Suspense>
          <SoundMap first={map === '' ? undefined : map} onClose={() => showMap(false)}>
            {children}
          </SoundMap>
        </Suspense>
        <Announced />
        <KeysDialog open={dialog === 'keys'} onClose={() => setDialog(undefined)} keys={CHART_KEYS} />
      </ChartProvider>
    );
  return (
    <ChartProvider value={open}>
      <DndContext
        sensors={sensors}
        collisionDetection={cardUnder}
        onDragEnd={onDragEnd}
        accessibility={{ announcements: announcements(chart) }}
      >
        <main
          className="relative grid min-h-0 flex-1 grid-cols-[minmax(330px,1fr)_minmax(460px,1.25fr)_300px] max-[1120px]:grid-cols-[minmax(286px,1fr)_minmax(400px,1.25fr)_296px]"
          onDragOver={(event) => {
            event.preventDefault();
            setDropping(true);
          }}
          onDragLeave={(event) => event.currentTarget === event.target && setDropping(false)}
          onDrop={onDrop}
        >
          <section className="flex min-h-0 flex-col gap-2.5 p-[14px_16px]" aria-label="Drawings">
            <ChartHeader
              onImport={setFiles}
              onLineUp={() => setDialog('line-up')}
              onNewChart={() => setDialog('new-chart')}
              onSwitch={onSwitch}
              onMap={() => showMap(true)}
            />
            <div className="-mx-1 min-h-0 flex-1 overflow-y-auto px-1 py-1">
              <Cards chart={chart} current={drawing.id} onChoose={choose} />
            </div>
          </section>
          <section className="flex min-h-0 flex-col gap-2 border-l border-rule p-[14px_16px]" aria-label="Drawing desk">
            <DeskTools onFlip={setFlipped} />
            <PenBar pen={pen} onPen={setPen} />
            <Desk pen={pen} flipped={flipped} className="min-h-0 flex-1" />
            {!isPart && <TryOut />}
            {children}
          </section>
          <section
            className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule p-[14px_16px]"
            aria-label="The drawing on the desk"
          >
            <div className="flex gap-1" role="group" aria-label="What to change">
              {sides.map((name) => (
                <button
                  key={name}
                  type="button"
                  aria-pressed={side === name}
                  onClick={() => setSide(name)}
                  className="rounded-full px-3.5 py-1 text-[14px] font-semibold text-ink-soft hover:text-ink aria-pressed:bg-rule-soft aria-pressed:text-ink"
                >
                  {name === 'Mouth' && isPart ? 'Drawing' : name}
                </button>
              ))}
            </div>
            {side === 'Mouth' && (
              <>
                <DrawingPanel key={drawing.id} />
                {!isPart && <PlaysPanel />}
                {!isPart && <MeasuresPanel />}
                <LooksPanel />
                <ShapePanel />
              </>
            )}
            {side === 'Finish' && <FinishPanel key={drawing.id} />}
            {side === 'Head' && <HeadPanel />}
          </section>
          {dropping && (
            <div className="pointer-events-none absolute inset-3 grid place-items-center rounded-2xl border-2 border-dashed border-zest bg-zest-soft/80">
              <p className="name text-[22px]">Let go to look for mouths</p>
            </div>
          )}
        </main>
      </DndContext>
      <KeysDialog open={dialog === 'keys'} onClose={() => setDialog(undefined)} keys={CHART_KEYS} />
      {dialog === 'line-up' && <LineUpDialog onClose={() => setDialog(undefined)} />}
      {dialog === 'new-chart' && (
        <NewChartDialog
          character={{ id: characterId, name: characterName }}
          current={{ id: chartId, name: chartSettings(chart).name }}
          onMade={onSwitch}
          onClose={() => setDialog(undefined)}
        />
      )}
      {files && <ImportDialog files={files} onClose={() => setFiles(undefined)} />}
    </ChartProvider>
  );
}
