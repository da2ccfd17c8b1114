/** What a drawing is made of, and its redrawn variants or the frames of its cycle. */
import {
  addVariant,
  AS_IT_IS,
  DRAWING_LIMITS,
  fittedPlacement,
  lookOf,
  removeVariant,
  setDrawing,
  setLook,
  type Look,
  type Placement,
} from '@zest-jaw/core';
import { Plus, X } from 'lucide-react';
import type { ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { newId } from '../session/newId.js';
import { useOpenChart } from './openChart.js';
import { usePictureChooser } from './usePictureChooser.js';

const KINDS = { built: 'Built from parameters', drawn: 'Drawn by hand', placed: 'A placed picture' } as const;

/** A drawn look to begin with: over the picture that was there, where it lay. */
function toDraw(look: Look): { art: Look['art']; placement: Placement } {
  if (look.art.kind !== 'placed') return { art: { kind: 'drawn', marks: [] }, placement: AS_IT_IS };
  const { picture, width, height } = look.art;
  const { x, y, scale } = look.placement;
  return {
    art: { kind: 'drawn', marks: [], reference: { picture, box: { x, y, width: width * scale, height: height * scale }, opacity: 0.5 } },
    placement: AS_IT_IS,
  };
}

export function LooksPanel(): ReactElement {
  const { chart, drawing, look, lookIndex, change, choose, setTool } = useOpenChart();
  const pictures = usePictureChooser('Picture for this drawing');
  const replace = (): void =>
    pictures.ask((art) => {
      const placement = fittedPlacement(art, look);
      change((now) => setLook(now, drawing.id, lookIndex, { art, placement }, 'drawing.replace', newId));
    });
  const addFromPicture = (): void =>
    pictures.ask((art) => {
      const placement = look.art.kind === 'placed' ? look.placement : fittedPlacement(art, look);
      if (change((now) => addVariant(now, drawing.id, { art, placement }, newId))) choose(drawing.id, drawing.variants.length + 1);
    });
  const draw = (): void => {
    if (change((now) => setLook(now, drawing.id, lookIndex, toDraw(look), 'drawing.draw', newId))) setTool('pen');
  };
  const link = 'font-semibold text-ink-soft underline underline-offset-2 hover:text-ink disabled:opacity-50';
  return (
    <section className="flex flex-col gap-2" aria-label="Made of">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5 text-[14px]">
        <span className="text-ink-soft">{pictures.busy ? 'Bringing the picture in…' : KINDS[look.art.kind]}</span>
        {look.art.kind !== 'drawn' && (
          <button type="button" className={link} onClick={draw}>
            Draw it
          </button>
        )}
        <button type="button" className={link} disabled={pictures.busy} onClick={replace}>
          Use a picture…
        </button>
      </div>
      <div className="flex flex-wrap items-center gap-1.5" role="group" aria-label="Variants">
        {Array.from({ length: 1 + drawing.variants.length }, (_, index) => (
          <span key={index} className="relative">
            <button
              type="button"
              aria-pressed={index === lookIndex}
              aria-label={index === 0 ? 'The drawing itself' : `Variant ${index}`}
              onClick={() => choose(drawing.id, index)}
              className="grid h-[40px] w-[52px] place-items-center rounded-lg border border-rule bg-ground aria-pressed:border-zest aria-pressed:ring-2 aria-pressed:ring-zest-soft"
            >
              <Mouth chart={chart} drawing={{ ...drawing, ...lookOf(drawing, index), variants: [] }} className="h-[32px]" />
            </button>
            {index > 0 && index === lookIndex && (
              <button
                type="button"
                aria-label={`Remove variant ${index}`}
                onClick={() => change((now) => removeVariant(now, drawing.id, index, newId)) && choose(drawing.id, index - 1)}
                className="absolute -right-1.5 -top-1.5 grid size-[18px] place-items-center rounded-full border border-rule bg-lift"
              >
                <X size={11} />
              </button>
            )}
          </span>
        ))}
        <button
          type="button"
          title="Another look, copied from this one to redraw"
          aria-label="Add a variant"
          onClick={() => change((now) => addVariant(now, drawing.id, look, newId)) && choose(drawing.id, drawing.variants.length + 1)}
          className="grid h-[40px] w-[34px] place-items-center rounded-lg border border-dashed border-rule text-ink-soft hover:border-graphite"
        >
          <Plus size={16} />
        </button>
        <button type="button" className={`${link} text-[14px]`} disabled={pictures.busy} onClick={addFromPicture}>
          from a picture…
        </button>
      </div>
      {drawing.variants.length > 0 && (
        <div className="flex items-center gap-2 text-[14px]">
          <select
            className="field w-auto! py-[3px]! text-[14px]"
            aria-label="What the variants are for"
            value={drawing.motion}
            onChange={(event) => change((now) => setDrawing(now, drawing.id, { motion: event.target.value as 'boil' | 'cycle' }, newId))}
          >
            <option value="boil">Boil while it is held</option>
            <option value="cycle">Cycle from its first frame</option>
          </select>
          <label className="flex items-center gap-1.5 text-ink-soft">
            every
            <input
              type="number"
              className="field w-[56px]! px-2! py-[3px]! text-[14px]"
              min={1}
              max={DRAWING_LIMITS.every}
              value={drawing.every}
              onChange={(event) => change((now) => setDrawing(now, drawing.id, { every: Number(event.target.value) }, newId))}
            />
            frames
          </label>
        </div>
      )}
      {pictures.input}
    </section>
  );
}
