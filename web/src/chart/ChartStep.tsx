/** The Chart step: every mouth of the character's chart, what it plays, and what it shows. */
import {
  chartSettings,
  coverageOfChart,
  ipaOf,
  measureShape,
  restDrawing,
  setShape,
  type ChartDocument,
  type Drawing,
} from '@zest-jaw/core';
import { Redo2, Undo2 } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { Round } from '../key/Transport.js';
import { Easel } from '../mouth/Easel.js';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene } from '../scene/sceneContext.js';
import { useKeys } from '../ui/useKeys.js';
import { newId } from '../session/documentSession.js';
import { DrawingPanel } from './DrawingPanel.js';
import { PlaysPanel } from './PlaysPanel.js';
import { ShapePanel } from './ShapePanel.js';

function coverageInWords(chart: ChartDocument): string {
  const { covered, missing, shared } = coverageOfChart(chart);
  const parts = [`${covered} of ${chart.groups.length} sound groups have a mouth of their own.`];
  if (missing.length > 0) parts.push(`Missing: ${missing.map((group) => group.name).join(', ')}.`);
  for (const drawing of shared)
    parts.push(
      `${drawing.groups.map((id) => chart.groups.find((group) => group.id === id)?.name).join(' and ')} share ${drawing.label}: they will look alike.`,
    );
  return parts.join(' ');
}

function MeasureBar({ label, share }: { label: string; share: number }): ReactElement {
  return (
    <div className="flex items-center gap-2 text-[13px] text-ink-soft">
      <span className="w-[56px]">{label}</span>
      <div className="h-1.5 flex-1 rounded-full bg-rule-soft">
        <div className="h-full rounded-full bg-ink-soft" style={{ width: `${Math.round(share * 100)}%` }} />
      </div>
    </div>
  );
}

function DrawingCard({ drawing, isCurrent, onChoose }: { drawing: Drawing; isCurrent: boolean; onChoose: () => void }): ReactElement {
  const { chart } = useOpenScene();
  const groups = chart.groups.filter((group) => drawing.groups.includes(group.id));
  return (
    <button
      type="button"
      onClick={onChoose}
      aria-pressed={isCurrent}
      className="relative flex flex-col rounded-xl border border-rule bg-ground p-3 text-left text-[#1e2a44] aria-pressed:border-zest aria-pressed:ring-2 aria-pressed:ring-zest-soft"
    >
      <span className="flex items-center justify-between">
        <span className="text-[13px] text-on-ground">{drawing.number}</span>
        {drawing.keycap && <span className="keycap">{drawing.keycap}</span>}
      </span>
      <Mouth chart={chart} drawing={drawing} className="mx-auto h-[74px]" />
      <span className="name text-[17px]">{drawing.label}</span>
      <span className="text-[13px] leading-snug text-on-ground">
        {groups.flatMap((group) => group.phonemes.map(ipaOf)).join(' ') || 'silence'}
      </span>
      <span className="absolute inset-x-3 bottom-0 h-[3px] rounded-full" style={{ background: groups[0]?.colour }} />
    </button>
  );
}

export function ChartStep(): ReactElement {
  const { chart, chartSession, character } = useOpenScene();
  const { done, undone } = useStore(chartSession.store, (state) => state.history);
  const [chosenId, choose] = useState(chart.drawings[0]?.id);
  const [onionSkin, setOnionSkin] = useState(false);
  useKeys({ 'Ctrl+KeyZ': () => chartSession.undo(), 'Ctrl+Shift+KeyZ': () => chartSession.redo(), 'Ctrl+KeyY': () => chartSession.redo() });
  const chosen = chart.drawings.find((drawing) => drawing.id === chosenId) ?? chart.drawings[0];
  const most = chart.drawings
    .map((drawing) => measureShape(drawing.shape))
    .reduce((a, b) => ({ opening: Math.max(a.opening, b.opening), width: Math.max(a.width, b.width), teeth: 1 }));
  const measures = chosen && measureShape(chosen.shape);
  return (
    <main className="grid min-h-0 flex-1 grid-cols-[1fr_300px_300px]">
      <section className="min-h-0 overflow-y-auto p-[16px_18px]" aria-label="Drawings">
        <div className="mb-4 flex items-start gap-2">
          <div className="flex-1">
            <h2 className="name text-[22px]">{chartSettings(chart).name}</h2>
            <p className="text-ink-soft">{coverageInWords(chart)}</p>
          </div>
          <Round label="Undo (Ctrl+Z)" disabled={done.length === 0} onClick={chartSession.undo}>
            <Undo2 size={17} />
          </Round>
          <Round label="Redo (Ctrl+Shift+Z)" disabled={undone.length === 0} onClick={chartSession.redo}>
            <Redo2 size={17} />
          </Round>
        </div>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(112px,1fr))] gap-3">
          {chart.drawings.map((drawing) => (
            <DrawingCard key={drawing.id} drawing={drawing} isCurrent={drawing.id === chosen?.id} onChoose={() => choose(drawing.id)} />
          ))}
        </div>
      </section>
      {chosen && measures && (
        <>
          <section className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule p-[16px_18px]" aria-label="Drawing desk">
            <Easel
              character={character}
              chart={chart}
              drawing={chosen}
              onion={onionSkin ? restDrawing(chart) : undefined}
              className="h-[264px] shrink-0"
            />
            <label className="flex items-start gap-2 text-[14px] leading-snug">
              <input
                type="checkbox"
                checked={onionSkin}
                onChange={(event) => setOnionSkin(event.target.checked)}
                className="mt-0.5 accent-[var(--zest)]"
              />
              Onion skin of {restDrawing(chart).label}, with the registration cross
            </label>
            <div className="space-y-1.5">
              <MeasureBar label="opening" share={measures.opening / most.opening} />
              <MeasureBar label="width" share={measures.width / most.width} />
              <MeasureBar label="teeth" share={measures.teeth} />
            </div>
            <DrawingPanel key={chosen.id} drawing={chosen} onChoose={choose} />
          </section>
          <section
            className="flex min-h-0 flex-col gap-3 overflow-y-auto border-l border-rule p-[16px_18px]"
            aria-label="What it plays and how it is built"
          >
            <PlaysPanel drawing={chosen} />
            <ShapePanel
              shape={chosen.shape}
              onChange={(changes) => chartSession.change(setShape(chartSession.store.getState().document, chosen.id, changes, newId))}
            />
          </section>
        </>
      )}
    </main>
  );
}
