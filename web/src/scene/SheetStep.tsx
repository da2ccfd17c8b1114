/** A step made of a bar sheet: something beside it, the transport below, and every key explained. */
import { lazy, Suspense, useEffect, useMemo, useState, type ReactElement, type ReactNode } from 'react';
import { clsx } from 'clsx';
import { useStore } from 'zustand';
import { BarSheet } from '../barSheet/BarSheet.js';
import { framesInSight } from '../barSheet/useZoom.js';
import { edgeChanges } from '../listen/edgeChanges.js';
import { looking } from '../looking/looking.js';
import type { Hit, RowName } from '../barSheet/plan.js';
import { openMenuAtPlayhead, partsFor } from './underTheHand.js';
import { LookMenu } from './LookMenu.js';
import { useLookCommands } from './useLookCommands.js';
import { useTimeCommands } from './useTimeCommands.js';
import type { Holds } from '../barSheet/useSheetPointer.js';
import type { SheetView } from '../barSheet/plan.js';
import { Transport } from './Transport.js';
import { CommandMenu } from '../commands/CommandMenu.js';
import { keyListOf, keyMapOf, type Command } from '../commands/command.js';
import { ownKeys, withOwnKeys } from '../commands/ownKeys.js';
import { Announced } from '../ui/Announced.js';
import { useKeys } from '../ui/useKeys.js';
import { ReadingStrip } from './ReadingStrip.js';
import { useOpenScene, useSceneDocument, useSheet, useSpeaker } from './sceneContext.js';
import { useTransportCommands } from './useTransportCommands.js';

const openCommandList = () => import('../commands/CommandList.js');
const CommandList = lazy(async () => ({ default: (await openCommandList()).CommandList }));
const HistoryPanel = lazy(async () => ({ default: (await import('../history/HistoryPanel.js')).HistoryPanel }));
const UprightSheet = lazy(async () => ({ default: (await import('../upright/UprightSheet.js')).UprightSheet }));
const OwnKeysDialog = lazy(async () => ({ default: (await import('../commands/OwnKeysDialog.js')).OwnKeysDialog }));
const KeysDialog = lazy(async () => ({ default: (await import('./KeysDialog.js')).KeysDialog }));

interface SheetStepProps {
  readonly view: SheetView;
  /** Names the sheet. */
  readonly label: string;
  readonly aside: ReactNode;
  /** Only the bar sheet shows what there is to see. */
  readonly onBars?: boolean;
  /** What has the page, where the easel is large and the sheet a strip; a step without mouths has none. */
  readonly easel?: ReactElement;
  /** Beside the buttons of playing. */
  readonly transport?: ReactNode;
  /** Above the sheet, in a room of its own. */
  readonly above?: ReactNode;
  /** Above the sheet, on its paper. */
  readonly heading: ReactNode;
  readonly hints: ReactNode;
  /** What can be done in this step, beside what the transport does. */
  readonly commands?: readonly Command[];
  /** What a press on the sheet takes hold of; without one it scrubs. */
  readonly holds?: Holds;
  readonly chosenClip?: string | undefined;
}

const NONE: readonly Command[] = [];
const NO_KEYS = {};

