/** A step made of a bar sheet: something beside it, the transport below, and every key explained. */
import { lazy, Suspense, useState, type ReactElement, type ReactNode } from 'react';
import { BarSheet, type Holds } from '../barSheet/BarSheet.js';
import type { SheetView } from '../barSheet/plan.js';
import { Transport } from '../key/Transport.js';
import { useKeys, type KeyMap } from '../ui/useKeys.js';
import { ReadingStrip } from './ReadingStrip.js';
import { useOpenScene } from './sceneContext.js';
import { useTransportKeys } from './useTransportKeys.js';

const KeysDialog = lazy(async () => ({ default: (await import('../key/KeysDialog.js')).KeysDialog }));

interface SheetStepProps {
  readonly view: SheetView;
  /** Names the sheet. */
  readonly label: string;
  readonly aside: ReactNode;
  /** Above the sheet, on its paper. */
  readonly heading: ReactNode;
  readonly hints: ReactNode;
  /** Keys of this step, beside those of the transport. */
  readonly keys?: KeyMap;
  /** What a press on the sheet takes hold of; without one it scrubs. */
  readonly holds?: Holds;
  readonly chosenClip?: string | undefined;
}

export function SheetStep({ view, label, aside, heading, hints, keys, holds, chosenClip }: SheetStepProps): ReactElement {
  const { document, data, sprites, palette, playhead } = useOpenScene();
  const transport = useTransportKeys();
  const [helping, setHelping] = useState(false);
  useKeys({ ...transport.keys, ...keys, '?': () => setHelping(true) });
  return (
    <>
      <main className="grid min-h-0 flex-1 grid-cols-[334px_minmax(0,1fr)] max-[1120px]:grid-cols-[292px_minmax(0,1fr)] min-[1900px]:grid-cols-[480px_minmax(0,1fr)]">
        <aside className="flex min-h-0 flex-col gap-2 overflow-y-auto p-[14px_0_14px_18px]">{aside}</aside>
        <section className="flex min-h-0 flex-col p-[14px_18px]" aria-label={label}>
          <ReadingStrip />
          <div className="flex min-h-0 flex-1 flex-col rounded-[14px] border border-rule bg-sheet px-[14px] pt-2.5">
            <div className="mb-2 flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 max-[1120px]:gap-x-2">{heading}</div>
            <BarSheet
              scene={document}
              data={data}
              view={view}
              sprites={sprites}
              palette={palette}
              playhead={playhead}
              holds={holds}
              chosenClip={chosenClip}
            />
          </div>
        </section>
      </main>
      <Transport onLoop={transport.loopHere} onHelp={() => setHelping(true)} hints={hints} />
      {helping && (
        <Suspense>
          <KeysDialog open onClose={() => setHelping(false)} />
        </Suspense>
      )}
    </>
  );
}
