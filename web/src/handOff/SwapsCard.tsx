/** Fewer swaps: from what is keyed to what the line still bears, taken as one step. */
import {
  frameNumber,
  isRefusal,
  maybeDrawing,
  sceneSettings,
  takeSwapPlan,
  writtenNumber,
  type ChartDocument,
  type SwapPlan,
  type SwapSpan,
} from '@zest-jaw/core';
import { useEffect, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { newId } from '../session/newId.js';
import { UndoRedo } from '../ui/UndoRedo.js';
import { useKeys } from '../ui/useKeys.js';
import { swapsInWorker } from '../workers/heavy.js';
import { Card } from './Card.js';

/** Mouths of the line that are shown side by side. */
const SHOWN = 400;

interface StripProps {
  readonly name: string;
  readonly spans: readonly SwapSpan[];
  readonly length: number;
  readonly drawingAt: (span: SwapSpan) => string;
  readonly isChanged?: (span: SwapSpan) => boolean;
}

/** The mouths of a lane, each as long as it stays. */
function Strip({ name, spans, length, drawingAt, isChanged }: StripProps): ReactElement {
  return (
    <div className="flex flex-col gap-1">
      <span className="text-[13px] text-ink-soft">{name}</span>
      <div
        className="relative h-[30px] overflow-hidden rounded-md border border-rule-soft"
        role="img"
        aria-label={`${name}: ${spans.length - 1} swaps`}
      >
        {spans.slice(0, SHOWN).map((span) => (
          <span
            key={span.from}
            style={{ left: `${(100 * span.from) / length}%`, width: `${(100 * (span.to - span.from)) / length}%` }}
            className={`absolute inset-y-0 overflow-hidden border-l border-rule px-0.5 text-center text-[12px] leading-[28px] ${isChanged?.(span) ? 'bg-zest-soft font-semibold' : ''}`}
          >
            {drawingAt(span)}
          </span>
        ))}
      </div>
    </div>
  );
}

/** What one mouth of a plan stands for: each stretch of frames that showed another. */
function changesOf(keyed: SwapPlan, plan: SwapPlan): { from: number; to: number; was: string; is: string }[] {
  const changes: { from: number; to: number; was: string; is: string }[] = [];
  let at = 0;
  for (const { from, to, drawing } of plan.spans) {
    while (keyed.spans[at]!.to <= from) at += 1;
    for (let own = at; own < keyed.spans.length && keyed.spans[own]!.from < to; own++) {
      const was = keyed.spans[own]!;
      if (was.drawing !== drawing && was.drawing !== null && drawing !== null)
        changes.push({ from: Math.max(from, was.from), to: Math.min(to, was.to), was: was.drawing, is: drawing });
    }
  }
  return changes;
}

export function SwapsCard(): ReactElement {
  const document = useSceneDocument();
  const { session } = useOpenScene();
  const { track, charts } = useSpeaker();
  const { lengthFrames, frameRate } = sceneSettings(document);
  useKeys({ 'Ctrl+KeyZ': () => void session.undo(), 'Ctrl+Shift+KeyZ': () => void session.redo() });
  const [found, setFound] = useState<{ readonly of: unknown; readonly plans: readonly SwapPlan[] }>();
  const [at, setAt] = useState(0);
  const [said, setSaid] = useState('');
  useEffect(() => {
    let isGone = false;
    swapsInWorker(document, track.id, charts).then(
      (plans) => {
        if (isGone) return;
        setFound({ of: document, plans });
        setAt(0);
      },
      (error: unknown) => !isGone && toast.error(sentenceOf(error)),
    );
    return () => {
      isGone = true;
    };
  }, [document, track.id, charts]);
  const plans = found?.of === document ? found.plans : undefined;
  const keyed = plans?.[0];
  const plan = plans?.[Math.min(at, plans.length - 1)];
  const chartWith = (id: string): ChartDocument | undefined => [...charts.values()].find((chart) => maybeDrawing(chart, id));
  const numberOf = ({ drawing }: SwapSpan): string => {
    const chart = drawing === null ? undefined : chartWith(drawing);
    return chart ? writtenNumber(maybeDrawing(chart, drawing!)!) : '';
  };
  const nameOf = (id: string): string => {
    const drawing = maybeDrawing(chartWith(id)!, id)!;
    return `${writtenNumber(drawing)} ${drawing.label}`;
  };
  const take = (): void => {
    if (!plan) return;
    const patch = takeSwapPlan(document, track.id, plan, charts, newId);
    if (isRefusal(patch)) return void toast(patch.refusal);
    const spared = keyed!.swaps - plan.swaps;
    if (session.change(patch)) setSaid(`${spared} swaps are left out, in one step of undo.`);
  };
  const seconds = plan ? (plan.lost * frameRate.den) / frameRate.num : 0;
  const changes = keyed && plan ? changesOf(keyed, plan) : [];
  const isOwn = new Set(keyed?.spans.map(({ from, to, drawing }) => `${from} ${to} ${drawing}`));
  return (
    <Card
      title="Fewer swaps"
      says="For mouths that are changed by hand: swaps are left out where the face loses least by it. Lips that meet still meet, and what is inked stays."
      counts={
        plan && keyed
          ? `${plan.swaps} swaps, ${keyed.swaps - plan.swaps} fewer than keyed; another mouth in ${plan.otherFrames} of ${lengthFrames} frames.`
          : undefined
      }
    >
      {!plan || !keyed ? (
        <p className="flex-1 text-ink-soft" role="status">
          Counting what can be spared…
        </p>
      ) : (
        <>
          <label className="mb-4 flex items-center gap-4">
            <span className="font-semibold">as keyed</span>
            <input
              type="range"
              className="flex-1"
              aria-label="Swaps left out"
              aria-valuetext={`${plan.swaps} swaps`}
              min={0}
              max={plans.length - 1}
              value={at}
              onChange={({ target }) => {
                setAt(Number(target.value));
                setSaid('');
              }}
            />
            <span className="font-semibold">{`${plans.at(-1)!.swaps} swaps`}</span>
          </label>
          <div className="mb-4 flex flex-col gap-2">
            <Strip name="As keyed" spans={keyed.spans} length={lengthFrames} drawingAt={numberOf} />
            <Strip
              name="With fewer swaps"
              spans={plan.spans}
              length={lengthFrames}
              drawingAt={numberOf}
              isChanged={({ from, to, drawing }) => !isOwn.has(`${from} ${to} ${drawing}`)}
            />
          </div>
          <p className="mb-2 text-[14px] text-ink-soft">
            {plans.length === 1
              ? 'No swap can be spared without the line losing too much.'
              : plan === keyed
                ? 'Move the slider to see what can be spared.'
                : `The face loses as much as ${seconds.toFixed(2)} s of a mouth that is wholly another would.`}
          </p>
          <ul className="mb-4 grid min-h-0 flex-1 grid-cols-3 content-start gap-2 overflow-y-auto" aria-label="What changes" tabIndex={0}>
            {changes.map(({ from, to, was, is }) => (
              <li key={from} className="flex items-center gap-2 rounded-lg border border-rule-soft px-2 py-1 text-[13px]">
                <Mouth
                  chart={chartWith(was)!}
                  drawing={maybeDrawing(chartWith(was)!, was)!}
                  className="h-[34px] w-[44px] shrink-0"
                  lineWeight={1.5}
                />
                <span aria-hidden>→</span>
                <Mouth
                  chart={chartWith(is)!}
                  drawing={maybeDrawing(chartWith(is)!, is)!}
                  className="h-[34px] w-[44px] shrink-0"
                  lineWeight={1.5}
                />
                <span className="min-w-0">
                  <span className="block font-semibold">
                    {to - from === 1
                      ? `frame ${frameNumber(document, from)}`
                      : `frames ${frameNumber(document, from)} to ${frameNumber(document, to) - 1}`}
                  </span>
                  <span className="block truncate text-ink-soft">{`${nameOf(was)} → ${nameOf(is)}`}</span>
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="flex min-h-[40px] items-center gap-3">
        <Button weight="main" disabled={!plan || plan === keyed} onClick={take}>
          Take it into the lane
        </Button>
        <UndoRedo session={session} />
        <span className="text-[14px] text-ink-soft" role="status">
          {said}
        </span>
      </div>
    </Card>
  );
}