export function SheetStep({
  view,
  label,
  aside,
  easel,
  onBars = false,
  above,
  transport: playing,
  heading,
  hints,
  commands = NONE,
  holds,
  chosenClip,
}: SheetStepProps): ReactElement {
  const { playhead, chosen, shown: scene } = useOpenScene();
  const isBack = useStore(scene.store, ({ backAt }) => backAt !== null);
  const document = useSceneDocument();
  const { data: plain, sprites, palette } = useSheet();
  const { changes } = useStore(edgeChanges);
  const data = useMemo(() => (changes.length > 0 ? { ...plain, changes } : plain), [plain, changes]);
  const { name } = useSpeaker().character;
  const { sheet, isEaselLarge } = useStore(looking);
  const hasMouths = easel !== undefined;
  const isStrip = hasMouths && isEaselLarge;
  const transport = useTransportCommands();
  const time = useTimeCommands();
  const look = useLookCommands({ hasMouths, shown: framesInSight });
  const [helping, setHelping] = useState(false);
  const [choosing, setChoosing] = useState(false);
  const [pointed, setPointed] = useState<RowName>();
  const [rekeying, setRekeying] = useState(false);
  const [isTold, tellHistory] = useState(false);
  const { keys: ownKeysNow } = useStore(ownKeys);
  const own: readonly Command[] = [
    ...transport.commands,
    ...commands,
    ...time,
    ...look,
    {
      id: 'history',
      title: 'The history: the scene as it was',
      group: 'Whole scene',
      keys: ['Ctrl+KeyH'],
      also: 'versions revisions past go back earlier',
      run: () => tellHistory((before) => !before),
    },
    { id: 'keys', title: 'All keys', group: 'Look', keys: ['?'], also: 'help shortcuts', run: () => setHelping(true) },
    {
      id: 'own-keys',
      title: 'Keys of your own',
      group: 'Look',
      keys: [],
      also: 'shortcuts change customise remap',
      run: () => setRekeying(true),
    },
    {
      id: 'menu',
      title: 'What can be done here: the menu at the playhead',
      group: 'Look',
      keys: ['ContextMenu', 'Shift+F10'],
      also: 'context right button',
      run: () => openMenuAtPlayhead(hasMouths ? 'mouth' : 'words', setPointed),
    },
    { id: 'commands', title: 'Find a command', group: 'Look', keys: ['Ctrl+KeyK'], also: 'search menu', run: () => setChoosing(true) },
  ];
  const all = withOwnKeys(own, ownKeysNow);
  const shown = { scene: document, data, sprites, palette, playhead, chosen, holds, onPoint: ({ row }: Hit) => setPointed(row) };
  // What is typed while a dialog comes is meant for it.
  useKeys(choosing || helping || rekeying ? NO_KEYS : keyMapOf(all));
  useEffect(() => {
    // Here before it is asked for, so that its first letter is not lost.
    const timer = setTimeout(() => void openCommandList(), 1500);
    return () => clearTimeout(timer);
  }, []);
  return (
    <>
      <main
        className={clsx(
          'min-h-0 flex-1',
          isStrip
            ? 'flex flex-col'
            : 'grid grid-cols-[334px_minmax(0,1fr)] max-[1120px]:grid-cols-[292px_minmax(0,1fr)] min-[1900px]:grid-cols-[480px_minmax(0,1fr)]',
        )}
      >
        {isStrip ? (
          <div className="flex min-h-0 flex-1 flex-col p-[14px_18px_0]">{easel}</div>
        ) : (
          <aside className="flex min-h-0 flex-col gap-2 overflow-y-auto p-[14px_0_14px_18px]">{aside}</aside>
        )}
        <section className={clsx('flex min-h-0 flex-col p-[14px_18px]', isStrip && 'h-[236px] shrink-0')} aria-label={label}>
          <ReadingStrip />
          {above && !isStrip && <div className="mb-3 flex h-[46%] min-h-[230px] shrink-0">{above}</div>}
          <div className="flex min-h-0 flex-1 gap-3">
            <div
              className={clsx(
                'flex min-h-0 min-w-0 flex-1 flex-col rounded-[14px] border border-rule bg-sheet px-[14px] pt-2.5',
                isBack && 'outline-dashed outline-2 -outline-offset-2 outline-graphite',
              )}
            >
              {!isStrip && (
                <div className="mb-2 flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 max-[1120px]:gap-x-2">{heading}</div>
              )}
              <CommandMenu commands={all} parts={partsFor(pointed)}>
                <div className="flex min-h-0 flex-1 flex-col">
                  {hasMouths && !isStrip && !onBars && sheet === 'upright' ? (
                    <Suspense>
                      <UprightSheet {...shown} name={name} />
                    </Suspense>
                  ) : (
                    <BarSheet {...shown} view={view} chosenClip={chosenClip} />
                  )}
                </div>
              </CommandMenu>
            </div>
            {isTold && (
              <Suspense>
                <HistoryPanel onClose={() => tellHistory(false)} />
              </Suspense>
            )}
          </div>
        </section>
      </main>
      <Transport
        onLoop={transport.loopHere}
        onHelp={() => setHelping(true)}
        onHistory={() => tellHistory((before) => !before)}
        playing={playing}
        look={<LookMenu commands={look} hasMouths={hasMouths} />}
        hints={hints}
      />
      {choosing && (
        <Suspense>
          <CommandList commands={all} onClose={() => setChoosing(false)} />
        </Suspense>
      )}
      {rekeying && (
        <Suspense>
          <OwnKeysDialog commands={all} onClose={() => setRekeying(false)} />
        </Suspense>
      )}
      <Announced />
      {helping && (
        <Suspense>
          <KeysDialog
            open
            onClose={() => setHelping(false)}
            keys={keyListOf(all)}
            onChange={() => {
              setHelping(false);
              setRekeying(true);
            }}
          />
        </Suspense>
      )}
    </>
  );
}
