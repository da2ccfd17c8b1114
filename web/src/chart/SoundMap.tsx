/** The sound map of a chart: every sound where it is made in the mouth, the groups that look alike beside it, the drawings that play them. */
import {
  addGroup,
  applyPatch,
  CHART_KIND,
  articulationOf,
  fitChart,
  isVowel,
  isRefusal,
  mapChange,
  mapOfChart,
  maybeGroupOfPhoneme,
  maybePhoneme,
  moveSounds,
  nearestEnglish,
  PHONEMES,
  putMap,
  readMap,
  REST,
  setDrawingOfGroup,
  type ChartDocument,
  type Patch,
  type Refusal,
  type SoundGroup,
  type SoundMap,
} from '@zest-jaw/core';
import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { Plus, Wand2 } from 'lucide-react';
import { useMemo, useRef, useState, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { Mouth } from '../mouth/Mouth.js';
import { newId } from '../session/newId.js';
import { announce } from '../ui/Announced.js';
import { Button } from '../ui/Button.js';
import { Menu, MenuItem, MenuRule } from '../ui/Menu.js';
import { Modal } from '../ui/Modal.js';
import { Toggle } from '../ui/Toggle.js';
import { saveText } from '../ui/saveText.js';
import { FitPanel } from './FitPanel.js';
import { GroupCard } from './GroupCard.js';
import { useOpenChart } from './openChart.js';
import { useMaps } from './useMaps.js';
import { useDocumentOfScene } from './sceneOfChart.js';
import { SoundDetails, useHeardInScene } from './SoundDetails.js';
import { KeepMapDialog, MoveDialog, NewGroupDialog, PutMapDialog } from './SoundMapDialogs.js';
import { SoundMapCanvas } from './SoundMapCanvas.js';
import { ALL_PLACES, ENGLISH_PLACES } from './soundMapPlaces.js';
import { canBeSaid, useSaidSound } from './useSaidSound.js';

/** Colours for groups of one's own, one after another. */
const COLOURS = ['#8f6f3e', '#3f7f6b', '#7a5fa3', '#b3564f', '#4f79a8', '#8a8f3a'];

/** A consonant that shows less than this of lips and teeth goes first. */
const SHOWN = 0.6;

function weightInWords({ id, phonemes, must }: SoundGroup): string {
  if (must) return 'must be seen';
  if (id === REST || phonemes.some(isVowel)) return 'matters';
  const shown = Math.max(
    0,
    ...phonemes.map((symbol) => Math.max(articulationOf(symbol).round, articulationOf(symbol).tongue, articulationOf(symbol).bite)),
  );
  return shown >= SHOWN ? 'matters' : 'goes first';
}

/** A mouth that can be dragged onto a group. */
function TrayMouth({ id, children, label }: { id: string; label: string; children: ReactNode }): ReactElement {
  const { listeners, setNodeRef, isDragging } = useDraggable({ id: `drawing ${id}` });
  return (
    <span
      ref={setNodeRef}
      {...listeners}
      title={`${label}: drag it onto a group`}
      className={`shrink-0 cursor-grab touch-none rounded-lg bg-ground ${isDragging ? 'opacity-40' : ''}`}
    >
      {children}
    </span>
  );
}

/** A map on a chart: what no drawing plays then gets the one that fits. */
const put = (chart: ChartDocument, map: SoundMap): Patch | Refusal =>
  putMap(chart, map, (fitted, fixed) => fitChart(fitted, fixed).choices, newId);

interface SoundMapProps {
  /** The sound that is looked at first. */
  readonly first?: string | undefined;
  readonly onClose: () => void;
  readonly children?: ReactNode;
}

export function SoundMap({ first, onClose, children }: SoundMapProps): ReactElement {
  const { chart, change, characterId } = useOpenChart();
  const scene = useDocumentOfScene();
  const start = first !== undefined && maybePhoneme(first) ? first : 'IY';
  const [chosen, choose] = useState<ReadonlySet<string>>(() => new Set(first === undefined ? [] : [start]));
  const [current, setCurrent] = useState(start);
  const [dragged, setDragged] = useState<string>();
  const [dialog, setDialog] = useState<'move' | 'new' | 'fit' | 'keep'>();
  const [offered, offer] = useState<SoundMap>();
  const { maps, keep, forget } = useMaps(characterId);
  const input = useRef<HTMLInputElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const inScene = useMemo(() => {
    if (!scene) return undefined;
    const counts = new Map<string, number>();
    for (const { symbol } of scene.phonemes) {
      const id = maybeGroupOfPhoneme(chart.groups, symbol)?.id;
      if (id !== undefined) counts.set(id, (counts.get(id) ?? 0) + 1);
    }
    return counts;
  }, [scene, chart.groups]);
  const isForeign = (symbol: string): boolean => nearestEnglish(symbol) !== symbol;
  const [isWide, setWide] = useState(
    () =>
      isForeign(start) ||
      chart.groups.some(({ phonemes }) => phonemes.some(isForeign)) ||
      (scene?.phonemes ?? []).some(({ symbol }) => isForeign(symbol)),
  );
  const heardInScene = useHeardInScene();
  const say = useSaidSound((symbol) => {
    const play = heardInScene(symbol);
    if (!play) toast.error('The synthesiser does not run here. Open the map beside a scene that says the sound, and it is heard there.');
    else {
      toast.info('The synthesiser does not run here: this is how the open scene says it.');
      play();
    }
  });
  const press = (symbol: string, adds: boolean): void => {
    setCurrent(symbol);
    say(symbol);
    choose((before) => {
      if (!adds) return new Set([symbol]);
      const next = new Set(before);
      if (!next.delete(symbol)) next.add(symbol);
      return next;
    });
  };
  const move = (group: SoundGroup): void => {
    const symbols = [...chosen];
    if (change((now) => moveSounds(now, symbols, group.id, newId)))
      announce(`${symbols.map((symbol) => maybePhoneme(symbol)!.ipa).join(' ')} ${symbols.length === 1 ? 'is' : 'are'} in ${group.name}.`);
    setDialog(undefined);
  };
  const onDragEnd = ({ active, over }: DragEndEvent): void => {
    setDragged(undefined);
    const group = over && String(over.id).replace(/^group /, '');
    if (!group) return;
    const [kind, id] = String(active.id).split(/ (.*)/) as [string, string];
    if (kind === 'drawing') {
      change((now) => setDrawingOfGroup(now, { group, drawing: id }, newId));
      return;
    }
    const symbols = chosen.has(id) ? [...chosen] : [id];
    change((now) => moveSounds(now, symbols, group, newId));
  };
  const missing = PHONEMES.filter(({ symbol }) => !maybeGroupOfPhoneme(chart.groups, symbol));
  const own = maybeGroupOfPhoneme(chart.groups, current);
  const offeredPatch = useMemo(() => (offered ? put(chart, offered) : undefined), [offered, chart]);
  const bringIn = async (file: File): Promise<void> => {
    const map = readMap(await file.text());
    if ('refusal' in map) toast.error(`${file.name}: ${map.refusal}`);
    else offer(map);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={pointerWithin}
      onDragStart={({ active }) => setDragged(String(active.id))}
      onDragEnd={onDragEnd}
      onDragCancel={() => setDragged(undefined)}
    >
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_430px] max-[1240px]:grid-cols-[minmax(0,1fr)_400px]">
        <section aria-label="Sound map" className="flex min-h-0 flex-col gap-1 overflow-y-auto p-[12px_16px]">
          <div className="flex items-center gap-3">
            <h2 className="name text-[21px]">Sound map</h2>
            <p className="flex-1 text-[14px] text-ink-soft">Drag a sound to the group it looks like, or press Enter.</p>
            <Toggle on={isWide} onToggle={() => setWide(!isWide)} title="Sounds that English lacks, too">
              All languages
            </Toggle>
            <Button className="py-[3px]! text-[14px]!" onClick={onClose}>
              Back to the drawings
            </Button>
          </div>
          <div className="shrink-0 overflow-x-auto">
            <SoundMapCanvas
              places={isWide ? ALL_PLACES : ENGLISH_PLACES}
              chart={chart}
              chosen={chosen}
              current={current}
              onPress={press}
              onCurrent={setCurrent}
              onClear={() => choose(new Set())}
              onMove={() => setDialog('move')}
            />
          </div>
          <SoundDetails
            chart={chart}
            symbol={current}
            change={change}
            onHear={canBeSaid(current) ? () => say(current) : undefined}
            onHearInScene={heardInScene(current)}
          />
          <div
            aria-label="Mouths to drag onto a group"
            role="group"
            className="mx-auto flex w-full max-w-[760px] gap-1.5 overflow-x-auto pb-1"
          >
            {chart.drawings.map((drawing) => (
              <TrayMouth key={drawing.id} id={drawing.id} label={drawing.label}>
                <Mouth chart={chart} drawing={drawing} className="h-[36px] w-[52px]" lineWeight={1.6} />
              </TrayMouth>
            ))}
          </div>
        </section>
        <section aria-label="Sound groups" className="flex min-h-0 flex-col gap-2 border-l border-rule p-[12px_14px]">
          <div className="flex flex-wrap items-center gap-2">
            <h2 className="name flex-1 text-[19px]">Groups</h2>
            <Button className="px-3! py-[3px]! text-[14px]!" onClick={() => setDialog('fit')}>
              <Wand2 size={15} aria-hidden /> Propose
            </Button>
            <Button className="px-3! py-[3px]! text-[14px]!" onClick={() => setDialog('new')}>
              <Plus size={15} aria-hidden /> Group
            </Button>
            <Menu align="end" trigger={<Button className="px-3! py-[3px]! text-[14px]!">Map</Button>}>
              <MenuItem onSelect={() => saveText('sound-map.json', `${JSON.stringify(mapOfChart(chart, 'Sound map'), null, 1)}\n`)}>
                Take the map out
              </MenuItem>
              <MenuItem onSelect={() => input.current?.click()}>Bring a map in…</MenuItem>
              <MenuItem onSelect={() => setDialog('keep')}>Keep it for this production…</MenuItem>
              {maps.length > 0 && <MenuRule />}
              {maps.map((map) => (
                <MenuItem key={map.name} onSelect={() => offer(map)}>{`Put “${map.name}” on this chart…`}</MenuItem>
              ))}
              {maps.map((map) => (
                <MenuItem
                  key={`forget ${map.name}`}
                  className="text-ink-soft"
                  onSelect={() => forget(map.name)}
                >{`Forget “${map.name}”`}</MenuItem>
              ))}
            </Menu>
            <input
              ref={input}
              type="file"
              accept=".json"
              className="sr-only"
              tabIndex={-1}
              aria-label="A map to bring in"
              onChange={({ target }) => {
                const [file] = target.files ?? [];
                target.value = '';
                if (file) void bringIn(file);
              }}
            />
          </div>
          {missing.length > 0 && (
            <p role="status" className="rounded-[10px] border border-bad px-3 py-1.5 text-[14px]">
              {`In no group: ${missing.map(({ ipa }) => ipa).join(' ')}. Silence is seen in ${missing.length === 1 ? 'its' : 'their'} place.`}
            </p>
          )}
          {dialog === 'fit' && <FitPanel chart={chart} change={change} onClose={() => setDialog(undefined)} />}
          {children}
          <div className="-mx-1 grid min-h-0 flex-1 grid-cols-2 content-start gap-2 overflow-y-auto px-1 pt-1.5">
            {chart.groups.map((group) => (
              <GroupCard
                key={group.id}
                chart={chart}
                group={group}
                inScene={inScene && (inScene.get(group.id) ?? 0)}
                weight={weightInWords(group)}
                isLit={own?.id === group.id}
                change={change}
              />
            ))}
          </div>
        </section>
      </main>
      <DragOverlay dropAnimation={null}>
        {dragged !== undefined && (
          <span className="inline-block rounded-full border-2 border-ink bg-sheet px-3 py-1 text-[17px]">
            {dragged.startsWith('sound ')
              ? (chosen.has(dragged.slice(6)) ? [...chosen] : [dragged.slice(6)]).map((symbol) => maybePhoneme(symbol)!.ipa).join(' ')
              : chart.drawings.find(({ id }) => id === dragged.slice(8))?.label}
          </span>
        )}
      </DragOverlay>
      {dialog === 'move' && (
        <MoveDialog
          count={chosen.size}
          groups={chart.groups.filter(({ id }) => id !== REST)}
          onMove={move}
          onClose={() => setDialog(undefined)}
        />
      )}
      {dialog === 'keep' && <KeepMapDialog onKeep={(name) => keep(mapOfChart(chart, name))} onClose={() => setDialog(undefined)} />}
      {offered && offeredPatch && (
        <OfferedMap
          map={offered}
          patch={offeredPatch}
          chart={chart}
          onTake={() => change((now) => put(now, offered))}
          onClose={() => offer(undefined)}
        />
      )}
      {dialog === 'new' && (
        <NewGroupDialog
          sounds={[...chosen]}
          onMake={(name) =>
            change((now) => addGroup(now, { name, phonemes: [...chosen], colour: COLOURS[now.groups.length % COLOURS.length]! }, newId))
          }
          onClose={() => setDialog(undefined)}
        />
      )}
    </DndContext>
  );
}

interface OfferedMapProps {
  readonly map: SoundMap;
  readonly patch: Patch | Refusal;
  readonly chart: ChartDocument;
  readonly onTake: () => void;
  readonly onClose: () => void;
}

/** A map that may be put on the chart; one that cannot be is told. */
function OfferedMap({ map, patch, chart, onTake, onClose }: OfferedMapProps): ReactElement {
  if (isRefusal(patch))
    return (
      <Modal open title={`The map “${map.name}”`} description={patch.refusal} onClose={onClose}>
        <div className="mt-4 flex justify-end">
          <Button onClick={onClose}>Close</Button>
        </div>
      </Modal>
    );
  return <PutMapDialog name={map.name} change={mapChange(chart, applyPatch(CHART_KIND, chart, patch))} onTake={onTake} onClose={onClose} />;
}
