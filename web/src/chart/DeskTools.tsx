/** Above the desk: the tools for the kind of drawing on it, and what is laid under it. */
import { chartSettings, setLook, type PlacedArt } from '@zest-jaw/core';
import { Brush, Crosshair, Eraser, Image as Photo, Move, PaintBucket, Pencil, Spline, SquareDashed } from 'lucide-react';
import type { ReactElement, ReactNode } from 'react';
import { newId } from '../session/newId.js';
import { toolsFor, useOpenChart, type Tool } from './openChart.js';
import type { PenSettings } from './usePenTools.js';
import { usePictureChooser } from './usePictureChooser.js';

const TOOLS: Readonly<Record<Tool, readonly [label: string, icon: ReactNode, hint: string]>> = {
  shape: ['Shape', <Spline key="i" size={16} />, 'Drag the handles to shape this mouth'],
  pen: ['Pen', <Pencil key="i" size={16} />, 'Draw lines; a pen’s pressure makes them thick and thin'],
  fill: ['Fill', <PaintBucket key="i" size={16} />, 'Pour colour between lines'],
  erase: ['Erase', <Eraser key="i" size={16} />, 'Rub out'],
  move: ['Move', <SquareDashed key="i" size={16} />, 'Move or remove one line or fill'],
  place: ['Place', <Move key="i" size={16} />, 'Drag the whole mouth; drag its corner to scale it about the cross'],
  cross: ['Cross', <Crosshair key="i" size={16} />, 'Click where the middle of the upper lip is'],
  reference: ['Reference', <Photo key="i" size={16} />, 'Drag the reference picture; drag its lower right corner to scale it'],
};

function ToolButton({ tool }: { tool: Tool }): ReactElement {
  const { tool: current, setTool } = useOpenChart();
  const [label, icon, hint] = TOOLS[tool];
  return (
    <button
      type="button"
      aria-pressed={tool === current}
      title={hint}
      onClick={() => setTool(tool)}
      className="flex items-center gap-1.5 rounded-full px-3 py-1 text-[14px] font-semibold text-ink-soft hover:text-ink aria-pressed:bg-ink aria-pressed:text-on-ink"
    >
      {icon}
      {label}
    </button>
  );
}

/** A reference picture laid in the middle, as wide as a mouth is drawn. */
function referenceOf({ picture, width, height }: PlacedArt): {
  picture: string;
  box: { x: number; y: number; width: number; height: number };
  opacity: number;
} {
  const across = 110;
  const down = (across * height) / width;
  return { picture, box: { x: -across / 2, y: 20 - down / 2, width: across, height: down }, opacity: 0.5 };
}

/** Colour and width of the pen, and the picture under it. */
export function PenBar({ pen, onPen }: { pen: PenSettings; onPen: (pen: PenSettings) => void }): ReactElement | null {
  const { chart, drawing, look, lookIndex, change } = useOpenChart();
  const pictures = usePictureChooser('Reference picture');
  const { art } = look;
  if (art.kind !== 'drawn') return null;
  const { line, lip, inside, teeth, tongue } = chartSettings(chart).style;
  const setReference = (reference: typeof art.reference): void => {
    const { reference: _before, ...bare } = art;
    change((now) => setLook(now, drawing.id, lookIndex, { art: { ...bare, ...(reference && { reference }) } }, 'drawing.reference', newId));
  };
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[14px]" role="group" aria-label="Pen">
      <span className="flex gap-1">
        {[
          ['line', line],
          ['lips', lip],
          ['inside', inside],
          ['teeth', teeth],
          ['tongue', tongue],
        ].map(([name, colour]) => (
          <button
            key={name}
            type="button"
            aria-label={`Colour of the ${name}`}
            aria-pressed={pen.colour === colour}
            title={name}
            onClick={() => onPen({ ...pen, colour: colour! })}
            className="size-7 rounded-full border-2 border-rule aria-pressed:border-ink aria-pressed:ring-2 aria-pressed:ring-zest"
            style={{ background: colour }}
          />
        ))}
        <input
          type="color"
          aria-label="Another colour"
          value={pen.colour}
          onChange={(event) => onPen({ ...pen, colour: event.target.value })}
          className="size-7 cursor-pointer rounded-full border border-rule bg-lift p-0.5"
        />
      </span>
      <label className="flex items-center gap-2">
        <Brush size={15} aria-hidden />
        <span className="sr-only">Width of the pen</span>
        <input
          type="range"
          min={0.6}
          max={14}
          step={0.2}
          value={pen.size}
          onChange={(event) => onPen({ ...pen, size: Number(event.target.value) })}
          className="w-[86px]"
        />
      </label>
      <span className="flex-1" />
      {art.reference ? (
        <>
          <label className="flex items-center gap-2 text-ink-soft">
            Reference
            <input
              type="range"
              min={0}
              max={1}
              step={0.05}
              aria-label="How strongly the reference shows"
              value={art.reference.opacity}
              onChange={(event) => setReference({ ...art.reference!, opacity: Number(event.target.value) })}
              className="w-[80px]"
            />
          </label>
          <button
            type="button"
            className="font-semibold text-ink-soft underline underline-offset-2 hover:text-ink"
            onClick={() => setReference(undefined)}
          >
            Take it away
          </button>
        </>
      ) : (
        <button
          type="button"
          disabled={pictures.busy}
          className="font-semibold text-ink-soft underline underline-offset-2 hover:text-ink"
          onClick={() => pictures.ask((art) => setReference(referenceOf(art)))}
        >
          {pictures.busy ? 'Bringing it in…' : 'Draw over a picture…'}
        </button>
      )}
      {pictures.input}
    </div>
  );
}

interface DeskToolsProps {
  readonly onFlip: (flipped: boolean) => void;
}

export function DeskTools({ onFlip }: DeskToolsProps): ReactElement {
  const { chart, look, onion, onionId, layUnder, showOnion } = useOpenChart();
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
      <div className="flex rounded-full border border-rule bg-lift p-[2px]" role="group" aria-label="Tools">
        {toolsFor(look).map((tool) => (
          <ToolButton key={tool} tool={tool} />
        ))}
      </div>
      <span className="flex-1" />
      <div className="flex items-center gap-1.5 text-[14px]">
        <label className="flex items-center gap-1.5 text-ink-soft">
          <input
            type="checkbox"
            checked={onion !== undefined}
            onChange={(event) => showOnion(event.target.checked)}
            className="accent-[var(--zest)]"
          />
          Onion skin of
        </label>
        <select
          className="field w-[96px]! px-2! py-[3px]! text-[14px]"
          aria-label="Drawing under this one"
          value={onionId}
          onChange={(event) => layUnder(event.target.value)}
        >
          {chart.drawings.map((drawing) => (
            <option key={drawing.id} value={drawing.id}>
              {drawing.label}
            </option>
          ))}
        </select>
        <button
          type="button"
          title="Hold to see the other drawing (/)"
          className="rounded-full border border-rule bg-lift px-3 py-[3px] font-semibold active:bg-zest-soft"
          onPointerDown={() => onFlip(true)}
          onPointerUp={() => onFlip(false)}
          onPointerLeave={() => onFlip(false)}
        >
          Flip <span className="keycap ml-0.5">/</span>
        </button>
      </div>
    </div>
  );
}
