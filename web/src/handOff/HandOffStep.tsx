/** The Hand off step: who goes on with the scene, and what each of them gets. */
import { clsx } from 'clsx';
import type { ReactElement } from 'react';
import { useSearchParams } from 'react-router';
import { useSpeaker } from '../scene/sceneContext.js';
import { BundleCard, SpritesCard } from './fileCards.js';
import { FilmCard } from './FilmCard.js';
import { NumbersInCard } from './NumbersInCard.js';
import { PicturesCard } from './PicturesCard.js';
import { SheetCard } from './SheetCard.js';
import { SwapsCard } from './SwapsCard.js';
import { CurvesCard, KeysCard, LabelsCard, ShotsCard, TimelineCard, WeightsCard } from './textCards.js';

interface Kind {
  readonly id: string;
  readonly name: string;
  /** Who works with it, and how it comes. */
  readonly what: string;
  readonly Card: () => ReactElement;
}

const KINDS: readonly { readonly whom: string; readonly kinds: readonly Kind[] }[] = [
  {
    whom: 'To put together',
    kinds: [
      { id: 'pictures', name: 'Numbered pictures', what: 'PNG, one a frame', Card: PicturesCard },
      { id: 'sprites', name: 'Sprite sheet', what: 'PNG, SVG', Card: SpritesCard },
      { id: 'film', name: 'Film', what: 'WebM, MP4, GIF', Card: FilmCard },
      { id: 'timeline', name: 'Timeline', what: 'OpenTimelineIO', Card: TimelineCard },
    ],
  },
  {
    whom: 'To rig and to blend',
    kinds: [
      { id: 'keys', name: 'Key list', what: 'CSV, JSON', Card: KeysCard },
      { id: 'weights', name: 'Weights', what: 'CSV, JSON', Card: WeightsCard },
      { id: 'curves', name: 'Curves', what: 'CSV, JSON', Card: CurvesCard },
    ],
  },
  {
    whom: 'To pin up and to shoot',
    kinds: [
      { id: 'sheet', name: 'Exposure sheet', what: 'PDF, CSV', Card: SheetCard },
      { id: 'labels', name: 'Captions and labels', what: 'VTT, TextGrid …', Card: LabelsCard },
      { id: 'shots', name: 'Pull list and shots', what: 'PDF, CSV', Card: ShotsCard },
      { id: 'swaps', name: 'Fewer swaps', what: 'into the lane', Card: SwapsCard },
    ],
  },
  { whom: 'To come in', kinds: [{ id: 'numbers', name: 'Numbers brought in', what: 'CSV, pasted', Card: NumbersInCard }] },
  { whom: 'To keep', kinds: [{ id: 'bundle', name: 'Scene bundle', what: 'ZIP', Card: BundleCard }] },
];
const ALL = KINDS.flatMap(({ kinds }) => kinds);

export function HandOffStep(): ReactElement {
  const { track } = useSpeaker();
  const [params, setParams] = useSearchParams();
  const { id, Card } = ALL.find((kind) => kind.id === params.get('as')) ?? ALL[0]!;
  const choose = (kind: string): void => setParams({ as: kind }, { replace: true });
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[250px_minmax(0,1fr)] gap-5 p-[16px_18px]">
      <nav aria-label="What is handed off" className="flex flex-col gap-4 overflow-y-auto pr-1">
        {KINDS.map(({ whom, kinds }) => (
          <div key={whom}>
            <h2 className="mb-1 px-3 text-[13px] text-ink-soft">{whom}</h2>
            {kinds.map((kind) => (
              <button
                key={kind.id}
                type="button"
                aria-current={kind.id === id ? 'page' : undefined}
                onClick={() => choose(kind.id)}
                className={clsx(
                  'flex w-full items-baseline gap-2 rounded-[10px] px-3 py-1.5 text-left',
                  kind.id === id ? 'bg-sheet font-semibold shadow-[inset_0_0_0_1px_var(--rule)]' : 'hover:bg-lift',
                )}
              >
                <span className="flex-1">{kind.name}</span>
                <span className="text-[12px] font-normal text-ink-soft">{kind.what}</span>
              </button>
            ))}
          </div>
        ))}
      </nav>
      <div className="flex min-h-0 flex-col overflow-y-auto">
        <Card key={`${track.id} ${id}`} />
      </div>
    </main>
  );
}
