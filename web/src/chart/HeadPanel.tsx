/** The head behind the mouths: a picture or a built one, where the mouth sits on it, and the jaw piece. */
import {
  BUILT_HEAD_MOUTH,
  BUILT_HEAD_SIZE,
  maybeHead,
  PLAIN_HEAD,
  setHead,
  type ChartHead,
  type HeadShape,
  type MouthPlace,
  type PlacedArt,
} from '@zest-jaw/core';
import { useRef, useState, type ReactElement } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from '../api/http.js';
import { importOne } from '../api/imports.js';
import { newId } from '../session/documentSession.js';
import { useOpenChart } from './openChart.js';

const NO_BACKDROP = ['#e6ecdf', '#efe9d8', '#e0d3b6'];

const BUILT: ChartHead = {
  id: 'head',
  art: { kind: 'built', shape: PLAIN_HEAD },
  width: BUILT_HEAD_SIZE,
  height: BUILT_HEAD_SIZE,
  mouth: BUILT_HEAD_MOUTH,
  backdrop: NO_BACKDROP,
};

const SHAPES: readonly (readonly [keyof HeadShape, string])[] = [
  ['breadth', 'Breadth'],
  ['chin', 'Chin'],
  ['cheeks', 'Cheeks'],
  ['eyeSize', 'Eyes'],
  ['eyeSpacing', 'Between them'],
  ['nose', 'Nose'],
  ['ears', 'Ears'],
];

function Slider({
  label,
  value,
  least,
  most,
  step,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  step: number;
  onChange: (value: number) => void;
}): ReactElement {
  return (
    <label className="flex h-[25px] items-center gap-3 text-[14px]">
      <span className="w-[94px] text-ink-soft">{label}</span>
      <input
        type="range"
        min={least}
        max={most}
        step={step}
        value={value}
        onChange={(event) => onChange(Number(event.target.value))}
        className="w-0 flex-1"
      />
      <output className="w-[42px] text-right text-ink-soft">{step < 0.1 ? value.toFixed(2) : Math.round(value * 10) / 10}</output>
    </label>
  );
}

/** A picture as a head, the mouth where the old head had it, as a share of its size. */
function headOfPicture({ picture, width, height }: PlacedArt, before: ChartHead | undefined): ChartHead {
  const old = before ?? BUILT;
  const by = width / old.width;
  const mouth: MouthPlace = {
    x: old.mouth.x * by,
    y: (old.mouth.y / old.height) * height,
    scale: old.mouth.scale * by,
    angle: old.mouth.angle,
  };
  return { id: 'head', art: { kind: 'picture', picture }, width, height, mouth, backdrop: old.backdrop };
}

