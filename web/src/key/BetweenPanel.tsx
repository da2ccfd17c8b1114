/** Between two mouths: in-betweens over a stretch, how far one is, mouths pushed for their frames, a smear. */
import {
  EASES,
  eased,
  LEAST_SHARE,
  madeOf,
  maybeBetween,
  maybeDrawing,
  maybeExposureAt,
  PUSH_LIMITS,
  pushMouths,
  setShare,
  spansWithin,
  type Ease,
  type Push,
} from '@zest-jaw/core';
import type { ReactElement, ReactNode } from 'react';
import { useStore } from 'zustand';
import { Mouth } from '../mouth/Mouth.js';
import { useFrame, useOpenScene, useSheet, useSpeaker } from '../scene/sceneContext.js';
import { newId } from '../session/newId.js';
import { Button } from '../ui/Button.js';
import { Pills } from '../ui/Pills.js';
import { Slider } from '../ui/Slider.js';
import { SidePanel } from './SidePanel.js';
import { useBetween } from './useBetween.js';

function Part({ title, children }: { readonly title: string; readonly children: ReactNode }): ReactElement {
  return (
    <section aria-label={title} className="flex flex-col gap-2">
      <h4 className="font-semibold">{title}</h4>
      {children}
    </section>
  );
}

/** The mouths that would be put, in order. */
function Way({ drawings }: { readonly drawings: readonly (string | undefined)[] }): ReactElement {
  const { chart } = useSpeaker();
  const seen = drawings.map((id) => (id === undefined ? undefined : maybeDrawing(chart, id)));
  return (
    <div className="flex gap-1" aria-hidden>
      {seen.map(
        (drawing, index) =>
          drawing && (
            <Mouth key={index} chart={chart} drawing={drawing} lineWeight={1.4} className="h-[40px] min-w-0 flex-1 rounded-[8px] bg-lift" />
          ),
      )}
    </div>
  );
}

const COUNTS = [
  [0, 'one a hold'],
  [1, '1'],
  [2, '2'],
  [3, '3'],
] as const;

function InBetweens(): ReactElement {
  const { chart } = useSpeaker();
  const { data } = useSheet();
  const { playhead } = useOpenScene();
  const frame = useFrame();
  const selection = useStore(playhead.store, (state) => state.selection);
  const { ease, count, set, put } = useBetween();
  const within = selection ? spansWithin(data.exposures, selection) : [];
  const here = maybeExposureAt(data.exposures, frame);
  const next = here && data.exposures.find(({ from }) => from === here.to);
  const [first, last] = selection ? [within[0]?.drawing, within.at(-1)?.drawing] : [here?.drawing, next?.drawing];
  const shares = selection ? [1 / 4, 1 / 2, 3 / 4].map((time) => eased(ease, time)) : [1 / 2];
  const drawings =
    first !== undefined && last !== undefined && first !== last
      ? [first, ...shares.map((share) => maybeBetween(chart, madeOf(first).plain, madeOf(last).plain, share)), last]
      : [];
  return (
    <Part title="In-betweens">
      <p className="text-[14px] leading-snug text-ink-soft">
        {selection
          ? 'From the first selected mouth to the last: what lies between becomes in-betweens.'
          : 'From the playhead to where the next mouth begins. Select from one mouth to another for several.'}
      </p>
      <Way drawings={drawings} />
      {selection && (
        <>
          <Pills
            label="Ease"
            value={ease}
            options={EASES.map((one) => [one, one] as const)}
            onChange={(value: Ease) => set({ ease: value })}
          />
          <Pills label="How many" value={count} options={COUNTS} onChange={(value: number) => set({ count: value })} />
        </>
      )}
      <Button weight="main" className="self-start" title="Alt+I" onClick={put}>
        {selection ? 'Put in-betweens' : 'Put an in-between'}
      </Button>
    </Part>
  );
}

function Share(): ReactElement | null {
  const { chart, track } = useSpeaker();
  const { session } = useOpenScene();
  const { data } = useSheet();
  const frame = useFrame();
  const mix = madeOf(maybeExposureAt(data.exposures, frame)?.drawing ?? '').mix;
  if (!mix) return null;
  const name = (id: string): string => maybeDrawing(chart, id)?.label ?? id;
  return (
    <Part title={`From ${name(mix.a)} to ${name(mix.b)}`}>
      <Slider
        label="How far, %"
        value={Math.round(mix.share * 100)}
        least={LEAST_SHARE * 100}
        most={100 - LEAST_SHARE * 100}
        step={5}
        onChange={(percent) =>
          session.change(setShare(session.store.getState().document, { track: track.id, frame, share: percent / 100 }, newId))
        }
      />
    </Part>
  );
}

const PUSHES: readonly (readonly [keyof Push, string])[] = [
  ['width', 'Wider, %'],
  ['height', 'Taller, %'],
  ['angle', 'Turned, °'],
];
const AS_DRAWN: Push = { width: 1, height: 1, angle: 0 };

function Pushed(): ReactElement | null {
  const { chart, track } = useSpeaker();
  const { session, playhead } = useOpenScene();
  const { data } = useSheet();
  const frame = useFrame();
  const selection = useStore(playhead.store, (state) => state.selection);
  const here = maybeExposureAt(data.exposures, frame);
  const { smear } = useBetween();
  if (!here) return null;
  const push = madeOf(here.drawing).push ?? AS_DRAWN;
  const apply = (changed: Push): void => {
    const span = selection ?? { from: here.from, to: here.to };
    session.change(pushMouths(session.store.getState().document, { track: track.id, ...span, push: changed }, newId));
  };
  const limits = { least: PUSH_LIMITS.least * 100, most: PUSH_LIMITS.most * 100, step: 2 };
  return (
    <Part title={`${maybeDrawing(chart, here.drawing)?.label ?? 'The mouth'}, pushed`}>
      <p className="text-[14px] leading-snug text-ink-soft">For these frames only. Drag its handles on the easel, or here.</p>
      {PUSHES.map(([key, label]) =>
        key === 'angle' ? (
          <Slider
            key={key}
            label={label}
            value={push.angle}
            least={-PUSH_LIMITS.angle}
            most={PUSH_LIMITS.angle}
            step={1}
            onChange={(angle) => apply({ ...push, angle })}
          />
        ) : (
          <Slider
            key={key}
            label={label}
            value={Math.round(push[key] * 100)}
            {...limits}
            onChange={(percent) => apply({ ...push, [key]: percent / 100 })}
          />
        ),
      )}
      <div className="flex flex-wrap gap-2">
        <Button disabled={!madeOf(here.drawing).push} onClick={() => apply(AS_DRAWN)}>
          As it is drawn
        </Button>
        <Button title="Alt+S" onClick={smear}>
          Smear
        </Button>
      </div>
    </Part>
  );
}

export function BetweenPanel({ onClose }: { readonly onClose: () => void }): ReactElement {
  return (
    <SidePanel label="Between mouths" title={<h3 className="name text-[18px]">Between</h3>} closeLabel="Close between" onClose={onClose}>
      <div className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto px-3 pb-3" tabIndex={0} role="group" aria-label="Between">
        <InBetweens />
        <Share />
        <Pushed />
      </div>
    </SidePanel>
  );
}
