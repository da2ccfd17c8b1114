/** The head behind the mouths: a picture or a built one, where the mouth sits on it, and the jaw piece. */
import { JawMotionFields } from './JawMotionFields.js';
import { BUILT_HEAD, maybeHead, setHead, type ChartHead, type HeadShape, type MouthPlace, type PlacedArt } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { newId } from '../session/newId.js';
import { Slider } from '../ui/Slider.js';
import { useOpenChart } from './openChart.js';
import { PartsPanel } from './PartsPanel.js';
import { usePictureChooser } from './usePictureChooser.js';

const SHAPES: readonly (readonly [keyof HeadShape, string])[] = [
  ['breadth', 'Breadth'],
  ['chin', 'Chin'],
  ['cheeks', 'Cheeks'],
  ['eyeSize', 'Eyes'],
  ['eyeSpacing', 'Between them'],
  ['nose', 'Nose'],
  ['ears', 'Ears'],
];

/** A picture as a head, the mouth where the old head had it, as a share of its size. */
function headOfPicture({ picture, width, height }: PlacedArt, before: ChartHead | undefined): ChartHead {
  const old = before ?? BUILT_HEAD;
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
  const pictures = usePictureChooser('Picture of the head or the jaw');
  const set = (after: ChartHead | null): void => void change((now) => setHead(now, after, newId));
  const setMouth = (changes: Partial<MouthPlace>): void => head && set({ ...head, mouth: { ...head.mouth, ...changes } });
  const askForHead = (): void => pictures.ask((art) => set(headOfPicture(art, head)));
  const askForJaw = (): void =>
    pictures.ask((art) => {
      if (!head) return;
      // Under the mouth, at the size it was drawn unless that is wider than the head.
      const width = Math.min(art.width, head.width);
      const box = { x: head.mouth.x - width / 2, y: head.mouth.y, width, height: (art.height * width) / art.width };
      set({ ...head, jaw: { picture: art.picture, box, travel: Math.round(head.height * 0.08) } });
    });
  const small = 'rounded-full border border-rule bg-lift px-3 py-0.5 text-[14px] hover:border-graphite disabled:opacity-50';
  const jaw = head?.jaw;
  return (
    <section className="flex flex-col gap-2.5" aria-label="Head">
      <h3 className="name text-[18px] leading-tight">Head</h3>
      <div className="flex flex-wrap gap-1">
        <button type="button" className={small} disabled={pictures.busy} onClick={askForHead}>
          {pictures.busy ? 'Bringing it in…' : 'Picture…'}
        </button>
        <button type="button" className={small} onClick={() => set(BUILT_HEAD)}>
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
          <legend className="mb-0.5 font-semibold">Jaw</legend>
          <JawMotionFields head={head} onChange={set} />
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
                disabled={pictures.busy}
                onClick={askForJaw}
              >
                Choose one…
              </button>
            </p>
          )}
        </fieldset>
      )}
      {head && <PartsPanel head={head} onChange={set} />}
      {pictures.input}
    </section>
  );
}