export function HeadPanel(): ReactElement {
  const { chart, change } = useOpenChart();
  const head = maybeHead(chart);
  const chooser = useRef<HTMLInputElement>(null);
  const [wanted, setWanted] = useState<'head' | 'jaw'>('head');
  const [busy, setBusy] = useState(false);
  const set = (after: ChartHead | null): void => void change((now) => setHead(now, after, newId));
  const setMouth = (changes: Partial<MouthPlace>): void => head && set({ ...head, mouth: { ...head.mouth, ...changes } });
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setBusy(true);
    try {
      const art = await importOne(file);
      if (wanted === 'head') set(headOfPicture(art, head));
      else if (head) {
        // Under the mouth, a little wider, at the size it was drawn unless that is wider than the head.
        const width = Math.min(art.width, head.width);
        const height = (art.height * width) / art.width;
        const box = { x: head.mouth.x - width / 2, y: head.mouth.y, width, height };
        set({ ...head, jaw: { picture: art.picture, box, travel: Math.round(head.height * 0.08) } });
      }
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  const ask = (what: 'head' | 'jaw'): void => {
    setWanted(what);
    chooser.current?.click();
  };
  const small = 'rounded-full border border-rule bg-lift px-3 py-0.5 text-[14px] hover:border-graphite disabled:opacity-50';
  const jaw = head?.jaw;
  return (
    <section className="flex flex-col gap-2.5" aria-label="Head">
      <h3 className="name text-[18px] leading-tight">Head</h3>
      <div className="flex flex-wrap gap-1">
        <button type="button" className={small} disabled={busy} onClick={() => ask('head')}>
          {busy ? 'Bringing it in…' : 'Picture…'}
        </button>
        <button type="button" className={small} onClick={() => set(BUILT)}>
          Built
        </button>
        {head && (
          <button type="button" className={small} onClick={() => set(null)}>
            None
          </button>
        )}
      </div>
      {head && (
        <fieldset className="min-w-0">
          <legend className="mb-0.5 font-semibold">The mouth on it</legend>
          <Slider label="Across" value={head.mouth.x} least={0} most={head.width} step={0.5} onChange={(x) => setMouth({ x })} />
          <Slider label="Down" value={head.mouth.y} least={0} most={head.height} step={0.5} onChange={(y) => setMouth({ y })} />
          <Slider
            label="Size"
            value={head.mouth.scale}
            least={head.width * 0.0005}
            most={head.width * 0.01}
            step={0.01}
            onChange={(scale) => setMouth({ scale })}
          />
          <Slider label="Turn" value={head.mouth.angle} least={-45} most={45} step={0.5} onChange={(angle) => setMouth({ angle })} />
        </fieldset>
      )}
      {head?.art.kind === 'built' && (
        <fieldset className="min-w-0">
          <legend className="mb-0.5 font-semibold">Built head</legend>
          {SHAPES.map(([key, label]) => {
            const { shape } = head.art as { shape: HeadShape };
            return (
              <Slider
                key={key}
                label={label}
                value={shape[key] as number}
                least={0}
                most={1}
                step={0.01}
                onChange={(value) => set({ ...head, art: { kind: 'built', shape: { ...shape, [key]: value } } })}
              />
            );
          })}
          <div className="mt-1 flex gap-4">
            {(['skin', 'line'] as const).map((key) => {
              const { shape } = head.art as { shape: HeadShape };
              return (
                <label key={key} className="flex items-center gap-2 text-[14px] capitalize">
                  <input
                    type="color"
                    value={shape[key]}
                    onChange={(event) => set({ ...head, art: { kind: 'built', shape: { ...shape, [key]: event.target.value } } })}
                    className="h-7 w-9 cursor-pointer rounded-md border border-rule bg-lift p-0.5"
                  />
                  {key}
                </label>
              );
            })}
          </div>
        </fieldset>
      )}
      {head && (
        <fieldset className="min-w-0">
          <legend className="mb-0.5 font-semibold">Jaw piece</legend>
          {jaw ? (
            <>
              <Slider
                label="Across"
                value={jaw.box.x}
                least={-head.width / 2}
                most={head.width}
                step={0.5}
                onChange={(x) => set({ ...head, jaw: { ...jaw, box: { ...jaw.box, x } } })}
              />
              <Slider
                label="Down"
                value={jaw.box.y}
                least={-head.height / 2}
                most={head.height}
                step={0.5}
                onChange={(y) => set({ ...head, jaw: { ...jaw, box: { ...jaw.box, y } } })}
              />
              <Slider
                label="Size"
                value={jaw.box.width}
                least={head.width * 0.05}
                most={head.width * 1.5}
                step={0.5}
                onChange={(width) =>
                  set({ ...head, jaw: { ...jaw, box: { ...jaw.box, width, height: (jaw.box.height / jaw.box.width) * width } } })
                }
              />
              <Slider
                label="Travel"
                value={jaw.travel}
                least={0}
                most={head.height * 0.4}
                step={0.5}
                onChange={(travel) => set({ ...head, jaw: { ...jaw, travel } })}
              />
              <button
                type="button"
                className={`${small} mt-1`}
                onClick={() => {
                  const { jaw: _gone, ...rest } = head;
                  set(rest);
                }}
              >
                Take the jaw away
              </button>
            </>
          ) : (
            <p className="text-[14px] leading-snug text-ink-soft">
              A picture that goes down as the mouth opens.{' '}
              <button
                type="button"
                className="font-semibold underline underline-offset-2 hover:text-ink"
                disabled={busy}
                onClick={() => ask('jaw')}
              >
                Choose one…
              </button>
            </p>
          )}
        </fieldset>
      )}
      <input
        ref={chooser}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label="Picture of the head or the jaw"
        accept="image/png,image/jpeg,image/webp,image/svg+xml"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </section>
  );
}
